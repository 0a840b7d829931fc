import { useContext, useEffect, useState } from "react";
import type { Schemas } from "../../api/client";
import { partAt } from "../../face/spell";
import * as w from "../../words/catalogue/treatment";
import { handAmount, partWords } from "../../words/sentences";
import type { RoomGuide } from "../useRoomGuide";
import { breathAt, type Pace, tapped } from "./breath";
import { Knuckle } from "./Knuckle";
import type { RoomSizes } from "./roomScreen";
import { lettersOf } from "./sideLetters";
import { beat, countdown, counted, isApplication, isExercise } from "./spells";
import { Beads } from "./Thread";
import { Tones } from "./useTones";

type Props = { r: RoomGuide; sizes: RoomSizes; zone: (k: string) => string; behind: boolean };

/** What is largest for a kind of step, and what stands beside it (handbook, chapter 7, What is on screen). */
export function Display(p: Props) {
	const { r, sizes, zone } = p;
	const s = r.spell;
	const run = r.run;
	if (!s || !run) return null;
	const { step, visit } = s;
	const d = step.dose!;
	const local = Math.max(0, r.t - visit.lead - (run.start - visit.start));
	if (r.t < visit.lead - 0.3) return <Large sizes={sizes} main={w.moveOver} beside={step.find ? w.findIt({ find: step.find }) : ""} />;
	// The hands change over: the letter at the other edge is shown already.
	if (r.t - visit.lead < run.start - visit.start && run !== visit.passes[0]) return <OtherSide {...p} />;
	if (step.use && isApplication(step))
		return (
			<Large
				sizes={sizes}
				main={step.use.amount ? handAmount(step.use.amount) : w.asYouJudge}
				beside={[step.use.product, placesOf(step, zone)].filter(Boolean).join(": ")}
				below={
					visit.slipBefore === undefined
						? ""
						: w.slipNowAndAfter({ before: Math.round(visit.slipBefore), after: Math.round(visit.slipEnd) })
				}
			/>
		);
	if (isExercise(step)) return <ForTheClient {...p} local={local} />;
	const stays = r.here.stays[s.key] ?? 0;
	const rep = beat(s);
	if ((d.kind === "reps" || d.kind === "counts" || d.kind === "breaths") && rep > 0) {
		const sets = Math.max(1, d.sets ?? 1);
		const each = (d.planned ?? 0) + (sets === 1 ? stays : 0);
		const one = each * rep + (d.rest ?? 0);
		const set = Math.min(sets, Math.floor(local / one) + 1);
		const inSet = local - (set - 1) * one;
		if (sets > 1 && inSet >= each * rep && set < sets)
			return <Large sizes={sizes} main={countdown(set * one - local)} beside={w.restThenSet({ n: set + 1, of: sets })} />;
		const c = counted(inSet, rep, each);
		const n = c.n;
		// A practitioner's pace stretches the beat: the parts keep their shares of it.
		const whole =
			d.kind === "breaths"
				? (d.in ?? 0) + (d.pause ?? 0) + (d.out ?? 0)
				: step.parts.reduce((sum, p) => sum + p.seconds * Math.max(1, p.count ?? 1), 0);
		const into = whole > 0 ? ((inSet % rep) * whole) / rep : inSet % rep;
		const isLast = n === each && c.over === 0;
		if (d.kind === "breaths")
			return (
				<Large
					sizes={sizes}
					main={<PacedBreath key={s.key} dose={d} t={into} whole={whole} running={r.running} sizes={sizes} />}
					beside={c.over > 0 ? `+${c.over}` : w.breathOf({ n, of: each })}
				>
					{(d.pulses ?? 0) > 0 && <Beads n={pulsesDone(d, into)} of={d.pulses!} width={sizes.glance * 2} />}
				</Large>
			);
		const lastDiffers = isLast && step.last;
		return (
			<Large
				sizes={sizes}
				main={<span data-testid="count">{c.over > 0 ? `+${c.over}` : isLast && each > 1 ? w.lastOne : w.nOfTotal({ n, of: each })}</span>}
				beside={[sets > 1 ? w.setOf({ n: set, of: sets }) : "", lastDiffers ? step.last?.does || w.leanIn : ""].filter(Boolean).join(" · ")}
			>
				<Beads n={isLast ? each - (c.over > 0 ? 0 : 1) : n - 1} of={each} width={sizes.glance * 3} />
				{step.parts.length > 1 && <Parts step={step} t={into} sizes={sizes} zone={zone} />}
			</Large>
		);
	}
	if (d.kind === "positions") return <Positions r={r} sizes={sizes} local={local} />;
	if (d.kind === "until" || d.kind === "free" || d.kind === "unknown") {
		return <Large sizes={sizes} main={<span data-testid="count">{countdown(local)}</span>} beside={openWords(step, local)} />;
	}
	const left = run.seconds + stays - local;
	return (
		<Large
			sizes={sizes}
			main={<span data-testid="countdown">{left > 0 ? countdown(left) : `+${countdown(-left)}`}</span>}
			beside={step.family === "hygiene" ? (step.why ?? step.cue ?? "") : step.sign ? w.wellDone({ sign: step.sign }) : ""}
		/>
	);
}

