import { useQueryClient } from "@tanstack/react-query";
import * as z from "zod/mini";
import { api, type Schemas, unwrap } from "../api/client";
import { asDecimal, decimal } from "../kit/faults";
import { FormEnd, Input, Select, useServerForm } from "../kit/form";
import * as w from "../words/catalogue/shelf";

type Line = Schemas["ShelfLineView"];

const delivery = z.object({
	number: z.string().check(z.trim(), z.minLength(1, w.enterALotNumber)),
	expiry: z.string().check(z.minLength(10, w.enterTheUseByDate)),
	monthsOpen: z.string().check(z.trim(), z.regex(/^\d{1,3}$/, w.enterWholeMonths)),
	amount: z.string().check(z.trim(), z.regex(decimal, w.enterANumber)),
	cost: z.string().check(
		z.trim(),
		z.refine((s) => s === "" || decimal.test(s), w.enterANumber),
	),
});

/** A delivery: its lot, use-by date, amount and cost. */
export function Receive({ line, onDone }: { line: Line; onDone: () => void }) {
	const cache = useQueryClient();
	const of = useServerForm({
		schema: delivery,
		start: { number: "", expiry: "", monthsOpen: "6", amount: String(Number(line.packSize)), cost: "" },
		send: (f) =>
			unwrap(
				api.POST("/api/lots", {
					body: {
						product: line.product.id,
						number: f.number,
						expiry: f.expiry,
						monthsOpen: Number(f.monthsOpen),
						amount: asDecimal(f.amount),
						cost: asDecimal(f.cost) || "0",
					},
				}),
			),
		onSent: () => {
			cache.invalidateQueries({ queryKey: ["shelf"] });
			onDone();
		},
	});
	return (
		<form className="grid gap-3" onSubmit={of.submit} noValidate>
			<h2 className="m-0 text-xl">{w.receiveName({ name: line.product.name })}</h2>
			<Input of={of} field="number" label={w.lotNumber} maxLength={60} />
			<Input of={of} field="expiry" label={w.useBy} type="date" />
			<Input of={of} field="monthsOpen" label={w.monthsAfterOpening} inputMode="numeric" />
			<Input of={of} field="amount" label={w.amountInUnit({ unit: line.product.unit })} inputMode="decimal" />
			<Input of={of} field="cost" label={w.totalCostOfThisLot} inputMode="decimal" />
			<FormEnd of={of} act={w.addToStock} onCancel={onDone} />
		</form>
	);
}

const reasons = {
	waste: { kind: "waste", sign: "-", says: w.wastedOrSpilled },
	dispose: { kind: "dispose", sign: "-", says: w.discarded },
	tester: { kind: "tester", sign: "-", says: w.usedAsATester },
	retail: { kind: "retail", sign: "-", says: w.sold },
	less: { kind: "stocktake", sign: "-", says: w.stocktakeLessThanRecorded },
	more: { kind: "stocktake", sign: "", says: w.stocktakeMoreThanRecorded },
	return: { kind: "return", sign: "", says: w.returnedByAClient },
} as const;

const correction = z.object({
	reason: z.string(),
	amount: z.string().check(z.trim(), z.regex(decimal, w.enterANumber)),
	note: z.string(),
});

/** A stock correction of one lot: wasted, sold, counted otherwise. */
export function Correct({ line, lot, onDone }: { line: Line; lot: Schemas["LotView"]; onDone: () => void }) {
	const cache = useQueryClient();
	const of = useServerForm({
		schema: correction,
		start: { reason: lot.usable ? "waste" : "dispose", amount: lot.usable ? "" : String(Number(lot.left)), note: "" },
		send: (f) => {
			const { kind, sign } = reasons[f.reason as keyof typeof reasons];
			const body = { kind, amount: `${sign}${asDecimal(f.amount)}`, note: f.note };
			return unwrap(api.POST("/api/lots/{id}/movements", { params: { path: { id: lot.id } }, body }));
		},
		onSent: () => {
			cache.invalidateQueries({ queryKey: ["shelf"] });
			onDone();
		},
	});
	return (
		<form className="grid gap-3" onSubmit={of.submit} noValidate>
			<h2 className="m-0 text-xl">{w.nameLotNumber({ name: line.product.name, number: lot.number })}</h2>
			<p className="m-0 text-sm text-soft">{w.thisAddsStockCorrectionEarlierEntries}</p>
			<Select of={of} field="reason" label={w.why} options={Object.fromEntries(Object.entries(reasons).map(([k, r]) => [k, r.says]))} />
			<Input of={of} field="amount" label={w.amountInUnit({ unit: line.product.unit })} inputMode="decimal" className="num" />
			<Input of={of} field="note" label={w.note} maxLength={300} />
			<FormEnd of={of} act={w.saveCorrection} onCancel={onDone} />
		</form>
	);
}
