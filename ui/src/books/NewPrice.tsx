import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../api/client";
import { priceListQuery } from "../api/queries";
import { Button, ErrorMessage, Field } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/books";

/** What gets a price. */
export type New = { protocol?: string; product?: string; extra?: string; visits: number };

/** Sends a price, and shows the list with it. */
export function useAddPrice(done: () => void) {
	const cache = useQueryClient();
	return useMutation({
		mutationFn: (body: Omit<Schemas["DatedPrice"], "id">) =>
			unwrap(
				api.POST("/api/prices", {
					body: { ...body, id: "00000000-0000-0000-0000-000000000000", amount: body.amount.trim().replace(",", ".") },
				}),
			),
		onSuccess: () => {
			cache.invalidateQueries({ queryKey: priceListQuery.queryKey });
			done();
		},
	});
}

/** A new price and its first day. */
export function NewPrice({ of, price = "", done }: { of: New; price?: string; done: () => void }) {
	const { at, now } = useSession();
	const [amount, setAmount] = useState(price);
	const [from, setFrom] = useState(at.day(now()));
	const add = useAddPrice(done);
	const fault = (path: string) => (add.error instanceof ProblemError ? add.error.at(path) : undefined);
	return (
		<form
			className="mb-2 flex flex-wrap items-end gap-3 bg-leaf p-3"
			onSubmit={(e) => {
				e.preventDefault();
				add.mutate({ ...of, from, amount });
			}}
		>
			<Field label={w.newPrice} fault={fault("/amount")}>
				{(a) => (
					<input
						{...a}
						className="field num w-28"
						inputMode="decimal"
						required
						value={amount}
						onChange={(e) => setAmount(e.target.value)}
					/>
				)}
			</Field>
			<Field label={w.holdsFrom} fault={fault("/from")}>
				{(a) => <input {...a} type="date" className="field" required value={from} onChange={(e) => setFrom(e.target.value)} />}
			</Field>
			<Button type="submit" variant="primary" disabled={add.isPending}>
				{w.setThePrice}
			</Button>
			<Button variant="quiet" onClick={done}>
				{w.leaveIt}
			</Button>
			{!fault("/amount") && !fault("/from") && <ErrorMessage error={add.error} />}
		</form>
	);
}
