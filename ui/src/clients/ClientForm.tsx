import { useRef } from "react";
import * as z from "zod/mini";
import type { Schemas } from "../api/client";
import { Changed } from "../kit/Changed";
import { FormEnd, Input, Lines, Select, Tick, useServerForm } from "../kit/form";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/clients";
import { skinStateWords, skinTypes } from "../words/client";

type Fields = Omit<Schemas["ClientFields"], "$schema">;

/** A client before anything is written; the front desk writes nothing about the skin. */
export const emptyClient = (treats: boolean): Fields => ({
	...(treats ? { skinType: "" as const } : {}),
	name: "",
	email: "",
	phone: "",
	birthDate: "",
	skinStates: [],
	phototype: 0,
	note: "",
});

const phototypes = { 0: w.notAsked, 1: "I", 2: "II", 3: "III", 4: "IV", 5: "V", 6: "VI" };

/** What of a client is on the form. */
export function fieldsOf({
	name,
	email,
	phone,
	birthDate,
	skinType,
	skinStates,
	phototype,
	note,
	noMessages,
	shortMessage,
}: Fields): Fields {
	return {
		name,
		email,
		phone,
		birthDate,
		...(skinType ? { skinType } : {}),
		skinStates,
		phototype,
		note,
		noMessages: noMessages ?? false,
		shortMessage: shortMessage ?? false,
	};
}

const labels = {
	name: w.name,
	email: w.eMail,
	phone: w.phone,
	birthDate: w.birthDate,
	skinType: w.skinType,
	skinStates: w.skinConditions,
	phototype: w.phototype,
	note: w.notes,
	noMessages: w.noMessages,
	shortMessage: w.shortMessage,
};

const schema = z.object({
	name: z.string().check(z.trim(), z.minLength(1, w.enterTheClientsName)),
	email: z.string().check(z.trim()),
	phone: z.string(),
	birthDate: z.string(),
	skinType: z.optional(z.enum(["", ...skinTypes])),
	skinStates: z.array(z.string()),
	phototype: z.coerce.number(),
	note: z.string(),
	noMessages: z.optional(z.boolean()),
	shortMessage: z.optional(z.boolean()),
}) as unknown as z.ZodMiniType<Fields, Fields>;

type Props<A> = {
	start: Fields;
	revision?: number;
	act: string;
	send: (f: Fields, revision: number) => Promise<A>;
	onSent: (answer: A) => void;
	onCancel: () => void;
};

/** What is written about a client. */
export function ClientForm<A>({ start, revision = 0, act, send, onSent, onCancel }: Props<A>) {
	const at = useRef(revision); // what the next save is made on
	const of = useServerForm({ schema, start, send: (f: Fields) => send(f, at.current), onSent });
	const theirs = of.changed?.client;
	if (theirs) at.current = theirs.revision;
	const { treats } = useSession();
	return (
		<form className="grid gap-4" onSubmit={of.submit} noValidate>
			<Input of={of} field="name" label={w.name} maxLength={120} />
			<Input of={of} field="email" label={w.eMail} inputMode="email" maxLength={200} />
			<div className="grid grid-cols-2 gap-3">
				<Input of={of} field="phone" label={w.phone} type="tel" maxLength={60} />
				<Input of={of} field="birthDate" label={w.birthDate} type="date" />
				{treats && (
					<>
						<Select
							of={of}
							field="skinType"
							label={w.skinType}
							options={{ "": w.notAsked, ...Object.fromEntries(skinTypes.map((t) => [t, t])) }}
						/>
						<Select of={of} field="phototype" label={w.phototype} options={phototypes} />
					</>
				)}
			</div>
			<div className="flex flex-wrap gap-x-6">
				<Tick of={of} field="noMessages" label={w.noMessages} />
				<Tick of={of} field="shortMessage" label={w.shortMessage} />
			</div>
			{treats && (
				<>
					<fieldset className="m-0 border-0 p-0">
						<legend className="mb-1 text-sm font-semibold">{w.skinConditions}</legend>
						<div className="flex flex-wrap gap-x-4">
							{skinStateWords.map((s) => (
								<label key={s} className="flex min-h-11 items-center gap-2">
									<input type="checkbox" className="size-5 accent-persimmon" value={s} {...of.form.register("skinStates")} />
									{s}
								</label>
							))}
						</div>
					</fieldset>
					<Lines of={of} field="note" label={w.notes} maxLength={2000} />
				</>
			)}
			{theirs && <Changed key={theirs.revision} of={of} theirs={fieldsOf(theirs)} labels={labels} />}
			<FormEnd of={of} act={act} onCancel={onCancel} />
		</form>
	);
}
