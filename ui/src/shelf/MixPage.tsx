import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../api/client";
import { batchesQuery, libraryQuery, recipesQuery, shelfQuery } from "../api/queries";
import { asDecimal, decimal } from "../kit/faults";
import { amountShown, dayWords, money } from "../kit/format";
import { Button, ErrorMessage, Field, Loading, Page } from "../kit/kit";
import { ScaleField } from "../kit/ScaleField";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/shelf";
import { MixHelp } from "./MixHelp";
import { RecipeForm } from "./RecipeForm";
import { ShelfNav } from "./ShelfNav";

type Recipe = Schemas["Recipe"];
type Making = Schemas["Making"];

/** The bench: recipes, a batch weighed part by part, and the batches made. */
export function MixPage() {
	const recipes = useQuery(recipesQuery);
	const batches = useQuery(batchesQuery);
	const shelf = useQuery(shelfQuery);
	const { may } = useSession();
	const cache = useQueryClient();
	const [editing, setEditing] = useState<Recipe | "new" | null>(null);
	const [amount, setAmount] = useState<Record<string, string>>({});
	const [making, setMaking] = useState<Making | null>(null);
	const plan = useMutation({
		mutationFn: (r: Recipe) =>
			unwrap(api.GET("/api/recipes/{id}/batch", { params: { path: { id: r.id }, query: { amount: asDecimal(amount[r.id] ?? r.yield) } } })),
		onSuccess: setMaking,
	});
	const drop = useMutation({
		mutationFn: (id: string) => unwrap(api.DELETE("/api/recipes/{id}", { params: { path: { id } } })),
		onSuccess: () => cache.invalidateQueries({ queryKey: ["recipes"] }),
	});
	if (!recipes.data || !batches.data || !shelf.data)
		return (
			<Loading
				of={w.mix}
				error={recipes.error ?? batches.error ?? shelf.error}
				retry={() => [recipes, batches, shelf].filter((q) => q.error).map((q) => q.refetch())}
			/>
		);
	const product = (id: string) => shelf.data.find((l) => l.product.id === id)?.product;
	return (
		<Page title={w.mix} action={<ShelfNav />}>
			{may("save-recipe") && !editing && !making && (
				<div className="mb-2 flex justify-end">
					<Button onClick={() => setEditing("new")}>{w.newRecipe}</Button>
				</div>
			)}
			{editing && (
				<RecipeForm
					key={editing === "new" ? "new" : editing.id}
					of={editing === "new" ? null : editing}
					shelf={shelf.data}
					onDone={() => setEditing(null)}
				/>
			)}
			{making && <Bench making={making} onDone={() => setMaking(null)} />}
			{!making && !editing && (
				<section aria-label={w.recipes}>
					{recipes.data.length === 0 && <p className="max-w-2xl text-lg">{w.noRecipesYet}</p>}
					<ErrorMessage error={plan.error ?? drop.error} />
					<ul className="m-0 list-none p-0">
						{recipes.data.map((r) => (
							<li key={r.id} className="grid items-end gap-4 border-b border-rule py-3 lg:grid-cols-[minmax(0,1fr)_auto]">
								<div>
									<p className="m-0 font-serif text-lg font-semibold">
										{r.name} <span className="text-base font-normal text-soft">{w.versionNumber({ n: r.version })}</span>
									</p>
									<p className="num m-0 text-sm">
										{r.parts
											.map((p) => `${product(p.product)?.name ?? ""} ${Number(p.amount)} ${p.measure === "percent" ? "%" : p.measure}`)
											.join(" · ")}
									</p>
									<p className="m-0 text-sm text-soft">{[keepsWords(r.keeps), r.note].filter(Boolean).join(" · ")}</p>
								</div>
								<div className="flex flex-wrap items-end gap-3">
									<div className="w-32">
										<Field label={w.howMuchInUnit({ unit: product(r.product)?.unit ?? "" })}>
											{(a) => (
												<input
													{...a}
													className="field num text-right"
													inputMode="decimal"
													value={amount[r.id] ?? String(Number(r.yield))}
													onChange={(e) => setAmount({ ...amount, [r.id]: e.target.value })}
												/>
											)}
										</Field>
									</div>
									<Button
										variant="primary"
										disabled={plan.isPending || !decimal.test((amount[r.id] ?? String(Number(r.yield))).trim())}
										onClick={() => plan.mutate(r)}
									>
										{w.makeABatch}
									</Button>
									{may("save-recipe") && <Button onClick={() => setEditing(r)}>{w.changeRecipe}</Button>}
									{may("drop-recipe") && (
										<Button variant="quiet" onClick={() => drop.mutate(r.id)}>
											{w.takeOffTheList}
										</Button>
									)}
								</div>
							</li>
						))}
					</ul>
				</section>
			)}
			<h2 className="mt-8 mb-1 text-2xl">{w.batchesMade}</h2>
			<Batches batches={batches.data} />
			{may("work-out-mix") && !making && !editing && <MixHelp />}
		</Page>
	);
}

