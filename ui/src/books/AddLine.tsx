import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { priceListQuery } from "../api/queries";
import { money } from "../kit/format";
import { Button, ErrorMessage, Field } from "../kit/kit";
import { useSession } from "../kit/session";
import { Who } from "../kit/Who";
import * as w from "../words/catalogue/books";
import type { Line, useSale } from "./useSale";

type Kind = "treatment" | "extra" | "product" | "series" | "package" | "voucher";
const kinds: Record<Kind, string> = {
	extra: w.addOn,
	product: w.product,
	treatment: w.treatment,
	series: w.series,
	package: w.aPackage,
	voucher: w.voucher,
};

/** Adds something of the price list to a sale. */
export function AddLine({ s }: { s: ReturnType<typeof useSale> }) {
	const [kind, setKind] = useState<Kind | null>(null);
	const list = useQuery({ ...priceListQuery, enabled: kind !== null });
	const { currency = "EUR" } = useSession();
	const add = (l: Line) => {
		s.change({ lines: [...s.sale.lines, l] });
		setKind(null);
	};
	const practitioner = s.sale.tipFor && s.sale.visit ? { practitioner: s.sale.tipFor } : {};
	return (
		<div>
			<fieldset className="m-0 flex flex-wrap items-center gap-2 border-0 p-0">
				<legend className="float-left mr-2 text-sm font-semibold">{w.add}</legend>
				{(Object.keys(kinds) as Kind[]).map((k) => (
					<Button
						key={k}
						aria-pressed={kind === k}
						className="aria-pressed:border-ink aria-pressed:bg-white"
						onClick={() => setKind(kind === k ? null : k)}
					>
						{kinds[k]}
					</Button>
				))}
			</fieldset>
			{kind && (
				<div className="mt-3 rounded-md bg-leaf p-3">
					<ErrorMessage error={list.error} />
					{kind === "voucher" && <NewVoucher add={add} />}
					{kind === "package" && !s.sale.client && list.data?.packages.some((p) => p.ahead) && (
						<Who client="" label={w.whosePackage} onChange={(client) => s.change({ client })} />
					)}
					{kind === "series" && !s.sale.client && <Who client="" label={w.whoseSeries} onChange={(client) => s.change({ client })} />}
					{list.data && (
						<ul className={`m-0 grid max-h-72 list-none gap-1 overflow-auto p-0 ${kind === "package" ? "mt-2" : "sm:grid-cols-2"}`}>
							{kind === "treatment" &&
								list.data.treatments.map((t) => (
									<Item
										key={t.protocol}
										name={t.name}
										price={money(t.price, currency)}
										onAdd={() => add({ kind: "treatment", protocol: t.protocol, qty: 1, ...practitioner })}
									/>
								))}
							{kind === "extra" &&
								list.data.extras.map((x) => (
									<Item
										key={x.name}
										name={x.name}
										note={x.minutes ? w.minutes({ minutes: x.minutes }) : ""}
										price={money(x.price, currency)}
										onAdd={() => add({ kind: "extra", extra: x.name, qty: 1, ...practitioner })}
									/>
								))}
							{kind === "product" &&
								list.data.products.map((p) => (
									<Item
										key={p.product}
										name={p.name}
										price={p.price ? money(p.price, currency) : w.noPriceYet}
										onAdd={p.price ? () => add({ kind: "product", product: p.product, qty: 1, ...practitioner }) : undefined}
									/>
								))}
							{kind === "series" &&
								s.sale.client &&
								list.data.treatments.flatMap((t) =>
									t.series.map((r) => (
										<Item
											key={`${t.protocol} ${r.visits}`}
											name={t.name}
											note={w.visits({ visits: r.visits })}
											price={money(r.price, currency)}
											onAdd={() => add({ kind: "series", protocol: t.protocol, visits: r.visits, qty: 1 })}
										/>
									)),
								)}
							{kind === "package" &&
								list.data.packages.map((p) => (
									<Item
										key={p.name}
										name={p.name}
										note={p.parts.map((x) => w.timesName({ qty: x.qty, name: x.name })).join(", ")}
										price={money(p.price, currency)}
										onAdd={p.ahead && !s.sale.client ? undefined : () => add({ kind: "package", package: p.name, qty: 1, ...practitioner })}
									/>
								))}
						</ul>
					)}
					{list.data && kind === "package" && list.data.packages.length === 0 && <p className="m-0 text-soft">{w.noPackagesYet}</p>}
					{list.data && kind === "extra" && list.data.extras.length === 0 && <p className="m-0 text-soft">{w.noAddOnsYet}</p>}
					{list.data && kind === "series" && list.data.treatments.every((t) => t.series.length === 0) && (
						<p className="m-0 text-soft">{w.noSeriesYet}</p>
					)}
				</div>
			)}
		</div>
	);
}

function Item({ name, note, price, onAdd }: { name: string; note?: string; price: string; onAdd: (() => void) | undefined }) {
	return (
		<li>
			<button
				type="button"
				disabled={!onAdd}
				onClick={onAdd}
				className="flex min-h-11 w-full items-center justify-between gap-3 rounded-sm border border-rule bg-white px-3 py-1.5 text-left hover:border-ink disabled:opacity-60"
			>
				<span className="min-w-0 truncate font-semibold" title={name}>
					{name} {note && <span className="font-normal text-soft">{note}</span>}
				</span>
				<span className="num whitespace-nowrap">{price}</span>
			</button>
		</li>
	);
}

/** A voucher over an amount, or for treatments. */
function NewVoucher({ add }: { add: (l: Line) => void }) {
	const [amount, setAmount] = useState("");
	const [giver, setGiver] = useState("");
	const [protocol, setProtocol] = useState("");
	const list = useQuery(priceListQuery);
	return (
		<form
			className="grid items-end gap-3 sm:grid-cols-[8rem_minmax(0,1fr)_minmax(0,1fr)_auto]"
			onSubmit={(e) => {
				e.preventDefault();
				if (protocol) add({ kind: "treatment-voucher", protocol, visits: 1, qty: 1, giver });
				else add({ kind: "voucher", amount, qty: 1, giver });
			}}
		>
			<Field label={w.amount}>
				{(a) => (
					<input
						{...a}
						className="field num"
						inputMode="decimal"
						required={!protocol}
						disabled={Boolean(protocol)}
						value={amount}
						onChange={(e) => setAmount(e.target.value)}
					/>
				)}
			</Field>
			<Field label={w.orATreatment}>
				{(a) => (
					<select {...a} className="field" value={protocol} onChange={(e) => setProtocol(e.target.value)}>
						<option value="">{w.anAmount}</option>
						{list.data?.treatments.map((t) => (
							<option key={t.protocol} value={t.protocol}>
								{t.name}
							</option>
						))}
					</select>
				)}
			</Field>
			<Field label={w.giversWords}>
				{(a) => <input {...a} className="field" maxLength={300} value={giver} onChange={(e) => setGiver(e.target.value)} />}
			</Field>
			<Button type="submit">{w.add}</Button>
		</form>
	);
}
