import { readdirSync, readFileSync } from "node:fs";
import { expect, test } from "vitest";
import type { Schemas } from "../api/client";
import { findingText } from "./findings";
import {
	auditWords,
	changeText,
	headlineWords,
	kindWords,
	outcomeText,
	outlookText,
	patchGradeWords,
	patchStateWords,
	ruleOutcomeText,
	stateWords,
} from "./sentences";

// The English catalogue against what the server can say: nothing may come out as a
// code, or half said. The server's own sources are the list.
const go = (dir: string) =>
	readdirSync(`../internal/${dir}`, { recursive: true, encoding: "utf8" })
		.filter((f) => f.endsWith(".go") && !f.endsWith("_test.go"))
		.map((f) => readFileSync(`../internal/${dir}/${f}`, "utf8"))
		.join("\n");
const all = (text: string, re: RegExp) => [...text.matchAll(re)].map((m) => m.slice(1));
const names = { zone: (k: string) => `Zone ${k}`, step: (id: string) => `Step ${id}` };
const whole = (s: string) => {
	expect(s.trim()).not.toBe("");
	expect(s).not.toMatch(/undefined|\[object|NaN|null/);
};
type Rule = Schemas["Rule"];
const pack = JSON.parse(readFileSync("../internal/craft/contraindication/trade-pack.json", "utf8")) as { rules: Rule[] };

test("every finding has its sentence", () => {
	const codes = all(go("craft/evaluation"), /^\s*\w+\s+Code = "([a-z-]+)"/gm).map((m) => m[0]!);
	expect(codes.length).toBeGreaterThan(40);
	for (const code of codes) {
		const values = new Proxy(
			{},
			{
				get: (_, k) => (k === "zones" || k === "at" ? ["chin"] : k === "side" ? "left" : k === "node" || k === "needs" ? "terminus" : "3"),
			},
		);
		const text = findingText({ id: code, code, severity: "warning", steps: ["a"], values, basis: "", fixes: [] } as never, names);
		expect(text, code).not.toBe(code);
		whole(text);
	}
});

test("every line of the audit log can be read", () => {
	const lines = all(go("studio"), /s\.Audit\(ctx, [\w.]+, a, "([a-z ]+)", "([a-z]+)"/g);
	expect(lines.length).toBeGreaterThan(20);
	for (const [action, subject] of lines) expect(auditWords[`${action} ${subject}`], `${action} ${subject}`).toBeTruthy();
});

test("every rule of the pack says what it asks, and what follows", () => {
	for (const r of pack.rules) {
		if (r.asks !== "nothing") whole(r.question ?? "");
		for (const o of [...r.outcomes, ...(r.policy?.outcomes ?? [])]) {
			const places = (o.zones ?? []).map((zone) => ({ zone, side: "both" as const }));
			for (const until of [undefined, "2026-12-24"]) {
				const text = outcomeText(
					{
						rule: r.id,
						title: r.title,
						kind: o.kind,
						outcome: o,
						why: r.why,
						basis: r.basis,
						places,
						...(until ? { until } : {}),
					} as never,
					names.zone,
				);
				whole(text);
				expect(text, r.id).toMatch(/^[A-Z]/);
				if (until && o.days) expect(text, r.id).toContain("24 Dec 2026");
			}
			whole(ruleOutcomeText(o));
			expect(kindWords[o.kind], o.kind).toBeTruthy();
		}
	}
});

test("headlines, states and grades of the server have their words", () => {
	const screening = go("craft/contraindication") + go("craft/adjusting") + go("craft/patch");
	for (const [h] of all(screening, /^\s*\w+\s+Headline = "([a-z-]+)"/gm)) expect(headlineWords[h!], h).toBeTruthy();
	for (const [g] of all(screening, /^\s*\w+\s+PatchGrade = "([a-z]+)"/gm)) expect(patchGradeWords[g!]?.name, g).toBeTruthy();
	for (const [s] of all(screening, /^\s*\w+\s+PatchState = "([a-z]+)"/gm)) expect(patchStateWords[s!], s).toBeTruthy();
	for (const [s] of all(go("studio"), /^\s*\w+\s+VisitState = "([a-z-]+)"/gm)) expect(stateWords[s!], s).toBeTruthy();
	for (const [did] of all(screening, /^\s*\w+\s+AdjustmentKind = "([a-z-]+)"/gm)) {
		const text = changeText(
			{ id: "x", step: "a", name: "Chin kneading", did: did as never, zone: "chin", from: "3", to: "2", gentler: true },
			names,
		);
		whole(text);
		if (did !== "refitted" && did !== "slowed") expect(text, did).toMatch(/^Chin kneading: ./);
	}
});

test("what the protocol says for a skin is told in words of its own", () => {
	const change = (more: object) =>
		changeText({ id: "x", step: "a", name: "Calm oil", gentler: false, skin: true, ...more } as never, names);
	expect(change({ did: "dosed", from: "3.2 mL", to: "3.5 mL" })).toBe("Calm oil: 3.5 mL instead of 3.2 mL");
	expect(change({ did: "slowed", to: "120" })).toBe("Slower pace: sliding strokes take 120% of their usual time");
	expect(change({ did: "restored", rule: "variant/dry/re-apply" })).toBe("Calm oil: re-apply product before slip runs low");
	expect(change({ did: "restored", rule: "carotid" })).toMatch(/drainage and slip/);
});

test("many places are counted, few are named, sides are told apart", () => {
	const o = (places: { zone: string; side?: string }[]) =>
		outcomeText(
			{ rule: "r", title: "R", kind: "leave-out", outcome: { kind: "leave-out" }, why: "", basis: "", places } as never,
			(k) => k,
		);
	expect(o([{ zone: "Chin", side: "both" }])).toBe("Avoid the chin");
	expect(o([{ zone: "In front of the ear", side: "left" }])).toBe("Avoid the area in front of the ear on the left");
	expect(
		o([
			{ zone: "Cheek", side: "left" },
			{ zone: "Brow", side: "right" },
		]),
	).toBe("Avoid the left cheek, the right brow");
	const many = Array.from({ length: 9 }, (_, i) => ({ zone: `z${i}`, side: "left" }));
	expect(o(many)).toBe("Avoid 9 zones on the left");
	expect(outlookText({ outlook: "not-before", notBefore: "2026-12-01" })).toBe("Not before 1 Dec 2026");
	expect(outlookText({ outlook: "go-with-changes", notBefore: "2026-12-01" })).toBe("OK with adjustments");
});
