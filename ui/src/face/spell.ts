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

/** The part of a repetition being done at a moment, and which count of how many. */
export function partAt(parts: readonly Schemas["Part"][], seconds: number) {
	const total = parts.reduce((sum, p) => sum + p.seconds * Math.max(1, p.count ?? 1), 0);
	if (total <= 0) return undefined;
	let rest = seconds % total;
	for (const p of parts) {
		const of = Math.max(1, p.count ?? 1);
		if (rest < p.seconds * of)
			return { part: p, n: Math.floor(rest / p.seconds) + 1, of, beat: (rest % p.seconds) / p.seconds, left: p.seconds * of - rest };
		rest -= p.seconds * of;
	}
	return undefined;
}

/** How many seconds ahead the guide says what comes next. */
export const foretold = 15;

/** What to reach for, or to say, before the next step: product, tool, gloves, side, lighter hands. */
export function ahead(now: Schemas["Resolved"], next: Schemas["Resolved"]) {
	return {
		product: next.use,
		tool: next.toolName && next.toolName !== now.toolName ? next.toolName : undefined,
		handsFree: !next.toolName && now.toolName ? now.toolName : undefined,
		lighter: next.path.length > 0 && now.path.length > 0 && next.pressure < now.pressure ? next.pressure : undefined,
		firmer: next.path.length > 0 && now.path.length > 0 && next.pressure > now.pressure ? next.pressure : undefined,
	};
}
