/** Answers slower than this, in milliseconds, say nothing of the server's clock. */
const slowest = 2000;
const remembered = 8;
/** A wall clock that jumps further than this against the page's own clock is told, in milliseconds. */
const jump = 2000;

/** The page's own clock, which no change of the wall clock moves, in milliseconds. */
export const monotonic = () => performance.timeOrigin + performance.now();

/**
 * The server's time by the page's own clock. The offset is that of the quickest answer among the last eight: server
 * time less the middle between asking and hearing (handbook, chapter 7, Clock).
 */
export class RoomClock {
	#pings: { offset: number; way: number }[] = [];
	#wall: number;

	constructor(
		private readonly own: () => number = monotonic,
		private readonly wall: () => number = Date.now,
		first = 0,
	) {
		this.#wall = wall() - own();
		this.#pings.push({ offset: first, way: Number.POSITIVE_INFINITY });
	}

	/** The corrected time, in milliseconds. */
	now(): number {
		return this.own() + this.offset();
	}

	offset(): number {
		return this.#pings.reduce((best, p) => (p.way < best.way ? p : best)).offset;
	}

	/** Takes an answer of the server: when it was asked and heard by the page's clock, and what time the server said. */
	hear(sent: number, heard: number, server: number) {
		const way = heard - sent;
		if (way > slowest) return;
		this.#pings = [...this.#pings.filter((p) => Number.isFinite(p.way)), { offset: server - (sent + heard) / 2, way }].slice(-remembered);
	}

	/** By how many seconds the wall clock jumped since it was last looked at; 0 where it did not. */
	jumped(): number {
		const wall = this.wall() - this.own();
		const by = wall - this.#wall;
		if (Math.abs(by) <= jump) return 0;
		this.#wall = wall;
		return by / 1000;
	}
}
