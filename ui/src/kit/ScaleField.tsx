import type { Ref } from "react";
import * as w from "../words/catalogue/kit";
import { Field } from "./kit";
import { useScale } from "./scale";

/** A weight in g, typed or taken from the scale. Enter with an empty field takes what the scale shows. */
export function ScaleField({
	label,
	value,
	fault,
	onChange,
	onEnter,
	inputRef,
}: {
	label: string;
	value: string;
	fault?: string | undefined;
	onChange: (grams: string) => void;
	onEnter?: () => void;
	inputRef?: Ref<HTMLInputElement>;
}) {
	const scale = useScale();
	return (
		<Field label={label} fault={fault}>
			{(a) => (
				<span className="flex gap-2">
					<input
						{...a}
						ref={inputRef}
						className="field num text-right"
						inputMode="decimal"
						value={value}
						placeholder={scale ? scale.grams : ""}
						onChange={(e) => onChange(e.target.value)}
						onKeyDown={(e) => {
							if (e.key !== "Enter") return;
							e.preventDefault();
							if (value === "" && scale?.still) onChange(scale.grams);
							onEnter?.();
						}}
					/>
					{scale && (
						<button
							type="button"
							className="num min-h-11 rounded-sm border border-[#9c8873] px-3 whitespace-nowrap disabled:opacity-50"
							disabled={!scale.still}
							onClick={() => onChange(scale.grams)}
						>
							{w.takeWeight({ grams: scale.grams })}
						</button>
					)}
				</span>
			)}
		</Field>
	);
}
