import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useMemo, useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../../api/client";
import { Button, ErrorMessage, Field, Loading, Page } from "../../kit/kit";
import { useSession } from "../../kit/session";
import * as w from "../../words/catalogue/waiting";
import { useStudioDay } from "../series/useStudioDay";
import { instantOf } from "./instant";

/** A practitioner is away: their visits laid again, all together, as a list of calls; one press accepts it. */
export function AwayPage() {
	const { at, now } = useSession();
	const { people } = useStudioDay();
	const cache = useQueryClient();
	const [who, setWho] = useState("");
	const today = at.day(now());
	const [from, setFrom] = useState(`${today}T${at.time(now())}`);
	const [to, setTo] = useState(`${today}T23:59`);
	const [changed, setChanged] = useState<Schemas["NewDay"] | null>(null);
	const question = useMemo(() => ({ practitioner: who, from: instantOf(from, at), to: instantOf(to, at) }), [who, from, to, at]);
	const plan = useQuery({
		queryKey: ["absent day", question],
		queryFn: () => unwrap(api.POST("/api/absent-day/lay", { body: question })),
		enabled: Boolean(who) && Boolean(question.from) && Boolean(question.to),
		gcTime: 0,
		staleTime: Number.POSITIVE_INFINITY,
		retry: false,
	});
	const day = changed ?? plan.data;
	const accept = useMutation({
		mutationFn: (calls: Schemas["NewDayCall"][]) => unwrap(api.POST("/api/absent-day", { body: { ...question, calls } })),
		onError: (e) => {
			if (e instanceof ProblemError && e.problem.day) setChanged(e.problem.day);
		},
		onSuccess: () => {
			for (const key of ["day", "calls", "waiting", "free", "week", "diary", "series"]) cache.invalidateQueries({ queryKey: [key] });
		},
	});
	if (accept.data)
		return (
			<Page title={w.practitionerAway}>
				<p role="status" className="border-l-4 border-kelp bg-kelp-pale p-4 text-lg font-semibold">
					{w.accepted({ n: accept.data.calls.length })}
				</p>
				<Link to="/diary" search={{}} className="inline-flex min-h-11 items-center font-semibold underline underline-offset-4">
					{w.toDiary}
				</Link>
			</Page>
		);
	const choose = (id: string) => {
		setChanged(null);
		accept.reset();
		setWho(id);
	};
	return (
		<Page title={w.practitionerAway}>
			<div className="flex flex-wrap items-end gap-4 border-b border-rule pb-4">
				<fieldset className="m-0 border-0 p-0">
					<legend className="mb-1 text-sm font-semibold">{w.whoIsAway}</legend>
					<div className="flex flex-wrap gap-2">
						{people.map((p) => (
							<Button
								key={p.id}
								aria-pressed={who === p.id}
								className={who === p.id ? "bg-ink! text-paper!" : ""}
								onClick={() => choose(p.id)}
							>
								{p.name}
							</Button>
						))}
					</div>
				</fieldset>
				<Field label={w.from}>
					{(a) => <input {...a} className="field" type="datetime-local" value={from} onChange={(e) => setFrom(e.target.value)} />}
				</Field>
				<Field label={w.until}>
					{(a) => <input {...a} className="field" type="datetime-local" value={to} onChange={(e) => setTo(e.target.value)} />}
				</Field>
			</div>
			{who && plan.isPending && <Loading of={w.theDay} />}
			<ErrorMessage error={plan.error ?? (changed ? undefined : accept.error)} />
			{changed && (
				<p role="alert" className="border-l-4 border-persimmon bg-blush px-4 py-3 font-semibold">
					{w.dayChanged}
				</p>
			)}
			{day && (
				<section aria-label={w.newDay} className="mt-4">
					<h2 className="mt-0 mb-1 text-2xl">{w.newDay}</h2>
					{day.calls.length === 0 && <p>{w.nothingToLay}</p>}
					{day.calls.length > 0 && (
						<table className="w-full border-collapse text-left">
							<tbody>
								{day.calls.map((c) => (
									<tr key={c.visit} className="border-b border-rule align-top">
										<td className="num py-2 pr-4 font-semibold whitespace-nowrap">{at.time(c.was)}</td>
										<td className="py-2 pr-4">
											<strong>{c.clientName}</strong>
											<span className="block text-sm text-soft">{c.protocolName}</span>
										</td>
										<td className="num py-2 pr-4">
											{c.to ? (
												<>
													{at.day(c.to) === at.day(c.was) && at.time(c.to) === at.time(c.was) ? (
														w.sameTime
													) : (
														<strong>
															{at.day(c.to) === at.day(c.was) ? "" : `${at.date(c.to)}, `}
															{at.time(c.to)}
														</strong>
													)}
													, {c.withName}, {c.roomName}
												</>
											) : (
												<strong className="text-persimmon-deep">{w.notPlaced}</strong>
											)}
											{c.askFirst && <span className="block text-sm font-semibold">{w.askFirst}</span>}
										</td>
										<td className="num py-2 text-right whitespace-nowrap">{c.phone || w.noPhone}</td>
									</tr>
								))}
							</tbody>
						</table>
					)}
					{day.rooms.length > 0 && (
						<p>
							<strong>{w.roomChanges}:</strong>{" "}
							{day.rooms.map((r) => w.toRoom({ name: r.clientName, time: at.time(r.at), room: r.roomName })).join("; ")}
						</p>
					)}
					<p className="text-sm text-soft">
						{w.points({ n: day.points })}. {w.nothingIsTold}
					</p>
					<Button variant="primary" disabled={accept.isPending} onClick={() => accept.mutate(day.calls)}>
						{w.acceptNewDay}
					</Button>
				</section>
			)}
		</Page>
	);
}
