import { Link } from "@tanstack/react-router";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/shelf";

const places = [
	["/shelf", w.shelf, "get-shelf"],
	["/shelf/today", w.openAndClose, "get-day-lists"],
	["/shelf/receive", w.receive, "receive-delivery"],
	["/shelf/order", w.order, "get-order-lists"],
	["/shelf/count", w.stocktake, "get-count"],
	["/shelf/mix", w.mix, "list-recipes"],
	["/shelf/tools", w.toolsAndLinen, "get-pieces"],
	["/shelf/recall", w.recall, "trace-lots"],
	["/shelf/figures", w.useAndWorth, "get-shelf-figures"],
] as const;

/** The jobs at the shelf. */
export function ShelfNav() {
	const { may } = useSession();
	return (
		<nav aria-label={w.jobsAtTheShelf} className="no-print flex flex-wrap gap-x-5">
			{places
				.filter(([, , operation]) => may(operation))
				.map(([to, name]) => (
					<Link
						key={to}
						to={to}
						activeOptions={{ exact: true }}
						className="inline-flex min-h-11 items-center border-b-2 border-transparent font-semibold no-underline aria-[current=page]:border-ink"
					>
						{name}
					</Link>
				))}
		</nav>
	);
}
