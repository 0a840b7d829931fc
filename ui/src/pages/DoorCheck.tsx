import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ProblemError, type Schemas, take } from "../api/client";
import { clientQuery, libraryQuery, rulesQuery } from "../api/queries";
import { FaceMap } from "../face/FaceMap";
import { dayWords } from "../format";
import { Button, Trouble, Waiting } from "../parts/kit";
import { type Answer, type Answers, Questions, togglePlace, wantsZones } from "../parts/Questions";
import { useNow, useSession } from "../parts/session";
import { caution } from "../words/en";

type Rule = Schemas["Rule"];

type Props = {
	client: string;
	visit?: string | undefined;
	/** A consultation the client sent in, to be gone through instead of the door's questions. */
	review?: Schemas["Consultation"] | undefined;
	onDone: () => void;
};

/** The check at the door; what the client sent in by a private link is gone through first. */
export function DoorCheck(p: Props) {
	const file = useQuery(clientQuery(p.client));
	if (!file.data) return <Waiting of="the questions" error={file.error} />;
	const sent = file.data.consultations.find((c) => c.sentAt && !c.reviewedAt);
	if (sent && !p.review) return <Check key={sent.id} {...p} review={sent} onDone={() => {}} />;
	return <Check key="door" {...p} />;
}

/**
 * The rules as plain questions, judged together. Where no consultation holds, its
 * questions are asked with the door's.
 */
function Check({ client, visit, review, onDone }: Props) {
	const rules = useQuery(rulesQuery);
	const library = useQuery(libraryQuery);
	const file = useQuery(clientQuery(client));
	const { at } = useSession();
	const today = at.day(useNow(60_000));
	const [answers, setAnswers] = useState<Answers>(review?.answers ?? {});
	const [anew, setAnew] = useState(false);
	const [marking, setMarking] = useState<string | null>(null);
	const cache = useQueryClient();
	const judge = useMutation({
		mutationFn: async () => {
			if (review)
				await take(
					api.POST("/api/clients/{id}/consultations/{consultation}/review", {
						params: { path: { id: client, consultation: review.id } },
						body: { answers },
					}),
				);
			else
				await take(
					api.POST("/api/clients/{id}/screenings", { params: { path: { id: client } }, body: visit ? { visit, answers } : { answers } }),
				);
		},
		onSuccess: () => {
			for (const key of ["client", "visit", "plan", "day", "tailored"]) cache.invalidateQueries({ queryKey: [key] });
			onDone();
		},
	});
	if (!rules.data || !library.data || !file.data) return <Waiting of="the questions" error={rules.error ?? library.error ?? file.error} />;
	const holds = file.data.holdsUntil;
	const stages = review ? ["consultation"] : holds && !anew ? ["door"] : ["door", "consultation"];
	const list = rules.data.rules.filter((r) => r.asks !== "nothing" && stages.includes(r.stage));
	const left = list.filter((r) => !answers[r.id]).length;
	const problem = judge.error instanceof ProblemError ? judge.error : null;
	const answer = (r: Rule, a: Answer) => {
		setAnswers((old) => ({ ...old, [r.id]: a }));
		if (a.yes && wantsZones(r)) setMarking(r.id);
		else if (marking === r.id) setMarking(null);
	};
	const rest = () => setAnswers((old) => Object.fromEntries(list.map((r) => [r.id, old[r.id] ?? { yes: false }])));
	const again = () => {
		const told = file.data.consultations.find((c) => c.reviewedAt)?.answers ?? {};
		setAnswers((old) => ({ ...told, ...old }));
		setAnew(true);
	};
	const active = list.find((r) => r.id === marking);
	return (
		<div className="grid gap-8 lg:grid-cols-[minmax(0,1fr)_400px]">
			<div>
				<div className="sticky top-0 z-10 mb-2 flex flex-wrap items-center gap-3 bg-paper py-2">
					<Button onClick={rest} disabled={left === 0}>
						No to the other {left}
					</Button>
					<Button look="next" disabled={left > 0 || judge.isPending} onClick={() => judge.mutate()}>
						{review ? "Reviewed: it counts from now on" : "Judge and keep"}
					</Button>
					<span className="text-sm text-soft" aria-live="polite">
						{left > 0 ? `${left} of ${list.length} without an answer` : "All answered"}
					</span>
				</div>
				<Trouble error={judge.error} />
				{review ? (
					<p className="mt-0">The client sent these answers in. Go through them together and correct what was meant otherwise.</p>
				) : holds ? (
					<p className="mt-0 text-sm text-soft">
						The consultation holds until {dayWords(holds)}; only what can be new is asked.{" "}
						{!anew && (
							<Button look="quiet" onClick={again}>
								Something else changed
							</Button>
						)}
					</p>
				) : (
					<p className="mt-0 text-sm text-soft">No consultation holds for this client, so its questions stand here too.</p>
				)}
				<Questions
					rules={list}
					answers={answers}
					onAnswer={answer}
					fault={(id) => problem?.problem.errors?.find((e) => e.path.startsWith(`/answers/${id}`))?.message}
					today={today}
					marking={marking}
					onMark={setMarking}
				/>
			</div>
			<aside className="lg:sticky lg:top-2 lg:self-start">
				<p className="m-0 mb-1 font-serif text-xl font-semibold">{active ? active.title : "Places"}</p>
				<p className="mt-0 mb-2 text-sm text-soft">
					{active ? "Touch each place on the face, or walk with the arrow keys and press Enter." : "A yes that has a place is marked here."}
				</p>
				<div className="leaf h-[440px] p-2">
					<FaceMap
						zones={library.data.zones}
						marked={marking ? (answers[marking]?.zones ?? []) : []}
						{...(active ? { onMark: (p) => setAnswers((old) => ({ ...old, [active.id]: togglePlace(old[active.id], p) })) } : {})}
						label={active ? `Mark the places: ${active.title}` : "The face from the front"}
					/>
				</div>
				<p className="mt-3 text-sm text-soft">{caution}</p>
			</aside>
		</div>
	);
}
