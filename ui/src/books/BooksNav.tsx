import { Link } from "@tanstack/react-router";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/books";

const places = [
	["/till", w.sell, "pay-sale"],
	["/till/receipts", w.receipts, "list-receipts"],
	["/till/close", w.closeTheDay, "close-day"],
	["/till/vouchers", w.vouchers, "list-vouchers"],
	["/till/prices", w.prices, "get-price-list"],
	["/till/books", w.books, "get-books"],
	["/till/month", w.accountant, "get-month"],
] as const;

/** The jobs at the till. */
export function BooksNav() {
	const { may } = useSession();
	return (
		<nav aria-label={w.jobsAtTheTill} className="no-print flex flex-wrap gap-x-5">
			{places
				.filter(([, , operation]) => may(operation))
				.map(([to, name]) => (
					<Link
						key={to}
						to={to}
						activeOptions={{ exact: true, includeSearch: false }}
						className="inline-flex min-h-11 items-center border-b-2 border-transparent font-semibold no-underline aria-[current=page]:border-ink"
					>
						{name}
					</Link>
				))}
		</nav>
	);
}
