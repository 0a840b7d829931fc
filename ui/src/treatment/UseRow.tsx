import { useRef, useState } from "react";
import type { Schemas } from "../api/client";
import { amountShown, dayWords, money } from "../kit/format";
import { ScaleField } from "../kit/ScaleField";
import * as w from "../words/catalogue/treatment";
import { handAmount, measureWords } from "../words/sentences";
import { byWeight, type UseText } from "./uses";

type Use = Schemas["RecordUse"];
type Choices = Schemas["UseChoices"];

const slidWords = { "": w.slidNotNoted, beyond: w.slidBeyond, at: w.slidAt, before: w.slidBefore } as const;

/** One product of a record that is open: planned, one field in its measure, the lot in the hand, the cost. An empty field is as planned. */
export function UseRow({
	use: u,
	choices: c,
	text: t,
	currency,
	fault,
	onChange,
}: {
	use: Use;
	choices: Choices | undefined;
	text: UseText;
	currency: string;
	fault: string | undefined;
	onChange: (to: Partial<UseText>) => void;
}) {
	const [more, setMore] = useState(t.slid !== "");
	const after = useRef<HTMLInputElement>(null);
	const planned = c?.measures.find((m) => m.measure === t.measure)?.planned;
	const proposed = u.lots?.[0];
	const chosen = c?.packs.find((p) => p.id === t.pack);
	const short = Number(c?.short ?? 0);
	return (
		<tr className="border-b border-rule align-top">
			<td className="py-3 font-semibold">{u.name}</td>
			<td className="num py-3 text-right whitespace-nowrap">
				{amountShown(u.planned)} {u.unit}
				{u.byHand && handAmount(u.byHand) !== `${Number(u.planned)} ${u.unit}` && (
					<span className="block text-sm text-soft">{handAmount(u.byHand)}</span>
				)}
			</td>
			<td className={t.measure === byWeight ? "py-1.5 pt-8 pl-6" : "py-1.5 pl-6"}>
				<div className="flex flex-wrap items-start gap-2">
					{t.measure === byWeight ? (
						<span className="-mt-6 grid grid-cols-2 gap-2">
							<ScaleField
								label={w.weightBefore}
								value={t.before}
								onChange={(before) => onChange({ before })}
								onEnter={() => after.current?.focus()}
							/>
							<ScaleField inputRef={after} label={w.weightAfter} value={t.after} onChange={(v) => onChange({ after: v })} />
						</span>
					) : (
						<input
							className="field num w-24 text-right text-xl"
							inputMode="decimal"
							aria-label={w.amountUsedOf({ product: u.name })}
							placeholder={planned !== undefined ? String(Number(planned)) : ""}
							value={t.count}
							onChange={(e) => onChange({ count: e.target.value })}
						/>
					)}
					<select
						className="field w-auto"
						aria-label={w.measureOf({ product: u.name })}
						value={t.measure}
						onChange={(e) => onChange({ measure: e.target.value, count: "" })}
					>
						{(c?.measures ?? []).map((m) => (
							<option key={m.measure} value={m.measure}>
								{measureWords[m.measure] ?? m.measure}
							</option>
						))}
						{c?.weighing && <option value={byWeight}>{w.measureWeigh}</option>}
					</select>
				</div>
				<p className="num m-0 mt-1 text-sm text-soft" hidden={Boolean(c?.problem)}>
					{u.how === "as planned" || u.how === undefined ? w.asPlanned : w.usedIs({ amount: amountShown(u.real), unit: u.unit ?? "" })}
				</p>
				{c?.problem && <p className="m-0 max-w-72 text-sm font-semibold text-persimmon-deep">{c.problem}</p>}
				{c?.doubt && !c.problem && <p className="m-0 max-w-72 text-sm font-semibold text-persimmon-deep">{w.farFromThePlan}</p>}
				{fault && <p className="m-0 max-w-72 text-sm font-semibold text-persimmon-deep">{fault}</p>}
				{short > 0 && (
					<div className="mt-1 grid max-w-80 gap-1">
						<p className="m-0 text-sm font-semibold">
							{w.moreThanThePackShows({ short: Math.round(short * 1000) / 1000, unit: u.unit ?? "" })}
						</p>
						{t.pack && (
							<label className="flex min-h-9 items-center gap-2 text-sm">
								<input
									type="radio"
									className="size-5 accent-persimmon"
									checked={t.short === "next"}
									onChange={() => onChange({ short: "next" })}
								/>
								{w.restFromTheNextPack}
							</label>
						)}
						<label className="flex min-h-9 items-center gap-2 text-sm">
							<input
								type="radio"
								className="size-5 accent-persimmon"
								checked={t.short === "count"}
								onChange={() => onChange({ short: "count" })}
							/>
							{w.thePackHeldMore}
						</label>
					</div>
				)}
				{c?.slides &&
					(more ? (
						<div className="mt-1 flex flex-wrap items-center gap-2 text-sm">
							<select
								className="field w-auto"
								aria-label={w.howLongItSlid({ product: u.name })}
								value={t.slid}
								onChange={(e) => onChange({ slid: e.target.value as UseText["slid"] })}
							>
								{Object.entries(slidWords).map(([k, name]) => (
									<option key={k} value={k}>
										{name}
									</option>
								))}
							</select>
							{t.slid && (
								<>
									<input
										className="field num w-20 text-right"
										inputMode="decimal"
										aria-label={w.atMinute}
										value={t.minute}
										onChange={(e) => onChange({ minute: e.target.value })}
									/>
									{w.minutesShort}
								</>
							)}
						</div>
					) : (
						<button type="button" className="min-h-9 text-sm underline underline-offset-4" onClick={() => setMore(true)}>
							{w.didItLast}
						</button>
					))}
			</td>
			<td className="num py-1.5 pl-6 text-sm">
				{(c?.packs.length ?? 0) === 0 ? (
					<span className="block py-2">{w.noLot}</span>
				) : (
					<>
						<select
							className={`field w-48 ${t.pack ? "" : "border-dashed"}`}
							aria-label={w.lotOf({ product: u.name })}
							value={t.pack ?? ""}
							onChange={(e) => onChange({ pack: e.target.value || null, short: "", override: "" })}
						>
							<option value="">{proposed ? w.proposedLot({ lot: proposed.number }) : w.noLot}</option>
							{c?.packs.map((p) => (
								<option key={p.id} value={p.id}>
									{w.lotChoice({ lot: p.lot, left: Number(p.left), unit: u.unit ?? "" })}
									{p.usable ? "" : w.notToBeUsed}
								</option>
							))}
						</select>
						<span className="block text-soft">
							{w.useByGoodUntil({ goodUntil: dayWords(chosen?.goodUntil ?? proposed?.goodUntil ?? "") })}
							{proposed?.opens ? w.itIsOpenedNow : ""}
						</span>
						{!t.pack && proposed?.pack && (
							<button type="button" className="min-h-9 underline underline-offset-4" onClick={() => onChange({ pack: proposed.pack! })}>
								{w.yesThisOne}
							</button>
						)}
						{(u.lots ?? []).slice(1).map((l) => (
							<span key={l.pack} className="block">
								{w.andFromLot({ lot: l.number, amount: Number(l.amount), unit: u.unit ?? "" })}
							</span>
						))}
						{c?.needsReason && (
							<label className="mt-1 block max-w-56">
								<span className="block font-semibold text-persimmon-deep">{c.needsReason}</span>
								<input
									className="field mt-1"
									maxLength={300}
									aria-label={w.whyItWasUsed}
									placeholder={w.whyItWasUsed}
									value={t.override}
									onChange={(e) => onChange({ override: e.target.value })}
								/>
							</label>
						)}
					</>
				)}
			</td>
			<td className="num py-3 pl-4 text-right">
				{(u.lots ?? []).map((l) => (
					<span key={l.pack ?? l.number} className="block">
						{money(l.cost, currency)}
					</span>
				))}
			</td>
		</tr>
	);
}

