/** Every text that the screens compose: the English catalogue. */
import type { Schemas } from "../api/client";
import { dayWords } from "../kit/format";

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
	across: "across the face",
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
	"not-here": "Not here for now",
	urgent: "Urgent: seek medical help now",
	not: "Not today",
};

/** What to expect of a visit still to come. */
export function outlookText(v: { outlook?: string | undefined; notBefore?: string | undefined }): string {
	const word = headlineWords[v.outlook ?? ""] ?? "";
	return v.outlook === "not-before" && v.notBefore ? `${word} ${dayWords(v.notBefore)}` : word;
}

const toDo: Record<string, string> = {
	"needs-letter": "Write to the doctor, or leave it to another day.",
	"not-before": "Move it to the first day allowed.",
	"not-here": "Move it on; a doctor first.",
	urgent: "Not here: medical help first.",
	not: "Move it to another day.",
};

/** What to do about what is to be expected of a visit. */
export function toDoText(v: { outlook?: string | undefined; patchFirst?: readonly string[] | undefined }): string {
	return [toDo[v.outlook ?? ""], v.patchFirst?.length ? "Offer ten minutes for the patch test." : ""].filter(Boolean).join(" ");
}

export const kindWords: Record<string, string> = {
	urgent: "Urgent",
	stop: "Not here",
	wait: "Wait",
	letter: "Doctor's letter",
	"leave-out": "Leave out",
	cap: "Lighter",
	exclude: "Not to use",
	mind: "Mind",
	lighter: "Wish",
	firmer: "Wish",
};

const namedPlaces = 6;

/** Places in words; more than a few are counted by side, and stand on the face beside it. */
function placesText(list: readonly { zone: string; side?: string | undefined }[], zone: (key: string) => string): string {
	const sides = new Map<string, Set<string>>();
	for (const p of list) sides.set(p.zone, (sides.get(p.zone) ?? new Set()).add(p.side || "both"));
	const side = (s: Set<string>) => (s.size === 1 && !s.has("both") ? [...s][0]! : "");
	if (sides.size <= namedPlaces) return [...sides].map(([z, s]) => `${zone(z).toLowerCase()}${side(s) && ` ${side(s)}`}`).join(", ");
	const all = new Set([...sides.values()].map(side));
	const where = all.size === 1 && !all.has("") ? `on the ${[...all][0]}` : all.has("left") || all.has("right") ? "" : "on both sides";
	return `${sides.size} places ${where}`.trim();
}

