import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../api/client";
import { libraryQuery, planQuery } from "../api/queries";
import { TravelChart } from "../chart/TravelChart";
import { SignDialog, usePinnedAt } from "../clients";
import { AnotherTime, MoveAppointment } from "../diary";
import { FaceMap } from "../face/FaceMap";
import { clock } from "../kit/format";
import { Button, ErrorMessage, Loading } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/checks";
import { consentWords } from "../words/sentences";
import { asksLetter, WriteLetter } from "./Letters";
import { Outcomes } from "./Outcomes";
import { Changes, type SetAside } from "./PlanChanges";
import { PreTreatmentCheck } from "./PreTreatmentCheck";

type PlanView = Schemas["PlanView"];

/**
 * A visit of today: the pre-treatment check, then the plan with its changes, then the room.
 * otherDay is the owner's reason where the appointment is on another day.
 */
export function Today({ visit, otherDay }: { visit: Schemas["VisitLine"]; otherDay?: string }) {
	const [overrules, setOverrules] = useState<SetAside[]>([]);
	const [instead, setInstead] = useState<Record<string, string>>({});
	const [accepted, setAccepted] = useState<{ gentler: boolean; changes: string[] }>({ gentler: false, changes: [] });
	const [hands, setHands] = useState<Schemas["PractitionerState"]>({});
	const [anySkin, setAnySkin] = useState(false);
	const [anySkinSteps, setAnySkinSteps] = useState<string[]>([]);
	const [late] = useState(visit.late); // as it was when the plan was opened
	const [fit, setFit] = useState(true);
	const handsOn = fit && late?.advice === "fit" ? late.handsOn : 0;
	const want = { overrules, instead, hands, anySkin, anySkinSteps, handsOn };
	const plan = useQuery(planQuery(visit.id, want));
	const [signing, setSigning] = useState(false);
	const library = useQuery(libraryQuery);
	const [again, setAgain] = useState(false);
	const go = useNavigate();
	const cache = useQueryClient();
	const start = useMutation({
		mutationFn: () =>
			unwrap(api.POST("/api/visits/{id}/treatment", { params: { path: { id: visit.id } }, body: { ...want, accepted, otherDay } })),
		onSuccess: () => {
			for (const key of ["visit", "day", "room"]) cache.invalidateQueries({ queryKey: [key] });
			go({ to: "/visits/$id/room", params: { id: visit.id } });
		},
	});
	const unchecked = plan.error instanceof ProblemError && plan.error.problem.code === "no-door-check";
	if (unchecked || again) return <PreTreatmentCheck client={visit.client} visit={visit.id} onDone={() => setAgain(false)} />;
	if (!plan.data || !library.data) return <Loading of={w.thePlan} error={plan.error ?? library.error} retry={() => plan.refetch()} />;
	const t = plan.data;
	const missing = t.missing?.[0];
	const zones = library.data.zones;
	const zone = (key: string) => zones.find((z) => z.key === key)?.name ?? key;
	const product = (key: string) => library.data.products.find((p) => p.key === key)?.name ?? key;
	const open = t.changes.filter((c) => !c.skin && !(c.gentler && accepted.gentler) && !accepted.changes.includes(c.id));
	const possible = t.treatable && !t.refused;
	const whole = Object.fromEntries(overrules.filter((o) => !o.step).map((o) => [o.rule, o.reason]));
	return (
		<div className="grid gap-8 lg:grid-cols-[minmax(0,1fr)_400px]">
			<div className="min-w-0">
				{late?.advice === "too-late" && t.treatable && <TakeInstead visit={visit} />}
				{late?.advice === "fit" && (
					<div className="num mb-4 border-l-4 border-slate bg-slate-pale px-4 py-2">
						{t.fitted ? (
							<>
								<p className="m-0 font-semibold">{w.fittedToMinutes({ n: t.fitted.minutes, shorter: t.fitted.shorter })}</p>
								{t.fitted.leftOut.length > 0 && <p className="m-0">{w.leftOutToFit({ steps: t.fitted.leftOut.join(", ") })}</p>}
								{t.fitted.overBy > 0 && <p className="m-0">{w.stillTooLong({ n: Math.ceil(t.fitted.overBy / 60) })}</p>}
							</>
						) : (
							<p className="m-0 font-semibold">{w.notFitted}</p>
						)}
						<Button variant="quiet" className="px-0!" onClick={() => setFit(!fit)}>
							{fit ? w.leaveThePlanWhole : w.fitThePlan({ n: late.handsOn })}
						</Button>
					</div>
				)}
				<Outcomes
					preCheck={t.preCheck}
					outcomes={t.outcomes}
					zone={zone}
					product={product}
					overrulable={t.treatable ? t.overrulable : []}
					overrules={whole}
					onOverrules={(o) =>
						setOverrules([...overrules.filter((x) => x.step), ...Object.entries(o).map(([rule, reason]) => ({ rule, reason }))])
					}
				>
					<div className="mb-4 flex flex-wrap items-center gap-3">
						{possible && !hands.unwell && missing && (
							<Button variant="primary" onClick={() => setSigning(true)}>
								{w.askClientToSignConsentWords({ consentWords: consentWords[missing] })}
							</Button>
						)}
						{possible && !hands.unwell && !missing && (
							<Button variant="primary" disabled={start.isPending || open.length > 0} onClick={() => start.mutate()}>
								{w.openRoomGuide}
							</Button>
						)}
						{possible && !hands.unwell && open.length > 0 && (
							<span className="text-sm font-semibold" aria-live="polite">
								{w.countToAccept({ count: open.length === 1 ? "1 adjustment" : w.countAdjustments({ count: open.length }) })}
							</span>
						)}
						{t.preCheck.result.outcomes.some(asksLetter) && (
							<WriteLetter client={visit.client} visit={visit.id} planned={visit.protocolName} plain={possible} />
						)}
						{!t.treatable && <MoveAppointment visit={visit} />}
						{t.treatable && hands.unwell && <AnotherTime visit={visit} />}
						<Button variant="quiet" onClick={() => setAgain(true)}>
							{w.repeatCheck}
						</Button>
					</div>
				</Outcomes>
				{t.treatable && (
					<PractitionerCheck hands={hands} onHands={setHands} gloves={t.evaluation.visits.some((v) => v.gloves)} minds={t.minds} />
				)}
				<SignDialog
					client={visit.client}
					name={visit.clientName}
					kind={signing && missing ? missing : null}
					onClose={() => setSigning(false)}
				/>
				<ErrorMessage error={start.error} />
				{(t.pace.pace !== 1 || ownStrokes(t.pace) > 0) && <OwnPace pace={t.pace} practitioner={visit.practitioner} />}
				{t.refused && <p className="text-lg font-semibold">{w.tooMuchThisProtocolHasLeft}</p>}
				{t.refused && t.forSkin.length > 0 && (
					<Button className="mb-4" onClick={() => setAnySkin(!anySkin)}>
						{anySkin ? w.turnSkinVariantsBackOn : w.tryWithoutSkinVariants}
					</Button>
				)}
				{t.refused && t.treatable && <TakeInstead visit={visit} />}
				<NotesToRemember notes={t.clientNotes} evaluation={t.evaluation} />
				{possible && (
					<Changes
						plan={t}
						zone={zone}
						product={product}
						accepted={accepted}
						onAccepted={setAccepted}
						overrules={overrules}
						onOverrules={setOverrules}
						anySkin={anySkin}
						onAnySkin={setAnySkin}
						anySkinSteps={anySkinSteps}
						onAnySkinSteps={setAnySkinSteps}
						onInstead={(of, use) => setInstead({ ...instead, [of]: use })}
						productKey={(name) => library.data.products.find((p) => p.name === name)?.key ?? name}
					/>
				)}
			</div>
			<aside className="min-w-0 lg:sticky lg:top-2 lg:self-start">
				<BeforeAfter plan={t} zones={zones} />
			</aside>
		</div>
	);
}

