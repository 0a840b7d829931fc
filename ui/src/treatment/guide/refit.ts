import type { Schemas } from "../../api/client";
import type { Spell } from "./spells";

type Table = readonly Schemas["PreparedRefit"][];

/** The minutes for which re-fits are prepared. */
const mostEarly = -5;
const mostLate = 15;

/** When a re-fit is offered, in seconds late, and how much further it must move once it was declined (handbook, chapter 7). */
export function offers(late: number, declinedAt: number | null): boolean {
	if (late < 90 - 1e-9 && late > -180 + 1e-9) return false;
	if (declinedAt === null) return true;
	return declinedAt * late < 0 || Math.abs(late) - Math.abs(declinedAt) >= 60 - 1e-9;
}

export type Offer = { from: string; minutes: number; fit: Schemas["TabletFit"] /** Later than any re-fit reaches. */; beyond: boolean };

/** The re-fit prepared for a spell's end and so many seconds late; it is picked, never worked out here. */
export function offerAt(table: Table, from: string, late: number): Offer | undefined {
	const minutes = Math.ceil(late / 60 - 1e-9);
	const within = Math.max(mostEarly, Math.min(mostLate, minutes));
	const fit = table.find((p) => p.from === from)?.fits[String(within)];
	return fit && { from, minutes: within, fit, beyond: minutes > mostLate };
}

/** The spells of a plan once a re-fit was taken: doses changed, what is left out gone. Each stays where it was on the original plan, by which lateness is told. */
export function refitted(spells: Spell[], taken: Schemas["TakenRefit"] | null, table: Table): Spell[] {
	const fit = taken && table.find((p) => p.from === taken.from)?.fits[String(taken.minutes)];
	if (!fit) return spells;
	const from = spells.findIndex((s) => s.key === taken.from);
	return spells
		.flatMap((s) => {
			const dose = s.index > from ? fit.doses[s.key] : undefined;
			if (dose === undefined) return [s];
			return dose === 0 ? [] : [withDose(s, dose, fit.seconds[s.key] ?? s.seconds)];
		})
		.map((s, index) => ({ ...s, index }));
}

function withDose(s: Spell, dose: number, seconds: number): Spell {
	const each = (seconds - s.seconds) / Math.max(1, s.visit.passes.length);
	const passes = s.visit.passes.map((p, i) => ({ ...p, start: p.start + i * each, seconds: Math.max(0.1, p.seconds + each) }));
	return {
		...s,
		seconds,
		step: { ...s.step, dose: { ...s.step.dose!, planned: dose } },
		visit: { ...s.visit, passes, end: s.visit.start + seconds - s.visit.lead },
	};
}
