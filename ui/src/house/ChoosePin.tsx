import * as z from "zod/mini";
import { api, unwrap } from "../api/client";
import { Dialog } from "../kit/Dialog";
import { FormEnd, Input, useServerForm } from "../kit/form";
import * as w from "../words/catalogue/house";
import { digits } from "./pin";

const schema = z.object({ pin: z.string().check(z.regex(/^\d{4,8}$/, w.enter4To8Digits)) });

/** Chooses the PIN. */
export function ChoosePin({ open, onClose, onDone }: { open: boolean; onClose: () => void; onDone: () => void }) {
	const of = useServerForm({
		schema,
		start: { pin: "" },
		send: (body) => unwrap(api.PUT("/api/pin", { body })),
		onSent: () => {
			of.form.reset();
			onDone();
		},
	});
	return (
		<Dialog open={open} onClose={onClose} title={w.chooseYourPIN}>
			<form className="grid gap-3" onSubmit={of.submit} noValidate>
				<p className="m-0">{w.useThisPINUnlockTabletAfter}</p>
				<Input of={of} field="pin" label={w.pin4To8Digits} {...digits} className="num w-40 text-2xl" />
				<FormEnd of={of} act={w.savePIN} onCancel={onClose} cancel={w.notNow} />
			</form>
		</Dialog>
	);
}
