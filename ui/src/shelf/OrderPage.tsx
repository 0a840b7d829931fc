import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { orderListsQuery, ordersQuery, shelfQuery } from "../api/queries";
import { dayWords, money } from "../kit/format";
import { Badge, Button, ErrorMessage, Field, Loading, Page } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/shelf";
import { OrderTerms } from "./OrderTerms";
import { Ribbon } from "./Ribbon";
import { ShelfNav } from "./ShelfNav";

type List = Schemas["OrderList"];
type Advice = Schemas["OrderAdvice"];
type Order = Schemas["PurchaseOrder"];

/** What to order today, supplier by supplier, with why; and the orders under way. */
export function OrderPage() {
	const { may } = useSession();
	const lists = useQuery(orderListsQuery);
	const orders = useQuery(ordersQuery);
	const [terms, setTerms] = useState(false);
	if (!lists.data || !orders.data)
		return (
			<Loading of={w.whatToOrder} error={lists.error ?? orders.error} retry={() => (lists.error ? lists.refetch() : orders.refetch())} />
		);
	return (
		<Page title={w.order} action={<ShelfNav />}>
			{may("get-order-terms") && (
				<div className="float-right">
					<Button onClick={() => setTerms(!terms)}>{w.suppliersAndSettings}</Button>
				</div>
			)}
			{terms && <OrderTerms onDone={() => setTerms(false)} />}
			{lists.data.length === 0 && <p className="text-lg">{w.nothingToOrderToday}</p>}
			{lists.data.map((l) => (
				<SupplierList key={l.supplier} list={l} />
			))}
			<h2 className="mt-8 mb-1 text-2xl">{w.ordersUnderWay}</h2>
			<Orders orders={orders.data} />
		</Page>
	);
}

