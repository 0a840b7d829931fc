/** The words of the face map and of the client's own pages. The link page loads these and not the whole catalogue. */
import type { Schemas } from "../api/client";

export const pressureWords = ["resting", "feather-light", "light", "medium", "firm", "deep"] as const;

export const intentWords: Record<string, string> = {
	settle: "settle",
	cleanse: "cleanse",
	spread: "spread",
	open: "open",
	drain: "drain",
	lift: "lift",
	release: "release",
	tone: "tone",
	soothe: "soothe",
	stimulate: "stimulate",
	"look-over": "look over",
	finish: "finish",
};

export const skinStateWords = ["sensitive", "dehydrated", "mature", "acne-prone", "rosacea-prone", "couperose", "pigmentation-prone"];

export const skinTypes = ["dry", "normal", "combination", "oily"] as const;

/** The skin conditions as a client would say them. */
export const skinStateClientWords: Record<string, string> = {
	sensitive: "sensitive",
	dehydrated: "dehydrated (tight, lacking water)",
	mature: "mature",
	"acne-prone": "prone to spots (acne)",
	"rosacea-prone": "prone to redness (rosacea)",
	couperose: "broken veins",
	"pigmentation-prone": "dark patches",
};

/** The areas of face and body as a client would say them, where the trade has another word. */
export const zoneClientWords: Record<string, string> = {
	glabella: "Between the eyebrows",
	brow: "Eyebrow",
	"brow-base": "Inner end of the eyebrow",
	"under-eye": "Under the eye",
	"orbital-rim": "Bone around the eye",
	"inner-eye-corner": "Inner corner of the eye",
	"outer-eye-corner": "Outer corner of the eye",
	"nose-side": "Side of the nose",
	"mid-cheek": "Middle of the cheek",
	nasolabial: "Smile line",
	"lip-centre-upper": "Middle of the upper lip",
	"lip-centre-lower": "Middle of the lower lip",
	"mouth-corner": "Corner of the mouth",
	"lower-cheek": "Lower part of the cheek",
	"jaw-angle": "Corner of the jaw",
	"under-jaw": "Under the jaw",
	"ear-opening": "Opening of the ear",
	"scalp-side": "Side of the head",
	crown: "Top of the head",
	"skull-edge": "Where head and neck meet, at the back",
	occiput: "Back of the head",
	nape: "Middle of the back of the neck",
	"collarbone-hollow": "Hollow above the collarbone",
	"below-collarbone": "Just below the collarbone",
	"mouth-upper": "Behind the last upper teeth",
	"mouth-lower": "Behind the last lower teeth",
};

const dateWords: Record<string, string> = {
	fever: "Last day you had it (today, if you still do)",
	"vaccination-fever": "Last day you had it (today, if you still do)",
	sunburn: "Day you were burnt",
};

/** Which day a yes asks for. */
export function dateLabel(r: Schemas["Rule"]): string {
	if (r.asks === "due-date") return "Baby's due date";
	if (r.mayLast) return "Last day you used it";
	return dateWords[r.id] ?? (r.group === "Treatments elsewhere" ? "Date it was done (the latest)" : "Date (the latest)");
}

/** What the client reads on the private link. */
export const clientCaution =
	"Facial massage here is a beauty treatment, not medical care. Your answers help us leave out anything that could hurt you. If you are worried about your health, ask your doctor first.";