/** What practitioners noted for the hands, with the steps it is about. */
function NotesToRemember({ notes, evaluation }: { notes: Schemas["StepNote"][]; evaluation: Schemas["Evaluation"] }) {
	const where = usePinnedAt(notes);
	if (notes.length === 0) return null;
	return (
		<section aria-label={w.notesForTheHands} className="mb-5 border-l-4 border-persimmon pl-4">
			<h2 className="mt-0 mb-1 text-xl">{w.notesForTheHands}</h2>
			<ul className="m-0 list-none p-0">
				{notes.map((n) => {
					const at = evaluation.steps.flatMap((s, i) => (n.steps.includes(s.id) ? [i + 1] : []));
					return (
						<li key={`${n.zone}${n.stroke}${n.body}`}>
							<span className="font-semibold">{where(n)}:</span> {n.body}{" "}
							<span className="text-sm text-soft">
								{at.length > 0 ? w.inSteps({ n: at.length, steps: at.join(", ") }) : w.notInThisPlan}
							</span>
						</li>
					);
				})}
			</ul>
		</section>
	);
}

type OwnSideProps = {
	hands: Schemas["PractitionerState"];
	onHands: (h: Schemas["PractitionerState"]) => void;
	gloves: boolean;
	minds: readonly string[];
};