/** The list of one supplier: packs editable, sent with two presses. */
function SupplierList({ list }: { list: List }) {
	const { currency = "EUR", at, now } = useSession();
	const cache = useQueryClient();
	const shelf = useQuery(shelfQuery);
	const [packs, setPacks] = useState<Record<string, string>>({});
	const [added, setAdded] = useState<Advice[]>([]);
	const [note, setNote] = useState("");
	const [neededBy, setNeededBy] = useState("");
	const [looking, setLooking] = useState<string | null>(null);
	const [asking, setAsking] = useState(false);
	const lines = [...list.lines, ...added];
	const of = (a: Advice) => packs[a.product] ?? String(a.packs);
	const wanted = lines.filter((a) => Number(of(a)) > 0);
	const sum = wanted.reduce((s, a) => s + Number(a.packPrice) * Number(of(a)), 0);
	const send = useMutation({
		mutationFn: (sent: boolean) =>
			unwrap(
				api.POST("/api/orders", {
					body: {
						supplier: list.supplier,
						note,
						neededBy,
						send: sent,
						lines: wanted.map((a) => ({ product: a.product, packs: Number(of(a)), why: a.why })),
					},
				}),
			),
		onSuccess: () => {
			for (const key of ["orders", "order-lists", "shelf"]) cache.invalidateQueries({ queryKey: [key] });
			setPacks({});
			setAdded([]);
			setAsking(false);
		},
	});
	const line = shelf.data?.find((l) => l.product.id === looking);
	return (
		<section aria-label={list.supplier || w.noSupplier} className="mb-6">
			<h2 className="m-0 text-2xl">{list.supplier || w.noSupplier}</h2>
			<div className={line ? "grid gap-6 lg:grid-cols-[minmax(0,1fr)_380px]" : ""}>
				<table className="w-full self-start border-collapse text-left">
					<thead>
						<tr className="border-b border-ink text-sm text-soft">
							<th className="py-1 font-semibold">{w.product}</th>
							<th className="font-semibold">{w.why}</th>
							<th className="w-28 font-semibold">{w.packs}</th>
							<th className="w-28 text-right font-semibold">{w.packPrice}</th>
							<th className="w-28 text-right font-semibold">{w.total}</th>
						</tr>
					</thead>
					<tbody>
						{lines.map((a) => (
							<tr key={a.product} className="border-b border-rule">
								<td className="py-1.5">
									<button
										type="button"
										className="min-h-11 text-left font-semibold underline decoration-rule underline-offset-4"
										onClick={() => setLooking(looking === a.product ? null : a.product)}
									>
										{a.name}
									</button>
								</td>
								<td className="num text-sm">
									{a.why}
									{a.reorder.mayExpire && <span className="block text-persimmon-deep">{w.mayExpire}</span>}
								</td>
								<td>
									<input
										className="field num w-20 text-right"
										inputMode="numeric"
										aria-label={w.packsOf({ name: a.name })}
										value={of(a)}
										onChange={(e) => /^\d{0,4}$/.test(e.target.value) && setPacks({ ...packs, [a.product]: e.target.value })}
									/>
								</td>
								<td className="num text-right">{money(a.packPrice, currency)}</td>
								<td className="num text-right">{money(String(Number(a.packPrice) * (Number(of(a)) || 0)), currency)}</td>
							</tr>
						))}
					</tbody>
					<tfoot>
						<tr>
							<td colSpan={4} className="py-2 text-right font-semibold">
								{w.sum}
							</td>
							<td className="num text-right font-serif text-xl font-semibold">{money(sum.toFixed(2), currency)}</td>
						</tr>
					</tfoot>
				</table>
				{line && (
					<aside className="leaf self-start p-4" aria-label={line.product.name}>
						<h3 className="m-0 text-lg">{line.product.name}</h3>
						<Ribbon line={line} today={at.day(now())} />
						<dl className="num m-0 mt-2 grid grid-cols-[auto_1fr] gap-x-4 text-sm">
							<dt className="text-soft">{w.usableAndOnOrder}</dt>
							<dd className="m-0">
								{w.usablePlus({ left: Number(line.left), onOrder: Number(line.reorder.onOrder), unit: line.product.unit })}
							</dd>
							<dt className="text-soft">{w.reorderPoint}</dt>
							<dd className="m-0">
								{Number(line.reorder.point)} {line.product.unit}
							</dd>
							<dt className="text-soft">{w.orderSize}</dt>
							<dd className="m-0">
								{Number(line.reorder.eoq)} {line.product.unit}
							</dd>
						</dl>
					</aside>
				)}
			</div>
			{Number(list.missing) > 0 && <p className="num m-0 mb-2">{w.missingToLeastValue({ sum: money(list.missing, currency) })}</p>}
			{list.also.length > 0 && (
				<p className="m-0 mb-3 text-sm">
					{w.nearestTheirPoint}{" "}
					{list.also
						.filter((a) => !added.some((x) => x.product === a.product))
						.slice(0, 4)
						.map((a) => (
							<button
								key={a.product}
								type="button"
								className="mr-3 min-h-9 underline underline-offset-4"
								onClick={() => setAdded([...added, a])}
							>
								{w.addName({ name: a.name })}
							</button>
						))}
				</p>
			)}
			<ErrorMessage error={send.error} />
			<div className="flex flex-wrap items-end justify-end gap-3">
				<div className="w-44">
					<Field label={w.neededByDay}>
						{(a) => <input {...a} type="date" className="field" value={neededBy} onChange={(e) => setNeededBy(e.target.value)} />}
					</Field>
				</div>
				<div className="w-64">
					<Field label={w.noteToSupplier}>
						{(a) => <input {...a} className="field" maxLength={500} value={note} onChange={(e) => setNote(e.target.value)} />}
					</Field>
				</div>
				<Button disabled={wanted.length === 0 || send.isPending} onClick={() => send.mutate(false)}>
					{w.keepAsDraft}
				</Button>
				{asking ? (
					<Button variant="primary" autoFocus disabled={send.isPending} onClick={() => send.mutate(true)}>
						{w.reallyOrder({ sum: money(sum.toFixed(2), currency) })}
					</Button>
				) : (
					<Button variant="primary" disabled={wanted.length === 0} onClick={() => setAsking(true)}>
						{w.orderThese({ lines: wanted.length })}
					</Button>
				)}
			</div>
		</section>
	);
}

