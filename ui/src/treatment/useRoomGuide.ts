import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState, useSyncExternalStore } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../api/client";
import { refitsQuery } from "../api/queries";
import { waitingAt } from "../kit/waiting";
import * as w from "../words/catalogue/treatment";
import { elapsed, type RoomEvent } from "./guide/here";
import { offerAt, offers, refitted } from "./guide/refit";
import { monotonic, RoomClock } from "./guide/roomClock";
import { type Kept, RoomLog, uuid7 } from "./guide/roomLog";
import { beyondEyes, type Mode, type Spell, spellsOf, stayAdds, stayUnit, underHand, waitsAtEnd } from "./guide/spells";
import { useStandingCues } from "./guide/useStandingCues";

/** Milliseconds between two moments that are shown: a circle of a second still looks round. */
const frame = 50;
/** How often a tablet asks where the others stand, in milliseconds: one that follows, and one that leads. */
const followEvery = 3000;
const pingEvery = 60_000;
/** A second Next within this is none; Back within this goes to the spell before; a second Stay goes over the most. */
const doubled = 600;
const backSeconds = 3;
const overAgain = 3000;
/** How long an act can be taken back, and how long it is answered in a word. */
const undoFor = 10_000;
const answeredFor = 2000;
const cuedFor = 6000;
/** Away for longer than this, the guide pauses and asks where the hands are. */
const awayMost = 30 * 60_000;

export type By = "tap" | "key" | "pedal" | "auto";

const nothing: readonly Schemas["PreparedRefit"][] = [];

/**
 * The room's place in the plan. Every act is an event of the room's log: it counts here at once and is sent when there
 * is a network. A reload lands on the same spell and second.
 */
