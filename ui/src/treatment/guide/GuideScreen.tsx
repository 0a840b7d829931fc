import { useState } from "react";
import type { Schemas } from "../../api/client";
import { FaceMap } from "../../face/FaceMap";
import * as w from "../../words/catalogue/treatment";
import type { RoomGuide } from "../useRoomGuide";
import { Details } from "./Details";
import { MeasureLengths } from "./Grades";
import { Knuckle } from "./Knuckle";
import { busyWords, clientDue, foretold, halfWords, isGraded, Now, reachFor, roundWords, Small } from "./Now";
import type { RoomScreen, RoomSizes } from "./roomScreen";
import { lettersOf } from "./sideLetters";
import { countdown } from "./spells";
import { Thread } from "./Thread";

type Props = {
	room: Schemas["RoomGuideView"];
	r: RoomGuide;
	screen: RoomScreen;
	sizes: RoomSizes;
	zones: Schemas["LibraryView"]["zones"];
	zone: (k: string) => string;
	/** The name of a stroke by its key. */
	strokes: (key: string) => string;
	avoid: string[];
	onStop: () => void;
	onLeave: () => void;
	onRecord: () => void;
	onSettings: () => void;
};

/** The dark field in the room: letters for two metres, acts along the bottom, wishes at one edge, Stop alone in the far corner. */
export function GuideScreen(p: Props) {
	const { r, room, sizes, screen } = p;
	const [behind, setBehind] = useState(true);
	const [hidden, setHidden] = useState(false);
	const [details, setDetails] = useState(false);
	const [still, setStill] = useState(() => window.matchMedia("(prefers-reduced-motion: reduce)").matches);
	const step = r.spell?.step;
	const grading = step !== undefined && !r.ended && isGraded(step);
	const rail = screen.edge === "left" ? "row-reverse" : "row";
	const act = "rounded-md border-2 border-amber-dim font-semibold text-amber";
	const wish = `${act} text-xl`;
	const sideLetters = step && r.run && !r.ended ? lettersOf(r.run.side, step.view === "front" && behind) : [];
	const acts: [string, string, (by: "tap") => void, boolean][] = [
		[r.running ? w.pause : w.resume, "Space", r.toggle, !r.running],
		[w.back, w.orPageUp, r.back, false],
		[w.skip, "S", r.skip, false],
		[w.next, w.orPageDown, r.next, r.mayEnd],
	];
	return (
		<div className="flex h-full" style={{ flexDirection: rail, gap: sizes.gap }}>
			<div className="flex min-w-0 flex-1 flex-col">
				<header className="flex shrink-0 items-center" style={{ gap: sizes.gap }}>
					<Knuckle
						still={sizes.still}
						onPress={p.onStop}
						title={w.stopKeys}
						className={`${act} shrink-0 border-amber text-2xl font-bold`}
						style={{ minWidth: sizes.target * 1.2, minHeight: sizes.target }}
					>
						{w.stop}
					</Knuckle>
					{!hidden && <LeaveOut places={p.avoid} size={sizes.read} />}
					{r.twice && (
						<Knuckle
							still={sizes.still}
							onPress={r.leaveOut}
							title={w.markedTwiceLeaveOut}
							className={`${act} shrink-0 bg-amber text-2xl !text-night`}
							style={{ minHeight: sizes.target, minWidth: sizes.target * 1.6 }}
						>
							{w.leaveItOut}
						</Knuckle>
					)}
				</header>
				<div
					className={`relative grid min-h-0 flex-1 gap-4 ${grading ? "grid-cols-[minmax(0,0.32fr)_minmax(0,1fr)]" : "grid-cols-[minmax(0,0.72fr)_minmax(0,1fr)]"}`}
				>
					<div className="relative flex min-h-0 flex-col">
						<p className="m-0 shrink-0 truncate text-amber-dim" style={{ fontSize: sizes.arm, paddingLeft: sizes.glance }}>
							{room.visit.clientName.split(" ")[0]} · {room.visit.protocolName}
						</p>
						<div className="min-h-0 flex-1">
							{grading && <MeasureLengths r={r} room={room} sizes={sizes} />}
							{!hidden && !grading && details && step && !r.ended && (
								<Details r={r} room={room} step={step} sizes={sizes} zone={p.zone} strokes={p.strokes} />
							)}
							{!hidden && !grading && !(details && step && !r.ended) && (
								<FaceMap
									view={step?.view ?? "front"}
									zones={p.zones}
									step={r.ended ? undefined : step}
									visit={r.spell?.visit}
									at={r.at}
									avoid={[...room.avoid, ...r.leftOut]}
									night
									fromBehind={behind}
									still={still}
									label={step ? w.stepOnTheFace({ step: step.name }) : w.theFace}
								/>
							)}
						</div>
						{!hidden && step && !r.ended && !details && (
							<div
								className="shrink-0 overflow-hidden"
								style={{ fontSize: sizes.arm * 0.92, lineHeight: 1.18, maxHeight: sizes.arm * 0.92 * 1.18 * 4 }}
							>
								<Small
									step={step}
									zone={p.zone}
									notes={room.clientNotes.filter((n) => n.steps.includes(step.id))}
									round={[roundWords(r), halfWords(r)].filter(Boolean).join(" · ")}
									due={clientDue(r)}
									busy={busyWords(room.evaluation, step)}
									reach={r.spell && r.spell.seconds - r.t < foretold ? reachFor(step, r.spells[r.index + 1]?.step) : ""}
								/>
							</div>
						)}
						<span className={`flex shrink-0 gap-1.5 pt-1 ${grading ? "flex-wrap" : ""}`}>
							{[
								[behind ? w.fromBehind : w.fromFront, () => setBehind(!behind)],
								[still ? w.stillWord : w.movingWord, () => setStill(!still)],
								[details ? w.backToMap : w.details, () => setDetails(!details)],
								[hidden ? w.showAll : w.hide, () => setHidden(!hidden)],
								[r.here.quiet ? w.quietOff : w.quietWish, () => r.quiet(!r.here.quiet)],
								[w.screenWord, p.onSettings],
								[w.endWord, p.onLeave],
							].map(([name, on]) => (
								<button
									key={name as string}
									type="button"
									className="min-h-11 flex-1 rounded-sm border border-amber-dim/50 px-1 text-sm whitespace-nowrap text-amber"
									onClick={on as () => void}
								>
									{name as string}
								</button>
							))}
						</span>
						<Letter side="left" letters={sideLetters} size={sizes.glance * 1.4} />
					</div>
					<section aria-label={w.now} className="relative flex min-h-0 flex-col justify-between overflow-hidden">
						{r.ended ? (
							<Ended onRecord={p.onRecord} onBack={() => r.back("tap")} sizes={sizes} />
						) : (
							step && (
								<Now r={r} room={room} sizes={sizes} zone={p.zone} step={step} hidden={hidden} behind={step.view === "front" && behind} />
							)
						)}
						<Letter side="right" letters={sideLetters} size={sizes.glance * 1.4} />
					</section>
				</div>
				<Thread spells={r.spells} done={r.index} into={r.ended ? 1 : r.t / Math.max(1, r.t + r.left)} />
				{r.leads ? (
					<div className="mt-1 flex items-center" style={{ gap: sizes.gap }}>
						{!r.ended &&
							acts.map(([name, title, on, lit]) => (
								<Knuckle
									key={title}
									still={sizes.still}
									title={title}
									onPress={() => on("tap")}
									className={`${act} text-2xl ${lit ? "bg-amber !text-night" : ""}`}
									style={{ minWidth: sizes.target * 1.25, minHeight: sizes.target }}
								>
									{name}
								</Knuckle>
							))}
						{r.undoable() && !r.ended && (
							<Knuckle
								still={sizes.still}
								title="Z"
								onPress={r.undo}
								className={`${act} text-xl`}
								style={{ minWidth: sizes.target, minHeight: sizes.target }}
							>
								{w.undoWish}
							</Knuckle>
						)}
						<Clock r={r} sizes={sizes} total={room.evaluation.seconds} />
					</div>
				) : (
					<Follows r={r} sizes={sizes} total={room.evaluation.seconds} />
				)}
			</div>
			{!r.ended && (
				<nav
					aria-label={w.wishesOfTheMoment}
					className="flex shrink-0 flex-col justify-between"
					style={{ width: sizes.target, gap: sizes.gap / 2 }}
				>
					{(
						[
							[w.stayWish, "↑", () => r.stay("tap"), !r.leads],
							[w.lessWish, "↓", () => r.less("tap"), false],
							[w.tenderWish, "T", () => r.tender("tap"), false],
							[w.productWish, "A", () => r.product("tap"), false],
							[w.redWish, "R", () => r.redness("tap"), false],
							[w.timeWish, "L", r.askForTime, !r.leads],
						] as const
					).map(([name, key, on, off]) => (
						<Knuckle
							key={key}
							still={sizes.still}
							title={key}
							disabled={off}
							onPress={on}
							className={`${wish} disabled:opacity-40`}
							style={{ minHeight: sizes.target, width: sizes.target }}
						>
							{name}
						</Knuckle>
					))}
				</nav>
			)}
		</div>
	);
}

