import type { Schemas } from "../api/client";
import { dayAfter } from "../kit/format";
import * as w from "../words/catalogue/shelf";
import { shortDay } from "./Bottle";

/** The weeks ahead of one product: the band is what may still be used, the combs below what each day takes; marks where it runs out, where a pack goes off, where a delivery can be. */
export function Ribbon({ line: l, today }: { line: Schemas["ShelfLineView"]; today: string }) {
	const width = 340;
	const high = 92;
	const floor = 104;
	const levels = l.levels.map(Number);
	const most = Math.max(Number(l.left), ...levels, 0.001);
	const x = (n: number) => 2 + ((width - 4) * n) / Math.max(1, l.days);
	const y = (v: number) => floor - high * (v / most);
	const takes = l.perDay.map(Number);
	const heaviest = Math.max(...takes, 0.001);
	const at = (day: string) => Math.round((Date.parse(day) - Date.parse(today)) / 86_400_000);
	const points = [[0, Number(l.left)] as const, ...levels.map((v, i) => [i + 1, v] as const)];
	const path = points.map(([n, v], i) => `${i ? "L" : "M"}${x(n).toFixed(1)} ${y(v).toFixed(1)}`).join("");
	const out = l.runOut ? at(l.runOut) : undefined;
	const delivery = at(l.reorder.delivery);
	return (
		<figure className="m-0">
			<svg viewBox={`0 0 ${width} 150`} className="block w-full" role="img" aria-label={ribbonWords(l)}>
				<path d={`${path}L${x(l.days)} ${floor}L${x(0)} ${floor}Z`} fill="var(--color-kelp-pale)" />
				<path d={path} fill="none" stroke="var(--color-kelp)" strokeWidth={2} />
				<line x1={x(0)} x2={x(l.days)} y1={floor} y2={floor} stroke="var(--color-ink)" strokeWidth={1} />
				{takes.map((v, n) =>
					v > 0 ? (
						<line
							// Days are in order and never move.
							key={n}
							x1={x(n + 0.5)}
							x2={x(n + 0.5)}
							y1={floor + 2}
							y2={floor + 2 + 20 * (v / heaviest)}
							stroke={n < 14 ? "var(--color-ink)" : "var(--color-soft)"}
							strokeWidth={3}
							opacity={n < 14 ? 1 : 0.5}
						/>
					) : null,
				)}
				{l.unused.map((u) => (
					<g key={u.lot + u.pack}>
						<line
							x1={x(at(u.goodUntil) + 1)}
							x2={x(at(u.goodUntil) + 1)}
							y1={10}
							y2={floor}
							stroke="var(--color-ink)"
							strokeWidth={1.5}
							strokeDasharray="3 3"
						/>
						<text x={x(at(u.goodUntil) + 1) + 3} y={20} fontSize={11} fill="var(--color-ink)">
							{w.ribbonGone({ amount: Number(u.amount), unit: l.product.unit })}
						</text>
					</g>
				))}
				{delivery <= l.days && Number(l.demand) > 0 && <circle cx={x(delivery)} cy={floor} r={5} fill="var(--color-slate)" />}
				{out !== undefined && (
					<g>
						<path d={`M${x(out)} ${floor}l-7 -13h14Z`} fill="var(--color-persimmon)" />
						<text
							x={Math.max(22, Math.min(x(out), width - 60))}
							y={floor - 18}
							fontSize={12}
							fontWeight={600}
							textAnchor="middle"
							fill="var(--color-persimmon-deep)"
							stroke="var(--color-leaf)"
							strokeWidth={4}
							paintOrder="stroke"
						>
							{shortDay(l.runOut!)}
						</text>
					</g>
				)}
				{[0, 2, 4, 6].map((weeks) => (
					<text key={weeks} x={x(weeks * 7)} y={146} fontSize={11} fill="var(--color-soft)">
						{weeks === 0 ? w.todayWord : shortDay(dayAfter(today, weeks * 7))}
					</text>
				))}
			</svg>
			<figcaption className="text-xs text-soft">{w.ribbonExplained}</figcaption>
		</figure>
	);
}

function ribbonWords(l: Schemas["ShelfLineView"]): string {
	const what = { demand: Number(l.demand), unit: l.product.unit, weeks: l.days / 7 };
	return l.runOut ? w.runsOut({ day: shortDay(l.runOut), short: Number(l.short), unit: l.product.unit }) : w.lastsForTheDiary(what);
}