/** One thing a rule asks, in a line. */
export function outcomeText(
	o: Schemas["Contraindication"],
	zone: (key: string) => string,
	n?: { product: (key: string) => string },
): string {
	const x = o.outcome;
	const places = placesText(o.places ?? [], zone);
	const until = o.until ? `until ${dayWords(o.until)}` : "";
	const parts: (string | undefined)[] = [];
	if (o.allowed) parts.push(`Answered by the doctor's letter, through ${dayWords(o.until ?? "")}`);
	else if (o.kind === "wait") parts.push(`Wait ${until}`);
	else if (o.kind === "letter") parts.push("Only with a doctor's letter", until);
	else if (o.kind === "leave-out") parts.push(`Leave out ${places}`, until);
	else if (o.kind === "cap")
		parts.push(`At most ${x.pressure ?? 0} ${pressureWords[x.pressure ?? 0]}${places ? ` on ${places}` : ""}`, until);
	else if (o.kind === "exclude") {
		const what = [
			...(x.families ?? []),
			...(x.intents ?? []).map((i) => `strokes that ${intentWords[i] ?? i}`),
			...(x.tools ?? []).map((t) => toolKindWords[t]?.toLowerCase() ?? `${t} tools`),
			...(x.tags ?? []).map((t) => `${t.replaceAll("-", " ")} products`),
			...(x.forms ?? []).map((f) => f.replaceAll("-", " ")),
			...(x.products ?? []).map((p) => n?.product(p) ?? p),
			...(x.allergy ? [`products with ${x.allergy.name}`] : []),
		];
		parts.push(`Without ${what.join(", ")}${places ? ` on ${places}` : ""}`, until);
	} else if (o.kind === "lighter") parts.push("A lighter hand, one level less");
	else if (o.kind === "firmer") parts.push("A firmer hand, one level more where everything else allows it");
	if (x.does) parts.push(x.does);
	return parts
		.filter(Boolean)
		.map((s, i) => (i > 0 && s === until ? `, ${s}` : `${i > 0 ? ". " : ""}${s}`))
		.join("");
}

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
	announce: "Tell the client",
	"leave-step": "Take the step out",
	"clear-set": "Run the set down the neck",
	"reverse-open": "Close as it was opened",
	"copy-mirror": "Make it as the first side",
	"say-departure": "Keep it, as my own way",
	"add-phase": "Add it",
	"state-time": "State the time",
	"mist-first": "Mist before the cold",
	"cold-10-min": "Down to ten minutes",
	"work-zone": "Add a stroke for it",
	smoother: "Find a smoother order",
	"less-load": "Fewer repetitions there",
	"use-alternate": "Do it the other way",
	"wear-gloves": "Fresh gloves for the mouth only",
	"wash-hands": "Wash hands before it",
	"shake-out": "Add a shake-out",
	"drop-product": "Leave the product out",
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
		case "pressure-drop":
			return `From ${s(v.from)} down to ${s(v.to)} without a word. Tell the client that it gets lighter.`;
		case "drainage-barred":
			return `This drains towards nodes that are left out today${side}. It cannot be done there.`;
		case "drainage-set":
			return `This set is not run down the neck${side} before the next begins. The school clears after each set.`;
		case "closing-differs":
			return "The closing is not the opening in reverse, as this school has it.";
		case "direction-eye":
			return `From ${n.zone(s(v.from)).toLowerCase()} to ${n.zone(s(v.to)).toLowerCase()} runs towards the nose, against this school.`;
		case "stroke-missing":
			return `The stroke “${s(v.stroke)}” is no longer in the library. Remove the step, or choose another stroke.`;
		case "product-missing":
			return `The product “${s(v.product)}” is no longer on the shelf. Choose another one, or leave it out of the step.`;
		case "glide-dry":
			return `Dry, this drags over ${zone.toLowerCase()}. Leave it out, or carry the skin instead.`;
		case "mirror-differs":
			return `The second side is not worked as the first (${n.step(s(v.of))}). Make it alike, or keep it as a departure.`;
		case "sides-school":
			return `Worked ${sideWords[s(v.sides)] ?? s(v.sides)}; the school of this plan works sides otherwise.`;
		case "phase-missing":
			return `Nothing here for the phase ${(phaseWords[s(v.phase)] ?? s(v.phase)).toLowerCase()}.`;
		case "time-not-stated":
			return `${v.mask ? "A mask" : "Cold"} needs a stated time.`;
		case "cold-long":
			return `${s(v.minutes)} min of cold; at most ${s(v.most)}.`;
		case "cold-still":
			return "Cold must not rest under the eye. Keep it moving, or leave it out.";
		case "cold-before-mist":
			return "Dehydrated skin wants mist before the cold.";
		case "promise":
			return `Promised and not worked: ${(v.zones as string[]).map((z) => n.zone(z).toLowerCase()).join(", ")}.`;
		case "flow":
			return `The hands leave the face ${s(v.left)} times, change tools ${s(v.tools)} times and jump ${s(v.jumps)} times.`;
		case "load-eye":
			return `${s(v.seconds)} s of sliding on ${zone.toLowerCase()}${side}; at most ${s(v.most)} an eye. More raises swelling instead of lowering it.`;
		case "unsuited":
			return v.what === "product" ? `${s(v.product)} does not suit ${s(v.skin)} skin.` : `Not for ${s(v.skin)} skin.`;
		case "redness":
			return "This may leave redness, which this plan avoids.";
		case "too-often":
			return v.what === "exfoliation"
				? "Exfoliated within the last seven days. Once a week is enough."
				: `${s(v.what) === "roller" ? "A roller" : "Deep work"} ${s(v.times)} times within seven days already.`;
		case "gloves-missing":
			return "Never inside the mouth with bare hands.";
		case "hands-unwashed":
			return `Into the mouth after ${v.after === "hair" ? "hair" : "face or neck"}: wash the hands first.`;
		case "gloves-kept":
			return "The gloves from the mouth must come off before the face.";
		case "tool-not-ready":
			return `${s(v.tool)} is ready again only in ${s(v.minutes)} min.`;
		case "porous-twice":
			return `${s(v.tool)} is for one use and is used twice.`;
		case "hands-tired":
			return `${s(v.minutes)} min of thumb, pinch or knuckle at 4 to 5 without a break. Your joints pay for it.`;
		case "hands-day":
			return `With this, ${s(v.minutes)} min of thumb, pinch and knuckle work today; keep below ${s(v.most)}.`;
		case "nails":
			return `Long nails: the ${s(v.hand)} will scratch here.`;
		case "not-said":
			return `${s(v.property)[0]!.toUpperCase()}${s(v.property).slice(1)} was never said${v.said ? ` (“${s(v.said)}”)` : ""}; it is judged at the stroke’s own.`;
		case "drain-late":
			return `Draining ${s(v.minutes)} min before bed: the morning or the day is better.`;
	}
	return f.code;
}

