import { useQuery } from "@tanstack/react-query";
import { Link, useNavigate, useParams } from "@tanstack/react-router";
import { useCallback, useEffect, useState } from "react";
import { ProblemError, type Schemas } from "../api/client";
import { libraryQuery, roomQuery } from "../api/queries";
import { FaceMap } from "../face/FaceMap";
import { ahead, foretold, partAt, spellAt } from "../face/spell";
import { useDrawings } from "../face/useDrawing";
import { clock } from "../kit/format";
import { Loading } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/treatment";
import { pressureWords } from "../words/client";
import {
	changeText,
	doseText,
	figureWords,
	handAmount,
	partWords,
	roleOfHandWords,
	setUpText,
	sideWords,
	skinRelationWords,
} from "../words/sentences";
import { EndHere } from "./EndHere";
import { RoomShortcuts } from "./RoomShortcuts";
import { Stopped } from "./Stopped";
import { useRoomGuide } from "./useRoomGuide";

/** The guide in the treatment room: dark, large, by one knuckle or a pedal. */
export function RoomGuidePage() {
	const { id } = useParams({ from: "/visits/$id/room" });
	const room = useQuery(roomQuery(id));
	const library = useQuery(libraryQuery);
	if (room.error instanceof ProblemError && room.error.problem.code === "not-started")
		return (
			<main className="p-8">
				<p className="text-xl">{w.thisTreatmentHasNotBeenStarted}</p>
				<Link to="/visits/$id" params={{ id }} className="font-semibold underline">
					{w.doThePreTreatmentCheckFirst}
				</Link>
			</main>
		);
	if (!room.data || !library.data) return <Loading of={w.theRoom} error={room.error ?? library.error} retry={() => room.refetch()} />;
	return <Guide id={id} room={room.data} library={library.data} />;
}

const big =
	"flex min-h-[88px] min-w-[88px] items-center justify-center rounded-md border-2 border-amber-dim px-5 text-2xl font-semibold text-amber";

