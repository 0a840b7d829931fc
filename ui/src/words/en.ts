/** Every text that the screens compose: the English catalogue. */

import words from "../../../words/en.json" with { type: "json" };
import type { Schemas } from "../api/client";
import { dayWords } from "../kit/format";
import { intentWords, pressureWords, skinStateWords, skinTypes } from "./client";

type Finding = Schemas["Finding"];
type Names = { zone: (key: string) => string; step: (id: string) => string };

export const sideWords: Record<string, string> = words.sides;

export const phaseWords: Record<string, string> = words.phases;

export const roleWords: Record<string, string> = words.roles;

export const stateWords: Record<string, string> = words.appointmentStates;

export const headlineWords: Record<string, string> = words.headlines;

/** What to expect of a visit still to come. */
export function outlookText(v: { outlook?: string | undefined; notBefore?: string | undefined }): string {
	const word = headlineWords[v.outlook ?? ""] ?? "";
	return v.outlook === "not-before" && v.notBefore ? `${word} ${dayWords(v.notBefore)}` : word;
}

const toDo: Record<string, string> = words.headlineSteps;

/** What to do about what is to be expected of a visit. */
export function toDoText(v: { outlook?: string | undefined; patchFirst?: readonly string[] | undefined }): string {
	return [toDo[v.outlook ?? ""], v.patchFirst?.length ? "Offer a 10-minute patch test appointment." : ""].filter(Boolean).join(" ");
}

export const kindWords: Record<string, string> = words.kindMarks;

const namedPlaces = 6;

/** A zone inside a sentence: the left cheekbone, the area under the cheekbone on the left. */
function theZone(zone: string, side: string): string {
	const name = zone.toLowerCase();
	if (/^(in|under|below|behind|between|above|inside) /.test(name)) return `the area ${name}${side && ` on the ${side}`}`;
	return `the ${side && `${side} `}${name}`;
}

/** More than one of a thing: 2 warm towels, 2 brushes. */
function several(n: number, name: string): string {
	const one = /^.\p{Ll}/u.test(name) ? name[0]!.toLowerCase() + name.slice(1) : name;
	return `${n} ${one}${/(s|x|ch|sh)$/.test(one) ? "es" : "s"}`;
}

/** Zones in words; more than a few are counted by side. */
function zonesText(list: readonly { zone: string; side?: string | undefined }[], zone: (key: string) => string): string {
	const sides = new Map<string, Set<string>>();
	for (const p of list) sides.set(p.zone, (sides.get(p.zone) ?? new Set()).add(p.side || "both"));
	const side = (s: Set<string>) => (s.size === 1 && !s.has("both") ? [...s][0]! : "");
	if (sides.size <= namedPlaces) return [...sides].map(([z, s]) => theZone(zone(z), side(s))).join(", ");
	const all = new Set([...sides.values()].map(side));
	const where = all.size === 1 && !all.has("") ? `on the ${[...all][0]}` : all.has("left") || all.has("right") ? "" : "on both sides";
	return `${sides.size} zones ${where}`.trim();
}

const capital = (s: string) => s[0]!.toUpperCase() + s.slice(1);

/** One thing a rule asks, in a line. */
export function outcomeText(
	o: Schemas["Contraindication"],
	zone: (key: string) => string,
	n?: { product: (key: string) => string },
): string {
	const x = o.outcome;
	const places = zonesText(o.places ?? [], zone);
	const until = o.until ? `until ${dayWords(o.until)}` : "";
	const parts: (string | undefined)[] = [];
	if (o.allowed) parts.push(`Allowed by the doctor's letter, valid to ${dayWords(o.until ?? "")}`);
	else if (o.kind === "wait") parts.push(`Wait ${until}`);
	else if (o.kind === "letter") parts.push("Only with a doctor's letter", until);
	else if (o.kind === "leave-out") parts.push(`Avoid ${places}`, until);
	else if (o.kind === "cap")
		parts.push(`${capital(pressureWords[x.pressure ?? 0]!)} pressure (${x.pressure ?? 0}) at most${places ? ` on ${places}` : ""}`, until);
	else if (o.kind === "exclude") {
		const what = [
			...(x.families ?? []).map((f) => (f === "client exercise" ? "client exercises" : f)),
			...(x.intents ?? []).map((i) => `strokes that ${intentWords[i] ?? i}`),
			...(x.tools ?? []).map((t) => toolKindWords[t]?.toLowerCase() ?? `${t} tools`),
			...(x.tags ?? []).map((t) => `${t.replaceAll("-", " ")} products`),
			...(x.forms ?? []).map((f) => f.replaceAll("-", " ")),
			...(x.products ?? []).map((p) => n?.product(p) ?? p),
			...(x.allergy ? [`products with ${x.allergy.name}`] : []),
		];
		parts.push(`Do not use: ${what.join(", ")}${places ? ` on ${places}` : ""}`, until);
	} else if (o.kind === "lighter") parts.push("Lighter pressure: one level down");
	else if (o.kind === "firmer") parts.push("Firmer pressure: one level up where it is safe");
	if (x.does) parts.push(x.does);
	return parts
		.filter(Boolean)
		.map((s, i) => (i > 0 && s === until ? `, ${s}` : `${i > 0 ? ". " : ""}${s}`))
		.join("");
}

