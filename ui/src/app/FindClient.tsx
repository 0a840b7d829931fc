import { useQuery } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { useDeferredValue, useEffect, useId, useRef, useState } from "react";
import { clientsQuery } from "../api/queries";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/app";

const shown = 8;

/** Finds a client from every page, by part of a name, an e-mail address or a telephone number. */
export function FindClient() {
	const { at, may } = useSession();
	const [typed, setTyped] = useState("");
	const wanted = useDeferredValue(typed.trim());
	const found = useQuery({ ...clientsQuery(wanted), enabled: wanted !== "" });
	const [on, setOn] = useState(0);
	const field = useRef<HTMLInputElement>(null);
	const id = useId();
	const go = useNavigate();
	useEffect(() => {
		const key = (e: KeyboardEvent) => {
			const writing =
				e.target instanceof HTMLElement && (e.target.isContentEditable || ["INPUT", "TEXTAREA", "SELECT"].includes(e.target.tagName));
			if (e.key !== "/" || writing || e.ctrlKey || e.metaKey || e.altKey) return;
			e.preventDefault();
			field.current?.focus();
		};
		window.addEventListener("keydown", key);
		return () => window.removeEventListener("keydown", key);
	}, []);
	const clients = wanted && found.data ? found.data.clients.slice(0, shown) : [];
	const options = [
		...clients.map((c) => ({
			key: c.id,
			text: c.name,
			more: c.next ? w.nextOn({ day: at.date(c.next) }) : "",
			open: () => go({ to: "/people/$id", params: { id: c.id } }),
		})),
		...(wanted && found.data?.clients.length === 0 && may("add-client")
			? [
					{
						key: "add",
						text: w.addNamed({ name: wanted }),
						more: w.nobodyFound,
						open: () => go({ to: "/people", search: { add: wanted } }),
					},
				]
			: []),
	];
	const close = () => {
		setTyped("");
		setOn(0);
	};
	const choose = (i: number) => {
		const option = options[i];
		if (!option) return;
		close();
		field.current?.blur();
		void option.open();
	};
	const keys: Record<string, () => void> = {
		ArrowDown: () => setOn((on + 1) % Math.max(options.length, 1)),
		ArrowUp: () => setOn((on + options.length - 1) % Math.max(options.length, 1)),
		Enter: () => choose(on),
		Escape: close,
	};
	return (
		<div className="relative mb-1 w-72" onBlur={(e) => !e.currentTarget.contains(e.relatedTarget) && close()}>
			<input
				ref={field}
				className="field min-h-9 py-1"
				type="search"
				role="combobox"
				aria-label={w.findClient}
				aria-expanded={options.length > 0}
				aria-controls={id}
				aria-activedescendant={options[on] && `${id}-${on}`}
				aria-autocomplete="list"
				autoComplete="off"
				placeholder={w.findClient}
				title={w.pressSlash}
				value={typed}
				onChange={(e) => {
					setTyped(e.target.value);
					setOn(0);
				}}
				onKeyDown={(e) => {
					const act = keys[e.key];
					if (!act) return;
					e.preventDefault();
					act();
				}}
			/>
			<div
				id={id}
				role="listbox"
				aria-label={w.findClient}
				className={`absolute left-0 z-30 mt-1 w-96 rounded-md border border-ink bg-paper p-1 ${options.length === 0 ? "hidden" : ""}`}
			>
				{options.map((o, i) => (
					<div
						key={o.key}
						id={`${id}-${i}`}
						role="option"
						tabIndex={-1}
						aria-selected={i === on}
						className={`flex min-h-11 cursor-pointer items-center justify-between gap-4 rounded-sm px-3 ${i === on ? "bg-leaf" : ""}`}
						onMouseEnter={() => setOn(i)}
						onMouseDown={(e) => e.preventDefault()}
						onClick={() => choose(i)}
						onKeyDown={(e) => e.key === "Enter" && choose(i)}
					>
						<span className="min-w-0 truncate font-semibold">{o.text}</span>
						<span className="num shrink-0 text-sm text-soft">{o.more}</span>
					</div>
				))}
			</div>
		</div>
	);
}
