import type { Schemas } from "../../api/client";
import type { Waiting } from "../../kit/waiting";
import { type Here, hereOf, type RoomEvent, taken, untaken } from "./here";

/** What the browser keeps of a room: what is not acknowledged yet, and where the guide stands. */
export type Kept = { device: string; seq: number; unsent: RoomEvent[]; here: Here };

/** What an event says besides its kind. */
export type Said = Partial<Omit<RoomEvent, "id" | "device" | "seq" | "n" | "at" | "kind">>;

export type LogView = {
	here: Here;
	/** How many events are only on this tablet. */
	unsent: number;
	/** The last answer failed. */
	alone: boolean;
};

const most = 100;
const retryAfter = 3000;
const refusedAfter = 60_000;

type Options = {
	device: string;
	now: () => number;
	send: (events: RoomEvent[]) => Promise<Schemas["RoomHeard"]>;
	waiting: Waiting<Kept>;
	newId: () => string;
	/** Whether an answer says that the server does not take what was sent, rather than that it was not reached. */
	refused?: (e: unknown) => boolean;
};

/**
 * The room's log on this tablet. Every act is an event: it counts at once, waits in the browser until the server has
 * it, and is sent in order, again and again until it is acknowledged. A reload and a closed lid lose nothing.
 */
export class RoomLog {
	#seq = 0;
	#unsent: RoomEvent[] = [];
	#view: LogView;
	#listeners = new Set<() => void>();
	#sending = false;
	#timer: ReturnType<typeof setTimeout> | undefined;

	constructor(
		private readonly o: Options,
		standing: Schemas["Standing"],
	) {
		this.#seq = standing.seq[o.device] ?? 0;
		this.#view = { here: hereOf(standing), unsent: 0, alone: false };
	}

	readonly view = () => this.#view;
	readonly device = () => this.o.device;

	readonly subscribe = (f: () => void) => {
		this.#listeners.add(f);
		return () => void this.#listeners.delete(f);
	};

	/** Brings back what a reload found: where this tablet stood, if it knew more than the server, and what is unsent. */
	async restore() {
		const kept = await this.o.waiting.find();
		if (!kept || kept.device !== this.o.device || kept.unsent.length === 0) return;
		this.#seq = Math.max(this.#seq, kept.seq);
		this.#unsent = [...kept.unsent, ...this.#unsent];
		this.#tell({ here: kept.here.n >= this.#view.here.n ? kept.here : this.#view.here });
		void this.send();
	}

	/** Adds an event, of now or of a moment before. */
	add(kind: RoomEvent["kind"], said: Said = {}, at = this.o.now()): RoomEvent {
		this.#seq++;
		const e = { id: this.o.newId(), device: this.o.device, seq: this.#seq, n: this.#view.here.n + 1, at, kind, ...said } as RoomEvent;
		this.#keep(e, taken(this.#view.here, e));
		return e;
	}

	/** Takes back an event of this tablet. */
	undo(of: RoomEvent) {
		this.#seq++;
		const e = {
			id: this.o.newId(),
			device: this.o.device,
			seq: this.#seq,
			n: this.#view.here.n + 1,
			at: this.o.now(),
			kind: "undo",
			of: of.id,
		} as RoomEvent;
		this.#keep(e, { ...untaken(this.#view.here, of), n: e.n });
	}

	#keep(e: RoomEvent, here: Here) {
		this.#unsent = [...this.#unsent, e];
		this.#tell({ here });
		void this.o.waiting.save({ device: this.o.device, seq: this.#seq, unsent: this.#unsent, here });
		void this.send();
	}

	/** Sends what is unsent, or asks where the others stand where nothing is. */
	async send() {
		if (this.#sending) return;
		this.#sending = true;
		clearTimeout(this.#timer);
		try {
			do {
				const sent = this.#unsent.slice(0, most);
				this.#hear(await this.o.send(sent));
			} while (this.#unsent.length > 0);
			this.#tell({ alone: false });
		} catch (e) {
			this.#tell({ alone: true });
			// What the server refuses is kept and tried again seldom: hurrying does not make it better.
			if (this.#unsent.length > 0) this.#timer = setTimeout(() => void this.send(), this.o.refused?.(e) ? refusedAfter : retryAfter);
		} finally {
			this.#sending = false;
		}
	}

	/** Drops what is acknowledged. Where nothing waits, or another tablet leads, the server's place is the right one. */
	#hear(heard: Schemas["RoomHeard"]) {
		const upTo = heard.standing.seq[this.o.device] ?? 0;
		this.#unsent = this.#unsent.filter((e) => e.seq > upTo);
		const there = hereOf(heard.standing);
		const known = there.n >= this.#view.here.n && (this.#unsent.length === 0 || there.leader !== this.o.device);
		if (known)
			this.#tell({ here: there.leader === this.o.device ? { ...there, into: this.#view.here.into, since: this.#view.here.since } : there });
		if (this.#unsent.length === 0) void this.o.waiting.drop();
		else void this.o.waiting.save({ device: this.o.device, seq: this.#seq, unsent: this.#unsent, here: this.#view.here });
		this.#tell({});
	}

	/** The room is left: what is unsent is tried again until it is sent, and nothing is asked for any more. */
	close() {
		if (this.#unsent.length === 0) clearTimeout(this.#timer);
	}

	#tell(more: Partial<LogView>) {
		this.#view = { ...this.#view, ...more, unsent: this.#unsent.length };
		for (const f of this.#listeners) f();
	}
}

/** A UUID version 7 (RFC 9562): it begins with the time, so that ids made later sort later. */
export function uuid7(now: number): string {
	const b = crypto.getRandomValues(new Uint8Array(16));
	let t = Math.floor(now);
	for (let i = 5; i >= 0; i--) {
		b[i] = t % 256;
		t = Math.floor(t / 256);
	}
	b[6] = (b[6]! & 0x0f) | 0x70;
	b[8] = (b[8]! & 0x3f) | 0x80;
	const hex = [...b].map((x) => x.toString(16).padStart(2, "0")).join("");
	return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-${hex.slice(12, 16)}-${hex.slice(16, 20)}-${hex.slice(20)}`;
}
