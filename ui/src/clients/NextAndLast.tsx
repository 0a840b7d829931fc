import { Link } from "@tanstack/react-router";
import type { Schemas } from "../api/client";
import { KnownText } from "../face/Known";
import { dayWords } from "../kit/format";
import { Badge } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/clients";
import { outlookText, stateWords } from "../words/sentences";

type Brief = Schemas["Brief"];

/** What the next appointment still lacks. */
function missing(b: Brief): string[] {
	const v = b.next;
	return [
		{ none: w.consultationMissing, renew: w.consultationToRenew, "sent-in": w.answersToReview, current: "" }[b.consultation],
		b.unsigned.includes("treatment") ? w.consentMissing : "",
		b.unsigned.includes("mouth") ? w.consentMouthMissing : "",
		v?.patchFirst?.length ? w.patchTestMissing({ names: v.patchFirst.join(", ") }) : "",
		v?.outlook === "needs-letter" ? w.letterMissing : "",
		v?.outlook === "not-before" ? w.waitUntil({ day: dayWords(v.notBefore ?? "") }) : "",
	].filter(Boolean);
}

/** What is next and what it lacks, and how it went last time. */
export function NextAndLast({ brief }: { brief: Brief }) {
	const { at, may } = useSession();
	const v = brief.next;
	const lacks = missing(brief);
	return (
		<div className="leaf mb-6 grid gap-x-8 gap-y-4 p-5 sm:grid-cols-2">
			<section aria-label={w.next}>
				<h2 className="mt-0 mb-1 text-xl">{w.next}</h2>
				{v ? (
					<p className="m-0">
						<Link
							to="/visits/$id"
							params={{ id: v.id }}
							className="num font-semibold text-ink underline decoration-rule underline-offset-4"
						>
							{at.date(v.startsAt)}, {at.time(v.startsAt)}
						</Link>{" "}
						<Badge tone="plain">{stateWords[v.state]}</Badge> {v.outlook && <Badge tone={v.outlook}>{outlookText(v)}</Badge>}
						<br />
						{v.protocolName}, {v.practitionerName}
						{["booked", "confirmed"].includes(v.state) && v.kind === "treatment" && may("move-visit") && (
							<Link
								to="/diary"
								search={{ client: v.client, protocol: v.protocol, from: undefined, move: v.id }}
								className="flex min-h-11 w-fit items-center font-semibold underline underline-offset-4"
							>
								{w.moveAppointment}
							</Link>
						)}
					</p>
				) : (
					<p className="m-0 text-soft">{w.noNextAppointment}</p>
				)}
				{lacks.length > 0 ? (
					<>
						<p className="mt-3 mb-0 text-sm text-soft">{w.missing}</p>
						<ul className="m-0 list-none p-0 font-semibold">
							{lacks.map((m) => (
								<li key={m}>
									<span aria-hidden="true" className="text-persimmon-deep">
										○{" "}
									</span>
									{m}
								</li>
							))}
						</ul>
					</>
				) : (
					<p className="mt-3 mb-0 text-kelp">{w.nothingMissing}</p>
				)}
			</section>
			{brief.last && <LastTime last={brief.last} />}
		</div>
	);
}

/** How the last treatment went. */
function LastTime({ last }: { last: Schemas["LastTreatment"] }) {
	const { at } = useSession();
	return (
		<section aria-label={w.lastTime}>
			<h2 className="mt-0 mb-1 text-xl">{w.lastTime}</h2>
			<p className="m-0">
				<Link
					to="/visits/$id/record"
					params={{ id: last.visit }}
					className="num font-semibold text-ink underline decoration-rule underline-offset-4"
				>
					{at.date(last.at)}
				</Link>
				, {last.protocol}, {last.practitioner}
			</p>
			{last.note && <p className="mt-1 mb-0 break-words whitespace-pre-wrap">“{last.note}”</p>}
			{last.additions.map((a) => (
				<p key={a.id} className="mt-1 mb-0 break-words">
					{a.author}: {a.body}
				</p>
			))}
			<dl className="mt-2 mb-0 text-[0.95rem]">
				<Line name={w.lookedOutFor}>{last.known.length > 0 && <KnownText marks={last.known} most={6} />}</Line>
				<Line name={w.usedProducts}>{last.products.map((p) => `${p.name} ${p.real} ${p.unit}`).join(", ")}</Line>
				<Line name={w.leftOutSteps}>{last.skipped.join(", ")}</Line>
			</dl>
		</section>
	);
}

function Line({ name, children }: { name: string; children: React.ReactNode }) {
	if (!children) return null;
	return (
		<div className="flex gap-3">
			<dt className="w-24 shrink-0 text-sm text-soft">{name}</dt>
			<dd className="m-0 min-w-0 break-words">{children}</dd>
		</div>
	);
}
