import { useQuery } from "@tanstack/react-query";
import { useDeferredValue, useId, useState } from "react";
import type { Schemas } from "../api/client";
import { Field } from "../kit/kit";
import * as w from "../words/catalogue/history";
import { skinStateClientWords, skinStateWords, skinTypes } from "../words/client";

export type ClientHistory = Omit<Schemas["ClientHistory"], "$schema">;
type Hit = Schemas["Hit"];
export type Search = (kind: "allergen" | "medicine", text: string) => Promise<Hit[]>;
type Part = { history: ClientHistory; onHistory: (a: ClientHistory) => void };

const chip = (on: boolean) =>
	`flex min-h-11 cursor-pointer items-center rounded-sm border px-3 font-semibold has-[:focus-visible]:outline-3 has-[:focus-visible]:outline-persimmon ${on ? "border-ink bg-ink text-paper" : "border-[#9c8873] bg-leaf"}`;

function Chips({
	label,
	all,
	chosen,
	onChosen,
	single,
}: {
	label: string;
	all: readonly { key: string; name: string }[];
	chosen: readonly string[];
	onChosen: (c: string[]) => void;
	single?: boolean;
}) {
	const id = useId();
	return (
		<fieldset className="m-0 border-0 p-0">
			<legend className="mb-1 text-sm font-semibold">{label}</legend>
			<div className="flex flex-wrap gap-2">
				{all.map(({ key, name }) => {
					const on = chosen.includes(key);
					return (
						<label key={key} className={chip(on)}>
							<input
								type={single ? "radio" : "checkbox"}
								name={id}
								className="sr-only"
								checked={on}
								onChange={() => onChosen(single ? [key] : on ? chosen.filter((c) => c !== key) : [...chosen, key])}
							/>
							{name}
						</label>
					);
				})}
			</div>
		</fieldset>
	);
}

const named = (list: readonly string[]) => list.map((key) => ({ key, name: key.replace("-", " ") }));

/** Birth date and skin. */
export function Person({ history, onHistory, today, fault }: Part & { today: string; fault?: string | undefined }) {
	return (
		<div className="grid gap-5">
			<Field label={w.dateOfBirth} fault={fault}>
				{(a) => (
					<input
						{...a}
						type="date"
						className="field w-48"
						max={today}
						value={history.birthDate ?? ""}
						onChange={(e) => onHistory({ ...history, birthDate: e.target.value })}
					/>
				)}
			</Field>
			<Chips
				label={w.howWouldYouDescribeYourSkin}
				single
				all={named(skinTypes)}
				chosen={history.skinType ? [history.skinType] : []}
				onChosen={([t]) => onHistory({ ...history, skinType: t as "dry" })}
			/>
			<Chips
				label={w.isYourSkinAnyOfThese}
				all={skinStateWords.map((key) => ({ key, name: skinStateClientWords[key] ?? key }))}
				chosen={history.skinStates ?? []}
				onChosen={(skinStates) => onHistory({ ...history, skinStates })}
			/>
		</div>
	);
}

/** What the client comes for. */
export function Concerns({ history, onHistory, all }: Part & { all: readonly Schemas["Named"][] }) {
	return (
		<Chips
			label={w.whatWouldYouLikeChangeChoose}
			all={all}
			chosen={history.concerns ?? []}
			onChosen={(concerns) => onHistory({ ...history, concerns })}
		/>
	);
}

const sleeps = [
	{ key: "well", name: "well" },
	{ key: "so-so", name: "so-so" },
	{ key: "badly", name: "badly" },
];

/** Home products, sleep and bedtime. */
export function Life({ history, onHistory, fault }: Part & { fault?: string | undefined }) {
	return (
		<div className="grid gap-5">
			<Field label={w.whichProductsDoYouUseOn}>
				{(a) => (
					<textarea
						{...a}
						className="field min-h-24"
						maxLength={1000}
						value={history.homeProducts ?? ""}
						onChange={(e) => onHistory({ ...history, homeProducts: e.target.value })}
					/>
				)}
			</Field>
			<Chips
				label={w.howDoYouSleep}
				single
				all={sleeps}
				chosen={history.sleep ? [history.sleep] : []}
				onChosen={([s]) => onHistory({ ...history, sleep: s as "well" })}
			/>
			<Field label={w.whatTimeDoYouUsuallyGo} fault={fault}>
				{(a) => (
					<input
						{...a}
						type="time"
						className="field w-36"
						value={history.bedtime ?? ""}
						onChange={(e) => onHistory({ ...history, bedtime: e.target.value })}
					/>
				)}
			</Field>
		</div>
	);
}

type Entry = { key: string; name: string };

