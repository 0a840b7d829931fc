import type { Schemas } from "../../api/client";
import { Choice, Group, NumberField, Picks, Row, Stepper, TextField } from "../../kit/fields";
import { Button } from "../../kit/kit";
import { intentWords, pressureWords } from "../../words/client";
import { doseText, gapWords, phaseWords, profileWords, roleOfHandWords, sideWords } from "../../words/en";
import { DoseEditor, PartsEditor } from "./DoseEditor";
import { withPressure, withStep } from "./ops";
import type { Protocol, Step } from "./useBench";

type Props = {
	protocol: Protocol;
	resolved: Schemas["Resolved"];
	library: Schemas["LibraryView"];
	edit: (p: Protocol) => void;
	onMove: (by: -1 | 1) => void;
	onRemove: () => void;
	/** Begins drawing the step's path on the face map. */
	onDraw: () => void;
};

export const hands = [
	"finger pads",
	"index",
	"middle over index",
	"index + middle",
	"ring finger",
	"all fingers",
	"thumb",
	"thumb + index pinch",
	"two fingers + thumb",
	"knuckle of one finger",
	"bent index hook",
	"fist knuckles",
	"flat palm",
	"cupped palm",
	"backs of fingers",
	"interlaced hands",
	"thumb and index C",
	"heel of hand",
	"edge of hand",
	"web of hand",
	"two-finger V",
	"L of thumb and index",
	"joined palms",
];

