import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../api/client";
import { clientQuery, libraryQuery, questionsQuery } from "../api/queries";
import { FaceMap } from "../face/FaceMap";
import { Dialog } from "../kit/Dialog";
import { dayWords } from "../kit/format";
import { Button, ErrorMessage, Loading } from "../kit/kit";
import { useNow, useSession } from "../kit/session";
import * as w from "../words/catalogue/checks";
import { caution } from "../words/sentences";
import { Allergies, type ClientHistory, Concerns, Life, Medicines, Person, type Search } from "./ClientHistory";
import { type Answer, type Answers, Questions, togglePlace, wantsZones } from "./Questions";
import { SpokenQuestions } from "./SpokenQuestions";

type Rule = Schemas["Rule"];

type Props = {
	client: string;
	visit?: string | undefined;
	/** A consultation the client sent in, to be gone through instead of the questions before a treatment. */
	review?: Schemas["Consultation"] | undefined;
	onDone: () => void;
};

/** The pre-treatment check. Answers that the client sent by a private link are reviewed first. */
export function PreTreatmentCheck(p: Props) {
	const file = useQuery(clientQuery(p.client));
	const questions = useQuery({ ...questionsQuery(p.client), refetchOnWindowFocus: false });
	// The form begins with what is known now: it waits for that after a review, too.
	if (!file.data || !questions.data || questions.isFetching) return <Loading of={w.theQuestions} error={file.error ?? questions.error} />;
	const sent = file.data.consultations.find((c) => c.sentAt && !c.reviewedAt);
	if (sent && !p.review) return <Check key={sent.id} {...p} questions={questions.data} review={sent} onDone={() => {}} />;
	return <Check key="door" {...p} questions={questions.data} />;
}

const search: Search = (kind, text) => unwrap(api.GET("/api/substances", { params: { query: { kind, text } } }));

/** Rules of two lists, each once, in the order of the first. */
const joined = (a: readonly Rule[], b: readonly Rule[]) => [...a, ...b.filter((r) => !a.some((x) => x.id === r.id))];

/**
 * The rules as plain questions, judged together. Where no consultation holds, its
 * questions are asked with those before a treatment; where one does, only what it was never asked.
 */