/** One product of a record that is locked. */
export function LockedUse({ use: u, currency }: { use: Use; currency: string }) {
	return (
		<tr className="border-b border-rule align-top">
			<td className="py-3 font-semibold">{u.name}</td>
			<td className="num py-3 text-right">
				{amountShown(u.planned)} {u.unit}
			</td>
			<td className="num py-3 pl-6">
				{amountShown(u.real)} {u.unit}
				<span className="block text-sm text-soft">{howWords(u)}</span>
			</td>
			<td className="num py-3 pl-6 text-sm">
				{(u.lots ?? []).map((l) => (
					<span key={l.pack ?? l.number} className="block">
						{l.number}
						{(u.lots ?? []).length > 1 ? `: ${amountShown(l.amount)} ${u.unit}` : ""}{" "}
						<span className="text-soft">
							{w.useByGoodUntil({ goodUntil: dayWords(l.goodUntil) })}
							{l.sure === true ? "" : w.lotIsLikely}
						</span>
					</span>
				))}
				{(u.lots ?? []).length === 0 && w.noLot}
			</td>
			<td className="num py-3 pl-4 text-right">
				{(u.lots ?? []).map((l) => (
					<span key={l.pack ?? l.number} className="block">
						{money(l.cost, currency)}
					</span>
				))}
			</td>
		</tr>
	);
}

function howWords(u: Use): string {
	if (u.how === "weighed") return w.weighedFromTo({ before: Number(u.before), after: Number(u.after) });
	if (u.how === "counted" && u.measure && u.measure !== u.unit)
		return w.countedAs({ count: Number(u.count), measure: measureWords[u.measure] ?? u.measure });
	return u.how === "counted" ? w.measured : w.asPlanned;
}