/** The hands change over: an arrow to the side that comes, and the counts of both. */
function OtherSide({ r, sizes, behind }: Props) {
	const { step, visit } = r.spell!;
	const toRight = lettersOf(r.run!.side, behind)[0]?.at === "right";
	const each = ["reps", "counts", "breaths"].includes(step.dose?.kind ?? "") ? String(step.dose?.planned ?? "") : "";
	const counts = visit.passes.map(
		(pass) => `${pass.side === "left" ? w.letterLeft : w.letterRight} ${each || w.shortSeconds({ n: Math.round(pass.seconds) })}`,
	);
	return (
		<Large
			sizes={sizes}
			main={
				<span>
					{!toRight && "← "}
					{w.otherSide}
					{toRight && " →"}
				</span>
			}
			beside={counts.join(" · ")}
		/>
	);
}

/** An exercise: what the client does, to be read out, with the count or the present part, and where the hands resist. */
function ForTheClient({ r, sizes, zone, local }: Props & { local: number }) {
	const s = r.spell!;
	const { step } = s;
	const rep = beat(s);
	const d = step.dose!;
	const stays = r.here.stays[s.key] ?? 0;
	const c = rep > 0 ? counted(local, rep, (d.planned ?? 0) + stays) : undefined;
	const doing = step.parts.length > 1 ? partAt(step.parts, local % rep) : undefined;
	const hands = [...new Set(step.path.map((x) => zone(x.zone).toLowerCase()))].slice(0, 2).join(", ");
	return (
		<div>
			<p className="m-0 mb-1 line-clamp-3 font-semibold" data-testid="client" style={{ fontSize: sizes.read * 0.75, lineHeight: 1.05 }}>
				{step.client}
			</p>
			{d.kind === "positions" ? (
				<Positions r={r} sizes={sizes} local={local} />
			) : (
				<Large
					sizes={sizes}
					main={
						<span data-testid="count">
							{c ? (c.over > 0 ? `+${c.over}` : w.nOfTotal({ n: c.n, of: (d.planned ?? 0) + stays })) : countdown(r.left)}
						</span>
					}
					beside={[
						doing ? [doing.part.does || partWords[doing.part.kind], countdown(doing.left)].join(" ") : "",
						step.hand && hands ? w.handsResist({ hand: step.hand, place: hands }) : "",
					]
						.filter(Boolean)
						.join(" · ")}
					below={step.hand ? w.noNewLines : ""}
				/>
			)}
		</div>
	);
}

