import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { Button, ErrorMessage } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/treatment";

/** What was added to a locked record, dated and by name, and the place to add more. */
export function Additions({ view, onAdded }: { view: Schemas["RecordView"]; onAdded: (v: Schemas["RecordView"]) => void }) {
	const { at, may } = useSession();
	const [text, setText] = useState("");
	const add = useMutation({
		mutationFn: () =>
			unwrap(api.POST("/api/visits/{id}/record/additions", { params: { path: { id: view.visit.id } }, body: { body: text } })),
		onSuccess: (v) => {
			setText("");
			onAdded(v);
		},
	});
	return (
		<section aria-label={w.addedLater} className="mt-6">
			{view.additions.length > 0 && <h2 className="mb-1 text-2xl">{w.addedLater}</h2>}
			<ul className="m-0 list-none p-0">
				{view.additions.map((a) => (
					<li key={a.id} className="border-b border-rule py-2">
						<span className="num block text-sm text-soft">
							{at.date(a.at)}, {at.time(a.at)}, {a.author}
						</span>
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
						<Button type="submit" disabled={add.isPending || text.trim() === ""}>
							{w.addToThisRecord}
						</Button>
						<span className="text-sm text-soft">{w.whatWasSignedStaysAsItIs}</span>
					</span>
				</form>
			)}
		</section>
	);
}