function Letter({ side, letters, size }: { side: "left" | "right"; letters: { letter: string; at: string }[]; size: number }) {
	const l = letters.find((x) => x.at === side);
	if (!l) return null;
	return (
		<span
			data-testid={`letter-${side}`}
			className={`pointer-events-none absolute top-0 ${side === "left" ? "left-0" : "right-0"} font-sans leading-none font-bold text-amber`}
			style={{ fontSize: size }}
		>
			{l.letter}
		</span>
	);
}

/** What is left out today, to the end: several places take two smaller lines of the same height; all are hatched on the face. */
function LeaveOut({ places, size }: { places: string[]; size: number }) {
	return (
		<p
			className={`m-0 min-w-0 flex-1 font-bold ${places.length > 1 ? "line-clamp-2" : "truncate"}`}
			role="note"
			style={places.length > 1 ? { fontSize: size * 0.7, lineHeight: 1.05 } : { fontSize: size, lineHeight: 1.1 }}
			title={places.join(", ")}
		>
			{places.length > 0 ? w.leaveOutPlaces({ places: places.join(", ") }) : w.nothingLeftOut}
		</p>
	);
}

/** Time left, how late or early, and whether what happened is sent. */
function Clock({ r, sizes, total }: { r: RoomGuide; sizes: RoomSizes; total: number }) {
	const left =
		r.begun && !r.ended
			? r.spells.slice(r.index).reduce((sum, x) => sum + x.seconds, 0) - Math.min(r.t, r.spell?.seconds ?? 0)
			: total - r.position;
	const minutes = Math.trunc(Math.abs(r.late) / 60);
	return (
		<p className="num m-0 ml-auto text-right" data-testid="clock">
			<span className="block font-serif font-semibold" style={{ fontSize: sizes.glance * 0.8, lineHeight: 1 }}>
				{left > 0 || !r.waiting ? countdown(left) : w.overBy({ time: countdown(r.over) })}
			</span>
			<span style={{ fontSize: sizes.arm }}>
				{[
					minutes > 0 ? (r.late > 0 ? w.minutesLate({ n: minutes }) : w.minutesEarly({ n: minutes })) : w.onTime,
					r.unsent > 0 && r.alone ? w.keptHere({ n: r.unsent }) : w.sent,
				].join(" · ")}
			</span>
		</p>
	);
}

