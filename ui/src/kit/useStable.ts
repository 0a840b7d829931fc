import { useMemo, useRef } from "react";

/** The same functions for as long as a component is there, so that what they are given to need not be drawn anew; each calls what the newest drawing says. */
export function useStable<T extends Record<string, (...args: never[]) => unknown>>(acts: T): T {
	const now = useRef(acts);
	now.current = acts;
	return useMemo(
		() => Object.fromEntries(Object.keys(now.current).map((k) => [k, (...args: never[]) => now.current[k]?.(...args)])) as unknown as T,
		[],
	);
}
