import type { Schemas } from "../../api/client";
import { Choice, NumberField, Picks, TextField } from "../../kit/fields";
import { Button } from "../../kit/kit";
import * as w from "../../words/catalogue/workbench";
import { familyWords, skinWords, toolKindWords, variantRuleWords } from "../../words/sentences";
import { newStepId } from "./ops";
import type { Protocol } from "./useBench";

type Rule = Schemas["VariantRule"];
type Variant = Schemas["Variant"];

const same = (list: readonly string[]) => Object.fromEntries(list.map((k) => [k, k]));

/** The variants of a protocol's own: by which rules it changes for some skin. */
export function VariantsEditor({
	protocol,
	library,
	edit,
}: {
	protocol: Protocol;
	library: Schemas["LibraryView"];
	edit: (p: Protocol) => void;
}) {
	const list = protocol.variants ?? [];
	const put = (variants: Variant[]) => edit({ ...protocol, variants });
	const change = (i: number, part: Partial<Variant>) => put(list.map((v, n) => (n === i ? { ...v, ...part } : v)));
	const rule = (i: number, k: number, part: Partial<Rule>) =>
		change(i, {
			rules: list[i]!.rules.map((r, n) =>
				n === k ? (Object.fromEntries(Object.entries({ ...r, ...part }).filter(([, v]) => v !== undefined && v !== "")) as Rule) : r,
			),
		});
	const zones = Object.fromEntries(library.zones.map((z) => [z.key, z.name]));
	const strokes = Object.fromEntries(library.strokes.map((s) => [s.key, s.name]));
	const products = Object.fromEntries(library.products.map((p) => [p.key, p.name]));
	const tags = same([...new Set(library.products.flatMap((p) => p.tags))]);
	return (
		<>
			{list.map((v, i) => (
				<section key={v.key} aria-label={v.name} className="grid gap-2 border-b border-rule pb-3">
					<TextField label={w.name} value={v.name} most={120} onChange={(name) => name && change(i, { name })} />
					<Picks label={w.forWord} options={same(skinWords)} chosen={v.for ?? []} onChange={(l) => change(i, { for: l ?? [] })} />
					{v.rules.map((r, k) => (
						<div key={`${k}-${v.rules.length}`} className="grid gap-2 border-l-4 border-rule pl-2">
							<Choice
								label={w.ruleK({ k: k + 1 })}
								value={r.do}
								options={variantRuleWords}
								onChange={(d) => rule(i, k, { do: d as Rule["do"] })}
							/>
							{["lighter", "cap", "amount", "slower", "hands-on"].includes(r.do) && (
								<NumberField label={w.by} value={r.by} most={480} required onChange={(by) => rule(i, k, { by })} />
							)}
							{["lighter", "cap", "leave-out"].includes(r.do) && (
								<Picks label={w.whereEmptyEverywhere} options={zones} chosen={r.zones ?? []} onChange={(l) => rule(i, k, { zones: l })} />
							)}
							{r.do === "leave-out" && (
								<>
									<Picks
										label={w.strokeFamilies}
										options={same(familyWords)}
										chosen={r.families ?? []}
										onChange={(l) => rule(i, k, { families: l as Rule["families"] })}
									/>
									<Picks label={w.kindsOfTool} options={toolKindWords} chosen={r.kinds ?? []} onChange={(l) => rule(i, k, { kinds: l })} />
								</>
							)}
							{(r.do === "leave-out" || r.do === "replace") && (
								<Choice
									label={w.stroke}
									value={r.stroke ?? ""}
									options={{ "": w.none, ...strokes }}
									onChange={(s) => rule(i, k, { stroke: s })}
								/>
							)}
							{r.do === "replace" && (
								<Choice
									label={w.by}
									value={r.with ?? ""}
									options={{ "": w.chooseOne, ...strokes }}
									onChange={(s) => rule(i, k, { with: s })}
								/>
							)}
							{r.do === "swap-product" && (
								<>
									<Picks label={w.productsThatCarry} options={tags} chosen={r.tags ?? []} onChange={(l) => rule(i, k, { tags: l })} />
									<Choice
										label={w.orThisOne}
										value={r.product ?? ""}
										options={{ "": w.none, ...products }}
										onChange={(s) => rule(i, k, { product: s })}
									/>
									<Choice
										label={w.by}
										value={r.with ?? ""}
										options={{ "": w.closestProductOnTheShelf, ...products }}
										onChange={(s) => rule(i, k, { with: s })}
									/>
								</>
							)}
							<TextField label={w.why} value={r.why} most={300} onChange={(why) => rule(i, k, { why: why ?? "" })} />
							<Button variant="quiet" onClick={() => change(i, { rules: v.rules.filter((_, n) => n !== k) })}>
								{w.removeRule}
							</Button>
						</div>
					))}
					<div className="flex gap-2">
						<Button onClick={() => change(i, { rules: [...v.rules, { do: "lighter", by: 1 }] })}>{w.addARule}</Button>
						<Button variant="quiet" onClick={() => put(list.filter((_, n) => n !== i))}>
							{w.removeVariant}
						</Button>
					</div>
				</section>
			))}
			<Button onClick={() => put([...list, { key: `v${newStepId()}`, name: w.newVariant, for: [], rules: [{ do: "lighter", by: 1 }] }])}>
				{w.addVariant}
			</Button>
		</>
	);
}
