import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import * as z from "zod/mini";
import { api, type Schemas, unwrap } from "../api/client";
import { protocolsQuery } from "../api/queries";
import { asDecimal, decimal } from "../kit/faults";
import { FormEnd, fieldRow, Input, Select, useServerForm } from "../kit/form";
import { Button } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/shelf";
import { Calibrate } from "./Calibrate";

type Line = Schemas["ShelfLineView"];

const number = z.string().check(z.trim(), z.regex(decimal, w.enterANumber));
const perhaps = z.string().check(
	z.trim(),
	z.refine((s) => s === "" || decimal.test(s), w.enterANumber),
);
const whole = z.string().check(z.trim(), z.regex(/^\d{1,4}$/, w.enterAWholeNumber));

const supply = z.object({
	use: z.string(),
	place: z.string(),
	supplier: z.string(),
	articleNo: z.string(),
	gtin: z.string(),
	leadDays: whole,
	minPacks: whole,
	monthsOpen: whole,
	packSize: number,
	reorderAt: number,
	tare: perhaps,
	density: perhaps,
	perVisit: whole,
});

/** How a product is bought, kept and measured. */
export function Supply({ line: l, currency }: { line: Line; currency: string }) {
	const { may } = useSession();
	const protocols = useQuery({ ...protocolsQuery, enabled: l.product.unit === "pcs" && may("list-protocols") });
	const [editing, setEditing] = useState(false);
	const [weighing, setWeighing] = useState(false);
	const facts = [
		[w.supplier, [l.supplier, l.articleNo].filter(Boolean).join(", ") || w.notSaid],
		[w.barcode, l.gtin || w.notSaid],
		[w.place, l.place || w.notSaid],
		[w.packAndPrice, `${Number(l.packSize)} ${l.product.unit}, ${Number(l.price).toFixed(2)} ${currency}`],
		[
			w.leadTime,
			l.reorder.learned > 0
				? w.leadDaysLearned({ days: Number(l.reorder.leadDays), learned: l.reorder.learned })
				: w.leadDays({ days: l.leadDays }),
		],
		[w.reorderPoint, `${Number(l.reorder.point)} ${l.product.unit}`],
		[w.safetyStock, `${Number(l.reorder.safety)} ${l.product.unit}`],
		...(l.perVisit > 0 ? [[w.perAppointment, String(l.perVisit)] as const] : []),
		...Object.entries(l.perProtocol ?? {})
			.filter(([, n]) => n > 0)
			.map(([key, n]) => [w.moreForProtocol({ name: protocols.data?.find((p) => p.key === key)?.name ?? key }), String(n)] as const),
	] as const;
	if (weighing) return <Calibrate line={l} onDone={() => setWeighing(false)} />;
	if (editing) return <EditSupply line={l} onDone={() => setEditing(false)} />;
	return (
		<>
			<dl className="num m-0 grid grid-cols-[auto_1fr] gap-x-4 gap-y-1 text-sm">
				{facts.map(([name, value]) => (
					<div key={name} className="contents">
						<dt className="text-soft">{name}</dt>
						<dd className="m-0">{value}</dd>
					</div>
				))}
			</dl>
			<div className="mt-3 flex flex-wrap gap-3">
				{may("save-supply") && <Button onClick={() => setEditing(true)}>{w.changeDetails}</Button>}
				{may("calibrate") && l.product.unit !== "pcs" && <Button onClick={() => setWeighing(true)}>{w.weighDropsOrPumps}</Button>}
			</div>
		</>
	);
}

