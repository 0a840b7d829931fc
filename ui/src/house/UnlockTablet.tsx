import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, ProblemError, unwrap } from "../api/client";
import { Button, Field } from "../kit/kit";
import * as w from "../words/catalogue/house";
import { digits } from "./pin";

/** The practitioner takes the tablet back from a client with a PIN. */
export function UnlockTablet() {
	const [open, setOpen] = useState(false);
	const [pin, setPin] = useState("");
	const back = useMutation({
		mutationFn: () => unwrap(api.POST("/api/take-back", { body: { pin } })),
		onSuccess: () => window.location.replace("/"),
		onError: (e) => {
			setPin("");
			if (e instanceof ProblemError && e.problem.code === "pin-ended") setTimeout(() => window.location.replace("/"), 2500);
		},
	});
	if (!open)
		return (
			<Button variant="quiet" className="mt-6 -ml-4" onClick={() => setOpen(true)}>
				{w.staffUnlockTablet}
			</Button>
		);
	return (
		<form
			className="mt-6 grid max-w-60 gap-3"
			onSubmit={(e) => {
				e.preventDefault();
				back.mutate();
			}}
		>
			<Field label={w.pin} fault={back.error instanceof ProblemError ? back.error.message : undefined}>
				{(a) => <input {...a} {...digits} className="field num text-2xl" value={pin} onChange={(e) => setPin(e.target.value)} />}
			</Field>
			<Button variant="primary" type="submit" disabled={back.isPending || pin.length < 4}>
				{w.unlock}
			</Button>
		</form>
	);
}

/** What is shown in place of everything else while a client holds the tablet. */
export function TabletWithClient() {
	return (
		<main className="mx-auto max-w-xl p-5">
			<h1 className="text-3xl">{w.thisTabletIsWithAClient}</h1>
			<p className="text-lg">{w.onlyConsultationCanOpenedStaffCan}</p>
			<UnlockTablet />
		</main>
	);
}
