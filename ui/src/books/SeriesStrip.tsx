import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../api/client";
import { priceListQuery, soldSeriesQuery } from "../api/queries";
import { dayWords, money, newId } from "../kit/format";
import { Button, ErrorMessage, Field } from "../kit/kit";
import { useSession } from "../kit/session";
import { Who } from "../kit/Who";
import * as w from "../words/catalogue/books";

type Strip = Schemas["Strip"];

const palm =
	"M9 24c-3-4-6-8-7-11-.6-2 1.800-3 3-1.400l2 3.400V5.500c0-2 3-2 3 0V3.200c0-2 3-2 3 0v2c0-2 3-1.800 3 .2v2.600c0-1.700 2.600-1.500 2.600.3V16c0 4-1.600 6-3 8z";

/** The visits of a series as a row of palms: filled when given, each with its share of the price beneath. */
export function PalmRow({ series, next }: { series: Strip; next?: number | undefined }) {
	const { currency = "EUR" } = useSession();
	const mixed = new Set(series.shares.map((h) => h.protocol)).size > 1;
	const list = useQuery({ ...priceListQuery, enabled: mixed });
	const about = (h: Strip["shares"][number]) => {
		const name = mixed ? list.data?.treatments.find((t) => t.protocol === h.protocol)?.name : undefined;
		return [name, ...(h.extras ?? [])].filter(Boolean).join(" + ");
	};
	return (
		<ol className="m-0 flex list-none flex-wrap items-start gap-x-3 gap-y-2 p-0">
			{series.shares.map((h) => {
				const given = Boolean(h.givenOn);
				return (
					<li key={h.n} className={`grid justify-items-center text-center ${about(h) ? "w-24" : "w-16"}`}>
						<svg viewBox="0 0 20 26" className="h-9" aria-hidden="true">
							<path
								d={palm}
								className={given ? "fill-kelp stroke-kelp" : h.n === next ? "fill-white stroke-persimmon" : "fill-white stroke-[#9c8873]"}
								strokeWidth={h.n === next ? 2 : 1.2}
								strokeLinejoin="round"
							/>
						</svg>
						<span className="num text-xs">{money(h.gross, currency)}</span>
						{about(h) && (
							<span className="line-clamp-2 text-xs" title={about(h)}>
								{about(h)}
							</span>
						)}
						<span className="text-xs text-soft">
							<span className="sr-only">{given ? w.given : w.toCome} </span>
							{given ? dayWords(h.givenOn ?? "").replace(/ \d{4}$/, "") : h.n === next ? w.thisOne : ""}
						</span>
					</li>
				);
			})}
		</ol>
	);
}

/** What a client has paid ahead: each series with its palms, and what can be done with it. */
export function SeriesStrips({ client }: { client: string }) {
	const { may } = useSession();
	const list = useQuery({ ...soldSeriesQuery(client), enabled: may("list-sold-series") });
	if (!list.data?.length) return list.error ? <ErrorMessage error={list.error} /> : null;
	return (
		<section className="mb-6" aria-label={w.paidAhead}>
			<h2 className="mt-0 mb-2 flex items-baseline justify-between text-2xl">
				{w.paidAhead}
				<a className="text-base" href={`/api/clients/${client}/sold-series/paper`} target="_blank" rel="noreferrer">
					{w.print}
				</a>
			</h2>
			{list.data.map((s) => (
				<OneStrip key={s.id} series={s} />
			))}
		</section>
	);
}

