/** The sentences that the screens compose of findings, adjustments, outcomes and the like. The words are in words/en.json. */

import type { Schemas } from "../api/client";
import { dayWords, money } from "../kit/format";
import * as adjustments from "./catalogue/adjustments";
import * as names from "./catalogue/names";
import * as outcomes from "./catalogue/outcomes";
import * as phrases from "./catalogue/phrases";
import * as shared from "./catalogue/shared";
import { intentWords, pressureWords, skinStateWords, skinTypes } from "./client";

export type Names = { zone: (key: string) => string; step: (id: string) => string };

/** What a client pays for a protocol, with the tax in it. */
export const askedText = (p: { asked: Schemas["Asked"]; currency: string }): string => {
	const price = money(p.asked.amount, p.currency);
	return p.asked.tax ? phrases.priceWithTax({ price, tax: money(p.asked.tax, p.currency), name: p.asked.taxName ?? "" }) : price;
};

export const sideWords: Record<string, string> = shared.sides;

export const phaseWords: Record<string, string> = shared.phases;

export const roomMarkWords: Record<string, string> = shared.roomMarks;

/** What a reaction looked like, how bad it is, how it is at a follow-up, and how it was closed. */
export const reactionKindWords: Record<string, string> = shared.reactionKinds;
export const reactionGradeWords: Record<string, string> = shared.reactionGrades;
export const reactionNowWords: Record<string, string> = shared.reactionNow;
export const reactionOutcomeWords: Record<string, string> = shared.reactionOutcomes;

/** What is measured and graded, and with what. */
export const measureNames: Record<string, string> = shared.measureNames;
export const instrumentWords: Record<string, string> = shared.instruments;

export const incidentKindWords: Record<string, string> = shared.incidentKinds;

/** The fields of a record that may be corrected. */
export const recordFieldWords: Record<string, string> = shared.recordFields;

/** What is gone through when the day is opened and closed. */
export const dayItems: Record<string, string> = shared.dayItems;

/** What a stock movement is called. */
export const movementKinds: Record<string, string> = shared.movementKinds;

/** How an amount is counted. */
export const measureWords: Record<string, string> = shared.measures;

export const roleWords: Record<string, string> = names.roles;

export const stateWords: Record<string, string> = shared.appointmentStates;
export const seriesStateWords: Record<string, string> = shared.seriesStates;

export const headlineWords: Record<string, string> = shared.headlines;

/** What to expect of a visit still to come. */
export function outlookText(v: { outlook?: string | undefined; notBefore?: string | undefined }): string {
	const word = headlineWords[v.outlook ?? ""] ?? "";
	return v.outlook === "not-before" && v.notBefore ? `${word} ${dayWords(v.notBefore)}` : word;
}

const toDo: Record<string, string> = names.headlineSteps;

/** What to do about what is to be expected of a visit. */
export function toDoText(v: { outlook?: string | undefined; patchFirst?: readonly string[] | undefined }): string {
	return [toDo[v.outlook ?? ""], v.patchFirst?.length ? phrases.offer10MinutePatchTestAppointment : ""].filter(Boolean).join(" ");
}

export const kindWords: Record<string, string> = names.kindMarks;

const namedPlaces = 6;

/** A zone inside a sentence: the left cheekbone, the area under the cheekbone on the left. */
export function theZone(zone: string, side: string): string {
	const name = zone.toLowerCase();
	if (/^(in|under|below|behind|between|above|inside) /.test(name))
		return phrases.theAreaNameSide({ name, side: side && phrases.onTheSide({ side }) });
	return phrases.theSideName({ side: side && `${side} `, name });
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
	const where =
		all.size === 1 && !all.has("")
			? phrases.onTheText({ text: [...all][0] })
			: all.has("left") || all.has("right")
				? ""
				: phrases.onBothSides;
	return phrases.sizeZonesWhere({ size: sides.size, where }).trim();
}

export const capital = (s: string) => s[0]!.toUpperCase() + s.slice(1);