/** What an open step waits for, its planned mark, and what to offer once that is passed. */
function openWords(step: Schemas["Resolved"], seconds: number): string {
	const d = step.dose!;
	const planned = d.planned ?? 0;
	if (d.kind === "unknown") return w.notSaidPlanned({ seconds: planned });
	const mark = w.plannedSeconds({ seconds: planned });
	if (d.kind === "free")
		return [w.asItFeelsRight, mark, step.least < step.most ? w.fromTo({ least: step.least, most: step.most }) : ""]
			.filter(Boolean)
			.join(" · ");
	return [d.sign ?? w.theSign, seconds < planned ? mark : w.oneMoreBreath].join(" · ");
}

const placesOf = (step: Schemas["Resolved"], zone: (k: string) => string) =>
	[...new Set(step.path.map((p) => zone(p.zone).toLowerCase()))].slice(0, 4).join(", ");

type LargeProps = { main: React.ReactNode; beside: string; below?: string; sizes: RoomSizes; children?: React.ReactNode };

function Large({ main, beside, below, sizes, children }: LargeProps) {
	return (
		<div>
			<div
				className="num flex flex-wrap items-center gap-x-5 font-serif font-semibold"
				style={{ fontSize: sizes.glance, lineHeight: 1, paddingBottom: "0.06em" }}
			>
				{main}
				{children}
			</div>
			{[beside, below].filter(Boolean).map((line) => (
				<p key={line} className="m-0 truncate first-letter:uppercase" style={{ fontSize: sizes.arm * 1.15, lineHeight: 1.15 }}>
					{line}
				</p>
			))}
		</div>
	);
}

/** The parts of a repetition: the present one is lit, with its seconds left. */
function Parts({ step, t, sizes, zone }: { step: Schemas["Resolved"]; t: number; sizes: RoomSizes; zone: (k: string) => string }) {
	const doing = partAt(step.parts, t);
	let at = 0;
	return (
		<ul
			className="m-0 list-none p-0 font-sans text-[length:var(--part)] leading-tight font-normal"
			style={{ ["--part" as string]: `${sizes.arm}px` }}
			data-testid="part"
		>
			{step.parts.map((p) => {
				const key = `${p.kind}${p.zone ?? ""}${at}`;
				at += p.seconds * Math.max(1, p.count ?? 1);
				const lit = doing?.part === p;
				return (
					<li key={key} className={lit ? "font-bold" : "text-amber-dim"}>
						{[p.does || partWords[p.kind], p.zone ? zone(p.zone).toLowerCase() : ""].filter(Boolean).join(" · ")}
						{lit && ` ${countdown(at - t)}`}
					</li>
				);
			})}
		</ul>
	);
}

/** Pulses fall on the out-breath: pulse j of p at in + pause + (j - 1/2) x out/p. */
export function pulsesDone(d: Schemas["Dose"], t: number): number {
	const p = d.pulses ?? 0;
	const from = (d.in ?? 0) + (d.pause ?? 0);
	let n = 0;
	for (let j = 1; j <= p; j++) if (t >= from + ((j - 0.5) * (d.out ?? 0)) / p) n++;
	return n;
}

