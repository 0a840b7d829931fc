import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { Button, ErrorMessage, Field } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/treatment";
import { recordFieldWords } from "../words/sentences";

/** What was added to a locked record, dated and by name, and the place to add more. */
export function Additions({ view, onAdded }: { view: Schemas["RecordView"]; onAdded: (v: Schemas["RecordView"]) => void }) {
	const { at, may } = useSession();
	const [text, setText] = useState("");
	const [field, setField] = useState("");
	const [right, setRight] = useState("");
	const add = useMutation({
		mutationFn: () =>
			unwrap(
				api.POST("/api/visits/{id}/record/additions", {
					params: { path: { id: view.visit.id } },
					body: { body: text, ...(field ? { field, right } : {}) },
				}),
			),
		onSuccess: (v) => {
			setText("");
			setField("");
			setRight("");
			onAdded(v);
		},
	});
	const fieldName = (key: string) => {
		const kind = recordFieldWords[key.split("/")[0] ?? ""] ?? key;
		const name = view.correctable?.find((f) => f.field === key)?.name;
		return name ? `${name}, ${kind}` : kind;
	};
	const chosen = view.correctable?.find((f) => f.field === field);
	return (
		<section aria-label={w.addedLater} className="mt-6">
			{view.additions.length > 0 && <h2 className="mb-1 text-2xl">{w.addedLater}</h2>}
			<ul className="m-0 list-none p-0">
				{view.additions.map((a) => (
					<li key={a.id} className="border-b border-rule py-2">
						<span className="num block text-sm text-soft">
							{at.date(a.at)}, {at.time(a.at)}, {a.author}
						</span>
						{a.field && (
							<span className="num block">
								{fieldName(a.field)}: <s className="text-soft">{a.was}</s> → <span className="font-semibold">{a.right}</span>
							</span>
						)}
						<span className="whitespace-pre-wrap">{a.body}</span>
					</li>
				))}
			</ul>
			{may("add-to-record") && (
				<form
					className="mt-4 grid max-w-2xl gap-2"
					onSubmit={(e) => {
						e.preventDefault();
						add.mutate();
					}}
				>
					<Field label={w.whatIsCorrected}>
						{(f) => (
							<select {...f} className="field" value={field} onChange={(e) => setField(e.target.value)}>
								<option value="">{w.onlyAText}</option>
								{view.correctable?.map((c) => (
									<option key={c.field} value={c.field}>
										{fieldName(c.field)}
									</option>
								))}
							</select>
						)}
					</Field>
					{chosen && (
						<Field label={w.rightValue} hint={field.startsWith("used/") || field.startsWith("lot/") ? w.stockStays : undefined}>
							{(f) => (
								<span className="flex items-center gap-3">
									<s className="num text-soft">{chosen.was}</s>
									<input {...f} className="field num" maxLength={4000} value={right} onChange={(e) => setRight(e.target.value)} />
								</span>
							)}
						</Field>
					)}
					<textarea
						className="field min-h-20"
						aria-label={w.whatToAdd}
						placeholder={w.whatToAdd}
						maxLength={4000}
						value={text}
						onChange={(e) => setText(e.target.value)}
					/>
					<ErrorMessage error={add.error} />
					<span className="flex flex-wrap items-center gap-4">
						<Button type="submit" disabled={add.isPending || (field ? right.trim() === "" : text.trim() === "")}>
							{w.addToThisRecord}
						</Button>
						<span className="text-sm text-soft">{w.whatWasSignedStaysAsItIs}</span>
					</span>
				</form>
			)}
		</section>
	);
}
