import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../api/client";
import { Dialog } from "../kit/Dialog";
import { Button, ErrorMessage, Field } from "../kit/kit";
import * as w from "../words/catalogue/diary";

const steps = [10, 15, 20, 30];

/** Tells a client who has not set out yet that the studio is late. */
export function RunningLate({ visit }: { visit: Schemas["VisitLine"] }) {
	const [asking, setAsking] = useState(false);
	const [offered, setOffered] = useState("");
	const tell = useMutation({
		mutationFn: (minutes: number) =>
			unwrap(api.POST("/api/visits/{id}/late", { params: { path: { id: visit.id } }, body: { minutes, ...(offered ? { offered } : {}) } })),
	});
	const fault = tell.error instanceof ProblemError ? tell.error.at("/offered") : undefined;
	return (
		<>
			<Button variant="quiet" onClick={() => setAsking(true)}>
				{w.weAreLate}
			</Button>
			<Dialog open={asking} onClose={() => setAsking(false)} title={w.weAreLate}>
				{tell.isSuccess ? (
					<p role="status">{w.clientIsTold({ name: visit.clientName })}</p>
				) : (
					<>
						<p className="mt-0">{w.tellBeforeTheySetOut}</p>
						<Field label={w.whatIsOffered} hint={w.fromTwentyMinutesOn} fault={fault}>
							{(a) => <input {...a} className="field" maxLength={300} value={offered} onChange={(e) => setOffered(e.target.value)} />}
						</Field>
						<div className="mt-3 flex flex-wrap gap-2">
							{steps.map((n) => (
								<Button key={n} disabled={tell.isPending} onClick={() => tell.mutate(n)}>
									{w.minutesLate({ n })}
								</Button>
							))}
						</div>
						{!fault && <ErrorMessage error={tell.error} />}
					</>
				)}
			</Dialog>
		</>
	);
}
