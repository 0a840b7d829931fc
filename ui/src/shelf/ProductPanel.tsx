import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { amountShown, dayWords, money } from "../kit/format";
import { Badge, Button, ErrorMessage } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/shelf";
import { shortDay } from "./Bottle";
import { Learned } from "./Learned";
import { Movements } from "./Movements";
import { BlockLot, MovePack } from "./PackForms";
import { Ribbon } from "./Ribbon";
import { EditContents } from "./ShelfForms";
import { Supply } from "./Supply";

type Line = Schemas["ShelfLineView"];
type Pack = Schemas["PackView"];

const tabs = ["packs", "history", "learned", "supply"] as const;

/** One product beside the shelf: the weeks ahead, its packs, its history, what records teach, how it is bought. */
export function ProductPanel({
	line: l,
	today,
	currency,
	pack,
	tags,
	onClose,
}: {
	line: Line;
	today: string;
	currency: string;
	pack: string | null;
	tags: Schemas["Tag"][];
	onClose: () => void;
}) {
	const { may } = useSession();
	const [tab, setTab] = useState<(typeof tabs)[number]>("packs");
	const [making, setMaking] = useState(false);
	const names: Record<(typeof tabs)[number], string> = { packs: w.packs, history: w.history, learned: w.learned, supply: w.details };
	const shown = tabs.filter((t) => (t === "history" ? may("list-movements") : t === "learned" ? may("get-learned") : true));
	const named = Object.fromEntries(tags.map((t) => [t.tag, t.name.toLowerCase()]));
	return (
		<aside aria-label={l.product.name} className="leaf self-start p-4 lg:sticky lg:top-2 lg:max-h-[calc(100vh-1rem)] lg:overflow-auto">
			<div className="flex items-start justify-between gap-2">
				<h2 className="m-0 text-xl">{l.product.name}</h2>
				<button type="button" className="min-h-11 px-2 underline underline-offset-4" onClick={onClose}>
					{w.close}
				</button>
			</div>
			<p className="m-0 text-sm text-soft">
				{[l.product.form.replace(/-/g, " "), ...l.product.carries.map((t) => named[t]).filter(Boolean)].join(", ")}
			</p>
			<p className="num m-0 mt-1">
				<span className="font-serif text-2xl font-semibold">
					{amountShown(l.left)} {l.product.unit}
				</span>{" "}
				{l.treatments >= 0 && <span>{w.treatmentsOpenAndAll({ open: Math.max(0, l.treatmentsOpen), all: l.treatments })}</span>}
			</p>
			<p className="num m-0 text-sm text-soft">
				{[
					w.worth({ value: money(l.value, currency) }),
					Number(l.retail) > 0 ? w.onTheRetailSide({ amount: Number(l.retail), unit: l.product.unit }) : "",
				]
					.filter(Boolean)
					.join(" · ")}
			</p>
			{l.reorder.order && (
				<p className="m-0 mt-1 font-semibold text-persimmon-deep">
					{w.orderPacks({ packs: l.reorder.packs, delivery: shortDay(l.reorder.delivery) })}
				</p>
			)}
			{Number(l.demand) > 0 || l.unused.length > 0 ? (
				<Ribbon line={l} today={today} />
			) : (
				<p className="text-sm">{w.nothingBookedTakesIt}</p>
			)}
			<div role="tablist" aria-label={l.product.name} className="mt-2 flex gap-4 border-b border-rule">
				{shown.map((t) => (
					<button
						key={t}
						type="button"
						role="tab"
						aria-selected={tab === t}
						className="min-h-11 border-b-2 border-transparent font-semibold aria-selected:border-ink"
						onClick={() => setTab(t)}
					>
						{names[t]}
					</button>
				))}
			</div>
			<div role="tabpanel" aria-label={names[tab]} className="pt-3">
				{tab === "packs" && <Packs line={l} today={today} first={pack} />}
				{tab === "history" && <Movements product={l.product.id} unit={l.product.unit} currency={currency} />}
				{tab === "learned" && <Learned line={l} currency={currency} />}
				{tab === "supply" && (
					<>
						<p className="m-0 text-sm">{l.product.ingredients.join(", ") || w.noIngredientsYet}</p>
						{may("save-contents") && (
							<Button className="my-2" onClick={() => setMaking(true)}>
								{l.product.ingredients.length > 0 ? w.ingredients : w.addIngredients}
							</Button>
						)}
						<Supply line={l} currency={currency} />
					</>
				)}
			</div>
			{making && <EditContents product={l.product} known={tags} onDone={() => setMaking(false)} />}
		</aside>
	);
}

