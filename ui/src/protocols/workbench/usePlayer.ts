import { useCallback, useEffect, useRef, useState } from "react";

/** A playing head over some seconds. */
export function usePlayer(total: number) {
	const [at, setAt] = useState(0);
	const [playing, setPlaying] = useState(false);
	const [speed, setSpeed] = useState(1);
	const last = useRef(0);
	useEffect(() => {
		if (!playing) return;
		let id = 0;
		last.current = performance.now();
		const tick = (t: number) => {
			const dt = ((t - last.current) / 1000) * speed;
			last.current = t;
			setAt((a) => Math.min(total, a + dt));
			id = requestAnimationFrame(tick);
		};
		id = requestAnimationFrame(tick);
		return () => cancelAnimationFrame(id);
	}, [playing, speed, total]);
	useEffect(() => {
		if (at >= total) setPlaying(false);
	}, [at, total]);
	const seek = useCallback((t: number) => setAt(t), []);
	const pause = useCallback(() => setPlaying(false), []);
	return { at, seek, pause, playing, toggle: () => setPlaying((p) => !p), speed, setSpeed };
}