function Check({ client, visit, review, questions: q, onDone }: Props & { questions: Schemas["Questions"] }) {
	const library = useQuery(libraryQuery);
	const { at } = useSession();
	const today = at.day(useNow(60_000));
	const [confirming, setConfirming] = useState(false);
	const [answers, setAnswers] = useState<Answers>(review?.answers ?? q.carried);
	const [history, setHistory] = useState<ClientHistory>(review?.history ?? q.history);
	const [anew, setAnew] = useState(false);
	const [marking, setMarking] = useState<string | null>(null);
	const [each, setEach] = useState(false); // every question of a short check is shown
	const [together, setTogether] = useState<string[]>([]); // what was answered no in one go
	const cache = useQueryClient();
	const whole = Boolean(review) || anew || !q.validUntil; // every question is asked
	const medicines = history.medicines ?? [];
	const doubts = useQuery({
		queryKey: ["doubts", medicines],
		queryFn: () => unwrap(api.GET("/api/medicine-conflicts", { params: { query: { medicine: medicines } } })),
		enabled: whole && medicines.length > 0,
	});
	const list = review ? q.consultation : whole ? joined(q.door, q.consultation) : joined(q.door, q.missing);
	const judge = useMutation({
		mutationFn: async () => {
			const known = Object.fromEntries(list.flatMap((r) => (answers[r.id] ? [[r.id, answers[r.id]!]] : [])));
			if (review)
				await unwrap(
					api.POST("/api/clients/{id}/consultations/{consultation}/review", {
						params: { path: { id: client, consultation: review.id } },
						body: { answers: known, history },
					}),
				);
			else
				await unwrap(
					api.POST("/api/clients/{id}/pre-checks", {
						params: { path: { id: client } },
						body: { answers: known, together, ...(visit ? { visit } : {}), ...(whole ? { history } : {}) },
					}),
				);
		},
		onSuccess: () => {
			for (const key of ["client", "visit", "plan", "day", "questions"]) cache.invalidateQueries({ queryKey: [key] });
			onDone();
		},
	});
	if (!library.data) return <Loading of={w.theQuestions} error={library.error} />;
	const left = list.filter((r) => !answers[r.id]).length;
	const unsure = list.filter((r) => answers[r.id]?.unsure).length;
	const problem = judge.error instanceof ProblemError ? judge.error : null;
	const answer = (r: Rule, a: Answer) => {
		setAnswers((old) => ({ ...old, [r.id]: a }));
		if (a.yes && wantsZones(r)) setMarking(r.id);
		else if (marking === r.id) setMarking(null);
	};
	/** No to what of some rules has no answer yet; the practitioner says to have asked each. */
	const none = (rules: readonly Rule[]) => {
		const open = rules.filter((r) => !answers[r.id]);
		setTogether((was) => [...was, ...open.map((r) => r.id)]);
		setAnswers((old) => ({ ...Object.fromEntries(open.map((r) => [r.id, { yes: false }])), ...old }));
	};
	const short = !whole && !each && q.spoken.length > 0;
	const unanswered = list.filter((r) => !answers[r.id]);
	const again = () => {
		setAnswers((old) => ({ ...q.standing, ...old }));
		setAnew(true);
	};
	const active = list.find((r) => r.id === marking);
	const carried = q.since === today ? 0 : list.filter((r) => q.carried[r.id]?.yes).length;
	const part = { history, onHistory: setHistory };
	const asking = {
		lists: q.lists,
		doubts: doubts.data ?? [],
		answers,
		onAnswer: answer,
		fault: (id: string) => problem?.problem.errors?.find((e) => e.path.startsWith(`/answers/${id}`))?.message,
		today,
		marking,
		onMark: setMarking,
	};
	// What the client said no to comes after what there is to talk about; it stays where it was while it is gone through.
	const saidNo = (r: Rule) => {
		const a = review?.answers[r.id];
		const doubted = (doubts.data ?? []).some((d) => d.rule === r.id);
		return Boolean(a) && !a?.yes && !a?.unsure && !a?.option && !doubted;
	};
	const folded = review ? list.filter(saidNo) : [];
	return (
		<div className="grid gap-8 lg:grid-cols-[minmax(0,1fr)_400px]">
			<Dialog open={confirming} onClose={() => setConfirming(false)} title={w.didYouAskEachQuestion}>
				<p>{w.leftAnsweredNoYouCanChange({ left: left === 1 ? w.theRemainingQuestionIs : w.theRemainingLeftQuestionsAre({ left }) })}</p>
				<p className="mt-2 mb-4 max-h-48 overflow-y-auto border-y border-rule py-2 text-sm text-soft">
					{w.theyAre({ names: unanswered.map((r) => r.short || r.title).join(", ") })}
				</p>
				<div className="flex flex-wrap gap-3">
					<Button
						variant="primary"
						onClick={() => {
							none(unanswered);
							setConfirming(false);
						}}
					>
						{w.iAskedEachOne}
					</Button>
					<Button onClick={() => setConfirming(false)}>{w.cancel}</Button>
				</div>
			</Dialog>
			<div>
				<div className="sticky top-0 z-10 mb-2 flex flex-wrap items-center gap-3 bg-paper py-2">
					<Button onClick={() => setConfirming(true)} disabled={left === 0}>
						{w.answerNoToTheRemainingLeft({ left })}
					</Button>
					<Button variant="primary" disabled={left + unsure > 0 || judge.isPending} onClick={() => judge.mutate()}>
						{review ? w.saveReviewedConsultation : together.length > 0 ? w.iAskedEachOneSave : w.saveAndSeeResult}
					</Button>
					<span className="text-sm text-soft" aria-live="polite">
						{left > 0
							? left === 1
								? "1 question left"
								: w.leftQuestionsLeft({ left })
							: unsure > 0
								? unsure === 1
									? "1 answer is “not sure”. Go through it with the client."
									: w.unsureAnswersNotSureGoThrough({ unsure })
								: w.allAnswered}
					</span>
				</div>
				<ErrorMessage error={judge.error} />
				{review ? (
					<p className="mt-0 mb-6">{w.clientSentTheseAnswersGoThrough}</p>
				) : (
					<>
						{q.since && (
							<p className="mt-0 mb-1 font-serif text-2xl font-semibold">
								{w.hasAnythingChangedSinceSince({ since: q.since === today ? w.theLastCheckToday : dayWords(q.since) })}
							</p>
						)}
						<p className="mt-0 mb-4 text-sm text-soft">
							{q.since === today && w.theseAnswersFromLastCheckChange}
							{carried > 0 &&
								(carried === 1
									? "1 earlier answer still applies and is filled in. "
									: w.carriedEarlierAnswersStillApplyFilled({ carried }))}
							{q.validUntil ? w.consultationValidUntilSoOnly({ validUntil: dayWords(q.validUntil) }) : w.thereNoCurrentConsultationSoIts}
							{q.validUntil && !anew && (
								<Button variant="quiet" onClick={again}>
									{w.updateWholeConsultation}
								</Button>
							)}
							{!whole && q.spoken.length > 0 && (
								<Button variant="quiet" onClick={() => setEach(!each)}>
									{each ? w.showSpokenQuestions : w.showEachQuestion}
								</Button>
							)}
						</p>
					</>
				)}
				{review && folded.length === list.length && <p className="text-lg">{w.noToEverything}</p>}
				{short ? (
					<SpokenQuestions {...asking} rules={list} spoken={q.spoken} onNone={none} />
				) : (
					<Questions {...asking} rules={list.filter((r) => !folded.includes(r))} />
				)}
				{folded.length > 0 && (
					<details className="mb-4">
						<summary className="min-h-11 cursor-pointer py-2 font-serif text-xl font-semibold">
							{w.noToNQuestions({ n: folded.length })}
						</summary>
						<Questions {...asking} rules={folded} />
					</details>
				)}
				{whole && (
					<section aria-label={w.clientHistory} className="mt-6 grid gap-6">
						<h2 className="m-0 text-2xl">{w.clientHistory}</h2>
						<Medicines {...part} search={search} />
						<Allergies {...part} search={search} />
						<Person {...part} today={today} fault={problem?.at("/history/birthDate")} />
						<Concerns {...part} all={q.concerns} />
						<Life {...part} fault={problem?.at("/history/bedtime")} />
					</section>
				)}
			</div>
			<aside className="lg:sticky lg:top-2 lg:self-start">
				<p className="m-0 mb-1 font-serif text-xl font-semibold">{active ? active.title : w.markZones}</p>
				<p className="mt-0 mb-2 text-sm text-soft">{active ? w.tapEachZoneOrUseArrow : w.ifYesNeedsAreaMarkHere}</p>
				<div className="leaf h-[440px] p-2">
					<FaceMap
						zones={library.data.zones}
						marked={marking ? (answers[marking]?.zones ?? []) : []}
						{...(active ? { onMark: (p) => setAnswers((old) => ({ ...old, [active.id]: togglePlace(old[active.id], p) })) } : {})}
						label={active ? w.markZonesTitle({ title: active.title }) : w.theFaceFromTheFront}
					/>
				</div>
				<p className="mt-3 text-sm text-soft">{caution}</p>
			</aside>
		</div>
	);
}
