import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { libraryQuery } from "../api/queries";
import { Dialog } from "../kit/Dialog";
import { Chips, Choice, NumberField, TextField } from "../kit/fields";
import { Button, ErrorMessage } from "../kit/kit";
import * as w from "../words/catalogue/shelf";
import { skinWords, toolKindWords } from "../words/sentences";

const forms = {
	oil: "oil",
	balm: w.balmOrWax,
	"moisturising-serum": w.moisturisingSerum,
	"massage-cream": w.massageCream,
	"cleansing-milk": w.cleansingMilk,
	"day-cream": w.dayCream,
	"watery-serum": w.waterySerumOrGel,
	mist: "mist",
	mask: "mask",
	"sun-cream": w.sunCream,
};

const list = (s: string | undefined) =>
	(s ?? "")
		.split(",")
		.map((x) => x.trim())
		.filter(Boolean);

type Made = Schemas["Contents"];

/** What a product is made of, as it is typed. */
type MadeText = { ingredients: string; tags: string[]; others: string; unsuited: string[] };

const made = (m: MadeText): Made => ({
	ingredients: list(m.ingredients.replaceAll("\n", ",")),
	tags: [...m.tags, ...list(m.others)],
	unsuited: m.unsuited,
});

/** Ingredients, the groups that rules and allergies speak of, and whom it is not for. */
function MadeOf({ value: m, onChange }: { value: MadeText; onChange: (m: MadeText) => void }) {
	const library = useQuery(libraryQuery);
	return (
		<>
			<TextField
				label={w.ingredientsAsOnPackSeparatedBy}
				value={m.ingredients}
				most={6000}
				lines
				onChange={(v) => onChange({ ...m, ingredients: v ?? "" })}
			/>
			<p className="m-0 text-sm text-soft">{w.copyIngredientListFromPackWe}</p>
			<Chips
				label={w.contains}
				options={(library.data?.tags ?? []).map((t) => [t.tag, t.name] as const)}
				chosen={m.tags}
				onChange={(tags) => onChange({ ...m, tags })}
			/>
			<TextField label={w.otherGroupsSeparatedByCommas} value={m.others} most={300} onChange={(v) => onChange({ ...m, others: v ?? "" })} />
			<Chips
				label={w.notSuitableFor}
				options={skinWords.map((w) => [w, w.replace("-", " ")] as const)}
				chosen={m.unsuited}
				onChange={(unsuited) => onChange({ ...m, unsuited })}
			/>
		</>
	);
}

/** Add product: what it is and how it is dosed; lots come with their delivery. */
export function AddProduct({ currency, onDone }: { currency: string; onDone: () => void }) {
	const [p, setP] = useState({ name: "", form: "oil", unit: "mL", price: "0.00" });
	const [of, setOf] = useState<MadeText>({ ingredients: "", tags: [], others: "", unsuited: [] });
	const [n, setN] = useState<Record<string, number | undefined>>({
		packSize: 100,
		fullDose: 4,
		rangeMin: 2,
		rangeMax: 5,
		density: 0.92,
		reorderAt: 50,
	});
	const cache = useQueryClient();
	const num = (key: string, label: string, hint?: string) => (
		<NumberField
			label={label}
			value={n[key]}
			most={100000}
			step="any"
			{...(hint ? { hint } : {})}
			onChange={(v) => setN({ ...n, [key]: v })}
		/>
	);
	const send = useMutation({
		mutationFn: () =>
			unwrap(
				api.POST("/api/products", {
					body: {
						key: "new",
						name: p.name,
						form: p.form as "oil",
						unit: p.unit as "mL",
						packSize: String(n.packSize ?? 0),
						price: p.price.replace(",", ".") || "0",
						reorderAt: String(n.reorderAt ?? 0),
						fullDose: n.fullDose ?? 0,
						rangeMin: n.rangeMin ?? 0,
						rangeMax: n.rangeMax ?? 0,
						...(n.dropsPerMl ? { dropsPerMl: n.dropsPerMl } : {}),
						...(n.mlPerPress ? { mlPerPress: n.mlPerPress } : {}),
						...(n.density ? { density: n.density } : {}),
						...made(of),
					},
				}),
			),
		onSuccess: () => {
			for (const key of ["shelf", "library"]) cache.invalidateQueries({ queryKey: [key] });
			onDone();
		},
	});
	return (
		<Dialog open onClose={onDone} title={w.addProduct}>
			<form
				className="grid gap-3"
				onSubmit={(e: FormEvent) => {
					e.preventDefault();
					send.mutate();
				}}
			>
				<TextField label={w.name} value={p.name} most={120} onChange={(v) => setP({ ...p, name: v ?? "" })} />
				<div className="grid grid-cols-3 gap-3">
					<Choice label={w.form} value={p.form} options={forms} onChange={(v) => setP({ ...p, form: v })} />
					<Choice label={w.unit} value={p.unit} options={{ mL: "mL", g: "g" }} onChange={(v) => setP({ ...p, unit: v })} />
					{num("packSize", w.pack)}
					{num("fullDose", w.amountForFaceNeckDeCollete)}
					{num("rangeMin", w.usualAmountFromML)}
					{num("rangeMax", w.toML)}
					{num("dropsPerMl", w.dropsPerML, w.noDropper)}
					{num("mlPerPress", w.mLPerPump, w.noPump)}
					{num("density", w.gPerML)}
					<TextField label={w.priceCurrency({ currency })} value={p.price} most={12} onChange={(v) => setP({ ...p, price: v ?? "" })} />
					{num("reorderAt", w.reOrderAt)}
				</div>
				<p className="m-0 text-sm text-soft">{w.weigh20DropsOr5Pumps}</p>
				<MadeOf value={of} onChange={setOf} />
				<ErrorMessage error={send.error} />
				<div className="flex justify-end gap-3">
					<Button onClick={onDone}>{w.cancel}</Button>
					<Button variant="primary" type="submit" disabled={!p.name.trim() || send.isPending}>
						{w.addProduct}
					</Button>
				</div>
			</form>
		</Dialog>
	);
}