function Guide({ id, room, library }: { id: string; room: Schemas["RoomGuideView"]; library: Schemas["LibraryView"] }) {
	const { skew } = useSession();
	const e = room.evaluation;
	const r = useRoomGuide(id, e, room.progress, skew);
	const go = useNavigate();
	const [ticks, setTicks] = useState<Record<string, boolean>>({});
	const [behind, setBehind] = useState(true);
	const [still, setStill] = useState(() => window.matchMedia("(prefers-reduced-motion: reduce)").matches);
	useDrawings(e.steps);
	// What ran when Stop was pressed goes on when it is over.
	const [stopped, setStopped] = useState<"running" | "standing" | null>(null);
	const { running, toggle } = r;
	const stop = useCallback(() => {
		if (running) toggle();
		setStopped(running ? "running" : "standing");
	}, [running, toggle]);
	const resume = () => {
		if (stopped === "running") toggle();
		setStopped(null);
	};
	const [leaving, setLeaving] = useState(false);
	const [sheet, setSheet] = useState(false);
	const leave = useCallback(() => setLeaving(true), []);
	const brokenOff = () => go({ to: "/visits/$id/record", params: { id }, search: { stopped: true } });
	const record = () => go({ to: "/visits/$id/record", params: { id } });
	const notes = room.clientNotes;
	const step = r.visit ? e.steps[r.visit.step] : undefined;
	const following = e.visits[r.index + 1];
	const next = following && !r.ended ? e.steps[following.step] : undefined;
	const zone = (k: string) => library.zones.find((z) => z.key === k)?.name ?? k;
	const avoid = [...new Set(room.avoid.map((p) => `${p.side && p.side !== "both" ? `${p.side} ` : ""}${zone(p.zone).toLowerCase()}`))];

	useEffect(() => {
		function key(ev: KeyboardEvent) {
			if (ev.defaultPrevented || ev.ctrlKey || ev.altKey || ev.metaKey || stopped || leaving || sheet) return;
			const on = !r.begun && ev.target instanceof HTMLElement && ["BUTTON", "INPUT", "A"].includes(ev.target.tagName);
			const act = {
				ArrowRight: r.next,
				PageDown: r.next,
				ArrowLeft: r.back,
				PageUp: r.back,
				s: r.skip,
				S: r.skip,
				x: stop,
				X: stop,
				Escape: stop,
				e: r.begun ? leave : undefined,
				E: r.begun ? leave : undefined,
				"?": () => setSheet(true),
				" ": on ? undefined : r.toggle, // whatever button was pressed last
			}[ev.key];
			if (!act) return;
			ev.preventDefault();
			act();
		}
		// A button that has the focus is pressed when Space is let go: here Space only pauses.
		const up = (ev: KeyboardEvent) => {
			if (ev.key === " " && r.begun && !stopped && !leaving && !sheet) ev.preventDefault();
		};
		window.addEventListener("keydown", key);
		window.addEventListener("keyup", up);
		return () => {
			window.removeEventListener("keydown", key);
			window.removeEventListener("keyup", up);
		};
	}, [r.next, r.back, r.skip, r.toggle, r.begun, stop, stopped, leave, leaving, sheet]);

	// The screen does not sleep while the plan runs, where the browser can keep it awake.
	useEffect(() => {
		if (!r.running || !("wakeLock" in navigator)) return;
		let lock: WakeLockSentinel | undefined;
		navigator.wakeLock.request("screen").then(
			(l) => {
				lock = l;
			},
			() => {},
		);
		return () => void lock?.release();
	}, [r.running]);

	const left = Math.max(0, e.seconds - r.at);
	if (!r.begun)
		return (
			<main className="night min-h-screen bg-night px-8 py-6 text-amber">
				<Head room={room} avoid={avoid} onStop={stop} />
				<Stopped open={stopped !== null} text={room.emergency} address={room.address} onResume={resume} onEnd={brokenOff} />
				<RoomShortcuts open={sheet} onClose={() => setSheet(false)} />
				<div className="mt-6 grid gap-10 md:grid-cols-2">
					<section aria-label={w.setUpList}>
						<h2 className="m-0 text-3xl">{w.setUpList}</h2>
						<ul className="m-0 mt-2 list-none p-0 text-xl">
							{(room.evaluation.setUp ?? []).map(setUpText).map((item) => (
								<li key={item}>
									<label className="flex min-h-14 items-center gap-4 border-b border-amber-dim/40">
										<input
											type="checkbox"
											className="size-7 accent-amber"
											checked={ticks[item] ?? false}
											onChange={(ev) => setTicks({ ...ticks, [item]: ev.target.checked })}
										/>
										{item}
									</label>
								</li>
							))}
						</ul>
					</section>
					<section aria-label={w.forThisClient}>
						<h2 className="m-0 text-3xl">{w.forThisClient}</h2>
						<ul className="mt-2 text-xl">
							{notes.map((n) => (
								<li key={n.body} className="font-bold">
									{n.body}
								</li>
							))}
							{room.mind.map((m) => (
								<li key={m}>{m}</li>
							))}
							{room.changes.slice(0, 8).map((c) => (
								<li key={`${c.step}${c.did}${c.zone ?? ""}`}>{changeText(c, { zone, step: (k) => k })}</li>
							))}
							{room.mind.length + room.changes.length + notes.length === 0 && <li>{w.noAdjustmentsToday}</li>}
						</ul>
						<button type="button" className={`${big} mt-6 w-full bg-amber text-night`} onClick={r.toggle}>
							{w.startSecondsMinHandsOn({ seconds: Math.round(e.seconds / 60) })}
						</button>
						<Link to="/" className="mt-4 inline-flex min-h-11 items-center text-lg underline underline-offset-4">
							{w.backToToday}
						</Link>
					</section>
				</div>
			</main>
		);
	return (
		<main className="night flex h-screen flex-col overflow-hidden bg-night px-6 py-3 text-amber">
			<Head room={room} avoid={avoid} onStop={stop} onLeave={leave} />
			<Stopped
				open={stopped !== null}
				text={room.emergency}
				address={room.address}
				onResume={resume}
				onEnd={() => {
					r.endHere(false);
					brokenOff();
				}}
			/>
			<RoomShortcuts open={sheet} onClose={() => setSheet(false)} />
			<EndHere
				open={leaving}
				closing={r.closing}
				onClose={() => setLeaving(false)}
				onClosing={() => {
					r.endHere(true);
					setLeaving(false);
				}}
				onEnd={() => {
					r.endHere(false);
					record();
				}}
				onLeave={() => go({ to: "/" })}
			/>
			<div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_minmax(0,1.15fr)] gap-6">
				<div className="relative min-h-0">
					<FaceMap
						view={step?.view ?? "front"}
						zones={library.zones}
						step={r.ended ? undefined : step}
						visit={r.visit}
						at={r.at}
						avoid={room.avoid}
						night
						fromBehind={behind}
						still={still}
						label={step ? w.stepOnTheFace({ step: step.name }) : w.theFace}
					/>
					<span className="absolute bottom-1 left-1 flex gap-2">
						<button
							type="button"
							className="min-h-11 rounded-sm border border-amber-dim/50 bg-night px-3"
							onClick={() => setBehind(!behind)}
						>
							{behind ? w.fromBehindTheHead : w.fromTheFront}
						</button>
						<button type="button" className="min-h-11 rounded-sm border border-amber-dim/50 bg-night px-3" onClick={() => setStill(!still)}>
							{still ? w.stillPicture : w.movingHands}
						</button>
					</span>
				</div>
				{r.ended ? (
					<section className="flex flex-col justify-center" aria-label={w.endTreatment}>
						<h1 className="m-0 text-6xl">{w.massageFinished}</h1>
						<p className="text-2xl">{w.helpClientSitUpSlowlyOffer}</p>
						<button type="button" className={`${big} bg-amber text-night`} onClick={() => go({ to: "/visits/$id/record", params: { id } })}>
							{w.record}
						</button>
						<button type="button" className={`${big} mt-4`} onClick={r.back}>
							{w.back}
						</button>
					</section>
				) : (
					step && <Now step={step} room={r} next={next} zone={zone} notes={notes.filter((n) => n.steps.includes(step.id))} />
				)}
			</div>
			{!r.ended && (
				<div className="mt-3 grid grid-cols-[1.2fr_1fr_1fr_1fr_auto] items-center gap-4">
					<button type="button" className={`${big} ${r.running ? "" : "bg-amber text-night"}`} onClick={r.toggle} title="Space">
						{r.running ? w.pause : w.resume}
					</button>
					<button type="button" className={big} onClick={r.back} title={w.orPageUp}>
						{w.back}
					</button>
					<button type="button" className={big} onClick={r.skip} title="S">
						{w.skip}
					</button>
					<button type="button" className={`${big} ${r.waiting ? "bg-amber text-night" : ""}`} onClick={r.next} title={w.orPageDown}>
						{w.next}
					</button>
					<p className="num m-0 min-w-44 text-right">
						<span className="block font-serif text-6xl leading-none font-semibold">{clock(left)}</span>
						<span className="text-lg">{w.leftSent({ sent: r.sent ? "" : w.savedOnThisTabletOnly })}</span>
					</p>
				</div>
			)}
		</main>
	);
}

