/** The sentence of every finding: what was found, and what to do. */

import type { Schemas } from "../api/client";
import * as findings from "./catalogue/findings";
import { pressureWords } from "./client";
import { capital, clockWords, gapWords, type Names, nodeWords, phaseWords, sideWords, theZone } from "./sentences";

type Values = Schemas["FindingValues"];

const at = (zone: string | undefined, n: Names) => (zone ? theZone(n.zone(zone), "") : "");
const onSide = (side: string | undefined) => (side ? ` (${side})` : "");

/** A sentence for each code; the compiler asks for those of new codes. */
const sentences: { [C in keyof Values]: (v: Values[C], n: Names) => string } = {
	"pressure-ceiling": (v, n) => findings.pressureCeiling({ zone: capital(at(v.zone, n)), ceiling: v.ceiling, pressure: v.pressure }),
	"pressure-absolute": (v, n) => findings.pressureAbsolute({ zone: capital(at(v.zone, n)), ceiling: v.ceiling, pressure: v.pressure }),
	"pressure-both-neck": (v, n) =>
		v.spreading
			? findings.spreadOnNeck({ zone: at(v.zone, n) })
			: findings.pressureBothNeck({ zone: at(v.zone, n), pressure: pressureWords[v.pressure] ?? v.pressure }),
	"tool-on-throat": () => findings.toolOnThroat,
	"pressure-drain": (v) => findings.pressureDrain({ pressure: v.pressure }),
	"excluded-zone": (v, n) =>
		findings.excludedZone({ zone: theZone(n.zone(v.zone), v.side === "left" || v.side === "right" ? v.side : "") }),
	"drainage-order": (v) => findings.drainageOrder({ nodeWords: nodeWords[v.node], nodeWords2: nodeWords[v.needs], side: onSide(v.side) }),
	"drainage-closed": (v) => findings.drainageClosed({ nodeWords: nodeWords[v.node], side: onSide(v.side) }),
	"drainage-left": (v, n) => findings.drainageLeft({ zone: at(v.zone, n), side: onSide(v.side) }),
	"drainage-no-open": () => findings.drainageNoOpen,
	"drainage-no-close": () => findings.drainageNoClose,
	"direction-drain": (v, n) => findings.directionDrain({ from: n.zone(v.from).toLowerCase(), to: n.zone(v.to).toLowerCase() }),
	"direction-lift": (v, n) => findings.directionLift({ from: n.zone(v.from).toLowerCase(), to: n.zone(v.to).toLowerCase() }),
	"direction-neck": () => findings.directionNeck,
	"glide-thin": (v) => findings.glideThin({ slip: v.slip, least: v.least }),
	"glide-wet": (v) => findings.glideWet({ slip: v.slip, most: v.most }),
	"glide-slippery": (v) => findings.glideSlippery({ slip: v.slip }),
	"glide-unknown": () => findings.glideUnknown,
	"amount-over": (v) => findings.amountOver({ product: v.product, ml: v.ml, most: v.most }),
	"sides-unequal": (v) => findings.sidesUnequal({ left: v.left, right: v.right }),
	"fit-over": (v) => findings.fitOver({ seconds: clockWords(Number(v.seconds)) }),
	"fit-under": (v) => findings.fitUnder({ seconds: clockWords(Number(v.seconds)) }),
	"speed-delicate": (v, n) => findings.speedDelicate({ speed: v.speed, zone: at(v.zone, n) }),
	"speed-soothing": (v) => findings.speedSoothing({ speed: v.speed }),
	"pressure-drop": (v) => findings.pressureDrop({ from: v.from, to: v.to }),
	"drainage-barred": (v) => findings.drainageBarred({ side: onSide(v.side) }),
	"drainage-set": (v) => findings.drainageSet({ side: onSide(v.side) }),
	"closing-differs": (v) =>
		v.sweep === "chin-sweep"
			? findings.closingNoSweepChin
			: v.sweep === "forehead-sweep"
				? findings.closingNoSweepForehead
				: findings.closingDiffers,
	"event-rough": (v) => (v.what === "friction" ? findings.eventFriction : v.what === "deep" ? findings.eventDeep : findings.eventReddens),
	"hands-to-eyes": (v, n) => findings.handsToEyes({ zone: theZone(n.zone(v.zone), "") }),
	"no-tissues": () => findings.noTissues,
	"direction-eye": (v, n) => findings.directionEye({ from: n.zone(v.from).toLowerCase(), to: n.zone(v.to).toLowerCase() }),
	"stroke-missing": (v) => findings.strokeMissing({ stroke: v.stroke }),
	"product-missing": (v) => findings.productMissing({ product: v.product }),
	"glide-dry": (v, n) => findings.glideDry({ zone: at(v.zone, n) }),
	"mirror-differs": (v, n) => findings.mirrorDiffers({ ofText: n.step(v.of) }),
	"sides-school": (v) => findings.sidesSchool({ sideWords: sideWords[v.sides] ?? v.sides }),
	"phase-missing": (v) => findings.phaseMissing({ phaseWords: phaseWords[v.phase] ?? v.phase }),
	"time-not-stated": (v) => findings.timeNotStated({ mask: v.mask ? findings.aMask : findings.cold }),
	"cold-long": (v) => findings.coldLong({ minutes: v.minutes, most: v.most }),
	"cold-still": () => findings.coldStill,
	"cold-before-mist": () => findings.coldBeforeMist,
	promise: (v, n) => findings.promise({ zones: v.zones.map((z) => n.zone(z).toLowerCase()).join(", ") }),
	flow: (v) => findings.flow({ left: v.left, tools: v.tools, jumps: v.jumps }),
	"load-eye": (v, n) => findings.loadEye({ seconds: v.seconds, zone: at(v.zone, n), side: onSide(v.side), most: v.most }),
	unsuited: (v) =>
		v.what === "product"
			? findings.productDoesNotSuitSkinSkin({ product: v.product, skin: v.skin })
			: findings.notForSkinSkin({ skin: v.skin }),
	redness: () => findings.redness,
	"too-often": (v) =>
		v.what === "exfoliation"
			? findings.skinWasExfoliatedWithinLast7
			: findings.whatTimesTimesWithin7Days({ what: v.what === "roller" ? findings.aRoller : findings.deepWork, times: v.times }),
	"gloves-missing": () => findings.glovesMissing,
	"hands-unwashed": (v) => findings.handsUnwashed({ after: v.after === "hair" ? "hair" : findings.theFaceOrNeck }),
	"gloves-kept": () => findings.glovesKept,
	"tool-not-ready": (v) => findings.toolNotReady({ tool: v.tool, minutes: v.minutes }),
	"porous-twice": (v) => findings.porousTwice({ tool: v.tool }),
	"hands-tired": (v) => findings.handsTired({ minutes: v.minutes }),
	"hands-day": (v) => findings.handsDay({ minutes: v.minutes, most: v.most }),
	nails: (v) => findings.nails({ hand: v.hand }),
	"not-said": (v) => findings.notSaid({ gapWords: capital(gapWords[v.property] ?? v.property), said: v.said ? ` (“${v.said}”)` : "" }),
	"drain-late": (v) => findings.drainLate({ minutes: v.minutes }),
};

/** A finding as a sentence. */
export function findingText(f: Schemas["Finding"], n: Names): string {
	const say = sentences[f.code as keyof Values] as ((v: unknown, n: Names) => string) | undefined;
	return say?.(f.values, n) ?? f.code;
}
