import { type ReactNode, useId, useState } from "react";
import * as w from "../words/catalogue/kit";
import { Button } from "./kit";

/** A group of fields that can be folded away and is drawn while it is open; it says when something in it differs from the stroke. */
export function Group({ title, note, open, children }: { title: string; note?: string | undefined; open?: boolean; children: ReactNode }) {
	const [shown, setShown] = useState(open ?? false);
	return (
		<details open={shown} onToggle={(e) => setShown(e.currentTarget.open)} className="border-b border-rule">
			<summary className="flex min-h-11 cursor-pointer items-center justify-between gap-2 px-3 font-semibold">
				<span className="whitespace-nowrap">{title}</span>
				<span className="truncate text-right text-xs font-normal text-soft">{note}</span>
			</summary>
			{shown && (
				<div className="-mt-1.5 grid gap-3 px-3 pt-1.5 pb-3 [contain-intrinsic-height:auto_300px] [content-visibility:auto]">
					{children}
				</div>
			)}
		</details>
	);
}

export function Row({ label, children }: { label: string; children: ReactNode }) {
	return (
		<div>
			<p className="m-0 mb-0.5 text-sm font-semibold">{label}</p>
			<div className="flex flex-wrap items-center gap-2">{children}</div>
		</div>
	);
}

type NumberProps = {
	label: string;
	value: number | undefined;
	onChange: (n: number | undefined) => void;
	least?: number;
	most?: number;
	step?: number | "any";
	hint?: string;
	required?: boolean;
};

/** A number that may be left empty; what is typed is kept until it is one. */
export function NumberField({ label, value, onChange, least = 0, most = 3600, step = 1, hint, required }: NumberProps) {
	const [text, setText] = useState<string | null>(null);
	return (
		<label className="block text-sm">
			<span className="mb-0.5 block font-semibold">{label}</span>
			<input
				className="field num w-full"
				type="number"
				min={least}
				max={most}
				step={step}
				placeholder={hint}
				value={text ?? value ?? ""}
				onChange={(e) => {
					const raw = e.target.value;
					setText(raw);
					if (raw === "" && !required) onChange(undefined);
					const n = Number(raw);
					if (raw !== "" && Number.isFinite(n) && n >= least && n <= most) onChange(step === 1 ? Math.round(n) : n);
				}}
				onBlur={() => setText(null)}
			/>
		</label>
	);
}

/** Shows what is typed at once. When the page's own text changes, that is shown again. */
function useTyped(own: string) {
	const [typed, setTyped] = useState<{ text: string; over: string }>();
	if (typed && typed.over !== own) setTyped(undefined);
	return {
		text: typed?.over === own ? typed.text : own,
		type: (text: string) => setTyped({ text, over: own }),
		leave: () => setTyped(undefined),
	};
}

/** A line of text, or several. It shows by itself what is typed: the page may follow later. */
export function TextField({
	label,
	value,
	onChange,
	most,
	lines,
}: {
	label: string;
	value: string | undefined;
	onChange: (s: string | undefined) => void;
	most: number;
	lines?: boolean;
}) {
	const id = useId();
	const { text, type, leave } = useTyped(value ?? "");
	const props = {
		id,
		className: `field mt-0.5 font-normal ${lines ? "min-h-16" : ""}`,
		maxLength: most,
		value: text,
		onChange: (e: { target: { value: string } }) => {
			type(e.target.value);
			onChange(e.target.value || undefined);
		},
		onBlur: leave,
		"data-shows-itself": "",
	};
	return (
		<div className="text-sm">
			<label htmlFor={id} className="block font-semibold">
				{label}
			</label>
			{lines ? <textarea {...props} /> : <input {...props} />}
		</div>
	);
}

export function Choice<T extends string>({
	label,
	value,
	options,
	onChange,
}: {
	label: string;
	value: T;
	options: Readonly<Record<string, string>>;
	onChange: (v: T) => void;
}) {
	return (
		<label className="block text-sm font-semibold">
			{label}
			<select className="field mt-0.5 font-normal" value={value} onChange={(e) => onChange(e.target.value as T)}>
				{Object.entries(options).map(([v, name]) => (
					<option key={v} value={v}>
						{name}
					</option>
				))}
			</select>
		</label>
	);
}

export function Stepper({
	value,
	least,
	most,
	grain,
	onChange,
	label,
}: {
	value: number;
	least: number;
	most: number;
	grain: number;
	onChange: (n: number) => void;
	label: string;
}) {
	const to = (n: number) => onChange(Math.max(least, Math.min(most, Math.round(n))));
	return (
		<div className="flex">
			<Button aria-label={w.lessOf({ label })} className="rounded-r-none px-3" onClick={() => to(value - grain)}>
				−
			</Button>
			<input
				aria-label={label}
				className="field num w-20 rounded-none border-x-0 text-center"
				type="number"
				min={least}
				max={most}
				value={value}
				onChange={(e) => e.target.value && to(Number(e.target.value))}
			/>
			<Button aria-label={w.moreOf({ label })} className="rounded-l-none px-3" onClick={() => to(value + grain)}>
				+
			</Button>
		</div>
	);
}

/** A set of words to switch on and off. */
export function Chips({
	label,
	options,
	chosen,
	onChange,
}: {
	label: string;
	options: readonly (readonly [string, string])[];
	chosen: readonly string[];
	onChange: (list: string[]) => void;
}) {
	return (
		<fieldset className="m-0 border-0 p-0">
			<legend className="mb-1 text-sm font-semibold">{label}</legend>
			<div className="flex flex-wrap gap-1.5">
				{options.map(([key, name]) => (
					<label
						key={key}
						className="flex min-h-11 cursor-pointer items-center rounded-sm border border-[#9c8873] bg-leaf px-3 text-sm has-[:checked]:bg-ink has-[:checked]:text-paper has-[:focus-visible]:outline-3 has-[:focus-visible]:outline-persimmon"
					>
						<input
							type="checkbox"
							className="sr-only"
							checked={chosen.includes(key)}
							onChange={(e) => onChange(e.target.checked ? [...chosen, key] : chosen.filter((k) => k !== key))}
						/>
						{name}
					</label>
				))}
			</div>
		</fieldset>
	);
}

/** A list picked one by one from a longer one. */
export function Picks({
	label,
	options,
	chosen,
	onChange,
	none = w.add,
}: {
	label: string;
	options: Readonly<Record<string, string>>;
	chosen: readonly string[];
	onChange: (list: string[] | undefined) => void;
	none?: string;
}) {
	const put = (list: string[]) => onChange(list.length > 0 ? list : undefined);
	return (
		<div className="text-sm">
			<Choice label={label} value="" options={{ "": none, ...options }} onChange={(v) => v && !chosen.includes(v) && put([...chosen, v])} />
			{chosen.length > 0 && (
				<ul className="m-0 mt-1 flex list-none flex-wrap gap-1 p-0">
					{chosen.map((k) => (
						<li key={k}>
							<button
								type="button"
								className="min-h-8 rounded-sm border border-[#9c8873] bg-leaf px-2"
								aria-label={w.removeOptions({ options: options[k] ?? k })}
								onClick={() => put(chosen.filter((x) => x !== k))}
							>
								{options[k] ?? k} ×
							</button>
						</li>
					))}
				</ul>
			)}
		</div>
	);
}
