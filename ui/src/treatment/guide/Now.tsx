import type { Schemas } from "../../api/client";
import { ahead } from "../../face/spell";
import { clock } from "../../kit/format";
import * as w from "../../words/catalogue/treatment";
import { handAmount, roleOfHandWords } from "../../words/sentences";
import type { RoomGuide } from "../useRoomGuide";
import { Display } from "./Display";
import { Grades } from "./Grades";
import { halfOf } from "./halves";
import { RefitOffer } from "./RefitOffer";
import type { RoomSizes } from "./roomScreen";
import { isApplication, isExercise, roundOf } from "./spells";

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

type NowProps = {
	r: RoomGuide;
	room: Schemas["RoomGuideView"];
	sizes: RoomSizes;
	zone: (k: string) => string;
	step: Schemas["Resolved"];
	hidden: boolean;
	/** Whether the face is seen from behind the head, so that the client's left is on the left. */
	behind: boolean;
};

export function Now({ r, room, sizes, zone, step, hidden, behind }: NowProps) {
	const next = r.spells[r.index + 1]?.step;
	const before = r.spells[r.index - 1]?.step;
	const p = pressureNow(step, r.here.less, r.here.marks, r.run?.side ?? "mid");
	const lighter =
		r.t < (r.spell?.visit.lead ?? 0) && step.path.length > 0 && before && before.path.length > 0 && before.pressure - step.pressure >= 2;
	// What comes next takes two lines. Where the count has a line beside it on a low screen, they take the hand's line
	// towards the end of the step, when the hands know theirs and the eye looks for what follows.
	const narrow =
		step.path.length > 0 &&
		window.innerHeight < 12.2 * sizes.read &&
		(isApplication(step) || step.parts.length > 1 || (step.dose?.sets ?? 0) > 1 || !["reps", "clock"].includes(step.dose?.kind ?? ""));
	const nearEnd = r.left < Math.min(foretold, (r.left + r.t) / 2);
	const tight = narrow && !nearEnd;
	const grades = isGraded(step);
	// Where the client works, what to do stands in the place of the practitioner's hand and pressure.
	const works = step.path.length > 0 && !r.offer && !isExercise(step);
	// Two columns of grades with targets for a knuckle leave less room for words.
	const read = { fontSize: sizes.read * (grades ? 0.7 : 1), lineHeight: 1, paddingBottom: "0.08em" };
	return (
		<>
			{!hidden && (
				<div>
					<h1 className={`m-0 font-sans font-bold ${grades ? "truncate" : "line-clamp-2"}`} style={{ ...read, paddingRight: sizes.glance }}>
						{r.insteadName || step.short || step.name}
					</h1>
					{works && !(narrow && nearEnd) && (
						<p className="m-0 truncate" style={read}>
							{step.toolName ? `${step.toolName}${step.tool?.part ? `, ${step.tool.part}` : ""}` : step.hand}
						</p>
					)}
					{works && (
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
				<Grades r={r} room={room} sizes={sizes} />
			) : (
				<Display r={r} sizes={sizes} zone={zone} behind={behind} />
			)}
			<div>
				{(r.said || lighter) && (
					<p role="status" className="m-0 truncate font-bold" style={{ ...read, fontSize: sizes.read * 0.75 }}>
						{r.said || w.tellLighterNow}
					</p>
				)}
				{!hidden && !(r.said || lighter) && (
					<p data-testid="next" className={`m-0 ${tight || grades ? "truncate" : "line-clamp-2"}`} style={read}>
						{next ? (
							<>
								<span className="text-amber-dim" role="img" aria-label={w.next2}>
									→
								</span>{" "}
								{next.short || next.name}
								{next.path[0] && !tight && !grades ? `, ${zone(next.path[0].zone).toLowerCase()}` : ""}
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

/** How many seconds before its end what comes next is told. */
export const foretold = 15;

/** Pressure in a word that fits beside its digit. */
const roomPressure: Record<number, string> = {
	0: w.weightOnly,
	1: w.feather,
	2: w.lightWord,
	3: w.mediumWord,
	4: w.firmWord,
	5: w.deepWord,
};

/** Steps at which left and right are compared: grades are entered instead of counting. */
export const isGraded = (step: Schemas["Resolved"]) => ["compare", "look-over"].includes(step.phase) && step.path.length === 0;

/** The half of the plan, and where the second one differs from the first. */
export function halfWords(r: RoomGuide): string {
	const h = halfOf(r.spells, r.index, r.t, r.here.spent);
	if (!h) return "";
	if (h.half === 1) return w.firstHalf({ time: clock(h.first) });
	const mirrored = r.spells.find((s) => s.step.id === r.spell?.step.mirrorOf);
	return [
		h.differs !== 0
			? w.halvesDiffer({ time: clock(Math.abs(h.differs)), word: h.differs < 0 ? w.shorterWord : w.longerWord })
			: w.secondHalfLike({ time: clock(h.first) }),
		mirrored && r.here.spent[mirrored.key] ? `${mirrored.step.short || mirrored.step.name} ${clock(r.here.spent[mirrored.key] ?? 0)}` : "",
		r.spell?.step.departure ? w.departureHere({ why: r.spell.step.departure }) : "",
	]
		.filter(Boolean)
		.join(" · ");
}

export function roundWords(r: RoomGuide): string {
	const round = roundOf(r.spells, r.index);
	if (!round) return "";
	return [w.roundOf({ n: round.n, of: round.of }), round.steps > 1 ? w.stepOf({ n: round.step, of: round.steps }) : ""]
		.filter(Boolean)
		.join(" · ");
}

/** What to reach for before the next step. */
export function reachFor(step: Schemas["Resolved"], next: Schemas["Resolved"] | undefined): string {
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
type SmallProps = {
	step: Schemas["Resolved"];
	zone: (k: string) => string;
	notes: Schemas["StepNote"][];
	round: string;
	reach: string;
	/** Whether the client's part begins now: at the start of a repetition, or on the breath. */
	due: boolean;
	/** That the step's tool is not clean and ready yet, and for how long. */
	busy: string;
};

/** For how long the step's tool is not ready yet, by what the plan found. */
export function busyWords(e: Schemas["Evaluation"], step: Schemas["Resolved"]): string {
	const found = e.findings.find((f) => f.code === "tool-not-ready" && f.steps[0] === step.id);
	const minutes = (found?.values as { minutes?: number } | undefined)?.minutes ?? 0;
	return found && step.toolName ? w.toolReadyIn({ tool: step.toolName, minutes }) : "";
}

/** Whether the client's part begins now: in the first part of a repetition, at least so many seconds. */
export function clientDue(r: RoomGuide): boolean {
	const rep = r.spell?.visit.repSeconds ?? 0;
	if (!r.run || rep <= 0) return true;
	const into = Math.max(0, r.at - r.run.start) % rep;
	return into < Math.max(leastDue, rep * partDue);
}

const leastDue = 2;
const partDue = 0.4;

export function Small({ step, zone, notes, round, reach, due, busy }: SmallProps) {
	const part = step.client && !isExercise(step) ? w.clientClient({ client: step.client }) : "";
	const lines: [string, boolean][] = [
		[reach, true],
		[busy, true],
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
		[part, true],
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
					<p
						key={text}
						className={`m-0 ${text === part ? `truncate font-bold ${due ? "" : "invisible"}` : strong ? "line-clamp-2 font-bold" : "truncate text-amber-dim"}`}
					>
						{text}
					</p>
				))}
		</>
	);
}
