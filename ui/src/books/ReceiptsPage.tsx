import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../api/client";
import { receiptQuery, receiptsQuery } from "../api/queries";
import { dayAfter, dayWords, money, newId } from "../kit/format";
import { Button, ErrorMessage, Field, Loading, Page } from "../kit/kit";
import { LongList } from "../kit/LongList";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/books";
import { waysToPay } from "../words/catalogue/shared";
import { BooksNav } from "./BooksNav";

type Receipt = Schemas["Receipt"];
type ReceiptLine = Schemas["ReceiptLine"];

/** The receipts of some days, newest first; one is opened to print it, to give lines back, or to pay what is owed. */
export function ReceiptsPage() {
	const { at, now } = useSession();
	const today = at.day(now());
	const [from, setFrom] = useState(dayAfter(today, -6));
	const [to, setTo] = useState(today);
	const [open, setOpen] = useState<string | null>(null);
	// What comes in after a day is closed is dated on the next one.
	const list = useInfiniteQuery(receiptsQuery(from, to === today ? dayAfter(today, 1) : to));
	const lines = list.data?.pages.flat();
	return (
		<Page title={w.receipts} action={<BooksNav />}>
			<div className="mb-4 flex flex-wrap items-end gap-4">
				<Field label={w.from}>
					{(a) => <input {...a} type="date" className="field" value={from} onChange={(e) => setFrom(e.target.value)} />}
				</Field>
				<Field label={w.to}>
					{(a) => <input {...a} type="date" className="field" value={to} onChange={(e) => setTo(e.target.value)} />}
				</Field>
			</div>
			{!lines ? (
				<Loading of={w.receipts} error={list.error} retry={() => list.refetch()} />
			) : lines.length === 0 ? (
				<p className="m-0 text-lg text-soft">{w.noReceipts}</p>
			) : (
				<>
					<LongList
						className="border-t border-ink"
						rows={lines}
						keyOf={(r) => r.id}
						height={49}
						keep={open ?? undefined}
						row={(r) => <Line receipt={r} open={open === r.id} onOpen={() => setOpen(open === r.id ? null : r.id)} />}
					/>
					{list.hasNextPage && (
						<div className="mt-4">
							<Button disabled={list.isFetchingNextPage} onClick={() => list.fetchNextPage()}>
								{w.earlierReceipts}
							</Button>
						</div>
					)}
				</>
			)}
		</Page>
	);
}

function Line({ receipt: r, open, onOpen }: { receipt: ReceiptLine; open: boolean; onOpen: () => void }) {
	return (
		<div className="border-b border-rule">
			<button
				type="button"
				aria-expanded={open}
				className="grid min-h-12 w-full grid-cols-[7.5rem_6.5rem_minmax(0,1fr)_10rem_7rem] items-center gap-4 px-4 text-left hover:bg-leaf"
				onClick={onOpen}
			>
				<span className="num font-semibold">{r.number}</span>
				<span className="text-sm text-soft">{dayWords(r.day)}</span>
				<span className="truncate">{r.names.join(", ")}</span>
				<span className="truncate text-sm text-soft">{r.owed ? w.stillOwed : r.ways.map((by) => waysToPay[by]).join(", ")}</span>
				<span className={`num text-right font-semibold ${Number(r.total) < 0 ? "text-persimmon-deep" : ""}`}>
					{money(r.total, r.currency)}
				</span>
			</button>
			{open && <Opened id={r.id} />}
		</div>
	);
}

function Opened({ id }: { id: string }) {
	const receipt = useQuery(receiptQuery(id));
	return receipt.data ? <One receipt={receipt.data} /> : <Loading of={w.receipts} error={receipt.error} retry={() => receipt.refetch()} />;
}

function One({ receipt: r }: { receipt: Receipt }) {
	const { may } = useSession();
	const cache = useQueryClient();
	const [id] = useState(newId);
	const [lines, setLines] = useState<number[]>([]);
	const [why, setWhy] = useState("");
	const refresh = () => {
		for (const key of ["receipts", "closing-day", "shelf"]) cache.invalidateQueries({ queryKey: [key] });
	};
	const back = useMutation({
		mutationFn: () => unwrap(api.POST("/api/receipts/{id}/refund", { params: { path: { id: r.id } }, body: { id, lines, why } })),
		onSuccess: refresh,
	});
	const may1 = r.kind === "sale" && may("refund-receipt");
	const fault = back.error instanceof ProblemError ? back.error.at("/why") : undefined;
	return (
		<div className="bg-leaf px-4 py-3">
			{r.paper.first && <p className="m-0 mb-2">{w.countersReceipt({ first: r.paper.first, note: r.paper.note ?? "" })}</p>}
			<ul className="m-0 mb-3 list-none p-0">
				{r.paper.lines.map((l, i) => {
					const gone = r.givenBack?.includes(i);
					const can = may1 && !gone && ["treatment", "extra", "product", "fee"].includes(l.kind);
					return (
						<li key={i}>
							<label htmlFor={`back-${r.id}-${i}`} className="flex min-h-9 items-center gap-3">
								{may1 && (
									<input
										id={`back-${r.id}-${i}`}
										type="checkbox"
										className="h-5 w-5"
										disabled={!can}
										checked={lines.includes(i)}
										onChange={(e) => setLines(e.target.checked ? [...lines, i] : lines.filter((k) => k !== i))}
									/>
								)}
								<span className={gone ? "line-through" : ""}>
									{l.name}
									{l.qty > 1 && ` × ${l.qty}`}
								</span>
								<span className="num ml-auto">{money(l.gross, r.paper.currency)}</span>
							</label>
						</li>
					);
				})}
			</ul>
			<div className="flex flex-wrap items-end gap-3">
				<a
					className="inline-flex min-h-11 items-center rounded-sm border border-[#9c8873] bg-white px-4 font-semibold text-ink no-underline"
					href={`/api/receipts/${r.id}/paper`}
					target="_blank"
					rel="noreferrer"
				>
					{w.printTheReceipt}
				</a>
				{r.owed && may("pay-sale") && (
					<>
						<span className="self-center font-semibold">{w.owesStill({ amount: money(r.owed, r.paper.currency) })}</span>
						<Link
							to="/books"
							search={{ owed: r.id, ...(r.client ? { client: r.client } : {}) }}
							className="inline-flex min-h-11 items-center rounded-sm border border-[#9c8873] bg-white px-4 font-semibold text-ink no-underline"
						>
							{w.takeWhatIsOwed}
						</Link>
					</>
				)}
				{lines.length > 0 && (
					<>
						<div className="min-w-56 grow">
							<Field label={w.whyGivenBack} fault={fault}>
								{(a) => <input {...a} className="field" maxLength={300} value={why} onChange={(e) => setWhy(e.target.value)} />}
							</Field>
						</div>
						<Button variant="primary" disabled={back.isPending} onClick={() => back.mutate()}>
							{w.giveTheseBack}
						</Button>
					</>
				)}
			</div>
			{!fault && <ErrorMessage error={back.error} />}
		</div>
	);
}
