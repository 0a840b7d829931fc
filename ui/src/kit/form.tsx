import { zodResolver } from "@hookform/resolvers/zod";
import { useMutation } from "@tanstack/react-query";
import type { ComponentProps, ReactNode } from "react";
import {
	Controller,
	type DefaultValues,
	type FieldValues,
	get,
	type Path,
	type Resolver,
	type UseFormReturn,
	useForm,
} from "react-hook-form";
import type * as z from "zod/mini";
import { ProblemError } from "../api/client";
import * as w from "../words/catalogue/kit";
import { placeFaults } from "./faults";
import { Chips } from "./fields";
import { Button, ErrorMessage, Field } from "./kit";

type Options<T extends FieldValues, A> = {
	/** What must be filled in before it is sent. The rules of the craft are the server's. */
	schema?: z.ZodMiniType<T, T>;
	start: T;
	send: (values: T) => Promise<A>;
	onSent: (answer: A, values: T) => void;
};

/**
 * A form that is sent to the server. What is missing is said at its field before it is
 * sent, what the server refuses at its field afterwards; focus goes to the first fault
 * and nothing that was typed is lost.
 */
export function useServerForm<T extends FieldValues, A>({ schema, start, send, onSent }: Options<T, A>) {
	const form = useForm<T>({
		defaultValues: start as DefaultValues<T>,
		...(schema ? { resolver: zodResolver(schema as never) as unknown as Resolver<T> } : {}),
	});
	const sending = useMutation({
		mutationFn: send,
		onSuccess: onSent,
		onError: (e) => {
			const placed = placeFaults(e, form.getValues());
			placed.forEach(({ field, message }, i) => {
				form.setError(field as Path<T>, { type: "server", message }, { shouldFocus: i === 0 });
			});
		},
	});
	const placed = sending.error instanceof ProblemError && placeFaults(sending.error, form.getValues()).length;
	const all = sending.error instanceof ProblemError && sending.error.problem.errors?.length === placed && placed > 0;
	return {
		form,
		submit: form.handleSubmit((v) => sending.mutate(v)),
		/** Forgets what the server said of what was sent before. */
		reset: sending.reset,
		busy: sending.isPending,
		/** The answer that somebody else changed the same meanwhile, with what is there now. */
		changed: sending.error instanceof ProblemError && sending.error.problem.code === "changed-meanwhile" ? sending.error.problem : null,
		/** What went wrong and belongs to no field. */
		error: all ? null : sending.error,
		fault: (field: string): string | undefined => (get(form.formState.errors, field) as { message?: string } | undefined)?.message,
	};
}

export type ServerForm<T extends FieldValues> = {
	form: UseFormReturn<T>;
	fault: (field: string) => string | undefined;
};

type InputProps<T extends FieldValues> = {
	of: ServerForm<T>;
	field: Path<T>;
	label: string;
	hint?: string | undefined;
};

/** Three fields in a row whose labels, controls and notes line up, however long a label or a fault is. */
export const fieldRow =
	"grid grid-cols-3 gap-x-3 *:row-span-3 *:mb-2 *:grid *:grid-rows-subgrid *:gap-y-0 [&>div>label]:self-end [&>div>p]:m-0";

/** A field for a line of text, a number or a date. */
export function Input<T extends FieldValues>({
	of,
	field,
	label,
	hint,
	className = "",
	...rest
}: InputProps<T> & Omit<ComponentProps<"input">, "form">) {
	return (
		<Field label={label} hint={hint} fault={of.fault(field)}>
			{(a) => <input {...a} {...rest} className={`field ${className}`} {...of.form.register(field)} />}
		</Field>
	);
}

/** A field for several lines of text. */
export function Lines<T extends FieldValues>({
	of,
	field,
	label,
	hint,
	...rest
}: InputProps<T> & Omit<ComponentProps<"textarea">, "form">) {
	return (
		<Field label={label} hint={hint} fault={of.fault(field)}>
			{(a) => <textarea {...a} {...rest} className="field min-h-20" {...of.form.register(field)} />}
		</Field>
	);
}

/** A choice of one out of a list. */
export function Select<T extends FieldValues>({
	of,
	field,
	label,
	hint,
	options,
	children,
}: InputProps<T> & { options?: Readonly<Record<string, string>>; children?: ReactNode }) {
	return (
		<Field label={label} hint={hint} fault={of.fault(field)}>
			{(a) => (
				<select {...a} className="field" {...of.form.register(field)}>
					{children}
					{options &&
						Object.entries(options).map(([v, name]) => (
							<option key={v} value={v}>
								{name}
							</option>
						))}
				</select>
			)}
		</Field>
	);
}

/** A yes or no. */
export function Tick<T extends FieldValues>({ of, field, label }: Omit<InputProps<T>, "hint">) {
	return (
		<label className="flex min-h-11 items-center gap-2">
			<input type="checkbox" className="size-5 accent-persimmon" {...of.form.register(field)} />
			{label}
		</label>
	);
}

/** A set of words to switch on and off. */
export function ChipsField<T extends FieldValues>({
	of,
	field,
	label,
	options,
}: Omit<InputProps<T>, "hint"> & { options: readonly (readonly [string, string])[] }) {
	return (
		<Controller
			control={of.form.control}
			name={field}
			render={({ field: { value, onChange } }) => <Chips label={label} options={options} chosen={value} onChange={onChange} />}
		/>
	);
}

/** The end of a form: what belongs to no field, Cancel, and the one act. */
export function FormEnd({
	of,
	act,
	onCancel,
	cancel = w.cancel,
	disabled = false,
}: {
	of: { error: unknown; busy: boolean };
	act: string;
	onCancel: () => void;
	cancel?: string;
	disabled?: boolean;
}) {
	return (
		<>
			<ErrorMessage error={of.error} />
			<div className="flex justify-end gap-3">
				<Button onClick={onCancel}>{cancel}</Button>
				<Button variant="primary" type="submit" disabled={of.busy || disabled}>
					{act}
				</Button>
			</div>
		</>
	);
}
