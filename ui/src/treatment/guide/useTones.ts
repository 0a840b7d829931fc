import { useCallback, useEffect, useRef } from "react";

const names = ["tick", "last", "next", "side", "waiting", "stop"] as const;
export type Tone = (typeof names)[number];

/** Level of the tones, 0 to 10, where nobody said another. */
export const usualLevel = 4;

/** Plays the room's tones. Nothing is told by sound alone; while the client sleeps only the side tone is heard, at half. */
export function useTones(level: number, quiet: boolean) {
	const players = useRef<Partial<Record<Tone, HTMLAudioElement>>>({});
	useEffect(() => {
		for (const name of names) {
			const player = new Audio(`/tones/${name}.wav`);
			player.preload = "auto";
			players.current[name] = player;
		}
		return () => {
			players.current = {};
		};
	}, []);
	return useCallback(
		(tone: Tone) => {
			const player = players.current[tone];
			const loud = quiet ? (tone === "side" ? level / 2 : 0) : level;
			if (!player || loud <= 0) return;
			player.volume = loud / 10;
			player.currentTime = 0;
			player.play().catch(() => undefined); // a browser that wants a touch first stays silent
		},
		[level, quiet],
	);
}

type Now = { spell: string | null; side: string; count: number; last: boolean; waiting: boolean; running: boolean; stopped: boolean };

/** Which tone a change asks for; the weightiest where several come at once. */
export function toneOf(was: Now, now: Now): Tone | undefined {
	if (now.stopped && !was.stopped) return "stop";
	if (!now.running) return undefined;
	if (now.waiting && !was.waiting) return "waiting";
	if (now.spell !== was.spell) return "next";
	if (now.side !== was.side && now.side !== "") return "side";
	if (now.count !== was.count && now.count > 0) return now.last ? "last" : "tick";
	return undefined;
}

/** Plays what the guide's changes ask for. */
export function useGuideTones(now: Now, level: number, quiet: boolean) {
	const play = useTones(level, quiet);
	const was = useRef(now);
	useEffect(() => {
		const tone = toneOf(was.current, now);
		was.current = now;
		if (tone) play(tone);
	}, [now, play]);
}