const stateTones: Record<string, string> = { draft: "", sent: "go", "part received": "not-here", received: "go", "closed short": "" };
const stateWords: Record<string, string> = {
	draft: w.draft,
	sent: w.sent,
	"part received": w.partReceived,
	received: w.received,
	"closed short": w.closedShort,
};

function Orders({ orders }: { orders: Order[] }) {
	const { currency = "EUR", may } = useSession();
	const cache = useQueryClient();
	const stale = () => {
		for (const key of ["orders", "order-lists", "shelf"]) cache.invalidateQueries({ queryKey: [key] });
	};
	const close = useMutation({
		mutationFn: (id: string) => unwrap(api.POST("/api/orders/{id}/close", { params: { path: { id } } })),
		onSuccess: stale,
	});
	const send = useMutation({
		mutationFn: (o: Order) =>
			unwrap(
				api.PUT("/api/orders/{id}", {
					params: { path: { id: o.id }, query: { revision: o.revision } },
					body: {
						supplier: o.supplier,
						note: o.note,
						neededBy: o.neededBy,
						send: true,
						lines: o.lines.map((l) => ({ product: l.product, packs: l.packs, why: l.why })),
					},
				}),
			),
		onSuccess: stale,
	});
	const link = "inline-flex min-h-11 items-center underline underline-offset-4";
	if (orders.length === 0) return <p className="m-0">{w.noOrdersYet}</p>;
	return (
		<>
			<ErrorMessage error={close.error ?? send.error} />
			<ul className="m-0 list-none p-0">
				{orders.map((o) => (
					<li key={o.id} className="grid grid-cols-[7rem_minmax(0,1fr)_auto] items-start gap-4 border-b border-rule py-2">
						<div>
							<p className="num m-0 font-semibold">{o.number}</p>
							<Badge tone={stateTones[o.state] ?? ""}>{stateWords[o.state]}</Badge>
						</div>
						<div>
							<p className="m-0">
								<span className="font-semibold">{o.supplier || w.noSupplier}</span>{" "}
								<span className="num text-soft">
									{[
										o.orderedOn && dayWords(o.orderedOn),
										money(o.value, currency),
										o.neededBy && w.neededByShort({ day: dayWords(o.neededBy) }),
									]
										.filter(Boolean)
										.join(" · ")}
								</span>
							</p>
							<ul className="num m-0 list-none p-0 text-sm">
								{o.lines.map((l) => (
									<li key={l.product}>
										{o.state === "sent" || o.state === "part received"
											? w.lineToCome({ name: l.name, packs: l.packs, received: l.received, toCome: l.toCome })
											: w.linePacks({ name: l.name, packs: l.packs })}
									</li>
								))}
							</ul>
						</div>
						<div className="flex flex-wrap justify-end gap-x-4">
							<a className={link} href={`/api/orders/${o.id}/paper`} target="_blank" rel="noreferrer">
								{w.pdf}
							</a>
							<a className={link} href={`/api/orders/${o.id}/csv`} download>
								{w.csv}
							</a>
							{o.state === "draft" && may("change-order") && (
								<button type="button" className={link} disabled={send.isPending} onClick={() => send.mutate(o)}>
									{w.sendIt}
								</button>
							)}
							{(o.state === "sent" || o.state === "part received") && may("receive-delivery") && (
								<Link className={link} to="/shelf/receive">
									{w.receive}
								</Link>
							)}
							{["draft", "sent", "part received"].includes(o.state) && may("close-order") && (
								<button type="button" className={link} disabled={close.isPending} onClick={() => close.mutate(o.id)}>
									{o.state === "draft" ? w.giveUp : w.closeShort}
								</button>
							)}
						</div>
					</li>
				))}
			</ul>
		</>
	);
}
