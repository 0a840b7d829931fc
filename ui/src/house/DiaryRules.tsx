import type { Path } from "react-hook-form";
import type { Schemas } from "../api/client";
import { Input, Select, type ServerForm } from "../kit/form";
import * as w from "../words/catalogue/people";

type Of = ServerForm<Schemas["SettingsView"]>;
type Field = Path<Schemas["SettingsView"]>;

/** What of the diary's rules is a number, with its label: hours, minutes, days, points. */
const limits = [
	["freeHours", w.freeHours],
	["holdMinutes", w.holdMinutes],
	["linkHoldMinutes", w.linkHoldMinutes],
	["mostHolds", w.mostHolds],
	["depositAfter", w.depositAfter],
] as const;
const due = [
	["prepareDays", w.prepareDays],
	["anythingNewHours", w.anythingNewHours],
	["reminderHours", w.reminderHours],
	["shortHours", w.shortHours],
] as const;
const points = [
	["pointsStart", w.pointsStart],
	["pointsChange", w.pointsChange],
	["pointsPrefer", w.pointsPrefer],
	["pointsWeekday", w.pointsWeekday],
	["pointsTime", w.pointsTime],
	["pointsRather", w.pointsRather],
	["pointsLate", w.pointsLate],
	["pointsSliver", w.pointsSliver],
] as const;
const times = [
	["quietFrom", w.quietFrom],
	["quietTo", w.quietTo],
	["nextDayAt", w.nextDayAt],
	["lateFrom", w.lateFrom],
] as const;

const numeric = [...limits, ...due, ...points].map(([field]) => field);

export const diaryLabels: Record<string, string> = {
	...Object.fromEntries([...limits, ...due, ...points, ...times]),
	missed: w.missedVisits,
};

/** The numbers of the form, as the server takes them. */
export function diaryNumbers(v: Schemas["SettingsView"]) {
	return Object.fromEntries(numeric.map((field) => [field, Number(v[field])])) as Pick<Schemas["SettingsView"], (typeof numeric)[number]>;
}

/** The limits, times and weights of the diary. */
export function DiaryRules({ of }: { of: Of }) {
	const number = ([field, label]: readonly [Field, string]) => (
		<Input key={field} of={of} field={field} label={label} type="number" min={0} max={1440} className="num w-28" />
	);
	const clock = ([field, label]: readonly [Field, string]) => (
		<Input key={field} of={of} field={field} label={label} inputMode="numeric" maxLength={5} className="num w-28" />
	);
	return (
		<section aria-label={w.diary} className="grid gap-x-12 gap-y-4 lg:col-span-2 lg:grid-cols-2">
			<h2 className="m-0 text-2xl lg:col-span-2">{w.diary}</h2>
			<fieldset className="m-0 border-0 p-0">
				<legend className="mb-1 text-sm font-semibold">{w.limits}</legend>
				<div className="grid grid-cols-2 items-end gap-3">
					{limits.map(number)}
					<Select
						of={of}
						field="missed"
						label={w.missedVisits}
						options={{ "first-back": w.missedFirstBack, back: w.missedBack, used: w.missedUsed }}
					/>
				</div>
			</fieldset>
			<fieldset className="m-0 border-0 p-0">
				<legend className="mb-1 text-sm font-semibold">{w.whenClientsAreWrittenTo}</legend>
				<div className="grid grid-cols-2 items-end gap-3">
					{due.map(number)}
					{times.slice(0, 3).map(clock)}
				</div>
				<p className="mt-1 mb-0 text-sm text-soft">{w.oneMessageADay}</p>
			</fieldset>
			<details className="lg:col-span-2">
				<summary className="min-h-11 cursor-pointer py-2 font-semibold">{w.whatTheBestSeriesCosts}</summary>
				<p className="m-0 mb-2 text-sm text-soft">{w.pointsHint}</p>
				<div className="grid grid-cols-2 items-end gap-3 lg:grid-cols-4">
					{points.map(number)}
					{clock(times[3])}
				</div>
			</details>
		</section>
	);
}
