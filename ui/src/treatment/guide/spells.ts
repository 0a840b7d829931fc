import type { Schemas } from "../../api/client";

type Evaluation = Schemas["Evaluation"];
type Occurrence = Schemas["Occurrence"];
type Resolved = Schemas["Resolved"];

/** One working of a step, as the guide goes through it. */
export type Spell = {
	key: string;
	index: number;
	step: Resolved;
	visit: Occurrence;
	/** Seconds with its lead, as planned. */
	seconds: number;
	/** Where it lies on the original plan, in plan seconds, its lead included. */
	origin: { start: number; seconds: number };
};

export const spellKey = (step: string, pass: number) => `${step}/${pass}`;

export const spellsOf = (e: Evaluation): Spell[] =>
	e.visits.map((visit, index) => {
		const step = e.steps[visit.step]!;
		const seconds = visit.end - visit.start + visit.lead;
		return { key: spellKey(step.id, visit.pass), index, step, visit, seconds, origin: { start: visit.start - visit.lead, seconds } };
	});

/** Seconds of one repetition, breath or count; 0 where none is counted. */
export function beat(s: Spell): number {
	const d = s.step.dose!;
	return d.kind === "counts" ? (s.visit.passes[0]?.seconds ?? 0) / Math.max(1, d.planned ?? 1) : s.visit.repSeconds;
}

/** Seconds by which a spell is longer where one stays with it: one more repetition, breath or round, or a second of a dose by the clock. */
export function stayUnit(s: Spell): number {
	const d = s.step.dose!;
	switch (d.kind) {
		case "reps":
		case "breaths":
		case "counts":
			return beat(s) || 1;
		case "positions":
			return (d.places ?? 1) * (d.seconds ?? 1);
	}
	return 1;
}

/** What "stay" adds: a third of the repetitions, a breath, a round, fifteen seconds (handbook, chapter 7, Wishes of the moment). */
export function stayAdds(s: Spell): number {
	const d = s.step.dose!;
	switch (d.kind) {
		case "reps":
		case "counts":
			return Math.max(1, Math.round((d.planned ?? 0) / 3));
		case "breaths":
		case "positions":
			return 1;
	}
	return 15;
}

/** Whether an eye's limit of sliding is passed when a spell stays so much longer, all that stayed before it counted. */
export function beyondEyes(room: Schemas["StayRoom"], spells: readonly Spell[], stays: Record<string, number>, spell: Spell): boolean {
	const mine = Object.keys(room.takes[spell.key] ?? {});
	return mine.some((limit) => {
		const taken = spells.reduce((sum, s) => sum + (stays[s.key] ?? 0) * stayUnit(s) * (room.takes[s.key]?.[limit] ?? 0), 0);
		return taken > (room.left[limit] ?? Number.POSITIVE_INFINITY) + 1e-9;
	});
}

/** How the guide goes on at a spell's end. */
export type Mode = "auto" | "mixed" | "hand";

/** Whether the guide waits at a spell's end for Next: always but where it goes on by itself and the dose is not open. */
export const waitsAtEnd = (mode: Mode, step: Resolved) => mode !== "auto" || step.open || endsByNext(step);

/** Steps that only Next ends, whatever the mode: what is put on or taken off, washing, looking, waking. */
export const endsByNext = (step: Resolved) =>
	isApplication(step) ||
	step.family === "hygiene" ||
	(["apply", "cleanse", "look-over", "compare", "wake", "finish"].includes(step.phase) && step.path.length === 0);

/** Whether a step is there to put product on: how much, and where to, is what the eye looks for. */
export const isApplication = (step: Resolved) =>
	Boolean(step.use) && (step.phase === "apply" || step.family === "application" || step.path.length === 0);

/** Whether the client does the work: what to do is read out. */
export const isExercise = (step: Resolved) => step.family === "client exercise" && Boolean(step.client);

/** Where a spell stands in its round: which time of how many, and which step of how many; undefined outside a round. */
export function roundOf(spells: readonly Spell[], index: number): { n: number; of: number; step: number; steps: number } | undefined {
	const spell = spells[index];
	if (!spell) return undefined;
	const times = (s: Spell) => spells.filter((x) => x.step.id === s.step.id).length;
	const of = times(spell);
	if (of < 2) return undefined;
	const belongs = (s: Spell | undefined) => s !== undefined && s.visit.pass === spell.visit.pass && times(s) === of;
	let first = index;
	while (belongs(spells[first - 1])) first--;
	let last = index;
	while (belongs(spells[last + 1])) last++;
	return { n: spell.visit.pass, of, step: index - first + 1, steps: last - first + 1 };
}

/** The zone and side under the hand, of a path of k zones at a part of the moving time: the zone number min(k, floor(part x k) + 1). */
export function underHand(step: Resolved, side: string, part: number): { zone: string; side: string } | undefined {
	const k = step.path.length;
	if (k === 0) return undefined;
	const stop = step.path[Math.min(k, Math.floor(Math.max(0, Math.min(1, part)) * k) + 1) - 1]!;
	return { zone: stop.zone, side: stop.side && stop.side !== "mid" ? stop.side : side === "mid" ? "both" : side };
}

/** The count of a repetition while it is made; past the plan it goes on as +1, +2. */
export function counted(seconds: number, rep: number, times: number): { n: number; over: number } {
	if (rep <= 0) return { n: 1, over: 0 };
	if (seconds >= times * rep) return { n: times, over: Math.floor((seconds - times * rep) / rep) + 1 };
	return { n: Math.min(times, Math.floor(seconds / rep) + 1), over: 0 };
}

/** Whole seconds rounded up: m:ss from a minute on, below that the number alone. */
export function countdown(seconds: number): string {
	const s = Math.max(0, Math.ceil(seconds - 1e-6));
	return s >= 60 ? `${Math.floor(s / 60)}:${String(s % 60).padStart(2, "0")}` : String(s);
}
