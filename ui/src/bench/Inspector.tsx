import type { Schemas } from "../api/client";
import { Button } from "../parts/kit";
import { doseText, intentWords, phaseWords, pressureWords, sideWords } from "../words/en";
import { type Protocol, type Step, withStep } from "./useBench";

type Props = {
	protocol: Protocol;
	resolved: Schemas["Resolved"];
	library: Schemas["LibraryView"];
	edit: (p: Protocol) => void;
	onMove: (by: -1 | 1) => void;
	onRemove: () => void;
};

const hands = [
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
	"thumb and index C",
	"heel of hand",
	"edge of hand",
	"two-finger V",
	"joined palms",
];

/** Everything about one step that can be changed. */
export function Inspector({ protocol, resolved: r, library, edit, onMove, onRemove }: Props) {
	const step = protocol.steps.find((s) => s.id === r.id);
	if (!step) return null;
	const put = (part: Partial<Step>) => edit(withStep(protocol, r.id, part));
	const dose = (part: Partial<Schemas["Dose"]>) => put({ dose: { ...r.dose, ...part } });
	const zone = (key: string) => library.zones.find((z) => z.key === key)?.name ?? key;
	const product = library.products.find((p) => p.key === step.use?.product);
	const unit = { reps: "times", breaths: "breaths", positions: "rounds" }[r.dose.kind as string] ?? "s";
	return (
		<section aria-label="Step" className="grid gap-3 p-3">
			<div>
				<h2 className="m-0 text-xl leading-tight">{r.name}</h2>
				<p className="m-0 text-sm text-soft">
					{intentWords[r.intent]} · {r.family} · {doseText(r.dose)}
					{r.speed > 0 ? ` · ${r.speed.toFixed(1)} cm/s` : ""}
				</p>
				{r.cue && <p className="mt-1 mb-0 text-sm">{r.cue}</p>}
				{r.caution && <p className="mt-1 mb-0 text-sm font-semibold text-persimmon-deep">{r.caution}</p>}
			</div>
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
			<Row label={`Dose (${r.least} to ${r.most} ${unit})`}>
				<Stepper
					value={r.dose.planned ?? 0}
					least={1}
					most={3600}
					grain={r.grain}
					onChange={(n) => dose({ planned: n, min: Math.min(r.dose.min || n, n), max: r.dose.max ? Math.max(r.dose.max, n) : r.dose.max })}
					label="Dose"
				/>
				<span className="text-sm">{unit}</span>
			</Row>
			{r.dose.kind === "reps" && (
				<Row label="Sets">
					<Stepper value={r.dose.sets || 1} least={1} most={10} grain={1} onChange={(n) => dose({ sets: n })} label="Sets" />
				</Row>
			)}
			<Row label="Pressure">
				<div role="radiogroup" aria-label="Pressure" className="flex">
					{pressureWords.map((w, n) => (
						<label
							key={w}
							title={w}
							className={`flex min-h-11 min-w-10 cursor-pointer items-center justify-center border border-[#9c8873] font-semibold not-first:border-l-0 has-[:focus-visible]:outline-3 has-[:focus-visible]:outline-persimmon ${r.pressure === n ? "bg-ink text-paper" : "bg-leaf"}`}
						>
							<input
								type="radio"
								className="sr-only"
								name="pressure"
								checked={r.pressure === n}
								onChange={() => put({ pressure: n, path: step.path?.map((p) => ({ zone: p.zone })) })}
								aria-label={`${n} ${w}`}
							/>
							{n}
						</label>
					))}
				</div>
				<span className="text-sm">{pressureWords[r.pressure]}</span>
			</Row>
			<Row label="Sides">
				<select className="field" aria-label="Sides" value={r.sides} onChange={(e) => put({ sides: e.target.value as Step["sides"] })}>
					{["mid", "both", "turns", "left", "right"].map((s) => (
						<option key={s} value={s}>
							{sideWords[s]}
						</option>
					))}
				</select>
			</Row>
			<Row label="Hand or tool">
				<select
					className="field"
					aria-label="Hand or tool"
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
			</Row>
			<Row label="Product">
				<select
					className="field"
					aria-label="Product"
					value={step.use?.product ?? ""}
					onChange={(e) => {
						const p = library.products.find((x) => x.key === e.target.value);
						put({ use: p ? { product: p.key, amount: { value: p.fullDose || 1, measure: "mL" } } : undefined });
					}}
				>
					<option value="">none put on here</option>
					{library.products.map((p) => (
						<option key={p.key} value={p.key}>
							{p.name}
						</option>
					))}
				</select>
			</Row>
			{step.use && product && (
				<Row label={`Amount (range ${product.rangeMin} to ${product.rangeMax} mL)`}>
					<input
						type="number"
						className="field num w-24"
						aria-label="Amount"
						min={0}
						step="any"
						value={step.use.amount.value}
						onChange={(e) => put({ use: { ...step.use!, amount: { ...step.use!.amount, value: Math.max(0, Number(e.target.value)) } } })}
					/>
					<select
						className="field w-28"
						aria-label="Measure"
						value={step.use.amount.measure}
						onChange={(e) => put({ use: { ...step.use!, amount: { ...step.use!.amount, measure: e.target.value as "mL" } } })}
					>
						{product.measures.map((m) => (
							<option key={m}>{m}</option>
						))}
					</select>
				</Row>
			)}
			<Row label="Phase">
				<select className="field" aria-label="Phase" value={r.phase} onChange={(e) => put({ phase: e.target.value as Step["phase"] })}>
					{library.phases.map((p) => (
						<option key={p} value={p}>
							{phaseWords[p]}
						</option>
					))}
				</select>
			</Row>
			{r.path.length > 0 && (
				<p className="m-0 text-sm">
					<span className="font-semibold">Path</span> {r.path.map((p) => `${zone(p.zone)} ${p.pressure}`).join(" → ")}
				</p>
			)}
			<label className="text-sm font-semibold">
				Note
				<textarea
					className="field mt-1 min-h-16 font-normal"
					maxLength={600}
					value={step.note ?? ""}
					onChange={(e) => put({ note: e.target.value || undefined })}
				/>
			</label>
			<label className="text-sm font-semibold">
				Reason for going against a usual limit
				<input
					className="field mt-1 font-normal"
					maxLength={300}
					value={step.departure ?? ""}
					onChange={(e) => put({ departure: e.target.value || undefined })}
				/>
			</label>
		</section>
	);
}

function Row({ label, children }: { label: string; children: React.ReactNode }) {
	return (
		<div>
			<p className="m-0 mb-0.5 text-sm font-semibold">{label}</p>
			<div className="flex items-center gap-2">{children}</div>
		</div>
	);
}

function Stepper({
	value,
	least,
	most,
	grain,
	onChange,
	label,
}: {
	value: number;
	least: number;
	most: number;
	grain: number;
	onChange: (n: number) => void;
	label: string;
}) {
	const to = (n: number) => onChange(Math.max(least, Math.min(most, Math.round(n))));
	return (
		<div className="flex">
			<Button aria-label={`${label}: less`} className="rounded-r-none px-3" onClick={() => to(value - grain)}>
				−
			</Button>
			<input
				aria-label={label}
				className="field num w-20 rounded-none border-x-0 text-center"
				type="number"
				min={least}
				max={most}
				value={value}
				onChange={(e) => e.target.value && to(Number(e.target.value))}
			/>
			<Button aria-label={`${label}: more`} className="rounded-l-none px-3" onClick={() => to(value + grain)}>
				+
			</Button>
		</div>
	);
}
