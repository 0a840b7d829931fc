import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ProblemError, type Schemas } from "../api/client";
import { priceListQuery } from "../api/queries";
import { money } from "../kit/format";
import { Button, Field, Loading, Page } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/books";
import { BooksNav } from "./BooksNav";
import { type New, NewPrice, useAddPrice } from "./NewPrice";
import { Packages } from "./Packages";
import { PayTerms } from "./PayTerms";

type List = Schemas["PriceList"];

/** What is sold at which price; a new price holds from a day on, and none is overwritten. */
export function PricesPage() {
	const { may, currency = "EUR" } = useSession();
	const list = useQuery(priceListQuery);
	const [at, setAt] = useState<New | null>(null);
	if (!list.data) return <Loading of={w.prices} error={list.error} retry={() => list.refetch()} />;
	const p = list.data;
	const row = (key: string, name: string, price: string, of: New, more?: string) => (
		<li key={key} className="border-b border-rule">
			<div className="grid min-h-11 grid-cols-[minmax(0,1fr)_7rem_8rem] items-center gap-4">
				<span className="truncate" title={name}>
					<span className="font-semibold">{name}</span> {more && <span className="text-soft">{more}</span>}
				</span>
				<span className="num text-right font-semibold">{price}</span>
				{may("add-price") ? (
					<Button variant="quiet" aria-expanded={at === of} onClick={() => setAt(of)}>
						{w.newPrice}
					</Button>
				) : (
					<span />
				)}
			</div>
			{at && at.protocol === of.protocol && at.product === of.product && at.extra === of.extra && at.visits === of.visits && (
				<NewPrice of={at} done={() => setAt(null)} />
			)}
		</li>
	);
	const treatments = p.treatments.flatMap((t) => [
		row(t.protocol, t.name, money(t.price, currency), { protocol: t.protocol, visits: 1 }),
		...t.series.map((s) =>
			row(
				`${t.protocol} ${s.visits}`,
				t.name,
				money(s.price, currency),
				{ protocol: t.protocol, visits: s.visits },
				w.visits({ visits: s.visits }),
			),
		),
	]);
	return (
		<Page title={w.prices} action={<BooksNav />}>
			<div className="grid items-start gap-x-12 gap-y-8 lg:grid-cols-2">
				<section>
					<h2 className="m-0 mb-1 text-2xl">{w.treatmentsAndSeries}</h2>
					<ul className="m-0 list-none border-t border-ink p-0">{treatments}</ul>
					{may("add-price") && <NewSeries list={p} />}
					<Packages list={p} />
				</section>
				<div className="grid gap-8">
					<section>
						<h2 className="m-0 mb-1 text-2xl">{w.addOns}</h2>
						<ul className="m-0 list-none border-t border-ink p-0">
							{p.extras.map((x) =>
								row(
									x.name,
									x.name,
									money(x.price, currency),
									{ extra: x.name, visits: 1 },
									x.minutes ? w.minutes({ minutes: x.minutes }) : "",
								),
							)}
						</ul>
						{may("add-price") && <NewExtra />}
					</section>
					<section>
						<h2 className="m-0 mb-1 text-2xl">{w.productsForSale}</h2>
						<ul className="m-0 list-none border-t border-ink p-0">
							{p.products.map((x) => row(x.product, x.name, x.price ? money(x.price, currency) : "–", { product: x.product, visits: 1 }))}
						</ul>
						{p.products.length === 0 && <p className="m-0 py-2 text-soft">{w.noProductsForSale}</p>}
					</section>
					{may("list-pay-terms") && <PayTerms />}
				</div>
			</div>
		</Page>
	);
}

/** A series gets its first price. */
function NewSeries({ list }: { list: List }) {
	const { at, now } = useSession();
	const [protocol, setProtocol] = useState("");
	const [visits, setVisits] = useState("6");
	const [amount, setAmount] = useState("");
	const add = useAddPrice(() => setAmount(""));
	return (
		<form
			className="mt-3 grid items-end gap-3 sm:grid-cols-[minmax(0,1fr)_7rem_7rem_auto]"
			onSubmit={(e) => {
				e.preventDefault();
				add.mutate({ protocol, visits: Number(visits), amount, from: at.day(now()) });
			}}
		>
			<Field label={w.aNewSeriesOf}>
				{(a) => (
					<select {...a} className="field" required value={protocol} onChange={(e) => setProtocol(e.target.value)}>
						<option value="">{w.choose}</option>
						{list.treatments.map((t) => (
							<option key={t.protocol} value={t.protocol}>
								{t.name}
							</option>
						))}
					</select>
				)}
			</Field>
			<Field label={w.visitsIn}>
				{(a) => (
					<input
						{...a}
						className="field num"
						type="number"
						min={2}
						max={60}
						required
						value={visits}
						onChange={(e) => setVisits(e.target.value)}
					/>
				)}
			</Field>
			<Field label={w.price} fault={add.error instanceof ProblemError ? add.error.at("/amount") : undefined}>
				{(a) => (
					<input {...a} className="field num" inputMode="decimal" required value={amount} onChange={(e) => setAmount(e.target.value)} />
				)}
			</Field>
			<Button type="submit" disabled={add.isPending}>
				{w.add}
			</Button>
		</form>
	);
}

function NewExtra() {
	const { at, now } = useSession();
	const [extra, setExtra] = useState("");
	const [minutes, setMinutes] = useState("10");
	const [amount, setAmount] = useState("");
	const add = useAddPrice(() => {
		setExtra("");
		setAmount("");
	});
	return (
		<form
			className="mt-3 grid items-end gap-3 sm:grid-cols-[minmax(0,1fr)_7rem_7rem_auto]"
			onSubmit={(e) => {
				e.preventDefault();
				add.mutate({ extra, minutes: Number(minutes) || 0, visits: 1, amount, from: at.day(now()) });
			}}
		>
			<Field label={w.aNewAddOn}>
				{(a) => <input {...a} className="field" maxLength={60} required value={extra} onChange={(e) => setExtra(e.target.value)} />}
			</Field>
			<Field label={w.minutesOf}>
				{(a) => (
					<input
						{...a}
						className="field num"
						type="number"
						min={0}
						max={240}
						value={minutes}
						onChange={(e) => setMinutes(e.target.value)}
					/>
				)}
			</Field>
			<Field label={w.price} fault={add.error instanceof ProblemError ? add.error.at("/amount") : undefined}>
				{(a) => (
					<input {...a} className="field num" inputMode="decimal" required value={amount} onChange={(e) => setAmount(e.target.value)} />
				)}
			</Field>
			<Button type="submit" disabled={add.isPending}>
				{w.add}
			</Button>
		</form>
	);
}