export const nodeWords: Record<string, string> = words.nodes;

export const fixWords: Record<string, string> = words.fixes;

const s = (v: unknown) => String(v);

/** A finding as a sentence: what is so, and what to do. */
export function findingText(f: Finding, n: Names): string {
	const v = f.values as Record<string, unknown>;
	const zone = v.zone ? theZone(n.zone(s(v.zone)), "") : "";
	const side = v.side ? ` (${s(v.side)})` : "";
	switch (f.code) {
		case "pressure-ceiling":
			return `${capital(zone)} has a pressure limit of ${s(v.ceiling)} and this step uses ${s(v.pressure)}. Lower it, or give a reason on the step.`;
		case "pressure-absolute":
			return `${capital(zone)} has an absolute pressure limit of ${s(v.ceiling)} and this step uses ${s(v.pressure)}. Lower it.`;
		case "pressure-both-neck":
			return "Never press both sides of the neck at once: both carotid arteries run there. Work left, then right, or stay feather-light.";
		case "tool-on-throat":
			return "Never use a tool on the throat. Leave it out.";
		case "pressure-drain":
			return `Drainage is feather-light; pressure ${s(v.pressure)} closes the lymph vessels. Lower it.`;
		case "excluded-zone":
			return `Avoid ${theZone(n.zone(s(v.zone)), v.side === "left" || v.side === "right" ? v.side : "")} today.`;
		case "drainage-order":
			return `This opens ${nodeWords[s(v.node)]} before ${nodeWords[s(v.needs)]}${side}. Open the nodes nearer the heart first.`;
		case "drainage-closed":
			return `This drains towards ${nodeWords[s(v.node)]}, which is not open yet${side}. Open it before this step.`;
		case "drainage-left":
			return `Fluid moved to ${zone}${side} is not drained to the terminus. Add a drainage stroke before the end.`;
		case "drainage-no-open":
			return "The protocol drains without opening first. This method starts at the terminus.";
		case "drainage-no-close":
			return "The protocol drains without closing. This method ends at the terminus.";
		case "direction-drain":
			return `From ${n.zone(s(v.from)).toLowerCase()} to ${n.zone(s(v.to)).toLowerCase()} runs away from the nodes. Reverse the path.`;
		case "direction-lift":
			return `A lift goes up and out; this goes down from ${n.zone(s(v.from)).toLowerCase()} to ${n.zone(s(v.to)).toLowerCase()}.`;
		case "direction-neck":
			return "Draining the neck goes down, towards the collarbone hollow. This goes up.";
		case "glide-thin":
			return `Slip is ${s(v.slip)} and this stroke needs ${s(v.least)}, so it will drag. Add product.`;
		case "glide-wet":
			return `Slip is ${s(v.slip)} and a grip needs ${s(v.most)} at most. Remove product first.`;
		case "glide-slippery":
			return `Slip ${s(v.slip)} is too high for kneading. Blot, or knead later.`;
		case "glide-unknown":
			return "No product is stated, so slip is not known. State which product is used, and how much.";
		case "amount-over":
			return `${s(v.product)}: ${s(v.ml)} mL in total; the studio's usual amount is ${s(v.most)} mL at most.`;
		case "sides-unequal":
			return `The left side is worked for ${s(v.left)} s and the right for ${s(v.right)} s. Make them equal, or state an emphasis.`;
		case "fit-over":
			return `This is ${clockWords(Number(v.seconds))} over the hands-on time.`;
		case "fit-under":
			return `Leaves ${clockWords(Number(v.seconds))} of the hands-on time unused.`;
		case "speed-delicate":
			return `${s(v.speed)} cm/s on ${zone} drags delicate skin. Slow down below 30.`;
		case "speed-soothing":
			return `${s(v.speed)} cm/s is not the best speed to soothe; 1 to 10 cm/s is.`;
		case "pressure-drop":
			return `Pressure drops from ${s(v.from)} to ${s(v.to)}. Tell the client that it gets lighter.`;
		case "drainage-barred":
			return `This drains towards nodes to avoid today${side}. Remove the step.`;
		case "drainage-set":
			return `This set is not drained down the neck${side} before the next one. This method clears after each set.`;
		case "closing-differs":
			return "The closing is not the opening in reverse, as this method asks.";
		case "direction-eye":
			return `From ${n.zone(s(v.from)).toLowerCase()} to ${n.zone(s(v.to)).toLowerCase()} runs towards the nose, against this method.`;
		case "stroke-missing":
			return `The stroke “${s(v.stroke)}” is no longer in the library. Remove the step, or choose another stroke.`;
		case "product-missing":
			return `The product “${s(v.product)}” is no longer on the shelf. Choose another one, or remove it from the step.`;
		case "glide-dry":
			return `Without product this drags over ${zone}. Remove the zone, or move the skin instead of sliding.`;
		case "mirror-differs":
			return `The second side differs from the first (${n.step(s(v.of))}). Match it, or keep it as a departure.`;
		case "sides-school":
			return `Sides: ${sideWords[s(v.sides)] ?? s(v.sides)}. This method works sides differently.`;
		case "phase-missing":
			return `No step for the phase “${phaseWords[s(v.phase)] ?? s(v.phase)}”.`;
		case "time-not-stated":
			return `${v.mask ? "A mask" : "Cold"} needs a stated time.`;
		case "cold-long":
			return `${s(v.minutes)} min of cold is too long; ${s(v.most)} min is the limit.`;
		case "cold-still":
			return "Never rest a cold tool under the eye. Keep it moving, or remove the step.";
		case "cold-before-mist":
			return "Mist dehydrated skin before using cold.";
		case "promise":
			return `Listed as a concern but not worked: ${(v.zones as string[]).map((z) => n.zone(z).toLowerCase()).join(", ")}.`;
		case "flow":
			return `The hands leave the face ${s(v.left)} times, change tools ${s(v.tools)} times and jump ${s(v.jumps)} times.`;
		case "load-eye":
			return `${s(v.seconds)} s of sliding on ${zone}${side}; ${s(v.most)} s for each eye is the limit. More raises swelling instead of lowering it.`;
		case "unsuited":
			return v.what === "product" ? `${s(v.product)} does not suit ${s(v.skin)} skin.` : `Not for ${s(v.skin)} skin.`;
		case "redness":
			return "This may leave redness, which this method avoids.";
		case "too-often":
			return v.what === "exfoliation"
				? "The skin was exfoliated within the last 7 days. Once a week is enough."
				: `${s(v.what) === "roller" ? "A roller" : "Deep work"} ${s(v.times)} times within 7 days already.`;
		case "gloves-missing":
			return "Never work inside the mouth with bare hands.";
		case "hands-unwashed":
			return `The hands touched ${v.after === "hair" ? "hair" : "the face or neck"} before the mouth. Wash them first.`;
		case "gloves-kept":
			return "Take off the gloves from the mouth before touching the face.";
		case "tool-not-ready":
			return `${s(v.tool)} is ready again in ${s(v.minutes)} min, not before.`;
		case "porous-twice":
			return `${s(v.tool)} is single-use and is used twice.`;
		case "hands-tired":
			return `${s(v.minutes)} min of thumb, pinch or knuckle at 4 to 5 without a break. Give your hands a break.`;
		case "hands-day":
			return `This makes ${s(v.minutes)} min of thumb, pinch and knuckle work today. Keep below ${s(v.most)}.`;
		case "nails":
			return `Long nails would scratch here with the ${s(v.hand)}. Use another hand part.`;
		case "not-said":
			return `${capital(gapWords[s(v.property)] ?? s(v.property))} is not stated${v.said ? ` (“${s(v.said)}”)` : ""}, so the stroke’s default was checked.`;
		case "drain-late":
			return `This drains ${s(v.minutes)} min before bedtime. Morning or daytime is better.`;
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
			return "already here, identical";
		case "kept":
			return "already here and different; the studio's version is used";
		case "added-as":
			return `added beside the studio's version, as ${t.as}`;
	}
	return t.fate;
}

