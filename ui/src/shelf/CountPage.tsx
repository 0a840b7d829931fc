import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../api/client";
import { countQuery, shelfQuery } from "../api/queries";
import { asDecimal, decimal } from "../kit/faults";
import { money } from "../kit/format";
import { Button, ErrorMessage, Field, Loading, Page } from "../kit/kit";
import { ScaleField } from "../kit/ScaleField";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/shelf";
import { ShelfNav } from "./ShelfNav";

type Sheet = Schemas["CountSheet"];
type Line = Schemas["CountLine"];

/** A stocktake: place after place, pack after pack; differences show at the end, and closing books them. */
export function CountPage() {
	const { may } = useSession();
	const count = useQuery(countQuery);
	const none = count.error instanceof ProblemError && count.error.problem.status === 404;
	if (!count.data && !none) return <Loading of={w.stocktake} error={count.error} retry={() => count.refetch()} />;
	const open = count.data && !count.data.closedAt;
	return (
		<Page title={w.stocktake} action={<ShelfNav />}>
			{open ? <OpenSheet sheet={count.data} /> : may("start-count") && <Start />}
			{count.data?.closedAt && <Closed sheet={count.data} />}
		</Page>
	);
}

/** Which places to count. */
function Start() {
	const cache = useQueryClient();
	const shelf = useQuery(shelfQuery);
	const places = [...new Set((shelf.data ?? []).map((l) => l.place))].filter(Boolean).sort();
	const [chosen, setChosen] = useState<string[]>([]);
	const start = useMutation({
		mutationFn: (due: boolean) => unwrap(api.POST("/api/stocktake", { body: due ? { places: [], due } : { places: chosen } })),
		onSuccess: (s) => cache.setQueryData(countQuery.queryKey, s),
	});
	return (
		<section className="mb-6 max-w-2xl">
			<p className="mt-0">{w.stocktakeExplained}</p>
			{places.length > 0 && (
				<fieldset className="m-0 mb-3 flex flex-wrap gap-x-5 border-0 p-0">
					<legend className="mb-1 text-sm font-semibold">{w.whichPlaces}</legend>
					{places.map((p) => (
						<label key={p} className="flex min-h-11 items-center gap-2">
							<input
								type="checkbox"
								className="size-5 accent-persimmon"
								checked={chosen.includes(p)}
								onChange={(e) => setChosen(e.target.checked ? [...chosen, p] : chosen.filter((x) => x !== p))}
							/>
							{p}
						</label>
					))}
				</fieldset>
			)}
			<ErrorMessage error={start.error} />
			<div className="flex flex-wrap items-center gap-3">
				<Button variant="primary" onClick={() => start.mutate(false)} disabled={start.isPending}>
					{chosen.length > 0 ? w.startCountOf({ places: chosen.join(", ") }) : w.startCount}
				</Button>
				<Button onClick={() => start.mutate(true)} disabled={start.isPending}>
					{w.countWhatIsDue}
				</Button>
			</div>
			<p className="mt-2 mb-0 text-sm text-soft">{w.dueExplained}</p>
		</section>
	);
}