/** What the practitioner says of their own hands: only what is not as it should be. */
function PractitionerCheck({ hands, onHands, gloves, minds }: OwnSideProps) {
	const tick = (key: "longNails" | "gloveAllergy" | "unwell", label: string) => (
		<label className="flex min-h-11 cursor-pointer items-center gap-2">
			<input
				type="checkbox"
				className="size-5 accent-persimmon"
				checked={hands[key] ?? false}
				onChange={(e) => onHands({ ...hands, [key]: e.target.checked })}
			/>
			{label}
		</label>
	);
	return (
		<fieldset className="m-0 mb-5 border-0 p-0">
			<legend className="float-left mr-5 flex min-h-11 items-center font-semibold">{w.yourHandsAndHealthToday}</legend>
			<div className="flex flex-wrap gap-x-6">
				{tick("longNails", w.myNailsAreLong)}
				{gloves && tick("gloveAllergy", w.iReactToOurGloves)}
				{tick("unwell", w.iHaveColdSoreOrInfection)}
			</div>
			<div aria-live="polite">
				{hands.unwell && <p className="m-0 clear-left font-semibold">{w.doNotTreatWhileYouHave}</p>}
				{minds.map((m) => (
					<p key={m} className="m-0 clear-left">
						{m}
					</p>
				))}
			</div>
		</fieldset>
	);
}

/** The plan as published and as it is today: where the hands work, and when. */
function BeforeAfter({ plan: t, zones }: { plan: PlanView; zones: Schemas["Zone"][] }) {
	const [look, setLook] = useState<"compare" | "steps">("compare");
	const [at, setAt] = useState(0);
	const e = t.evaluation;
	const avoid = t.preCheck.result.outcomes.filter((o) => o.kind === "leave-out").flatMap((o) => o.places ?? []);
	const now = e.visits.find((v) => at < v.end);
	const step = now ? e.steps[now.step] : undefined;
	const touched = t.changes.map((c) => c.step);
	return (
		<>
			<fieldset className="m-0 mb-2 flex border-0 p-0" aria-label={w.whatThePictureShows}>
				{(["compare", "steps"] as const).map((k) => (
					<label
						key={k}
						className={`flex min-h-11 flex-1 cursor-pointer items-center justify-center border border-[#9c8873] font-semibold first:rounded-l-sm last:rounded-r-sm last:border-l-0 has-[:focus-visible]:outline-3 has-[:focus-visible]:outline-persimmon ${look === k ? "bg-ink text-paper" : "bg-leaf"}`}
					>
						<input type="radio" name="look" className="sr-only" checked={look === k} onChange={() => setLook(k)} />
						{k === "compare" ? w.beforeAndAfter : w.stepByStep}
					</label>
				))}
			</fieldset>
			{look === "compare" ? (
				<>
					<div className="grid grid-cols-2 gap-2">
						{(
							[
								[w.published, t.before, []],
								[w.today, e, avoid],
							] as const
						).map(([title, ev, out]) => (
							<figure key={title} className="m-0">
								<figcaption className="mb-1 font-semibold">{title}</figcaption>
								<div className="leaf h-[270px] p-1">
									<FaceMap small zones={zones} loads={ev.loads} avoid={out} label={w.titleWhereTheHandsWork({ title })} />
								</div>
							</figure>
						))}
					</div>
					<p className="mt-1 mb-2 text-sm text-soft">{w.warmerColourMeansLongerWorkHatched}</p>
					<p className="num m-0 text-sm font-semibold">{w.publishedSeconds({ seconds: clock(t.before.seconds) })}</p>
					<TravelChart evaluation={t.before} at={0} onSeek={() => {}} height={120} tracks={false} marked={touched} />
					<p className="num m-0 text-sm font-semibold">{w.todaySeconds({ seconds: clock(e.seconds) })}</p>
					<TravelChart evaluation={e} at={at} onSeek={(s) => setAt(s)} height={120} tracks={false} marked={touched} />
				</>
			) : (
				<>
					<div className="leaf h-[420px] p-2">
						<FaceMap zones={zones} step={step} avoid={avoid} label={step ? w.stepOnTheFace({ step: step.name }) : w.theFaceFromTheFront} />
					</div>
					{t.clientNotes
						.filter((n) => step && n.steps.includes(step.id))
						.map((n) => (
							<p key={n.body} role="note" className="my-1 border-l-4 border-persimmon pl-3 font-semibold">
								{n.body}
							</p>
						))}
					<p className="num my-1 text-sm">{w.stepAtOfSeconds({ step: step?.name ?? "", at: clock(at), seconds: clock(e.seconds) })}</p>
					<TravelChart evaluation={e} at={at} onSeek={(s) => setAt(s)} height={150} tracks={false} selected={step?.id} />
				</>
			)}
		</>
	);
}

