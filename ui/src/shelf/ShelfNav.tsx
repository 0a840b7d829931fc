import { type Job, Jobs } from "../kit/Jobs";
import * as w from "../words/catalogue/shelf";

const jobs: readonly Job[] = [
	["/shelf", w.shelf, "get-shelf"],
	["/shelf/today", w.openAndClose, "get-day-lists"],
	["/shelf/receive", w.receive, "receive-delivery"],
	["/shelf/order", w.order, "get-order-lists"],
	["/shelf/count", w.stocktake, "get-count"],
	["/shelf/mix", w.mix, "list-recipes"],
	["/shelf/tools", w.toolsAndLinen, "get-pieces"],
	["/shelf/recall", w.recall, "trace-lots"],
	["/shelf/figures", w.useAndWorth, "get-shelf-figures"],
];

/** The jobs at the shelf. */
export function ShelfNav() {
	return <Jobs label={w.jobsAtTheShelf} jobs={jobs} />;
}
