import { useState } from "react";
import type { Schemas } from "../../api/client";
import { FaceMap } from "../../face/FaceMap";
import { ahead } from "../../face/spell";
import * as w from "../../words/catalogue/treatment";
import { handAmount, roleOfHandWords } from "../../words/sentences";
import type { RoomGuide } from "../useRoomGuide";
import { Display } from "./Display";
import { Grades } from "./Grades";
import { Knuckle } from "./Knuckle";
import { RefitOffer } from "./RefitOffer";
import type { RoomScreen, RoomSizes } from "./roomScreen";
import { countdown } from "./spells";
import { Thread } from "./Thread";

type Props = {
	room: Schemas["RoomGuideView"];
	r: RoomGuide;
	screen: RoomScreen;
	sizes: RoomSizes;
	zones: Schemas["LibraryView"]["zones"];
	zone: (k: string) => string;
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
	const [still, setStill] = useState(() => window.matchMedia("(prefers-reduced-motion: reduce)").matches);
	const step = r.spell?.step;
	const rail = screen.edge === "left" ? "row-reverse" : "row";
	const act = "rounded-md border-2 border-amber-dim font-semibold text-amber";
	const wish = `${act} text-xl`;
	const sideLetters = step && r.run && !r.ended ? lettersOf(r.run.side, step.view === "front" && behind) : [];
	const acts: [string, string, (by: "tap") => void, boolean][] = [
		[r.running ? w.pause : w.resume, "Space", r.toggle, !r.running],
		[w.back, w.orPageUp, r.back, false],
		[w.skip, "S", r.skip, false],
		[w.next, w.orPageDown, r.next, r.waiting],
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
				</header>
				<div className="relative grid min-h-0 flex-1 grid-cols-[minmax(0,0.72fr)_minmax(0,1fr)] gap-4">
					<div className="relative flex min-h-0 flex-col">
						<p className="m-0 shrink-0 truncate text-amber-dim" style={{ fontSize: sizes.arm, paddingLeft: sizes.glance }}>
							{room.visit.clientName.split(" ")[0]} · {room.visit.protocolName}
						</p>
						<div className="min-h-0 flex-1">
							{!hidden && (
								<FaceMap
									view={step?.view ?? "front"}
									zones={p.zones}
									step={r.ended ? undefined : step}
									visit={r.spell?.visit}
									at={r.at}
									avoid={room.avoid}
									night
									fromBehind={behind}
									still={still}
									label={step ? w.stepOnTheFace({ step: step.name }) : w.theFace}
								/>
							)}
						</div>
						{!hidden && step && !r.ended && (
							<div
								className="shrink-0 overflow-hidden"
								style={{ fontSize: sizes.arm * 0.92, lineHeight: 1.18, maxHeight: sizes.arm * 0.92 * 1.18 * 4 }}
							>
								<Small
									step={step}
									zone={p.zone}
									notes={room.clientNotes.filter((n) => n.steps.includes(step.id))}
									round={roundWords(r)}
									reach={r.spell && r.spell.seconds - r.t < foretold ? reachFor(step, r.spells[r.index + 1]?.step) : ""}
								/>
							</div>
						)}
						<span className="flex shrink-0 gap-1.5 pt-1">
							{[
								[behind ? w.fromBehind : w.fromFront, () => setBehind(!behind)],
								[still ? w.stillWord : w.movingWord, () => setStill(!still)],
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
							step && <Now r={r} sizes={sizes} zone={p.zone} step={step} hidden={hidden} />
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

/** The letters of the side that is worked, each at the screen's edge at which the client's side lies. */
export function lettersOf(side: string, behind: boolean): { letter: string; at: "left" | "right" }[] {
	const left = { letter: w.letterLeft, at: behind ? ("left" as const) : ("right" as const) };
	const right = { letter: w.letterRight, at: behind ? ("right" as const) : ("left" as const) };
	return side === "left" ? [left] : side === "right" ? [right] : side === "both" ? [left, right] : [];
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

/** What is left out today, to the end: as many places as the line holds; all are hatched on the face. */
function LeaveOut({ places, size }: { places: string[]; size: number }) {
	return (
		<p className="m-0 min-w-0 flex-1 truncate font-bold" role="note" style={{ fontSize: size, lineHeight: 1.1 }} title={places.join(", ")}>
			{places.length > 0 ? w.leaveOutPlaces({ places: places.join(", ") }) : w.nothingLeftOut}
		</p>
	);
}

/** Pressure here: a level lower for each "less", and once more where a spot was tender today; own weight stays. */
export function pressureNow(step: Schemas["Resolved"], less: number, marks: readonly Schemas["RoomMark"][], side: string): number {
	const tender = marks.some(
		(m) =>
			m.kind === "tender" &&
			step.path.some((p) => p.zone === m.zone) &&
			(m.side === side || m.side === "both" || side === "both" || side === "mid"),
	);
	const p = step.pressure;
	return p === 0 ? 0 : Math.max(1, p - less - (tender ? 1 : 0));
}

type NowProps = { r: RoomGuide; sizes: RoomSizes; zone: (k: string) => string; step: Schemas["Resolved"]; hidden: boolean };

function Now({ r, sizes, zone, step, hidden }: NowProps) {
	const next = r.spells[r.index + 1]?.step;
	const before = r.spells[r.index - 1]?.step;
	const p = pressureNow(step, r.here.less, r.here.marks, r.run?.side ?? "mid");
	const lighter = r.t < (r.spell?.visit.lead ?? 0) && before && before.path.length > 0 && before.pressure - step.pressure >= 2;
	const read = { fontSize: sizes.read, lineHeight: 1, paddingBottom: "0.08em" };
	// Two lines for what comes next, unless the count has a line beside it on a low screen.
	const tight =
		window.innerHeight < 12.2 * sizes.read &&
		(step.parts.length > 1 || (step.dose?.sets ?? 0) > 1 || !["reps", "clock"].includes(step.dose?.kind ?? ""));
	const grades = ["compare", "look-over"].includes(step.phase) && step.path.length === 0;
	return (
		<>
			{!hidden && (
				<div>
					<h1 className="m-0 line-clamp-2 font-sans font-bold" style={{ ...read, paddingRight: sizes.glance }}>
						{step.short || step.name}
					</h1>
					{step.path.length > 0 && !r.offer && (
						<p className="m-0 truncate" style={read}>
							{step.toolName ? `${step.toolName}${step.tool?.part ? `, ${step.tool.part}` : ""}` : step.hand}
						</p>
					)}
					{step.path.length > 0 && !r.offer && (
						<p
							className="m-0 truncate font-semibold"
							data-testid="pressure"
							style={{ fontSize: sizes.glance, lineHeight: 1, paddingBottom: "0.08em" }}
						>
							<span className="num font-serif">{p}</span> {roomPressure[p]}
						</p>
					)}
				</div>
			)}
			{r.offer ? (
				<RefitOffer r={r} offer={r.offer} sizes={sizes} />
			) : grades ? (
				<Grades r={r} sizes={sizes} />
			) : (
				<Display r={r} sizes={sizes} zone={zone} />
			)}
			<div>
				{(r.said || lighter) && (
					<p role="status" className="m-0 truncate font-bold" style={{ ...read, fontSize: sizes.read * 0.75 }}>
						{r.said || w.tellLighterNow}
					</p>
				)}
				{!hidden && !(r.said || lighter) && (
					<p data-testid="next" className={`m-0 ${tight ? "truncate" : "line-clamp-2"}`} style={read}>
						{next ? (
							<>
								<span className="text-amber-dim" role="img" aria-label={w.next2}>
									→
								</span>{" "}
								{next.short || next.name}
								{next.path[0] ? `, ${zone(next.path[0].zone).toLowerCase()}` : ""}
							</>
						) : (
							w.theLastStep
						)}
					</p>
				)}
			</div>
		</>
	);
}

const foretold = 15;

/** Pressure in a word that fits beside its digit. */
const roomPressure: Record<number, string> = {
	0: w.weightOnly,
	1: w.feather,
	2: w.lightWord,
	3: w.mediumWord,
	4: w.firmWord,
	5: w.deepWord,
};

const roundWords = (r: RoomGuide) => {
	const of = r.spells.filter((s) => s.step === r.spell?.step).length;
	return of > 1 ? w.roundOf({ n: r.spell!.visit.pass, of }) : "";
};

/** What to reach for before the next step. */
function reachFor(step: Schemas["Resolved"], next: Schemas["Resolved"] | undefined): string {
	if (!next) return "";
	const a = ahead(step, next);
	return [
		a.product && w.takeProduct({ product: a.product.product, amount: a.product.amount ? handAmount(a.product.amount) : "" }),
		a.tool && w.takeTool({ tool: a.tool }),
		a.handsFree && w.putDown({ tool: a.handsFree }),
	]
		.filter(Boolean)
		.join(" · ");
}

/** What is read at arm's length: notes of this client, what to put on, signs, cautions. */
type SmallProps = { step: Schemas["Resolved"]; zone: (k: string) => string; notes: Schemas["StepNote"][]; round: string; reach: string };

function Small({ step, zone, notes, round, reach }: SmallProps) {
	const lines: [string, boolean][] = [
		[reach, true],
		...notes.map((n): [string, boolean] => [n.body, true]),
		[step.use ? w.putOn({ product: step.use.product, amount: step.use.amount ? handAmount(step.use.amount) : w.asYouJudge }) : "", true],
		[step.remove === "blot" ? w.blotHere : step.remove ? w.takeOffHere : "", true],
		[step.caution ?? "", true],
		[round, false],
		[
			step.anchor
				? w.otherHand({
						what: [step.anchor.hand, zone(step.anchor.zone).toLowerCase(), step.anchor.role ? roleOfHandWords[step.anchor.role] : ""]
							.filter(Boolean)
							.join(", "),
					})
				: "",
			false,
		],
		[step.client ? w.clientClient({ client: step.client }) : "", false],
		[step.sign && step.dose?.kind !== "until" ? w.wellDone({ sign: step.sign }) : "", false],
		[step.note ?? "", false],
		[step.cue ?? "", false],
	];
	return (
		<>
			{lines
				.filter(([text]) => text)
				.slice(0, 3)
				.map(([text, strong]) => (
					<p key={text} className={`m-0 ${strong ? "line-clamp-2 font-bold" : "truncate text-amber-dim"}`}>
						{text}
					</p>
				))}
		</>
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
		<div className="flex h-full flex-col justify-center gap-4">
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
