import { type Job, Jobs } from "../kit/Jobs";
import * as w from "../words/catalogue/books";

const jobs: readonly Job[] = [
	["/books", w.sell, "pay-sale"],
	["/books/receipts", w.receipts, "list-receipts"],
	["/books/close", w.closeTheDay, "close-day"],
	["/books/vouchers", w.vouchers, "list-vouchers"],
	["/books/prices", w.prices, "get-price-list"],
	["/books/questions", w.books, "get-books"],
	["/books/month", w.accountant, "get-month"],
];

/** The jobs at the books. */
export function BooksNav() {
	return <Jobs label={w.jobsAtTheTill} jobs={jobs} />;
}
