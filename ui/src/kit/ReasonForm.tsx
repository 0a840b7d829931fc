import { useForm } from "react-hook-form";
import * as w from "../words/catalogue/kit";
import { Button, Field } from "./kit";

type Props = {
	label: string;
	button: string;
	/** How many characters a reason has at least. */
	least?: number;
	most?: number;
	onReason: (reason: string) => void;
	onLeave: () => void;
	/** What leaving is called, where it is not cancelling. */
	leave?: string;
};

/** A reason, in one line, for something that is saved with it. */
export function ReasonForm({ label, button, least = 5, most = 500, onReason, onLeave, leave = w.cancel }: Props) {
	const form = useForm({ defaultValues: { reason: "" } });
	const long = (typed: string) => typed.trim().length >= least || w.giveAReason({ least });
	return (
		<form className="mt-1 flex w-full flex-wrap items-end gap-2" onSubmit={form.handleSubmit((v) => onReason(v.reason.trim()))} noValidate>
			<div className="min-w-60 flex-1">
				<Field label={label} fault={form.formState.errors.reason?.message}>
					{(a) => <input {...a} className="field" maxLength={most} {...form.register("reason", { validate: long })} />}
				</Field>
			</div>
			<Button type="submit">{button}</Button>
			<Button variant="quiet" onClick={onLeave}>
				{leave}
			</Button>
		</form>
	);
}
