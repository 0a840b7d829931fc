/** The words of the face map and of the client's own pages. The link page loads these and not the whole catalogue. */

import type { Schemas } from "../api/client";
import * as names from "./catalogue/clientNames";
import * as w from "./catalogue/clientPhrases";
import * as shared from "./catalogue/shared";

export const pressureWords = shared.pressures;

export const intentWords: Record<string, string> = names.intents;

export const skinStateWords = ["sensitive", "dehydrated", "mature", "acne-prone", "rosacea-prone", "couperose", "pigmentation-prone"];

export const skinTypes = ["dry", "normal", "combination", "oily"] as const;

/** The skin conditions as a client would say them. */
export const skinStateClientWords: Record<string, string> = names.skinConditions;

/** The areas of face and body as a client would say them, where the trade has another word. */
export const zoneClientWords: Record<string, string> = names.zones;

const dateWords: Record<string, string> = names.dates;

/** Which day a yes asks for. */
export function dateLabel(r: Schemas["ClientQuestion"]): string {
	if (r.asks === "due-date") return w.babysDueDate;
	if (r.mayLast) return w.lastDayYouUsedIt;
	return dateWords[r.id] ?? (r.group === "Treatments elsewhere" ? w.dateItWasDoneTheLatest : w.dateTheLatest);
}

/** What the client reads on the private link. */
export const clientCaution = names.disclaimer;
