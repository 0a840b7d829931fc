import { useEffect, useRef, useState } from "react";
import type { FieldValues, Path, PathValue } from "react-hook-form";
import * as w from "../words/catalogue/kit";
import { differences, inWords } from "./faults";
import type { ServerForm } from "./form";

/**
 * Both texts of what somebody else saved meanwhile, beside each other: for each field
 * that differs one of the two is chosen. Nothing that was typed is lost.
 */
export function Changed<T extends FieldValues>({
	of,
	theirs,
	labels,
}: {
	of: ServerForm<T>;
	theirs: T;
	labels: { [K in keyof T]?: string };
}) {
	const [mine] = useState(() => of.form.getValues());
	const fields = differences(mine, theirs, Object.keys(labels) as (keyof T & string)[]);
	// What was not touched on this screen is taken as it was saved meanwhile.
	const base = (of.form.formState.defaultValues ?? {}) as Partial<T>;
	const [chosen, setChosen] = useState<Record<string, boolean>>(() =>
		Object.fromEntries(fields.map((f) => [f, inWords(mine[f]) === inWords(base[f])])),
	);
	const put = (field: string, take: boolean) => of.form.setValue(field as Path<T>, (take ? theirs : mine)[field] as PathValue<T, Path<T>>);
	const first = useRef(true);
	useEffect(() => {
		if (!first.current) return;
		first.current = false;
		for (const [field, take] of Object.entries(chosen)) put(field, take);
	});
	if (fields.length === 0) return null;
	return (
		<fieldset className="m-0 min-w-0 border border-persimmon bg-paper p-3">
			<legend className="px-1 font-serif text-lg font-semibold">{w.changedMeanwhile}</legend>
			<div className="grid grid-cols-2 gap-x-3 text-sm">
				<span className="font-semibold text-soft">{w.yours}</span>
				<span className="font-semibold text-soft">{w.savedMeanwhile}</span>
				{fields.map((field) => (
					<fieldset key={field} className="contents">
						<legend className="contents">
							<span className="col-span-2 mt-1 border-t border-rule pt-1 font-semibold">{labels[field]}</span>
						</legend>
						{[false, true].map((take) => (
							<label key={String(take)} className="flex min-h-11 min-w-0 cursor-pointer items-center gap-2">
								<input
									type="radio"
									name={`changed-${field}`}
									checked={chosen[field] === take}
									onChange={() => {
										setChosen({ ...chosen, [field]: take });
										put(field, take);
									}}
								/>
								<span className="min-w-0 break-words [overflow-wrap:anywhere]">
									{inWords((take ? theirs : mine)[field]) || w.nothingEntered}
								</span>
							</label>
						))}
					</fieldset>
				))}
			</div>
		</fieldset>
	);
}
