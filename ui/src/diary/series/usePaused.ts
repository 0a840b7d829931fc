import { useEffect, useState } from "react";

/** What is typed, a moment after typing paused. */
export function usePaused<T>(value: T, ms: number): T {
	const [late, setLate] = useState(value);
	useEffect(() => {
		const id = setTimeout(() => setLate(value), ms);
		return () => clearTimeout(id);
	}, [value, ms]);
	return late;
}
