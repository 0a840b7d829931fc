import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../api/client";
import { ordersQuery, shelfQuery } from "../api/queries";
import { asDecimal, decimal } from "../kit/faults";
import { newId } from "../kit/format";
import { Button, ErrorMessage, Field, Loading, Page } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/shelf";
import { ShelfNav } from "./ShelfNav";

type Line = {
	id: string;
	product: string;
	number: string;
	expiry: string;
	monthsOpen: string;
	packs: string;
	packSize: string;
	cost: string;
	side: "cabin" | "retail";
	over: boolean;
	short: boolean;
	/** Scanned, or typed and looked at. */
	checked: boolean;
	/** What the order said a pack costs; a difference is shown. */
	ordered?: string;
};

const numbers = (l: Line) =>
	decimal.test(l.packSize.trim()) && /^\d+$/.test(l.packs.trim()) && (l.cost === "" || decimal.test(l.cost.trim()));

/** A delivery: scan after scan, or line by line, against its order where there is one. All of it is received or nothing. */
export function ReceivePage() {
	const shelf = useQuery(shelfQuery);
	const orders = useQuery(ordersQuery);
	if (!shelf.data || !orders.data)
		return <Loading of={w.theShelf} error={shelf.error ?? orders.error} retry={() => (shelf.error ? shelf.refetch() : orders.refetch())} />;
	return <Receive shelf={shelf.data} orders={orders.data.filter((o) => o.state === "sent" || o.state === "part received")} />;
}

