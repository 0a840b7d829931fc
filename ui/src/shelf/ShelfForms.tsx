import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import * as z from "zod/mini";
import { api, type Schemas, unwrap } from "../api/client";
import { libraryQuery } from "../api/queries";
import { Changed } from "../kit/Changed";
import { Dialog } from "../kit/Dialog";
import { asDecimal, decimal } from "../kit/faults";
import { ChipsField, FormEnd, fieldRow, Input, Lines, Select, type ServerForm, Tick, useServerForm } from "../kit/form";
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
	water: w.water,
	"scent-oil": w.scentOil,
};

const list = (s: string | undefined) =>
	(s ?? "")
		.split(",")
		.map((x) => x.trim())
		.filter(Boolean);

type Made = Omit<Schemas["RevisedContents"], "revision" | "$schema">;

/** What a product is made of, as it is typed. */
type MadeText = { ingredients: string; tags: string[]; others: string; unsuited: string[] };

const madeText = { ingredients: z.string(), tags: z.array(z.string()), others: z.string(), unsuited: z.array(z.string()) };

const madeLabels = { ingredients: w.ingredients, tags: w.contains, others: w.otherGroupsSeparatedByCommas, unsuited: w.notSuitableFor };

const made = (m: MadeText): Made => ({
	ingredients: list(m.ingredients.replaceAll("\n", ",")),
	tags: [...m.tags, ...list(m.others)],
	unsuited: m.unsuited,
});

/** Ingredients, the groups that rules and allergies speak of, and whom it is not for. */
function MadeOf<T extends MadeText>({ of: form }: { of: ServerForm<T> }) {
	const of = form as unknown as ServerForm<MadeText>;
	const library = useQuery(libraryQuery);
	return (
		<>
			<Lines of={of} field="ingredients" label={w.ingredientsAsOnPackSeparatedBy} maxLength={6000} />
			<p className="m-0 text-sm text-soft">{w.copyIngredientListFromPackWe}</p>
			<ChipsField of={of} field="tags" label={w.contains} options={(library.data?.tags ?? []).map((t) => [t.tag, t.name] as const)} />
			<Input of={of} field="others" label={w.otherGroupsSeparatedByCommas} maxLength={300} />
			<ChipsField of={of} field="unsuited" label={w.notSuitableFor} options={skinWords.map((s) => [s, s.replace("-", " ")] as const)} />
		</>
	);
}

const name = z.string().check(z.trim(), z.minLength(1, w.enterAName));
const amount = z.string().check(z.trim(), z.regex(decimal, w.enterANumber));
const perhaps = z.string().check(
	z.trim(),
	z.refine((s) => s === "" || decimal.test(s), w.enterANumber),
);
const number = (typed: string) => Number(asDecimal(typed));

const product = z.object({
	name,
	form: z.string(),
	unit: z.string(),
	packSize: amount,
	fullDose: amount,
	rangeMin: amount,
	rangeMax: amount,
	dropsPerMl: perhaps,
	mlPerPress: perhaps,
	density: perhaps,
	price: amount,
	reorderAt: amount,
	...madeText,
});

/** Add product: what it is and how it is dosed; lots come with their delivery. */
export function AddProduct({ currency, onDone }: { currency: string; onDone: () => void }) {
	const cache = useQueryClient();
	const of = useServerForm({
		schema: product,
		start: {
			name: "",
			form: "oil",
			unit: "mL",
			packSize: "100",
			fullDose: "4",
			rangeMin: "2",
			rangeMax: "5",
			dropsPerMl: "",
			mlPerPress: "",
			density: "0.92",
			price: "0.00",
			reorderAt: "50",
			ingredients: "",
			tags: [],
			others: "",
			unsuited: [],
		},
		send: (p) =>
			unwrap(
				api.POST("/api/products", {
					body: {
						key: "new",
						name: p.name,
						form: p.form as "oil",
						unit: p.unit as "mL",
						packSize: asDecimal(p.packSize),
						price: asDecimal(p.price),
						reorderAt: asDecimal(p.reorderAt),
						fullDose: number(p.fullDose),
						rangeMin: number(p.rangeMin),
						rangeMax: number(p.rangeMax),
						...(p.dropsPerMl ? { dropsPerMl: number(p.dropsPerMl) } : {}),
						...(p.mlPerPress ? { mlPerPress: number(p.mlPerPress) } : {}),
						...(p.density ? { density: number(p.density) } : {}),
						...made(p),
					},
				}),
			),
		onSent: () => {
			for (const key of ["shelf", "library"]) cache.invalidateQueries({ queryKey: [key] });
			onDone();
		},
	});
	const num = (
		field: "packSize" | "fullDose" | "rangeMin" | "rangeMax" | "dropsPerMl" | "mlPerPress" | "density" | "reorderAt",
		label: string,
		none?: string,
	) => <Input of={of} field={field} label={label} inputMode="decimal" className="num" placeholder={none} />;
	return (
		<Dialog open onClose={onDone} title={w.addProduct}>
			<form className="grid gap-3" onSubmit={of.submit} noValidate>
				<Input of={of} field="name" label={w.name} maxLength={120} />
				<div className={fieldRow}>
					<Select of={of} field="form" label={w.form} options={forms} />
					<Select of={of} field="unit" label={w.unit} options={{ mL: "mL", g: "g" }} />
					{num("packSize", w.pack)}
					{num("fullDose", w.amountForFaceNeckDeCollete)}
					{num("rangeMin", w.usualAmountFromML)}
					{num("rangeMax", w.toML)}
					{num("dropsPerMl", w.dropsPerML, w.noDropper)}
					{num("mlPerPress", w.mLPerPump, w.noPump)}
					{num("density", w.gPerML)}
					<Input of={of} field="price" label={w.priceCurrency({ currency })} inputMode="decimal" className="num" />
					{num("reorderAt", w.reOrderAt)}
				</div>
				<p className="m-0 text-sm text-soft">{w.weigh20DropsOr5Pumps}</p>
				<MadeOf of={of} />
				<FormEnd of={of} act={w.addProduct} onCancel={onDone} />
			</form>
		</Dialog>
	);
}

