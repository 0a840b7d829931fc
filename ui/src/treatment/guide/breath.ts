/** A breath dose paced by the client: when the in-breath began, and how long a whole breath takes. */
export type Pace = { since: number; period?: number | undefined; taps: number[] };

const tapsWanted = 4;
const shortest = 5;
const longest = 15;

/** A tap at an in-breath, at a moment in seconds: it restarts the breath; where the client is followed, four of them set the period to the middle of the three intervals. */
export function tapped(pace: Pace | undefined, at: number, following: boolean): Pace {
	const taps = following ? [...(pace?.taps ?? []), at].slice(-tapsWanted) : [];
	let period = pace?.period;
	if (taps.length === tapsWanted) {
		const gaps = taps.slice(1).map((x, i) => x - taps[i]!);
		period = Math.min(longest, Math.max(shortest, gaps.sort((a, b) => a - b)[1]!));
	}
	return { since: at, taps, period };
}

/** Seconds into a breath that takes so many by plan: a period of the client's own keeps the shares of in, pause and out. */
export function breathAt(pace: Pace | undefined, now: number, planned: number, whole: number): number {
	if (!pace || whole <= 0) return planned;
	const period = pace.period ?? whole;
	return (((now - pace.since) % period) / period) * whole;
}