type HeadProps = { room: Schemas["RoomGuideView"]; avoid: string[]; onStop: () => void; onLeave?: () => void };

function Head({ room, avoid, onStop, onLeave }: HeadProps) {
	return (
		<header className="flex items-center justify-between gap-x-8 gap-y-1 border-b border-amber-dim/50 pb-2">
			<p className="m-0 min-w-[9rem] flex-1 truncate text-xl">
				{room.visit.clientName.split(" ")[0]} · {room.visit.protocolName}
			</p>
			<p className="m-0 max-w-[58%] text-xl font-bold" role="note">
				{avoid.length > 0
					? w.avoidAvoidCount({
							avoid: avoid.slice(0, 8).join(", "),
							count: avoid.length > 8 ? w.countMoreHatchedOnFace({ count: avoid.length - 8 }) : "",
						})
					: w.noZonesToAvoidToday}
			</p>
			{onLeave && (
				<button
					type="button"
					className="min-h-14 shrink-0 rounded-md border-2 border-amber-dim px-4 text-xl font-semibold"
					title="E"
					onClick={onLeave}
				>
					{w.endOrLeave}
				</button>
			)}
			<button
				type="button"
				className="min-h-14 min-w-24 shrink-0 rounded-md border-2 border-amber px-4 text-xl font-bold"
				title={w.stopKeys}
				onClick={onStop}
			>
				{w.stop}
			</button>
		</header>
	);
}

const mostNamed = 5;

/** From where to where; a long way by its ends. */
function wayOf(step: Schemas["Resolved"], zone: (k: string) => string): string {
	const places = [...new Set(step.path.map((p) => zone(p.zone).toLowerCase()))];
	return (places.length > mostNamed ? [places[0], "…", places[places.length - 1]] : places).join(" → ");
}