function keepsWords(k: Schemas["Keeps"]): string {
	if (k.days !== undefined) return k.days === 0 ? w.keepsTheSameDay : w.keepsDays({ days: k.days });
	return k.months !== undefined ? w.keepsMonths({ months: k.months }) : "";
}

/** One weighing at a time, in large type; what each part reaches beside it; the label at the end. */
function Bench({ making: m, onDone }: { making: Making; onDone: () => void }) {
	const cache = useQueryClient();
	const [weighed, setWeighed] = useState<string[]>([]);
	const [now, setNow] = useState("");
	const [made, setMade] = useState<Schemas["Batch"] | null>(null);
	const [yielded, setYielded] = useState(String(Number(m.yield)));
	const at = weighed.length;
	const part = m.parts[at];
	const make = useMutation({
		mutationFn: () =>
			unwrap(
				api.POST("/api/batches", {
					body: {
						recipe: m.recipe.id,
						yield: asDecimal(yielded),
						parts: m.parts.map((p, i) => ({ product: p.product, amount: weighed[i] ?? p.amount, ...(p.pack ? { pack: p.pack } : {}) })),
					},
				}),
			),
		onSuccess: (b) => {
			for (const key of ["shelf", "batches", "library"]) cache.invalidateQueries({ queryKey: [key] });
			setMade(b);
		},
	});
	if (made)
		return (
			<section role="status" className="leaf mb-6 p-4">
				<h2 className="m-0 text-2xl">{w.batchIsMade({ number: made.number })}</h2>
				<p className="num m-0">
					{made.name}, {amountShown(made.amount)} {made.unit},{" "}
					{made.goodUntil ? w.goodUntilDay({ day: dayWords(made.goodUntil) }) : w.noLastDay}
				</p>
				<div className="mt-3 flex gap-4">
					<a
						className="inline-flex min-h-11 items-center rounded-sm border border-persimmon bg-persimmon px-4 font-semibold text-white no-underline"
						href={`/api/batches/${made.lot}/label`}
						target="_blank"
						rel="noreferrer"
					>
						{w.printTheLabel}
					</a>
					<Button onClick={onDone}>{w.done}</Button>
				</div>
			</section>
		);
	const take = () => {
		if (!part) return;
		const typed = now.trim() === "" ? String(part.amount) : asDecimal(now);
		if (!decimal.test(typed)) return;
		setWeighed([...weighed, typed]);
		setNow("");
	};
	const over = m.parts.filter((p) => p.overMax);
	const short = m.parts.filter((p) => Number(p.short) > 0);
	return (
		<section className="leaf mb-6 p-4" aria-label={m.recipe.name}>
			<div className="flex flex-wrap items-baseline justify-between gap-4">
				<h2 className="m-0 text-2xl">{m.recipe.name}</h2>
				<span className="text-soft">{m.goodUntil ? w.willBeGoodUntil({ day: dayWords(m.goodUntil) }) : ""}</span>
			</div>
			{m.recipe.note && <p className="m-0">{m.recipe.note}</p>}
			{over.map((p) => (
				<p key={p.product} role="alert" className="m-0 font-semibold text-persimmon-deep">
					{w.overDermalMax({ name: p.name, percent: Number(p.percent) })}
				</p>
			))}
			{short.map((p) => (
				<p key={p.product} role="alert" className="m-0 font-semibold text-persimmon-deep">
					{w.partIsShort({ name: p.name, short: Number(p.short), unit: p.unit })}
				</p>
			))}
			<ol className="num m-0 mt-3 list-none p-0">
				{m.parts.map((p, i) => (
					<li
						key={p.product}
						className={`grid grid-cols-[2rem_minmax(0,1fr)_9rem_6rem_8rem] items-center gap-3 border-b border-rule py-2 ${i === at ? "font-semibold" : ""}`}
					>
						<span>{i < at ? "✓" : i + 1}</span>
						<span>
							{p.name} <span className="text-sm font-normal text-soft">{p.lot}</span>
						</span>
						<span className="text-right">
							{p.drops !== undefined ? w.dropsOf({ drops: p.drops }) : `${Number(weighed[i] ?? p.amount)} ${p.unit}`}
						</span>
						<span className="text-right text-soft">{Number(p.percent)} %</span>
						<span className="text-right text-soft">{w.gramsOf({ grams: Number(p.grams) })}</span>
					</li>
				))}
			</ol>
			{part ? (
				<form
					className="mt-4 grid items-end gap-4 lg:grid-cols-[minmax(0,1fr)_16rem_auto]"
					onSubmit={(e) => {
						e.preventDefault();
						take();
					}}
				>
					<p className="m-0 font-serif text-4xl font-semibold">
						{part.name}
						<span className="num block text-3xl">
							{part.drops !== undefined ? w.dropsOf({ drops: part.drops }) : `${Number(part.amount)} ${part.unit}`}
						</span>
					</p>
					{part.unit === "g" ? (
						<ScaleField label={w.weighedInG} value={now} onChange={setNow} />
					) : (
						<Field label={w.reallyInUnit({ unit: part.unit })} hint={w.emptyAsPlanned}>
							{(a) => (
								<input
									{...a}
									className="field num text-right text-xl"
									inputMode="decimal"
									value={now}
									onChange={(e) => setNow(e.target.value)}
								/>
							)}
						</Field>
					)}
					<Button variant="primary" type="submit">
						{w.inIt}
					</Button>
				</form>
			) : (
				<div className="mt-4 flex flex-wrap items-end justify-end gap-4">
					<div className="w-40">
						<Field label={w.madeInUnit({ unit: m.unit })} fault={make.error instanceof ProblemError ? make.error.at("/yield") : undefined}>
							{(a) => (
								<input
									{...a}
									className="field num text-right"
									inputMode="decimal"
									value={yielded}
									onChange={(e) => setYielded(e.target.value)}
								/>
							)}
						</Field>
					</div>
					<Button variant="primary" disabled={make.isPending || !decimal.test(yielded.trim())} onClick={() => make.mutate()}>
						{w.putBatchOnTheShelf}
					</Button>
				</div>
			)}
			<ErrorMessage error={make.error instanceof ProblemError && make.error.at("/yield") ? null : make.error} />
			<div className="mt-3 flex justify-between">
				<Button variant="quiet" className="px-0" disabled={at === 0} onClick={() => setWeighed(weighed.slice(0, -1))}>
					{w.oneBack}
				</Button>
				<Button onClick={onDone}>{w.cancel}</Button>
			</div>
		</section>
	);
}