/** One thing a rule asks, in a line. */
export function outcomeText(
	o: Schemas["Contraindication"],
	zone: (key: string) => string,
	n?: { product: (key: string) => string },
): string {
	const x = o.outcome;
	const places = zonesText(o.places ?? [], zone);
	const until = o.until ? outcomes.untilUntil({ until: dayWords(o.until) }) : "";
	const parts: (string | undefined)[] = [];
	if (o.allowed) parts.push(outcomes.allowedByDoctorsLetterValidUntil({ until: dayWords(o.until ?? "") }));
	else if (o.kind === "wait") parts.push(outcomes.waitUntil({ until }));
	else if (o.kind === "letter") parts.push(outcomes.onlyWithADoctorsLetter, until);
	else if (o.kind === "leave-out") parts.push(outcomes.avoidPlaces({ places }), until);
	else if (o.kind === "cap")
		parts.push(
			outcomes.pressureWordsPressurePressureAtMostPlaces({
				pressureWords: capital(pressureWords[x.pressure ?? 0]!),
				pressure: x.pressure ?? 0,
				places: places ? outcomes.onPlaces({ places }) : "",
			}),
			until,
		);
	else if (o.kind === "exclude") {
		const what = [
			...(x.families ?? []).map((f) => (f === "client exercise" ? outcomes.clientExercises : f)),
			...(x.intents ?? []).map((i) => outcomes.strokesThatIntentWords({ intentWords: intentWords[i] ?? i })),
			...(x.tools ?? []).map((t) => toolKindWords[t]?.toLowerCase() ?? outcomes.tTools({ t })),
			...(x.tags ?? []).map((t) => outcomes.tProducts({ t: t.replaceAll("-", " ") })),
			...(x.forms ?? []).map((f) => f.replaceAll("-", " ")),
			...(x.products ?? []).map((p) => n?.product(p) ?? p),
			...(x.allergy ? [outcomes.productsWithName({ name: x.allergy.name })] : []),
		];
		parts.push(outcomes.doNotUseWhatPlaces({ what: what.join(", "), places: places ? outcomes.onPlaces({ places }) : "" }), until);
	} else if (o.kind === "lighter") parts.push(outcomes.lighterPressureOneLevelDown);
	else if (o.kind === "firmer") parts.push(outcomes.firmerPressureOneLevelUpWhere);
	if (x.does) parts.push(x.does);
	return parts
		.filter(Boolean)
		.map((s, i) => (i > 0 && s === until ? `, ${s}` : `${i > 0 ? ". " : ""}${s}`))
		.join("");
}

export const nodeWords: Record<string, string> = names.nodes;

export const severityWords: Record<string, string> = names.severities;

export const fixWords: Record<string, string> = names.fixes;

export function clockWords(seconds: number): string {
	const m = Math.floor(seconds / 60);
	const r = seconds % 60;
	return m === 0 ? `${r} s` : phrases.mMinRS({ m, r });
}

/** What becomes of a thing in a file. */
export function fateWords(t: Schemas["ImportedItem"]): string {
	switch (t.fate) {
		case "new":
			return "new";
		case "same":
			return phrases.same;
		case "kept":
			return phrases.kept;
		case "added-as":
			return phrases.addedAs({ as: t.as });
	}
	return t.fate;
}

/** A change that adjusting made, as a sentence. */
export function changeText(c: Schemas["Adjustment"], n: Names): string {
	const zone = c.zone ? theZone(n.zone(c.zone), "") : "";
	switch (c.did) {
		case "rerouted":
			return adjustments.rerouted({ name: c.name, zone });
		case "one-side":
			return adjustments.oneSide({ name: c.name, to: c.to, zone });
		case "lowered":
			return adjustments.lowered({ name: c.name, from: c.from, to: c.to, zone });
		case "firmer":
			return adjustments.firmer({ name: c.name, from: c.from, to: c.to, zone });
		case "swapped":
			return adjustments.swapped({ name: c.name, to: c.to });
		case "replaced":
			return c.to
				? adjustments.nameToInsteadOfFrom({ name: c.name, to: c.to, from: c.from })
				: adjustments.nameWithoutFrom({ name: c.name, from: c.from });
		case "left-out":
			return adjustments.leftOut({ name: c.name });
		case "no-way-home":
			return adjustments.noWayHome({ name: c.name });
		case "no-time":
			return adjustments.noTime({ name: c.name });
		case "other-hand":
			return adjustments.otherHand({ name: c.name, to: c.to || adjustments.anotherHand, from: c.from || adjustments.theTool });
		case "restored":
			if (c.rule?.endsWith("/re-apply")) return adjustments.restored({ name: c.name });
			return adjustments.restored2({ name: c.name });
		case "dosed":
			return adjustments.dosed({ name: c.name, to: c.to, from: c.from });
		case "slowed":
			return adjustments.slowed({ to: c.to });
		case "refitted":
			return adjustments.refitted({ to: c.to === "1" ? "1 step" : adjustments.toSteps({ to: c.to }) });
	}
	return c.name;
}

/** What of a step a rule is about: friction on the mid cheek. */
export function biteText(c: Schemas["Adjustment"], zone: (key: string) => string): string {
	const what = c.what ? (toolKindWords[c.what]?.toLowerCase() ?? intentWords[c.what] ?? c.what.replaceAll("-", " ")) : "";
	const at = c.at && c.did !== "lowered" ? theZone(zone(c.at), "") : ""; // a lowered one says where itself
	return what && at ? adjustments.whatOnPlace({ what, at }) : what || (at && adjustments.onPlace({ at }));
}

