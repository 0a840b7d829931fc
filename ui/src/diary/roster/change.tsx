import { useMutation, useQueryClient } from "@tanstack/react-query";
import type { FormEvent, ReactNode } from "react";
import { Button, ErrorMessage, Field } from "../../kit/kit";
import * as w from "../../words/catalogue/roster";

/** A change of who or what is there; what is booked by it is asked for anew. */
export function useChange<T, A = void>(change: (x: A) => Promise<T>, done?: (t: T) => void) {
	const cache = useQueryClient();
	return useMutation({
		mutationFn: change,
		...(done ? { onSuccess: done } : {}),
		onSettled: () => {
			for (const key of ["roster", "strips", "free", "series", "clashes"]) cache.invalidateQueries({ queryKey: [key] });
		},
	});
}

/** A line of a roster or an absence; it can be removed where onRemove is given. */
export function Row({ text, note, onRemove }: { text: string; note?: string | undefined; onRemove: (() => void) | undefined }) {
	return (
		<li className="flex items-center justify-between gap-3 border-b border-rule py-2">
			<span className="num">
				{text}
				{note && <span className="block text-sm text-soft">{note}</span>}
			</span>
			{onRemove && (
				<Button variant="quiet" aria-label={w.removeOf({ what: text })} onClick={onRemove}>
					{w.remove}
				</Button>
			)}
		</li>
	);
}

/** A button that opens a form in its place; the form is sent, or put away with what was typed. */
export function OpenedForm({
	label,
	open,
	onOpen,
	send,
	children,
}: {
	label: string;
	open: boolean;
	onOpen: (open: boolean) => void;
	send: { mutate: () => void; isPending: boolean; error: Error | null };
	children: ReactNode;
}) {
	if (!open)
		return (
			<Button className="mt-2" onClick={() => onOpen(true)}>
				{label}
			</Button>
		);
	return (
		<form
			className="leaf mt-2 grid gap-3 p-4 sm:grid-cols-2"
			onSubmit={(e: FormEvent) => {
				e.preventDefault();
				send.mutate();
			}}
		>
			{children}
			<div className="flex gap-2 sm:col-span-2">
				<Button type="submit" variant="primary" disabled={send.isPending}>
					{label}
				</Button>
				<Button variant="quiet" onClick={() => onOpen(false)}>
					{w.cancel}
				</Button>
			</div>
			<div className="sm:col-span-2">
				<ErrorMessage error={send.error} />
			</div>
		</form>
	);
}

/** A line of text in a form. */
export function TextField({
	label,
	hint,
	fault,
	value,
	onChange,
	max = 200,
}: {
	label: string;
	hint?: string;
	fault?: string | undefined;
	value: string;
	onChange: (value: string) => void;
	max?: number;
}) {
	return (
		<Field label={label} {...(hint ? { hint } : {})} fault={fault}>
			{(a) => <input {...a} className="field" maxLength={max} value={value} onChange={(e) => onChange(e.target.value)} />}
		</Field>
	);
}
