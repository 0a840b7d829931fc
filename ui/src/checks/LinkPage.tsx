import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useEffect, useMemo, useRef, useState } from "react";
import { api, ProblemError, type Schemas, setSession, unwrap } from "../api/client";
import { sessionQuery } from "../api/session";
import { Button, ErrorMessage, Loading } from "../kit/kit";
import { late } from "../kit/late";
import { canRetry, useAutosave } from "../kit/useAutosave";
import * as w from "../words/catalogue/link";
import { clientCaution } from "../words/client";
import { Allergies, type ClientHistory, Concerns, Life, Medicines, Person, type Search } from "./ClientHistory";
import { type Answer, type Answers, complete, DayOf, Options, togglePlace, wantsDay, wantsZones, YesNo } from "./Questions";

// The face is loaded when a place is to be marked on it.
const ClientMarking = late(async () => (await import("./ClientMarking")).ClientMarking);

type Rule = Schemas["ClientQuestion"];
type FormPage = { key: string; part?: "person" | "concerns" | "medicines" | "allergies" | "life"; list?: Schemas["List"]; rules: Rule[] };

type Answered = { answers: Answers; history: ClientHistory };

// Only the studio's own tablet is taken back from a client.
const UnlockTablet = late(async () => (await import("../house")).UnlockTablet);
const unlock = <UnlockTablet />;

const perPage = 6;
/** The pages in the order in which they are turned: who it is, the questions by group, what goes with them. */
function formPages(rules: readonly Rule[], lists: readonly Schemas["List"][]): FormPage[] {
	const out: FormPage[] = [
		{ key: "person", part: "person", rules: [] },
		{ key: "concerns", part: "concerns", rules: [] },
	];
	for (const group of [...new Set(rules.map((r) => r.group))]) {
		const own = rules.filter((r) => r.group === group);
		const list = lists.find((l) => l.group === group);
		const part = group === "Medicines" ? "medicines" : group === "Allergies" ? "allergies" : group === "Wishes" ? "life" : undefined;
		if (list) out.push({ key: group, list, rules: own, ...(part ? { part } : {}) });
		else
			for (let i = 0; i < own.length; i += perPage)
				out.push({ key: `${group}-${i}`, rules: own.slice(i, i + perPage), ...(part && i === 0 ? { part } : {}) });
	}
	return out;
}