/** A change that adjusting made, as a sentence. */
export function changeText(c: Schemas["Adjustment"], n: Names): string {
	const zone = c.zone ? theZone(n.zone(c.zone), "") : "";
	switch (c.did) {
		case "rerouted":
			return `${c.name}: path avoids ${zone}`;
		case "one-side":
			return `${c.name}: full path on the ${c.to}; ${zone} is skipped on the other side`;
		case "lowered":
			return `${c.name}: pressure lowered from ${c.from} to ${c.to} on ${zone}`;
		case "firmer":
			return `${c.name}: pressure raised from ${c.from} to ${c.to} on ${zone}`;
		case "swapped":
			return `${c.name}: ${c.to} instead`;
		case "replaced":
			return c.to ? `${c.name}: ${c.to} instead of ${c.from}` : `${c.name}: without ${c.from}`;
		case "left-out":
			return `${c.name}: removed`;
		case "no-way-home":
			return `${c.name}: removed because its drainage route is blocked today`;
		case "no-time":
			return `${c.name}: removed to fit the time`;
		case "other-hand":
			return `${c.name}: by ${c.to || "another hand"} instead of ${c.from || "the tool"}`;
		case "restored":
			if (c.rule?.endsWith("/re-apply")) return `${c.name}: re-apply product before slip runs low`;
			return `${c.name}: added to keep drainage and slip complete`;
		case "dosed":
			return `${c.name}: ${c.to} instead of ${c.from}`;
		case "slowed":
			return `Slower pace: sliding strokes take ${c.to}% of their usual time`;
		case "refitted":
			return `Repetitions changed on ${c.to === "1" ? "1 step" : `${c.to} steps`} to fill the time`;
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
			return `${d.places} points × ${d.seconds} s × ${d.planned}`;
		case "until":
			return `until ${d.sign ?? "the sign"}, about ${d.planned} s`;
		case "free":
			return `by feel, about ${d.planned} s`;
		case "unknown":
			return `not stated, planned as ${d.planned} s`;
	}
	return "protocol default";
}

