import type { Schemas } from "../api/client";

/** Where the hands are within one visit of a step: the pass, seconds into it, and which repetition of how many. */
export function spellAt(v: Schemas["Occurrence"], step: Schemas["Resolved"], at: number) {
	const pass = v.passes.find((p) => at < p.start + p.seconds) ?? v.passes.at(-1)!;
	const local = Math.max(0, at - pass.start);
	const counted = step.dose.kind === "reps" || step.dose.kind === "breaths";
	const times = (step.dose.planned ?? 0) * Math.max(1, step.dose.sets ?? 1);
	const rep = v.repSeconds > 0 ? Math.min(times, Math.floor(local / v.repSeconds) + 1) : 0;
	return { pass, local, counted, times, rep };
}
