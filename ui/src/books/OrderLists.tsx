import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { orderListsQuery } from "../api/queries";
import { Loading } from "../kit/kit";
import * as w from "../words/catalogue/books";
import { Figures } from "./BooksPage";

/** What the shelf wants ordered, by supplier. */
export function OrderLists({ m }: { m: (x: string) => string }) {
	const lists = useQuery(orderListsQuery);
	if (!lists.data) return <Loading of={w.books} error={lists.error} retry={() => lists.refetch()} />;
	return (
		<>
			<Figures
				head={[w.supplier, w.productsIn, w.value]}
				rows={lists.data.filter((l) => l.lines.length > 0).map((l) => [l.supplier || w.noSupplier, l.lines.length, m(l.value)])}
				empty={w.nothingToOrder}
			/>
			<p className="mt-3 mb-0">
				<Link to="/shelf/order">{w.toTheOrder}</Link>
			</p>
		</>
	);
}
