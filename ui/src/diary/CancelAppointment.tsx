import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { Dialog } from "../kit/Dialog";
import { Button, ErrorMessage } from "../kit/kit";
import { ReasonForm } from "../kit/ReasonForm";
import { useNow } from "../kit/session";
import * as w from "../words/catalogue/diary";

/** The usual reasons, and whether they are the studio's: that is never late. */
const usual = [
	{ reason: w.clientIsIll, byStudio: false },
	{ reason: w.clientAskedForAnotherDay, byStudio: false },
	{ reason: w.practitionerIsAway, byStudio: true },
	{ reason: w.bookedByMistake, byStudio: true },
];

/** Cancels an appointment, with the reason that is pressed or typed. */
export function CancelAppointment({ visit }: { visit: Schemas["VisitLine"] }) {
	const [asking, setAsking] = useState(false);
	const cache = useQueryClient();
	const [ours, setOurs] = useState(false);
	const cancel = useMutation({
		mutationFn: ({ reason, byStudio }: { reason: string; byStudio: boolean }) =>
			unwrap(api.POST("/api/visits/{id}/state", { params: { path: { id: visit.id } }, body: { state: "cancelled", reason, byStudio } })),
		onSuccess: () => setAsking(false),
		onSettled: () => {
			for (const key of ["visit", "day", "free", "waiting"]) cache.invalidateQueries({ queryKey: [key] });
		},
	});
	return (
		<>
			<Button variant="quiet" onClick={() => setAsking(true)}>
				{w.cancelAppointment}
			</Button>
			<Dialog open={asking} onClose={() => setAsking(false)} title={w.cancelThisAppointment}>
				<p>{w.timeWillFreeForOthersLess}</p>
				<p className="mb-2 font-semibold">{w.whyIsItCancelled}</p>
				<div className="mb-3 flex flex-wrap gap-2">
					{usual.map((x) => (
						<Button key={x.reason} disabled={cancel.isPending} onClick={() => cancel.mutate(x)}>
							{x.reason}
						</Button>
					))}
				</div>
				<label className="flex min-h-11 items-center gap-2">
					<input type="checkbox" className="size-5 accent-persimmon" checked={ours} onChange={(e) => setOurs(e.target.checked)} />
					{w.theStudioCancels}
				</label>
				<ReasonForm
					label={w.anotherReason}
					button={w.cancelAppointment}
					least={3}
					onReason={(reason) => cancel.mutate({ reason, byStudio: ours })}
					onLeave={() => setAsking(false)}
					leave={w.keepAppointment}
				/>
				<ErrorMessage error={cancel.error} />
			</Dialog>
		</>
	);
}

/** Why an appointment was cancelled, and for a minute the way back. */
export function Cancelled({ visit }: { visit: Schemas["VisitLine"] }) {
	const now = useNow(1000);
	const cache = useQueryClient();
	const undo = useMutation({
		mutationFn: () => unwrap(api.POST("/api/visits/{id}/state/undo", { params: { path: { id: visit.id } } })),
		onSettled: () => {
			for (const key of ["visit", "day", "free", "waiting"]) cache.invalidateQueries({ queryKey: [key] });
		},
	});
	return (
		<>
			<p className="text-lg">
				{visit.cancelReason ? w.cancelledReason({ reason: visit.cancelReason }) : w.thisAppointmentWasCancelledOrMissed}
			</p>
			{visit.undoUntil && new Date(visit.undoUntil) > now && (
				<Button disabled={undo.isPending} onClick={() => undo.mutate()}>
					{w.undo}
				</Button>
			)}
			<ErrorMessage error={undo.error} />
		</>
	);
}
