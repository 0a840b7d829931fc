import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useParams, useSearch } from "@tanstack/react-router";
import { useRef, useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../api/client";
import { libraryQuery, recordQuery, rulesQuery } from "../api/queries";
import { SameAgainLink } from "../diary";
import { Dialog } from "../kit/Dialog";
import { dayWords, money } from "../kit/format";
import { Button, ErrorMessage, Loading, Page } from "../kit/kit";
import { useSession } from "../kit/session";
import { useAutosave } from "../kit/useAutosave";
import * as w from "../words/catalogue/treatment";
import { changeText, handAmount } from "../words/sentences";
import { Additions } from "./Additions";
import { RecordChanged } from "./RecordChanged";

/** What was really done and used; finishing locks it and takes the products off the shelf. */
export function RecordPage() {
	const { id } = useParams({ from: "/shell/visits/$id/record" });
	const record = useQuery(recordQuery(id));
	if (!record.data) return <Loading of={w.theRecord} error={record.error} retry={() => record.refetch()} />;
	return <Sheet key={`${id}-${record.data.finishedAt ?? "open"}`} id={id} start={record.data} />;
}

const number = /^\d{1,3}([.,]\d{1,3})?$/;

function Sheet({ id, start }: { id: string; start: Schemas["RecordView"] }) {
	const { at } = useSession();
	const library = useQuery(libraryQuery);
	const rules = useQuery(rulesQuery);
	const [view, setView] = useState(start);
	const [note, setNote] = useState(start.record.note);
	const [real, setReal] = useState<Record<string, string>>(Object.fromEntries(start.record.uses.map((u) => [u.product, u.real])));
	const [asking, setAsking] = useState(false);
	const [brokenOff, setBrokenOff] = useState(useSearch({ from: "/shell/visits/$id/record" }).stopped ?? false);
	const cache = useQueryClient();
	const locked = Boolean(view.finishedAt);
	const wrong = Object.entries(real).filter(([, v]) => !number.test(v.trim()));
	// The revisions that this screen has shown or made: what is typed on one of them is a
	// change of the newest.
	const ours = useRef([start.record.revision]);
	const body = (to: { note?: string; real?: Record<string, string> } = {}) => ({
		revision: Math.max(...ours.current),
		note: to.note ?? note,
		uses: view.record.uses.map((u) => ({
			product: u.product,
			real: ((to.real ?? real)[u.product] ?? u.real).trim().replace(",", "."),
		})),
	});
	const newestOf = (revision?: number) =>
		revision === undefined || ours.current.includes(revision) ? Math.max(...ours.current) : revision;
	const saver = useAutosave<ReturnType<typeof body>, Schemas["RecordView"]>({
		key: `record of ${id}`,
		ready: !locked,
		send: (sheet) =>
			unwrap(api.PUT("/api/visits/{id}/record", { params: { path: { id } }, body: { ...sheet, revision: newestOf(sheet.revision) } })),
		onSaved: (v, _, newest) => {
			ours.current.push(v.record.revision);
			if (newest) setView(v);
		},
		onRestored: (sheet) => {
			setNote(sheet.note);
			setReal(Object.fromEntries(sheet.uses.map((u) => [u.product, u.real])));
		},
	});
	const finish = useMutation({
		mutationFn: async () => {
			await saver.flush(); // nothing typed before may arrive after this
			return unwrap(api.POST("/api/visits/{id}/record", { params: { path: { id } }, body: { ...body(), brokenOff } }));
		},
		onSuccess: (v) => {
			setView(v);
			saver.forget();
			for (const key of ["shelf", "day", "visit", "client", "clients"]) cache.invalidateQueries({ queryKey: [key] });
		},
		onSettled: () => setAsking(false),
	});
	const change = (to: { note?: string; real?: Record<string, string> }) => {
		if (to.note !== undefined) setNote(to.note);
		if (to.real) setReal(to.real);
		const sheet = body(to);
		if (sheet.uses.every((u) => number.test(u.real))) saver.put(sheet);
	};
	const refused = finish.error ?? saver.fault;
	const theirs = refused instanceof ProblemError && refused.problem.code === "changed-meanwhile" ? refused.problem.record : undefined;
	const settle = (record: Schemas["Record"], keepMine: boolean) => {
		ours.current.push(record.revision);
		finish.reset();
		saver.forget();
		if (keepMine) return saver.put(body(), 0);
		setNote(record.note);
		setReal({ ...real, ...Object.fromEntries(record.uses.map((u) => [u.product, u.real])) });
	};
	const fault = (i: number) => (finish.error instanceof ProblemError ? finish.error.at(`/uses/${i}/real`) : undefined);
	const zone = (k: string) => library.data?.zones.find((z) => z.key === k)?.name ?? k;
	return (
		<Page
			title={
				<>
					{view.visit.clientName} <span className="num text-2xl font-normal text-soft">{at.date(view.visit.startsAt)}</span>
				</>
			}
			action={
				locked ? (
					<span className="flex flex-wrap items-center gap-6">
						<Link to="/shelf" className="inline-flex min-h-11 items-center font-semibold underline decoration-rule underline-offset-4">
							{w.openShelf}
						</Link>
						<SameAgainLink visit={id} />
					</span>
				) : (
					<Button variant="primary" disabled={wrong.length > 0 || finish.isPending} onClick={() => setAsking(true)}>
						{" "}
						{w.signAndLock}
					</Button>
				)
			}
		>
			<p className="mt-0">
				{w.protocolNamePractitionerNameStarted({ protocolName: view.visit.protocolName, practitionerName: view.visit.practitionerName })}{" "}
				<span className="num">{at.time(view.startedAt)}</span>
				{view.finishedAt && (
					<>
						{w.finished} <span className="num">{at.time(view.finishedAt)}</span>.{" "}
						<span className="font-semibold">{w.thisRecordIsLocked}</span>
					</>
				)}
				{!locked && (
					<span className="text-soft"> · {saver.state === "saved" ? w.saved : saver.state === "not saved" ? w.notSavedYet : w.saving}</span>
				)}
			</p>
			{theirs ? (
				<RecordChanged mine={{ note, real }} theirs={theirs} view={view} onSettled={(keepMine) => settle(theirs, keepMine)} />
			) : (
				<ErrorMessage error={refused} />
			)}
			<div className="grid gap-10 lg:grid-cols-[minmax(0,1fr)_360px]">
				<section aria-label={w.products}>
					<h2 className="mt-0 mb-1 text-2xl">{w.products}</h2>
					{view.record.uses.length === 0 && <p>{w.noProductsInThisPlan}</p>}
					{view.record.uses.length > 0 && (
						<table className="w-full border-collapse text-left">
							<thead>
								<tr className="border-b border-ink text-sm text-soft">
									<th className="py-1 font-semibold">{w.product}</th>
									<th className="text-right font-semibold">{w.planned}</th>
									<th className="pl-6 font-semibold">{w.used}</th>
									<th className="pl-6 font-semibold">{w.lot}</th>
									<th className="text-right font-semibold">{w.cost}</th>
								</tr>
							</thead>
							<tbody>
								{view.record.uses.map((u, i) => (
									<tr key={u.product} className="border-b border-rule align-top">
										<td className="py-3 font-semibold">{u.name}</td>
										<td className="num py-3 text-right">
											{u.planned} {u.unit}
											{u.byHand && handAmount(u.byHand) !== `${u.planned} ${u.unit}` && (
												<span className="block text-sm text-soft">{handAmount(u.byHand)}</span>
											)}
										</td>
										<td className="py-1.5 pl-6">
											{locked ? (
												<span className="num block py-1.5">
													{u.real} {u.unit}
												</span>
											) : (
												<span className="flex items-center gap-2">
													<input
														className="field num w-24 text-right"
														inputMode="decimal"
														aria-label={w.amountUsedOf({ product: u.name })}
														aria-invalid={!number.test((real[u.product] ?? "").trim())}
														value={real[u.product] ?? ""}
														onChange={(e) => change({ real: { ...real, [u.product]: e.target.value } })}
													/>
													{u.unit}
												</span>
											)}
											{fault(i) && <span className="block max-w-60 text-sm font-semibold text-persimmon-deep">{fault(i)}</span>}
										</td>
										<td className="num py-3 pl-6 text-sm">
											{(u.lots ?? []).map((l) => (
												<span key={l.number} className="block">
													{l.number}
													{(u.lots ?? []).length > 1 ? `: ${l.amount} ${u.unit}` : ""}{" "}
													<span className="text-soft">{w.useByGoodUntil({ goodUntil: dayWords(l.goodUntil) })}</span>
												</span>
											))}
											{(u.lots ?? []).length === 0 && w.noLot}
										</td>
										<td className="num py-3 pl-4 text-right">
											{(u.lots ?? []).map((l) => (
												<span key={l.number} className="block">
													{money(l.cost, view.currency)}
												</span>
											))}
										</td>
									</tr>
								))}
							</tbody>
							<tfoot>
								<tr>
									<th colSpan={4} className="py-3 text-right font-semibold">
										{w.productsOfThisTreatment}
									</th>
									<td className="num py-3 pl-4 text-right font-serif text-xl font-semibold" data-testid="cost">
										{money(view.cost, view.currency)}
									</td>
								</tr>
							</tfoot>
						</table>
					)}
					{wrong.length > 0 && <p className="font-semibold text-persimmon-deep">{w.enterAmountUsedAsNumberFor}</p>}
					<h2 className="mb-1 text-2xl">{w.treatmentNotes}</h2>
					{locked ? (
						<>
							<p className="whitespace-pre-wrap">{view.record.note || w.noTreatmentNotes}</p>
							<Additions view={view} onAdded={setView} />
						</>
					) : (
						<textarea
							className="field min-h-36"
							aria-label={w.treatmentNotes}
							placeholder={w.whatYouDidDifferentlyHowClient}
							maxLength={8000}
							value={note}
							onChange={(e) => change({ note: e.target.value })}
						/>
					)}
				</section>
				<aside>
					<h2 className="mt-0 mb-1 text-2xl">{w.adjustmentsMade}</h2>
					{view.changes.length === 0 && <p className="m-0">{w.noneProtocolWasFollowedAsPublished}</p>}
					<ul className="m-0 list-none p-0">
						{view.changes.map((c) => (
							<li key={`${c.step}${c.did}${c.zone ?? ""}${c.to ?? ""}`} className="border-b border-rule py-1.5">
								{changeText(c, { zone, step: (x) => x })}
								{c.title && <span className="block text-sm text-soft">{c.title}</span>}
							</li>
						))}
					</ul>
					{view.skipped.length > 0 && (
						<>
							<h2 className="mt-6 mb-1 text-2xl">{w.skippedInTheRoom}</h2>
							<ul className="m-0 list-none p-0">
								{view.skipped.map((name, i) => (
									// A stroke may have been skipped more than once.
									<li key={i} className="border-b border-rule py-1.5">
										{name}
									</li>
								))}
							</ul>
						</>
					)}
					{(view.overrules.length > 0 || view.otherDay) && (
						<>
							<h2 className="mt-6 mb-1 text-2xl">{w.overrides}</h2>
							<ul className="m-0 list-none p-0">
								{view.otherDay && (
									<li className="border-b border-rule py-1.5">
										{w.treatedOnAnotherDay}
										<span className="block text-sm text-soft">{view.otherDay}</span>
									</li>
								)}
								{view.overrules.map((o) => (
									<li key={o.rule} className="border-b border-rule py-1.5">
										{rules.data?.rules.find((r) => r.id === o.rule)?.title ?? o.rule}
										<span className="block text-sm text-soft">{o.reason}</span>
									</li>
								))}
							</ul>
						</>
					)}
				</aside>
			</div>
			<Dialog open={asking} onClose={() => setAsking(false)} title={w.lockThisRecord}>
				<p>{w.productsUsedTakenFromStockYou}</p>
				<div className="flex justify-end gap-3">
					<Button autoFocus onClick={() => setAsking(false)}>
						{w.notYet}
					</Button>
					<label className="mr-auto flex min-h-11 items-center gap-2">
						<input
							type="checkbox"
							className="size-5 accent-persimmon"
							checked={brokenOff}
							onChange={(e) => setBrokenOff(e.target.checked)}
						/>
						{w.wasBrokenOff}
					</label>
					<Button variant="primary" disabled={finish.isPending} onClick={() => finish.mutate()}>
						{" "}
						{w.signAndLock}
					</Button>
				</div>
			</Dialog>
		</Page>
	);
}
