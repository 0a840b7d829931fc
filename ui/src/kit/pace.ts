import { useEffect, useMemo, useState } from "react";

/** Calls back when the next picture has been drawn. */
export const drawn = (then: () => void) => void requestAnimationFrame(() => setTimeout(then));

/**
 * Passes values on at most every so many milliseconds, and drawing them takes no more than a quarter of the time: at once
 * after a rest, and the last one always.
 */
export function pace<T>(ms: number, follow: (value: T) => void, painted: (then: () => void) => void = drawn) {
	let next = Number.NEGATIVE_INFINITY; // the moment from which on another value may pass
	let drawing = false;
	let timer: ReturnType<typeof setTimeout> | undefined;
	let newest: { value: T } | undefined; // that has not passed yet
	function pass() {
		timer = undefined;
		if (!newest) return;
		const { value } = newest;
		newest = undefined;
		drawing = true;
		const begun = performance.now();
		follow(value);
		painted(() => {
			drawing = false;
			next = begun + Math.max(ms, 4 * (performance.now() - begun));
			if (newest) wait();
		});
	}
	function wait() {
		const rest = next - performance.now();
		if (rest <= 0) pass();
		else timer = setTimeout(pass, rest);
	}
	return {
		take(value: T) {
			newest = { value };
			if (!drawing && timer === undefined) wait();
		},
		stop() {
			clearTimeout(timer);
			timer = newest = undefined;
		},
	};
}

/** A value that follows another at a pace; with a pace of 0 it is the other itself. */
export function usePaced<T>(value: T, ms: number): T {
	const [paced, setPaced] = useState<{ value: T }>({ value });
	const [pacedAt, setPacedAt] = useState(ms);
	if (pacedAt !== ms) {
		// A pace that begins, begins with what is there now, not with what was before.
		setPacedAt(ms);
		setPaced({ value });
	}
	const pacer = useMemo(() => pace(ms, (v: T) => setPaced({ value: v })), [ms]);
	useEffect(() => {
		if (ms > 0) pacer.take(value);
	}, [pacer, value, ms]);
	useEffect(() => pacer.stop, [pacer]);
	return ms === 0 ? value : paced.value;
}
