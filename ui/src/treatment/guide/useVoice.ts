import { useEffect, useMemo, useRef, useState } from "react";
import * as w from "../../words/catalogue/treatment";
import type { RoomGuide } from "../useRoomGuide";
import { reachFor } from "./Now";
import { beforeEnd, cutsOff, localVoices, rate, type Saying, spellSays, weights } from "./voice";

const synthesis = typeof window !== "undefined" && "speechSynthesis" in window ? window.speechSynthesis : undefined;

/** Of what is answered on the screen only these are spoken: never names, health, grades or lateness. */
const spoken = [w.lighterNow, w.tellLighterNow, w.cueBreath, w.cueShoulders, w.cueForehead];

/** The voices of this device; browsers tell them late. */
export function useLocalVoices(): SpeechSynthesisVoice[] {
	const [voices, setVoices] = useState(() => localVoices(synthesis?.getVoices() ?? []));
	useEffect(() => {
		if (!synthesis?.addEventListener) return;
		const heard = () => setVoices(localVoices(synthesis.getVoices()));
		synthesis.addEventListener("voiceschanged", heard);
		return () => synthesis.removeEventListener("voiceschanged", heard);
	}, []);
	return voices;
}

/** Speaks what the hands need to know, by a voice of this device only; the guide never waits for it. */
export function useVoice(r: RoomGuide, on: boolean, stopped: boolean) {
	const voices = useLocalVoices();
	const voice = voices[0];
	const speaking = useRef<Saying | undefined>(undefined);
	const side = r.run?.side ?? "";
	const spell = r.spell;
	const key = spell?.key;
	const before = r.spells[r.index - 1];
	const silent = !on || !voice || r.here.quiet || !r.leads || !r.running;
	const say = useMemo(
		() => (next: Saying) => {
			if (!synthesis || !voice || !next.text || !cutsOff(synthesis.speaking ? speaking.current : undefined, next)) return;
			synthesis.cancel();
			const u = new SpeechSynthesisUtterance(next.text);
			u.voice = voice;
			u.rate = rate;
			speaking.current = next;
			synthesis.speak(u);
		},
		[voice],
	);
	const said = useRef({ key: "", side: "", last: false, reach: "", cue: "" });
	useEffect(() => {
		if (stopped) synthesis?.cancel();
	}, [stopped]);
	useEffect(() => {
		if (silent || !spell || !key) return;
		const s = said.current;
		if (s.key !== key) {
			said.current = { key, side, last: false, reach: "", cue: s.cue };
			say({ text: spellSays(spell, side, before), weight: weights.step });
			return;
		}
		if (s.side !== side) {
			s.side = side;
			say({ text: w.saysOtherSide, weight: weights.step });
		}
		const reach = r.left < beforeEnd ? reachFor(spell.step, r.spells[r.index + 1]?.step) : "";
		if (reach && s.reach === "") {
			s.reach = reach;
			say({ text: w.saysNext({ what: reach }), weight: weights.step });
		}
		if (r.said !== s.cue && spoken.includes(r.said)) say({ text: r.said, weight: r.said === w.lighterNow ? weights.caution : weights.cue });
		s.cue = r.said;
	});
}
