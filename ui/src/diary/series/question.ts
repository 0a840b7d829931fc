import type { Asked } from "./Line";
import type { Offer } from "./say";

/** A question about a series as it is sent. */
export const questionOf = (a: Asked) => ({
	client: a.client,
	what: a.what.map((x) => ({
		protocol: x.protocol,
		...(x.visits > 0 ? { visits: x.visits } : {}),
		...(x.also.length > 0 ? { also: x.also } : {}),
	})),
	often: a.often,
	when: a.when,
	with: a.with,
	review: a.review,
	...(a.gaps.length > 0 ? { gaps: a.gaps } : {}),
});

export type Question = ReturnType<typeof questionOf>;

/** The visits of an offer as they are sent back: when and with whom. */
export const currentOf = (o: Offer) =>
	o.visits.filter((v) => v.kind === "treatment").map((v) => ({ start: v.wall, practitioner: v.practitioner }));