/** The client's own page: a consultation in few large questions, saved as one goes. */
export function LinkPage() {
	const token = window.location.hash.slice(1);
	const headers = { "X-Link-Token": token };
	const leftAt = `page of ${token}`;
	const link = useQuery({
		queryKey: ["link"],
		queryFn: () => unwrap(api.GET("/api/consultation", { params: { header: headers } })),
		staleTime: Number.POSITIVE_INFINITY,
		refetchOnWindowFocus: false,
	});
	const session = useQuery(sessionQuery);
	setSession(session.data?.locked ? (session.data.csrf ?? "") : "", () => {});
	const [answers, setAnswers] = useState<Answers | null>(null);
	const [history, setHistory] = useState<ClientHistory>({});
	const [page, setPage] = useState(0);
	const [error, setError] = useState<unknown>(null);
	const [sent, setSent] = useState(false);
	const top = useRef<HTMLHeadingElement>(null);
	const saver = useAutosave<Answered, unknown>({
		key: `answers of ${token}`,
		ready: answers !== null && !sent,
		send: (now) => unwrap(api.PUT("/api/consultation", { params: { header: headers }, body: { ...now, send: false } })),
		onRestored: (found) => {
			setAnswers(found.answers);
			setHistory(found.history);
		},
	});
	const forms = useMemo(() => formPages(link.data?.questions ?? [], link.data?.lists ?? []), [link.data]);

	useEffect(() => {
		document.title = w.softPalmConsultation;
	}, []);
	useEffect(() => {
		if (!link.data || answers) return;
		setAnswers(link.data.answers);
		setHistory(link.data.history);
		setSent(link.data.sent);
		const first = forms.findIndex((l) => l.rules.some((r) => !complete(r, link.data.answers[r.id])));
		const begun = Object.keys(link.data.answers).length > 0;
		const left = Number(sessionStorage.getItem(leftAt) ?? -1); // a reload comes back to the same page
		setPage(left >= 0 && left <= forms.length ? left : !begun ? 0 : first < 0 ? forms.length : first);
	}, [link.data, answers, forms]);

	const change = (next: { answers?: Answers; history?: ClientHistory }) => {
		const now = { answers: next.answers ?? answers ?? {}, history: next.history ?? history };
		setAnswers(now.answers);
		setHistory(now.history);
		setError(null);
		saver.put(now, 0);
	};
	const set = (id: string, a: Answer) => change({ answers: { ...(answers ?? {}), [id]: a } });
	const turn = (to: number) => {
		setPage(to);
		sessionStorage.setItem(leftAt, String(to));
		setError(null);
		top.current?.focus();
		window.scrollTo(0, 0);
	};
	const send = async () => {
		try {
			await saver.flush(); // nothing that was said before may arrive after this
			await unwrap(api.PUT("/api/consultation", { params: { header: headers }, body: { answers: answers ?? {}, history, send: true } }));
			saver.forget();
			sessionStorage.removeItem(leftAt);
			setSent(true);
			setAnswers({});
			setHistory({});
		} catch (e) {
			setError(e);
		}
	};
	if (!link.data || !answers)
		return (
			<main className="mx-auto max-w-xl p-5">
				<h1 className="text-3xl">{w.consultation}</h1>
				<Loading of={w.yourQuestions} error={link.error} retry={() => link.refetch()} />
				{session.data?.locked && unlock}
			</main>
		);
	const { questions, today, studioName } = link.data;
	const search: Search = (kind, text) =>
		unwrap(api.GET("/api/consultation/substances", { params: { header: headers, query: { kind, text } } }));
	const open = questions.filter((q) => !complete(q, answers[q.id]));
	const form = forms[page];
	const part = { history, onHistory: (a: ClientHistory) => change({ history: a }) };
	const wrong = error ?? (canRetry(saver.fault) ? null : saver.fault);
	const fault = (path: string) => (wrong instanceof ProblemError ? wrong.at(path) : undefined);
	const follow = (q: Rule) => {
		const a = answers[q.id];
		if (!a?.yes) return null;
		return (
			<>
				{wantsDay(q) && (
					<div className="mt-3">
						<DayOf rule={q} answer={a} today={today} onAnswer={(n) => set(q.id, n)} />
					</div>
				)}
				{wantsZones(q) && (
					<div className="mt-3">
						<ClientMarking
							meanwhile={(failed) =>
								failed ? <Loading of="" error={failed.error} retry={failed.again} /> : <div className="leaf h-[360px]" />
							}
							marked={a.zones ?? []}
							onMark={(p) => set(q.id, togglePlace(a, p))}
							label={w.markAreasTitle({ title: q.title })}
						/>
					</div>
				)}
			</>
		);
	};
	/** Says no to what of a page has no answer yet, because the client says so; then turns it where nothing is left. */
	const noToTheRest = () => {
		if (!form) return;
		const said = Object.fromEntries(form.rules.map((r) => [r.id, answers[r.id] ?? { yes: false }]));
		change({ answers: { ...answers, ...said } });
		if (!form.part && form.rules.every((r) => complete(r, said[r.id]))) turn(page + 1);
	};
	const unsaid = form?.rules.filter((r) => !answers[r.id] && r.asks !== "choice").length ?? 0;
	const none = form?.list
		? unsaid === form.rules.length
			? w.noneOfThese
			: w.noneOfTheOthers
		: unsaid === form?.rules.length
			? w.noToAllOfThese
			: w.noToTheRest;
	return (
		<main className="mx-auto max-w-xl px-5 pt-4 pb-10">
			<p className="m-0 text-sm text-soft">{studioName}</p>
			<h1 ref={top} tabIndex={-1} className="mt-0 mb-3 text-3xl outline-none">
				{sent ? w.thankYou : form ? w.beforeYourTreatment : w.checkYourAnswers}
			</h1>
			{sent ? (
				<>
					<p className="text-lg">{w.thankYouWeHaveYourAnswers}</p>
					{session.data?.locked && unlock}
				</>
			) : (
				<>
					<div className="mb-4">
						<div className="h-1.5 rounded-sm bg-rule" aria-hidden="true">
							<div className="h-1.5 rounded-sm bg-persimmon" style={{ width: `${(100 * page) / forms.length}%` }} />
						</div>
						<p className="m-0 mt-1 flex justify-between text-sm text-soft">
							<span>
								{form
									? w.pagePageOfCount({ page: page + 1, count: forms.length })
									: w.countOfCount2Answered({ count: questions.length - open.length, count2: questions.length })}
							</span>
							<span role="status">
								{saver.state === "saved" ? w.saved : saver.state === "not saved" ? w.notSavedYetTryingAgain : w.saving}
							</span>
						</p>
					</div>
					<ErrorMessage error={wrong} />
					{form ? (
						<div className="grid gap-6">
							{form.part === "person" && <Person {...part} today={today} fault={fault("/history/birthDate")} />}
							{form.part === "concerns" && <Concerns {...part} all={link.data.concerns} />}
							{form.list ? (
								<Ticks list={form.list} rules={form.rules} answers={answers} follow={follow} onAnswer={set} />
							) : (
								form.rules.map((q) => (
									<div key={q.id}>
										<p id={`q-${q.id}`} className="mt-0 mb-2 font-serif text-xl font-semibold">
											{q.question}
										</p>
										{q.asks === "choice" ? (
											<Options rule={q} answer={answers[q.id]} onAnswer={(n) => set(q.id, n)} />
										) : (
											<YesNo alone id={q.id} answer={answers[q.id]} onAnswer={(n) => set(q.id, n)} />
										)}
										{follow(q)}
									</div>
								))
							)}
							{unsaid > 0 && (
								<Button className="min-h-12 w-full text-lg" onClick={noToTheRest}>
									{none}
								</Button>
							)}
							{form.part === "medicines" && <Medicines {...part} search={search} />}
							{form.part === "allergies" && <Allergies {...part} search={search} />}
							{form.part === "life" && <Life {...part} fault={fault("/history/bedtime")} />}
						</div>
					) : open.length > 0 ? (
						<>
							<p className="text-lg">{w.pleaseAnswerThese}</p>
							<ul className="m-0 list-none p-0">
								{open.map((q) => (
									<li key={q.id} className="border-b border-rule">
										<button
											type="button"
											className="min-h-12 w-full text-left underline underline-offset-4"
											onClick={() => turn(forms.findIndex((l) => l.rules.includes(q)))}
										>
											{q.question}
										</button>
									</li>
								))}
							</ul>
						</>
					) : (
						<p className="text-lg">{w.youHaveAnsweredEverythingSendYour}</p>
					)}
					<div className="mt-6 flex justify-between gap-3">
						<Button className="min-h-12" disabled={page === 0} onClick={() => turn(page - 1)}>
							{w.back}
						</Button>
						{form ? (
							<Button variant="primary" className="min-h-12 flex-1" onClick={() => turn(page + 1)}>
								{page + 1 < forms.length ? w.next : w.checkAnswers}
							</Button>
						) : (
							<Button variant="primary" className="min-h-12 flex-1" disabled={open.length > 0} onClick={send}>
								{w.sendToTheStudio}
							</Button>
						)}
					</div>
				</>
			)}
			{link.data.policies && (page === 0 || sent) && (
				<section aria-label={w.policiesOfTheStudio} className="mt-8">
					<h2 className="m-0 text-xl">{w.policiesOfTheStudio}</h2>
					<p className="m-0 whitespace-pre-line">{link.data.policies}</p>
				</section>
			)}
			<p className="mt-8 text-sm text-soft">{clientCaution}</p>
			{session.data?.locked && !sent && unlock}
		</main>
	);
}

