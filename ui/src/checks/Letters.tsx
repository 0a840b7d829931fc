import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../api/client";
import { Dialog } from "../kit/Dialog";
import { dayWords } from "../kit/format";
import { Button, ErrorMessage, Field } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/checks";

/** Whether a doctor's yes would lift an outcome. */
export const asksLetter = (o: Schemas["Contraindication"]) => !o.allowed && (o.kind === "letter" || Boolean(o.outcome.untilLetter));

const stale = ["client", "visit", "plan", "day", "tailored"];

/** Writes the letter that the pre-treatment check asks for; the question is the practitioner's own. */
export function WriteLetter({ client, visit, planned }: { client: string; visit?: string; planned: string }) {
	const [open, setOpen] = useState(false);
	const [question, setQuestion] = useState(w.safeForYourPatientHavePlanned({ planned }));
	const cache = useQueryClient();
	const write = useMutation({
		mutationFn: () =>
			unwrap(api.POST("/api/clients/{id}/letters", { params: { path: { id: client } }, body: visit ? { visit, question } : { question } })),
		onSuccess: () => {
			for (const key of stale) cache.invalidateQueries({ queryKey: [key] });
		},
	});
	return (
		<>
			<Button
				variant="primary"
				onClick={() => {
					write.reset();
					setOpen(true);
				}}
			>
				{w.writeToTheDoctor}
			</Button>
			<Dialog open={open} onClose={() => setOpen(false)} title={w.aLetterToTheClientsDoctor}>
				{write.data ? (
					<>
						<p>{w.letterSavedInTheClientsFile}</p>
						<div className="flex justify-end gap-3">
							<Button onClick={() => setOpen(false)}>{w.close}</Button>
							<a
								className="inline-flex min-h-11 items-center rounded-sm bg-persimmon px-4 font-semibold text-white no-underline"
								href={`/api/letters/${write.data.id}/paper`}
								target="_blank"
								rel="noreferrer"
							>
								{w.printTheLetter}
							</a>
						</div>
					</>
				) : (
					<>
						<p className="mt-0">{w.namesPlannedTreatmentConditionWeAsk}</p>
						<Field label={w.questionToTheDoctor} fault={write.error instanceof ProblemError ? write.error.at("/question") : undefined}>
							{(a) => <textarea {...a} className="field min-h-32" value={question} onChange={(e) => setQuestion(e.target.value)} />}
						</Field>
						<ErrorMessage error={write.error} />
						<div className="mt-4 flex justify-end gap-3">
							<Button onClick={() => setOpen(false)}>{w.notNow}</Button>
							<Button variant="primary" disabled={write.isPending} onClick={() => write.mutate()}>
								{w.saveLetter}
							</Button>
						</div>
					</>
				)}
			</Dialog>
		</>
	);
}

/** The letters about a client, each to be printed, and answered once. */
export function Letters({ letters, title }: { letters: Schemas["Letter"][]; title: (rule: string) => string }) {
	const { at } = useSession();
	const [answering, setAnswering] = useState<string | null>(null);
	const [yes, setYes] = useState(true);
	const [until, setUntil] = useState("");
	const [note, setNote] = useState("");
	const cache = useQueryClient();
	const save = useMutation({
		mutationFn: (id: string) =>
			unwrap(api.POST("/api/letters/{id}/answer", { params: { path: { id } }, body: yes ? { yes, until, note } : { yes, note } })),
		onSuccess: () => {
			setAnswering(null);
			for (const key of stale) cache.invalidateQueries({ queryKey: [key] });
		},
	});
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
						{!l.answer && (
							<Button
								onClick={() => {
									save.reset();
									setAnswering(l.id);
								}}
							>
								{w.recordTheAnswer}
							</Button>
						)}
					</li>
				))}
			</ul>
			<Dialog open={answering !== null} onClose={() => setAnswering(null)} title={w.theDoctorsAnswer}>
				<fieldset className="m-0 mb-3 flex gap-5 border-0 p-0">
					<legend className="mb-1 text-sm font-semibold">{w.canTheTreatmentGoAhead}</legend>
					{[true, false].map((v) => (
						<label key={String(v)} className="flex min-h-11 items-center gap-2 font-semibold">
							<input type="radio" name="doctor" checked={yes === v} onChange={() => setYes(v)} /> {v ? w.yes : w.no}
						</label>
					))}
				</fieldset>
				{yes && (
					<Field label={w.validToLastDay} fault={save.error instanceof ProblemError ? save.error.at("/until") : undefined}>
						{(a) => <input {...a} type="date" className="field w-48" value={until} onChange={(e) => setUntil(e.target.value)} />}
					</Field>
				)}
				<div className="mt-3">
					<Field label={w.limitsInTheDoctorsWords}>
						{(a) => <textarea {...a} className="field" value={note} onChange={(e) => setNote(e.target.value)} />}
					</Field>
				</div>
				<ErrorMessage error={save.error} />
				<p className="text-sm text-soft">{w.youCantChangeThisLaterTodays}</p>
				<div className="flex justify-end gap-3">
					<Button onClick={() => setAnswering(null)}>{w.notNow}</Button>
					<Button variant="primary" disabled={save.isPending} onClick={() => answering && save.mutate(answering)}>
						{w.saveAnswer}
					</Button>
				</div>
			</Dialog>
		</>
	);
}