/** The packs of a product, the next to be used first. */
function Packs({ line: l, today, first }: { line: Line; today: string; first: string | null }) {
	const [doing, setDoing] = useState<{ pack: Pack; act: "move" | "block" } | null>(null);
	const packs = first ? [...l.packs].sort((a, b) => Number(b.id === first) - Number(a.id === first)) : l.packs;
	if (packs.length === 0) return <p className="m-0">{w.noneInStock}</p>;
	return (
		<ul className="m-0 list-none p-0">
			{packs.map((p) => (
				<li key={p.id} className={`border-b border-dotted border-rule py-2 ${p.id === first ? "bg-paper" : ""}`}>
					<PackLine pack={p} line={l} today={today} onDo={(act) => setDoing({ pack: p, act })} />
					{doing?.pack.id === p.id && doing.act === "move" && <MovePack line={l} pack={p} onDone={() => setDoing(null)} />}
					{doing?.pack.id === p.id && doing.act === "block" && <BlockLot pack={p} onDone={() => setDoing(null)} />}
				</li>
			))}
		</ul>
	);
}

function PackLine({ pack: p, line: l, today, onDo }: { pack: Pack; line: Line; today: string; onDo: (act: "move" | "block") => void }) {
	const { may } = useSession();
	const cache = useQueryClient();
	const stale = () => cache.invalidateQueries({ queryKey: ["shelf"] });
	const path = { params: { path: { id: p.id } } };
	const open = useMutation({ mutationFn: () => unwrap(api.POST("/api/packs/{id}/open", path)), onSuccess: stale });
	const side = useMutation({
		mutationFn: (to: "cabin" | "retail") => unwrap(api.PUT("/api/packs/{id}/side", { ...path, body: { side: to } })),
		onSuccess: stale,
	});
	const release = useMutation({
		mutationFn: () => unwrap(api.PUT("/api/lots/{id}/block", { params: { path: { id: p.lotId } }, body: { why: "" } })),
		onSuccess: stale,
	});
	const act = "min-h-9 underline underline-offset-4";
	return (
		<>
			<div className="flex flex-wrap items-baseline justify-between gap-x-3">
				<span>
					<span className="font-semibold">{p.lot}</span>{" "}
					{l.packs.filter((q) => q.lot === p.lot).length > 1 && w.packNumber({ number: p.number })}{" "}
					{p.side === "retail" && <Badge tone="">{w.retail}</Badge>}
					{p.side === "tester" && <Badge tone="">{w.tester}</Badge>}
					{p.recalled && <Badge tone="urgent">{w.recalled}</Badge>}
					{!p.recalled && p.blocked && <Badge tone="not-here">{w.blockedWord}</Badge>}
				</span>
				<span className="num">
					{amountShown(p.left)} / {Number(p.size)} {l.product.unit}
				</span>
			</div>
			<p className={`m-0 text-sm ${p.goodUntil && p.goodUntil < today ? "font-semibold text-persimmon-deep" : "text-soft"}`}>
				{[
					p.goodUntil ? w.goodUntilDay({ day: dayWords(p.goodUntil) }) : w.noLastDay,
					p.opened ? w.openedOn({ day: shortDay(p.opened) }) : w.sealed,
					p.blocked,
				]
					.filter(Boolean)
					.join(" · ")}
			</p>
			<div className="flex flex-wrap gap-x-4 text-sm">
				{may("open-pack") && !p.opened && p.side === "cabin" && (
					<button type="button" className={act} onClick={() => open.mutate()} disabled={open.isPending}>
						{w.openToday}
					</button>
				)}
				{may("print-sticker") && p.opened && Number(p.left) > 0 && (
					<a
						className="inline-flex min-h-9 items-center underline underline-offset-4"
						href={`/api/packs/${p.id}/sticker`}
						target="_blank"
						rel="noreferrer"
					>
						{w.sticker}
					</a>
				)}
				{may("change-side") && !p.opened && !p.batch && p.side !== "tester" && (
					<button
						type="button"
						className={act}
						onClick={() => side.mutate(p.side === "cabin" ? "retail" : "cabin")}
						disabled={side.isPending}
					>
						{p.side === "cabin" ? w.toRetail : w.toTreatments}
					</button>
				)}
				{may("move-pack") && p.side !== "tester" && (
					<button type="button" className={act} onClick={() => onDo("move")}>
						{w.wasteSellMore}
					</button>
				)}
				{may("block-lot") &&
					!p.recalled &&
					(p.blocked ? (
						<button type="button" className={act} onClick={() => release.mutate()} disabled={release.isPending}>
							{w.letItBeUsed}
						</button>
					) : (
						<button type="button" className={act} onClick={() => onDo("block")}>
							{w.block}
						</button>
					))}
			</div>
			<ErrorMessage error={open.error ?? side.error ?? release.error} />
		</>
	);
}
