import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../api/client";
import { libraryQuery, shelfQuery } from "../api/queries";
import { dayWords, money } from "../kit/format";
import { Badge, Button, ErrorMessage, Field, Loading, Page } from "../kit/kit";
import { useSession } from "../kit/session";
import { AddProduct, AddTool, EditContents } from "./ShelfForms";

type Line = Schemas["ShelfLineView"];
type Doing = { line: Line; lot?: Schemas["LotView"] };

/** What is on the shelf: how much is left, for how many treatments, in which lots. */
export function ShelfPage() {
	const shelf = useQuery(shelfQuery);
	const library = useQuery(libraryQuery);
	const tagName: Record<string, string> = Object.fromEntries((library.data?.tags ?? []).map((t) => [t.tag, t.name]));
	const { currency, treats } = useSession();
	const [doing, setDoing] = useState<Doing | null>(null);
	const [made, setMade] = useState<Schemas["ProductView"] | null>(null);
	const [adding, setAdding] = useState<"product" | "tool" | null>(null);
	if (!shelf.data) return <Loading of="the shelf" error={shelf.error} retry={() => shelf.refetch()} />;
	return (
		<Page
			title="Shelf"
			action={
				treats && (
					<span className="flex gap-3">
						<Button onClick={() => setAdding("tool")}>Add tool</Button>
						<Button onClick={() => setAdding("product")}>Add product</Button>
					</span>
				)
			}
		>
			{adding === "product" && <AddProduct currency={currency ?? "EUR"} onDone={() => setAdding(null)} />}
			{made && library.data && <EditContents product={made} known={library.data.tags} onDone={() => setMade(null)} />}
			{adding === "tool" && <AddTool onDone={() => setAdding(null)} />}
			{shelf.data.length === 0 && (
				<p className="text-lg">The shelf is empty. Add the first product: its name, form and usual amount are enough to begin.</p>
			)}
			<div className={doing ? "grid gap-8 lg:grid-cols-[minmax(0,1fr)_340px]" : ""}>
				<ul className="m-0 list-none p-0">
					{shelf.data.map((l) => {
						const part = Math.min(1, Number(l.left) / Number(l.packSize));
						return (
							<li
								key={l.product.id}
								className="grid grid-cols-[28px_minmax(0,1.1fr)_150px_minmax(0,1.6fr)_auto] gap-5 border-b border-rule py-3"
							>
								<svg viewBox="0 0 24 52" width={24} height={52} role="img" aria-label={`${Math.round(part * 100)} % of a pack`}>
									<path
										d="M8 1H16V9C20 11 22 14 22 18V47C22 50 20 51 18 51H6C4 51 2 50 2 47V18C2 14 4 11 8 9Z"
										fill="#fbf6ec"
										stroke="#36182f"
										strokeWidth={1.4}
									/>
									<rect x={3.2} width={17.6} y={50 - 36 * part} height={36 * part} fill={l.order ? "#c8411b" : "#3d5a3b"} opacity={0.85} />
								</svg>
								<div className="min-w-0">
									<p className="m-0 font-serif text-lg font-semibold">{l.product.name}</p>
									<p className="m-0 text-sm text-soft">
										{[
											l.product.form.replace(/-/g, " "),
											...l.product.carries.filter((t) => tagName[t]).map((t) => tagName[t]?.toLowerCase()),
										].join(", ")}
									</p>
									{l.order && <Badge tone="not-here">reorder</Badge>}
									<p className="m-0 text-sm">
										<span className="line-clamp-2">{l.product.ingredients.join(", ")}</span>
										{treats && (
											<button
												type="button"
												className="min-h-8 underline underline-offset-4"
												onClick={() => setMade(l.product)}
												aria-label={`Ingredients of ${l.product.name}`}
											>
												{l.product.ingredients.length > 0 ? "Ingredients" : "Add ingredients"}
											</button>
										)}
									</p>
								</div>
								<div className="num">
									<p className="m-0 font-serif text-2xl leading-tight font-semibold">
										{Number(l.left)} {l.product.unit}
									</p>
									<p className="m-0 text-sm">{l.treatments >= 0 ? `${l.treatments} treatments left` : "not in any protocol"}</p>
									{Number(l.blocked) > 0 && (
										<p className="m-0 text-sm text-persimmon-deep">
											{Number(l.blocked)} {l.product.unit} past its day
										</p>
									)}
								</div>
								<ul className="num m-0 list-none p-0 text-sm">
									{l.lots
										.filter((lot) => Number(lot.left) !== 0)
										.map((lot) => (
											<li
												key={lot.id}
												className={`flex items-center justify-between gap-2 border-b border-dotted border-rule ${lot.usable ? "" : "text-persimmon-deep"}`}
											>
												<span>
													<span className="font-semibold">{lot.number}</span> {Number(lot.left)} {l.product.unit}, use by{" "}
													{dayWords(lot.goodUntil)}, {money(String(Number(lot.unitCost) * 100), currency ?? "EUR")} per 100 {l.product.unit}
													{lot.opened ? ", open" : ""}
													{lot.usable ? "" : ", blocked"}
												</span>
												{treats && (
													<button
														type="button"
														className="min-h-8 px-2 underline underline-offset-4"
														onClick={() => setDoing({ line: l, lot })}
														aria-label={`Correct lot ${lot.number}`}
													>
														Correct
													</button>
												)}
											</li>
										))}
									{l.lots.every((lot) => Number(lot.left) === 0) && <li>none in stock</li>}
								</ul>
								{treats && (
									<Button className="self-center" onClick={() => setDoing({ line: l })} aria-label={`Receive a lot of ${l.product.name}`}>
										Receive delivery
									</Button>
								)}
							</li>
						);
					})}
				</ul>
				{doing && (
					<aside className="leaf self-start p-5 lg:sticky lg:top-2">
						{doing.lot ? (
							<Correct key={doing.lot.id} line={doing.line} lot={doing.lot} onDone={() => setDoing(null)} />
						) : (
							<Receive key={doing.line.product.id} line={doing.line} onDone={() => setDoing(null)} />
						)}
					</aside>
				)}
			</div>
		</Page>
	);
}

