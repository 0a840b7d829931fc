/** Every text that the screens compose: the English catalogue. */
import type { Schemas } from "../api/client";

type Finding = Schemas["Finding"];
type Names = { zone: (key: string) => string; step: (id: string) => string };

export const pressureWords = ["resting", "feather", "light", "medium", "firm", "deep"] as const;

export const sideWords: Record<string, string> = {
	mid: "midline",
	both: "both at once",
	turns: "left and right in turn",
	left: "left",
	right: "right",
	first: "first side",
	second: "second side",
};

export const phaseWords: Record<string, string> = {
	settle: "Settle",
	"look-over": "Look over",
	cleanse: "Cleanse",
	prepare: "Prepare",
	apply: "Apply",
	open: "Open drainage",
	work: "Work",
	exercises: "Exercises",
	compare: "Compare",
	close: "Close drainage",
	finish: "Finish",
	wake: "Wake",
	reset: "Reset the room",
};

export const roleWords: Record<string, string> = { owner: "Owner", practitioner: "Practitioner", "front-desk": "Front desk" };

export const stateWords: Record<string, string> = {
	booked: "booked",
	confirmed: "confirmed",
	arrived: "arrived",
	"in-room": "in the room",
	done: "done",
	cancelled: "cancelled",
	"late-cancelled": "cancelled late",
	"no-show": "did not come",
};

export const headlineWords: Record<string, string> = {
	go: "Go",
	"go-with-changes": "Go, with changes",
	"needs-letter": "Needs a doctor's letter",
	"not-before": "Not before",
	"not-here": "Not here: a doctor first",
	urgent: "Urgent: seek medical help now",
	not: "Not today",
};

export const kindWords: Record<string, string> = {
	urgent: "Urgent",
	stop: "Not here",
	wait: "Wait",
	letter: "Doctor's letter",
	"leave-out": "Leave out",
	cap: "Lighter",
	exclude: "Not to use",
	mind: "Mind",
};

export const nodeWords: Record<string, string> = {
	terminus: "the collarbone hollow",
	axillary: "the armpit",
	"deep-cervical": "the neck",
	preauricular: "the ear",
	submandibular: "the nodes under the jaw",
	submental: "the nodes under the chin",
	mastoid: "the nodes behind the ear",
	occipital: "the nodes at the back of the head",
};

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

export const fixWords: Record<string, string> = {
	"lower-pressure": "Lower the pressure",
	"take-turns": "Work left and right in turn",
	"leave-zone": "Leave the zone out",
	"drop-tool": "Work by hand",
	"reverse-path": "Turn the path round",
	"move-before": "Bring the opening forward",
	"open-first": "Open it first",
	"open-all": "Add the opening",
	"carry-home": "Carry it home at the end",
	"add-product": "Add product before it",
	blot: "Take product off first",
	"less-product": "Bring it into the range",
	"mirror-step": "Do the same on the other side",
	"fit-slot": "Fit the doses to the slot",
};

const s = (v: unknown) => String(v);

