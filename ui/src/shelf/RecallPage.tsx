import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../api/client";
import { recallQuery, recallsQuery, shelfQuery } from "../api/queries";
import { amountShown, dayWords } from "../kit/format";
import { Badge, Button, ErrorMessage, Field, Loading, Page } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/shelf";
import { movementKinds } from "../words/sentences";
import { ShelfNav } from "./ShelfNav";

type Trace = Schemas["LotTrace"];

/** From a notice to the list of clients in two presses: the lot, the list, block and call. */
export function RecallPage() {
	const shelf = useQuery(shelfQuery);
	const recalls = useQuery(recallsQuery);
	const { may } = useSession();
	const cache = useQueryClient();
	const [lot, setLot] = useState("");
	const [shown, setShown] = useState<string | null>(null);
	const [reason, setReason] = useState("");
	const trace = useMutation({ mutationFn: (id: string) => unwrap(api.POST("/api/traces", { body: { lots: [id] } })) });
	const start = useMutation({
		mutationFn: () =>
			unwrap(api.POST("/api/recalls", { body: { lots: trace.data!.lots.filter((l) => !l.through).map((l) => l.id), reason } })),
		onSuccess: (t) => {
			for (const key of ["shelf", "recalls"]) cache.invalidateQueries({ queryKey: [key] });
			setShown(t.recall ?? null);
			trace.reset();
			setReason("");
		},
	});
	if (!shelf.data || !recalls.data)
		return <Loading of={w.recall} error={shelf.error ?? recalls.error} retry={() => (shelf.error ? shelf.refetch() : recalls.refetch())} />;
	const lots = shelf.data
		.flatMap((l) => l.packs.map((p) => ({ id: p.lotId, name: `${p.lot} · ${l.product.name}` })))
		.filter((x, i, all) => all.findIndex((y) => y.id === x.id) === i)
		.sort((a, b) => a.name.localeCompare(b.name));
	return (
		<Page title={w.recall} action={<ShelfNav />}>
			<form
				className="mb-4 flex flex-wrap items-end gap-3"
				onSubmit={(e) => {
					e.preventDefault();
					setShown(null);
					const id =
						lots.find((x) => x.name === lot)?.id ?? lots.find((x) => x.name.toLowerCase().startsWith(lot.trim().toLowerCase()))?.id;
					if (id) trace.mutate(id);
				}}
			>
				<div className="w-full max-w-md">
					<Field label={w.lotOfTheNotice}>
						{(a) => (
							<>
								<input {...a} className="field" list="lots" value={lot} onChange={(e) => setLot(e.target.value)} />
								<datalist id="lots">
									{lots.map((x) => (
										<option key={x.id} value={x.name} />
									))}
								</datalist>
							</>
						)}
					</Field>
				</div>
				<Button variant="primary" type="submit" disabled={lot.trim() === "" || trace.isPending}>
					{w.whoHadIt}
				</Button>
			</form>
			<ErrorMessage error={trace.error} />
			{trace.data && (
				<>
					{may("start-recall") && (
						<form
							className="leaf mb-4 flex flex-wrap items-end gap-3 p-4"
							noValidate
							onSubmit={(e) => {
								e.preventDefault();
								start.mutate();
							}}
						>
							<div className="min-w-80 flex-1">
								<Field label={w.whatTheNoticeSays} fault={start.error instanceof ProblemError ? start.error.at("/reason") : undefined}>
									{(a) => <input {...a} className="field" maxLength={300} value={reason} onChange={(e) => setReason(e.target.value)} />}
								</Field>
							</div>
							<Button variant="primary" type="submit" disabled={start.isPending}>
								{w.blockAndKeepList({ lots: trace.data.lots.length })}
							</Button>
						</form>
					)}
					<TraceView trace={trace.data} />
				</>
			)}
			{shown && <OneRecall id={shown} />}
			<h2 className="mt-8 mb-1 text-2xl">{w.recallsSoFar}</h2>
			{recalls.data.length === 0 && <p className="m-0">{w.noRecallsYet}</p>}
			<ul className="m-0 list-none p-0">
				{recalls.data.map((r) => (
					<li key={r.id} className="flex items-center justify-between gap-4 border-b border-rule py-2">
						<span>
							<span className="font-semibold">{r.names}</span> <span className="text-soft">{r.reason}</span>
						</span>
						<Button onClick={() => setShown(shown === r.id ? null : r.id)}>{shown === r.id ? w.hide : w.callList}</Button>
					</li>
				))}
			</ul>
		</Page>
	);
}

/** A recall with whom it reached and the calls made. */
function OneRecall({ id }: { id: string }) {
	const recall = useQuery(recallQuery(id));
	if (!recall.data) return <Loading of={w.callList} error={recall.error} retry={() => recall.refetch()} />;
	const link = "inline-flex min-h-11 items-center underline underline-offset-4";
	return (
		<section className="mt-4" aria-label={w.callList}>
			<div className="flex flex-wrap items-baseline justify-between gap-4">
				<h2 className="m-0 text-2xl">{recall.data.reason}</h2>
				<span className="flex gap-4">
					<a className={link} href={`/api/recalls/${id}/paper?names=true`} target="_blank" rel="noreferrer">
						{w.printForCalls}
					</a>
					<a className={link} href={`/api/recalls/${id}/paper?names=false`} target="_blank" rel="noreferrer">
						{w.printWithoutNames}
					</a>
					<a className={link} href={`/api/recalls/${id}/csv`}>
						{w.asCsv}
					</a>
					<a className={link} href={`/api/recalls/${id}/letters`} target="_blank" rel="noreferrer">
						{w.lettersToClients}
					</a>
				</span>
			</div>
			<TraceView trace={recall.data} recall={id} />
		</section>
	);
}

