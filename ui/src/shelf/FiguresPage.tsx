import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../api/client";
import { shelfFiguresQuery } from "../api/queries";
import { dayWords, money, monthWords } from "../kit/format";
import { Loading, Page } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/shelf";
import { ShelfNav } from "./ShelfNav";

type Figures = Schemas["Figures"];
type Line = Schemas["FigureLine"];

const ways = { byProduct: w.byProduct, byProtocol: w.byProtocol, byPractitioner: w.byPractitioner, byMonth: w.byMonth } as const;

/** What was used against what was planned, said as help, and what the stock is worth. */
export function FiguresPage() {
	const figures = useQuery(shelfFiguresQuery);
	const { currency } = useSession();
	const [by, setBy] = useState<keyof typeof ways>("byProduct");
	if (!figures.data) return <Loading of={w.useAndWorth} error={figures.error} retry={() => figures.refetch()} />;
	const f = figures.data;
	return (
		<Page title={w.useAndWorth} action={<ShelfNav />}>
			<div className="grid gap-x-10 gap-y-8 xl:grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)]">
				<section aria-label={w.plannedAndUsed}>
					<h2 className="mt-0 mb-1 text-2xl">{w.plannedAndUsed}</h2>
					<p className="mt-0 mb-2 text-sm text-soft">{w.useAgainstPlanExplained({ day: dayWords(f.since) })}</p>
					<div role="tablist" aria-label={w.plannedAndUsed} className="mb-2 flex flex-wrap gap-x-5">
						{(Object.keys(ways) as (keyof typeof ways)[]).map((k) => (
							<button
								key={k}
								type="button"
								role="tab"
								aria-selected={by === k}
								className="min-h-11 border-b-2 border-transparent font-semibold aria-selected:border-ink"
								onClick={() => setBy(k)}
							>
								{ways[k]}
							</button>
						))}
					</div>
					<div role="tabpanel" aria-label={ways[by]}>
						{f[by].length === 0 ? <p className="m-0">{w.noRecordsYet}</p> : <Uses lines={f[by]} by={by} currency={currency ?? "EUR"} />}
					</div>
				</section>
				<StockWorth figures={f} currency={currency ?? "EUR"} />
			</div>
		</Page>
	);
}

function Uses({ lines, by, currency }: { lines: Line[]; by: keyof typeof ways; currency: string }) {
	return (
		<table className="num w-full border-collapse text-left text-sm">
			<thead>
				<tr className="border-b border-ink text-soft">
					<th className="py-1 font-semibold">{ways[by]}</th>
					<th className="font-semibold">{w.usedToPlanned}</th>
					<th className="pr-3 text-right font-semibold">{w.measuredOfRecords}</th>
					<th className="text-right font-semibold">{w.beyondThePlan}</th>
				</tr>
			</thead>
			<tbody>
				{lines.map((l) => (
					<tr key={l.name} className="border-b border-dotted border-rule">
						<td className="py-1.5 pr-3 font-semibold">{by === "byMonth" ? monthWords(l.name) : l.name || w.protocolGone}</td>
						<td className="w-56">{l.measured > 0 ? <Spread of={l} /> : <span className="text-soft">{w.nothingMeasured}</span>}</td>
						<td className="pr-3 text-right whitespace-nowrap">{w.measuredOf({ measured: l.measured, records: l.records })}</td>
						<td className="text-right whitespace-nowrap">{money(l.overPlan, currency)}</td>
					</tr>
				))}
			</tbody>
		</table>
	);
}

/** The ratio in the middle as a bead on a line, the range in which half of the records lie as a bar; the upright is the plan. */
function Spread({ of: l }: { of: Line }) {
	const x = (ratio: string) => 4 + 120 * Math.max(0, Math.min(1, (Number(ratio) - 0.6) / 0.8));
	return (
		<span className="flex items-center gap-3">
			<svg
				viewBox="0 0 128 18"
				width={128}
				height={18}
				role="img"
				aria-label={w.middleAndRange({ middle: Number(l.median), low: Number(l.low), high: Number(l.high) })}
			>
				<path d={`M${x("1")} 0V18`} stroke="var(--color-ink)" strokeWidth={1} />
				<path d="M4 9H124" stroke="var(--color-rule)" strokeWidth={1.5} />
				<path d={`M${x(l.low)} 9H${x(l.high)}`} stroke="var(--color-kelp)" strokeWidth={6} strokeLinecap="round" opacity={0.45} />
				<circle cx={x(l.median)} cy={9} r={4.5} fill="var(--color-kelp)" />
			</svg>
			{Number(l.median).toFixed(2)}
		</span>
	);
}

function StockWorth({ figures: f, currency }: { figures: Figures; currency: string }) {
	const sum = (v: Schemas["Worth"]) => (
		<>
			<td className="text-right">{money(v.atCost, currency)}</td>
			<td className="text-right">{money(v.firstOut, currency)}</td>
			<td className="text-right">{money(v.average, currency)}</td>
		</>
	);
	return (
		<section aria-label={w.whatTheStockIsWorth}>
			<h2 className="mt-0 mb-1 text-2xl">{w.whatTheStockIsWorth}</h2>
			<p className="mt-0 mb-2 text-sm text-soft">{w.stockWorthExplained}</p>
			<table className="num w-full border-collapse text-left text-sm">
				<thead>
					<tr className="border-b border-ink text-soft">
						<th className="py-1 font-semibold">{w.product}</th>
						<th className="text-right font-semibold">{w.leftWord}</th>
						<th className="pl-4 text-right font-semibold">{w.atOwnCost}</th>
						<th className="pl-4 text-right font-semibold">{w.firstInFirstOut}</th>
						<th className="pl-4 text-right font-semibold">{w.movingAverage}</th>
					</tr>
				</thead>
				<tbody>
					{f.worth.map((l) => (
						<tr key={l.product} className="border-b border-dotted border-rule">
							<td className="py-1.5 pr-3">{l.name}</td>
							<td className="text-right whitespace-nowrap">
								{Math.round(Number(l.left) * 10) / 10} {l.unit}
							</td>
							{sum(l)}
						</tr>
					))}
				</tbody>
				<tfoot>
					<tr className="border-t border-ink font-semibold">
						<td className="py-1.5" colSpan={2}>
							{w.inAll}
						</td>
						{sum(f.worthOfAll)}
					</tr>
				</tfoot>
			</table>
		</section>
	);
}
