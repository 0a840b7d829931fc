import type { Schemas } from "../../api/client";

export type Protocol = Schemas["Protocol"];
export type Step = Schemas["Step"];
export type Evaluation = Schemas["Evaluation"];

/** Saves the draft and answers with its new revision and what follows from it. */
export type Save = (draft: {
	revision: number;
	basedOn: number;
	protocol: Protocol;
}) => Promise<{ number: number; evaluation: Evaluation }>;

/** What the engine asks of the server. */
export type Server = {
	save: Save;
	evaluate: (p: Protocol) => Promise<Evaluation>;
	/** The other window's draft, where that is why a save was refused. */
	staleDraft: (e: unknown) => Schemas["Draft"] | undefined;
	/** Whether the same request can succeed later, as when the network is gone. */
	canRetry: (e: unknown) => boolean;
};

export type Bench = {
	protocol: Protocol;
	evaluation: Evaluation;
	/** How far the protocol on this screen is saved as a draft. */
	draftState: "saved" | "waiting" | "saving" | "not saved";
	drafted: boolean;
	canUndo: boolean;
	canRedo: boolean;
	/** Why the last edit could not be saved. */
	fault: unknown;
	/** The draft that another window saved meanwhile. */
	stale: Schemas["Draft"] | null;
};

const mostUndo = 200;

/** How long typing must pause before what was typed is sent, in milliseconds. */
export const typingPause = 500;

/** How long after a save that failed the next one is tried, in milliseconds. */
export const retryAfter = 3000;

/**
 * The workbench without its screen: the protocol being edited, undo and redo, and one
 * request an edit that saves the draft and brings its evaluation. One request is under
 * way at a time; edits made meanwhile go together in the next one. What is typed into
 * one field is one undo step and is sent once typing pauses.
 */
export class Engine {
	#past: Protocol[] = [];
	#future: Protocol[] = [];
	#now: Protocol;
	#saved: Protocol;
	#evaluation: Evaluation;
	#revision: number;
	#basedOn: number;
	#drafted: boolean;
	#state: Bench["draftState"] = "saved";
	#fault: unknown = null;
	#stale: Schemas["Draft"] | null = null;
	#sending: Promise<void> | null = null;
	#timer: ReturnType<typeof setTimeout> | undefined;
	#typing: unknown = null;
	#listeners = new Set<() => void>();
	#view: Bench;

	constructor(
		opened: Pick<Schemas["OpenedView"], "protocol" | "evaluation" | "revision" | "basedOn" | "hasDraft">,
		private readonly server: Server,
	) {
		this.#now = opened.protocol;
		this.#saved = opened.protocol;
		this.#evaluation = opened.evaluation;
		this.#revision = opened.revision;
		this.#basedOn = opened.basedOn;
		this.#drafted = opened.hasDraft;
		this.#view = this.#look();
	}

	/** The state to draw; the same object until something changes. */
	readonly view = () => this.#view;

	readonly subscribe = (f: () => void) => {
		this.#listeners.add(f);
		return () => void this.#listeners.delete(f);
	};

	/** Replaces the protocol. Edits typed into the same field, one after the other, are one undo step. */
	readonly edit = (to: Protocol, field: unknown = null) => {
		const goesOn = field !== null && field === this.#typing;
		if (!goesOn) this.#past = [...this.#past.slice(1 - mostUndo), this.#now];
		this.#typing = field;
		this.#future = [];
		this.#set(to, field === null ? 0 : typingPause);
	};

	/** Replaces the protocol by one that the core has changed and evaluated already. */
	readonly take = (to: Protocol, evaluation: Evaluation) => {
		this.#evaluation = evaluation;
		this.edit(to);
	};

	/** Ends what is being typed: it is sent at once, and the next edit is an undo step of its own. */
	readonly endTyping = () => {
		this.#typing = null;
		if (this.#timer !== undefined) this.#send();
	};

	readonly undo = () => {
		const to = this.#past.pop();
		if (!to) return;
		this.#past = [...this.#past];
		this.#future = [this.#now, ...this.#future];
		this.#typing = null;
		this.#set(to, 0);
	};

	readonly redo = () => {
		const to = this.#future[0];
		if (!to) return;
		this.#future = this.#future.slice(1);
		this.#past = [...this.#past, this.#now];
		this.#typing = null;
		this.#set(to, 0);
	};

	/** Chooses between the text on this screen and the one saved in another window. */
	readonly settle = (mine: boolean) => {
		const other = this.#stale;
		if (!other) return;
		this.#stale = null;
		this.#revision = other.revision;
		if (other.revision !== 0) this.#basedOn = other.basedOn;
		this.#saved = other.body;
		if (mine) {
			this.#state = "waiting";
			this.#tell();
			this.#send();
			return;
		}
		this.#past = [];
		this.#future = [];
		this.#now = other.body;
		this.#state = "saved";
		this.#tell();
		this.server.evaluate(other.body).then(
			(e) => {
				if (this.#now !== other.body) return;
				this.#evaluation = e;
				this.#tell();
			},
			(e) => {
				this.#fault = e;
				this.#tell();
			},
		);
	};

	/** Waits until everything on this screen is saved, or could not be. */
	readonly flush = async () => {
		this.#send();
		while (this.#sending) await this.#sending;
	};

	/** The draft has become a version. */
	readonly published = (version: number) => {
		this.#revision = 0;
		this.#basedOn = version;
		this.#drafted = false;
		this.#tell();
	};

	#set(to: Protocol, pause: number) {
		this.#now = to;
		if (this.#state === "saved") this.#state = "waiting";
		this.#tell();
		clearTimeout(this.#timer);
		this.#timer = undefined;
		if (pause === 0) this.#send();
		else this.#timer = setTimeout(() => this.#send(), pause);
	}

	/** Sends what is not saved yet, unless a request is under way; that one sends the rest when it ends. */
	#send() {
		clearTimeout(this.#timer);
		this.#timer = undefined;
		if (this.#sending || this.#stale || this.#now === this.#saved) return;
		this.#sending = this.#request(this.#now).then(() => {
			this.#sending = null;
			this.#tell();
			if (this.#timer === undefined && this.#state !== "not saved") this.#send();
		});
	}

	async #request(sent: Protocol) {
		this.#state = "saving";
		this.#tell();
		try {
			const v = await this.server.save({ revision: this.#revision, basedOn: this.#basedOn, protocol: sent });
			this.#revision = v.number;
			this.#saved = sent;
			this.#drafted = true;
			this.#fault = null;
			this.#state = sent === this.#now ? "saved" : "waiting";
			if (sent === this.#now) this.#evaluation = v.evaluation; // an answer that was overtaken is not shown
		} catch (e) {
			this.#state = "not saved";
			const other = this.server.staleDraft(e);
			if (other) this.#stale = other;
			else {
				this.#fault = e;
				if (this.server.canRetry(e)) this.#timer = setTimeout(() => this.#send(), retryAfter);
			}
		}
	}

	#look(): Bench {
		return {
			protocol: this.#now,
			evaluation: this.#evaluation,
			draftState: this.#state,
			drafted: this.#drafted || this.#now !== this.#saved,
			canUndo: this.#past.length > 0,
			canRedo: this.#future.length > 0,
			fault: this.#fault,
			stale: this.#stale,
		};
	}

	#tell() {
		this.#view = this.#look();
		for (const f of this.#listeners) f();
	}
}
