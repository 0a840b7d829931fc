import { useState } from "react";
import { Choice, NumberField, Picks, TextField } from "../../kit/fields";
import { Button } from "../../kit/kit";
import { furtherFields, furtherWords } from "../../words/catalogue/shared";
import * as w from "../../words/catalogue/workbench";

const names: Record<string, string> = furtherFields;
const words: Record<string, string> = furtherWords;

/** A property by its path, and how it is asked for. */
export type Spec = {
	path: string;
	kind: "text" | "number" | "flag" | "one" | "many" | "list";
	options?: Readonly<Record<string, string>>;
	most?: number;
	label?: string;
};

type Thing = Record<string, unknown>;

/** Words of the format by how they are said, for what is typed. */
const kept = ["clean-skin", "mirror", "tissues", "table", "sponge"];
const known = Object.fromEntries(kept.map((k) => [(words[k] ?? k).toLowerCase(), k]));

/** Choices by their words. */
export const choices = (...keys: string[]) => Object.fromEntries(keys.map((k) => [k, words[k] ?? k]));

export const nameOf = (path: string) => names[path] ?? path;

function get(of: Thing, path: string): unknown {
	return path.split(".").reduce<unknown>((at, k) => (at as Thing | undefined)?.[k], of);
}

const says = (v: unknown) => v !== undefined && v !== "" && v !== 0 && v !== false && !(Array.isArray(v) && v.length === 0);

/** The thing with another value at a path; what says nothing is left out, and what a new part needs is there. */
function put(of: Thing, path: string, value: unknown, needs: Readonly<Record<string, Thing>>, at = ""): Thing {
	const [key = "", ...rest] = path.split(".");
	const here = at ? `${at}.${key}` : key;
	const next =
		rest.length === 0
			? says(value) || value === 0
				? value
				: undefined
			: put((of[key] as Thing | undefined) ?? needs[here] ?? {}, rest.join("."), value, needs, here);
	const { [key]: _, ...others } = of;
	const empty = next === undefined || (rest.length > 0 && Object.keys(next as Thing).length === 0);
	return empty ? others : { ...others, [key]: next };
}

/** The properties that something says, each in its field; others are added by name. */
export function Said<T extends object>({
	of,
	specs,
	needs = {},
	onChange,
	all = false,
}: {
	of: T;
	specs: readonly Spec[];
	/** What a part must hold from the beginning. */
	needs?: Readonly<Record<string, Thing>>;
	onChange: (of: T) => void;
	/** Shows every property, said or not. */
	all?: boolean;
}) {
	const [opened, setOpened] = useState<string[]>([]);
	const thing = of as Thing;
	const shown = specs.filter((s) => all || opened.includes(s.path) || says(get(thing, s.path)));
	const left = specs.filter((s) => !shown.includes(s));
	return (
		<div className="grid gap-2">
			{shown.map((s) => (
				<Property key={s.path} spec={s} value={get(thing, s.path)} onChange={(v) => onChange(put(thing, s.path, v, needs) as T)} />
			))}
			{left.length > 0 && (
				<select
					aria-label={w.addProperty}
					className="field"
					value=""
					onChange={(e) => e.target.value && setOpened([...opened, e.target.value])}
				>
					<option value="">{w.addProperty}</option>
					{left.map((s) => (
						<option key={s.path} value={s.path}>
							{s.label ?? nameOf(s.path)}
						</option>
					))}
				</select>
			)}
		</div>
	);
}

function Property({ spec, value, onChange }: { spec: Spec; value: unknown; onChange: (v: unknown) => void }) {
	const label = spec.label ?? nameOf(spec.path);
	switch (spec.kind) {
		case "text":
			return <TextField label={label} value={value as string | undefined} most={spec.most ?? 200} onChange={onChange} />;
		case "number":
			return <NumberField label={label} value={value as number | undefined} most={spec.most ?? 3600} step="any" onChange={onChange} />;
		case "flag":
			return (
				<label className="flex min-h-11 items-center gap-2 text-sm">
					<input
						type="checkbox"
						className="size-5 accent-persimmon"
						checked={Boolean(value)}
						onChange={(e) => onChange(e.target.checked)}
					/>
					{label}
				</label>
			);
		case "one":
			return (
				<Choice label={label} value={(value as string | undefined) ?? ""} options={{ "": "–", ...spec.options }} onChange={onChange} />
			);
		case "many":
			return (
				<Picks label={label} options={spec.options ?? {}} chosen={(value as readonly string[] | undefined) ?? []} onChange={onChange} />
			);
	}
	return <Words label={label} value={value as readonly string[] | undefined} onChange={onChange} />;
}

/** Several words with commas between them; what is being typed stays as it is typed. */
export function Words({
	label,
	value,
	onChange,
}: {
	label: string;
	value: readonly string[] | undefined;
	onChange: (list: string[] | undefined) => void;
}) {
	const [typed, setTyped] = useState((value ?? []).map((x) => (kept.includes(x) ? words[x] : x)).join(", "));
	const change = (text: string) => {
		setTyped(text);
		const list = text
			.split(",")
			.map((x) => x.trim())
			.filter(Boolean)
			.map((x) => known[x.toLowerCase()] ?? x);
		onChange(list.length > 0 ? list : undefined);
	};
	return <TextField label={label} value={typed} most={400} onChange={(v) => change(v ?? "")} />;
}

/** A list of things of one kind, each with its properties. */
export function Things<T extends object>({
	label,
	list,
	specs,
	fresh,
	add,
	onChange,
}: {
	label: string;
	list: readonly T[];
	specs: readonly Spec[];
	fresh: () => T;
	add: string;
	onChange: (list: T[] | undefined) => void;
}) {
	const set = (next: T[]) => onChange(next.length > 0 ? next : undefined);
	return (
		<fieldset className="m-0 grid gap-2 border-0 p-0">
			<legend className="mb-1 text-sm font-semibold">{label}</legend>
			{list.map((x, i) => (
				// a list without ids: its place is what tells one from the other
				<div key={i} className="grid gap-1 border-l-2 border-rule pl-2">
					<Said of={x} specs={specs} onChange={(v) => set(list.map((o, k) => (k === i ? v : o)))} />
					<Button variant="quiet" onClick={() => set(list.filter((_, k) => k !== i))}>
						{w.removeRow}
					</Button>
				</div>
			))}
			<Button onClick={() => set([...list, fresh()])}>{add}</Button>
		</fieldset>
	);
}