function Batches({ batches }: { batches: Schemas["Batch"][] }) {
	const { currency = "EUR" } = useSession();
	const library = useQuery(libraryQuery);
	const name: Record<string, string> = Object.fromEntries((library.data?.tags ?? []).map((t) => [t.tag, t.name.toLowerCase()]));
	if (batches.length === 0) return <p className="m-0">{w.noBatchesYet}</p>;
	return (
		<ul className="m-0 list-none p-0">
			{batches.map((b) => (
				<li key={b.lot} className="grid grid-cols-[9rem_minmax(0,1fr)_auto] gap-4 border-b border-rule py-2">
					<div className="num">
						<p className="m-0 font-semibold">{b.number}</p>
						<p className="m-0 text-sm text-soft">{b.by}</p>
					</div>
					<div>
						<p className="num m-0">
							<span className="font-semibold">{b.name}</span>{" "}
							{w.leftOfMade({ left: Number(b.left), made: Number(b.amount), unit: b.unit, cost: money(b.cost, currency) })}
						</p>
						<p className="num m-0 text-sm">
							{b.parts.map((p) => w.partOfBatch({ name: p.name, lot: p.lot, percent: Number(p.percent) })).join(" · ")}
						</p>
						<p className="m-0 text-sm text-soft">
							{[
								b.goodUntil ? w.goodUntilDay({ day: dayWords(b.goodUntil) }) : w.noLastDay,
								b.tags.length > 0 ? w.containsTags({ tags: b.tags.map((t) => name[t] ?? t).join(", ") }) : "",
							]
								.filter(Boolean)
								.join(" · ")}
						</p>
					</div>
					<a
						className="inline-flex min-h-11 items-center underline underline-offset-4"
						href={`/api/batches/${b.lot}/label`}
						target="_blank"
						rel="noreferrer"
					>
						{w.label}
					</a>
				</li>
			))}
		</ul>
	);
}
