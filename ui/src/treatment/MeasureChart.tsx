import { ticks } from "d3-array";
import type { Schemas } from "../api/client";
import { linear } from "../chart/scales";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/treatment";
import { measureNames } from "../words/sentences";

type Measure = Schemas["MeasureProgress"];
type Grade = Schemas["GradeProgress"];

/** The time that all pictures of a client's progress share, in ms. */
export type Era = { from: number; to: number };

const wide = 640;
const left = 46;
const right = 18;

const across = (era: Era) => linear([era.from, era.to], [left, wide - right]);

const tint: Record<string, string> = { left: "var(--color-persimmon)", right: "var(--color-slate)", mid: "var(--color-kelp)" };
const letterOf = (side: string) => (side === "left" ? w.letterLeft : side === "right" ? w.letterRight : "");

/** A measure over time: filled points before a treatment, open ones after, and the band that a change has to leave. */
export function MeasureChart({ of, era, unit }: { of: Measure; era: Era; unit: string }) {
	const high = of.sides.length > 1 ? 190 : 130;
	const x = across(era);
	const values = of.sides.flatMap((s) => [...s.points.map((p) => p.value), s.from - s.band, s.from + s.band]);
	const [low, top] = [Math.min(...values), Math.max(...values)];
	const room = Math.max(0.5, (top - low) * 0.08);
	const y = linear([low - room, top + room], [high - 6, 6]);
	return (
		<svg
			viewBox={`0 0 ${wide} ${high}`}
			className="block w-full"
			role="img"
			aria-label={of.sides
				.map((s) => w.bandPicture({ name: measureNames[of.measure], side: sideName(s.side), n: s.points.length }))
				.join("; ")}
		>
			{ticks(low - room, top + room, 3).map((t) => (
				<g key={t}>
					<line x1={left} x2={wide - right} y1={y(t)} y2={y(t)} stroke="var(--color-rule)" strokeWidth={0.6} strokeDasharray="1 3" />
					<text x={left - 6} y={y(t) + 4} textAnchor="end" fontSize={12} fill="var(--color-soft)">
						{t}
						{unit}
					</text>
				</g>
			))}
			{of.sides.map((s) => (
				<g key={s.side}>
					<rect
						x={left}
						width={wide - right - left}
						y={y(s.from + s.band)}
						height={Math.max(1, y(s.from - s.band) - y(s.from + s.band))}
						fill={tint[s.side]}
						opacity={0.13}
						strokeDasharray={s.usual ? "3 3" : undefined}
						stroke={s.usual ? tint[s.side] : "none"}
					/>
					<polyline
						points={s.points
							.filter((p) => p.moment === "before")
							.map((p) => `${x(Date.parse(p.at))},${y(p.value)}`)
							.join(" ")}
						fill="none"
						stroke={tint[s.side]}
						strokeWidth={1.4}
					/>
					{s.points.map((p, i) => (
						<g key={`${p.at}${i}`}>
							<circle
								cx={x(Date.parse(p.at))}
								cy={y(p.value)}
								r={4}
								fill={p.moment === "after" ? "var(--color-paper)" : tint[s.side]}
								stroke={tint[s.side]}
								strokeWidth={1.6}
							/>
							{i === s.points.length - 1 && (
								<text
									x={x(Date.parse(p.at)) + 7}
									y={y(p.value) + (s.side === "right" ? 14 : -4)}
									fontSize={13}
									fontWeight={700}
									fill={tint[s.side]}
								>
									{letterOf(s.side)}
								</text>
							)}
						</g>
					))}
				</g>
			))}
		</svg>
	);
}

export const sideName = (side: string) => (side === "mid" ? w.midline : side === "left" ? w.letterLeftWord : w.letterRightWord);