/** What a product is made of: allergies and rules are looked for in it. */
export function EditContents({ product, known, onDone }: { product: Schemas["ProductView"]; known: Schemas["Tag"][]; onDone: () => void }) {
	const isKnown = (tag: string) => known.some((t) => t.tag === tag);
	const [of, setOf] = useState<MadeText>({
		ingredients: product.ingredients.join(", "),
		tags: product.tags.filter(isKnown),
		others: product.tags.filter((t) => !isKnown(t)).join(", "),
		unsuited: product.unsuited,
	});
	const cache = useQueryClient();
	const send = useMutation({
		mutationFn: () => unwrap(api.PUT("/api/products/{id}/contents", { params: { path: { id: product.id } }, body: made(of) })),
		onSuccess: () => {
			for (const key of ["shelf", "library", "plan", "day", "visit"]) cache.invalidateQueries({ queryKey: [key] });
			onDone();
		},
	});
	return (
		<Dialog open onClose={onDone} title={w.ingredientsOfProduct({ product: product.name })}>
			<form
				className="grid gap-3"
				onSubmit={(e: FormEvent) => {
					e.preventDefault();
					send.mutate();
				}}
			>
				<MadeOf value={of} onChange={setOf} />
				<ErrorMessage error={send.error} />
				<div className="flex justify-end gap-3">
					<Button onClick={onDone}>{w.cancel}</Button>
					<Button variant="primary" type="submit" disabled={send.isPending}>
						{w.saveIngredients}
					</Button>
				</div>
			</form>
		</Dialog>
	);
}

/** Add tool. */
export function AddTool({ onDone }: { onDone: () => void }) {
	const [t, setT] = useState<Schemas["Tool"]>({ key: "new", name: "", kind: "stone", readyAfter: 20, pieces: 1 });
	const [parts, setParts] = useState<string | undefined>();
	const cache = useQueryClient();
	const send = useMutation({
		mutationFn: () => unwrap(api.POST("/api/tools", { body: { ...t, ...(list(parts).length > 0 ? { parts: list(parts) } : {}) } })),
		onSuccess: () => {
			cache.invalidateQueries({ queryKey: ["library"] });
			onDone();
		},
	});
	const tick = (key: "fragile" | "porous", label: string) => (
		<label className="flex min-h-11 items-center gap-2">
			<input
				type="checkbox"
				className="size-5 accent-persimmon"
				checked={Boolean(t[key])}
				onChange={(e) => setT({ ...t, [key]: e.target.checked })}
			/>
			{label}
		</label>
	);
	return (
		<Dialog open onClose={onDone} title={w.addTool}>
			<form
				className="grid gap-3"
				onSubmit={(e: FormEvent) => {
					e.preventDefault();
					send.mutate();
				}}
			>
				<TextField label={w.name} value={t.name} most={120} onChange={(v) => setT({ ...t, name: v ?? "" })} />
				<div className="grid grid-cols-3 gap-3">
					<Choice label={w.kind} value={t.kind} options={toolKindWords} onChange={(v) => setT({ ...t, kind: v as "stone" })} />
					<NumberField label={w.pieces} value={t.pieces} most={100} required onChange={(v) => setT({ ...t, pieces: v ?? 0 })} />
					<NumberField
						label={w.readyAgainAfterMin}
						value={t.readyAfter}
						most={1440}
						required
						onChange={(v) => setT({ ...t, readyAfter: v ?? 0 })}
					/>
				</div>
				<TextField label={w.edgesAndSidesSeparatedByCommas} value={parts} most={300} onChange={setParts} />
				<TextField label={w.howItIsCleaned} value={t.care} most={300} onChange={(v) => setT({ ...t, care: v ?? "" })} />
				<div className="flex gap-6">
					{tick("fragile", w.fragileLayOnATowel)}
					{tick("porous", w.singleUse)}
				</div>
				<ErrorMessage error={send.error} />
				<div className="flex justify-end gap-3">
					<Button onClick={onDone}>{w.cancel}</Button>
					<Button variant="primary" type="submit" disabled={!t.name.trim() || send.isPending}>
						{w.addTool}
					</Button>
				</div>
			</form>
		</Dialog>
	);
}
