import { changed } from "../../api/changes";
import type { Schemas } from "../../api/client";
import { Autosave, type SaveState, typingPause } from "../../kit/autosave";
import { drawn } from "../../kit/pace";
import type { Waiting } from "../../kit/waiting";

export type Protocol = Schemas["Protocol"];
export type Step = Schemas["Step"];
export type Evaluation = Schemas["Evaluation"];

/** A draft as it is saved: the protocol, and what it was made from. */
export type Draft = { revision: number; basedOn: number; protocol: Protocol };

/**
 * Saves the draft and answers with its new revision and what follows from it: whole, or as what has changed since the
 * evaluation of the sum that is known.
 */
export type Save = (draft: Draft & { known?: string }) => Promise<Schemas["SavedDraftView"]>;

/** A fix of a finding. */
export type Fix = { finding: string; fix: string };

/** What the engine asks of the server. */
export type Server = {
	save: Save;
	/** Applies a fix to the draft and saves the outcome: one request for both. */
	fix: (draft: Draft & Fix) => Promise<{ number: number; protocol: Protocol; evaluation: Evaluation }>;
	evaluate: (p: Protocol) => Promise<Evaluation>;
	/** The other window's draft, where that is why a save was refused. */
	staleDraft: (e: unknown) => Schemas["Draft"] | undefined;
	/** Whether the same request can succeed later, as when the network is gone. */
	canRetry: (e: unknown) => boolean;
	/** Stores what is not saved over a reload. */
	waiting?: Waiting<Draft>;
};

export type Bench = {
	protocol: Protocol;
	evaluation: Evaluation;
	/** How far the protocol on this screen is saved as a draft. */
	draftState: SaveState;
	drafted: boolean;
	canUndo: boolean;
	canRedo: boolean;
	/** Why the last edit could not be saved. */
	fault: unknown;
	/** The draft that another window saved meanwhile. */
	stale: Schemas["Draft"] | null;
};