/** The pressure along the way: 3 medium, or 3 medium → 2 light. */
function pressureAlong(step: Schemas["Resolved"]): string {
	const way = step.path.map((p) => p.pressure).filter((p, i, all) => i === 0 || p !== all[i - 1]);
	return way.map((p) => `${p} ${pressureWords[p]}`).join(" → ");
}

function Now({
	step,
	room: r,
	next,
	zone,
	notes,
}: {
	step: Schemas["Resolved"];
	room: ReturnType<typeof useRoomGuide>;
	next: Schemas["Resolved"] | undefined;
	zone: (k: string) => string;
	notes: Schemas["StepNote"][];
}) {
	const v = r.visit!;
	const { pass, local, counted, times, rep } = spellAt(v, step, r.at);
	const lead = v.start - r.at;
	const doing = lead <= 0.3 && !r.waiting ? partAt(step.parts, local) : undefined;
	const round = r.rounds > 1 ? w.roundOf({ n: v.pass, of: r.rounds }) : "";
	return (
		<section aria-label={w.now} className="flex min-h-0 flex-col justify-between">
			<div>
				<h1 className="m-0 text-[clamp(2.2rem,5.4vh,2.9rem)] leading-[1.05]">{step.name}</h1>
				<p className="mt-2 mb-0 text-[1.7rem] leading-snug">
					{step.path.length > 0 && <span className="font-bold uppercase">{sideWords[pass.side]} · </span>}
					{step.toolName ? `${step.toolName}${step.tool?.part ? `, ${step.tool.part}` : ""}` : step.hand}
				</p>
				{step.path.length > 0 && (
					<p className="m-0 text-[1.7rem] leading-snug">
						{w.pressure} <span className="font-bold">{pressureAlong(step)}</span>
					</p>
				)}
				{step.path.length > 0 && (
					<p className="mt-1 mb-0 text-[clamp(1.15rem,2.5vh,1.35rem)] leading-snug first-letter:uppercase">
						{[figureWords[step.figure], skinRelationWords[step.relation]].filter(Boolean).join(", ")}
						{step.path.length > 1 && `: ${wayOf(step, zone)}`}
					</p>
				)}
				{step.anchor && (
					<p className="m-0 text-[clamp(1.15rem,2.5vh,1.35rem)] leading-snug text-amber-dim">
						{w.otherHand({
							what: [
								[step.anchor.hand, zone(step.anchor.zone).toLowerCase()].filter(Boolean).join(" → "),
								`${step.anchor.pressure} ${pressureWords[step.anchor.pressure]}`,
								step.anchor.role ? roleOfHandWords[step.anchor.role] : "",
							]
								.filter(Boolean)
								.join(", "),
						})}
					</p>
				)}
			</div>
			<div className="flex items-center gap-8" aria-live="off">
				{lead > 0.3 ? (
					<p className="m-0 text-4xl">{w.moveToTheNextZone}</p>
				) : r.waiting ? (
					<p className="m-0 text-4xl font-semibold">
						{step.dose.kind === "until" ? w.untilSignThenPressNext({ sign: step.dose.sign ?? w.theSign }) : w.byFeelPressNextWhenDone}
					</p>
				) : counted ? (
					<>
						<p className="num m-0 font-serif text-[clamp(4.5rem,13.5vh,7.5rem)] leading-none font-semibold" data-testid="count">
							{rep}
							<span className="text-5xl"> {w.ofTimes({ times })}</span>
						</p>
						{step.dose.kind === "breaths" && <Breath dose={step.dose} local={local} />}
					</>
				) : (
					<p className="num m-0 font-serif text-[clamp(4.5rem,13.5vh,7.5rem)] leading-none font-semibold" data-testid="countdown">
						{clock(pass.start + pass.seconds - r.at)}
					</p>
				)}
				{doing && <Doing doing={doing} zone={zone} />}
			</div>
			<div className="text-[clamp(1.15rem,2.5vh,1.35rem)] leading-snug">
				{notes.map((n) => (
					<p key={n.body} className="m-0 border-l-4 border-amber pl-3 font-bold" role="note">
						{n.body}
					</p>
				))}
				{step.use && (
					<p className="m-0 font-bold">
						{w.putOn({ product: step.use.product, amount: step.use.amount ? handAmount(step.use.amount) : w.asYouJudge })}
					</p>
				)}
				{step.remove && <p className="m-0 font-bold">{step.remove === "blot" ? w.blotHere : w.takeOffHere}</p>}
				{step.note && <p className="m-0">{step.note}</p>}
				{step.client && <p className="m-0">{w.clientClient({ client: step.client })}</p>}
				{step.find && <p className="m-0 text-amber-dim">{w.findIt({ find: step.find })}</p>}
				{step.sign && <p className="m-0 text-amber-dim">{w.wellDone({ sign: step.sign })}</p>}
				{step.cue && <p className="m-0 text-amber-dim">{step.cue}</p>}
				{step.caution && <p className="m-0 font-bold">{step.caution}</p>}
				<Coming step={step} next={next} zone={zone} soon={v.end - r.at < foretold} round={round} />
			</div>
		</section>
	);
}

