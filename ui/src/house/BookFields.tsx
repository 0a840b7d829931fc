import type { Path } from "react-hook-form";
import type { Schemas } from "../api/client";
import { Input, Select, type ServerForm, Tick } from "../kit/form";
import * as w from "../words/catalogue/people";

type Of = ServerForm<Schemas["SettingsView"]>;
type Field = Path<Schemas["SettingsView"]>;

const whole = [
	["lateFee", w.lateFee],
	["missedFee", w.missedFee],
	["seriesMonths", w.seriesMonths],
	["voucherMonths", w.voucherMonths],
	["practitionerDiscount", w.practitionerDiscount],
	["deskDiscount", w.deskDiscount],
] as const;
const sums = [
	["cashStep", w.cashStep],
	["float", w.floatThatStays],
	["feeRate", w.feeRate],
	["lateSum", w.lateSum],
	["missedSum", w.missedSum],
] as const;

export const bookLabels: Record<string, string> = {
	...Object.fromEntries([...whole, ...sums]),
	refund: w.refundRule,
	priceOfVisitDay: w.priceOfVisitDay,
	taxWhenGiven: w.taxWhenGiven,
	missedCounts: w.missedCounts,
};

/** The whole numbers of the form, as the server takes them. */
export function bookNumbers(v: Schemas["SettingsView"]) {
	return Object.fromEntries(whole.map(([field]) => [field, Number(v[field])])) as Pick<Schemas["SettingsView"], (typeof whole)[number][0]>;
}

/** How the studio keeps its books. */
export function BookFields({ of }: { of: Of }) {
	return (
		<fieldset className="m-0 grid gap-3 border-0 p-0 lg:col-span-2">
			<legend className="mb-1 font-serif text-2xl">{w.theBooks}</legend>
			<div className="grid grid-cols-2 items-start gap-3 lg:grid-cols-4">
				{sums.map(([field, label]) => (
					<Input key={field} of={of} field={field as Field} label={label} inputMode="decimal" maxLength={12} className="num" />
				))}
				<Select of={of} field="refund" label={w.refundRule} options={{ "pro-rata": w.shareByShare, single: w.atSinglePrices }} />
				{whole.map(([field, label]) => (
					<Input key={field} of={of} field={field as Field} label={label} type="number" min={0} max={120} className="num" />
				))}
			</div>
			<Tick of={of} field="priceOfVisitDay" label={w.priceOfVisitDay} />
			<Tick of={of} field="missedCounts" label={w.missedCounts} />
			<Tick of={of} field="taxWhenGiven" label={w.taxWhenGiven} />
			<p className="m-0 text-sm text-soft">{w.askTheAccountant}</p>
		</fieldset>
	);
}
