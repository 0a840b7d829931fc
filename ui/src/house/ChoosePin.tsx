import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, ProblemError, unwrap } from "../api/client";
import { Dialog } from "../kit/Dialog";
import { Button, ErrorMessage, Field } from "../kit/kit";
import { digits } from "./pin";

/** Chooses the PIN. */
export function ChoosePin({ open, onClose, onDone }: { open: boolean; onClose: () => void; onDone: () => void }) {
	const [pin, setPin] = useState("");
	const save = useMutation({
		mutationFn: () => unwrap(api.PUT("/api/pin", { body: { pin } })),
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
				<p className="mt-0">Use this PIN to unlock the tablet after a client has used it. After five wrong tries you need your password.</p>
				<Field label="PIN, 4 to 8 digits" fault={save.error instanceof ProblemError ? save.error.at("/pin") : undefined}>
					{(a) => <input {...a} {...digits} className="field num w-40 text-2xl" value={pin} onChange={(e) => setPin(e.target.value)} />}
				</Field>
				<ErrorMessage error={save.error instanceof ProblemError && save.error.at("/pin") ? null : save.error} />
				<div className="mt-4 flex justify-end gap-3">
					<Button onClick={onClose}>Not now</Button>
					<Button variant="primary" type="submit" disabled={save.isPending || pin.length < 4}>
						Save PIN
					</Button>
				</div>
			</form>
		</Dialog>
	);
}
