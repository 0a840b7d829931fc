import { useQuery } from "@tanstack/react-query";
import { type KeyboardEvent, useDeferredValue, useId, useState } from "react";
import { clientQuery, clientsQuery } from "../api/queries";
import * as w from "../words/catalogue/kit";
import { Field } from "./kit";

/** The client, found by part of a name; chosen with Enter. */
export function Who({
	client,
	label = w.who,
	atOnce = false,
	onChange,
}: {
	client: string;
	label?: string;
	/** Whether the keyboard is here as soon as it shows: where a client speaks and the desk types. */
	atOnce?: boolean;
	onChange: (id: string) => void;
}) {
	const foundID = useId();
	const [typed, setTyped] = useState("");
	const wanted = useDeferredValue(typed.trim());
	const [on, setOn] = useState(0);
	const chosen = useQuery({ ...clientQuery(client), enabled: Boolean(client) });
	const found = useQuery({ ...clientsQuery(wanted), enabled: !client && wanted !== "" });
	const list = found.data?.clients.slice(0, 6) ?? [];
	if (client)
		return (
			<div className="min-w-0">
				<p className="m-0 mb-1 text-sm font-semibold">{label}</p>
				<p className="m-0 flex min-h-11 items-center gap-1">
					<span className="truncate font-serif text-xl font-semibold" title={chosen.data?.client.name}>
						{chosen.data?.client.name ?? "…"}
					</span>
					<button
						type="button"
						className="min-h-11 min-w-8 text-soft"
						aria-label={w.changeClient}
						onClick={() => {
							setTyped("");
							onChange("");
						}}
					>
						×
					</button>
				</p>
			</div>
		);
	const keys = (e: KeyboardEvent) => {
		const one = list[on];
		if (e.key === "Enter" && one) onChange(one.id);
		else if (e.key === "ArrowDown") setOn(Math.min(on + 1, list.length - 1));
		else if (e.key === "ArrowUp") setOn(Math.max(on - 1, 0));
		else return;
		e.preventDefault();
	};
	return (
		<div className="relative min-w-0">
			<Field label={label}>
				{(a) => (
					<input
						{...a}
						className="field"
						type="search"
						role="combobox"
						aria-expanded={list.length > 0}
						aria-controls={foundID}
						aria-autocomplete="list"
						placeholder={w.nameOfClient}
						value={typed}
						onChange={(e) => {
							setTyped(e.target.value);
							setOn(0);
						}}
						onKeyDown={keys}
						// biome-ignore lint/a11y/noAutofocus: asked for by the page, see atOnce
						autoFocus={atOnce}
					/>
				)}
			</Field>
			<div id={foundID} role="listbox" aria-label={label} className="absolute top-full right-0 left-0 z-20 bg-leaf">
				{list.map((c, i) => (
					<button
						key={c.id}
						type="button"
						role="option"
						aria-selected={i === on}
						className={`min-h-11 w-full border-b border-rule px-2 text-left ${i === on ? "bg-blush" : ""}`}
						onClick={() => onChange(c.id)}
					>
						{c.name}
					</button>
				))}
			</div>
		</div>
	);
}
