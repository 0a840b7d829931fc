import type { Path } from "react-hook-form";
import type { Schemas } from "../api/client";
import { Input, type ServerForm } from "../kit/form";
import * as w from "../words/catalogue/people";

type Costs = Pick<
	Schemas["SettingsView"],
	"wagePerHour" | "roomPerHour" | "disposables" | "laundry" | "cardPercent" | "cardFixed" | "priceStep"
>;

export const costLabels: Record<keyof Costs, string> = {
	wagePerHour: w.payPerHour,
	roomPerHour: w.roomPerHour,
	disposables: w.disposablesPerAppointment,
	laundry: w.laundryPerAppointment,
	cardPercent: w.cardFeeInPerCent,
	cardFixed: w.cardFeeFixed,
	priceStep: w.pricesAreRoundedUpTo,
};

/** What an appointment costs beside its products and tools. */
export function CostFields<T extends Costs>({ of }: { of: ServerForm<T> }) {
	return (
		<fieldset className="m-0 border-0 p-0">
			<legend className="mb-1 text-sm font-semibold">{w.costsOfAnAppointment}</legend>
			<div className="grid grid-cols-2 items-start gap-3">
				{Object.entries(costLabels).map(([name, label]) => (
					<Input key={name} of={of} field={name as Path<T>} label={label} inputMode="decimal" maxLength={12} className="num" />
				))}
			</div>
			<p className="mt-1 mb-0 text-sm text-soft">{w.costsShowWhatAProtocolLeaves}</p>
		</fieldset>
	);
}