function Receive({ line, onDone }: { line: Line; onDone: () => void }) {
	const [f, setF] = useState({ number: "", expiry: "", monthsOpen: "6", amount: String(Number(line.packSize)), cost: "" });
	const cache = useQueryClient();
	const send = useMutation({
		mutationFn: () =>
			unwrap(
				api.POST("/api/lots", {
					body: {
						product: line.product.id,
						...f,
						monthsOpen: Number(f.monthsOpen) || 0,
						amount: f.amount.replace(",", "."),
						cost: f.cost.replace(",", ".") || "0",
					},
				}),
			),
		onSuccess: () => {
			cache.invalidateQueries({ queryKey: ["shelf"] });
			onDone();
		},
	});
	const fault = (p: string) => (send.error instanceof ProblemError ? send.error.at(p) : undefined);
	const text = (key: keyof typeof f, label: string, rest: object = {}) => (
		<Field label={label} fault={fault(`/${key}`)}>
			{(a) => <input {...a} {...rest} className="field" required value={f[key]} onChange={(e) => setF({ ...f, [key]: e.target.value })} />}
		</Field>
	);
	return (
		<form
			className="grid gap-3"
			onSubmit={(e: FormEvent) => {
				e.preventDefault();
				send.mutate();
			}}
		>
			<h2 className="m-0 text-xl">Receive {line.product.name}</h2>
			{text("number", "Lot number", { maxLength: 60 })}
			{text("expiry", "Use by", { type: "date" })}
			{text("monthsOpen", "Months after opening", { inputMode: "numeric" })}
			{text("amount", `Amount in ${line.product.unit}`, { inputMode: "decimal" })}
			{text("cost", "Total cost of this lot", { inputMode: "decimal" })}
			<ErrorMessage error={send.error} />
			<div className="flex gap-3">
				<Button variant="primary" type="submit" disabled={send.isPending}>
					Add to stock
				</Button>
				<Button variant="quiet" onClick={onDone}>
					Cancel
				</Button>
			</div>
		</form>
	);
}

const reasons = {
	waste: { kind: "waste", sign: "-", says: "Wasted or spilled" },
	dispose: { kind: "dispose", sign: "-", says: "Discarded" },
	tester: { kind: "tester", sign: "-", says: "Used as a tester" },
	retail: { kind: "retail", sign: "-", says: "Sold" },
	less: { kind: "stocktake", sign: "-", says: "Stocktake: less than recorded" },
	more: { kind: "stocktake", sign: "", says: "Stocktake: more than recorded" },
	return: { kind: "return", sign: "", says: "Returned by a client" },
} as const;

function Correct({ line, lot, onDone }: { line: Line; lot: Schemas["LotView"]; onDone: () => void }) {
	const [reason, setReason] = useState<keyof typeof reasons>(lot.usable ? "waste" : "dispose");
	const [amount, setAmount] = useState(lot.usable ? "" : String(Number(lot.left)));
	const [note, setNote] = useState("");
	const cache = useQueryClient();
	const send = useMutation({
		mutationFn: () =>
			unwrap(
				api.POST("/api/lots/{id}/movements", {
					params: { path: { id: lot.id } },
					body: { kind: reasons[reason].kind, amount: `${reasons[reason].sign}${amount.replace(",", ".")}`, note },
				}),
			),
		onSuccess: () => {
			cache.invalidateQueries({ queryKey: ["shelf"] });
			onDone();
		},
	});
	return (
		<form
			className="grid gap-3"
			onSubmit={(e: FormEvent) => {
				e.preventDefault();
				send.mutate();
			}}
		>
			<h2 className="m-0 text-xl">
				{line.product.name}, lot {lot.number}
			</h2>
			<p className="m-0 text-sm text-soft">This adds a stock correction. Earlier entries stay as they are.</p>
			<Field label="Why">
				{(a) => (
					<select {...a} className="field" value={reason} onChange={(e) => setReason(e.target.value as typeof reason)}>
						{Object.entries(reasons).map(([k, r]) => (
							<option key={k} value={k}>
								{r.says}
							</option>
						))}
					</select>
				)}
			</Field>
			<Field label={`Amount in ${line.product.unit}`} fault={send.error instanceof ProblemError ? send.error.at("/amount") : undefined}>
				{(a) => (
					<input
						{...a}
						className="field num"
						required
						inputMode="decimal"
						pattern="\d+([.,]\d+)?"
						value={amount}
						onChange={(e) => setAmount(e.target.value)}
					/>
				)}
			</Field>
			<Field label="Note">
				{(a) => <input {...a} className="field" maxLength={300} value={note} onChange={(e) => setNote(e.target.value)} />}
			</Field>
			<ErrorMessage error={send.error} />
			<div className="flex gap-3">
				<Button variant="primary" type="submit" disabled={send.isPending}>
					Save correction
				</Button>
				<Button variant="quiet" onClick={onDone}>
					Cancel
				</Button>
			</div>
		</form>
	);
}
