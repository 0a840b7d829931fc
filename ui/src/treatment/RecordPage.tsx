import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useParams, useSearch } from "@tanstack/react-router";
import { useRef, useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../api/client";
import { libraryQuery, recordQuery, rulesQuery } from "../api/queries";
import { SameAgainLink } from "../diary";
import { Dialog } from "../kit/Dialog";
import { money } from "../kit/format";
import { Button, ErrorMessage, Loading, Page } from "../kit/kit";
import { useSession } from "../kit/session";
import { useAutosave } from "../kit/useAutosave";
import * as w from "../words/catalogue/treatment";
import { changeText, headlineWords } from "../words/sentences";
import { Additions } from "./Additions";
import { Measured } from "./Measured";
import { RealChart } from "./RealChart";
import { RecordChanged } from "./RecordChanged";
import { NextTime, RoomAccount } from "./RoomAccount";
import { SecondSignature } from "./SecondSignature";
import { Unexpected } from "./Unexpected";
import { LockedUse, UseRow } from "./UseRow";
import { readable, textOf, type UseText, useOf } from "./uses";

/** What was really done and used; finishing locks it and takes the products off the shelf. */
export function RecordPage() {
	const { id } = useParams({ from: "/shell/visits/$id/record" });
	const record = useQuery(recordQuery(id));
	if (!record.data) return <Loading of={w.theRecord} error={record.error} retry={() => record.refetch()} />;
	return <Sheet key={`${id}-${record.data.finishedAt ?? "open"}`} id={id} start={record.data} />;
}

/** What the client said, and what was recommended and given for home. */
type Talk = { said: string; advice: string };

/** What of the record was changed. */
type Changed = { note?: string; talk?: Talk; uses?: Record<string, UseText> };

/** Of a treatment that was ended early only the first steps left out are named at once. */
const mostSkipped = 8;

/** What is typed of each product. */
const textsOf = (v: Schemas["RecordView"]): Record<string, UseText> =>
	Object.fromEntries(
		v.record.uses.map((u) => [
			u.product,
			textOf(
				u,
				v.choices?.find((c) => c.product === u.product),
			),
		]),
	);

/** Takes the code of the pack that is really in the hand. */
function ScanPack({ onCode, missed }: { onCode: (code: string) => void; missed: boolean }) {
	const [code, setCode] = useState("");
	return (
		<form
			onSubmit={(e) => {
				e.preventDefault();
				if (code.trim()) onCode(code.trim());
				setCode("");
			}}
		>
			<input
				className="field w-56"
				aria-label={w.scanThePackInTheHand}
				aria-invalid={missed}
				placeholder={missed ? w.noPackHasThisCode : w.scanThePackInTheHand}
				value={code}
				onChange={(e) => setCode(e.target.value)}
			/>
		</form>
	);
}

function Sheet({ id, start }: { id: string; start: Schemas["RecordView"] }) {
	const { at } = useSession();
	const library = useQuery(libraryQuery);
	const rules = useQuery(rulesQuery);
	const [view, setView] = useState(start);
	const [note, setNote] = useState(start.record.note);
	const [talk, setTalk] = useState<Talk>({ said: start.record.said ?? "", advice: start.record.advice ?? "" });
	const [uses, setUses] = useState(() => textsOf(start));
	const [asking, setAsking] = useState(false);
	const [allSkipped, setAllSkipped] = useState(false);
	const afterStop = useSearch({ from: "/shell/visits/$id/record" }).stopped ?? false;
	const [brokenOff, setBrokenOff] = useState(afterStop);
	const cache = useQueryClient();
	const locked = Boolean(view.finishedAt);
	const wrong = Object.values(uses).filter((t) => !readable(t));
	// The revisions that this screen has shown or made: what is typed on one of them is a
	// change of the newest.
	const ours = useRef([start.record.revision]);
	const body = (to: Changed = {}) => ({
		revision: Math.max(...ours.current),
		note: to.note ?? note,
		...talk,
		...to.talk,
		uses: view.record.uses.flatMap((u) => {
			const typed = (to.uses ?? uses)[u.product];
			return typed ? [useOf(u.product, typed)] : [];
		}),
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
			setTalk({ said: sheet.said ?? "", advice: sheet.advice ?? "" });
			setUses(
				Object.fromEntries(
					sheet.uses.map((u) => [
						u.product,
						textOf(
							{ planned: "0", real: "0", ...u },
							view.choices?.find((c) => c.product === u.product),
						),
					]),
				),
			);
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
	const change = (to: Changed) => {
		if (to.note !== undefined) setNote(to.note);
		if (to.talk) setTalk(to.talk);
		if (to.uses) setUses(to.uses);
		if (Object.values(to.uses ?? uses).every(readable)) saver.put(body(to));
	};
	const edit = (product: string, to: Partial<UseText>) => change({ uses: { ...uses, [product]: { ...uses[product]!, ...to } } });
	const scan = useMutation({
		mutationFn: (code: string) => unwrap(api.GET("/api/scan", { params: { query: { code } } })),
		onSuccess: (f) => {
			const of = view.choices?.find((c) => c.packs.some((p) => p.id === f.pack));
			if (of && f.pack) edit(of.product, { pack: f.pack, short: "", override: "" });
		},
	});
	const refused = finish.error ?? saver.fault;
	const theirs = refused instanceof ProblemError && refused.problem.code === "changed-meanwhile" ? refused.problem.record : undefined;
	const settle = (record: Schemas["Record"], keepMine: boolean) => {
		ours.current.push(record.revision);
		finish.reset();
		saver.forget();
		if (keepMine) return saver.put(body(), 0);
		setNote(record.note);
		setTalk({ said: record.said ?? "", advice: record.advice ?? "" });
		setUses({
			...uses,
			...Object.fromEntries(
				record.uses.map((u) => [
					u.product,
					textOf(
						u,
						view.choices?.find((c) => c.product === u.product),
					),
				]),
			),
		});
	};
	const fault = (i: number) => (finish.error instanceof ProblemError ? finish.error.at(`/uses/${i}/real`) : undefined);
	const file = "inline-flex min-h-11 items-center underline decoration-rule underline-offset-4";
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
						<a className={file} href={`/api/visits/${id}/record/paper`} target="_blank" rel="noreferrer">
							{w.asPdf}
						</a>
						{view.signature && (
							<a className={file} href={`/api/visits/${id}/record/signed`}>
								{w.asJson}
							</a>
						)}
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
						{view.signature && (
							<span className="num text-sm text-soft" title={view.signature.sha256}>
								{" "}
								{w.signedBy({ name: view.signature.by, sum: view.signature.sha256.slice(0, 12) })}
								{!view.signature.whole && <span className="font-semibold text-persimmon-deep"> {w.signatureBroken}</span>}
							</span>
						)}
					</>
				)}
				{!locked && (
					<span className="text-soft"> · {saver.state === "saved" ? w.saved : saver.state === "not saved" ? w.notSavedYet : w.saving}</span>
				)}
			</p>
			{view.signature && <SecondSignature view={view} onSigned={setView} />}
			{theirs ? (
				<RecordChanged mine={body()} theirs={theirs} view={view} onSettled={(keepMine) => settle(theirs, keepMine)} />
			) : (
				<ErrorMessage error={refused} />
			)}
			<div className="grid gap-10 lg:grid-cols-[minmax(0,1fr)_360px]">
				<section aria-label={w.products}>
					<div className="flex flex-wrap items-end justify-between gap-3">
						<h2 className="mt-0 mb-1 text-2xl">{w.products}</h2>
						{!locked && view.record.uses.length > 0 && (
							<span className="flex flex-wrap items-end gap-3">
								<ScanPack onCode={(c) => scan.mutate(c)} missed={scan.isError || (scan.isSuccess && !scan.data.pack)} />
								<Button
									onClick={() =>
										change({
											uses: Object.fromEntries(Object.entries(uses).map(([k, t]) => [k, { ...t, count: "", before: "", after: "" }])),
										})
									}
								>
									{w.allAsPlanned}
								</Button>
							</span>
						)}
					</div>
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
								{view.record.uses.map((u, i) =>
									locked || !uses[u.product] ? (
										<LockedUse key={u.product} use={u} currency={view.currency} />
									) : (
										<UseRow
											key={u.product}
											use={u}
											choices={view.choices?.find((c) => c.product === u.product)}
											text={uses[u.product]!}
											currency={view.currency}
											fault={fault(i)}
											onChange={(to) => edit(u.product, to)}
										/>
									),
								)}
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
					{(["said", "advice"] as const).map((field) => {
						const name = field === "said" ? w.whatTheClientSaid : w.adviceGiven;
						if (locked && !talk[field]) return null;
						return (
							<div key={field}>
								<h2 className="mb-1 text-2xl">{name}</h2>
								{locked ? (
									<p className="whitespace-pre-wrap">{talk[field]}</p>
								) : (
									<textarea
										className="field min-h-16"
										aria-label={name}
										maxLength={4000}
										value={talk[field]}
										onChange={(e) => change({ talk: { ...talk, [field]: e.target.value } })}
									/>
								)}
							</div>
						);
					})}
					<Unexpected
						view={view}
						open={afterStop}
						onChanged={setView}
						onReaction={() => unwrap(api.GET("/api/visits/{id}/record", { params: { path: { id } } })).then(setView)}
					/>
				</section>
				<aside>
					{view.account && (
						<div className="*:first:[&>h2]:mt-0">
							<RoomAccount account={view.account} zone={zone} product={(k) => view.record.uses.find((u) => u.product === k)?.name ?? k} />
						</div>
					)}
					<Measured view={view} />
					<NextTime view={view} onAnswered={setView} />
					<h2 className={`${view.account ? "mt-6" : "mt-0"} mb-1 text-2xl`}>{w.adjustmentsMade}</h2>
					{view.headline && (
						<p className="m-0 text-sm text-soft">{w.checkedAtTheDoor({ headline: headlineWords[view.headline] ?? view.headline })}</p>
					)}
					{view.pieces.length > 0 && (
						<p className="m-0 text-sm text-soft">{w.toolsUsed({ tools: view.pieces.map((x) => `${x.tool} ${x.number}`).join(", ") })}</p>
					)}
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
								{(allSkipped ? view.skipped : view.skipped.slice(0, mostSkipped)).map((name, i) => (
									// A stroke may have been skipped more than once.
									<li key={i} className="border-b border-rule py-1.5">
										{name}
									</li>
								))}
							</ul>
							{!allSkipped && view.skipped.length > mostSkipped && (
								<Button variant="quiet" className="px-0!" onClick={() => setAllSkipped(true)}>
									{w.andMoreSteps({ n: view.skipped.length - mostSkipped })}
								</Button>
							)}
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
			{view.account && <RealChart visit={id} account={view.account} />}
			<Dialog open={asking} onClose={() => setAsking(false)} title={w.lockThisRecord}>
				<p>{w.productsUsedTakenFromStockYou}</p>
				<label className="flex min-h-11 items-center gap-2">
					<input type="checkbox" className="size-5 accent-persimmon" checked={brokenOff} onChange={(e) => setBrokenOff(e.target.checked)} />
					{w.wasBrokenOff}
				</label>
				<div className="mt-3 flex justify-end gap-3">
					<Button autoFocus onClick={() => setAsking(false)}>
						{w.notYet}
					</Button>
					<Button variant="primary" disabled={finish.isPending} onClick={() => finish.mutate()}>
						{w.signAndLock}
					</Button>
				</div>
			</Dialog>
		</Page>
	);
}
