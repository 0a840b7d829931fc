import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { asDecimal } from "../kit/faults";
import { Button, ErrorMessage, Field, Loading } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/shelf";

/** Suppliers, and how the studio orders and counts. */
export function OrderTerms({ onDone }: { onDone: () => void }) {
	const terms = useQuery({ queryKey: ["order-terms"], queryFn: () => unwrap(api.GET("/api/order-terms")) });
	if (!terms.data) return <Loading of={w.suppliersAndSettings} error={terms.error} retry={() => terms.refetch()} />;
	return (
		<section className="leaf mb-6 grid gap-6 p-4 lg:grid-cols-2" aria-label={w.suppliersAndSettings}>
			<div>
				<h2 className="m-0 text-xl">{w.suppliers}</h2>
				{terms.data.suppliers.length === 0 && <p className="m-0">{w.noSuppliersYet}</p>}
				<ul className="m-0 list-none p-0">
					{terms.data.suppliers.map((s) => (
						<SupplierFields key={s.name} of={s} />
					))}
				</ul>
			</div>
			<Settings of={terms.data.settings} onDone={onDone} />
		</section>
	);
}

function SupplierFields({ of }: { of: Schemas["Supplier"] }) {
	const { may, currency } = useSession();
	const cache = useQueryClient();
	const [least, setLeast] = useState(String(Number(of.leastValue)));
	const [cost, setCost] = useState(String(Number(of.orderCost)));
	const [email, setEmail] = useState(of.email);
	const save = useMutation({
		mutationFn: () =>
			unwrap(
				api.PUT("/api/suppliers", {
					body: { name: of.name, leastValue: asDecimal(least) || "0", orderCost: asDecimal(cost) || "0", email },
				}),
			),
		onSuccess: () => {
			for (const key of ["order-terms", "order-lists", "shelf"]) cache.invalidateQueries({ queryKey: [key] });
		},
	});
	const changed =
		asDecimal(least) !== String(Number(of.leastValue)) || asDecimal(cost) !== String(Number(of.orderCost)) || email !== of.email;
	return (
		<li className="border-b border-rule py-2">
			<p className="m-0 font-semibold">{of.name}</p>
			<div className="grid grid-cols-[1fr_1fr_1.6fr_auto] items-end gap-3">
				<Field label={w.leastOrderValue({ currency: currency ?? "EUR" })}>
					{(a) => <input {...a} className="field num" inputMode="decimal" value={least} onChange={(e) => setLeast(e.target.value)} />}
				</Field>
				<Field label={w.costOfAnOrder}>
					{(a) => <input {...a} className="field num" inputMode="decimal" value={cost} onChange={(e) => setCost(e.target.value)} />}
				</Field>
				<Field label={w.email}>
					{(a) => <input {...a} className="field" maxLength={200} value={email} onChange={(e) => setEmail(e.target.value)} />}
				</Field>
				{may("save-supplier") && (
					<Button disabled={!changed || save.isPending} onClick={() => save.mutate()}>
						{w.save}
					</Button>
				)}
			</div>
			<ErrorMessage error={save.error} />
		</li>
	);
}

const levels = [90, 95, 98, 99] as const;

function Settings({ of, onDone }: { of: Schemas["OrderSettings"]; onDone: () => void }) {
	const { may } = useSession();
	const cache = useQueryClient();
	const [s, set] = useState(of);
	const save = useMutation({
		mutationFn: () =>
			unwrap(
				api.PUT("/api/order-settings", { body: { ...s, holdingPercent: asDecimal(s.holdingPercent), scaleStep: asDecimal(s.scaleStep) } }),
			),
		onSuccess: () => {
			for (const key of ["order-terms", "order-lists", "shelf"]) cache.invalidateQueries({ queryKey: [key] });
			onDone();
		},
	});
	return (
		<form
			className="grid content-start gap-3"
			noValidate
			onSubmit={(e) => {
				e.preventDefault();
				save.mutate();
			}}
		>
			<h2 className="m-0 text-xl">{w.howWeOrder}</h2>
			<div className="grid grid-cols-2 items-end gap-3">
				<Field label={w.serviceLevel} hint={w.serviceLevelHint}>
					{(a) => (
						<select
							{...a}
							className="field"
							value={s.serviceLevel}
							onChange={(e) => set({ ...s, serviceLevel: Number(e.target.value) as 95 })}
						>
							{levels.map((n) => (
								<option key={n} value={n}>
									{n} %
								</option>
							))}
						</select>
					)}
				</Field>
				<Field label={w.holdingPercent} hint={w.holdingHint}>
					{(a) => (
						<input
							{...a}
							className="field num"
							inputMode="decimal"
							value={s.holdingPercent}
							onChange={(e) => set({ ...s, holdingPercent: e.target.value })}
						/>
					)}
				</Field>
				<Field label={w.mostMonths}>
					{(a) => (
						<input
							{...a}
							className="field num"
							type="number"
							min={1}
							max={60}
							value={s.mostMonths}
							onChange={(e) => set({ ...s, mostMonths: Number(e.target.value) })}
						/>
					)}
				</Field>
				<Field label={w.leastLifeDays}>
					{(a) => (
						<input
							{...a}
							className="field num"
							type="number"
							min={0}
							max={1000}
							value={s.leastLifeDays}
							onChange={(e) => set({ ...s, leastLifeDays: Number(e.target.value) })}
						/>
					)}
				</Field>
				<Field label={w.scaleStepG}>
					{(a) => (
						<input
							{...a}
							className="field num"
							inputMode="decimal"
							value={s.scaleStep}
							onChange={(e) => set({ ...s, scaleStep: e.target.value })}
						/>
					)}
				</Field>
				<label className="flex min-h-11 items-center gap-2">
					<input
						type="checkbox"
						className="size-5 accent-persimmon"
						checked={s.blindCount}
						onChange={(e) => set({ ...s, blindCount: e.target.checked })}
					/>
					{w.blindCount}
				</label>
			</div>
			<ErrorMessage error={save.error} />
			<div className="flex justify-end gap-3">
				<Button onClick={onDone}>{w.close}</Button>
				{may("save-order-settings") && (
					<Button variant="primary" type="submit" disabled={save.isPending}>
						{w.saveSettings}
					</Button>
				)}
			</div>
		</form>
	);
}
