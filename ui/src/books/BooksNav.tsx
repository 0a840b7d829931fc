import { Link } from "@tanstack/react-router";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/books";

const places = [
	["/books", w.sell, "pay-sale"],
	["/books/receipts", w.receipts, "list-receipts"],
	["/books/close", w.closeTheDay, "close-day"],
	["/books/vouchers", w.vouchers, "list-vouchers"],
	["/books/prices", w.prices, "get-price-list"],
	["/books/questions", w.books, "get-books"],
	["/books/month", w.accountant, "get-month"],
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
