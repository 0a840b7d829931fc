import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, ProblemError, take } from "../api/client";
import { Button, Dialog, Field, Trouble } from "./kit";

const digits = {
	inputMode: "numeric",
	autoComplete: "off",
	maxLength: 8,
	pattern: "[0-9]{4,8}",
	required: true,
	type: "password",
} as const;

/** The practitioner takes the tablet back from a client with a PIN. */
export function TakeBack() {
	const [open, setOpen] = useState(false);
	const [pin, setPin] = useState("");
	const back = useMutation({
		mutationFn: () => take(api.POST("/api/take-back", { body: { pin } })),
		onSuccess: () => window.location.replace("/"),
		onError: (e) => {
			setPin("");
			if (e instanceof ProblemError && e.problem.code === "pin-ended") setTimeout(() => window.location.replace("/"), 2500);
		},
	});
	if (!open)
		return (
			<Button look="quiet" className="mt-6 -ml-4" onClick={() => setOpen(true)}>
				For the studio: take the tablet back
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
			<Field label="PIN" fault={back.error instanceof ProblemError ? back.error.message : undefined}>
				{(a) => <input {...a} {...digits} className="field num text-2xl" value={pin} onChange={(e) => setPin(e.target.value)} />}
			</Field>
			<Button look="next" type="submit" disabled={back.isPending || pin.length < 4}>
				Take it back
			</Button>
		</form>
	);
}

/** What is shown in place of everything else while a client holds the tablet. */
export function HandedOver() {
	return (
		<main className="mx-auto max-w-xl p-5">
			<h1 className="text-3xl">This tablet is handed over</h1>
			<p className="text-lg">It shows one consultation and nothing else until the practitioner takes it back.</p>
			<TakeBack />
		</main>
	);
}

/** Chooses the PIN. */
export function ChoosePin({ open, onClose, onDone }: { open: boolean; onClose: () => void; onDone: () => void }) {
	const [pin, setPin] = useState("");
	const save = useMutation({
		mutationFn: () => take(api.PUT("/api/pin", { body: { pin } })),
		onSuccess: () => {
			setPin("");
			onDone();
		},
	});
	return (
		<Dialog open={open} onClose={onClose} title="Choose your PIN">
			<form
				onSubmit={(e) => {
					e.preventDefault();
					save.mutate();
				}}
			>
				<p className="mt-0">With it you take the tablet back from a client. After five wrong tries your password is asked for.</p>
				<Field label="PIN, 4 to 8 digits" fault={save.error instanceof ProblemError ? save.error.at("/pin") : undefined}>
					{(a) => <input {...a} {...digits} className="field num w-40 text-2xl" value={pin} onChange={(e) => setPin(e.target.value)} />}
				</Field>
				<Trouble error={save.error instanceof ProblemError && save.error.at("/pin") ? null : save.error} />
				<div className="mt-4 flex justify-end gap-3">
					<Button onClick={onClose}>Not now</Button>
					<Button look="next" type="submit" disabled={save.isPending || pin.length < 4}>
						Keep the PIN
					</Button>
				</div>
			</form>
		</Dialog>
	);
}
