import type { Schemas } from "../api/client";
import { dayWords, monthWords } from "../kit/format";
import { Button } from "../kit/kit";
import * as w from "../words/catalogue/questions";
import { dateLabel } from "../words/client";

type Rule = Schemas["Rule"];
/** What a rule asks; a client is told no more of it. */
type Asked = Schemas["ClientQuestion"];
export type Answer = Schemas["Answer"];
export type Answers = Record<string, Answer>;
type Place = Schemas["ZoneSide"];

export const wantsDay = (r: Asked) => r.asks === "date" || r.asks === "date-and-zones" || r.asks === "due-date";
export const complete = (r: Asked, a: Answer | undefined) =>
	Boolean(a) &&
	(a?.unsure ||
		!a?.yes ||
		((!wantsDay(r) || Boolean(a.day) || Boolean(a.rough) || Boolean(r.mayLast && a.still)) &&
			(!wantsZones(r) || Boolean(a.zones?.length))));

export const wantsZones = (r: Asked) => r.asks === "zones" || r.asks === "date-and-zones";

/** An answer with a place marked, or unmarked if it was. */
export function togglePlace(a: Answer | undefined, p: { zone: string; side: "left" | "right" | "both" }): Answer {
	const here = (q: Place) => q.zone === p.zone && (q.side ?? "both") === p.side;
	const was = a?.zones ?? [];
	return { ...a, yes: true, zones: was.some(here) ? was.filter((q) => !here(q)) : [...was, p] };
}

/** No and yes to a question; a client alone with it may also be not sure. */
export function YesNo({
	id,
	answer,
	onAnswer,
	alone,
}: {
	id: string;
	answer: Answer | undefined;
	onAnswer: (a: Answer) => void;
	alone?: boolean;
}) {
	const said = answer && (answer.unsure ? w.notSure : answer.yes ? w.yes : w.no);
	const say = {
		[w.no]: { yes: false },
		[w.yes]: { ...answer, yes: true, unsure: undefined },
		[w.notSure]: { yes: false, unsure: true },
	};
	return (
		<div role="radiogroup" aria-labelledby={`q-${id}`} className={`flex ${alone ? "w-full" : "shrink-0"}`}>
			{(alone ? ([w.no, w.yes, w.notSure] as const) : ([w.no, w.yes] as const)).map((word) => (
				<label
					key={word}
					className={`flex cursor-pointer items-center justify-center border border-l-0 border-[#9c8873] px-3 font-semibold first:rounded-l-sm first:border-l last:rounded-r-sm has-[:focus-visible]:outline-3 has-[:focus-visible]:outline-persimmon ${alone ? "min-h-12 flex-1 text-lg" : "min-h-11 min-w-14"} ${said === word ? (word === w.yes ? "bg-persimmon text-white" : "bg-ink text-paper") : "bg-leaf"}`}
				>
					<input type="radio" name={id} className="sr-only" checked={said === word} onChange={() => onAnswer(say[word])} />
					{word}
				</label>
			))}
		</div>
	);
}

const grades = [0, 1, 2, 3, 4];

/** A grade from 0 to 4 for each spot. */
export function Grades({ rule, answer, onAnswer }: { rule: Asked; answer: Answer | undefined; onAnswer: (a: Answer) => void }) {
	const spots = rule.spots ?? [];
	return (
		<div className="grid gap-1.5">
			{spots.map((spot) => {
				const name = spots.length > 1 ? spot.replace("-", " ") : rule.title.toLowerCase();
				return (
					<div key={spot} role="radiogroup" aria-label={`${rule.title}: ${name}`} className="flex items-center justify-end gap-3">
						{spots.length > 1 && <span className="text-sm font-semibold">{name}</span>}
						<span className="flex">
							{grades.map((g) => (
								<label
									key={g}
									className={`num flex min-h-11 w-11 cursor-pointer items-center justify-center border border-l-0 border-[#9c8873] font-semibold first:rounded-l-sm first:border-l last:rounded-r-sm has-[:focus-visible]:outline-3 has-[:focus-visible]:outline-persimmon ${answer && (answer.grades?.[spot] ?? 0) === g ? (g > 0 ? "bg-persimmon text-white" : "bg-ink text-paper") : "bg-leaf"}`}
								>
									<input
										type="radio"
										className="sr-only"
										name={`${rule.id}-${spot}`}
										checked={Boolean(answer) && (answer?.grades?.[spot] ?? 0) === g}
										onChange={() => onAnswer({ yes: false, grades: { ...answer?.grades, [spot]: g } })}
									/>
									{g}
								</label>
							))}
						</span>
					</div>
				);
			})}
		</div>
	);
}

