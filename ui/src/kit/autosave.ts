import type { Waiting } from "./waiting";

/** How far what is on the screen is saved. */
export type SaveState = "saved" | "waiting" | "saving" | "not saved";

/** How long typing must pause before what was typed is sent, in milliseconds. */
export const typingPause = 500;

/** How long after a save that failed the next one is tried, in milliseconds. */
export const retryAfter = 3000;

type Options<T, A> = {
	/** Sends the newest value; it gets no other until this one is answered. */
	send: (value: T) => Promise<A>;
	/** The answer to what was sent; newest says whether nothing was changed meanwhile. */
	onSaved?: (answer: A, sent: T, newest: boolean) => void;
	/** Whether the same request can succeed later, as when the network is gone. */
	canRetry: (e: unknown) => boolean;
	/** Stores what is not sent over a reload. */
	waiting?: Waiting<T>;
};

export type Autosaved = { state: SaveState; fault: unknown };

/**
 * Saves as one types: the newest value is sent after a pause, one request at a time.
 * What changes meanwhile goes with the next request. A request that fails for want of
 * a network is sent again; one that is refused waits for the next change.
 */
export class Autosave<T, A = unknown> {
	#next: { value: T } | null = null;
	#sending: Promise<void> | null = null;
	#timer: ReturnType<typeof setTimeout> | undefined;
	#stopped = false;
	#view: Autosaved = { state: "saved", fault: null };
	#listeners = new Set<() => void>();

	constructor(private readonly o: Options<T, A>) {}

	/** The state to draw; the same object until something changes. */
	readonly view = () => this.#view;

	readonly subscribe = (f: () => void) => {
		this.#listeners.add(f);
		return () => void this.#listeners.delete(f);
	};

	/** Takes the newest value; it is sent after the pause, in milliseconds. */
	readonly put = (value: T, pause = typingPause) => {
		this.#next = { value };
		clearTimeout(this.#timer);
		this.#timer = undefined;
		if (pause === 0) this.#send();
		else this.#timer = setTimeout(() => this.#send(), pause);
		if (this.#view.state !== "saving") this.#tell({ state: "waiting", fault: this.#view.fault });
		void this.o.waiting?.save(value);
	};

	/** Sends at once what waits for its pause. */
	readonly hurry = () => {
		if (this.#timer !== undefined) this.#send();
	};

	/** Waits until everything is saved, or could not be. */
	readonly flush = async () => {
		this.#send();
		while (this.#sending) await this.#sending;
	};

	/** Drops what waits: another request has sent it, or it is not wanted any more. */
	readonly forget = () => {
		clearTimeout(this.#timer);
		this.#timer = undefined;
		this.#next = null;
		void this.o.waiting?.drop();
		this.#tell({ state: "saved", fault: null });
	};

	/** Sends nothing more until it is resumed, as while a choice is asked for. */
	readonly stop = () => {
		this.#stopped = true;
	};

	readonly resume = () => {
		this.#stopped = false;
	};

	/** Brings back what a reload found unsent, and sends it. */
	readonly restore = async (): Promise<T | undefined> => {
		const value = await this.o.waiting?.find();
		if (value === undefined || this.#next) return undefined;
		this.put(value, 0);
		return value;
	};

	#send() {
		clearTimeout(this.#timer);
		this.#timer = undefined;
		if (this.#sending || this.#stopped || !this.#next) return;
		const sent = this.#next;
		this.#next = null;
		this.#tell({ state: "saving", fault: this.#view.fault });
		this.#sending = this.#request(sent).then(() => {
			this.#sending = null;
			if (this.#timer === undefined && this.#view.state === "waiting") this.#send();
		});
	}

	async #request(sent: { value: T }) {
		try {
			const answer = await this.o.send(sent.value);
			const newest = this.#next === null;
			this.o.onSaved?.(answer, sent.value, newest);
			if (newest) void this.o.waiting?.drop();
			this.#tell({ state: newest ? "saved" : "waiting", fault: null });
		} catch (e) {
			this.#next ??= sent;
			this.#tell({ state: "not saved", fault: e });
			if (this.o.canRetry(e)) this.#timer = setTimeout(() => this.#send(), retryAfter);
		}
	}

	#tell(view: Autosaved) {
		this.#view = view;
		for (const f of this.#listeners) f();
	}
}