/** A group of rules ticked off on one list: yes, or not sure; what is neither has no answer until the client says none. */
function Ticks({
	list,
	rules,
	answers,
	follow,
	onAnswer,
}: {
	list: Schemas["List"];
	rules: readonly Rule[];
	answers: Answers;
	follow: (r: Rule) => ReactNode;
	onAnswer: (id: string, a: Answer) => void;
}) {
	return (
		<fieldset className="m-0 border-0 p-0">
			<legend className="mb-2 font-serif text-xl font-semibold">{list.question}</legend>
			{rules.map((r) => {
				const a = answers[r.id];
				return (
					<div key={r.id} className="border-b border-rule py-1">
						<div className="flex items-center gap-3">
							<label className="flex min-h-12 flex-1 cursor-pointer items-center gap-3 text-lg">
								<input
									type="checkbox"
									className="size-6 shrink-0 accent-persimmon"
									checked={Boolean(a?.yes)}
									onChange={(e) => onAnswer(r.id, e.target.checked ? { ...a, yes: true, unsure: undefined } : { yes: false })}
								/>
								{r.question}
							</label>
							<label
								className={`flex min-h-11 shrink-0 cursor-pointer items-center rounded-sm border px-2 text-sm has-[:focus-visible]:outline-3 has-[:focus-visible]:outline-persimmon ${a?.unsure ? "border-ink bg-ink font-semibold text-paper" : "border-[#9c8873] bg-leaf"}`}
							>
								<input
									type="checkbox"
									className="sr-only"
									checked={Boolean(a?.unsure)}
									aria-label={w.notSureAbout({ question: r.question })}
									onChange={(e) => onAnswer(r.id, e.target.checked ? { yes: false, unsure: true } : { yes: false })}
								/>
								{w.notSureToo}
							</label>
						</div>
						{follow(r)}
					</div>
				);
			})}
		</fieldset>
	);
}
