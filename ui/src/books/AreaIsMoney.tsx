import { ticks } from "d3-array";
import type { Schemas } from "../api/client";
import { linear } from "../chart/scales";
import { length, money } from "../kit/format";
import * as w from "../words/catalogue/books";

const width = 1200;
const height = 240;
const left = 64;
const floor = 200;
const fills = ["fill-kelp", "fill-slate", "fill-persimmon", "fill-[#9c8873]"];

/** The week's treatments: minutes across, margin a minute up, so that the area of a block is what its protocol left. */
export function AreaIsMoney({ lines, currency }: { lines: Schemas["EarnedLine"][]; currency: string }) {
	const all = lines.reduce((sum, l) => sum + l.minutes, 0);
	if (all === 0) return null;
	const most = Math.max(...lines.map((l) => Number(l.perMinute)), 0.01);
	const least = Math.min(...lines.map((l) => Number(l.perMinute)), 0);
	const x = linear([0, all], [left, width]);
	const y = linear([least, most], [floor, 24]);
	let at = 0;
	return (
		<section className="mt-8">
			<h2 className="m-0 mb-1 text-2xl">{w.areaIsMoney}</h2>
			<p className="m-0 mb-2 text-sm text-soft">{w.areaIsMoneySays}</p>
			<svg viewBox={`0 0 ${width} ${height}`} className="w-full" role="img" aria-label={w.areaIsMoney}>
				{ticks(least, most, 3).map((t) => (
					<g key={t}>
						<line x1={left} x2={width} y1={y(t)} y2={y(t)} className="stroke-rule" />
						<text x={left - 8} y={y(t) + 4} textAnchor="end" className="num fill-soft text-[13px]">
							{money(String(t), currency)}
						</text>
					</g>
				))}
				{lines.map((l, i) => {
					const from = at;
					at += l.minutes;
					const top = Math.min(y(Number(l.perMinute)), y(0));
					const wide = x(at) - x(from);
					return (
						<g key={l.name}>
							<title>{`${l.name}: ${money(l.margin, currency)}, ${length(l.minutes * 60)}, ${money(l.perMinute, currency)}`}</title>
							<rect
								x={x(from) + 1}
								width={Math.max(1, wide - 2)}
								y={top}
								height={Math.abs(y(0) - y(Number(l.perMinute)))}
								className={`${fills[i % fills.length]} opacity-80`}
							/>
							{wide > 90 && (
								<text x={x(from) + 8} y={Math.max(top + 18, 40)} className="fill-white text-[14px] font-semibold">
									{money(l.margin, currency)}
								</text>
							)}
							{wide > 60 && (
								<text x={x(from) + 4} y={floor + 18} className="fill-ink text-[13px]">
									{l.name.length * 7 > wide ? `${l.name.slice(0, Math.floor(wide / 7) - 1)}…` : l.name}
								</text>
							)}
							{wide > 60 && (
								<text x={x(from) + 4} y={floor + 35} className="num fill-soft text-[12px]">
									{w.hoursAndMinutes({ hours: Math.floor(l.minutes / 60), minutes: String(l.minutes % 60).padStart(2, "0") })}
								</text>
							)}
						</g>
					);
				})}
				<line x1={left} x2={width} y1={y(0)} y2={y(0)} className="stroke-ink" />
			</svg>
		</section>
	);
}
