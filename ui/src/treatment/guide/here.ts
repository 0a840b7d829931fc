import type { Schemas } from "../../api/client";

export type RoomEvent = Schemas["Event"];
export type Kind = RoomEvent["kind"];

/** Where the guide stands on this tablet: the same that the server works out from the log, taken one event at a time, so that the room goes on without a network. */
export type Here = {
	/** The tablet that leads, empty before the start. */
	leader: string;
	/** The spell, as step/pass, and how many seconds of it were counted up to since; its lead is part of them. */
	spell: string | null;
	into: number;
	since: number | null;
	running: boolean;
	finished: boolean;
	skipped: string[];
	stays: Record<string, number>;
	less: number;
	quiet: boolean;
	ticks: Record<string, boolean>;
	grades: Record<string, number>;
	marks: Schemas["RoomMark"][];
	refit: Schemas["TakenRefit"] | null;
	/** Seconds of each spell that was left, its lead included. */
	spent: Record<string, number>;
	n: number;
};

export const hereOf = (s: Schemas["Standing"]): Here => ({
	leader: s.leader,
	spell: s.spell ?? null,
	into: s.into,
	since: s.since ?? null,
	running: s.running,
	finished: s.finished,
	skipped: s.skipped ?? [],
	stays: s.stays,
	less: s.less,
	quiet: s.quiet,
	ticks: s.ticks,
	grades: s.grades,
	marks: s.marks ?? [],
	refit: s.refit ?? null,
	spent: s.spent ?? {},
	n: s.n,
});

/** Seconds of the present spell at a moment, its lead included. */
export const elapsed = (h: Here, now: number) => h.into + (h.running && h.since !== null ? Math.max(0, now - h.since) / 1000 : 0);

/** What the present spell took is added to the spells that were left. */
const left = (h: Here, at: number): Record<string, number> =>
	h.spell === null ? h.spent : { ...h.spent, [h.spell]: (h.spent[h.spell] ?? 0) + elapsed(h, at) };

/** What follows from one more event of this tablet. */
export function taken(h: Here, e: RoomEvent): Here {
	const next = { ...h, n: Math.max(h.n, e.n) };
	switch (e.kind) {
		case "start":
			return { ...next, leader: h.leader || e.device, running: true };
		case "lead":
			return { ...next, leader: e.device };
		case "begin":
			return { ...next, spent: left(h, e.at), spell: e.spell ?? null, into: 0, since: e.at, running: true };
		case "pause":
		case "stop":
			return { ...next, into: elapsed(h, e.at), since: null, running: false };
		case "resume":
		case "go-on":
			return h.running ? next : { ...next, since: e.at, running: true };
		case "finish":
			return { ...next, spent: left(h, e.at), into: elapsed(h, e.at), spell: null, since: null, running: false, finished: true };
		case "skip":
			return { ...next, skipped: [...new Set([...h.skipped, e.step ?? ""])] };
		case "stay":
			return { ...next, stays: { ...h.stays, [e.spell ?? ""]: (h.stays[e.spell ?? ""] ?? 0) + (e.add ?? 0) } };
		case "less":
			return { ...next, less: h.less + 1 };
		case "quiet":
			return { ...next, quiet: e.on ?? false };
		case "tick":
			return { ...next, ticks: { ...h.ticks, [e.item ?? ""]: e.on ?? false } };
		case "grade":
			return { ...next, grades: { ...h.grades, [`${e.measure}/${e.side}/${e.reading ?? 0}`]: e.value ?? 0 } };
		case "tender":
		case "redness":
		case "product":
			return {
				...next,
				marks: [
					...h.marks,
					{ kind: e.kind, id: e.id, zone: e.zone ?? "", side: e.side ?? "", ...(e.product ? { product: e.product } : {}) },
				],
			};
		case "refit":
			return { ...next, refit: { from: e.from ?? "", minutes: e.minutes ?? 0 } };
	}
	return next;
}

/** Takes back an event of this tablet. */
export function untaken(h: Here, e: RoomEvent): Here {
	switch (e.kind) {
		case "skip":
			return { ...h, skipped: h.skipped.filter((s) => s !== e.step) };
		case "stay":
			return { ...h, stays: { ...h.stays, [e.spell ?? ""]: (h.stays[e.spell ?? ""] ?? 0) - (e.add ?? 0) } };
		case "less":
			return { ...h, less: h.less - 1 };
		default:
			return { ...h, marks: h.marks.filter((m) => m.id !== e.id) };
	}
}
