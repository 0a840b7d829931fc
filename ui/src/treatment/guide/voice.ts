import * as w from "../../words/catalogue/treatment";
import type { Spell } from "./spells";

/** Voices that run on the device: others would send the words away (handbook, chapter 7, Sound and voice). */
export const localVoices = (all: readonly SpeechSynthesisVoice[]) => all.filter((v) => v.localService && v.lang.startsWith("en"));

/** How fast it speaks. */
export const rate = 0.9;

/** Seconds before a spell's end at which what to reach for is said. */
export const beforeEnd = 4;

const numbers = ["", "One", "Two", "Three", "Four", "Five", "Six", "Seven", "Eight", "Nine", "Ten", "Eleven", "Twelve"];

/** What is said at the start of a spell's lead: side, short name, hand or tool edge where it changes, number. */
export function spellSays(s: Spell, side: string, before: Spell | undefined): string {
	const hand = (x: Spell | undefined) =>
		x?.step.toolName ? `${x.step.toolName}${x.step.tool?.part ? `, ${x.step.tool.part}` : ""}` : (x?.step.hand ?? "");
	const d = s.step.dose;
	const times = d && ["reps", "counts", "breaths"].includes(d.kind) ? (d.planned ?? 0) : 0;
	const own = hand(s);
	return w
		.saysSpell({
			side: side === "left" ? w.saysLeft : side === "right" ? w.saysRight : "",
			name: `${s.step.short || s.step.name}.`,
			hand: own && own !== hand(before) ? `${own}.` : "",
			number: times > 0 ? `${numbers[times] ?? times}.` : "",
		})
		.replace(/\s+/g, " ")
		.trim();
}

/** What a moment says: a caution before the words of a step, these before a cue; a heavier one cuts a lighter one off. */
export type Saying = { text: string; weight: number };

export const weights = { caution: 3, step: 2, cue: 1 } as const;

/** Whether something may be said while something else is. */
export const cutsOff = (now: Saying | undefined, next: Saying) => now === undefined || next.weight >= now.weight;