const mostUndo = 200;

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
	#fault: unknown = null;
	#stale: Schemas["Draft"] | null = null;
	#saver: Autosave<Draft, { number: number; evaluation: Evaluation }>;
	/** The evaluation that was answered last, with its sum: the next answer says what has changed since. */
	#told: { sum: string; evaluation: Evaluation } | undefined;
	#typing: unknown = null;
	#listeners = new Set<() => void>();
	#view: Bench;
	#when: "now" | "soon" | "drawn" = "now";
	#telling = false;

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
		this.#saver = new Autosave({
			send: (d) => this.#save(d),
			onSaved: (v, sent, newest) => {
				this.#revision = v.number;
				this.#saved = sent.protocol;
				this.#drafted = true;
				if (newest) this.#evaluation = v.evaluation; // an answer that was overtaken is not shown
			},
			canRetry: (e) => !this.#stale && server.canRetry(e),
			...(server.waiting ? { waiting: server.waiting } : {}),
		});
		this.#view = this.#look();
		this.#saver.subscribe(() => this.#tell());
	}

	/** Brings back what a reload found unsaved, as an edit that can be undone. */
	readonly restore = async () => {
		const found = await this.server.waiting?.find();
		if (!found || this.#now !== this.#saved) return;
		this.#revision = found.revision;
		this.#basedOn = found.basedOn;
		this.edit(found.protocol);
	};

	/** The state to draw; the same object until something changes. */
	readonly view = () => this.#view;

	readonly subscribe = (f: () => void) => {
		this.#listeners.add(f);
		return () => void this.#listeners.delete(f);
	};

	/**
	 * Replaces the protocol. Edits typed into the same field, one after the other, are one undo step. A field that shows
	 * by itself what is typed is drawn before the rest of the screen is told.
	 */
	readonly edit = (to: Protocol, field: unknown = null, showsItself = false) => {
		const goesOn = field !== null && field === this.#typing;
		if (!goesOn) this.#past = [...this.#past.slice(1 - mostUndo), this.#now];
		this.#typing = field;
		this.#future = [];
		if (field === null) this.#set(to, 0);
		else this.#set(to, typingPause, showsItself ? "drawn" : "now");
	};

	/** Replaces the protocol by one that the core has changed and evaluated already. */
	readonly replace = (to: Protocol, evaluation: Evaluation) => {
		this.#evaluation = evaluation;
		this.edit(to);
	};

	/** Applies a fix of a finding, as one undo step. */
	readonly fix = async (fix: Fix) => {
		await this.flush();
		const sent = this.#now;
		const v = await this.#orStale(this.server.fix({ revision: this.#revision, basedOn: this.#basedOn, protocol: sent, ...fix }));
		this.#revision = v.number;
		this.#saved = v.protocol;
		this.#drafted = true;
		if (this.#now !== sent) return this.#set(this.#now, 0); // edited meanwhile: what is on the screen counts
		this.#past = [...this.#past.slice(1 - mostUndo), sent];
		this.#future = [];
		this.#typing = null;
		this.#now = v.protocol;
		this.#evaluation = v.evaluation;
		this.#saver.forget();
	};

	/** Ends what is being typed: it is sent at once, and the next edit is an undo step of its own. */
	readonly endTyping = () => {
		this.#typing = null;
		this.#saver.hurry();
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
		this.#saver.resume();
		if (mine) {
			this.#set(this.#now, 0);
			return;
		}
		this.#past = [];
		this.#future = [];
		this.#now = other.body;
		this.#saver.forget();
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
	readonly flush = () => this.#saver.flush();

	/** The draft has become a version. */
	readonly published = (version: number) => {
		this.#revision = 0;
		this.#basedOn = version;
		this.#drafted = false;
		this.#tell();
	};

	#set(to: Protocol, pause: number, tell: "now" | "soon" | "drawn" = "soon") {
		this.#now = to;
		this.#when = tell;
		if (to === this.#saved && this.#saver.view().state !== "saving") this.#saver.forget();
		else this.#saver.put({ revision: this.#revision, basedOn: this.#basedOn, protocol: to }, pause);
		this.#tell(); // the saver has nothing to tell while it is saving
		this.#when = "now";
	}

	/** Saves on what is there now: earlier edits have moved the draft on since this one was made. */
	async #save(d: Draft) {
		const before = this.#told;
		const draft = { revision: this.#revision, basedOn: this.#basedOn, protocol: d.protocol };
		const {
			number,
			sum,
			evaluation: whole,
			changes,
		} = await this.#orStale(this.server.save(before ? { ...draft, known: before.sum } : draft));
		const evaluation = whole ?? (before && changes ? changed(before.evaluation, changes) : undefined);
		if (!evaluation) throw new Error("an answer without an evaluation");
		this.#told = { sum, evaluation };
		return { number, evaluation };
	}

	/** Waits for an answer; a draft that was changed elsewhere stops the saving until a choice is made. */
	async #orStale<T>(answer: Promise<T>): Promise<T> {
		try {
			return await answer;
		} catch (e) {
			const other = this.server.staleDraft(e);
			if (other) {
				this.#stale = other;
				this.#saver.stop();
			}
			throw e;
		}
	}

	#look(): Bench {
		return {
			protocol: this.#now,
			evaluation: this.#evaluation,
			draftState: this.#saver.view().state,
			drafted: this.#drafted || this.#now !== this.#saved,
			canUndo: this.#past.length > 0,
			canRedo: this.#future.length > 0,
			fault: this.#stale ? null : (this.#saver.view().fault ?? this.#fault),
			stale: this.#stale,
		};
	}

	/**
	 * Tells the screen; after an edit that is sent at once, a moment later, so that the server works while the screen draws,
	 * and after a letter when it has been drawn.
	 */
	#tell() {
		this.#view = this.#look();
		if (this.#when === "now") return this.tell();
		if (this.#telling) return;
		this.#telling = true;
		const tell = () => this.#telling && this.tell();
		if (this.#when === "soon") setTimeout(tell);
		else drawn(tell);
	}

	/** Whether the screen does not show the newest state yet. */
	readonly tellsLater = () => this.#telling;

	/** Tells the screen now. */
	readonly tell = () => {
		this.#telling = false;
		for (const f of this.#listeners) f();
	};
}
