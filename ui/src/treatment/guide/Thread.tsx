import { memo } from "react";
import * as w from "../../words/catalogue/treatment";
import type { Spell } from "./spells";

/** The plan as a single thread: thick by pressure, broken where the hands leave, a knot at each change of side, a bead for now. */
export const Thread = memo(function Thread({ spells, done, into }: { spells: Spell[]; done: number; into: number }) {
	const wide = 1000;
	const total = spells.reduce((sum, s) => sum + s.seconds, 0) || 1;
	let at = 0;
	let side = "";
	let now = 0;
	const drawn = spells.map((s) => {
		const from = (wide * at) / total + (s.visit.left ? 4 : 0);
		if (s.index === done) now = (wide * (at + s.seconds * Math.min(1, into))) / total;
		at += s.seconds;
		const knot = s.visit.passes[0]?.side ?? "";
		const changed = side !== "" && (knot === "left" || knot === "right") && knot !== side;
		if (knot === "left" || knot === "right") side = knot;
		return { key: s.key, from, to: (wide * at) / total, changed, past: s.index < done, thick: 2 + 2.6 * s.step.pressure };
	});
	return (
		<svg
			viewBox={`-8 0 ${wide + 16} 30`}
			preserveAspectRatio="none"
			className="block h-6 w-full shrink-0"
			role="img"
			aria-label={w.threadOfThePlan}
		>
			{drawn.map((d) => (
				<g key={d.key}>
					<path
						d={`M${d.from} 15H${Math.max(d.from + 1, d.to)}`}
						stroke={d.past ? "var(--color-amber-dim)" : "var(--color-amber)"}
						strokeWidth={d.thick}
						strokeOpacity={d.past ? 0.45 : 0.8}
					/>
					{d.changed && <path d={`M${d.from} 5l4 10l-4 10l-4 -10z`} fill="var(--color-amber)" />}
				</g>
			))}
			<ellipse cx={now} cy={15} rx={9} ry={13} fill="var(--color-night)" stroke="#ffe3b8" strokeWidth={5} />
		</svg>
	);
});

/** The count as a string of beads, in rows where they are many: those done are filled. */
export function Beads({ n, of, width }: { n: number; of: number; width: number }) {
	if (of < 2 || of > 40) return null;
	const row = Math.ceil(of / Math.ceil(of / 10));
	const rows = Math.ceil(of / row);
	const gap = Math.min(width / row, 40);
	return (
		<svg viewBox={`0 0 ${gap * row} ${gap * rows}`} width={gap * row} height={gap * rows} aria-hidden="true" className="max-w-full">
			{Array.from({ length: rows }, (_, k) => (
				// Rows are alike and never move.
				<path
					key={k}
					d={`M0 ${gap * (k + 0.5)}H${gap * Math.min(row, of - k * row)}`}
					stroke="var(--color-amber-dim)"
					strokeWidth={1.5}
					strokeOpacity={0.6}
				/>
			))}
			{Array.from({ length: of }, (_, i) => (
				<circle
					// Beads are alike and never move.
					key={i}
					cx={gap * ((i % row) + 0.5)}
					cy={gap * (Math.floor(i / row) + 0.5)}
					r={gap * 0.36}
					fill={i < n ? "var(--color-amber)" : "var(--color-night)"}
					stroke="var(--color-amber)"
					strokeWidth={2}
				/>
			))}
		</svg>
	);
}
