import type { Schemas } from "../api/client";
import { asDecimal } from "../kit/faults";

type Use = Schemas["RecordUse"];
type Choices = Schemas["UseChoices"];

/** What is typed of one product: an amount in a measure, or two weights; all empty where it went as planned. */
export type UseText = {
	measure: string;
	count: string;
	before: string;
	after: string;
	pack: string | null;
	short: "" | "next" | "count";
	override: string;
	slid: "" | "at" | "beyond" | "before";
	minute: string;
};

/** The measure that stands for two weighings. */
export const byWeight = "weigh";

const shown = (v: string | undefined) => (v === undefined ? "" : String(Number(v)));

/** What a record says of a product, as it is typed. The measure is the one last used by this person. */
export function textOf(u: Use, c: Choices | undefined): UseText {
	const usual = c?.lastHow === "weighed" && c.weighing ? byWeight : (c?.measures[0]?.measure ?? u.unit ?? "mL");
	return {
		measure: u.how === "weighed" ? byWeight : u.how === "counted" && u.measure ? u.measure : usual,
		count: u.how === "counted" ? shown(u.count) : "",
		before: u.how === "weighed" ? shown(u.before) : "",
		after: u.how === "weighed" ? shown(u.after) : "",
		pack: u.pack ?? null,
		short: (u.short as UseText["short"]) ?? "",
		override: u.override ?? "",
		slid: (u.slid?.kind as UseText["slid"]) ?? "",
		minute: shown(u.slid?.minute),
	};
}

const number = /^\d{1,4}([.,]\d{1,3})?$/;

/** Whether everything that is typed is a number. */
export const readable = (t: UseText) => [t.count, t.before, t.after, t.minute].every((v) => v.trim() === "" || number.test(v.trim()));

/** The same as the server reads it. */
export function useOf(product: string, t: UseText) {
	const weighed = t.measure === byWeight && (t.before !== "" || t.after !== "");
	const counted = t.measure !== byWeight && t.count.trim() !== "";
	const how: "weighed" | "counted" | "as planned" = weighed ? "weighed" : counted ? "counted" : "as planned";
	return {
		product,
		how,
		...(counted ? { measure: t.measure as "mL", count: asDecimal(t.count) } : {}),
		...(weighed && t.before ? { before: asDecimal(t.before) } : {}),
		...(weighed && t.after ? { after: asDecimal(t.after) } : {}),
		...(t.pack ? { pack: t.pack } : {}),
		...(t.short ? { short: t.short } : {}),
		...(t.override ? { override: t.override } : {}),
		...(t.slid && t.minute ? { slid: { kind: t.slid, minute: asDecimal(t.minute) } } : {}),
	};
}