/** Why something is changed: the rule, what of the step it is about, and its reason. */
export function reasonText(c: Schemas["Adjustment"], zone: (key: string) => string): string {
	const bites = biteText(c, zone);
	return bites ? adjustments.titleForWhat({ title: c.title, bites, why: c.why }) : adjustments.titleWhy({ title: c.title, why: c.why });
}

/** A dose in short: 3 x, 30 s, 4 breaths. */
export function doseText(d: Schemas["Dose"]): string {
	const sets = d.sets && d.sets > 1 ? phrases.setsSetsOf({ sets: d.sets }) : "";
	switch (d.kind) {
		case "reps":
			return `${sets}${d.planned} ×`;
		case "clock":
			return `${sets}${d.planned} s`;
		case "breaths":
			return phrases.breaths({ planned: d.planned, pulses: d.pulses ? phrases.pulsesPumpsEach({ pulses: d.pulses }) : "" });
		case "counts":
			return phrases.counts({ planned: d.planned });
		case "positions":
			return phrases.positions({ places: d.places, seconds: d.seconds, planned: d.planned });
		case "until":
			return phrases.until({ sign: d.sign ?? phrases.theSign, planned: d.planned });
		case "free":
			return phrases.free({ planned: d.planned });
		case "unknown":
			return phrases.unknown({ planned: d.planned });
	}
	return phrases.protocolDefault;
}

/** What the audit log's lines say, by action and subject. */
export const auditWords: Record<string, string> = names.auditLog;

/** What a consent is for, in the middle of a sentence. */
export const consentWords: Record<string, string> = names.consents;

export const caution = names.disclaimer;

export const skinWords = [...skinTypes, ...skinStateWords];

/** What may differ between two versions, by the names of the file format. */
export const fieldWords: Record<string, string> = { ...shared.furtherFields, ...names.fields };

/** One step's change between two versions, as a sentence. */
export function stepChangeText(c: Schemas["StepChange"], name: string): string {
	const what = c.fields.map((f) => fieldWords[f] ?? f).join(", ");
	switch (c.change) {
		case "added":
			return phrases.stepAdded({ number: c.to, name });
		case "removed":
			return phrases.removed({ name, from: c.from });
		case "moved":
			return phrases.moved({ name, from: c.from, to: c.to, what: what ? phrases.alsoChanged({ what }) : "" });
	}
	return phrases.stepChanged({ number: c.to, name, what });
}

export const schoolWords = names.method;

export const doseKindWords: Record<string, string> = names.doseKinds;

export const partWords: Record<string, string> = names.parts;

export const profileWords: Record<string, string> = shared.pressurePatterns;

export const figureWords: Record<string, string> = shared.figures;

export const skinRelationWords: Record<string, string> = names.skinRelations;

export const roleOfHandWords: Record<string, string> = names.anchorRoles;

export const commandWords: Record<string, { name: string; says: string }> = names.commands;

/** Halves and quarters as a hand counts them. */
function fraction(x: number): string {
	const whole = Math.trunc(x);
	const sign = { 0.25: "¼", 0.5: "½", 0.75: "¾" }[x - whole] ?? "";
	return whole === 0 && sign ? sign : `${whole}${sign}`;
}

const pea = 0.5;
const hazelnut = 2;

/** An amount as a hand takes it. */
export function handAmount(a: Schemas["HandAmount"]): string {
	const n = fraction(a.value);
	switch (a.unit) {
		case "drops":
			return phrases.handDrops({ n: a.value, drops: a.value });
		case "pumps":
			return phrases.handPumps({ n, pumps: Math.max(a.value, 1) });
		case "fingertips":
			return phrases.handFingertips({ n, tips: Math.max(a.value, 1) });
		case "g":
			if (a.value >= hazelnut) return phrases.handGrams({ n: a.value });
			return a.value <= pea ? phrases.handPea({ n }) : phrases.handHazelnut({ n });
	}
	const amount = phrases.handML({ n: a.value < 1 ? n : a.value });
	return a.about ? phrases.handAbout({ amount }) : amount;
}

/** The portions of a product, one after the other. */
function portionsText(i: Schemas["SetUpItem"]): string {
	const portions = (i.portions ?? []).map(handAmount).join(phrases.handThen);
	return i.total ? phrases.inPortions({ total: handAmount(i.total), count: i.portions!.length, portions }) : portions;
}

