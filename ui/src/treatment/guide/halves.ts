import type { Spell } from "./spells";

/** The second half differs from the first from this share on (handbook, chapter 7, What is on screen). */
const tenth = 0.1;

/** One half of a plan that works one whole side and then the other: its seconds, and by how many the second differs. */
export type Half = { half: 1 | 2; first: number; differs: number };

/**
 * The half that a spell lies in; nothing where the plan has no halves. Of the first half's spells what they really took
 * counts once they are done; of the second what was done, and what is still planned.
 */
export function halfOf(spells: readonly Spell[], index: number, t: number, spent: Readonly<Record<string, number>>): Half | undefined {
	const mirrored = new Set(spells.map((s) => s.step.mirrorOf).filter(Boolean));
	const here = spells[index];
	if (!here || mirrored.size === 0) return undefined;
	const isFirst = (s: Spell) => mirrored.has(s.step.id);
	const isSecond = (s: Spell) => Boolean(s.step.mirrorOf);
	if (!isFirst(here) && !isSecond(here)) return undefined;
	const took = (s: Spell) => (s.index < index ? (spent[s.key] ?? 0) : s.index === index ? Math.max(t, s.seconds) : s.seconds);
	const sum = (of: Spell[]) => of.reduce((all, s) => all + took(s), 0);
	const first = sum(spells.filter(isFirst));
	if (isFirst(here)) return { half: 1, first, differs: 0 };
	const second = sum(spells.filter(isSecond));
	return { half: 2, first, differs: Math.abs(second - first) > tenth * first ? second - first : 0 };
}
