import type { Protocol, Step } from "./engine";

/** The protocol with one step changed. */
export function withStep(p: Protocol, id: string, part: Partial<Step>): Protocol {
	return { ...p, steps: p.steps.map((s) => (s.id === id ? clean({ ...s, ...part }) : s)) };
}

// An undefined field means: as the stroke has it.
function clean(s: Step): Step {
	return Object.fromEntries(Object.entries(s).filter(([, v]) => v !== undefined)) as Step;
}

/** One pressure for whole steps: pressures of single zones on their paths are cleared. */
export function withPressure(p: Protocol, ids: readonly string[], pressure: number): Protocol {
	return ids.reduce((q, id) => {
		const path = q.steps.find((s) => s.id === id)?.path?.map(({ pressure: _, ...at }) => at);
		return withStep(q, id, { pressure, path });
	}, p);
}

let made = 0;
/** An id no step has. */
export function newStepId(): string {
	made++;
	return `s${Date.now().toString(36)}${made.toString(36)}${Math.floor(Math.random() * 46656).toString(36)}`;
}

/** Puts steps after the one with an id, at the end where there is none. */
export function insertAfter(p: Protocol, id: string | undefined, steps: Step[]): Protocol {
	const i = id ? p.steps.findIndex((s) => s.id === id) : p.steps.length - 1;
	return { ...p, steps: p.steps.toSpliced(i + 1, 0, ...steps) };
}

export function removeSteps(p: Protocol, ids: readonly string[]): Protocol {
	return { ...p, steps: p.steps.filter((s) => !ids.includes(s.id)) };
}

/** The same steps as new ones; mirrors among them follow. */
export function asNew(steps: readonly Step[]): Step[] {
	const ids = new Map(steps.map((s) => [s.id, newStepId()]));
	return steps.map((s) =>
		clean({
			...s,
			id: ids.get(s.id)!,
			mirrorOf: s.mirrorOf && (ids.get(s.mirrorOf) ?? s.mirrorOf),
			alternateOf: s.alternateOf && (ids.get(s.alternateOf) ?? s.alternateOf),
			round: undefined,
			section: undefined,
		}),
	);
}

/** Moves a run of steps one place up or down; at the border of a phase they change over instead. */
export function moveSteps(p: Protocol, ids: readonly string[], by: -1 | 1): Protocol {
	const at = p.steps.flatMap((s, i) => (ids.includes(s.id) ? [i] : []));
	if (at.length === 0) return p;
	const edge = by < 0 ? at[0]! - 1 : at[at.length - 1]! + 1;
	const there = p.steps[edge];
	if (!there) return p;
	const phase = p.steps[at[0]!]!.phase;
	if (there.phase !== phase) return { ...p, steps: p.steps.map((s) => (ids.includes(s.id) ? { ...s, phase: there.phase } : s)) };
	const steps = p.steps.filter((_, i) => i !== edge);
	const first = by < 0 ? at[at.length - 1]! : at[0]!;
	return { ...p, steps: steps.toSpliced(first, 0, there) };
}

/**
 * Moves steps to the place of another: after it when they come from above, before it
 * when they come from below. They take its phase. Set down inside a round they join
 * it; taken away from theirs they leave it.
 */
export function dropSteps(p: Protocol, ids: readonly string[], over: string): Protocol {
	const from = p.steps.findIndex((s) => ids.includes(s.id));
	const to = p.steps.findIndex((s) => s.id === over);
	if (from < 0 || to < 0 || ids.includes(over)) return p;
	const rest = p.steps.filter((s) => !ids.includes(s.id));
	const at = rest.findIndex((s) => s.id === over) + (to > from ? 1 : 0);
	const [before, after] = [rest[at - 1]?.round, rest[at]?.round];
	const joins = before && before === after ? before : undefined;
	const stays = (r: string | undefined) => r && (r === before || r === after || rest.every((s) => s.round !== r));
	const moved = p.steps
		.filter((s) => ids.includes(s.id))
		.map((s) => clean({ ...s, phase: p.steps[to]!.phase, round: joins ?? (stays(s.round) ? s.round : undefined) }));
	return tidyRounds({ ...p, steps: rest.toSpliced(at, 0, ...moved) });
}

/** Makes a round of steps that follow each other; null where they do not. */
export function makeRound(p: Protocol, ids: readonly string[], times: number): Protocol | null {
	const at = p.steps.flatMap((s, i) => (ids.includes(s.id) ? [i] : []));
	if (at.length === 0 || at.some((i, n) => i !== at[0]! + n)) return null;
	const id = `r${newStepId()}`;
	const steps = p.steps.map((s) => (ids.includes(s.id) ? { ...s, round: id } : s));
	return tidyRounds({ ...p, steps, rounds: [...(p.rounds ?? []), { id, times }] });
}

export function leaveRound(p: Protocol, ids: readonly string[]): Protocol {
	return tidyRounds({ ...p, steps: p.steps.map((s) => (ids.includes(s.id) ? clean({ ...s, round: undefined }) : s)) });
}

/** Rounds that no step is in go. */
function tidyRounds(p: Protocol): Protocol {
	return { ...p, rounds: (p.rounds ?? []).filter((r) => p.steps.some((s) => s.round === r.id)) };
}

const clipboard = "softpalm.steps";

/** Keeps steps for pasting, here or in another protocol. */
export function copySteps(steps: readonly Step[]) {
	localStorage.setItem(clipboard, JSON.stringify(steps));
}

export function copiedSteps(): Step[] {
	try {
		return JSON.parse(localStorage.getItem(clipboard) ?? "[]") as Step[];
	} catch {
		return [];
	}
}