/** One of a rule's options, or as usual. */
export function Options({ rule, answer, onAnswer }: { rule: Asked; answer: Answer | undefined; onAnswer: (a: Answer) => void }) {
	return (
		<div role="radiogroup" aria-labelledby={`q-${rule.id}`} className="flex shrink-0 flex-wrap">
			{["", ...(rule.options ?? [])].map((o) => (
				<label
					key={o}
					className={`flex min-h-11 cursor-pointer items-center border border-l-0 border-[#9c8873] px-3 font-semibold first:rounded-l-sm first:border-l last:rounded-r-sm has-[:focus-visible]:outline-3 has-[:focus-visible]:outline-persimmon ${answer && (answer.option ?? "") === o ? (o ? "bg-persimmon text-white" : "bg-ink text-paper") : "bg-leaf"}`}
				>
					<input
						type="radio"
						className="sr-only"
						name={rule.id}
						checked={Boolean(answer) && (answer?.option ?? "") === o}
						onChange={() => onAnswer(o ? { yes: false, option: o } : { yes: false })}
					/>
					{o || w.usual}
				</label>
			))}
		</div>
	);
}

/** The day a yes needs. */
export function DayOf({ rule, answer, today, onAnswer }: { rule: Asked; answer: Answer; today: string; onAnswer: (a: Answer) => void }) {
	const due = rule.asks === "due-date";
	return (
		<span className="flex flex-wrap items-center gap-x-5 gap-y-1">
			{rule.mayLast && (
				<label className="flex min-h-11 items-center gap-2 font-semibold">
					<input
						type="checkbox"
						className="size-5 accent-persimmon"
						checked={Boolean(answer.still)}
						onChange={(e) => onAnswer(e.target.checked ? { ...answer, still: true, day: undefined } : { ...answer, still: undefined })}
					/>
					{w.ongoingStillToday}
				</label>
			)}
			{!(rule.mayLast && answer.still) && (
				<>
					<label className="flex items-center gap-2 text-sm font-semibold">
						{dateLabel(rule)}
						<input
							type="date"
							className="field w-44"
							{...(due ? {} : { max: today })}
							value={answer.rough ? "" : (answer.day ?? "")}
							onChange={(e) => onAnswer({ ...answer, day: e.target.value, rough: undefined })}
						/>
					</label>
					{!due && <Roughly answer={answer} today={today} onAnswer={onAnswer} />}
				</>
			)}
		</span>
	);
}

const lengths = ["1w", "2w", "3w", "4w", "5w", "6w", "2m", "3m", "4m", "5m", "6m", "9m", "1y", "2y"];
const units: Record<string, (v: { n: number }) => string> = { w: w.weeks, m: w.months, y: w.years };

/** A day that is remembered roughly, in words: about 3 weeks ago, some time in October 2026. */
export function roughWords(rough: string): string {
	if (rough.includes("-")) return w.someTimeIn({ month: monthWords(rough) });
	return w.roughly({ length: units[rough.slice(-1)]?.({ n: Number.parseInt(rough, 10) }) });
}

