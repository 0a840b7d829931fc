import { useMutation } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../api/client";
import { clock } from "../kit/format";
import { Button, ErrorMessage } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/treatment";
import { phaseWords, roomMarkWords } from "../words/sentences";

type View = Schemas["RecordView"];
type Account = NonNullable<View["account"]>;
type Spell = Account["spells"][number];

/** A difference is said where it is more than a tenth, and at least so many seconds. */
const tenth = 0.1;
const leastSeconds = 5;

const differs = (s: Spell) => s.begun && Math.abs(s.real - s.planned) >= Math.max(leastSeconds, tenth * s.planned);

/** How the treatment went beside its plan, from the room's log: times, what was done otherwise, marks. */
export function RoomAccount({
	account: a,
	zone,
	product,
}: {
	account: Account;
	zone: (k: string) => string;
	product: (k: string) => string;
}) {
	const told = a.spells.filter((s) => s.begun && (differs(s) || (s.stayed ?? 0) > 0 || s.skipped || s.paused));
	const uneven = a.left.real > 0 && a.right.real > 0 && Math.abs(a.left.real - a.right.real) > tenth * Math.max(a.left.real, a.right.real);
	const missing = Object.values(a.missing).reduce((n, list) => n + list.length, 0);
	return (
		<section aria-label={w.inTheRoom}>
			<h2 className="mt-6 mb-1 text-2xl">{w.inTheRoom}</h2>
			<p className="num m-0">
				{[
					w.realOfPlanned({ real: clock(a.real), planned: clock(a.planned) }),
					a.pauses > 0 ? w.pausesInAll({ n: a.pauses, time: clock(a.paused) }) : "",
					a.refit ? w.refitOfMinutes({ n: a.refit.minutes }) : "",
					a.less > 0 ? w.lessPressureTimes({ n: a.less }) : "",
					a.quiet ? w.clientSlept : "",
					a.stopped ? w.stopWasPressed : "",
				]
					.filter(Boolean)
					.join(" · ")}
			</p>
			<Phases account={a} />
			{uneven && <p className="num m-0 mt-2">{w.leftAndRight({ left: clock(a.left.real), right: clock(a.right.real) })}</p>}
			{told.length > 0 && (
				<ul className="num m-0 mt-2 list-none p-0 text-sm">
					{told.map((s) => (
						<li key={s.spell} className="flex justify-between gap-4 border-b border-dotted border-rule py-1">
							<span>{s.name}</span>
							<span className="whitespace-nowrap">
								{[
									`${clock(s.planned)} → ${clock(s.real)}`,
									(s.stayed ?? 0) > 0 ? w.stayedPlus({ n: s.stayed ?? 0 }) : "",
									s.skipped ? w.skippedWord : "",
									s.estimated ? w.estimated : "",
								]
									.filter(Boolean)
									.join(" · ")}
							</span>
						</li>
					))}
				</ul>
			)}
			{a.stops.map((s) => (
				<p key={s.minute} className="num m-0 mt-2 font-semibold">
					{w.stoppedAt({ n: Math.round(s.minute), step: s.step })}
				</p>
			))}
			{a.marks.length > 0 && (
				<ul className="num m-0 mt-2 list-none p-0 text-sm">
					{a.marks.map((m) => (
						<li
							key={`${m.kind}${m.zone}${m.side}${m.minute}`}
							className="flex justify-between gap-4 border-b border-dotted border-rule py-1"
						>
							<span>
								<span className="font-semibold">{roomMarkWords[m.kind] ?? m.kind}</span>{" "}
								{[
									m.side === "left" || m.side === "right" ? m.side : "",
									m.zone ? zone(m.zone).toLowerCase() : "",
									m.product ? product(m.product) : "",
								]
									.filter(Boolean)
									.join(" ")}
							</span>
							<span>{w.minuteOf({ n: Math.round(m.minute) })}</span>
						</li>
					))}
				</ul>
			)}
			{(missing > 0 || a.aside > 0 || a.faults > 0) && (
				<p className="num m-0 mt-2 text-sm font-semibold">
					{[
						missing > 0 ? w.stillOnTheOtherTablet({ n: missing }) : "",
						a.aside > 0 ? w.asideOfAnotherTablet({ n: a.aside }) : "",
						a.faults > 0 ? w.faultsInTheLog({ n: a.faults }) : "",
					]
						.filter(Boolean)
						.join(" ")}
				</p>
			)}
		</section>
	);
}

/** Phase by phase, the plan as an outline and what it really took filled in. */
function Phases({ account: a }: { account: Account }) {
	const most = Math.max(...a.phases.map((p) => Math.max(p.planned, p.real)), 1);
	const wide = 150;
	return (
		<table className="num mt-2 w-full border-collapse text-sm">
			<tbody>
				{a.phases.map((p) => (
					<tr key={p.phase}>
						<th className="w-24 py-0.5 text-left font-normal">{phaseWords[p.phase] ?? p.phase}</th>
						<td>
							<svg width={wide} height={14} aria-hidden="true">
								<rect
									x={0.5}
									y={0.5}
									width={Math.max(1, (wide - 1) * (p.planned / most))}
									height={13}
									fill="none"
									stroke="var(--color-rule)"
								/>
								<rect x={0} y={4} width={Math.max(1, wide * (p.real / most))} height={6} fill="var(--color-kelp)" />
							</svg>
						</td>
						<td className="text-right">{clock(p.real)}</td>
						<td className="pl-2 text-right text-soft">{clock(p.planned)}</td>
					</tr>
				))}
			</tbody>
		</table>
	);
}

/** What to do otherwise next time, by rule: each taken or refused with one press. */
export function NextTime({ view, onAnswered }: { view: View; onAnswered: (v: View) => void }) {
	const { may } = useSession();
	const answer = useMutation({
		mutationFn: (body: { code: string; key: string; taken: boolean }) =>
			unwrap(api.PUT("/api/visits/{id}/proposals", { params: { path: { id: view.visit.id } }, body })),
		onSuccess: onAnswered,
	});
	if (view.next.length === 0) return null;
	return (
		<section aria-label={w.nextTime}>
			<h2 className="mt-6 mb-1 text-2xl">{w.nextTime}</h2>
			<ul className="m-0 list-none p-0">
				{view.next.map((p) => (
					<li key={p.code + p.key} className="flex items-center justify-between gap-3 border-b border-rule py-1">
						<span>
							{p.text}
							<span className="block text-sm text-soft">{p.because.join("; ")}</span>
						</span>
						{may("answer-proposal") && (
							<span className="flex gap-1">
								{[true, false].map((taken) => (
									<Button
										key={String(taken)}
										variant={p.taken === taken ? "primary" : "quiet"}
										aria-pressed={p.taken === taken}
										disabled={answer.isPending}
										onClick={() => answer.mutate({ code: p.code, key: p.key, taken })}
									>
										{taken ? w.yesWord : w.noWord}
									</Button>
								))}
							</span>
						)}
					</li>
				))}
			</ul>
			<ErrorMessage error={answer.error} />
		</section>
	);
}
