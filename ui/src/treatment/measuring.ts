import type { Schemas } from "../api/client";

export type Offered = Schemas["OfferedMeasure"];
export type Side = "left" | "right" | "mid";

/** One thing to read: a measure with an instrument on one side. */
export type Task = { measure: string; instrument: Offered["instrument"]; side: Side };

export const taskKey = (t: Task) => `${t.measure}/${t.instrument}/${t.side}`;

/** What is read in a round: everything in the first, what is read twice in the second, what lies far apart in the third. */
export function roundOf(round: number, chosen: readonly Offered[], readings: Record<string, number[]>): Task[] {
	return chosen
		.filter((o) => round <= o.readings || round === 3)
		.flatMap((o) =>
			(o.paired ? (["left", "right"] as const) : (["mid"] as const)).map((side) => ({
				measure: o.measure,
				instrument: o.instrument,
				side,
			})),
		)
		.filter((t) => {
			if (round < 3) return true;
			const o = chosen.find((c) => c.measure === t.measure && c.instrument === t.instrument);
			const [first, second] = readings[taskKey(t)] ?? [];
			return o !== undefined && first !== undefined && second !== undefined && Math.abs(first - second) > o.apart;
		});
}

/** The next thing to read, and in which round; nothing where all is read. */
export function nextTask(chosen: readonly Offered[], readings: Record<string, number[]>): { task: Task; round: number } | undefined {
	for (const round of [1, 2, 3]) {
		const task = roundOf(round, chosen, readings).find((t) => (readings[taskKey(t)]?.length ?? 0) < round);
		if (task) return { task, round };
	}
	return undefined;
}

/** Digits as they are typed on the keypad: with a decimal the last one is the tenth. */
export const typed = (digits: string, decimals: number) => (digits === "" ? undefined : Number(digits) / 10 ** decimals);