/** What would be possible instead, the protocol that changes least first. */
function TakeInstead({ visit }: { visit: Schemas["VisitLine"] }) {
	const list = useQuery({
		queryKey: ["possible", visit.id, visit.checked],
		queryFn: () => unwrap(api.GET("/api/visits/{id}/possible", { params: { path: { id: visit.id } } })),
	});
	const cache = useQueryClient();
	const change = useMutation({
		mutationFn: (protocol: string) =>
			unwrap(api.POST("/api/visits/{id}/protocol", { params: { path: { id: visit.id } }, body: { protocol } })),
		onSuccess: () => {
			for (const key of ["visit", "day", "plan"]) cache.invalidateQueries({ queryKey: [key] });
		},
	});
	if (!list.data) return <Loading of={w.theOtherProtocols} error={list.error} />;
	if (list.data.length === 0) return <p>{w.noProtocolSuitableTodayChooseAnother}</p>;
	return (
		<section aria-label={w.otherProtocolsYouCanOffer}>
			<h2 className="mb-1 text-2xl">{w.otherProtocolsYouCanOffer}</h2>
			<ul className="m-0 list-none p-0">
				{list.data.map((p, i) => (
					<li key={p.protocol} className="flex flex-wrap items-center gap-4 border-b border-rule py-1.5">
						<span className="min-w-60 flex-1">
							<span className="font-semibold">{p.name}</span>
							<span className="num block text-sm text-soft">
								{w.minutesMinChangesStepsSteps({
									minutes: p.minutes,
									changes: p.changes === 1 ? "1 adjustment" : w.changesAdjustments({ changes: p.changes }),
									steps: p.steps,
								})}
							</span>
						</span>
						<Button variant={i === 0 ? "primary" : "plain"} disabled={change.isPending} onClick={() => change.mutate(p.protocol)}>
							{w.useThisProtocol}
						</Button>
					</li>
				))}
			</ul>
			<ErrorMessage error={change.error} />
		</section>
	);
}

/** How many strokes have a pace of their own: that of a stroke with few records is the practitioner's. */
const ownStrokes = (p: Schemas["Pace"]) => Object.values(p.strokes).filter((s) => s.pace !== p.pace).length;

/** At whose pace the plan is timed; it changes planned times only, and can be started over. */
function OwnPace({ pace, practitioner }: { pace: Schemas["Pace"]; practitioner: string }) {
	const { may } = useSession();
	const cache = useQueryClient();
	const forget = useMutation({
		mutationFn: () => unwrap(api.DELETE("/api/practitioners/{id}/pace", { params: { path: { id: practitioner } } })),
		onSuccess: () => cache.invalidateQueries({ queryKey: ["plan"] }),
	});
	const own = ownStrokes(pace);
	return (
		<p className="num m-0 mb-3 text-sm">
			{w.timedAtPace({ pace: pace.pace.toFixed(2), n: pace.treatments })} {own > 0 && w.ownPaceOfStrokes({ n: own })}{" "}
			{may("forget-pace") && (
				<button type="button" className="min-h-8 underline underline-offset-4" disabled={forget.isPending} onClick={() => forget.mutate()}>
					{w.forgetAndStartOver}
				</button>
			)}
			<ErrorMessage error={forget.error} />
		</p>
	);
}
