import { useMutation, useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { libraryQuery, shelfQuery } from "../api/queries";
import { Button, ErrorMessage, Loading, Page } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/shelf";
import { Bottle } from "./Bottle";
import { ProductPanel } from "./ProductPanel";
import { AddProduct } from "./ShelfForms";
import { ShelfNav } from "./ShelfNav";

type Line = Schemas["ShelfLineView"];

/** What a search looks in: name, form, tags, ingredients, lots. */
const textOf = (l: Line) =>
	[l.product.name, l.product.form, ...l.product.carries, ...l.product.ingredients, ...l.packs.map((p) => p.lot), l.supplier, l.place]
		.join(" ")
		.toLowerCase();

/** A code as scanners send it, or a barcode number that was typed. */
const isCode = (s: string) => /^(\(\d\d\)|\]|palm:)/.test(s) || /^\d{8}$|^\d{12,}/.test(s);

/** The shelf as a shelf: what runs out soonest stands first; a bottle opens beside it. */
export function ShelfPage() {
	const shelf = useQuery(shelfQuery);
	const library = useQuery(libraryQuery);
	const { at, now, may, currency } = useSession();
	const today = at.day(now());
	const [search, setSearch] = useState("");
	const [chosen, setChosen] = useState<string | null>(null);
	const [pack, setPack] = useState<string | null>(null);
	const [adding, setAdding] = useState(false);
	const box = useRef<HTMLInputElement>(null);
	const texts = useMemo(() => new Map((shelf.data ?? []).map((l) => [l.product.id, textOf(l)])), [shelf.data]);
	const scan = useMutation({
		mutationFn: (code: string) => unwrap(api.GET("/api/scan", { params: { query: { code } } })),
		onSuccess: (f) => {
			if (f.product) {
				setChosen(f.product);
				setPack(f.pack ?? null);
				setSearch("");
			}
		},
	});
	useEffect(() => {
		const onKey = (e: KeyboardEvent) => {
			if (e.key === "/" && !(e.target instanceof HTMLInputElement || e.target instanceof HTMLTextAreaElement)) {
				e.preventDefault();
				box.current?.focus();
			}
		};
		window.addEventListener("keydown", onKey);
		return () => window.removeEventListener("keydown", onKey);
	}, []);
	if (!shelf.data) return <Loading of={w.theShelf} error={shelf.error} retry={() => shelf.refetch()} />;
	const looked = search.trim().toLowerCase();
	const found = shelf.data.filter((l) => looked === "" || isCode(looked) || texts.get(l.product.id)?.includes(looked));
	const line = shelf.data.find((l) => l.product.id === chosen);
	return (
		<Page title={w.shelf} action={<ShelfNav />}>
			{adding && <AddProduct currency={currency ?? "EUR"} onDone={() => setAdding(false)} />}
			{shelf.data.length === 0 && (
				<>
					<p className="text-lg">{w.shelfEmptyAddFirstProductIts}</p>
					{may("add-product") && (
						<Button variant="primary" onClick={() => setAdding(true)}>
							{w.addProduct}
						</Button>
					)}
				</>
			)}
			{shelf.data.length > 0 && (
				<form
					className="mb-2 flex flex-wrap items-center gap-3"
					onSubmit={(e) => {
						e.preventDefault();
						if (isCode(search.trim())) scan.mutate(search.trim());
						else if (found[0]) setChosen(found[0].product.id);
					}}
				>
					<input
						ref={box}
						type="search"
						className="field max-w-md"
						aria-label={w.searchOrScan}
						placeholder={w.searchOrScanShort}
						value={search}
						onChange={(e) => setSearch(e.target.value)}
					/>
					<span className="flex-1 text-sm text-soft">{w.orderExplained}</span>
					{may("add-product") && <Button onClick={() => setAdding(true)}>{w.addProduct}</Button>}
				</form>
			)}
			<ErrorMessage error={scan.error} />
			{scan.data && !scan.data.product && <p className="font-semibold">{w.nothingOnTheShelfHasThisCode}</p>}
			<div className={line ? "grid gap-6 lg:grid-cols-[minmax(0,1fr)_400px]" : ""}>
				<ul
					aria-label={w.bottlesInOrder}
					className="m-0 flex list-none flex-wrap content-start gap-y-5 p-0"
					style={{ backgroundImage: board, backgroundSize: "100% 208px" }}
				>
					{found.map((l) => (
						<li key={l.product.id} className="h-[188px] overflow-visible">
							<Bottle
								line={l}
								today={today}
								chosen={l.product.id === chosen}
								onChoose={() => setChosen(l.product.id === chosen ? null : l.product.id)}
							/>
						</li>
					))}
					{found.length === 0 && search.trim() !== "" && <li className="py-4">{w.nothingFoundFor({ search })}</li>}
				</ul>
				{line && (
					<ProductPanel
						key={line.product.id}
						line={line}
						today={today}
						currency={currency ?? "EUR"}
						pack={pack}
						tags={library.data?.tags ?? []}
						onClose={() => setChosen(null)}
					/>
				)}
			</div>
		</Page>
	);
}

/** The board that the bottles stand on, below each row. */
const board = "linear-gradient(to bottom, transparent 107px, var(--color-rule) 107px, var(--color-rule) 112px, transparent 112px)";