/** What is laid out before a treatment. */
export function setUpText(i: Schemas["SetUpItem"]): string {
	const many = (n: number | undefined, one: string, more: string) => (n === 1 ? one : `${n} ${more}`);
	switch (i.kind) {
		case "product":
			return `${i.name}: ${portionsText(i)}${i.optional ? phrases.ifWanted : ""}`;
		case "tool":
			return `${(i.count ?? 1) > 1 ? several(i.count ?? 1, i.name ?? "") : i.name}${i.parts?.length ? `: ${i.parts.join(", ")}` : ""}${i.fragile ? phrases.fragileLayOnATowel : ""}`;
		case "bowl":
			return many(i.count, phrases.aBowl, "bowls");
		case "towel":
			return many(i.count, phrases.aFreshTowel, phrases.freshTowels);
		case "gloves":
			return many(i.count, phrases.aPairOfGloves, phrases.pairsOfGloves);
		case "tissues":
			return phrases.tissues;
		case "water":
			return phrases.water;
		case "other":
			return (shared.furtherWords as Record<string, string>)[i.name ?? ""] ?? i.name ?? "";
	}
	return i.key === "long-nails" ? phrases.handsWashedRingsOffUseKnuckles : phrases.handsWashedNailsShortRingsOff;
}

export const gapWords: Record<string, string> = names.notStated;

export const variantRuleWords: Record<string, string> = names.variantRules;

export const toolKindWords: Record<string, string> = names.toolKinds;

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
export const patchGradeWords: Record<string, { sign: string; name: string; says: string }> = names.patchGrades;

export const patchStateWords: Record<string, string> = names.patchStates;

export const stageWords: Record<string, string> = names.stages;

export const askWords: Record<string, string> = names.answerTypes;

/** What may follow from a rule. */
export const kindChoices: Record<string, string> = shared.kinds;

const manyZones = 5;

/** An outcome of a rule, in short. */
export function ruleOutcomeText(o: Schemas["Outcome"], zone: (key: string) => string = (k) => k.replaceAll("-", " ")): string {
	const days = o.days ? outcomes.daysDays({ days: o.days }) : "";
	const what = [
		...(o.families ?? []),
		...(o.intents ?? []).map((i) => outcomes.strokesThatIntentWords({ intentWords: intentWords[i] ?? i })),
		...(o.tools ?? []).map((t) => toolKindWords[t] ?? t),
		...(o.tags ?? []).map((t) => outcomes.productsWithT({ t: t.replaceAll("-", " ") })),
		...(o.forms ?? []),
	].join(", ");
	const zones = o.zones ?? [];
	const where = o.fromAnswer
		? outcomes.whereCountNeighbours({
				count: zones.length > 0 ? outcomes.theSideIsMarked : outcomes.itIsMarked,
				neighbours: o.neighbours ? outcomes.andBesideIt : "",
			})
		: zones.length > manyZones
			? outcomes.onCountZones({ count: zones.length })
			: zones.length > 0
				? outcomes.onZones({ zones: zones.map(zone).join(", ") })
				: "";
	const who = [
		o.fromAge ? outcomes.fromFromAgeYears({ fromAge: o.fromAge }) : "",
		o.underAge ? outcomes.underUnderAgeYears({ underAge: o.underAge }) : "",
		o.fromWeek ? outcomes.fromWeekFromWeek({ fromWeek: o.fromWeek }) : "",
		o.beforeWeek ? outcomes.beforeWeekBeforeWeek({ beforeWeek: o.beforeWeek }) : "",
		o.fromGrade ? outcomes.fromGradeFromGrade({ fromGrade: o.fromGrade }) : "",
		o.uneven ? outcomes.leftAndRightUnevenApart({ uneven: o.uneven }) : "",
		o.option ? o.option : "",
	]
		.filter(Boolean)
		.join(", ");
	const does = o.does ? `: ${o.does}` : "";
	const of = who ? ` (${who})` : "";
	switch (o.kind) {
		case "cap":
			return outcomes.cap({ pressureWords: pressureWords[o.pressure ?? 0], pressure: o.pressure ?? 0, where, days, ofText: of });
		case "exclude":
			return outcomes.exclude({ what, where, days, ofText: of });
		case "leave-out":
			return outcomes.avoidWhereDaysOfText({ where: where.replace(" on ", " "), days, ofText: of });
		case "wait":
			return outcomes.wait({ days: o.days, ofText: of });
		case "mind":
			return `${o.does ?? ""}${of}`;
		case "lighter":
		case "firmer":
			return outcomes.firmer({ kind: o.kind, ofText: of });
	}
	return `${kindChoices[o.kind] ?? o.kind}${days}${of}${does}`;
}
