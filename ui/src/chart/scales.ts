import { utcMonth, utcTicks } from "d3-time";

type Ends = readonly [from: number, to: number];

/** A straight scale from numbers to places, and back. Where the numbers, or the places, are all the same, it answers the middle. */
export type Linear = ((value: number) => number) & { invert: (at: number) => number };

export function linear([from, to]: Ends, [start, end]: Ends): Linear {
	const across = (v: number) => start + (to === from ? 0.5 : (v - from) / (to - from)) * (end - start);
	return Object.assign(across, { invert: (at: number) => from + (end === start ? 0.5 : (at - start) / (end - start)) * (to - from) });
}

/** Seconds of a plan across a picture, in pixels. */
export function secondsAcross(from: number, to: number, left: number, right: number) {
	return linear([from, to], [left, right]);
}

/** The height on the body, in cm above the chin, down a picture, in pixels; what lies beyond its ends is drawn there. */
export function bodyDown(top: number, low: number, from: number, to: number) {
	const down = linear([top, low], [from, to]);
	return (height: number) => down(Math.max(low, Math.min(top, height)));
}

/** Round moments of a plan, in seconds, at least so many pixels apart: 5, 15 and 30 s, whole minutes, quarters. */
export function momentTicks(from: number, to: number, pixels: number, apart: number): number[] {
	const most = Math.max(1, Math.floor(pixels / apart));
	for (let n = most; n >= 1; n--) {
		const ticks = utcTicks(new Date(from * 1000), new Date(to * 1000), n).map((d) => d.getTime() / 1000);
		if (ticks.length < 2 || ((ticks[1]! - ticks[0]!) / (to - from)) * pixels >= apart) return ticks;
	}
	return [];
}

/** Days, as dates, across a picture, in percent of its width. */
export function daysAcross(from: string | number, to: string | number) {
	return linear([new Date(from).getTime(), new Date(to).getTime()], [0, 100]);
}

/** The first days of months between two moments, at most so many, as milliseconds. */
export function monthTicks(from: number, to: number, most: number): number[] {
	const start = utcMonth.ceil(new Date(from));
	const every = Math.max(1, Math.ceil(utcMonth.count(start, new Date(to)) / most));
	return utcMonth.range(start, new Date(to), every).map((d) => d.getTime());
}
