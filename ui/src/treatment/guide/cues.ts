/** A cue that comes back through the whole treatment: every so many seconds of hands-on time, pauses left out. */
export type StandingCue = { key: string; every: number };

/** Suggested by the handbook, chapter 7: breath, shoulders and jaw, forehead. */
export const standingCues: readonly StandingCue[] = [
	{ key: "breath", every: 90 },
	{ key: "shoulders", every: 150 },
	{ key: "forehead", every: 180 },
];

/** What the hands are at: seconds into the spell and left of it, and whether its dose is breaths. */
export type At = { into: number; left: number; breaths: boolean };

const opening = 3;
const closing = 5;
const apart = 20;
const waitsMost = 30;

/**
 * When standing cues are said. A cue that is due in the first or last seconds of a spell, in a breath dose or soon after
 * another one waits; after half a minute of waiting it is dropped, not heaped up.
 */
export class Cues {
	#due: Map<string, number>;
	#since = new Map<string, number>();
	#last = Number.NEGATIVE_INFINITY;

	constructor(private readonly cues: readonly StandingCue[] = standingCues) {
		this.#due = new Map(cues.map((c) => [c.key, c.every]));
	}

	/** The cue to say at so many seconds of hands-on time, and the ones dropped. */
	at(spent: number, hands: At): { say?: string; dropped: string[] } {
		const dropped: string[] = [];
		const bad = hands.into < opening || hands.left < closing || hands.breaths || spent - this.#last < apart;
		for (const c of this.cues) {
			if (spent < this.#due.get(c.key)!) continue;
			if (!bad) {
				this.#next(c, spent);
				this.#last = spent;
				return { say: c.key, dropped };
			}
			const since = this.#since.get(c.key) ?? spent;
			this.#since.set(c.key, since);
			if (spent - since < waitsMost) continue;
			this.#next(c, spent);
			dropped.push(c.key);
		}
		return { dropped };
	}

	/** The cue that comes next is said now, as somebody wishes. */
	now(spent: number): string | undefined {
		const next = [...this.cues].sort((a, b) => this.#due.get(a.key)! - this.#due.get(b.key)!)[0];
		if (!next) return undefined;
		this.#next(next, spent);
		this.#last = spent;
		return next.key;
	}

	#next(c: StandingCue, spent: number) {
		this.#due.set(c.key, spent + c.every);
		this.#since.delete(c.key);
	}
}