/** Everything about one step that can be changed; what is left alone is the stroke's own. */
export function Inspector({ protocol, resolved: r, library, edit, onMove, onRemove, onDraw }: Props) {
	const step = protocol.steps.find((s) => s.id === r.id);
	if (!step) return null;
	const put = (part: Partial<Step>) => edit(withStep(protocol, r.id, part));
	const zone = (key: string) => library.zones.find((z) => z.key === key)?.name ?? key;
	const zoneOptions = Object.fromEntries(library.zones.map((z) => [z.key, z.name]));
	const product = library.products.find((p) => p.key === step.use?.product);
	const unit = { reps: "times", breaths: "breaths", positions: "rounds" }[r.dose.kind as string] ?? "s";
	const others = Object.fromEntries(
		protocol.steps
			.filter((s) => s.id !== step.id)
			.map((s) => [s.id, `${protocol.steps.indexOf(s) + 1}. ${library.strokes.find((k) => k.key === s.stroke)?.name ?? s.stroke}`]),
	);
	const path: { zone: string; pressure?: number }[] = step.path ?? r.path.map((p) => ({ zone: p.zone }));
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
		<section aria-label="Step">
			<div className="grid gap-2 p-3">
				<h2 className="m-0 text-xl leading-tight">{r.name}</h2>
				<p className="m-0 text-sm text-soft">
					{intentWords[r.intent]} · {r.family} · {doseText(r.dose)}
					{r.speed > 0 ? ` · ${r.speed.toFixed(1)} cm/s` : ""}
				</p>
				{r.cue && <p className="m-0 text-sm">{r.cue}</p>}
				{r.caution && <p className="m-0 text-sm font-semibold text-persimmon-deep">{r.caution}</p>}
				<div className="flex gap-2">
					<Button aria-label="Move up" title="Move up (Alt + ↑)" onClick={() => onMove(-1)}>
						↑
					</Button>
					<Button aria-label="Move down" title="Move down (Alt + ↓)" onClick={() => onMove(1)}>
						↓
					</Button>
					<Button onClick={onRemove} title="Delete">
						Remove
					</Button>
				</div>
				{r.dose.kind !== "inherited" && (
					<Row label={`Repetitions and timing (${r.least} to ${r.most} ${unit})`}>
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
							label="Repetitions and timing"
						/>
						<span className="text-sm">{unit}</span>
					</Row>
				)}
				<Row label="Pressure">
					<div role="radiogroup" aria-label="Pressure" className="flex">
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
			<Group title="Repetitions and timing in full" note={step.dose ? doseText(r.dose) : "stroke default"}>
				<DoseEditor
					dose={step.dose ?? r.dose}
					onChange={(d) =>
						put({ dose: d, ...(counts(d, protocol) && r.parts.length === 0 ? { parts: [{ kind: "move", seconds: 3 }] } : {}) })
					}
				/>
				{step.dose && (
					<Button variant="quiet" onClick={() => put({ dose: undefined })}>
						Stroke default
					</Button>
				)}
			</Group>
			<Group title="One repetition" note={step.parts ? `${step.parts.length} own parts` : "stroke default"}>
				<PartsEditor parts={r.parts} own={Boolean(step.parts)} onChange={(parts) => put({ parts })} />
				{step.last?.parts && step.last.parts.length > 0 && (
					<>
						<p className="m-0 text-sm font-semibold">The last repetition</p>
						<PartsEditor
							parts={step.last.parts}
							own={false}
							onChange={(parts) => put({ last: parts && parts.length > 0 ? { ...step.last, parts } : undefined })}
						/>
					</>
				)}
				<NumberField
					label="Hold the last one longer, s"
					value={step.last?.parts?.at(-1)?.kind === "hold" ? step.last.parts.at(-1)!.seconds : undefined}
					most={120}
					step="any"
					hint="not held longer"
					onChange={(v) => put({ last: v ? { parts: [...r.parts, { kind: "hold", seconds: v }], does: "held longer" } : undefined })}
				/>
			</Group>
			<Group title="Path" note={r.path.length > 0 ? `${zone(r.path[0]!.zone)} … ${zone(r.path[r.path.length - 1]!.zone)}` : "off the face"}>
				<ol className="m-0 grid list-none gap-1 p-0">
					{path.map((p, i) => (
						<li key={`${p.zone}${i}`} className="grid grid-cols-[minmax(0,1fr)_56px_40px_40px] items-center gap-1">
							<span className="truncate text-sm">
								{i + 1}. {zone(p.zone)}
							</span>
							<select
								aria-label={`Pressure at ${zone(p.zone)}`}
								className="field px-1"
								value={p.pressure ?? ""}
								onChange={(e) =>
									putPath(
										path.map((q, n) =>
											n === i ? (e.target.value === "" ? { zone: q.zone } : { zone: q.zone, pressure: Number(e.target.value) }) : q,
										),
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
								aria-label={`${zone(p.zone)} earlier`}
								className="px-0"
								disabled={i === 0}
								onClick={() => putPath(path.toSpliced(i - 1, 2, path[i]!, path[i - 1]!))}
							>
								↑
							</Button>
							<Button aria-label={`Remove ${zone(p.zone)}`} className="px-0" onClick={() => putPath(path.toSpliced(i, 1))}>
								×
							</Button>
						</li>
					))}
				</ol>
				<select
					aria-label="Add a zone to the path"
					className="field"
					value=""
					onChange={(e) => e.target.value && putPath([...path, { zone: e.target.value }])}
				>
					<option value="">Add a zone …</option>
					{library.zones.map((z) => (
						<option key={z.key} value={z.key}>
							{z.name}
						</option>
					))}
				</select>
				<div className="flex gap-2">
					<Button onClick={onDraw} title="D">
						Draw it on the face
					</Button>
					{step.path && (
						<Button variant="quiet" onClick={() => put({ path: undefined })}>
							Stroke default
						</Button>
					)}
				</div>
				<Choice
					label="Pressure along the path"
					value={r.profile}
					options={profileWords}
					onChange={(v) => put({ profile: v as Step["profile"] })}
				/>
				<Choice
					label="Circle direction"
					value={r.sense ?? ""}
					options={{
						"": "no circles",
						clockwise: "clockwise",
						anticlockwise: "anticlockwise",
						"each-way": "alternating",
						outward: "outward",
						inward: "inward",
					}}
					onChange={(v) => put({ sense: (v || undefined) as Step["sense"] })}
				/>
			</Group>
			<Group title="Sides, hand and tool" note={[sideWords[r.sides], r.toolName || r.hand].filter(Boolean).join(", ")}>
				<Choice label="Sides" value={r.sides} options={sideWords} onChange={(v) => put({ sides: v as Step["sides"] })} />
				<label className="block text-sm font-semibold">
					Hand or tool
					<select
						className="field mt-0.5 font-normal"
						value={r.tool ? `tool:${r.tool.key}:${r.tool.part ?? ""}` : `hand:${r.hand ?? ""}`}
						onChange={(e) => {
							const [kind, key, part] = e.target.value.split(":");
							if (kind === "tool") put({ tool: part ? { key: key!, part } : { key: key! }, hand: undefined });
							else put({ hand: key, tool: undefined });
						}}
					>
						<optgroup label="Hand">
							{[...new Set([r.hand ?? "", ...hands])].filter(Boolean).map((h) => (
								<option key={h} value={`hand:${h}`}>
									{h}
								</option>
							))}
						</optgroup>
						<optgroup label="Tool">
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
						label="Handle turned"
						value={r.tool.handle ?? ""}
						options={{ "": "either way", up: "up", down: "down" }}
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
					label="Anchor hand on"
					value={r.anchor?.zone ?? ""}
					options={{ "": "nothing", ...zoneOptions }}
					onChange={(v) => put({ anchor: v ? { ...(r.anchor ?? { pressure: 1 }), zone: v } : undefined })}
				/>
				{r.anchor && (
					<div className="grid grid-cols-[80px_minmax(0,1fr)] gap-2">
						<NumberField
							label="Pressure"
							value={r.anchor.pressure}
							most={5}
							required
							onChange={(v) => put({ anchor: { ...r.anchor!, pressure: v ?? 0 } })}
						/>
						<Choice
							label="and"
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
								label="then on"
								value={t.zone}
								options={zoneOptions}
								onChange={(v) =>
									put({ anchor: { ...r.anchor!, changes: r.anchor!.changes!.map((x, n) => (n === i ? { ...x, zone: v } : x)) } })
								}
							/>
							<Choice
								label="and"
								value={t.role}
								options={Object.fromEntries(Object.entries(roleOfHandWords).filter(([k]) => k))}
								onChange={(v) =>
									put({ anchor: { ...r.anchor!, changes: r.anchor!.changes!.map((x, n) => (n === i ? { ...x, role: v as "rests" } : x)) } })
								}
							/>
							<Button
								aria-label="Remove this change of the anchor hand"
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
						Add a change of the anchor hand
					</Button>
				)}
				<p className="m-0 text-sm font-semibold">Fingers with their own pressure</p>
				{(r.fingers ?? []).map((f, i) => (
					<div key={`${i}-${r.fingers!.length}`} className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)_52px_40px] items-end gap-1.5">
						<Choice
							label="Finger"
							value={f.part}
							options={Object.fromEntries([f.part, ...hands].map((h) => [h, h]))}
							onChange={(v) => putFinger(i, { part: v })}
						/>
						<Choice
							label="on"
							value={f.zone ?? ""}
							options={{ "": "the path", ...zoneOptions }}
							onChange={(v) => putFinger(i, { zone: v })}
						/>
						<NumberField label="Press" value={f.pressure} most={5} required onChange={(v) => putFinger(i, { pressure: v ?? 0 })} />
						<Button
							aria-label={`Remove ${f.part}`}
							className="px-0"
							onClick={() => put({ fingers: r.fingers!.length > 1 ? r.fingers!.filter((_, n) => n !== i) : undefined })}
						>
							×
						</Button>
					</div>
				))}
				<Button variant="quiet" onClick={() => put({ fingers: [...(r.fingers ?? []), { part: "thumb", pressure: r.pressure }] })}>
					Add a finger
				</Button>
				<div className="grid grid-cols-[minmax(0,1fr)_90px] gap-2">
					<Choice
						label="More on one side"
						value={step.emphasis?.side ?? ""}
						options={{ "": "alike", left: "the left", right: "the right" }}
						onChange={(v) => put({ emphasis: v ? { side: v as "left", extra: step.emphasis?.extra ?? 1 } : undefined })}
					/>
					{step.emphasis && (
						<NumberField
							label={`${unit} more`}
							value={step.emphasis.extra}
							least={1}
							most={100}
							required
							onChange={(v) => v && put({ emphasis: { ...step.emphasis!, extra: v } })}
						/>
					)}
				</div>
				<Choice
					label="Second side of"
					value={step.mirrorOf ?? ""}
					options={{ "": "no other step", ...others }}
					onChange={(v) => put({ mirrorOf: v || undefined })}
				/>
			</Group>
			<Group
				title="Product"
				note={product ? `${product.name}, ${step.use!.amount.value} ${step.use!.amount.measure}` : step.remove ? "removed" : "none applied"}
			>
				<label className="block text-sm font-semibold">
					Apply product
					<select
						className="field mt-0.5 font-normal"
						aria-label="Product"
						value={step.use?.product ?? ""}
						onChange={(e) => {
							const p = library.products.find((x) => x.key === e.target.value);
							put({ use: p ? { product: p.key, amount: { value: p.fullDose || 1, measure: "mL" } } : undefined });
						}}
					>
						<option value="">none</option>
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
							label={`Amount (${product.rangeMin} to ${product.rangeMax} mL)`}
							value={step.use.amount.value}
							step="any"
							most={1000}
							required
							onChange={(v) => put({ use: { ...step.use!, amount: { ...step.use!.amount, value: v ?? 0 } } })}
						/>
						<Choice
							label="in"
							value={step.use.amount.measure}
							options={Object.fromEntries(product.measures.map((m) => [m, m]))}
							onChange={(v) => put({ use: { ...step.use!, amount: { ...step.use!.amount, measure: v } } })}
						/>
					</div>
				)}
				<Choice
					label="Remove product after this step"
					value={step.remove ?? ""}
					options={{ "": "nothing", blot: "blotted", wipe: "wiped off, warm and damp" }}
					onChange={(v) => put({ remove: (v || undefined) as Step["remove"] })}
				/>
				<Choice
					label="Gloves"
					value={step.gloves ?? ""}
					options={{ "": "fresh gloves for work inside the mouth", keep: "same gloves as before", none: "none" }}
					onChange={(v) => put({ gloves: (v || undefined) as Step["gloves"] })}
				/>
			</Group>
			<Group title="Phase, notes and timing" note={phaseWords[r.phase]}>
				<Choice
					label="Phase"
					value={r.phase}
					options={Object.fromEntries(library.phases.map((p) => [p, phaseWords[p] ?? p]))}
					onChange={(v) => put({ phase: v as Step["phase"] })}
				/>
				{(protocol.sections ?? []).length > 0 && (
					<Choice
						label="Section"
						value={step.section ?? ""}
						options={{ "": "none", ...Object.fromEntries((protocol.sections ?? []).map((s) => [s.id, s.name])) }}
						onChange={(v) => put({ section: v || undefined })}
					/>
				)}
				<Choice
					label="Alternates with"
					value={step.alternateOf ?? ""}
					options={{ "": "no other step", ...others }}
					onChange={(v) => put({ alternateOf: v || undefined })}
				/>
				{protocol.collection && (
					<Choice
						label="Best time of day"
						value={step.bestAt ?? ""}
						options={{ "": "any", morning: "morning", day: "day", evening: "evening" }}
						onChange={(v) => put({ bestAt: (v || undefined) as Step["bestAt"] })}
					/>
				)}
				<TextField label="What the client does" value={step.client} most={200} onChange={(v) => put({ client: v })} />
				<label className="flex min-h-11 items-center gap-2 text-sm">
					<input
						type="checkbox"
						className="size-5 accent-persimmon"
						checked={Boolean(step.announce)}
						onChange={(e) => put({ announce: e.target.checked || undefined })}
					/>
					Tell the client that it gets lighter here
				</label>
				<TextField label="Note" value={step.note} most={600} lines onChange={(v) => put({ note: v })} />
				<TextField label="Why it is here" value={step.why} most={300} onChange={(v) => put({ why: v })} />
				<TextField label="Sign to look for" value={step.sign} most={200} onChange={(v) => put({ sign: v })} />
				<TextField label="Reason for the departure" value={step.departure} most={300} onChange={(v) => put({ departure: v })} />
				<Picks
					label="Not stated"
					options={gapWords}
					chosen={Object.keys(step.gaps ?? {})}
					onChange={(list) => put({ gaps: list ? Object.fromEntries(list.map((k) => [k, step.gaps?.[k] ?? ""])) : undefined })}
				/>
				{Object.entries(step.gaps ?? {}).map(([k, said]) => (
					<TextField
						key={k}
						label={`Stated for the ${gapWords[k] ?? k}`}
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
						Optional when time is short
					</label>
					<NumberField
						label="Weight"
						value={step.weight || undefined}
						most={100}
						step="any"
						hint="1"
						onChange={(v) => put({ weight: v })}
					/>
				</div>
			</Group>
		</section>
	);
}

/** Whether a dose counts repetitions, which then need their parts. */
function counts(d: Schemas["Dose"], p: Protocol): boolean {
	return d.kind === "reps" || (d.kind === "inherited" && p.defaultDose.kind === "reps");
}