function EditSupply({ line: l, onDone }: { line: Line; onDone: () => void }) {
	const cache = useQueryClient();
	const [more, setMore] = useState<Record<string, number>>(l.perProtocol ?? {});
	const text = (v: string | number | undefined) => (v === undefined || Number(v) === 0 ? "" : String(Number(v)));
	const of = useServerForm({
		schema: supply,
		start: {
			use: l.use,
			place: l.place,
			supplier: l.supplier,
			articleNo: l.articleNo,
			gtin: l.gtin,
			leadDays: String(l.leadDays),
			minPacks: String(l.minPacks),
			monthsOpen: String(l.monthsOpen),
			packSize: String(Number(l.packSize)),
			reorderAt: String(Number(l.reorderAt)),
			tare: text(l.tare),
			density: text(l.density),
			perVisit: String(l.perVisit),
		},
		send: (f) =>
			unwrap(
				api.PUT("/api/products/{id}/supply", {
					params: { path: { id: l.product.id } },
					body: {
						use: f.use as "cabin",
						place: f.place,
						supplier: f.supplier,
						articleNo: f.articleNo,
						gtin: f.gtin,
						leadDays: Number(f.leadDays),
						minPacks: Math.max(1, Number(f.minPacks)),
						monthsOpen: Number(f.monthsOpen),
						packSize: asDecimal(f.packSize),
						reorderAt: asDecimal(f.reorderAt),
						...(f.tare ? { tare: asDecimal(f.tare) } : {}),
						density: f.density ? Number(asDecimal(f.density)) : 0,
						perVisit: Number(f.perVisit),
						perProtocol: more,
						mlPerSpatula: l.mlPerSpatula,
					},
				}),
			),
		onSent: () => {
			for (const key of ["shelf", "library"]) cache.invalidateQueries({ queryKey: [key] });
			onDone();
		},
	});
	const num = (
		field: "leadDays" | "minPacks" | "monthsOpen" | "packSize" | "reorderAt" | "tare" | "density" | "perVisit",
		label: string,
	) => <Input of={of} field={field} label={label} inputMode="decimal" className="num" />;
	return (
		<form className="grid gap-3" onSubmit={of.submit} noValidate>
			<Select of={of} field="use" label={w.usedFor} options={{ cabin: w.forTreatments2, retail: w.forSale, both: w.forBoth }} />
			<Input of={of} field="place" label={w.place} maxLength={60} />
			<Input of={of} field="supplier" label={w.supplier} maxLength={120} />
			<Input of={of} field="articleNo" label={w.articleNumber} maxLength={60} />
			<Input of={of} field="gtin" label={w.numberUnderTheBarcode} maxLength={14} inputMode="numeric" className="num" />
			<div className={fieldRow}>
				{num("packSize", w.pack)}
				{num("reorderAt", w.leastInStock)}
				{num("minPacks", w.leastPacks)}
				{num("leadDays", w.leadTimeDays)}
				{num("monthsOpen", w.monthsAfterOpening)}
				{num("perVisit", w.perAppointment)}
				{num("tare", w.emptyPackG)}
				{num("density", w.gPerML)}
			</div>
			{l.product.unit === "pcs" && <PerProtocol more={more} onChange={setMore} />}
			<FormEnd of={of} act={w.saveDetails} onCancel={onDone} />
		</form>
	);
}

/** How many more pieces some protocols take than every appointment does. */
function PerProtocol({ more, onChange }: { more: Record<string, number>; onChange: (more: Record<string, number>) => void }) {
	const protocols = useQuery(protocolsQuery);
	const named = protocols.data ?? [];
	const rest = named.filter((p) => !(p.key in more));
	return (
		<fieldset className="m-0 grid gap-2 border-0 p-0">
			<legend className="p-0 font-semibold">{w.moreForSomeProtocols}</legend>
			{Object.entries(more).map(([key, n]) => {
				const name = named.find((p) => p.key === key)?.name ?? key;
				return (
					<label key={key} className="flex items-center justify-between gap-3">
						<span>{name}</span>
						<input
							className="field num w-20"
							inputMode="numeric"
							aria-label={w.moreForProtocol({ name })}
							value={String(n)}
							onChange={(e) => onChange({ ...more, [key]: Math.min(100, Number(e.target.value.replace(/\D/g, "")) || 0) })}
						/>
					</label>
				);
			})}
			{rest.length > 0 && (
				<select
					className="field"
					aria-label={w.addAProtocol}
					value=""
					onChange={(e) => e.target.value && onChange({ ...more, [e.target.value]: 1 })}
				>
					<option value="">{w.addAProtocol}</option>
					{rest.map((p) => (
						<option key={p.key} value={p.key}>
							{p.name}
						</option>
					))}
				</select>
			)}
		</fieldset>
	);
}
