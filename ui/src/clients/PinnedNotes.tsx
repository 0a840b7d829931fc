import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { libraryQuery, zonesQuery } from "../api/queries";
import { Button, ErrorMessage, Field } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/clients";
import { theZone } from "../words/sentences";

type Pinned = Omit<Schemas["PinnedNote"], "$schema">;

const field = "min-h-11 w-full rounded-sm border border-[#9c8873] bg-leaf px-3";
const start: Pinned & { kind: "zone" | "stroke" } = { kind: "zone", zone: "", side: "both", stroke: "", body: "" };

/** Where each of these notes is pinned, in words. The strokes are fetched where a note is at one. */
export function usePinnedAt(notes: readonly Pinned[]) {
	const { data: zones } = useQuery({ ...zonesQuery, enabled: notes.some((n) => n.zone) });
	const { data: library } = useQuery({ ...libraryQuery, enabled: notes.some((n) => n.stroke) });
	return (n: Pinned) => {
		if (n.stroke) return library?.strokes.find((s) => s.key === n.stroke)?.name ?? n.stroke;
		const name = zones?.find((z) => z.key === n.zone)?.name ?? n.zone ?? "";
		const words = theZone(name, n.side === "both" ? "" : (n.side ?? "")).replace(/^the /, "");
		return words[0]?.toUpperCase() + words.slice(1);
	};
}

/** What practitioners want to remember of a client at a place or a stroke. */
export function PinnedNotes({ client, notes }: { client: string; notes: Schemas["ClientNote"][] }) {
	const { at, may } = useSession();
	const where = usePinnedAt(notes);
	const [adding, setAdding] = useState(false);
	const cache = useQueryClient();
	const renew = () => cache.invalidateQueries({ queryKey: ["client", client] });
	const remove = useMutation({
		mutationFn: (note: string) => unwrap(api.DELETE("/api/clients/{id}/notes/{note}", { params: { path: { id: client, note } } })),
		onSettled: renew,
	});
	return (
		<section aria-labelledby="pinned" className="mb-8">
			<div className="flex items-center justify-between gap-3">
				<h2 id="pinned" className="m-0 text-2xl">
					{w.notesPinned}
				</h2>
				{may("add-note") && !adding && <Button onClick={() => setAdding(true)}>{w.addNote}</Button>}
			</div>
			<ErrorMessage error={remove.error} />
			{notes.length === 0 && !adding && <p className="m-0 text-sm text-soft">{w.noNotesPinned}</p>}
			<ul className="m-0 list-none p-0">
				{notes.map((n) => (
					<li key={n.id} className="flex items-baseline gap-4 border-b border-rule py-2">
						<span className="w-44 shrink-0 font-semibold">{where(n)}</span>
						<span className="min-w-0 flex-1 break-words">
							{n.body} <span className="text-sm text-soft">{w.noteBy({ author: n.author, day: at.date(n.at) })}</span>
						</span>
						{may("remove-note") && (
							<Button variant="quiet" aria-label={w.removeNoteAbout({ where: where(n) })} onClick={() => remove.mutate(n.id)}>
								{w.removeNote}
							</Button>
						)}
					</li>
				))}
			</ul>
			{adding && (
				<NoteForm
					client={client}
					onDone={() => {
						setAdding(false);
						renew();
					}}
					onCancel={() => setAdding(false)}
				/>
			)}
		</section>
	);
}

function NoteForm({ client, onDone, onCancel }: { client: string; onDone: () => void; onCancel: () => void }) {
	const { data } = useQuery(libraryQuery);
	const [n, setNote] = useState(start);
	const set = (change: Partial<typeof start>) => setNote((was) => ({ ...was, ...change }));
	const add = useMutation({
		mutationFn: () =>
			unwrap(
				api.POST("/api/clients/{id}/notes", {
					params: { path: { id: client } },
					body: n.kind === "zone" ? { zone: n.zone ?? "", side: n.side ?? "", body: n.body } : { stroke: n.stroke ?? "", body: n.body },
				}),
			),
		onSuccess: onDone,
	});
	const paired = data?.zones.find((z) => z.key === n.zone)?.paired;
	const send = (e: FormEvent) => {
		e.preventDefault();
		add.mutate();
	};
	const sides: [Pinned["side"], string][] = [
		["both", w.bothSides],
		["left", w.leftSide],
		["right", w.rightSide],
	];
	return (
		<form className="leaf mt-3 grid gap-4 p-4 sm:grid-cols-2" onSubmit={send}>
			<Field label={w.whereIsIt}>
				{(a) => (
					<select {...a} className={field} value={n.kind} onChange={(e) => set({ kind: e.target.value as "zone" | "stroke" })}>
						<option value="zone">{w.place}</option>
						<option value="stroke">{w.stroke}</option>
					</select>
				)}
			</Field>
			{n.kind === "zone" ? (
				<Field label={w.place}>
					{(a) => (
						<select {...a} className={field} value={n.zone} onChange={(e) => set({ zone: e.target.value })}>
							<option value="">{w.chooseAPlace}</option>
							{data?.zones.map((z) => (
								<option key={z.key} value={z.key}>
									{z.name}
								</option>
							))}
						</select>
					)}
				</Field>
			) : (
				<Field label={w.stroke}>
					{(a) => (
						<select {...a} className={field} value={n.stroke} onChange={(e) => set({ stroke: e.target.value })}>
							<option value="">{w.chooseAStroke}</option>
							{data?.strokes.map((s) => (
								<option key={s.key} value={s.key}>
									{s.name}
								</option>
							))}
						</select>
					)}
				</Field>
			)}
			{n.kind === "zone" && paired && (
				<Field label={w.side}>
					{(a) => (
						<select {...a} className={field} value={n.side} onChange={(e) => set({ side: e.target.value as NonNullable<Pinned["side"]> })}>
							{sides.map(([side, name]) => (
								<option key={side} value={side}>
									{name}
								</option>
							))}
						</select>
					)}
				</Field>
			)}
			<div className="sm:col-span-2">
				<Field label={w.note}>
					{(a) => <input {...a} className={field} maxLength={300} value={n.body} onChange={(e) => set({ body: e.target.value })} />}
				</Field>
			</div>
			<div className="sm:col-span-2">
				<ErrorMessage error={add.error} />
				<div className="flex gap-3">
					<Button type="submit" variant="primary" disabled={add.isPending}>
						{w.saveNote}
					</Button>
					<Button onClick={onCancel}>{w.cancel}</Button>
				</div>
			</div>
		</form>
	);
}