/** Grades over time as steps, left and right together: a grade stands until the next one. */
export function GradeChart({ of, era }: { of: readonly Grade[]; era: Era }) {
	const high = 50;
	const x = across(era);
	const most = of[0]?.most ?? 1;
	const y = linear([0, most], [high - 9, 9]);
	return (
		<svg
			viewBox={`0 0 ${wide} ${high}`}
			className="block w-full"
			role="img"
			aria-label={of.map((g) => w.gradeLine({ name: measureNames[g.measure], side: sideName(g.side) })).join("; ")}
		>
			{[0, most].map((t) => (
				<g key={t}>
					<line x1={left} x2={wide - right} y1={y(t)} y2={y(t)} stroke="var(--color-rule)" strokeWidth={0.6} strokeDasharray="1 3" />
					<text x={left - 6} y={y(t) + 4} textAnchor="end" fontSize={12} fill="var(--color-soft)">
						{t}
					</text>
				</g>
			))}
			{of.map((g) => {
				// Two lines of the same grade lie beside each other, not on each other.
				const beside = g.side === "left" ? -1.8 : g.side === "right" ? 1.8 : 0;
				const points = g.points.map((p) => [x(Date.parse(p.at)), y(p.value) + beside] as const);
				const last = points.at(-1);
				return (
					<g key={g.side}>
						<path
							d={points.map(([px, py], i) => (i === 0 ? `M${px},${py}` : `H${px}V${py}`)).join("")}
							fill="none"
							stroke={tint[g.side]}
							strokeWidth={1.4}
						/>
						{points.map(([px, py]) => (
							<rect key={px} x={px - 3} y={py - 3} width={6} height={6} fill={tint[g.side]} />
						))}
						{last && (
							<text x={last[0] + 7} y={last[1] + (g.side === "right" ? 13 : -3)} fontSize={12} fontWeight={700} fill={tint[g.side]}>
								{letterOf(g.side)}
							</text>
						)}
					</g>
				);
			})}
		</svg>
	);
}

/** The treatments as knots on the thread of time, with their place in the series; reactions hang below it. */
export function TreatmentThread({
	visits,
	reactions,
	era,
}: {
	visits: Schemas["ProgressVisit"][];
	reactions: Schemas["ProgressReaction"][];
	era: Era;
}) {
	const { at } = useSession();
	const high = 58;
	const x = across(era);
	const months = ticks(era.from, era.to, 6);
	return (
		<svg viewBox={`0 0 ${wide} ${high}`} className="block w-full" role="img" aria-label={w.treatments}>
			<line x1={left} x2={wide - right} y1={20} y2={20} stroke="var(--color-ink)" strokeWidth={1} />
			{months.map((m) => (
				<text key={m} x={x(m)} y={high - 4} textAnchor="middle" fontSize={11} fill="var(--color-soft)">
					{at.date(new Date(m).toISOString()).replace(/^\S+ /, "")}
				</text>
			))}
			{visits.map((v) => (
				<g key={v.id}>
					<circle
						cx={x(Date.parse(v.at))}
						cy={20}
						r={6}
						fill={v.series ? "var(--color-kelp)" : "var(--color-paper)"}
						stroke="var(--color-kelp)"
						strokeWidth={1.8}
					>
						<title>{`${at.date(v.at)}: ${v.protocol}`}</title>
					</circle>
					{v.item !== undefined && v.item > 0 && (
						<text x={x(Date.parse(v.at))} y={9} textAnchor="middle" fontSize={11} fontWeight={700} fill="var(--color-kelp)">
							{v.item}
						</text>
					)}
				</g>
			))}
			{reactions.map((r) => (
				<g key={r.at}>
					<path
						d={`M${x(Date.parse(r.at)) - 5},${36} l5,-9 l5,9 z`}
						fill={r.grade >= 2 ? "var(--color-persimmon)" : "var(--color-paper)"}
						stroke="var(--color-persimmon)"
						strokeWidth={1.4}
					/>
					<text x={x(Date.parse(r.at)) + 8} y={36} fontSize={11} fontWeight={700} fill="var(--color-persimmon-deep)">
						{r.grade}
					</text>
				</g>
			))}
		</svg>
	);
}
