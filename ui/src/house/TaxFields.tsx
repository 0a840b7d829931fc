import type { Path } from "react-hook-form";
import type { Schemas } from "../api/client";
import { Input, Select, type ServerForm } from "../kit/form";
import * as w from "../words/catalogue/people";

type Tax = Pick<Schemas["SettingsView"], "taxName" | "taxRate" | "taxMode" | "taxNumber">;

/** The usual tax that the studio's prices bear. */
export function TaxFields<T extends Tax>({ of }: { of: ServerForm<T> }) {
	const field = (name: keyof Tax) => name as Path<T>;
	return (
		<fieldset className="m-0 border-0 p-0">
			<legend className="mb-1 text-sm font-semibold">{w.tax}</legend>
			<div className="grid grid-cols-2 items-start gap-3">
				<Input of={of} field={field("taxName")} label={w.nameOfTheTax} maxLength={40} />
				<Input of={of} field={field("taxRate")} label={w.rateInPerCent} inputMode="decimal" maxLength={8} className="num" />
				<Select of={of} field={field("taxMode")} label={w.pricesAndTheTax} options={{ included: w.taxIncluded, added: w.taxAdded }} />
				<Input of={of} field={field("taxNumber")} label={w.taxNumber} maxLength={40} />
			</div>
			<p className="mt-1 mb-0 text-sm text-soft">{w.thePriceAClientIsToldHasIt}</p>
		</fieldset>
	);
}