/** What the audit log's lines say, by action and subject. */
export const auditWords: Record<string, string> = words.auditLog;

/** What a consent is for, in the middle of a sentence. */
export const consentWords: Record<string, string> = words.consents;

export const caution = words.disclaimer;

export const skinWords = [...skinTypes, ...skinStateWords];

/** What may differ between two versions, by the names of the file format. */
export const fieldWords: Record<string, string> = words.fields;

/** One step's change between two versions, as a sentence. */
export function stepChangeText(c: Schemas["StepChange"], name: string): string {
	const what = c.fields.map((f) => fieldWords[f] ?? f).join(", ");
	switch (c.change) {
		case "added":
			return `${c.to}. ${name}: added`;
		case "removed":
			return `${name}: removed (was ${c.from})`;
		case "moved":
			return `${name}: moved from ${c.from} to ${c.to}${what ? `; changed: ${what}` : ""}`;
	}
	return `${c.to}. ${name}: changed: ${what}`;
}

export const schoolWords = words.method;

export const doseKindWords: Record<string, string> = words.doseKinds;

export const partWords: Record<string, string> = words.parts;

export const profileWords: Record<string, string> = words.pressurePatterns;

export const roleOfHandWords: Record<string, string> = words.anchorRoles;

export const commandWords: Record<string, { name: string; says: string }> = words.commands;

const mostDrops = 20;

/** An amount of product as a hand measures it: pumps, a few drops, else mL. */
function amountText(i: Schemas["SetUpItem"]): string {
	const mL = `${Math.round((i.ml ?? 0) * 10) / 10} mL`;
	if (i.presses) return `${mL} (${i.presses} ${i.presses === 1 ? "pump" : "pumps"})`;
	return i.drops && i.drops <= mostDrops ? `${mL} (${i.drops} drops)` : mL;
}

/** What is laid out before a treatment. */
export function setUpText(i: Schemas["SetUpItem"]): string {
	const many = (n: number | undefined, one: string, more: string) => (n === 1 ? one : `${n} ${more}`);
	switch (i.kind) {
		case "product":
			return `${i.name}: ${amountText(i)}`;
		case "tool":
			return `${(i.count ?? 1) > 1 ? several(i.count ?? 1, i.name ?? "") : i.name}${i.parts?.length ? `: ${i.parts.join(", ")}` : ""}${i.fragile ? " (fragile: lay on a towel)" : ""}`;
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
	return i.key === "long-nails" ? "Hands washed, rings off; use knuckles instead of long nails" : "Hands washed, nails short, rings off";
}

export const gapWords: Record<string, string> = words.notStated;

export const variantRuleWords: Record<string, string> = words.variantRules;

export const toolKindWords: Record<string, string> = words.toolKinds;

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
export const patchGradeWords: Record<string, { sign: string; name: string; says: string }> = words.patchGrades;

export const patchStateWords: Record<string, string> = words.patchStates;

export const stageWords: Record<string, string> = words.stages;

export const askWords: Record<string, string> = words.answerTypes;

/** What may follow from a rule. */
export const kindChoices: Record<string, string> = words.kinds;

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
			? ` on ${zones.length} zones`
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
			return `${pressureWords[o.pressure ?? 0]} pressure (${o.pressure ?? 0}) at most${where}${days}${of}`;
		case "exclude":
			return `do not use: ${what}${where}${days}${of}`;
		case "leave-out":
			return `avoid${where || ""}${days}${of}`.replace("avoid on ", "avoid ");
		case "wait":
			return `waiting period of ${o.days} days${of}`;
		case "mind":
			return `${o.does ?? ""}${of}`;
		case "lighter":
		case "firmer":
			return `${o.kind} pressure${of}`;
	}
	return `${kindChoices[o.kind] ?? o.kind}${days}${of}${does}`;
}
