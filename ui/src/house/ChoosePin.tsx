import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, ProblemError, unwrap } from "../api/client";
import { Dialog } from "../kit/Dialog";
import { Button, ErrorMessage, Field } from "../kit/kit";
import * as w from "../words/catalogue/house";
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
		<Dialog open={open} onClose={onClose} title={w.chooseYourPIN}>
			<form
				onSubmit={(e) => {
					e.preventDefault();
					save.mutate();
				}}
			>
				<p className="mt-0">{w.useThisPINUnlockTabletAfter}</p>
				<Field label={w.pin4To8Digits} fault={save.error instanceof ProblemError ? save.error.at("/pin") : undefined}>
					{(a) => <input {...a} {...digits} className="field num w-40 text-2xl" value={pin} onChange={(e) => setPin(e.target.value)} />}
				</Field>
				<ErrorMessage error={save.error instanceof ProblemError && save.error.at("/pin") ? null : save.error} />
				<div className="mt-4 flex justify-end gap-3">
					<Button onClick={onClose}>{w.notNow}</Button>
					<Button variant="primary" type="submit" disabled={save.isPending || pin.length < 4}>
						{w.savePIN}
					</Button>
				</div>
			</form>
		</Dialog>
	);
}