/** A finding as a sentence: what is so, and what to do. */
export function findingText(f: Finding, n: Names): string {
	const v = f.values as Record<string, unknown>;
	const zone = v.zone ? n.zone(s(v.zone)) : "";
	const side = v.side ? ` (${s(v.side)})` : "";
	switch (f.code) {
		case "pressure-ceiling":
			return `${zone} takes ${s(v.ceiling)} at most; this asks ${s(v.pressure)}. Go lighter, or write a reason on the step.`;
		case "pressure-absolute":
			return `${zone} takes ${s(v.ceiling)} at most, whatever the reason; this asks ${s(v.pressure)}. Go lighter.`;
		case "pressure-both-neck":
			return "Never press both sides of the neck at once: both carotids lie there. Work them in turn, or no more than a feather.";
		case "tool-on-throat":
			return "No tool on the throat, ever. Leave it out.";
		case "pressure-drain":
			return `Draining works at a feather; ${s(v.pressure)} presses the lymph vessels shut. Go lighter.`;
		case "excluded-zone":
			return `${zone}${side} is left out today.`;
		case "drainage-order":
			return `This opens ${nodeWords[s(v.node)]} before ${nodeWords[s(v.needs)]}${side}. Open what lies nearer the heart first.`;
		case "drainage-closed":
			return `This drains towards ${nodeWords[s(v.node)]}, not open yet${side}. Open it before this step.`;
		case "drainage-left":
			return `What was moved to ${zone.toLowerCase()}${side} is not taken down to the collarbone hollow. Carry it home before the end.`;
		case "drainage-no-open":
			return "The plan drains and never opens. Its school opens first: start at the collarbone hollow.";
		case "drainage-no-close":
			return "The plan drains and never carries home. Its school closes: end at the collarbone hollow.";
		case "direction-drain":
			return `From ${n.zone(s(v.from)).toLowerCase()} to ${n.zone(s(v.to)).toLowerCase()} runs away from the nodes. Turn it round.`;
		case "direction-lift":
			return `A lift goes up and out; this goes down from ${n.zone(s(v.from)).toLowerCase()} to ${n.zone(s(v.to)).toLowerCase()}.`;
		case "direction-neck":
			return "Draining the neck goes down, towards the collarbone hollow. This goes up.";
		case "glide-thin":
			return `The film is thin: slip ${s(v.slip)} where the stroke needs ${s(v.least)}. It will drag; add product.`;
		case "glide-wet":
			return `The skin is too slippery: slip ${s(v.slip)} where a grip needs at most ${s(v.most)}. Take product off.`;
		case "glide-slippery":
			return `Kneading on slip ${s(v.slip)} slides away. Blot, or knead later.`;
		case "glide-unknown":
			return "No product is stated, so the slip is not known. Say which product goes on, and how much.";
		case "amount-over":
			return `${s(v.product)}: ${s(v.ml)} mL in all, the studio's range ends at ${s(v.most)} mL.`;
		case "sides-unequal":
			return `Left is worked ${s(v.left)} s, right ${s(v.right)} s. Even them out, or state an emphasis.`;
		case "fit-over":
			return `Runs ${clockWords(Number(v.seconds))} over the hands-on time.`;
		case "fit-under":
			return `Leaves ${clockWords(Number(v.seconds))} of the hands-on time unused.`;
		case "speed-delicate":
			return `${s(v.speed)} cm/s on ${zone.toLowerCase()} drags delicate skin. Slow down below 30.`;
		case "speed-soothing":
			return `${s(v.speed)} cm/s; slow touch of 1 to 10 cm/s soothes best.`;
	}
	return f.code;
}

function clockWords(seconds: number): string {
	const m = Math.floor(seconds / 60);
	const r = seconds % 60;
	return m === 0 ? `${r} s` : `${m} min ${r} s`;
}

/** What becomes of a thing in a file. */
export function fateWords(t: Schemas["BroughtThing"]): string {
	switch (t.fate) {
		case "new":
			return "new";
		case "same":
			return "there already, the same";
		case "kept":
			return "there already; the studio's own is kept";
		case "added-as":
			return `added beside the studio's own, as ${t.as}`;
	}
	return t.fate;
}

/** A change that tailoring made, as a sentence. */
export function changeText(c: Schemas["Change"], n: Names): string {
	const zone = c.zone ? n.zone(c.zone).toLowerCase() : "";
	switch (c.did) {
		case "rerouted":
			return `${c.name}: led round ${zone}`;
		case "one-side":
			return `${c.name}: whole on the ${c.to} only, ${zone} left out on the other side`;
		case "lowered":
			return `${c.name}: pressure ${c.from} to ${c.to} at ${zone}`;
		case "swapped":
			return `${c.name}: ${c.to} instead`;
		case "replaced":
			return c.to ? `${c.name}: ${c.to} instead of ${c.from}` : `${c.name}: without ${c.from}`;
		case "left-out":
			return `${c.name}: left out`;
		case "no-way-home":
			return `${c.name}: left out, its way home is closed today`;
		case "no-time":
			return `${c.name}: left out so that the rest fits its time`;
		case "other-hand":
			return `${c.name}: by ${c.to || "another hand"} instead of ${c.from || "the tool"}`;
		case "restored":
			return `${c.name}: added so that opening, way home and slip are whole`;
		case "refitted":
			return `${c.to} doses changed so that the time is used`;
	}
	return c.name;
}

/** A dose in short: 3 x, 30 s, 4 breaths. */
export function doseText(d: Schemas["Dose"]): string {
	const sets = d.sets && d.sets > 1 ? `${d.sets} sets of ` : "";
	switch (d.kind) {
		case "reps":
			return `${sets}${d.planned} ×`;
		case "clock":
			return `${sets}${d.planned} s`;
		case "breaths":
			return `${d.planned} breath${d.planned === 1 ? "" : "s"}${d.pulses ? `, ${d.pulses} pumps each` : ""}`;
		case "positions":
			return `${d.places} places × ${d.seconds} s × ${d.planned}`;
		case "until":
			return `until ${d.sign ?? "the sign"}, about ${d.planned} s`;
		case "free":
			return `as it feels right, about ${d.planned} s`;
		case "unknown":
			return `not said, planned as ${d.planned} s`;
	}
	return "as the protocol says";
}

export const caution =
	"Cosmetic massage is not medical treatment. These are the trade's usual cautions. Local codes, your licence and the client's doctor come first.";