/** The ring as a pacer: a tap restarts the in-breath, and four of them follow the client. */
function PacedBreath({
	dose,
	t,
	whole,
	running,
	sizes,
}: {
	dose: Schemas["Dose"];
	t: number;
	whole: number;
	running: boolean;
	sizes: RoomSizes;
}) {
	const [pace, setPace] = useState<Pace>();
	const [following, setFollowing] = useState(false);
	const now = performance.now() / 1000;
	const into = running ? breathAt(pace, now, t, whole) : t;
	const stretch = pace?.period && whole > 0 ? pace.period / whole : 1;
	const turn = into < (dose.in ?? 0) ? "breathIn" : into >= (dose.in ?? 0) + (dose.pause ?? 0) ? "breathOut" : "";
	const play = useContext(Tones);
	useEffect(() => {
		if (!running || !turn) return;
		return play(turn, (turn === "breathIn" ? (dose.in ?? 0) : (dose.out ?? 0)) * stretch);
	}, [running, turn, play, dose.in, dose.out, stretch]);
	return (
		<>
			<Knuckle
				still={sizes.still}
				aria-label={w.tapRestartsBreath}
				className="flex items-center gap-5"
				onPress={() => setPace((p) => tapped(p, performance.now() / 1000, following))}
			>
				<span className="flex items-center gap-5">
					<Breath dose={dose} t={into} size={sizes.glance * 1.15} />
				</span>
			</Knuckle>
			<Knuckle
				still={sizes.still}
				aria-pressed={following}
				title={w.followBreath}
				aria-label={w.followBreath}
				className={`rounded-md border-2 px-3 font-sans font-semibold ${following ? "border-amber bg-amber text-night" : "border-amber-dim"}`}
				style={{ minHeight: sizes.target * 0.6, fontSize: sizes.arm * 0.85 }}
				onPress={() => setFollowing(!following)}
			>
				{pace?.period
					? w.breathPeriod({ seconds: pace.period.toFixed(1) })
					: following && pace && pace.taps.length > 0
						? `${pace.taps.length}/4`
						: w.followShort}
			</Knuckle>
		</>
	);
}

/** A ring that fills with the in-breath, stays full in the pause and empties with the out-breath. */
function Breath({ dose, t, size }: { dose: Schemas["Dose"]; t: number; size: number }) {
	const i = dose.in ?? 4;
	const p = dose.pause ?? 0;
	const o = dose.out ?? 6;
	const full = t < i ? t / i : t < i + p ? 1 : Math.max(0, 1 - (t - i - p) / o);
	const word = t < i ? w.breatheIn : t < i + p ? w.breathHold : w.breatheOut;
	const round = 2 * Math.PI * 42;
	return (
		<>
			<svg width={size} height={size} viewBox="-50 -50 100 100" aria-hidden="true">
				<circle r={42} fill="none" stroke="var(--color-amber-dim)" strokeWidth={2} opacity={0.6} />
				<circle
					r={42}
					fill="none"
					stroke="var(--color-amber)"
					strokeWidth={13}
					strokeDasharray={`${full * round} ${round}`}
					transform="rotate(-90)"
				/>
			</svg>
			<span>{word}</span>
		</>
	);
}

const ways = [w.placeUp, w.placeYourRight, w.placeDown, w.placeYourLeft];

/** The place in the client's words, which of how many, the round, and the seconds there. */
function Positions({ r, sizes, local }: { r: RoomGuide; sizes: RoomSizes; local: number }) {
	const d = r.spell!.step.dose!;
	const places = Math.max(1, d.places ?? 1);
	const each = d.seconds ?? 1;
	const n = Math.floor(local / each);
	const oneWay = d.planned ?? 1;
	const rounds = oneWay * Math.max(1, d.senses ?? 1) + (r.here.stays[r.spell!.key] ?? 0);
	const round = Math.min(rounds, Math.floor(n / places) + 1);
	// In the other sense the round begins at the same place and goes back.
	const back = (d.senses ?? 1) > 1 && round > oneWay;
	const place = back ? (places - (n % places)) % places : n % places;
	const main = places === ways.length ? ways[place]! : w.placeNumber({ n: place + 1 });
	return (
		<Large
			sizes={sizes}
			main={<span data-testid="count">{main}</span>}
			beside={[
				w.nOfTotal({ n: (n % places) + 1, of: places }),
				(d.senses ?? 1) > 1 ? (back ? w.theOtherWay : w.oneWay) : "",
				w.roundOf({ n: round, of: rounds }),
				countdown(each - (local % each)),
			]
				.filter(Boolean)
				.join(" · ")}
		>
			<Beads n={n % places} of={places} width={sizes.glance * 3} />
		</Large>
	);
}
