import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ProblemError, type Schemas, take } from "../api/client";
import { libraryQuery, rulesQuery } from "../api/queries";
import { FaceMap } from "../face/FaceMap";
import { Button, Trouble, Waiting } from "../parts/kit";
import { useNow, useSession } from "../parts/session";
import { caution } from "../words/en";

type Rule = Schemas["Rule"];
type Answer = Schemas["Answer"];
type Place = Schemas["Place"];

type Props = { client: string; visit?: string; onDone: () => void };

const wantsDay = (r: Rule) => r.asks === "date" || r.asks === "date-and-zones";
const wantsZones = (r: Rule) => r.asks === "zones" || r.asks === "date-and-zones";

/** The check at the door: the rules as plain questions, judged together. */
export function DoorCheck({ client, visit, onDone }: Props) {
	const rules = useQuery(rulesQuery);
	const library = useQuery(libraryQuery);
	const { at } = useSession();
	const today = at.day(useNow(60_000));
	const [answers, setAnswers] = useState<Record<string, Answer>>({});
	const [marking, setMarking] = useState<string | null>(null);
	const cache = useQueryClient();
	const judge = useMutation({
		mutationFn: () =>
			take(api.POST("/api/clients/{id}/screenings", { params: { path: { id: client } }, body: visit ? { visit, answers } : { answers } })),
		onSuccess: () => {
			for (const key of ["client", "visit", "plan", "day", "tailored"]) cache.invalidateQueries({ queryKey: [key] });
			onDone();
		},
	});
	if (!rules.data || !library.data) return <Waiting of="the questions" error={rules.error ?? library.error} />;
	const list = rules.data.rules;
	const groups = [...new Set(list.map((r) => r.group))];
	const left = list.filter((r) => !answers[r.id]).length;
	const problem = judge.error instanceof ProblemError ? judge.error : null;
	const answer = (r: Rule, a: Answer) => {
		setAnswers((old) => ({ ...old, [r.id]: a }));
		if (a.yes && wantsZones(r)) setMarking(r.id);
		else if (marking === r.id) setMarking(null);
	};
	const rest = () => setAnswers((old) => Object.fromEntries(list.map((r) => [r.id, old[r.id] ?? { yes: false }])));
	const active = list.find((r) => r.id === marking);
	const marked = marking ? (answers[marking]?.zones ?? []) : [];
	const toggle = (p: { zone: string; side: "left" | "right" | "both" }) => {
		if (!marking) return;
		const here = (q: Place) => q.zone === p.zone && (q.side ?? "both") === p.side;
		setAnswers((old) => {
			const was = old[marking]?.zones ?? [];
			return { ...old, [marking]: { ...old[marking]!, yes: true, zones: was.some(here) ? was.filter((q) => !here(q)) : [...was, p] } };
		});
	};
	return (
		<div className="grid gap-8 lg:grid-cols-[minmax(0,1fr)_400px]">
			<div>
				<div className="sticky top-0 z-10 mb-2 flex flex-wrap items-center gap-3 bg-paper py-2">
					<Button onClick={rest} disabled={left === 0}>
						No to the other {left}
					</Button>
					<Button look="next" disabled={left > 0 || judge.isPending} onClick={() => judge.mutate()}>
						Judge and keep
					</Button>
					<span className="text-sm text-soft" aria-live="polite">
						{left > 0 ? `${left} of ${list.length} without an answer` : "All answered"}
					</span>
				</div>
				<Trouble error={judge.error} />
				{groups.map((g) => (
					<fieldset key={g} className="m-0 mb-4 border-0 p-0">
						<legend className="font-serif text-xl font-semibold">{g}</legend>
						{list
							.filter((r) => r.group === g)
							.map((r) => {
								const a = answers[r.id];
								const fault = problem?.problem.errors?.find((e) => e.path.startsWith(`/answers/${r.id}`))?.message;
								return (
									<div key={r.id} className={`border-b border-rule py-1.5 ${fault ? "bg-blush" : ""}`}>
										<div className="flex items-center justify-between gap-4">
											<p className="m-0" id={`q-${r.id}`}>
												{r.question}
											</p>
											<div role="radiogroup" aria-labelledby={`q-${r.id}`} className="flex shrink-0">
												{[false, true].map((yes) => (
													<label
														key={String(yes)}
														className={`flex min-h-11 min-w-14 cursor-pointer items-center justify-center border border-[#9c8873] px-3 font-semibold has-[:focus-visible]:outline-3 has-[:focus-visible]:outline-persimmon ${a?.yes === yes ? (yes ? "bg-persimmon text-white" : "bg-ink text-paper") : "bg-leaf"} ${yes ? "rounded-r-sm border-l-0" : "rounded-l-sm"}`}
													>
														<input
															type="radio"
															name={r.id}
															className="sr-only"
															checked={a?.yes === yes}
															onChange={() => answer(r, yes ? { ...a, yes: true } : { yes: false })}
														/>
														{yes ? "Yes" : "No"}
													</label>
												))}
											</div>
										</div>
										{a?.yes && (wantsDay(r) || wantsZones(r)) && (
											<div className="flex flex-wrap items-center gap-4 pt-1 pb-1">
												{wantsDay(r) && (
													<label className="flex items-center gap-2 text-sm font-semibold">
														Day
														<input
															type="date"
															className="field w-44"
															max={today}
															value={a.day ?? ""}
															onChange={(e) => answer(r, { ...a, day: e.target.value })}
														/>
													</label>
												)}
												{wantsZones(r) && (
													<Button look={marking === r.id ? "plain" : "quiet"} onClick={() => setMarking(r.id)}>
														{a.zones?.length ? `${a.zones.length} marked on the face` : "Mark on the face"}
													</Button>
												)}
											</div>
										)}
										{fault && <p className="m-0 pb-1 text-sm font-semibold text-persimmon-deep">{fault}</p>}
									</div>
								);
							})}
					</fieldset>
				))}
			</div>
			<aside className="lg:sticky lg:top-2 lg:self-start">
				<p className="m-0 mb-1 font-serif text-xl font-semibold">{active ? active.title : "Places"}</p>
				<p className="mt-0 mb-2 text-sm text-soft">
					{active ? "Touch each place on the face, or walk with the arrow keys and press Enter." : "A yes that has a place is marked here."}
				</p>
				<div className="leaf h-[440px] p-2">
					<FaceMap
						zones={library.data.zones}
						marked={marked}
						{...(active ? { onMark: toggle } : {})}
						label={active ? `Mark the places: ${active.title}` : "The face from the front"}
					/>
				</div>
				<p className="mt-3 text-sm text-soft">{caution}</p>
			</aside>
		</div>
	);
}
