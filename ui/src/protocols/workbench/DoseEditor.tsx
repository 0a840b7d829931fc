import type { Schemas } from "../../api/client";
import { Choice, NumberField, TextField } from "../../kit/fields";
import { Button } from "../../kit/kit";
import * as w from "../../words/catalogue/workbench";
import { doseKindWords, partWords } from "../../words/sentences";
import { choices, Said, type Spec } from "./Said";

type Dose = Schemas["Dose"];
type Part = Schemas["Part"];

const whole: Record<string, Dose> = {
	reps: { kind: "reps", planned: 3 },
	clock: { kind: "clock", planned: 30 },
	breaths: { kind: "breaths", planned: 3, in: 4, out: 6 },
	counts: { kind: "counts", planned: 4, seconds: 1 },
	positions: { kind: "positions", planned: 3, places: 4, seconds: 3 },
	until: { kind: "until", planned: 30, min: 15, max: 60, sign: w.itLetsGo },
	free: { kind: "free", planned: 30, min: 15 },
	unknown: { kind: "unknown", planned: 20 },
	inherited: { kind: "inherited" },
};

/** A dose of any kind: what is planned, what is allowed, and what the kind itself needs. */
export function DoseEditor({ dose, onChange, inherits = true }: { dose: Dose; onChange: (d: Dose) => void; inherits?: boolean }) {
	const put = (part: Partial<Dose>) =>
		onChange(Object.fromEntries(Object.entries({ ...dose, ...part }).filter(([, v]) => v !== undefined)) as Dose);
	const n = (
		key: keyof Dose,
		label: string,
		more?: { least?: number; most?: number; step?: number | "any"; hint?: string; required?: boolean },
	) => <NumberField label={label} value={(dose[key] as number | undefined) || undefined} onChange={(v) => put({ [key]: v })} {...more} />;
	const kinds = Object.fromEntries(Object.entries(doseKindWords).filter(([k]) => inherits || k !== "inherited"));
	const planned =
		{ reps: w.repetitions, clock: w.seconds, breaths: w.breaths, positions: w.rounds, counts: w.counts }[dose.kind as string] ?? w.plannedS;
	return (
		<div className="grid gap-2">
			<Choice label={w.kindOfRepetitionsAndTiming} value={dose.kind} options={kinds} onChange={(k) => onChange(whole[k]!)} />
			{dose.kind !== "inherited" && (
				<div className="grid grid-cols-3 gap-2">
					{n("planned", planned, { least: 1, required: true })}
					{n("min", w.atLeast, { least: 1, hint: w.asPlanned })}
					{n("max", w.atMost, { least: 1, hint: w.asPlanned })}
				</div>
			)}
			{(dose.kind === "reps" || dose.kind === "clock") && (
				<div className="grid grid-cols-3 gap-2">
					{n("sets", w.sets, { least: 1, most: 20, hint: "1" })}
					{n("rest", w.restS, { most: 120, step: "any" })}
					{dose.kind === "reps" ? n("reverse", w.reverseDirection, { most: 200, hint: w.none }) : <span />}
				</div>
			)}
			{dose.kind === "reps" && (
				<div className="grid grid-cols-3 gap-2">
					{n("ceiling", w.maximum, { hint: w.noMaximum })}
					{n("shown", w.shownAs, { hint: w.theSame })}
				</div>
			)}
			{dose.kind === "breaths" && (
				<>
					<div className="grid grid-cols-3 gap-2">
						{n("in", w.inS, { most: 20, step: "any" })}
						{n("pause", w.pauseS, { most: 20, step: "any" })}
						{n("out", w.outS, { most: 20, step: "any" })}
					</div>
					<div className="grid grid-cols-2 gap-2">
						{n("pulses", w.pumpsEachOutBreath, { most: 30, hint: w.none })}
						<Choice
							label={w.handsWork}
							value={dose.works ?? ""}
							options={{ "": w.throughout, in: w.breathingIn, out: w.breathingOut }}
							onChange={(v) => put({ works: v || undefined })}
						/>
					</div>
				</>
			)}
			{dose.kind === "breaths" && dose.pulses && (
				<label className="flex min-h-11 items-center gap-2 text-sm">
					<input
						type="checkbox"
						className="size-5 accent-persimmon"
						checked={Boolean(dose.pulsesAtLeast)}
						onChange={(e) => put({ pulsesAtLeast: e.target.checked || undefined })}
					/>
					{w.orMore}
				</label>
			)}
			{dose.kind === "counts" && n("seconds", w.secondsEach, { most: 120, step: "any", required: true })}
			{dose.kind === "positions" && (
				<div className="grid grid-cols-3 gap-2">
					{n("places", w.points, { least: 1, most: 20 })}
					{n("seconds", w.secondsEach, { most: 120, step: "any" })}
					{n("senses", w.timesRound, { least: 1, most: 2, hint: "1" })}
				</div>
			)}
			{dose.kind === "until" && <TextField label={w.theSign} value={dose.sign} most={120} onChange={(v) => put({ sign: v })} />}
			{(dose.kind === "unknown" || dose.kind === "free") && (
				<TextField label={w.wordsUsed} value={dose.said} most={120} onChange={(v) => put({ said: v })} />
			)}
			{dose.kind !== "inherited" && <TextField label={w.atHome} value={dose.home} most={120} onChange={(v) => put({ home: v })} />}
		</div>
	);
}

