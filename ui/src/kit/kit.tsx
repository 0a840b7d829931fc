import { type ButtonHTMLAttributes, type ComponentProps, type ReactNode, useId } from "react";
import { ProblemError } from "../api/client";
import * as w from "../words/catalogue/kit";

type ButtonProps = ButtonHTMLAttributes<HTMLButtonElement> & { variant?: "primary" | "plain" | "quiet" };

const variants = {
	primary: "bg-persimmon text-white hover:bg-persimmon-deep border-persimmon",
	plain: "bg-leaf text-ink hover:bg-white border-[#9c8873]",
	quiet: "bg-transparent text-ink hover:bg-leaf border-transparent underline decoration-rule underline-offset-4",
};

/** A button; `next` is the one thing to do next on a screen. */
export function Button({ variant = "plain", className = "", type = "button", ...rest }: ButtonProps) {
	return (
		<button
			type={type}
			className={`inline-flex min-h-11 items-center justify-center gap-2 rounded-sm border px-4 py-1.5 font-semibold disabled:cursor-not-allowed disabled:opacity-50 ${variants[variant]} ${className}`}
			{...rest}
		/>
	);
}

type FieldProps = {
	label: string;
	hint?: string | undefined;
	fault?: string | undefined;
	children: (a: { id: string; "aria-describedby": string | undefined; "aria-invalid": boolean }) => ReactNode;
};

/** A label, its control, and what is wrong with it. */
export function Field({ label, hint, fault, children }: FieldProps) {
	const id = useId();
	const note = fault ?? hint;
	return (
		<div>
			<label htmlFor={id} className="mb-1 block text-sm font-semibold">
				{label}
			</label>
			{children({ id, "aria-describedby": note ? `${id}-note` : undefined, "aria-invalid": Boolean(fault) })}
			{note && (
				<p id={`${id}-note`} className={`mt-1 mb-0 text-sm ${fault ? "font-semibold text-persimmon-deep" : "text-soft"}`}>
					{note}
				</p>
			)}
		</div>
	);
}

/** What went wrong, in words; nothing when nothing did. */
export function ErrorMessage({ error }: { error: unknown }) {
	if (!error) return null;
	return (
		<p role="alert" className="my-3 border-l-4 border-persimmon bg-blush px-4 py-3 font-semibold">
			{error instanceof ProblemError ? error.message : w.somethingWentWrongHereReloadPage}
		</p>
	);
}

/** Shown while something is on its way, and instead of it when it does not come. */
export function Loading({ of, error, retry }: { of: string; error?: unknown; retry?: () => void }) {
	if (error)
		return (
			<div className="p-6">
				<ErrorMessage error={error} />
				{retry && <Button onClick={retry}>{w.tryAgain}</Button>}
			</div>
		);
	return (
		<p className="p-6 text-soft" role="status">
			{w.fetchingOfText({ ofText: of })}
		</p>
	);
}

/** A page with its title and the one action. */
export function Page({
	title,
	action,
	children,
	...rest
}: { title: ReactNode; action?: ReactNode; children: ReactNode } & Omit<ComponentProps<"main">, "title">) {
	return (
		<main className="mx-auto w-full max-w-[1240px] px-5 pt-4 pb-10" {...rest}>
			<div className="mb-4 flex flex-wrap items-center justify-between gap-3">
				<h1 className="m-0 text-[2rem]">{title}</h1>
				{action}
			</div>
			{children}
		</main>
	);
}

const tones: Record<string, string> = {
	go: "bg-kelp-pale text-kelp",
	"go-with-changes": "bg-kelp-pale text-kelp",
	"needs-letter": "bg-slate-pale text-slate",
	"not-before": "bg-slate-pale text-slate",
	"not-here": "bg-blush text-persimmon-deep",
	urgent: "bg-persimmon-deep text-white",
	"can-be-booked": "bg-kelp-pale text-kelp",
	"ask-practitioner": "bg-blush text-persimmon-deep",
};

/** A word with the tone of a headline. */
export function Badge({ tone, children }: { tone: string; children: ReactNode }) {
	return (
		<span className={`inline-block rounded-sm px-2 py-0.5 text-sm font-semibold ${tones[tone] ?? "bg-slate-pale text-slate"}`}>
			{children}
		</span>
	);
}
