import { useEffect, useMemo, useState } from "react";

/** Passes values on at most every so many milliseconds: at once after a rest, and the last one always. */
export function pace<T>(ms: number, follow: (value: T) => void) {
	let last = Number.NEGATIVE_INFINITY;
	let timer: ReturnType<typeof setTimeout> | undefined;
	let newest: T;
	const pass = () => {
		timer = undefined;
		last = performance.now();
		follow(newest);
	};
	return {
		take(value: T) {
			newest = value;
			if (timer !== undefined) return;
			const wait = last + ms - performance.now();
			if (wait <= 0) pass();
			else timer = setTimeout(pass, wait);
		},
		stop() {
			clearTimeout(timer);
			timer = undefined;
		},
	};
}

/** A value that follows another at a pace; with a pace of 0 it is the other itself. */
export function usePaced<T>(value: T, ms: number): T {
	const [paced, setPaced] = useState<{ value: T }>({ value });
	const pacer = useMemo(() => pace(ms, (v: T) => setPaced({ value: v })), [ms]);
	useEffect(() => {
		if (ms > 0) pacer.take(value);
	}, [pacer, value, ms]);
	useEffect(() => pacer.stop, [pacer]);
	return ms === 0 ? value : paced.value;
}
