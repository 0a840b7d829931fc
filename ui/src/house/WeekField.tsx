import { Controller, type FieldValues, type Path } from "react-hook-form";
import type { Schemas } from "../api/client";
import type { ServerForm } from "../kit/form";
import * as w from "../words/catalogue/people";

type Week = Schemas["Hours"][];

const days = [
	[1, w.monday],
	[2, w.tuesday],
	[3, w.wednesday],
	[4, w.thursday],
	[5, w.friday],
	[6, w.saturday],
	[0, w.sunday],
] as const;

const clock = (minutes: number) => `${String(Math.floor(minutes / 60)).padStart(2, "0")}:${String(minutes % 60).padStart(2, "0")}`;
const minutes = (time: string) => Number(time.slice(0, 2)) * 60 + Number(time.slice(3, 5));

/** Nine to half past five, Monday to Friday. */
export const usualWeek: Week = [0, 1, 2, 3, 4, 5, 6].map((d) => (d % 6 === 0 ? { from: 0, to: 0 } : { from: 540, to: 1050 }));

/** The hours of every day of the week. A day that is not ticked has none. */
export function WeekField<T extends FieldValues>({ of, field, label }: { of: ServerForm<T>; field: Path<T>; label: string }) {
	return (
		<Controller
			control={of.form.control}
			name={field}
			render={({ field: { value, onChange } }) => (
				<fieldset className="m-0 border-0 p-0">
					<legend className="mb-1 text-sm font-semibold">{label}</legend>
					<div className="grid grid-cols-[minmax(110px,auto)_1fr_1fr] items-center gap-x-3 gap-y-1">
						{days.map(([d, name]) => (
							<Day
								key={d}
								name={name}
								hours={(value as Week)[d]!}
								onChange={(h) => onChange((value as Week).map((x, i) => (i === d ? h : x)))}
							/>
						))}
					</div>
					{of.fault(field) && (
						<p role="alert" className="mt-1 mb-0 text-sm font-semibold text-persimmon-deep">
							{of.fault(field)}
						</p>
					)}
				</fieldset>
			)}
		/>
	);
}

function Day({ name, hours, onChange }: { name: string; hours: Schemas["Hours"]; onChange: (h: Schemas["Hours"]) => void }) {
	const open = hours.from < hours.to || hours.from > 0;
	const time = (which: "from" | "to", label: string) => (
		<input
			type="time"
			aria-label={label}
			className="field num min-w-0"
			value={clock(hours[which])}
			onChange={(e) => e.target.value && onChange({ ...hours, [which]: minutes(e.target.value) })}
		/>
	);
	return (
		<>
			<label className="flex min-h-11 items-center gap-2">
				<input
					type="checkbox"
					className="size-5 accent-persimmon"
					checked={open}
					onChange={(e) => onChange(e.target.checked ? { from: 540, to: 1050 } : { from: 0, to: 0 })}
				/>
				{name}
			</label>
			{open ? (
				<>
					{time("from", w.dayFrom({ day: name }))}
					{time("to", w.dayTo({ day: name }))}
				</>
			) : (
				<span className="col-span-2 text-soft">{w.closed}</span>
			)}
		</>
	);
}