/** This tablet follows another: it shows where that one is, takes marks, and may take over. */
function Follows({ r, sizes, total }: { r: RoomGuide; sizes: RoomSizes; total: number }) {
	return (
		<div className="mt-1 flex items-center" style={{ gap: sizes.gap }}>
			<p role="status" className="m-0 font-bold" style={{ fontSize: sizes.arm * 1.25 }}>
				{w.anotherTabletLeads}
			</p>
			<Knuckle
				still={sizes.still}
				onPress={r.takeOver}
				className="rounded-md border-2 border-amber bg-amber px-6 text-2xl font-semibold text-night"
				style={{ minHeight: sizes.target }}
			>
				{w.takeOverHere}
			</Knuckle>
			<Clock r={r} sizes={sizes} total={total} />
		</div>
	);
}

function Ended({ onRecord, onBack, sizes }: { onRecord: () => void; onBack: () => void; sizes: RoomSizes }) {
	const big = "w-full rounded-md border-2 border-amber-dim px-5 text-2xl font-semibold text-amber";
	return (
		<div className="flex h-full flex-col justify-center gap-4 pr-6">
			<h1 className="m-0 font-sans" style={{ fontSize: sizes.read }}>
				{w.massageFinished}
			</h1>
			<p className="m-0" style={{ fontSize: sizes.arm * 1.2 }}>
				{w.helpClientSitUpSlowlyOffer}
			</p>
			<Knuckle still={sizes.still} onPress={onRecord} className={`${big} bg-amber !text-night`} style={{ minHeight: sizes.target }}>
				{w.record}
			</Knuckle>
			<Knuckle still={sizes.still} onPress={onBack} className={big} style={{ minHeight: sizes.target }}>
				{w.back}
			</Knuckle>
		</div>
	);
}
