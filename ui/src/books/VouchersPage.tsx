import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, unwrap } from "../api/client";
import { vouchersQuery } from "../api/queries";
import { dayWords, money } from "../kit/format";
import { Button, ErrorMessage, Loading, Page } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/books";
import { BooksNav } from "./BooksNav";

/** Vouchers over an amount: what is left of each. */
export function VouchersPage() {
	const { currency = "EUR", may, at, now } = useSession();
	const list = useQuery(vouchersQuery);
	const cache = useQueryClient();
	const lapse = useMutation({
		mutationFn: (number: string) => unwrap(api.POST("/api/vouchers/{number}/lapse", { params: { path: { number } } })),
		onSuccess: () => cache.invalidateQueries({ queryKey: vouchersQuery.queryKey }),
	});
	if (!list.data) return <Loading of={w.vouchers} error={list.error} retry={() => list.refetch()} />;
	const today = at.day(now());
	return (
		<Page title={w.vouchers} action={<BooksNav />}>
			<ErrorMessage error={lapse.error} />
			{list.data.length === 0 && <p className="m-0 text-lg text-soft">{w.noVouchers}</p>}
			<ul className="m-0 list-none border-t border-ink p-0">
				{list.data.map((v) => (
					<li key={v.id} className="grid grid-cols-[11rem_minmax(0,1fr)_10rem_8rem_9rem] items-center gap-4 border-b border-rule py-1.5">
						<span className="num font-semibold">{v.number.replace(/(\d{4})(?=\d)/g, "$1 ")}</span>
						<span className="truncate text-soft" title={v.giver}>
							{v.giver}
						</span>
						<span className="text-sm text-soft">{v.until ? w.goodUntil({ day: dayWords(v.until) }) : ""}</span>
						<span className="num text-right">
							<span className="block font-semibold">{v.lapsed ? w.lapsed : money(v.left, currency)}</span>
							<span className="text-sm text-soft">{w.ofAmount({ amount: money(v.amount, currency) })}</span>
						</span>
						<span className="text-right">
							{may("lapse-voucher") && v.until && v.until < today && Number(v.left) > 0 ? (
								<Button onClick={() => lapse.mutate(v.number)}>{w.letItLapse}</Button>
							) : (
								<a href={`/api/vouchers/${v.number}/paper`} target="_blank" rel="noreferrer" className="inline-flex min-h-11 items-center">
									{w.print}
								</a>
							)}
						</span>
					</li>
				))}
			</ul>
		</Page>
	);
}