function clockWords(seconds: number): string {
	const m = Math.floor(seconds / 60);
	const r = seconds % 60;
	return m === 0 ? `${r} s` : `${m} min ${r} s`;
}

/** What becomes of a thing in a file. */
export function fateWords(t: Schemas["ImportedItem"]): string {
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
export function changeText(c: Schemas["Adjustment"], n: Names): string {
	const zone = c.zone ? n.zone(c.zone).toLowerCase() : "";
	switch (c.did) {
		case "rerouted":
			return `${c.name}: led round ${zone}`;
		case "one-side":
			return `${c.name}: whole on the ${c.to} only, ${zone} left out on the other side`;
		case "lowered":
		case "firmer":
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
			if (c.rule?.endsWith("/re-apply")) return `${c.name}: product again before the film gets thin`;
			return `${c.name}: added so that opening, way home and slip are whole`;
		case "dosed":
			return `${c.name}: ${c.to} instead of ${c.from}`;
		case "slowed":
			return `A slower hand: sliding strokes take ${c.to} % of their time`;
		case "refitted":
			return `${c.to === "1" ? "One dose" : `${c.to} doses`} changed so that the time is used`;
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

/** What the audit log's lines say, by action and subject. */
export const auditWords: Record<string, string> = {
	"look client": "looked at the file",
	"look record": "looked at a record",
	"add client": "added the client",
	"change client": "changed the client",
	"screen client": "checked at the door",
	"send link client": "made a private link",
	"review consultation client": "reviewed the consultation",
	"write letter client": "wrote a letter to the doctor",
	"answer letter client": "recorded the doctor's answer",
	"sign consent client": "kept a signed consent",
	"withdraw consent client": "withdrew a consent",
	"print client": "printed a paper",
	"attach scan client": "attached a doctor's answer",
	"look at scan client": "looked at a doctor's answer",
	"apply patch test client": "applied a patch test",
	"read patch test client": "read a patch test",
	"hand over tablet client": "handed the tablet over",
	"add rule": "added a rule",
	"change rule": "changed a rule",
	"treat client": "began a treatment",
	"close record": "closed the record",
	"overrule visit": "overruled a caution",
	"move visit": "moved a visit",
	"change protocol visit": "changed a visit's protocol",
	"export client": "exported the file",
	"erase client": "erased the client",
	"lengthen rule": "changed a rule's days",
	"loosen rule": "loosened a rule",
	"import studio": "brought in a studio file",
};

/** What a consent is for, in the middle of a sentence. */
export const consentWords: Record<string, string> = {
	treatment: "the treatment",
	photos: "photos for the file",
	mouth: "work inside the mouth",
};

/** What the client reads on the private link. */
export const clientCaution =
	"Facial massage here is cosmetic, not medical treatment. Your answers help to leave out what could hurt. When in doubt about your health, ask your doctor first.";

export const caution =
	"Cosmetic massage is not medical treatment. These are the trade's usual cautions. Local codes, your licence and the client's doctor come first.";

export const skinWords = [...skinTypes, ...skinStateWords];

/** What may differ between two versions, by the names of the file format. */
export const fieldWords: Record<string, string> = {
	stroke: "stroke",
	phase: "phase",
	round: "round",
	hand: "hand",
	tool: "tool",
	sides: "sides",
	sense: "sense of circles",
	path: "path",
	dose: "dose",
	parts: "what a repetition is made of",
	last: "last repetition",
	pressure: "pressure",
	profile: "pressure along the way",
	anchor: "other hand",
	use: "product",
	remove: "product taken off",
	note: "note",
	departure: "departure",
	optional: "may be dropped",
	weight: "weight",
	emphasis: "more on one side",
	announce: "told to the client",
	client: "client’s part",
	minutes: "lengths",
	price: "price",
	school: "school",
	name: "name",
	summary: "summary",
	concerns: "concerns",
	skinTypes: "skin types",
	defaultDose: "default dose",
	rounds: "rounds",
	cues: "standing cues",
	sections: "sections",
	variants: "variants",
	dismissed: "findings put aside",
};

/** One step's change between two versions, as a sentence. */
export function stepChangeText(c: Schemas["StepChange"], name: string): string {
	const what = c.fields.map((f) => fieldWords[f] ?? f).join(", ");
	switch (c.change) {
		case "added":
			return `${c.to}. ${name}: added`;
		case "removed":
			return `${name}: taken out (was ${c.from})`;
		case "moved":
			return `${name}: moved from ${c.from} to ${c.to}${what ? `, with another ${what}` : ""}`;
	}
	return `${c.to}. ${name}: another ${what}`;
}

export const schoolWords = {
	drainage: {
		label: "Drainage",
		options: {
			"open-and-close": "opens and closes",
			"only-open": "only opens",
			"only-close": "only closes",
			middle: "in the middle",
			whole: "the whole treatment",
			none: "none",
		},
	},
	opening: {
		label: "Opening",
		options: { "nearest-first": "nearest the heart first", "feather-sweep": "one feather sweep to the terminus", kneaded: "nodes kneaded" },
	},
	closing: {
		label: "Closing",
		options: {
			"": "as it comes",
			reverse: "the opening in reverse",
			"chin-sweep": "chin-to-collarbone sweep",
			"forehead-sweep": "forehead sweep home",
		},
	},
	clearing: { label: "Down the neck", options: { "at-end": "once at the end", "after-set": "after each set" } },
	sides: {
		label: "Sides",
		options: {
			"": "as each step says",
			both: "both at once",
			"each-step": "left and right at each step",
			"whole-side": "one whole side, compare, the other",
		},
	},
	nape: { label: "Nape", options: { preference: "as the client prefers", down: "down", up: "up" } },
	eye: { label: "Round the eye", options: { "": "either way", outward: "always outward", "in-below": "out above, in below on the bone" } },
	slip: { label: "Slip", options: { "": "full", full: "full, said so", little: "little, for gripping work", dry: "dry throughout" } },
	dose: {
		label: "Doses",
		options: { "": "as each stroke has it", threes: "in threes", minute: "a minute each", until: "until it lets go" },
	},
	discomfort: { label: "Discomfort", options: { "": "bearable", comfort: "comfort only", bearable: "bearable ache, said so" } },
	redness: { label: "Redness after", options: { "": "no rule", expected: "expected", avoided: "avoided" } },
} as const;

export const doseKindWords: Record<string, string> = {
	reps: "counted repetitions",
	clock: "by the clock",
	breaths: "breaths",
	positions: "places held in turn",
	until: "until a sign shows",
	free: "as it feels right",
	unknown: "not said",
	inherited: "as the protocol says",
};

export const partWords: Record<string, string> = {
	move: "move along",
	hold: "hold",
	back: "back again",
	pulse: "pump",
	wiggle: "wiggle",
	swap: "change hands",
};

export const profileWords: Record<string, string> = {
	even: "even",
	builds: "builds to the end",
	eases: "eases at the end",
	"light-back": "light on the way back",
	"own-weight": "the tool’s own weight",
};

export const roleOfHandWords: Record<string, string> = {
	"": "not said",
	"holds-taut": "holds the skin taut",
	supports: "supports the head",
	covers: "covers",
	rests: "rests",
	catches: "catches what is scooped",
	"carries-on": "takes the stroke over",
};

export const commandWords: Record<string, { name: string; says: string }> = {
	"reverse-opening": { name: "Close as it was opened", says: "The closing becomes the opening in reverse." },
	"one-side-first": {
		name: "One whole side, then the other",
		says: "One side is worked whole, then compared, then the other side mirrors it.",
	},
	"in-turns": { name: "Left and right at each step", says: "Each step works one side, then the other." },
	"both-at-once": { name: "Both sides at once", says: "Wherever a stroke can, both hands work together." },
	mirror: { name: "Make side two as side one", says: "Differences that say so are kept and listed." },
	"smoother-order": { name: "A smoother order", says: "Fewer jumps and tool changes, every other rule kept." },
	"shorten-to": { name: "Shorten to a concern", says: "Only the work for one concern, opened and closed, fitted to a time." },
	"fit-to": { name: "Fit to a time", says: "Doses change as little as can be; the optimum is exact." },
};

/** What is laid out before a treatment. */
export function setUpText(i: Schemas["SetUpItem"]): string {
	const many = (n: number | undefined, one: string, more: string) => (n === 1 ? one : `${n} ${more}`);
	switch (i.kind) {
		case "product":
			return `${i.name}: ${i.ml} mL${i.drops ? ` (${i.drops} drops)` : i.presses ? ` (${i.presses} presses)` : ""}`;
		case "tool":
			return `${i.name}${(i.count ?? 1) > 1 ? `, ${i.count} pieces` : ""}${i.parts?.length ? `: ${i.parts.join(", ")}` : ""}${i.fragile ? "; a towel under it" : ""}`;
		case "bowl":
			return many(i.count, "A bowl", "bowls");
		case "towel":
			return many(i.count, "A fresh towel", "fresh towels");
		case "gloves":
			return many(i.count, "A pair of gloves", "pairs of gloves");
		case "tissues":
			return "Tissues";
		case "water":
			return "A glass of water";
	}
	return i.key === "long-nails" ? "Hands washed, rings off; knuckles where nails would scratch" : "Hands washed, nails short, rings off";
}

export const gapWords: Record<string, string> = {
	hand: "hand",
	tool: "tool",
	path: "place",
	sides: "side",
	dose: "dose",
	pressure: "pressure",
	profile: "pressure along the way",
	tempo: "tempo",
	anchor: "other hand",
	product: "product",
	client: "client’s part",
	intent: "intent",
};

export const variantRuleWords: Record<string, string> = {
	lighter: "lighter by so many levels",
	cap: "pressure at most",
	"leave-out": "leave strokes or tools out",
	replace: "one stroke by another",
	"swap-product": "another product",
	amount: "product, in hundredths of the base",
	"re-apply": "product again where the film gets thin",
	slower: "tempo, in hundredths of the base",
	"hands-on": "hands-on minutes",
};

export const toolKindWords: Record<string, string> = {
	stone: "stone or plate",
	"twin-ball-roller": "twin-ball roller",
	"cylinder-roller": "cylinder roller",
	cold: "cold roller or globes",
	cup: "cup",
	mitt: "mitt or sponge",
	brush: "brush",
	spatula: "spatula",
	compress: "compress or towel",
	electrical: "electrical tool",
};

export const familyWords = [
	"effleurage",
	"flick/whip",
	"stripping",
	"twist",
	"passive movement",
	"petrissage",
	"friction",
	"tapotement",
	"vibration",
	"static hold",
	"pump",
	"stretch",
	"scissor",
	"compression",
	"feathering",
	"skin rolling",
	"pick-up",
	"wiggle",
	"client exercise",
	"tool glide",
	"tool roll",
	"tool press",
	"application",
	"cleansing circle",
	"rest",
] as const;

/** How the skin answered a patch test: the signs of the International Contact Dermatitis Research Group (from memory). */
export const patchGradeWords: Record<string, { sign: string; name: string; says: string }> = {
	negative: { sign: "−", name: "Negative", says: "nothing to see" },
	doubtful: { sign: "?+", name: "Doubtful", says: "faint redness only" },
	weak: { sign: "+", name: "Weak", says: "redness, a little raised" },
	strong: { sign: "++", name: "Strong", says: "raised, small blisters" },
	extreme: { sign: "+++", name: "Extreme", says: "blisters that run together" },
	irritant: { sign: "IR", name: "Irritated", says: "sharp edge, glazed or sore" },
};

export const patchStateWords: Record<string, string> = {
	waiting: "on the skin",
	due: "reading due",
	clear: "clear",
	over: "too long ago",
	reacted: "reacted: do not use",
};

export const stageWords: Record<string, string> = { consultation: "at the consultation", door: "at the door", both: "at both" };

export const askWords: Record<string, string> = {
	"yes-no": "yes or no",
	date: "yes, and the day",
	zones: "yes, and the places",
	"date-and-zones": "yes, the day and the places",
};

/** What may follow from a rule. */
export const kindChoices: Record<string, string> = {
	urgent: "seek medical help now",
	stop: "not here, a doctor first",
	wait: "wait some days",
	letter: "only with a doctor's letter",
	"leave-out": "leave places out",
	cap: "lighter",
	exclude: "not to use",
	mind: "keep in mind",
};

const manyZones = 5;

/** An outcome of a rule, in short. */
export function ruleOutcomeText(o: Schemas["Outcome"], zone: (key: string) => string = (k) => k.replaceAll("-", " ")): string {
	const days = o.days ? `, ${o.days} days` : "";
	const what = [
		...(o.families ?? []),
		...(o.intents ?? []).map((i) => `strokes that ${intentWords[i] ?? i}`),
		...(o.tools ?? []).map((t) => toolKindWords[t] ?? t),
		...(o.tags ?? []).map((t) => `products with ${t.replaceAll("-", " ")}`),
		...(o.forms ?? []),
	].join(", ");
	const zones = o.zones ?? [];
	const where = o.fromAnswer
		? ` where ${zones.length > 0 ? "the side is marked" : "it is marked"}${o.neighbours ? " and beside it" : ""}`
		: zones.length > manyZones
			? ` on ${zones.length} places`
			: zones.length > 0
				? ` on ${zones.map(zone).join(", ")}`
				: "";
	const who = [
		o.fromAge ? `from ${o.fromAge} years` : "",
		o.underAge ? `under ${o.underAge} years` : "",
		o.fromWeek ? `from week ${o.fromWeek}` : "",
		o.beforeWeek ? `before week ${o.beforeWeek}` : "",
		o.fromGrade ? `from grade ${o.fromGrade}` : "",
		o.uneven ? `left and right ${o.uneven} apart` : "",
		o.option ? o.option : "",
	]
		.filter(Boolean)
		.join(", ");
	const does = o.does ? `: ${o.does}` : "";
	const of = who ? ` (${who})` : "";
	switch (o.kind) {
		case "cap":
			return `at most ${o.pressure ?? 0} ${pressureWords[o.pressure ?? 0]}${where}${days}${of}`;
		case "exclude":
			return `without ${what}${where}${days}${of}`;
		case "leave-out":
			return `leave out${where || ""}${days}${of}`.replace("leave out on ", "leave out ");
		case "wait":
			return `wait ${o.days} days${of}`;
		case "mind":
			return `${o.does ?? ""}${of}`;
		case "lighter":
		case "firmer":
			return `a ${o.kind} hand${of}`;
	}
	return `${kindChoices[o.kind] ?? o.kind}${days}${of}${does}`;
}
