import type { Schemas } from "../../api/client";
import { Choice, NumberField, Picks, TextField } from "../../kit/fields";
import { Button } from "../../kit/kit";
import { familyWords, skinWords, toolKindWords, variantRuleWords } from "../../words/en";
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
					<TextField label="Name" value={v.name} most={120} onChange={(name) => name && change(i, { name })} />
					<Picks label="For" options={same(skinWords)} chosen={v.for ?? []} onChange={(l) => change(i, { for: l ?? [] })} />
					{v.rules.map((r, k) => (
						<div key={`${k}-${v.rules.length}`} className="grid gap-2 border-l-4 border-rule pl-2">
							<Choice
								label={`Rule ${k + 1}`}
								value={r.do}
								options={variantRuleWords}
								onChange={(d) => rule(i, k, { do: d as Rule["do"] })}
							/>
							{["lighter", "cap", "amount", "slower", "hands-on"].includes(r.do) && (
								<NumberField label="By" value={r.by} most={480} required onChange={(by) => rule(i, k, { by })} />
							)}
							{["lighter", "cap", "leave-out"].includes(r.do) && (
								<Picks
									label="Where (empty: everywhere)"
									options={zones}
									chosen={r.zones ?? []}
									onChange={(l) => rule(i, k, { zones: l })}
								/>
							)}
							{r.do === "leave-out" && (
								<>
									<Picks
										label="Stroke families"
										options={same(familyWords)}
										chosen={r.families ?? []}
										onChange={(l) => rule(i, k, { families: l as Rule["families"] })}
									/>
									<Picks label="Kinds of tool" options={toolKindWords} chosen={r.kinds ?? []} onChange={(l) => rule(i, k, { kinds: l })} />
								</>
							)}
							{(r.do === "leave-out" || r.do === "replace") && (
								<Choice
									label="Stroke"
									value={r.stroke ?? ""}
									options={{ "": "none", ...strokes }}
									onChange={(s) => rule(i, k, { stroke: s })}
								/>
							)}
							{r.do === "replace" && (
								<Choice
									label="by"
									value={r.with ?? ""}
									options={{ "": "choose one", ...strokes }}
									onChange={(s) => rule(i, k, { with: s })}
								/>
							)}
							{r.do === "swap-product" && (
								<>
									<Picks label="Products that carry" options={tags} chosen={r.tags ?? []} onChange={(l) => rule(i, k, { tags: l })} />
									<Choice
										label="or this one"
										value={r.product ?? ""}
										options={{ "": "none", ...products }}
										onChange={(s) => rule(i, k, { product: s })}
									/>
									<Choice
										label="by"
										value={r.with ?? ""}
										options={{ "": "closest product on the shelf", ...products }}
										onChange={(s) => rule(i, k, { with: s })}
									/>
								</>
							)}
							<TextField label="Why" value={r.why} most={300} onChange={(why) => rule(i, k, { why: why ?? "" })} />
							<Button variant="quiet" onClick={() => change(i, { rules: v.rules.filter((_, n) => n !== k) })}>
								Remove rule
							</Button>
						</div>
					))}
					<div className="flex gap-2">
						<Button onClick={() => change(i, { rules: [...v.rules, { do: "lighter", by: 1 }] })}>Add a rule</Button>
						<Button variant="quiet" onClick={() => put(list.filter((_, n) => n !== i))}>
							Remove variant
						</Button>
					</div>
				</section>
			))}
			<Button onClick={() => put([...list, { key: `v${newStepId()}`, name: "New variant", for: [], rules: [{ do: "lighter", by: 1 }] }])}>
				Add variant
			</Button>
		</>
	);
}