/** Things found by any of their names, or put in one's own words. */
function Finder({
	label,
	hint,
	kind,
	search,
	chosen,
	onAdd,
	onRemove,
}: {
	label: string;
	hint: string;
	kind: "allergen" | "medicine";
	search: Search;
	chosen: readonly Entry[];
	onAdd: (h: Hit | string) => void;
	onRemove: (key: string) => void;
}) {
	const [text, setText] = useState("");
	const wanted = useDeferredValue(text.trim());
	const hits = useQuery({
		queryKey: ["substances", kind, wanted],
		queryFn: () => search(kind, wanted),
		enabled: wanted.length > 1,
		staleTime: 600_000,
	});
	const add = (h: Hit | string) => {
		onAdd(h);
		setText("");
	};
	const list = wanted.length > 1 ? (hits.data ?? []) : [];
	const known = list.some((h) => [h.name, h.also].some((n) => n?.toLowerCase() === wanted.toLowerCase()));
	return (
		<div>
			{chosen.length > 0 && (
				<ul className="m-0 mb-2 flex list-none flex-wrap gap-2 p-0" aria-label={w.labelChosen({ label })}>
					{chosen.map((c) => (
						<li key={c.key} className="flex items-center rounded-sm bg-ink text-paper">
							<span className="py-1 pl-3 font-semibold">{c.name}</span>
							<button
								type="button"
								className="min-h-11 min-w-11 text-lg"
								aria-label={w.removeName({ name: c.name })}
								onClick={() => onRemove(c.key)}
							>
								×
							</button>
						</li>
					))}
				</ul>
			)}
			<Field label={label} hint={hint}>
				{(a) => (
					<input
						{...a}
						type="search"
						autoComplete="off"
						className="field"
						maxLength={100}
						value={text}
						onChange={(e) => setText(e.target.value)}
					/>
				)}
			</Field>
			{wanted.length > 1 && hits.data && (
				<ul className="m-0 list-none p-0" aria-label={w.foundForWanted({ wanted })}>
					{list.map((h) => (
						<li key={`${h.kind}${h.key}`} className="border-b border-rule">
							<button type="button" className="min-h-11 w-full text-left hover:bg-leaf" onClick={() => add(h)}>
								<span className="font-semibold">{h.name}</span>
								{h.also && <span className="text-sm text-soft"> {h.also}</span>}
								{h.kind === "group" && <span className="text-sm text-soft"> {w.allOfThem}</span>}
							</button>
						</li>
					))}
					{!known && (
						<li className="border-b border-rule">
							<button type="button" className="min-h-11 w-full text-left hover:bg-leaf" onClick={() => add(wanted)}>
								{w.addWantedAsYouWroteIt({ wanted })}
							</button>
						</li>
					)}
				</ul>
			)}
		</div>
	);
}

export function Medicines({ history, onHistory, search }: Part & { search: Search }) {
	const list = history.medicines ?? [];
	return (
		<Finder
			label={w.medicinesYouTakeNowOrTook}
			hint={w.typeFirstLettersActiveIngredientPrinted}
			kind="medicine"
			search={search}
			chosen={list.map((m) => ({ key: m, name: m }))}
			onAdd={(h) => {
				const name = typeof h === "string" ? h : h.name;
				if (!list.includes(name)) onHistory({ ...history, medicines: [...list, name] });
			}}
			onRemove={(key) => onHistory({ ...history, medicines: list.filter((m) => m !== key) })}
		/>
	);
}

export function Allergies({ history, onHistory, search }: Part & { search: Search }) {
	const list = history.allergies ?? [];
	return (
		<Finder
			label={w.allergicToAnythingElse}
			hint={w.typeFirstLettersWhatSuchAs}
			kind="allergen"
			search={search}
			chosen={list}
			onAdd={(h) => {
				const a: Schemas["Allergy"] =
					typeof h === "string" ? { kind: "words", key: h, name: h } : { kind: h.kind as "group", key: h.key, name: h.name };
				if (!list.some((x) => x.key === a.key)) onHistory({ ...history, allergies: [...list, a] });
			}}
			onRemove={(key) => onHistory({ ...history, allergies: list.filter((a) => a.key !== key) })}
		/>
	);
}

/** The client history, to read. */
export function ClientHistoryText({ history, concern }: { history: ClientHistory; concern: (key: string) => string }) {
	const rows: [string, string | undefined][] = [
		[w.medicines, history.medicines?.join(", ")],
		[w.allergicTo, history.allergies?.map((a) => a.name).join(", ")],
		[w.concerns, history.concerns?.map(concern).join(", ").toLowerCase()],
		[w.homeProducts, history.homeProducts],
		[
			w.sleep,
			[history.sleep && w.sleepsSleep({ sleep: history.sleep }), history.bedtime && w.toBedAtBedtime({ bedtime: history.bedtime })]
				.filter(Boolean)
				.join(", "),
		],
	];
	return (
		<dl className="m-0 grid grid-cols-[110px_1fr] gap-y-1">
			{rows
				.filter(([, v]) => v)
				.map(([k, v]) => (
					<div key={k} className="contents">
						<dt className="text-sm text-soft">{k}</dt>
						<dd className="m-0 break-words">{v}</dd>
					</div>
				))}
		</dl>
	);
}
