import { createContext, useCallback, useEffect, useRef } from "react";

const names = ["tick", "last", "next", "side", "waiting", "breathIn", "breathOut", "stop"] as const;
export type Tone = (typeof names)[number];

/** Seconds that the breath tones were recorded for; they are stretched to the breath in hand. */
const recorded: Partial<Record<Tone, number>> = { breathIn: 4, breathOut: 6 };

/** Plays a tone, a breath's for so many seconds; what it gives back ends it early. */
export type Play = (tone: Tone, seconds?: number) => () => void;

/** How what is drawn at its own pace, the breath, lets itself be heard. */
export const Tones = createContext<Play>(() => () => undefined);

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
		(tone: Tone, seconds?: number) => {
			const player = players.current[tone];
			const loud = quiet ? (tone === "side" ? level / 2 : 0) : level;
			if (!player || loud <= 0) return () => undefined;
			player.volume = loud / 10;
			player.playbackRate = seconds ? (recorded[tone] ?? seconds) / seconds : 1;
			player.currentTime = 0;
			player.play().catch(() => undefined); // a browser that wants a touch first stays silent
			return () => player.pause();
		},
		[level, quiet],
	);
}

type Now = {
	spell: string | null;
	side: string;
	count: number;
	last: boolean;
	waiting: boolean;
	/** How often an open step has been called since it was at its most. */
	calls: number;
	running: boolean;
	stopped: boolean;
};

/** Seconds between two calls of an open step that is at its most. */
const callEvery = 15;

/** How often an open step has called, so many seconds after it was at its most. */
export const callsAfter = (seconds: number) => (seconds < 0 ? 0 : Math.floor(seconds / callEvery) + 1);

/** Which tone a change asks for; the weightiest where several come at once. */
export function toneOf(was: Now, now: Now): Tone | undefined {
	if (now.stopped && !was.stopped) return "stop";
	if (!now.running) return undefined;
	if ((now.waiting && !was.waiting) || (now.spell === was.spell && now.calls > was.calls)) return "waiting";
	if (now.spell !== was.spell) return "next";
	if (now.side !== was.side && now.side !== "") return "side";
	if (now.count !== was.count && now.count > 0) return now.last ? "last" : "tick";
	return undefined;
}

/** Plays what the guide's changes ask for, and gives what plays. */
export function useGuideTones(now: Now, level: number, quiet: boolean): Play {
	const play = useTones(level, quiet);
	const was = useRef(now);
	useEffect(() => {
		const tone = toneOf(was.current, now);
		was.current = now;
		if (tone) play(tone);
	}, [now, play]);
	return play;
}
