import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../api/client";
import { money, newId } from "../kit/format";
import { Button, ErrorMessage, Field } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/books";

/** Deposits that were taken for an appointment: held ones come off what is due, or are given back. */
export function Deposits({ of }: { of: Schemas["VisitSale"] }) {
	if (of.deposits.length === 0) return null;
	return (
		<ul className="m-0 mb-4 list-none border-t border-ink p-0" aria-label={w.deposits}>
			{of.deposits.map((d) => (
				<One key={d.id} deposit={d} />
			))}
		</ul>
	);
}

function One({ deposit: d }: { deposit: Schemas["Deposit"] }) {
	const { currency = "EUR", may } = useSession();
	const cache = useQueryClient();
	const [giving, setGiving] = useState(false);
	const [why, setWhy] = useState("");
	const [id] = useState(newId);
	const back = useMutation({
		mutationFn: (by: "cash" | "card" | "bank") =>
			unwrap(api.POST("/api/deposits/{id}/refund", { params: { path: { id: d.id } }, body: { id, by, why } })),
		onSuccess: () => cache.invalidateQueries(),
	});
	return (
		<li className="border-b border-rule py-2">
			<p className="m-0 flex items-center justify-between gap-3">
				<span>
					<span className="font-semibold">{w.deposit}</span>{" "}
					<span className="text-sm text-soft">{w.receiptNumber({ number: d.number })}</span>
				</span>
				<span className="flex items-center gap-3">
					{d.state === "held" && may("refund-deposit") && (
						<Button variant="quiet" aria-expanded={giving} onClick={() => setGiving(!giving)}>
							{w.giveBack}
						</Button>
					)}
					<span className="text-sm text-soft">{w.depositState[d.state]}</span>
					<span className="num font-semibold">{money(d.gross, currency)}</span>
				</span>
			</p>
			{giving && (
				<div className="mt-2 flex flex-wrap items-end gap-3 bg-leaf p-3">
					<div className="min-w-48 grow">
						<Field label={w.why} fault={back.error instanceof ProblemError ? back.error.at("/why") : undefined}>
							{(a) => <input {...a} className="field" maxLength={300} value={why} onChange={(e) => setWhy(e.target.value)} />}
						</Field>
					</div>
					{(["cash", "card", "bank"] as const).map((by) => (
						<Button key={by} disabled={back.isPending || !why.trim()} onClick={() => back.mutate(by)}>
							{w.way[by]}
						</Button>
					))}
					<ErrorMessage error={back.error instanceof ProblemError && back.error.at("/why") ? undefined : back.error} />
				</div>
			)}
		</li>
	);
}