const further = (zones: Record<string, string>): Spec[] => [
	{ path: "direction", kind: "one", options: choices("along", "across", "up", "down", "in", "out", "towards", "apart", "together", "any") },
	{ path: "towards", kind: "one", options: zones },
	{ path: "least", kind: "number", most: 50 },
	{ path: "most", kind: "number", most: 50 },
	{ path: "counts", kind: "flag" },
];

/** What one repetition is made of, in order. */
export function PartsEditor({
	parts,
	own,
	zones,
	onChange,
}: {
	parts: readonly Part[];
	own: boolean;
	/** Names of the zones, by key. */
	zones: Record<string, string>;
	onChange: (p: Part[] | undefined) => void;
}) {
	const put = (i: number, part: Partial<Part>) =>
		onChange(
			parts.map((p, n) =>
				n === i ? (Object.fromEntries(Object.entries({ ...p, ...part }).filter(([, v]) => v !== undefined)) as Part) : p,
			),
		);
	return (
		<div className="grid gap-2">
			{parts.map((p, i) => (
				<div key={`${i}-${parts.length}`} className="grid grid-cols-[minmax(0,1fr)_76px_60px_44px] items-end gap-1.5">
					<Choice label={w.partI({ i: i + 1 })} value={p.kind} options={partWords} onChange={(k) => put(i, { kind: k })} />
					<NumberField
						label="s"
						value={p.seconds}
						least={0.05}
						most={600}
						step="any"
						required
						onChange={(v) => v && put(i, { seconds: v })}
					/>
					<NumberField label={w.times} value={p.count || undefined} least={1} most={50} hint="1" onChange={(v) => put(i, { count: v })} />
					<Button aria-label={w.removePartI({ i: i + 1 })} className="px-0" onClick={() => onChange(parts.filter((_, n) => n !== i))}>
						×
					</Button>
					<div className="col-span-4">
						<Said of={p} specs={further(zones)} onChange={(next) => onChange(parts.map((q, n) => (n === i ? next : q)))} />
					</div>
				</div>
			))}
			<div className="flex flex-wrap items-center gap-2">
				<Button onClick={() => onChange([...parts, { kind: parts.length === 0 ? "move" : "hold", seconds: parts.length === 0 ? 3 : 2 }])}>
					{w.addAPart}
				</Button>
				{own && (
					<Button variant="quiet" onClick={() => onChange(undefined)}>
						{w.strokeDefault}
					</Button>
				)}
			</div>
		</div>
	);
}
