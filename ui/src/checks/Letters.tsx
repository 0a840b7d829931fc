import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { clientLettersQuery, rulesQuery } from "../api/queries";
import { Dialog } from "../kit/Dialog";
import { FormEnd, Input, Lines, useServerForm } from "../kit/form";
import { dayWords } from "../kit/format";
import { Button, ErrorMessage, Loading } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/checks";

/** Whether a doctor's yes would lift an outcome. */
export const asksLetter = (o: Schemas["Contraindication"]) => !o.allowed && (o.kind === "letter" || Boolean(o.outcome.untilLetter));

const stale = ["client", "visit", "plan", "day", "tailored", "free", "series"];

/** Writes the letter that the pre-treatment check asks for; the question is the practitioner's own. */
export function WriteLetter({
	client,
	visit,
	planned,
	plain,
}: {
	client: string;
	visit?: string;
	planned: string;
	/** It is not the next thing to do. */
	plain?: boolean;
}) {
	const [open, setOpen] = useState(false);
	const [written, setWritten] = useState<string | null>(null);
	const cache = useQueryClient();
	const of = useServerForm({
		start: { question: w.safeForYourPatientHavePlanned({ planned }), expected: "" },
		send: ({ question, expected }) =>
			unwrap(
				api.POST("/api/clients/{id}/letters", {
					params: { path: { id: client } },
					body: { question, ...(visit ? { visit } : {}), ...(expected ? { expected } : {}) },
				}),
			),
		onSent: (letter) => {
			setWritten(letter.id);
			cache.removeQueries({ queryKey: ["free"] }); // nothing is free before the answer is expected
			for (const key of stale) cache.invalidateQueries({ queryKey: [key] });
		},
	});
	return (
		<>
			<Button
				variant={plain ? "plain" : "primary"}
				onClick={() => {
					setWritten(null);
					of.reset();
					setOpen(true);
				}}
			>
				{w.writeToTheDoctor}
			</Button>
			<Dialog open={open} onClose={() => setOpen(false)} title={w.aLetterToTheClientsDoctor}>
				{written ? (
					<>
						<p>{w.letterSavedInTheClientsFile}</p>
						<div className="flex justify-end gap-3">
							<Button onClick={() => setOpen(false)}>{w.close}</Button>
							<a
								className="inline-flex min-h-11 items-center rounded-sm bg-persimmon px-4 font-semibold text-white no-underline"
								href={`/api/letters/${written}/paper`}
								target="_blank"
								rel="noreferrer"
							>
								{w.printTheLetter}
							</a>
						</div>
					</>
				) : (
					<form className="grid gap-3" onSubmit={of.submit} noValidate>
						<p className="m-0">{w.namesPlannedTreatmentConditionWeAsk}</p>
						<Lines of={of} field="question" label={w.questionToTheDoctor} rows={5} />
						<Input of={of} field="expected" label={w.answerExpectedBy} hint={w.twoWeeksOnWhereEmpty} type="date" className="w-48" />
						<FormEnd of={of} act={w.saveLetter} onCancel={() => setOpen(false)} cancel={w.notNow} />
					</form>
				)}
			</Dialog>
		</>
	);
}

