import { memo } from "react";
import * as w from "../../words/catalogue/treatment";
import type { Spell } from "./spells";

/** The plan as a single thread: thick by pressure, broken where the hands leave, a knot at each change of side, a bead for now. */
export const Thread = memo(function Thread({ spells, total, at, done }: { spells: Spell[]; total: number; at: number; done: number }) {
	const wide = 1000;
	const x = (t: number) => (total > 0 ? (wide * t) / total : 0);
	let side = "";
	return (
		<svg
			viewBox={`-8 0 ${wide + 16} 30`}
			preserveAspectRatio="none"
			className="block h-6 w-full shrink-0"
			role="img"
			aria-label={w.threadOfThePlan}
		>
			{spells.map((s) => {
				const from = x(s.visit.start - (s.visit.left ? 0 : s.visit.lead)) + (s.visit.left ? 4 : 0);
				const knot = s.visit.passes[0]?.side ?? "";
				const changed = side !== "" && knot !== "mid" && knot !== side && (knot === "left" || knot === "right");
				if (knot === "left" || knot === "right") side = knot;
				return (
					<g key={s.key}>
						<path
							d={`M${from} 15H${Math.max(from + 1, x(s.visit.end))}`}
							stroke={s.index < done ? "var(--color-amber-dim)" : "var(--color-amber)"}
							strokeWidth={2 + 2.6 * s.step.pressure}
							opacity={s.index < done ? 0.45 : 0.8}
						/>
						{changed && <path d={`M${from} 5l4 10l-4 10l-4 -10z`} fill="var(--color-amber)" />}
					</g>
				);
			})}
			<ellipse cx={x(at)} cy={15} rx={9} ry={13} fill="var(--color-night)" stroke="#ffe3b8" strokeWidth={5} />
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
					opacity={0.6}
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