/** Which lots, whom they reached, what is booked that wanted them. */
export function TraceView({ trace: t, recall }: { trace: Trace; recall?: string }) {
	const { at } = useSession();
	const swaps = t.booked.filter((v) => !v.others);
	return (
		<div className="grid gap-6 lg:grid-cols-[minmax(0,1.5fr)_minmax(0,1fr)]">
			<section aria-label={w.reached}>
				<p className="m-0">
					{t.lots.map((l) => (
						<span key={l.id} className="mr-4 inline-block">
							<span className="font-semibold">{l.number}</span> {l.name} {l.through && <Badge tone="">{w.batchWithIt}</Badge>}{" "}
							<span className="num text-soft">{w.leftOf({ left: Number(l.left), unit: l.unit })}</span>
						</span>
					))}
				</p>
				<h3 className="mt-3 mb-1 text-lg">{w.reachedClients({ n: t.clients.length })}</h3>
				{t.rows.length === 0 && <p className="m-0">{w.reachedNobody}</p>}
				{t.rows.length > 0 && (
					<table className="num w-full border-collapse text-left text-sm">
						<thead>
							<tr className="border-b border-ink text-soft">
								<th className="py-1 font-semibold">{w.day}</th>
								<th className="font-semibold">{w.client}</th>
								<th className="font-semibold">{w.lotWord}</th>
								<th className="font-semibold">{w.how}</th>
								<th className="text-right font-semibold">{w.amountWord}</th>
								<th className="pl-4 font-semibold">{w.by}</th>
							</tr>
						</thead>
						<tbody>
							{t.rows.map((r) => (
								<tr key={`${r.visit ?? ""}${r.client ?? ""}${r.lot}${r.kind}${r.day}`} className="border-b border-dotted border-rule">
									<td className="py-1.5">
										{r.visit ? (
											<Link
												className="inline-flex min-h-8 items-center underline underline-offset-4"
												to="/visits/$id/record"
												params={{ id: r.visit }}
											>
												{dayWords(r.day)}
											</Link>
										) : (
											dayWords(r.day)
										)}
									</td>
									<td className="font-semibold">{r.name}</td>
									<td>
										{r.lot} {!r.sure && <span className="text-soft">{w.likely}</span>}
									</td>
									<td>{movementKinds[r.kind] ?? r.kind}</td>
									<td className="text-right">
										{amountShown(r.amount)} {r.unit}
									</td>
									<td className="pl-4">{r.by}</td>
								</tr>
							))}
						</tbody>
					</table>
				)}
			</section>
			<div className="grid content-start gap-4">
				{recall && <Calls trace={t} recall={recall} />}
				<section aria-label={w.bookedWithIt}>
					<h3 className="m-0 text-lg">{w.bookedWithIt}</h3>
					{t.booked.length === 0 && <p className="m-0 text-sm">{w.nothingBookedWithIt}</p>}
					{t.booked.length > swaps.length && <p className="m-0 text-sm">{w.bookedButAnotherLot({ n: t.booked.length - swaps.length })}</p>}
					<ul className="num m-0 list-none p-0 text-sm">
						{swaps.map((v) => (
							<li key={v.visit + v.wants} className="border-b border-dotted border-rule py-1.5">
								<Link className="inline-flex min-h-8 items-center underline underline-offset-4" to="/visits/$id" params={{ id: v.visit }}>
									{at.date(v.at)}, {at.time(v.at)}
								</Link>{" "}
								{v.name}: {v.wants} <span className="font-semibold text-persimmon-deep">{w.swapTheProduct}</span>
							</li>
						))}
					</ul>
				</section>
			</div>
		</div>
	);
}

const outcomes = { reached: w.spokenTo, "message-left": w.messageLeft, "not-reached": w.notReachedYet } as const;

function Calls({ trace: t, recall }: { trace: Trace; recall: string }) {
	const cache = useQueryClient();
	const { at } = useSession();
	const note = useMutation({
		mutationFn: (body: { client: string; outcome: keyof typeof outcomes }) =>
			unwrap(api.POST("/api/recalls/{id}/calls", { params: { path: { id: recall } }, body })),
		onSuccess: () => cache.invalidateQueries({ queryKey: ["recalls"] }),
	});
	return (
		<section aria-label={w.toCall}>
			<h3 className="m-0 text-lg">{w.toCall}</h3>
			<ul className="m-0 list-none p-0 text-sm">
				{t.clients.map((c) => {
					const last = c.calls.at(-1);
					return (
						<li key={c.id} className="border-b border-dotted border-rule py-1.5">
							<p className="m-0">
								<span className="font-semibold">{c.name}</span>{" "}
								<a className="num underline underline-offset-4" href={`tel:${c.phone}`}>
									{c.phone}
								</a>{" "}
								<span className="text-soft">{c.email}</span>
							</p>
							{last && (
								<p className="m-0 text-soft">
									{outcomes[last.outcome as keyof typeof outcomes]}, {at.date(last.at)} {at.time(last.at)}, {last.by}
								</p>
							)}
							<span className="flex flex-wrap gap-x-4">
								{(Object.keys(outcomes) as (keyof typeof outcomes)[]).map((o) => (
									<button
										key={o}
										type="button"
										className="min-h-9 underline underline-offset-4"
										disabled={note.isPending}
										onClick={() => note.mutate({ client: c.id, outcome: o })}
									>
										{outcomes[o]}
									</button>
								))}
							</span>
						</li>
					);
				})}
			</ul>
			<ErrorMessage error={note.error} />
		</section>
	);
}