/** The line that is being counted, and all others. */
function OpenSheet({ sheet }: { sheet: Sheet }) {
	const cache = useQueryClient();
	const { currency = "EUR" } = useSession();
	const [at, setAt] = useState<string | null>(null);
	const next = sheet.lines.find((l) => l.found === undefined || l.again);
	const line = sheet.lines.find((l) => l.pack === at) ?? next;
	const done = sheet.lines.filter((l) => l.found !== undefined && !l.again);
	const differences = done.filter((l) => Number(l.booked) !== 0);
	const [code, setCode] = useState("");
	const scan = useMutation({
		mutationFn: (text: string) => unwrap(api.GET("/api/scan", { params: { query: { code: text } } })),
		onSuccess: (f) => {
			setCode("");
			if (f.pack) setAt(f.pack);
		},
	});
	const close = useMutation({
		mutationFn: () => unwrap(api.POST("/api/stocktake/close")),
		onSuccess: (s) => {
			cache.setQueryData(countQuery.queryKey, s);
			cache.invalidateQueries({ queryKey: ["shelf"] });
		},
	});
	return (
		<div className="grid gap-8 lg:grid-cols-[minmax(0,1fr)_420px]">
			<section aria-label={w.packToCount}>
				<form
					className="mb-3"
					onSubmit={(e) => {
						e.preventDefault();
						if (code.trim()) scan.mutate(code.trim());
					}}
				>
					<Field label={w.scanAPack} fault={scan.error instanceof ProblemError ? scan.error.at("/code") : undefined}>
						{(a) => <input {...a} className="field max-w-md" value={code} onChange={(e) => setCode(e.target.value)} />}
					</Field>
				</form>
				{line ? <CountOne key={line.pack} line={line} onDone={() => setAt(null)} /> : <p className="text-lg">{w.allPacksAreCounted}</p>}
				<h2 className="mt-6 mb-1 text-xl">{w.differences({ n: differences.length })}</h2>
				{differences.length === 0 && <p className="m-0">{w.noDifferencesSoFar}</p>}
				<ul className="num m-0 list-none p-0 text-sm">
					{differences.map((l) => (
						<li key={l.pack} className="flex justify-between gap-4 border-b border-dotted border-rule py-1.5">
							<span>
								{l.name}, {w.lotAndPack({ lot: l.lot, pack: l.number })}
								{l.reason && <span className="text-soft"> · {l.reason}</span>}
							</span>
							<span className="font-semibold whitespace-nowrap">
								{Number(l.booked) > 0 ? "+" : "−"}
								{Math.abs(Number(l.booked))} {l.unit}
							</span>
						</li>
					))}
				</ul>
				<ErrorMessage error={close.error} />
				<div className="mt-4 flex justify-end">
					<Button variant={next ? "plain" : "primary"} disabled={done.length === 0 || close.isPending} onClick={() => close.mutate()}>
						{next ? w.closeWithout({ left: sheet.lines.length - done.length }) : w.closeStocktake}
					</Button>
				</div>
			</section>
			<aside aria-label={w.countSheet} className="lg:max-h-[calc(100vh-12rem)] lg:overflow-auto">
				<p className="num m-0 mb-1 font-semibold">{w.countedOf({ counted: done.length, all: sheet.lines.length })}</p>
				<ul className="num m-0 list-none p-0 text-sm">
					{sheet.lines.map((l, i) => (
						<li key={l.pack}>
							{(i === 0 || sheet.lines[i - 1]?.place !== l.place) && <p className="m-0 mt-2 font-semibold">{l.place || w.noPlace}</p>}
							<button
								type="button"
								aria-current={l.pack === line?.pack}
								className="flex min-h-11 w-full items-center justify-between gap-3 border-b border-dotted border-rule px-1 text-left aria-[current=true]:bg-leaf aria-[current=true]:font-semibold"
								onClick={() => setAt(l.pack)}
							>
								<span className="min-w-0 truncate">
									{l.name} <span className="text-soft">{w.lotAndPack({ lot: l.lot, pack: l.number })}</span>
								</span>
								<span className={`whitespace-nowrap ${l.again ? "font-semibold text-persimmon-deep" : ""}`}>
									{l.again ? w.onceMore : l.found !== undefined ? `${Number(l.found)} ${l.unit}` : l.open ? w.openWord : w.sealed}
								</span>
							</button>
						</li>
					))}
				</ul>
				<p className="text-xs text-soft">{w.valueInCurrency({ currency })}</p>
			</aside>
		</div>
	);
}

