import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { saleQuery } from "../api/queries";

export type Sale = Schemas["Sale"];
export type Line = Schemas["SaleLine"];
export type Way = Schemas["SalePay"]["by"];
export type Paid = Schemas["Paid"];

const waiting = new Set(["asked", "unknown", "cancelling"]);

/** Whether the terminal has yet to say what became of a payment. */
export const isWaiting = (p: Paid | undefined) => Boolean(p?.card && !p.receipt && waiting.has(p.card.state));

/** A sale while it is made: what it comes to, and how far its payment has come. */
export function useSale(first: Sale, open: string | undefined) {
	const cache = useQueryClient();
	const [sale, setSale] = useState(first);
	const [begun, setBegun] = useState(open);
	const quote = useQuery({
		queryKey: ["quote", sale],
		queryFn: () => unwrap(api.POST("/api/sales/quote", { body: sale })),
		enabled: !begun && sale.lines.length > 0,
		placeholderData: keepPreviousData,
		retry: false,
	});
	// What cannot be worked out for the moment leaves the bill as it was.
	const good = useRef<Schemas["Bill"]>(undefined);
	if (quote.data && !quote.isPlaceholderData) good.current = quote.data;
	// A payment that was left open is found again: the terminal is asked first.
	const going = useQuery({
		...saleQuery(begun ?? ""),
		enabled: Boolean(begun),
		refetchInterval: (q) => (isWaiting(q.state.data) ? 1000 : false),
	});
	const settled = (p: Paid) => {
		cache.setQueryData(saleQuery(p.sale).queryKey, p);
		setBegun(p.sale);
		for (const key of ["day", "receipts", "sold-series", "vouchers", "closing-day", "shelf"]) cache.invalidateQueries({ queryKey: [key] });
	};
	const pay = useMutation({
		mutationFn: (ways: Sale["pay"]) => unwrap(api.POST("/api/sales", { body: { ...sale, pay: [...sale.pay, ...ways] } })),
		onSuccess: settled,
	});
	// A voucher comes onto the bill once its number is known to be good.
	const voucher = useMutation({
		mutationFn: async (way: Schemas["SalePay"]) => {
			const number = way.ref ?? "";
			const found = await unwrap(
				api.GET("/api/vouchers/{number}", { params: { path: { number }, query: sale.visit ? { visit: sale.visit } : {} } }),
			);
			// One for another treatment counts as a part of this one's price.
			if (found.kind === "treatment" && sale.client && (found.covers || !sale.visit)) {
				const body = { client: sale.client, ...(sale.visit ? { visit: sale.visit } : {}) };
				await unwrap(api.POST("/api/vouchers/{number}/use", { params: { path: { number } }, body }));
				return { ...found, pays: false };
			}
			await unwrap(api.POST("/api/sales/quote", { body: { ...sale, pay: [...sale.pay, way] } }));
			return { ...found, pays: true };
		},
		onSuccess: (found, way) => {
			if (found.pays) setSale((was) => ({ ...was, pay: [...was.pay, way] }));
			else cache.invalidateQueries(); // the treatment is paid ahead now
		},
	});
	const cancel = useMutation({
		mutationFn: (id: string) => unwrap(api.POST("/api/sales/{id}/cancel", { params: { path: { id } } })),
		onSuccess: settled,
	});
	return {
		sale,
		change: (to: Partial<Sale>) => {
			pay.reset();
			setSale((was) => ({ ...was, ...to }));
		},
		bill: sale.lines.length > 0 ? (quote.data ?? good.current) : undefined,
		fault: pay.error ?? quote.error,
		going: begun ? going.data : undefined,
		asking: Boolean(begun) && !going.data,
		failed: going.error ?? cancel.error,
		pay,
		voucher,
		cancel,
		ask: () => going.refetch(),
		/** Goes back to the ways to pay, with what was asked for. */
		otherWay: () => {
			const asked = going.data?.asked;
			if (asked) setSale({ ...asked, pay: asked.pay.filter((p) => p.by === "voucher" || p.by === "deposit") });
			setBegun(undefined);
		},
	};
}
