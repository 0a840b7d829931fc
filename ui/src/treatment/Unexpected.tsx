import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { newId } from "../kit/format";
import { Button, ErrorMessage, Field } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/treatment";
import { incidentKindWords, reactionKindWords } from "../words/sentences";
import { ReactionForm, type ReactionStart } from "./ReactionForm";

type View = Schemas["RecordView"];

/** What went wrong at a treatment: reactions of the skin and incidents, and where each is recorded. */
export function Unexpected({
	view,
	open,
	onChanged,
	onReaction,
}: {
	view: View;
	/** Begins with the form of a reaction open, as after Stop in the room. */
	open: boolean;
	onChanged: (v: View) => void;
	onReaction: () => void;
}) {
	const { at, may } = useSession();
	const stop = view.account?.stops.at(-1);
	const [doing, setDoing] = useState<"" | "reaction" | "incident">(open ? "reaction" : "");
	const start: ReactionStart = {
		visit: view.visit.id,
		...(stop ? { minute: stop.minute, step: stop.step, zones: stop.zones } : {}),
	};
	return (
		<section aria-label={w.incidents}>
			{(view.reactions.length > 0 || view.incidents.length > 0) && (
				<ul className="m-0 mt-4 list-none p-0">
					{view.reactions.map((r) => (
						<li key={r.id} className="border-b border-rule py-1.5">
							<span className="font-semibold">{reactionKindWords[r.kind]}</span>, {w.gradeOf({ n: r.grade }).toLowerCase()}
							<span className="num block text-sm text-soft">
								{at.date(r.noticedAt)}, {at.time(r.noticedAt)}
								{r.step && ` · ${r.step}`}
							</span>
						</li>
					))}
					{view.incidents.map((i) => (
						<li key={i.id} className="border-b border-rule py-1.5">
							<span className="font-semibold">{incidentKindWords[i.kind]}</span>: {i.body}
							<span className="num block text-sm text-soft">
								{at.date(i.at)}, {at.time(i.at)}
								{i.told && ` · ${w.toldTo({ who: i.told })}`}
							</span>
						</li>
					))}
				</ul>
			)}
			{doing === "" && (
				<div className="mt-4 flex flex-wrap gap-3">
					{may("open-reaction") && <Button onClick={() => setDoing("reaction")}>{w.recordReaction}</Button>}
					{may("add-incident") && <Button onClick={() => setDoing("incident")}>{w.incident}</Button>}
				</div>
			)}
			{doing === "reaction" && (
				<ReactionForm
					client={view.visit.client}
					start={start}
					onCancel={() => setDoing("")}
					onSaved={() => {
						setDoing("");
						onReaction();
					}}
				/>
			)}
			{doing === "incident" && (
				<IncidentForm
					visit={view.visit.id}
					onCancel={() => setDoing("")}
					onSaved={(v) => {
						setDoing("");
						onChanged(v);
					}}
				/>
			)}
		</section>
	);
}

function IncidentForm({ visit, onSaved, onCancel }: { visit: string; onSaved: (v: View) => void; onCancel: () => void }) {
	const [id] = useState(newId);
	const [kind, setKind] = useState("");
	const [text, setText] = useState("");
	const [told, setTold] = useState("");
	const send = useMutation({
		mutationFn: () =>
			unwrap(api.POST("/api/visits/{id}/incidents", { params: { path: { id: visit } }, body: { id, kind, body: text, told } })),
		onSuccess: onSaved,
	});
	return (
		<form
			className="leaf mt-3 grid gap-3 p-4"
			aria-label={w.incident}
			onSubmit={(e) => {
				e.preventDefault();
				send.mutate();
			}}
		>
			<Field label={w.whatHappened}>
				{(a) => (
					<select {...a} className="field" value={kind} onChange={(e) => setKind(e.target.value)}>
						<option value="">{w.chooseWhatWasNoticed}</option>
						{Object.entries(incidentKindWords).map(([key, name]) => (
							<option key={key} value={key}>
								{name}
							</option>
						))}
					</select>
				)}
			</Field>
			<textarea
				className="field min-h-16"
				aria-label={w.whatHappened}
				maxLength={2000}
				value={text}
				onChange={(e) => setText(e.target.value)}
			/>
			<Field label={w.whoWasTold}>
				{(a) => <input {...a} className="field" maxLength={200} value={told} onChange={(e) => setTold(e.target.value)} />}
			</Field>
			<ErrorMessage error={send.error} />
			<div className="flex gap-3">
				<Button type="submit" variant="primary" disabled={!kind || !text.trim() || send.isPending}>
					{w.saveIncident}
				</Button>
				<Button onClick={onCancel}>{w.cancel}</Button>
			</div>
		</form>
	);
}