/** One pack: counted, or weighed where it stands open. Enter goes on. */
function CountOne({ line: l, onDone }: { line: Line; onDone: () => void }) {
	const cache = useQueryClient();
	const [weighs, setWeighs] = useState(l.weighs && l.found === undefined);
	const [found, setFound] = useState(l.again || l.found === undefined ? "" : String(Number(l.found)));
	const [gross, setGross] = useState("");
	const [tare, setTare] = useState(l.tare ? String(Number(l.tare)) : "");
	const [reason, setReason] = useState(l.reason);
	const first = useRef<HTMLInputElement>(null);
	const second = useRef<HTMLInputElement>(null);
	useEffect(() => first.current?.focus(), []); // counting goes from pack to pack by Enter
	const count = useMutation({
		mutationFn: (body: Schemas["Counting"]) => unwrap(api.PUT("/api/stocktake/packs/{id}", { params: { path: { id: l.pack } }, body })),
		onSuccess: async (line) => {
			await cache.invalidateQueries({ queryKey: countQuery.queryKey });
			if (!line.again) onDone();
			setFound("");
			setGross("");
		},
	});
	const go = () => {
		const why = reason ? { reason } : {};
		if (weighs) {
			if (decimal.test(gross.trim())) count.mutate({ gross: asDecimal(gross), ...(tare ? { tare: asDecimal(tare) } : {}), ...why });
		} else if (decimal.test(found.trim())) count.mutate({ found: asDecimal(found), ...why });
	};
	const fault = (path: string) => (count.error instanceof ProblemError ? count.error.at(path) : undefined);
	return (
		<form
			className="leaf grid gap-3 p-4"
			noValidate
			onSubmit={(e) => {
				e.preventDefault();
				go();
			}}
		>
			<div>
				<h2 className="m-0 text-2xl">{l.name}</h2>
				<p className="num m-0 text-soft">
					{[
						w.lotAndPack({ lot: l.lot, pack: l.number }),
						l.open ? w.openWord : w.sealed,
						l.books !== undefined ? w.booksShow({ books: Number(l.books), unit: l.unit }) : "",
					]
						.filter(Boolean)
						.join(" · ")}
				</p>
				{l.again && <p className="m-0 font-semibold text-persimmon-deep">{w.farOffCountAgain}</p>}
			</div>
			{l.weighs && (
				<div className="flex gap-5">
					{[true, false].map((by) => (
						<label key={String(by)} className="flex min-h-11 items-center gap-2">
							<input type="radio" className="size-5 accent-persimmon" checked={weighs === by} onChange={() => setWeighs(by)} />
							{by ? w.byWeight : w.byEye}
						</label>
					))}
				</div>
			)}
			{weighs ? (
				<div className="grid grid-cols-2 gap-3">
					<ScaleField
						label={w.fullWeightG}
						value={gross}
						onChange={setGross}
						fault={fault("/gross")}
						onEnter={() => (tare ? go() : second.current?.focus())}
					/>
					<Field label={w.emptyPackG} fault={fault("/tare")}>
						{(a) => (
							<input {...a} ref={second} className="field num" inputMode="decimal" value={tare} onChange={(e) => setTare(e.target.value)} />
						)}
					</Field>
				</div>
			) : (
				<Field label={w.foundInUnit({ unit: l.unit })} fault={fault("/found")}>
					{(a) => (
						<span className="flex gap-3">
							<input
								{...a}
								ref={first}
								className="field num text-right text-xl"
								inputMode="decimal"
								value={found}
								onChange={(e) => setFound(e.target.value)}
							/>
							{!l.open && (
								<Button onClick={() => count.mutate({ found: String(l.size) })} disabled={count.isPending}>
									{w.fullPack({ size: Number(l.size), unit: l.unit })}
								</Button>
							)}
						</span>
					)}
				</Field>
			)}
			<Field label={w.reasonOfDifference}>
				{(a) => <input {...a} className="field" maxLength={300} value={reason} onChange={(e) => setReason(e.target.value)} />}
			</Field>
			<ErrorMessage error={fault("/found") || fault("/gross") || fault("/tare") ? null : count.error} />
			<div className="flex justify-end">
				<Button variant="primary" type="submit" disabled={count.isPending}>
					{w.nextPack}
				</Button>
			</div>
		</form>
	);
}

/** What the last stocktake found. */
function Closed({ sheet }: { sheet: Sheet }) {
	const { at, currency = "EUR" } = useSession();
	const differences = sheet.lines.filter((l) => Number(l.booked) !== 0);
	return (
		<section aria-label={w.lastStocktake}>
			<h2 className="mb-1 text-2xl">{w.lastStocktake}</h2>
			<p className="num m-0">
				{w.closedOn({ day: at.date(sheet.closedAt!), counted: sheet.counted, differences: differences.length })}{" "}
				{w.gainedAndLost({ gained: money(sheet.gained, currency), lost: money(sheet.lost, currency) })}
			</p>
			<ul className="num m-0 mt-2 max-w-3xl list-none p-0 text-sm">
				{differences.map((l) => (
					<li key={l.pack} className="grid grid-cols-[minmax(0,1fr)_9rem_9rem] gap-4 border-b border-dotted border-rule py-1.5">
						<span>
							{l.name}, {w.lotAndPack({ lot: l.lot, pack: l.number })}
							{l.reason && <span className="text-soft"> · {l.reason}</span>}
						</span>
						<span>{w.booksAndFound({ books: Number(l.books), found: Number(l.found), unit: l.unit })}</span>
						<span className="text-right font-semibold">
							{Number(l.booked) > 0 ? "+" : "−"}
							{Math.abs(Number(l.booked))} {l.unit}
						</span>
					</li>
				))}
			</ul>
		</section>
	);
}
