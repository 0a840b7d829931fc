import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useRef, useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { Button, ErrorMessage, Page } from "../kit/kit";
import * as w from "../words/catalogue/clients";

type Line = Schemas["CardLine"];
type Decision = "new" | "same" | "skipped";

/** Contacts out of an address book: looked at first, doubtful ones side by side with whom they may be, then taken over. */
export function ContactsPage() {
	const cache = useQueryClient();
	const input = useRef<HTMLInputElement>(null);
	const [decisions, setDecisions] = useState<Record<string, Decision>>({});
	const send = (file: string, dry: boolean) => unwrap(api.POST("/api/cards", { body: { file, dry, decisions } }));
	const look = useMutation({
		mutationFn: async (from: File) => {
			const file = await from.text();
			return { file, lines: await send(file, true) };
		},
	});
	const take = useMutation({
		mutationFn: (file: string) => send(file, false),
		onSuccess: () => look.reset(),
		onSettled: () => cache.invalidateQueries({ queryKey: ["clients"] }),
	});
	const lines = look.data?.lines ?? [];
	const of = (list: Line[], match: Line["match"]) => list.filter((l) => l.match === match).length;
	return (
		<Page
			title={w.contacts}
			action={
				<Link to="/people" className="inline-flex min-h-11 items-center font-semibold underline underline-offset-4">
					{w.toTheClients}
				</Link>
			}
		>
			<p className="mt-0 mb-4 max-w-[72ch] text-soft">{w.contactsHint}</p>
			<div className="mb-4 flex flex-wrap items-center gap-4">
				<Button variant={look.data ? "plain" : "primary"} disabled={look.isPending} onClick={() => input.current?.click()}>
					{w.chooseContactsFile}
				</Button>
				<a
					href="/api/cards"
					download="contacts.vcf"
					className="inline-flex min-h-11 items-center font-semibold underline underline-offset-4"
				>
					{w.saveAllContacts}
				</a>
			</div>
			<input
				ref={input}
				type="file"
				accept=".vcf,text/vcard"
				className="sr-only"
				tabIndex={-1}
				aria-label={w.contactsFile}
				onChange={(e) => {
					const file = e.target.files?.[0];
					take.reset();
					setDecisions({});
					if (file) look.mutate(file);
					e.target.value = "";
				}}
			/>
			<ErrorMessage error={look.error ?? take.error} />
			{take.data && (
				<p role="status" className="num border-l-4 border-kelp bg-kelp-pale px-4 py-3 font-semibold">
					{w.contactsTaken({
						added: of(take.data, "new"),
						same: of(take.data, "same"),
						left: of(take.data, "doubtful") + of(take.data, "skipped"),
					})}
				</p>
			)}
			{look.data && (
				<>
					<table className="w-full border-collapse text-left">
						<thead>
							<tr className="border-b border-ink text-sm text-soft">
								<th className="py-1 font-semibold">{w.inTheFile}</th>
								<th className="font-semibold">{w.inTheStudio}</th>
								<th className="font-semibold">{w.whatHappens}</th>
							</tr>
						</thead>
						<tbody>
							{lines.map((l, i) => (
								<One
									key={`${i} ${l.card.name}`}
									line={l}
									decision={decisions[i]}
									onDecide={(d) => setDecisions((was) => ({ ...was, [i]: d }))}
								/>
							))}
						</tbody>
					</table>
					<div className="mt-4 flex gap-2">
						<Button variant="primary" disabled={take.isPending} onClick={() => look.data && take.mutate(look.data.file)}>
							{w.takeOver}
						</Button>
						<Button variant="quiet" onClick={() => look.reset()}>
							{w.cancel}
						</Button>
					</div>
				</>
			)}
		</Page>
	);
}

function One({ line: l, decision, onDecide }: { line: Line; decision: Decision | undefined; onDecide: (d: Decision) => void }) {
	return (
		<tr className="border-b border-rule align-top">
			<td className="py-2 pr-4">
				<Contact of={l.card} />
				{l.card.leftOut && l.card.leftOut.length > 0 && (
					<span className="block text-sm text-soft">{w.leftOut({ what: l.card.leftOut.join(", ") })}</span>
				)}
			</td>
			<td className="py-2 pr-4">{l.client && <Contact of={l.client} />}</td>
			<td className="py-2">
				{l.match === "doubtful" ? (
					<select
						aria-label={w.whatHappensWith({ name: l.card.name })}
						className="field"
						value={decision ?? "skipped"}
						onChange={(e) => onDecide(e.target.value as Decision)}
					>
						<option value="skipped">{w.leaveOut}</option>
						<option value="same">{w.thisIsThem}</option>
						<option value="new">{w.somebodyElse}</option>
					</select>
				) : (
					(l.fault ?? { new: w.isAdded, same: l.fills?.length ? w.isFilledIn : w.isThere, skipped: w.leaveOut }[l.match])
				)}
			</td>
		</tr>
	);
}

function Contact({ of: c }: { of: Pick<Schemas["Card"], "name" | "email" | "phone" | "birthDate"> }) {
	return (
		<>
			<span className="block font-semibold">{c.name}</span>
			<span className="num block text-sm break-words">{[c.email, c.phone, c.birthDate].filter(Boolean).join(" · ")}</span>
		</>
	);
}
