import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../api/client";
import { priceListQuery } from "../api/queries";
import { money } from "../kit/format";
import { Button, ErrorMessage, Field } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/books";

type List = Schemas["PriceList"];
type Part = Schemas["PackagePart"];

/** Several things at one price. */
export function Packages({ list }: { list: List }) {
	const { may, currency = "EUR" } = useSession();
	const [making, setMaking] = useState(false);
	const stop = useAddPackage(() => {});
	return (
		<section className="mt-8">
			<h2 className="m-0 mb-1 text-2xl">{w.packages}</h2>
			<ul className="m-0 list-none border-t border-ink p-0">
				{list.packages.map((p) => (
					<li key={p.name} className="grid grid-cols-[minmax(0,1fr)_7rem_8rem] items-center gap-4 border-b border-rule py-1.5">
						<span className="min-w-0">
							<span className="block font-semibold">{p.name}</span>
							<span className="block text-sm text-soft">{p.parts.map((x) => w.timesName({ qty: x.qty, name: x.name })).join(", ")}</span>
						</span>
						<span className="text-right">
							<span className="num block font-semibold">{money(p.price, currency)}</span>
							<span className="num block text-sm text-soft">{w.insteadOf({ amount: money(p.singly, currency) })}</span>
						</span>
						{may("add-package") ? (
							<Button variant="quiet" disabled={stop.isPending} onClick={() => stop.mutate({ name: p.name, parts: [], amount: "0" })}>
								{w.sellNoMore}
							</Button>
						) : (
							<span />
						)}
					</li>
				))}
			</ul>
			{list.packages.length === 0 && <p className="m-0 py-2 text-soft">{w.noPackagesYet}</p>}
			<ErrorMessage error={stop.error} />
			{may("add-package") &&
				(making ? (
					<NewPackage list={list} done={() => setMaking(false)} />
				) : (
					<Button className="mt-3" onClick={() => setMaking(true)}>
						{w.aNewPackage}
					</Button>
				))}
		</section>
	);
}

/** Sets what a package has in it and costs, from today on. */
function useAddPackage(done: () => void) {
	const cache = useQueryClient();
	const { at, now } = useSession();
	return useMutation({
		mutationFn: (p: { name: string; parts: Part[]; amount: string }) =>
			unwrap(
				api.POST("/api/packages", {
					body: {
						...p,
						id: "00000000-0000-0000-0000-000000000000",
						from: at.day(now()),
						amount: p.amount.trim().replace(",", "."),
					},
				}),
			),
		onSuccess: () => {
			cache.invalidateQueries({ queryKey: priceListQuery.queryKey });
			done();
		},
	});
}

type Choice = { value: string; name: string; part: Omit<Part, "qty"> };

function choices(list: List): Record<string, Choice[]> {
	return {
		[w.treatments]: list.treatments.map((t) => ({ value: t.protocol, name: t.name, part: { protocol: t.protocol } })),
		[w.addOns]: list.extras.map((x) => ({ value: x.name, name: x.name, part: { extra: x.name } })),
		[w.productsForSale]: list.products
			.filter((p) => p.price)
			.map((p) => ({ value: p.product, name: p.name, part: { product: p.product } })),
	};
}

function NewPackage({ list, done }: { list: List; done: () => void }) {
	const [name, setName] = useState("");
	const [amount, setAmount] = useState("");
	const [parts, setParts] = useState([{ value: "", qty: "1" }]);
	const add = useAddPackage(done);
	const among = choices(list);
	const all = Object.values(among).flat();
	const fault = (path: string) => (add.error instanceof ProblemError ? add.error.at(path) : undefined);
	const placed = ["/name", "/amount", ...parts.map((_, i) => `/parts/${i}`)].some(fault);
	const change = (i: number, to: Partial<(typeof parts)[number]>) => setParts(parts.map((p, k) => (k === i ? { ...p, ...to } : p)));
	const send = () => {
		const chosen = parts.flatMap((p) => {
			const c = all.find((x) => x.value === p.value);
			return c ? [{ ...c.part, qty: Math.max(1, Number(p.qty) || 1) }] : [];
		});
		if (chosen.length > 0) add.mutate({ name, parts: chosen, amount });
	};
	return (
		<form
			className="mt-3 grid gap-3 bg-leaf p-3"
			onSubmit={(e) => {
				e.preventDefault();
				send();
			}}
		>
			<div className="grid items-end gap-3 sm:grid-cols-[minmax(0,1fr)_8rem]">
				<Field label={w.nameOfThePackage} fault={fault("/name")}>
					{(a) => <input {...a} className="field" maxLength={60} required value={name} onChange={(e) => setName(e.target.value)} />}
				</Field>
				<Field label={w.price} fault={fault("/amount")}>
					{(a) => (
						<input {...a} className="field num" inputMode="decimal" required value={amount} onChange={(e) => setAmount(e.target.value)} />
					)}
				</Field>
			</div>
			{parts.map((p, i) => (
				<div key={i} className="grid items-end gap-3 sm:grid-cols-[5rem_minmax(0,1fr)_2.75rem]">
					<Field label={w.number}>
						{(a) => (
							<input
								{...a}
								className="field num"
								type="number"
								min={1}
								max={60}
								value={p.qty}
								onChange={(e) => change(i, { qty: e.target.value })}
							/>
						)}
					</Field>
					<Field label={w.whatIsInIt} fault={fault(`/parts/${i}`)}>
						{(a) => (
							<select {...a} className="field" required={i === 0} value={p.value} onChange={(e) => change(i, { value: e.target.value })}>
								<option value="">{w.choose}</option>
								{Object.entries(among).map(([group, of]) => (
									<optgroup key={group} label={group}>
										{of.map((c) => (
											<option key={c.value} value={c.value}>
												{c.name}
											</option>
										))}
									</optgroup>
								))}
							</select>
						)}
					</Field>
					{parts.length > 1 ? (
						<button
							type="button"
							className="min-h-11 min-w-11 text-xl text-soft"
							aria-label={w.takeOffTheBill({ what: all.find((c) => c.value === p.value)?.name ?? "" })}
							onClick={() => setParts(parts.filter((_, k) => k !== i))}
						>
							×
						</button>
					) : (
						<span />
					)}
				</div>
			))}
			<p className="m-0 text-sm text-soft">{w.packagesExplained}</p>
			<p className="m-0 flex flex-wrap gap-3">
				<Button variant="quiet" onClick={() => setParts([...parts, { value: "", qty: "1" }])}>
					{w.oneMoreThing}
				</Button>
				<Button type="submit" variant="primary" disabled={add.isPending}>
					{w.setThePrice}
				</Button>
				<Button variant="quiet" onClick={done}>
					{w.leaveIt}
				</Button>
			</p>
			{!placed && <ErrorMessage error={add.error} />}
		</form>
	);
}
