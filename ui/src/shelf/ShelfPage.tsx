import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../api/client";
import { libraryQuery, shelfQuery } from "../api/queries";
import { dayWords, money } from "../kit/format";
import { Badge, Button, Loading, Page } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/shelf";
import { Correct, Receive } from "./LotForms";
import { AddProduct, AddTool, EditContents } from "./ShelfForms";

type Line = Schemas["ShelfLineView"];
/** What the booked diary does to a product in the weeks ahead. */
function outlook(l: Line): string {
	if (l.runOut) return w.runsOut({ day: dayWords(l.runOut), short: Number(l.short), unit: l.product.unit });
	return Number(l.demand) > 0 ? w.lastsForTheDiary({ demand: Number(l.demand), unit: l.product.unit, weeks: l.days / 7 }) : "";
}

type Doing = { line: Line; lot?: Schemas["LotView"] };

/** What is on the shelf: how much is left, for how many treatments, in which lots. */
export function ShelfPage() {
	const shelf = useQuery(shelfQuery);
	const library = useQuery(libraryQuery);
	const tagName: Record<string, string> = Object.fromEntries((library.data?.tags ?? []).map((t) => [t.tag, t.name]));
	const { currency, may } = useSession();
	const edits = may("receive-lot");
	const [doing, setDoing] = useState<Doing | null>(null);
	const [made, setMade] = useState<Schemas["ProductView"] | null>(null);
	const [adding, setAdding] = useState<"product" | "tool" | null>(null);
	if (!shelf.data) return <Loading of={w.theShelf} error={shelf.error} retry={() => shelf.refetch()} />;
	return (
		<Page
			title={w.shelf}
			action={
				edits && (
					<span className="flex gap-3">
						<Button onClick={() => setAdding("tool")}>{w.addTool}</Button>
						<Button onClick={() => setAdding("product")}>{w.addProduct}</Button>
					</span>
				)
			}
		>
			{adding === "product" && <AddProduct currency={currency ?? "EUR"} onDone={() => setAdding(null)} />}
			{made && library.data && <EditContents product={made} known={library.data.tags} onDone={() => setMade(null)} />}
			{adding === "tool" && <AddTool onDone={() => setAdding(null)} />}
			{shelf.data.length === 0 && <p className="text-lg">{w.shelfEmptyAddFirstProductIts}</p>}
			<div className={doing ? "grid gap-8 lg:grid-cols-[minmax(0,1fr)_340px]" : ""}>
				<ul className="m-0 list-none p-0">
					{shelf.data.map((l) => {
						const part = Math.min(1, Number(l.left) / Number(l.packSize));
						return (
							<li
								key={l.product.id}
								className="grid grid-cols-[28px_minmax(0,1.1fr)_150px_minmax(0,1.6fr)_auto] gap-5 border-b border-rule py-3"
							>
								<svg viewBox="0 0 24 52" width={24} height={52} role="img" aria-label={w.partOfAPack({ part: Math.round(part * 100) })}>
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
									{l.order && <Badge tone="not-here">{w.reorder}</Badge>}
									<p className="m-0 text-sm">
										<span className="line-clamp-2">{l.product.ingredients.join(", ")}</span>
										{edits && (
											<button
												type="button"
												className="min-h-8 underline underline-offset-4"
												onClick={() => setMade(l.product)}
												aria-label={w.ingredientsOfName({ name: l.product.name })}
											>
												{l.product.ingredients.length > 0 ? w.ingredients : w.addIngredients}
											</button>
										)}
									</p>
								</div>
								<div className="num">
									<p className="m-0 font-serif text-2xl leading-tight font-semibold">
										{Number(l.left)} {l.product.unit}
									</p>
									<p className="m-0 text-sm">
										{l.treatments >= 0 ? w.treatmentsTreatmentsLeft({ treatments: l.treatments }) : w.notInAnyProtocol}
									</p>
									<p className={`m-0 text-sm ${l.runOut ? "font-semibold text-persimmon-deep" : ""}`}>{outlook(l)}</p>
									{l.unused.map((u) => (
										<p key={u.lot + u.pack} className="m-0 text-sm text-persimmon-deep">
											{w.expiresUnused({ amount: Number(u.amount), unit: l.product.unit, lot: u.lot, day: dayWords(u.goodUntil) })}
										</p>
									))}
									{Number(l.blocked) > 0 && (
										<p className="m-0 text-sm text-persimmon-deep">
											{w.blockedUnitPastItsDay({ blocked: Number(l.blocked), unit: l.product.unit })}
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
													<span className="font-semibold">{lot.number}</span>{" "}
													{w.leftUnitUseByGoodUntilUnitCost({
														left: Number(lot.left),
														unit: l.product.unit,
														goodUntil: dayWords(lot.goodUntil),
														unitCost: money(String(Number(lot.unitCost) * 100), currency ?? "EUR"),
														opened: lot.opened ? w.opened : "",
														usable: lot.usable ? "" : w.blocked,
													})}
												</span>
												{edits && (
													<button
														type="button"
														className="min-h-8 px-2 underline underline-offset-4"
														onClick={() => setDoing({ line: l, lot })}
														aria-label={w.correctLotNumber({ number: lot.number })}
													>
														{w.correct}
													</button>
												)}
											</li>
										))}
									{l.lots.every((lot) => Number(lot.left) === 0) && <li>{w.noneInStock}</li>}
								</ul>
								{edits && (
									<Button
										className="self-center"
										onClick={() => setDoing({ line: l })}
										aria-label={w.receiveALotOfName({ name: l.product.name })}
									>
										{w.receiveDelivery}
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