/** The part of the repetition being done: a beat at true tempo and the count inside a place. */
function Doing({ doing, zone }: { doing: NonNullable<ReturnType<typeof partAt>>; zone: (k: string) => string }) {
	const { part, n, of, beat } = doing;
	return (
		<p className="m-0 flex items-center gap-4 text-3xl" data-testid="part">
			<span
				aria-hidden="true"
				className="inline-block size-7 rounded-full bg-amber"
				style={{ transform: `scale(${(1 - 0.6 * beat).toFixed(2)})`, opacity: 1 - 0.5 * beat }}
			/>
			<span>
				{[part.does || partWords[part.kind], part.zone ? zone(part.zone).toLowerCase() : "", of > 1 ? w.nOfM({ n, of }) : ""]
					.filter(Boolean)
					.join(" · ")}
			</span>
		</p>
	);
}

/** What comes next; shortly before it, what to reach for and what to say. */
function Coming({
	step,
	next,
	zone,
	soon,
	round,
}: {
	step: Schemas["Resolved"];
	next: Schemas["Resolved"] | undefined;
	zone: (k: string) => string;
	soon: boolean;
	round: string;
}) {
	if (!next) return <p className="mt-2 mb-0 border-t border-amber-dim/50 pt-2 text-[1.7rem]">{w.theLastStep}</p>;
	const a = ahead(step, next);
	const reach = [
		a.product && w.takeProduct({ product: a.product.product, amount: a.product.amount ? handAmount(a.product.amount) : "" }),
		a.tool && w.takeTool({ tool: a.tool }),
		a.handsFree && w.putDown({ tool: a.handsFree }),
		a.lighter !== undefined && w.sayLighter({ pressure: `${a.lighter} ${pressureWords[a.lighter]}` }),
		a.firmer !== undefined && w.sayFirmer({ pressure: `${a.firmer} ${pressureWords[a.firmer]}` }),
	].filter(Boolean);
	return (
		<div className={`mt-2 border-t border-amber-dim/50 pt-2 ${soon ? "-mx-2 rounded-sm bg-amber px-2 text-night" : ""}`} data-testid="next">
			<p className="m-0 truncate text-[1.7rem]">
				{w.next2} <span className="font-bold">{next.name}</span>
				{next.path[0] ? w.fromZone({ zone: zone(next.path[0].zone).toLowerCase() }) : ""}, {doseText(next.dose)}
			</p>
			{(round || reach.length > 0) && (
				<p className="m-0 truncate first-letter:uppercase">{[...reach, round].filter(Boolean).join(" · ")}</p>
			)}
		</div>
	);
}

/** A ring that grows on the in-breath and shrinks on the out-breath. */
function Breath({ dose, local }: { dose: Schemas["Dose"]; local: number }) {
	const i = dose.in ?? 4;
	const p = dose.pause ?? 0;
	const o = dose.out ?? 6;
	const t = local % (i + p + o);
	const size = t < i ? t / i : t < i + p ? 1 : 1 - (t - i - p) / o;
	return (
		<div className="flex items-center gap-4">
			<svg width={130} height={130} viewBox="-65 -65 130 130" aria-hidden="true">
				<circle r={60} fill="none" stroke="currentColor" strokeWidth={2} opacity={0.4} />
				<circle r={16 + 42 * size} fill="currentColor" opacity={0.85} />
			</svg>
			<span className="text-4xl">{t < i ? w.breatheIn : t < i + p ? w.breathHold : w.breatheOut}</span>
		</div>
	);
}