function OneStrip({ series: s }: { series: Strip }) {
	const { currency = "EUR", may } = useSession();
	const [doing, setDoing] = useState<"rest" | "over" | "back" | null>(null);
	const press = (what: typeof doing) => () => setDoing(doing === what ? null : what);
	return (
		<article className="mb-3 rounded-md border border-rule bg-white px-4 py-3">
			<header className="mb-2 flex flex-wrap items-baseline justify-between gap-x-6">
				<h3 className="m-0 text-lg">{s.name}</h3>
				<p className="m-0 text-sm text-soft">
					{s.state !== "open"
						? w.seriesState[s.state]
						: s.until
							? s.resting
								? w.restsUntil({ day: dayWords(s.until) })
								: w.goodUntil({ day: dayWords(s.until) })
							: ""}
				</p>
			</header>
			<div className="flex flex-wrap items-start justify-between gap-6">
				<PalmRow series={s} />
				<p className="m-0 text-right">
					<span className="block text-sm text-soft">{s.taxWhenGiven ? w.owedWithTax : w.owedInHands}</span>
					<span className="num font-serif text-2xl font-bold">{money(s.owed, currency)}</span>
					{Number(s.unpaid) > 0 && (
						<span className="block text-sm font-semibold text-persimmon-deep">{w.notPaidYet({ amount: money(s.unpaid, currency) })}</span>
					)}
				</p>
			</div>
			{s.state === "open" && (
				<div className="mt-2 flex flex-wrap gap-3">
					{may("change-sold-series") && (
						<>
							<Reminded series={s} />
							<Button variant="quiet" aria-expanded={doing === "rest"} onClick={press("rest")}>
								{w.letItRest}
							</Button>
							<Button variant="quiet" aria-expanded={doing === "over"} onClick={press("over")}>
								{w.handOver}
							</Button>
						</>
					)}
					{may("refund-series") && (
						<Button variant="quiet" aria-expanded={doing === "back"} onClick={press("back")}>
							{w.giveBack}
						</Button>
					)}
				</div>
			)}
			{doing === "rest" && <Rest series={s} done={() => setDoing(null)} />}
			{doing === "over" && <HandOver series={s} done={() => setDoing(null)} />}
			{doing === "back" && <GiveBack series={s} done={() => setDoing(null)} />}
		</article>
	);
}

/** Changes a series, and shows what is there then. */
function useChange(id: string, done: () => void) {
	const cache = useQueryClient();
	return useMutation({
		mutationFn: (body: Schemas["SeriesChange"]) => unwrap(api.POST("/api/sold-series/{id}", { params: { path: { id } }, body })),
		onSuccess: () => {
			cache.invalidateQueries({ queryKey: ["sold-series"] });
			done();
		},
	});
}

/** That the client was told that the series ends: once near its last day. */
function Reminded({ series: s }: { series: Strip }) {
	const change = useChange(s.id, () => {});
	const cache = useQueryClient();
	if (!s.remindNow) return null;
	return (
		<>
			<Button
				disabled={change.isPending}
				onClick={() => change.mutate({ reminded: true }, { onSuccess: () => cache.invalidateQueries({ queryKey: ["inbox"] }) })}
			>
				{w.wasReminded}
			</Button>
			<ErrorMessage error={change.error} />
		</>
	);
}

function Rest({ series, done }: { series: Strip; done: () => void }) {
	const [from, setFrom] = useState("");
	const [to, setTo] = useState("");
	const change = useChange(series.id, done);
	const fault = change.error instanceof ProblemError ? change.error.at("/restTo") : undefined;
	return (
		<form
			className="mt-2 flex flex-wrap items-end gap-3 bg-leaf p-3"
			onSubmit={(e) => {
				e.preventDefault();
				change.mutate({ restFrom: from, restTo: to });
			}}
		>
			<Field label={w.restsFrom}>
				{(a) => <input {...a} type="date" className="field" required value={from} onChange={(e) => setFrom(e.target.value)} />}
			</Field>
			<Field label={w.goesOnOn} fault={fault}>
				{(a) => <input {...a} type="date" className="field" required value={to} onChange={(e) => setTo(e.target.value)} />}
			</Field>
			<Button type="submit">{w.letItRest}</Button>
			<p className="m-0 basis-full text-sm text-soft">{w.restSays}</p>
			{!fault && <ErrorMessage error={change.error} />}
		</form>
	);
}