/** For who does not know the day: how long ago, or in which month. */
function Roughly({ answer, today, onAnswer }: { answer: Answer; today: string; onAnswer: (a: Answer) => void }) {
	const months = Array.from({ length: 12 }, (_, i) => {
		const d = new Date(`${today.slice(0, 7)}-15T00:00:00Z`);
		d.setUTCMonth(d.getUTCMonth() - i);
		return d.toISOString().slice(0, 7);
	});
	const known = !answer.rough || lengths.includes(answer.rough) || months.includes(answer.rough);
	return (
		<label className="flex flex-wrap items-center gap-2 text-sm font-semibold">
			{w.orRoughly}
			<select
				className="field w-48"
				value={answer.rough ?? ""}
				onChange={(e) => onAnswer({ ...answer, rough: e.target.value || undefined, day: undefined })}
			>
				<option value="">{w.chooseRoughly}</option>
				{!known && answer.rough && <option value={answer.rough}>{roughWords(answer.rough)}</option>}
				<optgroup label={w.howLongAgo}>
					{lengths.map((l) => (
						<option key={l} value={l}>
							{roughWords(l)}
						</option>
					))}
				</optgroup>
				<optgroup label={w.inAMonth}>
					{months.map((m) => (
						<option key={m} value={m}>
							{roughWords(m)}
						</option>
					))}
				</optgroup>
			</select>
			{answer.rough && answer.day && <span className="font-normal text-soft">{w.countedFrom({ day: dayWords(answer.day) })}</span>}
		</label>
	);
}

export type AskingProps = {
	rules: readonly Rule[];
	/** The questions under which a group's rules are ticked off. */
	lists: readonly Schemas["List"][];
	/** Medicines that make a no worth asking about, by rule. */
	doubts?: readonly Schemas["MedicineConflict"][];
	answers: Answers;
	onAnswer: (r: Rule, a: Answer) => void;
	fault: (rule: string) => string | undefined;
	today: string;
	marking: string | null;
	onMark: (rule: string) => void;
};

/** Rules as plain questions, by group. */
export function Questions({
	rules,
	lists,
	doubts = [],
	answers,
	onAnswer,
	fault,
	today,
	marking,
	onMark,
	bare,
}: AskingProps & { /** Without the groups' names: they stand above. */ bare?: boolean }) {
	return [...new Set(rules.map((r) => r.group))].map((g) => (
		<fieldset key={g} className="m-0 mb-4 border-0 p-0">
			{!bare && <legend className="font-serif text-xl font-semibold">{g}</legend>}
			{!bare && lists.some((l) => l.group === g) && <p className="m-0 text-sm text-soft">{lists.find((l) => l.group === g)?.question}</p>}
			{rules
				.filter((r) => r.group === g)
				.map((r) => {
					const a = answers[r.id];
					const wrong = fault(r.id);
					const doubt = a && !a.yes ? doubts.filter((d) => d.rule === r.id) : [];
					return (
						<div key={r.id} className={`border-b border-rule py-1.5 ${wrong ? "bg-blush" : ""}`}>
							<div className="flex items-center justify-between gap-4">
								<p className="m-0" id={`q-${r.id}`}>
									{r.question}
								</p>
								{r.asks === "grades" ? (
									<Grades rule={r} answer={a} onAnswer={(n) => onAnswer(r, n)} />
								) : r.asks === "choice" ? (
									<Options rule={r} answer={a} onAnswer={(n) => onAnswer(r, n)} />
								) : (
									<YesNo id={r.id} answer={a} onAnswer={(n) => onAnswer(r, n)} />
								)}
							</div>
							{a?.yes && (wantsDay(r) || wantsZones(r)) && (
								<div className="flex flex-wrap items-center gap-4 pt-1 pb-1">
									{wantsDay(r) && <DayOf rule={r} answer={a} today={today} onAnswer={(n) => onAnswer(r, n)} />}
									{wantsZones(r) && (
										<Button variant={marking === r.id ? "plain" : "quiet"} onClick={() => onMark(r.id)}>
											{a.zones?.length
												? a.zones.length === 1
													? "1 zone marked"
													: w.countZonesMarked({ count: a.zones.length })
												: w.markZones}
										</Button>
									)}
								</div>
							)}
							{a?.unsure && <p className="m-0 pb-1 text-sm font-semibold">{w.clientWasNotSureGoThrough}</p>}
							{doubt.map((d) => (
								<p key={d.medicine} className="m-0 pb-1 text-sm">
									<span className="font-semibold">{d.counts ? w.countedAsYes : w.pleaseAskAgain}</span>{" "}
									{w.medicineIsOnTheMedicinesList({ medicine: d.medicine })}
								</p>
							))}
							{wrong && <p className="m-0 pb-1 text-sm font-semibold text-persimmon-deep">{wrong}</p>}
						</div>
					);
				})}
		</fieldset>
	));
}
