import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../api/client";
import { money } from "../kit/format";
import { Button, ErrorMessage, Field } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/books";

/** The fee that the studio's rule proposes for a missed appointment: asked for beside, waived, paid by the deposit, or counted. */
export function FeePart({ of, fee }: { of: Schemas["VisitSale"]; fee: Schemas["ProposedFee"] | undefined }) {
	const { currency = "EUR" } = useSession();
	const cache = useQueryClient();
	const [waiving, setWaiving] = useState(false);
	const [reason, setReason] = useState("");
	const answer = useMutation({
		mutationFn: (body: Schemas["FeeAnswer"]) => unwrap(api.POST("/api/visits/{id}/fee", { params: { path: { id: of.visit.id } }, body })),
		onSuccess: () => cache.invalidateQueries(),
	});
	return (
		<section className="mb-5 rounded-md bg-slate-pale px-4 py-3">
			<h2 className="m-0 text-xl">{of.visit.state === "no-show" ? w.didNotCome : w.cancelledLate}</h2>
			{fee && (
				<p className="mt-1 mb-3">
					{fee.percent > 0
						? w.proposedFee({ fee: money(fee.fee, currency), percent: fee.percent })
						: w.proposedSum({ fee: money(fee.fee, currency) })}{" "}
					{Number(fee.deposit) > 0 && w.theDepositCounts({ deposit: money(fee.deposit, currency) })}
				</p>
			)}
			<div className="flex flex-wrap gap-3">
				{Number(fee?.deposit ?? 0) > 0 && <Button onClick={() => answer.mutate({ keepDeposit: true })}>{w.keepTheDeposit}</Button>}
				{of.mayCount && <Button onClick={() => answer.mutate({ count: true })}>{w.countAsAVisit}</Button>}
				<Button aria-expanded={waiving} onClick={() => setWaiving(!waiving)}>
					{w.waive}
				</Button>
			</div>
			{waiving && (
				<form
					className="mt-3 flex items-end gap-3"
					onSubmit={(e) => {
						e.preventDefault();
						answer.mutate({ waive: reason });
					}}
				>
					<div className="grow">
						<Field label={w.whyWaived} fault={answer.error instanceof ProblemError ? answer.error.at("/waive") : undefined}>
							{(a) => <input {...a} className="field" maxLength={300} value={reason} onChange={(e) => setReason(e.target.value)} />}
						</Field>
					</div>
					<Button type="submit" variant="primary">
						{w.waive}
					</Button>
				</form>
			)}
			{!waiving && <ErrorMessage error={answer.error} />}
		</section>
	);
}