function HandOver({ series, done }: { series: Strip; done: () => void }) {
	const [to, setTo] = useState("");
	const change = useChange(series.id, done);
	return (
		<div className="mt-2 grid gap-3 bg-leaf p-3">
			<Who client={to} label={w.goesTo} atOnce onChange={setTo} />
			<p className="m-0 text-sm text-soft">{w.handOverSays}</p>
			<div>
				<Button disabled={!to} onClick={() => change.mutate({ to })}>
					{w.handOver}
				</Button>
			</div>
			<ErrorMessage error={change.error} />
		</div>
	);
}

/** Gives a series back: both figures stand side by side before one is chosen. */
function GiveBack({ series, done }: { series: Strip; done: () => void }) {
	const { currency = "EUR" } = useSession();
	const cache = useQueryClient();
	const [id] = useState(newId);
	const [rule, setRule] = useState(series.back.find((b) => b.usual)?.rule ?? "pro-rata");
	const [by, setBy] = useState<"cash" | "card" | "bank">("bank");
	const [why, setWhy] = useState("");
	const back = useMutation({
		mutationFn: () =>
			unwrap(api.POST("/api/sold-series/{id}/refund", { params: { path: { id: series.id } }, body: { id, rule, by, why } })),
		onSuccess: () => {
			for (const key of ["sold-series", "receipts", "closing-day"]) cache.invalidateQueries({ queryKey: [key] });
			done();
		},
	});
	const fault = back.error instanceof ProblemError ? back.error.at("/why") : undefined;
	const chosen = series.back.find((b) => b.rule === rule);
	return (
		<form
			className="mt-2 grid gap-3 bg-leaf p-3"
			onSubmit={(e) => {
				e.preventDefault();
				back.mutate();
			}}
		>
			<fieldset className="m-0 grid gap-3 border-0 p-0 sm:grid-cols-2">
				<legend className="mb-1 text-sm font-semibold">{w.byWhichRule}</legend>
				{series.back.map((b) => (
					<label
						key={b.rule}
						className={`grid cursor-pointer gap-0.5 rounded-md border bg-white px-4 py-3 ${rule === b.rule ? "border-2 border-ink" : "border-rule"}`}
					>
						<span className="flex items-center gap-2 font-semibold">
							<input type="radio" name={`rule-${series.id}`} checked={rule === b.rule} onChange={() => setRule(b.rule)} /> {w.rule[b.rule]}
							{b.usual && <span className="text-sm font-normal text-soft">{w.ourRule}</span>}
						</span>
						<span className="num font-serif text-3xl font-bold">{money(b.back, currency)}</span>
						<span className="text-sm text-soft">{w.ruleSays[b.rule]}</span>
						{Number(b.debt) > 0 && <span className="num text-sm">{w.debtIsDropped({ debt: money(b.debt, currency) })}</span>}
						<span className="num text-sm">{w.stays({ stays: money(b.stays, currency) })}</span>
					</label>
				))}
			</fieldset>
			<div className="flex flex-wrap items-end gap-3">
				<label className="block text-sm font-semibold">
					{w.goesBackBy}
					<select className="field mt-1 font-normal" value={by} onChange={(e) => setBy(e.target.value as typeof by)}>
						{(["bank", "card", "cash"] as const).map((x) => (
							<option key={x} value={x}>
								{w.way[x]}
							</option>
						))}
					</select>
				</label>
				<div className="min-w-56 grow">
					<Field label={w.why} fault={fault}>
						{(a) => <input {...a} className="field" required maxLength={300} value={why} onChange={(e) => setWhy(e.target.value)} />}
					</Field>
				</div>
				<Button type="submit" variant="primary" disabled={back.isPending}>
					{w.giveBackAmount({ amount: money(chosen?.back ?? "0", currency) })}
				</Button>
			</div>
			{!fault && <ErrorMessage error={back.error} />}
		</form>
	);
}