function Receive({ shelf, orders }: { shelf: Schemas["ShelfLineView"][]; orders: Schemas["PurchaseOrder"][] }) {
	const { currency } = useSession();
	const cache = useQueryClient();
	const [order, setOrder] = useState<Schemas["PurchaseOrder"] | null>(null);
	const [lines, setLines] = useState<Line[]>([]);
	const [freight, setFreight] = useState("");
	const [tax, setTax] = useState("");
	const [code, setCode] = useState("");
	const [done, setDone] = useState(false);
	const box = useRef<HTMLInputElement>(null);
	useEffect(() => box.current?.focus(), []); // the scanner types where the page begins
	const product = (id: string) => shelf.find((l) => l.product.id === id);
	const lineFor = (id: string, more: Partial<Line>): Line => {
		const l = product(id);
		return {
			id: newId(),
			product: id,
			number: "",
			expiry: "",
			monthsOpen: String(l?.monthsOpen || 6),
			packs: "1",
			packSize: String(Number(l?.packSize ?? 0)),
			cost: String(Number(l?.price ?? 0)),
			side: l?.use === "retail" ? "retail" : "cabin",
			over: false,
			short: false,
			checked: false,
			...more,
		};
	};
	const take = (o: Schemas["PurchaseOrder"] | null) => {
		setOrder(o);
		setDone(false);
		setLines(
			(o?.lines ?? [])
				.filter((l) => l.toCome > 0)
				.map((l) =>
					lineFor(l.product, {
						packs: String(l.toCome),
						packSize: String(Number(l.packSize)),
						cost: (Number(l.packPrice) * l.toCome).toFixed(2),
						ordered: l.packPrice,
					}),
				),
		);
		box.current?.focus();
	};
	const scan = useMutation({
		mutationFn: (text: string) => unwrap(api.GET("/api/scan", { params: { query: { code: text } } })),
		onSuccess: (f) => {
			setCode("");
			box.current?.focus();
			if (!f.product) return;
			const id = f.product;
			const same = lines.find((l) => l.product === id && l.number === f.lot && f.lot !== "");
			const waiting = lines.find((l) => l.product === id && l.number === "");
			if (same) change(same.id, { packs: String(Number(same.packs) + (same.checked && !order ? 1 : 0)), checked: true });
			else if (waiting) change(waiting.id, { number: f.lot, expiry: f.expiry, checked: f.lot !== "" });
			else setLines([...lines, lineFor(id, { number: f.lot, expiry: f.expiry, checked: f.lot !== "" })]);
		},
	});
	const change = (id: string, to: Partial<Line>) => setLines((was) => was.map((l) => (l.id === id ? { ...l, ...to } : l)));
	const coming = lines.filter((l) => Number(l.packs) > 0 && l.number.trim() !== "");
	const receive = useMutation({
		mutationFn: () =>
			unwrap(
				api.POST("/api/deliveries", {
					body: {
						...(order ? { order: order.id } : {}),
						freight: asDecimal(freight) || "0",
						tax: asDecimal(tax) || "0",
						lines: coming.map((l) => ({
							product: l.product,
							number: l.number,
							expiry: l.expiry,
							monthsOpen: Number(l.monthsOpen) || 0,
							packs: Number(l.packs),
							packSize: asDecimal(l.packSize),
							cost: asDecimal(l.cost) || "0",
							side: l.side,
							over: l.over,
							short: l.short,
						})),
					},
				}),
			),
		onSuccess: () => {
			for (const key of ["shelf", "orders", "order-lists"]) cache.invalidateQueries({ queryKey: [key] });
			setLines([]);
			setOrder(null);
			setFreight("");
			setDone(true);
			box.current?.focus();
		},
	});
	const fault = (l: Line, field: string) => {
		const i = coming.indexOf(l);
		return receive.error instanceof ProblemError && i >= 0 ? receive.error.at(`/lines/${i}/${field}`) : undefined;
	};
	const placed = receive.error instanceof ProblemError && (receive.error.problem.errors ?? []).some((e) => e.path.startsWith("/lines/"));
	return (
		<Page title={w.receiveDelivery} action={<ShelfNav />}>
			<div className="mb-3 flex flex-wrap items-end gap-4">
				<form
					className="w-full max-w-md"
					onSubmit={(e) => {
						e.preventDefault();
						if (code.trim()) scan.mutate(code.trim());
					}}
				>
					<Field label={w.scanThePacks} fault={scan.error instanceof ProblemError ? scan.error.at("/code") : undefined}>
						{(a) => (
							<input {...a} ref={box} className="field" value={code} placeholder={w.scanHint} onChange={(e) => setCode(e.target.value)} />
						)}
					</Field>
				</form>
				<Field label={w.forOrder}>
					{(a) => (
						<select
							{...a}
							className="field"
							value={order?.id ?? ""}
							onChange={(e) => take(orders.find((o) => o.id === e.target.value) ?? null)}
						>
							<option value="">{w.withoutAnOrder}</option>
							{orders.map((o) => (
								<option key={o.id} value={o.id}>
									{w.orderOption({ number: o.number, supplier: o.supplier || w.noSupplier })}
								</option>
							))}
						</select>
					)}
				</Field>
				<Field label={w.addByHand}>
					{(a) => (
						<select {...a} className="field" value="" onChange={(e) => e.target.value && setLines([...lines, lineFor(e.target.value, {})])}>
							<option value="">{w.chooseAProduct}</option>
							{[...shelf]
								.sort((p, q) => p.product.name.localeCompare(q.product.name))
								.map((l) => (
									<option key={l.product.id} value={l.product.id}>
										{l.product.name}
									</option>
								))}
						</select>
					)}
				</Field>
			</div>
			{scan.data && !scan.data.product && (
				<p role="alert" className="font-semibold">
					{w.noProductHasThisCode({ code: scan.data.gtin || scan.data.lot })}
				</p>
			)}
			{done && (
				<p role="status" className="border-l-4 border-kelp bg-kelp-pale px-4 py-3 font-semibold">
					{w.deliveryIsOnTheShelf}
				</p>
			)}
			{lines.length === 0 && !done && <p className="max-w-2xl">{w.receiveExplained}</p>}
			{lines.length > 0 && (
				<>
					<ul className="m-0 list-none p-0">
						{lines.map((l) => (
							<LineFields
								key={l.id}
								line={l}
								of={product(l.product)}
								fault={(f) => fault(l, f)}
								onChange={(to) => change(l.id, to)}
								onDrop={() => setLines(lines.filter((x) => x.id !== l.id))}
							/>
						))}
					</ul>
					<ErrorMessage error={placed ? null : receive.error} />
					<div className="mt-4 flex flex-wrap items-end justify-end gap-4">
						<div className="w-36">
							<Field label={w.freight({ currency: currency ?? "EUR" })} hint={w.dividedByValue}>
								{(a) => (
									<input {...a} className="field num" inputMode="decimal" value={freight} onChange={(e) => setFreight(e.target.value)} />
								)}
							</Field>
						</div>
						<div className="w-44">
							<Field label={w.taxOnTheInvoice({ currency: currency ?? "EUR" })} hint={w.ifItIsPaidBack}>
								{(a) => <input {...a} className="field num" inputMode="decimal" value={tax} onChange={(e) => setTax(e.target.value)} />}
							</Field>
						</div>
						<Button
							variant="primary"
							disabled={coming.length === 0 || !coming.every(numbers) || receive.isPending}
							onClick={() => receive.mutate()}
						>
							{coming.length > 0 ? w.receiveLines({ lines: coming.length }) : w.receive}
						</Button>
					</div>
				</>
			)}
		</Page>
	);
}

