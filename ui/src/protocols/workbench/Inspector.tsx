import { memo } from "react";
import type { Schemas } from "../../api/client";
import { Choice, Group, NumberField, Picks, Row, Stepper, TextField } from "../../kit/fields";
import { Button } from "../../kit/kit";
import * as w from "../../words/catalogue/workbench";
import { intentWords, pressureWords } from "../../words/client";
import { doseText, gapWords, measureWords, phaseWords, profileWords, roleOfHandWords, sideWords } from "../../words/sentences";
import { DoseEditor, PartsEditor } from "./DoseEditor";
import { withPressure, withStep } from "./ops";
import { StepFurther } from "./StepFurther";
import { areaWords, senses } from "./specs";
import type { Protocol, Step } from "./useBench";

type Props = {
	/** What the whole plan takes of each product. */
	products: Schemas["Planned"][];
	protocol: Protocol;
	resolved: Schemas["Resolved"];
	library: Schemas["LibraryView"];
	edit: (p: Protocol) => void;
	onMove: (by: -1 | 1) => void;
	onRemove: () => void;
	/** Begins drawing the step's path on the face map. */
	onDraw: () => void;
};

/** Everything about one step that can be changed; what is left alone is the stroke's own. */
export const Inspector = memo(function Inspector({ protocol, resolved: r, products, library, edit, onMove, onRemove, onDraw }: Props) {
	const step = protocol.steps.find((s) => s.id === r.id);
	if (!step) return null;
	const put = (part: Partial<Step>) => edit(withStep(protocol, r.id, part));
	const zone = (key: string) => library.zones.find((z) => z.key === key)?.name ?? areaWords[key] ?? key;
	const zoneOptions = Object.fromEntries(library.zones.map((z) => [z.key, z.name]));
	const product = library.products.find((p) => p.key === step.use?.product);
	const habit = products.find((p) => p.product === step.use?.product);
	const unit = { reps: "times", breaths: "breaths", positions: "rounds" }[r.dose.kind as string] ?? "s";
	const others = Object.fromEntries(
		protocol.steps
			.filter((s) => s.id !== step.id)
			.map((s) => [s.id, `${protocol.steps.indexOf(s) + 1}. ${library.strokes.find((k) => k.key === s.stroke)?.name ?? s.stroke}`]),
	);
	const path: Schemas["PathPoint"][] = step.path ?? r.path.map((p) => ({ zone: p.zone }));
	const putFinger = (i: number, part: Partial<Schemas["Finger"]>) =>
		put({
			fingers: (r.fingers ?? []).map((f, n) => {
				if (n !== i) return f;
				const { zone: on, ...rest } = { ...f, ...part };
				return on ? { ...rest, zone: on } : rest;
			}),
		});
	const putPath = (list: typeof path) => put({ path: list });
	return (
		<section aria-label={w.step}>
			<div className="grid gap-2 p-3">
				<h2 className="m-0 text-xl leading-tight">{r.name}</h2>
				<p className="m-0 text-sm text-soft">
					{intentWords[r.intent]} · {r.family} · {doseText(r.dose)}
					{r.speed > 0 ? w.speedCmS({ speed: r.speed.toFixed(1) }) : ""}
				</p>
				{step.why && <p className="m-0 text-sm text-soft">{w.whyHere({ why: step.why })}</p>}
				{r.cue && <p className="m-0 text-sm">{r.cue}</p>}
				{r.caution && <p className="m-0 text-sm font-semibold text-persimmon-deep">{r.caution}</p>}
				<div className="flex gap-2">
					<Button aria-label={w.moveUp} title={w.moveUpAlt} onClick={() => onMove(-1)}>
						↑
					</Button>
					<Button aria-label={w.moveDown} title={w.moveDownAlt} onClick={() => onMove(1)}>
						↓
					</Button>
					<Button onClick={onRemove} title="Delete">
						{w.remove}
					</Button>
				</div>
				{r.dose.kind !== "inherited" && (
					<Row label={w.repetitionsTimingLeastMostUnit({ least: r.least, most: r.most, unit })}>
						<Stepper
							value={r.dose.planned ?? 0}
							least={1}
							most={3600}
							grain={r.grain}
							onChange={(n) =>
								put({
									dose: {
										...r.dose,
										planned: n,
										...(r.dose.min ? { min: Math.min(r.dose.min, n) } : {}),
										...(r.dose.max ? { max: Math.max(r.dose.max, n) } : {}),
									},
								})
							}
							label={w.repetitionsAndTiming}
						/>
						<span className="text-sm">{unit}</span>
					</Row>
				)}
				<Row label={w.pressure}>
					<div role="radiogroup" aria-label={w.pressure} className="flex">
						{pressureWords.map((w, n) => (
							<label
								key={w}
								title={w}
								className={`flex min-h-11 min-w-9 cursor-pointer items-center justify-center border border-[#9c8873] font-semibold not-first:border-l-0 has-[:focus-visible]:outline-3 has-[:focus-visible]:outline-persimmon ${r.pressure === n ? "bg-ink text-paper" : "bg-leaf"}`}
							>
								<input
									type="radio"
									className="sr-only"
									name="pressure"
									checked={r.pressure === n}
									onChange={() => edit(withPressure(protocol, [step.id], n))}
									aria-label={`${n} ${w}`}
								/>
								{n}
							</label>
						))}
					</div>
					<span className="text-sm">{pressureWords[r.pressure]}</span>
				</Row>
			</div>
			<Group title={w.repetitionsAndTimingInFull} note={step.dose ? doseText(r.dose) : w.strokeDefault2}>
				<DoseEditor
					dose={step.dose ?? r.dose}
					onChange={(d) =>
						put({ dose: d, ...(counts(d, protocol) && r.parts.length === 0 ? { parts: [{ kind: "move", seconds: 3 }] } : {}) })
					}
				/>
				{step.dose && (
					<Button variant="quiet" onClick={() => put({ dose: undefined })}>
						{w.strokeDefault}
					</Button>
				)}
			</Group>
			<Group title={w.oneRepetition} note={step.parts ? w.countOwnParts({ count: step.parts.length }) : w.strokeDefault2}>
				<PartsEditor zones={zoneOptions} parts={r.parts} own={Boolean(step.parts)} onChange={(parts) => put({ parts })} />
				{step.last?.parts && step.last.parts.length > 0 && (
					<>
						<p className="m-0 text-sm font-semibold">{w.theLastRepetition}</p>
						<PartsEditor
							zones={zoneOptions}
							parts={step.last.parts}
							own={false}
							onChange={(parts) => put({ last: parts && parts.length > 0 ? { ...step.last, parts } : undefined })}
						/>
					</>
				)}
				<NumberField
					label={w.holdTheLastOneLongerS}
					value={step.last?.parts?.at(-1)?.kind === "hold" ? step.last.parts.at(-1)!.seconds : undefined}
					most={120}
					step="any"
					hint={w.notHeldLonger}
					onChange={(v) => put({ last: v ? { parts: [...r.parts, { kind: "hold", seconds: v }], does: w.heldLonger } : undefined })}
				/>
			</Group>
			<Group title={w.path} note={r.path.length > 0 ? `${zone(r.path[0]!.zone)} … ${zone(r.path[r.path.length - 1]!.zone)}` : w.offTheFace}>
				<ol className="m-0 grid list-none gap-1 p-0">
					{path.map((p, i) => (
						<li key={`${p.zone}${i}`} className="grid grid-cols-[minmax(0,1fr)_56px_40px_40px] items-center gap-1">
							<span className="truncate text-sm">
								{i + 1}. {zone(p.zone)}
							</span>
							<select
								aria-label={w.pressureAtZone({ zone: zone(p.zone) })}
								className="field px-1"
								value={p.pressure ?? ""}
								onChange={(e) =>
									putPath(
										path.map((q, n) => (n === i ? withOwnPressure(q, e.target.value === "" ? undefined : Number(e.target.value)) : q)),
									)
								}
							>
								<option value="">–</option>
								{pressureWords.map((w, n) => (
									<option key={w} value={n}>
										{n}
									</option>
								))}
							</select>
							<Button
								aria-label={w.zoneEarlier({ zone: zone(p.zone) })}
								className="px-0"
								disabled={i === 0}
								onClick={() => putPath(path.toSpliced(i - 1, 2, path[i]!, path[i - 1]!))}
							>
								↑
							</Button>
							<Button aria-label={w.removeZone({ zone: zone(p.zone) })} className="px-0" onClick={() => putPath(path.toSpliced(i, 1))}>
								×
							</Button>
						</li>
					))}
				</ol>
				<select
					aria-label={w.addAZoneToThePath}
					className="field"
					value=""
					onChange={(e) => e.target.value && putPath([...path, { zone: e.target.value }])}
				>
					<option value="">{w.addAZone}</option>
					{Object.entries(areaWords).map(([key, name]) => (
						<option key={key} value={key}>
							{name}
						</option>
					))}
					{library.zones.map((z) => (
						<option key={z.key} value={z.key}>
							{z.name}
						</option>
					))}
				</select>
				<div className="flex gap-2">
					<Button onClick={onDraw} title="D">
						{w.drawItOnTheFace}
					</Button>
					{step.path && (
						<Button variant="quiet" onClick={() => put({ path: undefined })}>
							{w.strokeDefault}
						</Button>
					)}
				</div>
				<Choice
					label={w.pressureAlongThePath}
					value={r.profile}
					options={profileWords}
					onChange={(v) => put({ profile: v as Step["profile"] })}
				/>
				<Choice
					label={w.circleDirection}
					value={r.sense ?? ""}
					options={{ "": w.noCircles, ...senses }}
					onChange={(v) => put({ sense: (v || undefined) as Step["sense"] })}
				/>
			</Group>
			<Group title={w.sidesHandAndTool} note={[sideWords[r.sides], r.toolName || r.hand].filter(Boolean).join(", ")}>
				<Choice label={w.sides} value={r.sides} options={sideWords} onChange={(v) => put({ sides: v as Step["sides"] })} />
				<label className="block text-sm font-semibold">
					{w.handOrTool}
					<select
						className="field mt-0.5 font-normal"
						value={r.tool ? `tool:${r.tool.key}:${r.tool.part ?? ""}` : `hand:${r.hand ?? ""}`}
						onChange={(e) => {
							const [kind, key, part] = e.target.value.split(":");
							if (kind === "tool") put({ tool: part ? { key: key!, part } : { key: key! }, hand: undefined });
							else put({ hand: key, tool: undefined });
						}}
					>
						<optgroup label={w.hand}>
							{[...new Set([r.hand ?? "", ...library.handParts])].filter(Boolean).map((h) => (
								<option key={h} value={`hand:${h}`}>
									{h}
								</option>
							))}
						</optgroup>
						<optgroup label={w.tool}>
							{library.tools
								.flatMap((t) => (t.parts?.length ? t.parts : [""]).map((p) => ({ t, p })))
								.map(({ t, p }) => (
									<option key={`${t.key}-${p}`} value={`tool:${t.key}:${p}`}>
										{t.name}
										{p ? `, ${p}` : ""}
									</option>
								))}
						</optgroup>
					</select>
				</label>
				{r.tool && (
					<Choice
						label={w.handleTurned}
						value={r.tool.handle ?? ""}
						options={{ "": w.eitherWay, up: w.up, down: w.down }}
						onChange={(v) =>
							put({
								tool: v
									? { key: r.tool!.key, ...(r.tool!.part ? { part: r.tool!.part } : {}), handle: v }
									: { key: r.tool!.key, ...(r.tool!.part ? { part: r.tool!.part } : {}) },
							})
						}
					/>
				)}
				<Choice
					label={w.anchorHandOn}
					value={r.anchor?.zone ?? ""}
					options={{ "": w.nothing, ...zoneOptions }}
					onChange={(v) => put({ anchor: v ? { ...(r.anchor ?? { pressure: 1 }), zone: v } : undefined })}
				/>
				{r.anchor && (
					<div className="grid grid-cols-[80px_minmax(0,1fr)] gap-2">
						<NumberField
							label={w.pressure}
							value={r.anchor.pressure}
							most={5}
							required
							onChange={(v) => put({ anchor: { ...r.anchor!, pressure: v ?? 0 } })}
						/>
						<Choice
							label={w.andWord}
							value={r.anchor.role ?? ""}
							options={roleOfHandWords}
							onChange={(v) => put({ anchor: { ...r.anchor!, role: v as "rests" } })}
						/>
					</div>
				)}
				{r.anchor &&
					(r.anchor.changes ?? []).map((t, i) => (
						<div key={`${i}-${r.anchor!.changes!.length}`} className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)_44px] items-end gap-2">
							<Choice
								label={w.thenOn}
								value={t.zone}
								options={zoneOptions}
								onChange={(v) =>
									put({ anchor: { ...r.anchor!, changes: r.anchor!.changes!.map((x, n) => (n === i ? { ...x, zone: v } : x)) } })
								}
							/>
							<Choice
								label={w.andWord}
								value={t.role}
								options={Object.fromEntries(Object.entries(roleOfHandWords).filter(([k]) => k))}
								onChange={(v) =>
									put({ anchor: { ...r.anchor!, changes: r.anchor!.changes!.map((x, n) => (n === i ? { ...x, role: v as "rests" } : x)) } })
								}
							/>
							<Button
								aria-label={w.removeThisChangeAnchorHand}
								className="px-0"
								onClick={() => put({ anchor: { ...r.anchor!, changes: r.anchor!.changes!.filter((_, n) => n !== i) } })}
							>
								×
							</Button>
						</div>
					))}
				{r.anchor && (r.anchor.changes ?? []).length < 4 && (
					<Button
						variant="quiet"
						onClick={() =>
							put({
								anchor: {
									...r.anchor!,
									changes: [...(r.anchor!.changes ?? []), { zone: r.anchor!.zone, pressure: r.anchor!.pressure, role: "catches" }],
								},
							})
						}
					>
						{w.addChangeAnchorHand}
					</Button>
				)}
				<p className="m-0 text-sm font-semibold">{w.fingersWithTheirOwnPressure}</p>
				{(r.fingers ?? []).map((f, i) => (
					<div key={`${i}-${r.fingers!.length}`} className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)_52px_40px] items-end gap-1.5">
						<Choice
							label={w.finger}
							value={f.part}
							options={Object.fromEntries([f.part, ...library.handParts].map((h) => [h, h]))}
							onChange={(v) => putFinger(i, { part: v })}
						/>
						<Choice
							label={w.onWord}
							value={f.zone ?? ""}
							options={{ "": w.thePath, ...zoneOptions }}
							onChange={(v) => putFinger(i, { zone: v })}
						/>
						<NumberField label={w.press} value={f.pressure} most={5} required onChange={(v) => putFinger(i, { pressure: v ?? 0 })} />
						<Button
							aria-label={w.removePart({ part: f.part })}
							className="px-0"
							onClick={() => put({ fingers: r.fingers!.length > 1 ? r.fingers!.filter((_, n) => n !== i) : undefined })}
						>
							×
						</Button>
					</div>
				))}
				<Button variant="quiet" onClick={() => put({ fingers: [...(r.fingers ?? []), { part: "thumb", pressure: r.pressure }] })}>
					{w.addAFinger}
				</Button>
				<div className="grid grid-cols-[minmax(0,1fr)_90px] gap-2">
					<Choice
						label={w.moreOnOneSide}
						value={step.emphasis?.side ?? ""}
						options={{ "": w.alike, left: w.theLeft, right: w.theRight }}
						onChange={(v) => put({ emphasis: v ? { side: v as "left", extra: step.emphasis?.extra ?? 1 } : undefined })}
					/>
					{step.emphasis && (
						<NumberField
							label={w.unitMore({ unit })}
							value={step.emphasis.extra}
							least={1}
							most={100}
							required
							onChange={(v) => v && put({ emphasis: { ...step.emphasis!, extra: v } })}
						/>
					)}
				</div>
				<Choice
					label={w.secondSideOf}
					value={step.mirrorOf ?? ""}
					options={{ "": w.noOtherStep, ...others }}
					onChange={(v) => put({ mirrorOf: v || undefined })}
				/>
			</Group>
			<Group
				title={w.product}
				note={product ? `${product.name}, ${step.use!.amount.value} ${step.use!.amount.measure}` : step.remove ? w.removed : w.noneApplied}
			>
				<label className="block text-sm font-semibold">
					{w.applyProduct}
					<select
						className="field mt-0.5 font-normal"
						aria-label={w.product}
						value={step.use?.product ?? ""}
						onChange={(e) => {
							const p = library.products.find((x) => x.key === e.target.value);
							put({ use: p ? { product: p.key, amount: { value: p.fullDose || 1, measure: "mL" } } : undefined });
						}}
					>
						<option value="">{w.none}</option>
						{library.products.map((p) => (
							<option key={p.key} value={p.key}>
								{p.name}
							</option>
						))}
					</select>
				</label>
				{step.use && product && (
					<div className="grid grid-cols-2 gap-2">
						<NumberField
							label={w.amountRangeMinToRangeMaxML({ rangeMin: product.rangeMin, rangeMax: product.rangeMax })}
							value={step.use.amount.value}
							step="any"
							most={1000}
							required
							onChange={(v) => put({ use: { ...step.use!, amount: { ...step.use!.amount, value: v ?? 0 } } })}
						/>
						<Choice
							label={w.inWord}
							value={step.use.amount.measure}
							options={Object.fromEntries(product.measures.map((m) => [m, measureWords[m] ?? m]))}
							onChange={(v) => put({ use: { ...step.use!, amount: { ...step.use!.amount, measure: v } } })}
						/>
					</div>
				)}
				{habit?.usual && (
					<p className="num m-0 text-sm">
						{w.youUsuallyTake({ name: habit.name, usual: habit.usual.toFixed(1), planned: habit.ml.toFixed(1) })}
					</p>
				)}
				<Choice
					label={w.removeProductAfterThisStep}
					value={step.remove ?? ""}
					options={{ "": w.nothing, blot: w.blotted, wipe: w.wipedOffWarmAndDamp }}
					onChange={(v) => put({ remove: (v || undefined) as Step["remove"] })}
				/>
				<Choice
					label={w.gloves}
					value={step.gloves ?? ""}
					options={{ "": w.freshGlovesForWorkInsideMouth, keep: w.sameGlovesAsBefore, none: w.none }}
					onChange={(v) => put({ gloves: (v || undefined) as Step["gloves"] })}
				/>
			</Group>
			<Group title={w.phaseNotesAndTiming} note={phaseWords[r.phase]}>
				<Choice
					label={w.phase}
					value={r.phase}
					options={Object.fromEntries(library.phases.map((p) => [p, phaseWords[p] ?? p]))}
					onChange={(v) => put({ phase: v as Step["phase"] })}
				/>
				{(protocol.sections ?? []).length > 0 && (
					<Choice
						label={w.section}
						value={step.section ?? ""}
						options={{ "": w.none, ...Object.fromEntries((protocol.sections ?? []).map((s) => [s.id, s.name])) }}
						onChange={(v) => put({ section: v || undefined })}
					/>
				)}
				<Choice
					label={w.alternatesWith}
					value={step.alternateOf ?? ""}
					options={{ "": w.noOtherStep, ...others }}
					onChange={(v) => put({ alternateOf: v || undefined })}
				/>
				{protocol.collection && (
					<Choice
						label={w.bestTimeOfDay}
						value={step.bestAt ?? ""}
						options={{ "": w.any, morning: w.morning, day: w.day, evening: w.evening }}
						onChange={(v) => put({ bestAt: (v || undefined) as Step["bestAt"] })}
					/>
				)}
				<TextField label={w.whatTheClientDoes} value={step.client} most={200} onChange={(v) => put({ client: v })} />
				<label className="flex min-h-11 items-center gap-2 text-sm">
					<input
						type="checkbox"
						className="size-5 accent-persimmon"
						checked={Boolean(step.announce)}
						onChange={(e) => put({ announce: e.target.checked || undefined })}
					/>
					{w.tellClientThatGetsLighterHere}
				</label>
				<TextField label={w.note} value={step.note} most={600} lines onChange={(v) => put({ note: v })} />
				<TextField label={w.whyItIsHere} value={step.why} most={300} onChange={(v) => put({ why: v })} />
				<TextField label={w.signToLookFor} value={step.sign} most={200} onChange={(v) => put({ sign: v })} />
				<TextField label={w.reasonForTheDeparture} value={step.departure} most={300} onChange={(v) => put({ departure: v })} />
				<Picks
					label={w.notStated}
					options={gapWords}
					chosen={Object.keys(step.gaps ?? {})}
					onChange={(list) => put({ gaps: list ? Object.fromEntries(list.map((k) => [k, step.gaps?.[k] ?? ""])) : undefined })}
				/>
				{Object.entries(step.gaps ?? {}).map(([k, said]) => (
					<TextField
						key={k}
						label={w.statedForTheGapWords({ gapWords: gapWords[k] ?? k })}
						value={said}
						most={120}
						onChange={(v) => put({ gaps: { ...step.gaps, [k]: v ?? "" } })}
					/>
				))}
				<div className="grid grid-cols-[minmax(0,1fr)_100px] items-end gap-2">
					<label className="flex min-h-11 items-center gap-2 text-sm">
						<input
							type="checkbox"
							className="size-5 accent-persimmon"
							checked={Boolean(step.optional)}
							onChange={(e) => put({ optional: e.target.checked || undefined })}
						/>
						{w.optionalWhenTimeIsShort}
					</label>
					<NumberField
						label={w.weight}
						value={step.weight || undefined}
						most={100}
						step="any"
						hint="1"
						onChange={(v) => put({ weight: v })}
					/>
				</div>
			</Group>
			<StepFurther key={step.id} step={step} library={library} put={put} />
		</section>
	);
});

/** A stop with a pressure of its own, or without. */
function withOwnPressure({ pressure: _, ...at }: Schemas["PathPoint"], pressure: number | undefined): Schemas["PathPoint"] {
	return pressure === undefined ? at : { ...at, pressure };
}

/** Whether a dose counts repetitions, which then need their parts. */
function counts(d: Schemas["Dose"], p: Protocol): boolean {
	return d.kind === "reps" || (d.kind === "inherited" && p.defaultDose.kind === "reps");
}
