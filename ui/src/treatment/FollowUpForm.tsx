import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { Button, ErrorMessage, Field } from "../kit/kit";
import * as w from "../words/catalogue/treatment";
import { reactionNowWords, reactionOutcomeWords } from "../words/sentences";
import { Grades } from "./ReactionForm";

type Now = Schemas["FollowUpAnswer"]["now"];

/** Asks how a reaction is, with the words to ask it in. */
export function FollowUpForm({
	reaction,
	n,
	onSaved,
	onCancel,
}: {
	reaction: string;
	n: number;
	onSaved: () => void;
	onCancel: () => void;
}) {
	const [now, setNow] = useState<Now>();
	const [grade, setGrade] = useState<number>();
	const [note, setNote] = useState("");
	const [doctor, setDoctor] = useState(false);
	const graded = now !== undefined && now !== "gone" && now !== "not-reached";
	const send = useMutation({
		mutationFn: () =>
			unwrap(
				api.POST("/api/reactions/{id}/follow-ups/{n}", {
					params: { path: { id: reaction, n } },
					body: {
						now: now ?? "same",
						note,
						...(graded && grade !== undefined ? { grade } : {}),
						...(graded && doctor ? { doctor } : {}),
					},
				}),
			),
		onSuccess: onSaved,
	});
	return (
		<form
			className="mt-2 grid gap-3"
			aria-label={w.howIsItNow}
			onSubmit={(e) => {
				e.preventDefault();
				send.mutate();
			}}
		>
			<p className="m-0 border-l-4 border-slate bg-slate-pale px-4 py-2">{w.askLikeThis}</p>
			<fieldset className="m-0 flex flex-wrap gap-2 border-0 p-0">
				<legend className="mb-1 text-sm font-semibold">{w.howIsItNow}</legend>
				{Object.entries(reactionNowWords).map(([key, name]) => (
					<Button
						key={key}
						aria-pressed={now === key}
						className={now === key ? "border-ink bg-white" : ""}
						onClick={() => setNow(key as Now)}
					>
						{name}
					</Button>
				))}
			</fieldset>
			{now === "not-reached" && <p className="m-0 text-sm text-soft">{w.notReachedNote}</p>}
			{graded && (
				<fieldset className="m-0 grid gap-0.5 border-0 p-0">
					<legend className="mb-1 text-sm font-semibold">{w.gradeNow}</legend>
					<Grades value={grade} onChange={setGrade} />
					<label className="flex min-h-11 items-center gap-3 px-3">
						<input type="checkbox" className="size-5 accent-persimmon" checked={doctor} onChange={(e) => setDoctor(e.target.checked)} />
						{w.referredToDoctor}
					</label>
				</fieldset>
			)}
			<Field label={w.whatTheClientSaid}>
				{(a) => <input {...a} className="field" maxLength={2000} value={note} onChange={(e) => setNote(e.target.value)} />}
			</Field>
			<ErrorMessage error={send.error} />
			<div className="flex gap-3">
				<Button type="submit" variant="primary" disabled={now === undefined || (graded && grade === undefined) || send.isPending}>
					{w.saveFollowUp}
				</Button>
				<Button onClick={onCancel}>{w.cancel}</Button>
			</div>
		</form>
	);
}

type Outcome = "settled" | "doctor" | "mistake";

/** Closes a reaction; one recorded by mistake says why. */
export function CloseReaction({ reaction, onSaved, onCancel }: { reaction: string; onSaved: () => void; onCancel: () => void }) {
	const [outcome, setOutcome] = useState<Outcome>("settled");
	const [note, setNote] = useState("");
	const send = useMutation({
		mutationFn: () => unwrap(api.POST("/api/reactions/{id}/close", { params: { path: { id: reaction } }, body: { outcome, note } })),
		onSuccess: onSaved,
	});
	return (
		<form
			className="mt-2 grid gap-3"
			aria-label={w.closeReaction}
			onSubmit={(e) => {
				e.preventDefault();
				send.mutate();
			}}
		>
			<Field label={w.closeAs}>
				{(a) => (
					<select {...a} className="field" value={outcome} onChange={(e) => setOutcome(e.target.value as Outcome)}>
						{Object.entries(reactionOutcomeWords).map(([key, name]) => (
							<option key={key} value={key}>
								{name}
							</option>
						))}
					</select>
				)}
			</Field>
			<Field label={outcome === "mistake" ? w.whyMistake : w.whatTheClientSaid}>
				{(a) => <input {...a} className="field" maxLength={2000} value={note} onChange={(e) => setNote(e.target.value)} />}
			</Field>
			<ErrorMessage error={send.error} />
			<div className="flex gap-3">
				<Button type="submit" variant="primary" disabled={send.isPending}>
					{w.closeReaction}
				</Button>
				<Button onClick={onCancel}>{w.cancel}</Button>
			</div>
		</form>
	);
}