function LineFields({
	line: l,
	of,
	fault,
	onChange,
	onDrop,
}: {
	line: Line;
	of: Schemas["ShelfLineView"] | undefined;
	fault: (field: string) => string | undefined;
	onChange: (to: Partial<Line>) => void;
	onDrop: () => void;
}) {
	const input = (field: "number" | "expiry" | "packs" | "packSize" | "cost" | "monthsOpen", label: string, more: object = {}) => (
		<Field label={label} fault={fault(field)}>
			{(a) => <input {...a} className="field num" value={l[field]} onChange={(e) => onChange({ [field]: e.target.value })} {...more} />}
		</Field>
	);
	const packs = Number(l.packs) || 0;
	const each = packs > 0 && decimal.test(l.cost) ? Number(asDecimal(l.cost)) / packs : undefined;
	const changed = l.ordered !== undefined && each !== undefined && Math.abs(each - Number(l.ordered)) >= 0.005;
	return (
		<li className="border-b border-rule py-3">
			<div className="flex items-baseline justify-between">
				<span className="font-serif text-lg font-semibold">
					{of?.product.name} {l.checked && <span className="text-base font-normal text-kelp">{w.scanned}</span>}
				</span>
				<button type="button" className="min-h-9 text-sm underline underline-offset-4" onClick={onDrop}>
					{w.leaveOut}
				</button>
			</div>
			<div className="grid grid-cols-[1.4fr_1.2fr_0.7fr_1fr_1fr_1fr_1fr] items-start gap-3">
				{input("number", w.lotNumber, { maxLength: 60 })}
				{input("expiry", w.useBy, { placeholder: w.useByHint })}
				{input("packs", w.packs, { inputMode: "numeric" })}
				{input("packSize", w.packInUnit({ unit: of?.product.unit ?? "" }), { inputMode: "decimal" })}
				{input("cost", w.costOfAll, { inputMode: "decimal" })}
				{input("monthsOpen", w.monthsOpen, { inputMode: "numeric" })}
				<Field label={w.side}>
					{(a) => (
						<select {...a} className="field" value={l.side} onChange={(e) => onChange({ side: e.target.value as "cabin" })}>
							<option value="cabin">{w.forTreatments2}</option>
							<option value="retail">{w.forSale}</option>
						</select>
					)}
				</Field>
			</div>
			{changed && <p className="m-0 text-sm">{w.priceChanged({ ordered: Number(l.ordered).toFixed(2), now: each.toFixed(2) })}</p>}
			{(fault("packs") || l.over) && (
				<label className="flex min-h-11 items-center gap-2">
					<input
						type="checkbox"
						className="size-5 accent-persimmon"
						checked={l.over}
						onChange={(e) => onChange({ over: e.target.checked })}
					/>
					{w.keepTheExtra}
				</label>
			)}
			{(fault("expiry") || l.short) && (
				<label className="flex min-h-11 items-center gap-2">
					<input
						type="checkbox"
						className="size-5 accent-persimmon"
						checked={l.short}
						onChange={(e) => onChange({ short: e.target.checked })}
					/>
					{w.keepItAnyway}
				</label>
			)}
		</li>
	);
}
