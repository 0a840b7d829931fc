import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { api, ProblemError, take } from "../api/client";
import { FaceMap } from "../face/FaceMap";
import { Button, Trouble, Waiting } from "../parts/kit";
import { type Answer, type Answers, DayOf, togglePlace, wantsDay, wantsZones, YesNo } from "../parts/Questions";
import { clientCaution } from "../words/en";

const perPage = 4;
const retryAfter = 4000;

/** The client's own page: a consultation in few large questions, kept as one goes. */
export function LinkPage() {
	const token = window.location.hash.slice(1);
	const headers = { "X-Link-Token": token };
	const link = useQuery({
		queryKey: ["link"],
		queryFn: () => take(api.GET("/api/consultation", { params: { header: headers } })),
		staleTime: Number.POSITIVE_INFINITY,
		refetchOnWindowFocus: false,
	});
	const [answers, setAnswers] = useState<Answers | null>(null);
	const [page, setPage] = useState(0);
	const [kept, setKept] = useState<"kept" | "waiting" | "failed">("kept");
	const [error, setError] = useState<unknown>(null);
	const [sent, setSent] = useState(false);
	const top = useRef<HTMLHeadingElement>(null);
	const saving = useRef(false);
	const newest = useRef<Answers | null>(null);

	useEffect(() => {
		document.title = "Soft Palm · consultation";
	}, []);
	useEffect(() => {
		if (!link.data || answers) return;
		setAnswers(link.data.answers);
		setSent(link.data.sent);
		const first = link.data.questions.findIndex((q) => !link.data.answers[q.id]);
		setPage(first < 0 ? Math.ceil(link.data.questions.length / perPage) : Math.floor(first / perPage));
	}, [link.data, answers]);

	/** Keeps the newest answers; one request at a time, tried again until it holds. */
	const keep = async () => {
		if (saving.current) return;
		saving.current = true;
		while (newest.current) {
			const now: Answers = newest.current;
			newest.current = null;
			try {
				await take(api.PUT("/api/consultation", { params: { header: headers }, body: { answers: now, send: false } }));
				if (!newest.current) setKept("kept");
			} catch (e) {
				setKept("failed");
				if (e instanceof ProblemError && e.problem.status >= 400 && e.problem.status < 500) {
					setError(e);
					break;
				}
				newest.current ??= now;
				await new Promise((done) => setTimeout(done, retryAfter));
			}
		}
		saving.current = false;
	};
	const set = (id: string, a: Answer) => {
		const next = { ...(answers ?? {}), [id]: a };
		setAnswers(next);
		setKept("waiting");
		newest.current = next;
		void keep();
	};
	const turn = (to: number) => {
		setPage(to);
		setError(null);
		top.current?.focus();
		window.scrollTo(0, 0);
	};
	const send = async () => {
		try {
			await take(api.PUT("/api/consultation", { params: { header: headers }, body: { answers: answers ?? {}, send: true } }));
			newest.current = null;
			setSent(true);
			setAnswers({});
		} catch (e) {
			setError(e);
		}
	};
	if (!link.data || !answers)
		return (
			<main className="mx-auto max-w-xl p-5">
				<h1 className="text-3xl">Consultation</h1>
				<Waiting of="your questions" error={link.error} retry={() => link.refetch()} />
			</main>
		);
	const { questions, zones, today, studioName } = link.data;
	const pages = Math.ceil(questions.length / perPage);
	const open = questions.filter((q) => {
		const a = answers[q.id];
		return !a || (a.yes && ((wantsDay(q) && !a.day) || (wantsZones(q) && !a.zones?.length)));
	});
	const shown = questions.slice(page * perPage, (page + 1) * perPage);
	return (
		<main className="mx-auto max-w-xl px-5 pt-4 pb-10">
			<p className="m-0 text-sm text-soft">{studioName}</p>
			<h1 ref={top} tabIndex={-1} className="mt-0 mb-3 text-3xl outline-none">
				{sent ? "Thank you" : page < pages ? "Before your treatment" : "All done?"}
			</h1>
			{sent ? (
				<p className="text-lg">
					Your answers have arrived. The practitioner goes through them with you. If this is the studio’s tablet, hand it back; otherwise
					close this page.
				</p>
			) : (
				<>
					<div className="mb-4">
						<div className="h-1.5 rounded-sm bg-rule" aria-hidden="true">
							<div
								className="h-1.5 rounded-sm bg-persimmon"
								style={{ width: `${(100 * (questions.length - open.length)) / questions.length}%` }}
							/>
						</div>
						<p className="m-0 mt-1 flex justify-between text-sm text-soft">
							<span>
								{questions.length - open.length} of {questions.length} answered
							</span>
							<span role="status">
								{kept === "kept" ? "kept as you go" : kept === "waiting" ? "keeping …" : "not kept yet, trying again"}
							</span>
						</p>
					</div>
					<Trouble error={error} />
					{page < pages ? (
						shown.map((q) => {
							const a = answers[q.id];
							return (
								<div key={q.id} className="mb-6">
									<p id={`q-${q.id}`} className="mt-0 mb-2 font-serif text-xl font-semibold">
										{q.question}
									</p>
									<YesNo wide id={q.id} answer={a} onAnswer={(n) => set(q.id, n)} />
									{a?.yes && wantsDay(q) && (
										<div className="mt-3">
											<DayOf rule={q} answer={a} today={today} onAnswer={(n) => set(q.id, n)} />
										</div>
									)}
									{a?.yes && wantsZones(q) && (
										<div className="mt-3">
											<p className="m-0 mb-1 text-sm">
												Touch each place. Left and right are your own. <span className="font-semibold">{a.zones?.length ?? 0} marked</span>
											</p>
											<div className="leaf h-[360px] p-2">
												<FaceMap
													zones={zones}
													marked={a.zones ?? []}
													onMark={(p) => set(q.id, togglePlace(a, p))}
													label={`Mark the places: ${q.title}`}
												/>
											</div>
										</div>
									)}
								</div>
							);
						})
					) : open.length > 0 ? (
						<>
							<p className="text-lg">These are still open:</p>
							<ul className="m-0 list-none p-0">
								{open.map((q) => (
									<li key={q.id} className="border-b border-rule">
										<button
											type="button"
											className="min-h-12 w-full text-left underline underline-offset-4"
											onClick={() => turn(Math.floor(questions.indexOf(q) / perPage))}
										>
											{q.question}
										</button>
									</li>
								))}
							</ul>
						</>
					) : (
						<p className="text-lg">Every question has its answer. Send them to the studio, or go back and change one.</p>
					)}
					<div className="mt-4 flex justify-between gap-3">
						<Button className="min-h-12" disabled={page === 0} onClick={() => turn(page - 1)}>
							Back
						</Button>
						{page < pages ? (
							<Button look="next" className="min-h-12 flex-1" onClick={() => turn(page + 1)}>
								{page + 1 < pages ? "Next" : "To the end"}
							</Button>
						) : (
							<Button look="next" className="min-h-12 flex-1" disabled={open.length > 0} onClick={send}>
								Send to the studio
							</Button>
						)}
					</div>
				</>
			)}
			<p className="mt-8 text-sm text-soft">{clientCaution}</p>
		</main>
	);
}
