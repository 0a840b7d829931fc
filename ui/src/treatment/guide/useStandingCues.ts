import { useCallback, useEffect, useRef } from "react";
import * as w from "../../words/catalogue/treatment";
import { Cues } from "./cues";

const cueWords: Record<string, string> = { breath: w.cueBreath, shoulders: w.cueShoulders, forehead: w.cueForehead };

type At = {
	spell: string | null;
	/** Seconds into the spell, and left of it. */
	t: number;
	left: number;
	breaths: boolean;
	silent: boolean;
	onCue: (cue: string, text: string) => void;
};

/** Says cues that come back, by hands-on time, in between what the hands do; returns what says the next one now. */
export function useStandingCues({ spell, t, left, breaths, silent, onCue }: At) {
	const spent = useRef({ before: 0, t: 0, spell: null as string | null, cues: new Cues() });
	useEffect(() => {
		const s = spent.current;
		if (s.spell !== spell) {
			s.before += s.t;
			s.spell = spell;
		}
		s.t = t;
		if (silent) return;
		const { say } = s.cues.at(s.before + t, { into: t, left, breaths });
		if (say) onCue(say, cueWords[say] ?? say);
	}, [spell, t, left, breaths, silent, onCue]);
	return useCallback(() => {
		const s = spent.current;
		const say = s.cues.now(s.before + s.t);
		if (say) onCue(say, cueWords[say] ?? say);
	}, [onCue]);
}