/** What a product is made of: allergies and rules are looked for in it. */
export function EditContents({ product, known, onDone }: { product: Schemas["ProductView"]; known: Schemas["Tag"][]; onDone: () => void }) {
	const isKnown = (tag: string) => known.some((t) => t.tag === tag);
	const cache = useQueryClient();
	const typed = (c: Made): MadeText => ({
		ingredients: c.ingredients.join(", "),
		tags: c.tags.filter(isKnown),
		others: c.tags.filter((t) => !isKnown(t)).join(", "),
		unsuited: c.unsuited,
	});
	const at = useRef(product.revision); // what the next save is made on
	const of = useServerForm<MadeText, unknown>({
		start: typed(product),
		send: (m) =>
			unwrap(api.PUT("/api/products/{id}/contents", { params: { path: { id: product.id } }, body: { ...made(m), revision: at.current } })),
		onSent: () => {
			for (const key of ["shelf", "library", "plan", "day", "visit"]) cache.invalidateQueries({ queryKey: [key] });
			onDone();
		},
	});
	const theirs = of.changed?.contents;
	if (theirs) at.current = theirs.revision;
	return (
		<Dialog open onClose={onDone} title={w.ingredientsOfProduct({ product: product.name })}>
			<form className="grid gap-3" onSubmit={of.submit} noValidate>
				<MadeOf of={of} />
				{theirs && <Changed key={theirs.revision} of={of} theirs={typed(theirs)} labels={madeLabels} />}
				<FormEnd of={of} act={w.saveIngredients} onCancel={onDone} />
			</form>
		</Dialog>
	);
}

const whole = z.string().check(z.trim(), z.regex(/^\d{1,4}$/, w.enterAWholeNumber));
const tool = z.object({
	name,
	kind: z.string(),
	pieces: whole,
	readyAfter: whole,
	parts: z.string(),
	care: z.string(),
	fragile: z.boolean(),
	porous: z.boolean(),
});

/** Add tool. */
export function AddTool({ onDone }: { onDone: () => void }) {
	const cache = useQueryClient();
	const of = useServerForm({
		schema: tool,
		start: { name: "", kind: "stone", pieces: "1", readyAfter: "20", parts: "", care: "", fragile: false, porous: false },
		send: (t) =>
			unwrap(
				api.POST("/api/tools", {
					body: {
						key: "new",
						name: t.name,
						kind: t.kind as "stone",
						pieces: Number(t.pieces),
						readyAfter: Number(t.readyAfter),
						...(list(t.parts).length > 0 ? { parts: list(t.parts) } : {}),
						...(t.care ? { care: t.care } : {}),
						fragile: t.fragile,
						porous: t.porous,
					},
				}),
			),
		onSent: () => {
			cache.invalidateQueries({ queryKey: ["library"] });
			onDone();
		},
	});
	return (
		<Dialog open onClose={onDone} title={w.addTool}>
			<form className="grid gap-3" onSubmit={of.submit} noValidate>
				<Input of={of} field="name" label={w.name} maxLength={120} />
				<div className={fieldRow}>
					<Select of={of} field="kind" label={w.kind} options={toolKindWords} />
					<Input of={of} field="pieces" label={w.pieces} inputMode="numeric" className="num" />
					<Input of={of} field="readyAfter" label={w.readyAgainAfterMin} inputMode="numeric" className="num" />
				</div>
				<Input of={of} field="parts" label={w.edgesAndSidesSeparatedByCommas} maxLength={300} />
				<Input of={of} field="care" label={w.howItIsCleaned} maxLength={300} />
				<div className="flex gap-6">
					<Tick of={of} field="fragile" label={w.fragileLayOnATowel} />
					<Tick of={of} field="porous" label={w.singleUse} />
				</div>
				<FormEnd of={of} act={w.addTool} onCancel={onDone} />
			</form>
		</Dialog>
	);
}
