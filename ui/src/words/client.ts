/** The words of the face map and of the client's own pages. The link page loads these and not the whole catalogue. */
import words from "../../../words/client.en.json" with { type: "json" };
import type { Schemas } from "../api/client";

export const pressureWords = words.pressures;

export const intentWords: Record<string, string> = words.intents;

export const skinStateWords = ["sensitive", "dehydrated", "mature", "acne-prone", "rosacea-prone", "couperose", "pigmentation-prone"];

export const skinTypes = ["dry", "normal", "combination", "oily"] as const;

/** The skin conditions as a client would say them. */
export const skinStateClientWords: Record<string, string> = words.skinConditions;

/** The areas of face and body as a client would say them, where the trade has another word. */
export const zoneClientWords: Record<string, string> = words.zones;

const dateWords: Record<string, string> = words.dates;

/** Which day a yes asks for. */
export function dateLabel(r: Schemas["Rule"]): string {
	if (r.asks === "due-date") return "Baby's due date";
	if (r.mayLast) return "Last day you used it";
	return dateWords[r.id] ?? (r.group === "Treatments elsewhere" ? "Date it was done (the latest)" : "Date (the latest)");
}

/** What the client reads on the private link. */
export const clientCaution = words.disclaimer;