/** The letters about a client, each to be printed, and answered once. */
export function Letters({ client }: { client: string }) {
	const { at } = useSession();
	const list = useQuery(clientLettersQuery(client));
	const rules = useQuery(rulesQuery);
	const title = (rule: string) => rules.data?.rules.find((x) => x.id === rule)?.title ?? rule;
	const [answering, setAnswering] = useState<string | null>(null);
	const cache = useQueryClient();
	const attach = useMutation({
		mutationFn: async ({ letter, file }: { letter: string; file: File }) =>
			unwrap(
				api.POST("/api/letters/{id}/scans", {
					params: { path: { id: letter } },
					body: "" as never,
					bodySerializer: () => file,
					headers: { "Content-Type": "application/octet-stream" },
				}),
			),
		onSuccess: () => cache.invalidateQueries({ queryKey: ["client"] }),
	});
	const letters = list.data;
	if (!letters) return <Loading of={w.lettersToTheDoctor} error={list.error} retry={() => list.refetch()} />;
	if (letters.length === 0) return null;
	return (
		<>
			<h2 className="mt-8 text-2xl">{w.lettersToTheDoctor}</h2>
			<ErrorMessage error={attach.error} />
			<ul className="m-0 list-none p-0">
				{letters.map((l) => (
					<li key={l.id} className="flex flex-wrap items-center gap-4 border-b border-rule py-1">
						<span className="num w-28">{at.date(l.writtenAt)}</span>
						<span className="min-w-40 flex-1">
							{l.rules.map(title).join("; ")}
							<span className="block text-sm text-soft">
								{l.answer === "yes" ? w.yesValidToUntil({ until: dayWords(l.until ?? "") }) : l.answer === "no" ? w.no : w.noAnswerYet}
								{!l.answer && l.expected ? `, ${w.expectedOn({ day: dayWords(l.expected) })}` : ""}
								{l.note ? `: ${l.note}` : ""}
							</span>
						</span>
						<a
							className="inline-flex min-h-11 items-center font-semibold underline underline-offset-4"
							href={`/api/letters/${l.id}/paper`}
							target="_blank"
							rel="noreferrer"
						>
							{w.print}
						</a>
						{l.scans.map((sc, i) => (
							<a
								key={sc.id}
								className="inline-flex min-h-11 items-center font-semibold underline underline-offset-4"
								href={`/api/scans/${sc.id}`}
								target="_blank"
								rel="noreferrer"
							>
								{w.scanCount({ count: l.scans.length > 1 ? ` ${i + 1}` : "" })}
							</a>
						))}
						<label className="inline-flex min-h-11 cursor-pointer items-center font-semibold underline underline-offset-4 has-[:focus-visible]:outline-3 has-[:focus-visible]:outline-persimmon">
							{w.attachAScan}
							<input
								type="file"
								className="sr-only"
								accept="application/pdf,image/jpeg,image/png"
								onChange={(e) => {
									const file = e.target.files?.[0];
									if (file) attach.mutate({ letter: l.id, file });
									e.target.value = "";
								}}
							/>
						</label>
						{!l.answer && <Button onClick={() => setAnswering(l.id)}>{w.recordTheAnswer}</Button>}
					</li>
				))}
			</ul>
			{answering && <Answer letter={answering} onClose={() => setAnswering(null)} />}
		</>
	);
}

/** The doctor's answer to a letter: recorded once. */
function Answer({ letter, onClose }: { letter: string; onClose: () => void }) {
	const cache = useQueryClient();
	const of = useServerForm({
		start: { answer: "yes", until: "", note: "" },
		send: ({ answer, until, note }) => {
			const yes = answer === "yes";
			return unwrap(
				api.POST("/api/letters/{id}/answer", { params: { path: { id: letter } }, body: yes ? { yes, until, note } : { yes, note } }),
			);
		},
		onSent: () => {
			for (const key of stale) cache.invalidateQueries({ queryKey: [key] });
			onClose();
		},
	});
	return (
		<Dialog open onClose={onClose} title={w.theDoctorsAnswer}>
			<form className="grid gap-3" onSubmit={of.submit} noValidate>
				<fieldset className="m-0 flex gap-5 border-0 p-0">
					<legend className="mb-1 text-sm font-semibold">{w.canTheTreatmentGoAhead}</legend>
					{(["yes", "no"] as const).map((v) => (
						<label key={v} className="flex min-h-11 items-center gap-2 font-semibold">
							<input type="radio" value={v} {...of.form.register("answer")} /> {v === "yes" ? w.yes : w.no}
						</label>
					))}
				</fieldset>
				{of.form.watch("answer") === "yes" && <Input of={of} field="until" label={w.validToLastDay} type="date" className="w-48" />}
				<Lines of={of} field="note" label={w.limitsInTheDoctorsWords} />
				<p className="m-0 text-sm text-soft">{w.youCantChangeThisLaterTodays}</p>
				<FormEnd of={of} act={w.saveAnswer} onCancel={onClose} cancel={w.notNow} />
			</form>
		</Dialog>
	);
}