export function useRoomGuide(visitId: string, device: string, room: Schemas["RoomGuideView"], mode: Mode) {
	const e = room.evaluation;
	const [clock] = useState(() => new RoomClock(monotonic, Date.now, new Date(room.heard.now).getTime() - monotonic()));
	const [log] = useState(
		() =>
			new RoomLog(
				{
					device,
					now: () => clock.now(),
					newId: () => uuid7(clock.now()),
					waiting: waitingAt<Kept>(`room ${visitId} ${device}`),
					refused: (e) => e instanceof ProblemError && [400, 404, 409, 422].includes(e.problem.status),
					send: async (events) => {
						const sent = monotonic();
						// With nothing to send it only asks where the others stand.
						const path = { params: { path: { id: visitId } } };
						const heard = await unwrap(
							events.length === 0
								? api.GET("/api/visits/{id}/events", path)
								: api.POST("/api/visits/{id}/events", { ...path, body: { events } }),
						);
						clock.hear(sent, monotonic(), new Date(heard.now).getTime());
						return heard;
					},
				},
				room.heard.standing,
			),
	);
	const { here, unsent, alone } = useSyncExternalStore(log.subscribe, log.view);
	const refits = useQuery({ ...refitsQuery(visitId), enabled: here.leader !== "" });
	const table = refits.data ?? nothing;
	const planned = useMemo(() => spellsOf(e), [e]);
	const spells = useMemo(() => refitted(planned, here.refit, table), [planned, here.refit, table]);
	const [declinedAt, setDeclinedAt] = useState<number | null>(null);
	const [asked, setAsked] = useState(false);
	const [now, setNow] = useState(() => clock.now());
	const [said, setSaid] = useState<{ text: string; until: number } | null>(null);
	const undoable = useRef<{ event: RoomEvent; spell: string | null; until: number } | null>(null);
	const last = useRef({ next: 0, most: 0, seen: monotonic() });
	const [asking, setAsking] = useState(false);
	const [instead, setInstead] = useState<{ spell: string; name: string } | null>(null);
	const [twice, setTwice] = useState<{ zone: string; side: string; until: number } | null>(null);

	useEffect(() => {
		void log.restore();
		const again = () => void log.send();
		window.addEventListener("online", again);
		return () => {
			window.removeEventListener("online", again);
			log.close();
		};
	}, [log]);
	const leads = here.leader === "" || here.leader === device;
	useEffect(() => {
		const id = setInterval(() => void log.send(), leads ? pingEvery : followEvery);
		return () => clearInterval(id);
	}, [log, leads]);

	const index = here.finished ? spells.length - 1 : spells.findIndex((s) => s.key === here.spell);
	const spell = spells[index];
	const seconds = spell ? spell.seconds + (here.stays[spell.key] ?? 0) * stayUnit(spell) : 0;
	const t = spell && !here.finished ? elapsed(here, now) : 0;
	const waits = spell ? waitsAtEnd(mode, spell.step) : true;
	const waiting = here.running && leads && waits && t >= seconds;
	// An open step may be ended from its least on.
	const mayEnd = waiting || (here.running && leads && spell?.step.open === true && t >= spell.visit.lead + spell.step.least);
	const begun = here.leader !== "" && (here.spell !== null || here.finished);

	const say = useCallback((text: string) => setSaid({ text, until: monotonic() + answeredFor }), []);
	const begin = useCallback(
		(to: Spell | undefined, by: By, at?: number) => {
			if (to) log.add("begin", { spell: to.key, by }, at);
			else log.add("finish", { by }, at);
		},
		[log],
	);

	// What runs goes on by itself, also for the time in which the page slept.
	useEffect(() => {
		if (!here.running || !leads) return;
		const id = setInterval(() => {
			const away = monotonic() - last.current.seen;
			last.current.seen = monotonic();
			const jumped = clock.jumped();
			if (jumped !== 0) {
				log.add("clock", { value: Math.round(jumped * 1000) });
				void log.send();
			}
			if (away > awayMost) {
				log.add("pause", { by: "auto" }, clock.now() - away);
				setAsking(true);
				return;
			}
			setNow(clock.now());
		}, frame);
		last.current.seen = monotonic();
		return () => clearInterval(id);
	}, [here.running, leads, clock, log]);
	useEffect(() => {
		if (here.running && leads) return;
		setNow(clock.now());
		const id = setInterval(() => setNow(clock.now()), 1000);
		return () => clearInterval(id);
	}, [here.running, leads, clock]);
	useEffect(() => {
		if (!spell || !here.running || !leads || waits || t < seconds || here.since === null) return;
		begin(spells[index + 1], "auto", here.since + (seconds - here.into) * 1000);
	}, [spell, here.running, here.since, here.into, leads, waits, t, seconds, index, spells, begin]);
	useEffect(() => {
		if (!said) return;
		const id = setTimeout(() => setSaid(null), Math.max(0, said.until - monotonic()));
		return () => clearTimeout(id);
	}, [said]);

	const cueNow = useStandingCues({
		spell: here.spell,
		t,
		left: seconds - t,
		breaths: spell?.step.dose?.kind === "breaths",
		// Whoever follows, or lets a client sleep, is not told.
		silent: !leads || !here.running || !spell || here.quiet,
		onCue: useCallback(
			(cue: string, text: string) => {
				log.add("cue", { text: cue, by: "auto" });
				setSaid({ text, until: monotonic() + cuedFor });
			},
			[log],
		),
	});

	const run = spell ? (spell.visit.passes.find((p) => placeOf(spell, t) < p.start + p.seconds) ?? spell.visit.passes.at(-1)) : undefined;
	const hand = () => {
		if (!spell || !run) return undefined;
		const local = Math.max(0, placeOf(spell, t) - run.start);
		const rep = spell.visit.repSeconds;
		return underHand(spell.step, run.side, rep > 0 ? (local % rep) / rep : run.seconds > 0 ? local / run.seconds : 0);
	};
	const remember = (event: RoomEvent, text: string) => {
		undoable.current = { event, spell: here.spell, until: monotonic() + undoFor };
		say(text);
	};
	const mark = (kind: "tender" | "redness" | "product", by: By, text: string, product?: string) => {
		const at = hand() ?? { zone: "", side: "" };
		if (kind === "tender" && at.zone && here.marks.some((m) => m.kind === kind && m.zone === at.zone && m.side === at.side))
			setTwice({ ...at, until: monotonic() + undoFor });
		remember(log.add(kind, { ...at, by, ...(product ? { product } : {}) }), text);
	};
	/** Acts that move the guide are the leading tablet's; what another sends would count for nothing. */
	const leading = <A extends unknown[]>(act: (...a: A) => void) => {
		return (...a: A) => (leads ? act(...a) : say(w.anotherTabletLeads));
	};
	const next = (by: By) => {
		if (monotonic() - last.current.next < doubled) return;
		last.current.next = monotonic();
		begin(spells[index + 1], by);
	};
	const closing = spells.find((s) => s.index > index && ["close", "finish", "wake"].includes(s.step.phase));
	const position = spell
		? here.finished
			? e.seconds
			: spell.origin.start + spell.origin.seconds * Math.min(1, seconds > 0 ? t / seconds : 1)
		: 0;
	const overSpell = Math.max(0, t - seconds);
	const late = (now - new Date(room.handsOff).getTime()) / 1000 + (e.seconds - position);
	// A re-fit is taken where a spell ends: at the end of this one, or before the hands are on the next.
	const boundary = waiting || !spell || t >= spell.visit.lead ? spell?.key : spells[index - 1]?.key;
	const atBoundary = waiting || (spell !== undefined && t < spell.visit.lead) || (here.running && here.spell === null);
	const offer =
		leads && !here.finished && (asked || (atBoundary && offers(late, declinedAt))) ? offerAt(table, boundary ?? "", late) : undefined;

	return {
		here,
		grades: here.grades,
		spells,
		spell,
		index,
		run,
		/** Seconds into the spell, its lead included, and past its end. */
		t,
		over: overSpell,
		/** Seconds to the spell's end, below zero past it. */
		left: seconds - t,
		/** Seconds of the plan, for drawings. */
		at: spell ? Math.min(placeOf(spell, t), spell.visit.end - 0.01) : 0,
		position,
		/** Seconds late, below zero early. */
		late,
		offer,
		/** What a re-fit would change, in the order of the plan. */
		planned,
		askForTime: () => setAsked(!asked),
		takeRefit: () => {
			if (!offer) return;
			log.add("refit", { from: offer.from, minutes: offer.minutes });
			setDeclinedAt(late);
			setAsked(false);
			say(w.refitTaken);
		},
		declineRefit: () => {
			setDeclinedAt(late);
			setAsked(false);
		},
		begun,
		leads,
		ended: here.finished,
		running: here.running,
		waiting,
		mayEnd,
		unsent,
		alone,
		said: said?.text ?? (asking && !here.running ? w.whereAreTheHands : ""),
		undoable: () => undoable.current !== null && undoable.current.until > monotonic(),
		closing: closing ? e.seconds - closing.visit.start : 0,
		start: (by: By) => {
			log.add("start", { by });
			begin(spells[0], by);
		},
		takeOver: () => log.add("lead", { by: "tap" }),
		toggle: leading((by: By) => {
			if (here.running) {
				log.add("pause", { by });
				return;
			}
			setAsking(false);
			log.add("resume", { by });
		}),
		next: leading(next),
		back: leading((by: By) => begin(t > backSeconds + (spell?.visit.lead ?? 0) ? spell : spells[Math.max(0, index - 1)], by)),
		skip: leading((by: By) => {
			if (!spell) return;
			remember(log.add("skip", { step: spell.step.id, by }), w.skipped);
			begin(spells[index + 1], by);
		}),
		stay: leading((by: By) => {
			if (!spell) return;
			const add = stayAdds(spell);
			const most = spell.step.most > 0 ? spell.step.most : Number.POSITIVE_INFINITY;
			const stayed = (here.stays[spell.key] ?? 0) + add;
			const beyond =
				(spell.step.dose?.planned ?? 0) + stayed > most || beyondEyes(room.stayRoom, spells, { ...here.stays, [spell.key]: stayed }, spell);
			if (beyond && monotonic() - last.current.most > overAgain) {
				last.current.most = monotonic();
				say(w.atItsMost);
				return;
			}
			remember(log.add("stay", { spell: spell.key, add, by }), w.stayPlus({ n: add }));
			void refits.refetch(); // the other side will have as much
		}),
		less: (by: By) => remember(log.add("less", { by }), w.lighterNow),
		tender: (by: By) => mark("tender", by, w.tenderMarked),
		redness: (by: By) => mark("redness", by, w.rednessMarked),
		product: (by: By) => mark("product", by, w.productAdded, lastProduct(spells, index)),
		/** Another stroke for the same time, as the strokes' own alternates say; it is written into the log. */
		instead: leading((name: string) => {
			const event = log.add("note", { text: w.insteadNow({ name }), by: "tap" });
			setInstead({ spell: here.spell ?? "", name });
			remember(event, w.insteadNow({ name }));
		}),
		/** What is done instead of the present spell's stroke; empty for nothing. */
		insteadName: instead?.spell === here.spell ? (instead?.name ?? "") : "",
		/** Places that were left out after two tender marks, kept as ticks of the log. */
		leftOut: leftOutOf(here.ticks),
		/** A place marked tender twice, while it is offered to leave it out. */
		twice: twice && twice.until > monotonic() ? twice : null,
		/** Leaves a place out: steps still to come that work nowhere else are skipped. */
		leaveOut: () => {
			if (!twice) return;
			log.add("tick", { item: `${leaveOutItem}${twice.zone}/${twice.side}`, on: true });
			const only = (s: Spell) => s.step.path.length > 0 && s.step.path.every((p) => p.zone === twice.zone);
			for (const id of new Set(spells.filter((s) => s.index > index && only(s)).map((s) => s.step.id)))
				log.add("skip", { step: id, by: "tap" });
			setTwice(null);
			say(w.leftOutNow);
		},
		cueNow,
		quiet: (on: boolean) => log.add("quiet", { on }),
		tick: (item: string, on: boolean) => log.add("tick", { item, on }),
		grade: (measure: string, side: string, value: number) => log.add("grade", { measure, side, reading: 1, value }),
		/** Before the start nothing is under way that a stop could end. */
		stop: (by: By) => {
			if (begun) log.add("stop", { by });
		},
		goOn: (by: By) => {
			if (begun) log.add("go-on", { by });
		},
		undo: () => {
			const u = undoable.current;
			if (!u || u.until < monotonic()) return;
			log.undo(u.event);
			undoable.current = null;
			if (u.event.kind === "skip")
				begin(
					spells.find((s) => s.key === u.spell),
					"tap",
				);
			say(w.takenBack);
		},
		/** What is left of the plan goes undone, or all of it up to its closing, and is recorded as left out. */
		endHere: leading((toClosing: boolean) => {
			const until = toClosing && closing ? closing.index : spells.length;
			const done = new Set(
				spells.filter((s) => s.index < index || (s.index === index && t > backSeconds + s.visit.lead)).map((s) => s.step.id),
			);
			for (const id of new Set(spells.slice(index, until).map((s) => s.step.id)))
				if (!done.has(id)) log.add("skip", { step: id, by: "tap" });
			begin(spells[until], "tap");
		}),
	};
}

export type RoomGuide = ReturnType<typeof useRoomGuide>;

/** How the tick of a place that was left out begins. */
const leaveOutItem = "leave out ";

/** The places that were left out on the way, from the ticks. */
const leftOutOf = (ticks: Record<string, boolean>): Schemas["ZoneSide"][] =>
	Object.entries(ticks)
		.filter(([item, on]) => on && item.startsWith(leaveOutItem))
		.map(([item]) => {
			const [zone = "", side = ""] = item.slice(leaveOutItem.length).split("/");
			return { zone, side: side as "left" | "right" | "both" };
		});

/** The second of the plan at so many seconds of a spell. */
const placeOf = (s: Spell, t: number) => s.visit.start - s.visit.lead + t;

/** The product that was put on last. */
function lastProduct(spells: Spell[], index: number): string | undefined {
	for (let i = index; i >= 0; i--) {
		const use = spells[i]?.step.use;
		if (use) return use.key;
	}
	return undefined;
}
