import { Link } from "@tanstack/react-router";
import type { Schemas } from "../../api/client";
import { Chips, Choice, Group, NumberField, Picks, TextField } from "../../kit/fields";
import { clock } from "../../kit/format";
import { Button } from "../../kit/kit";
import * as w from "../../words/catalogue/workbench";
import { skinStateWords, skinTypes } from "../../words/client";
import { schoolWords, setUpText } from "../../words/sentences";
import { DoseEditor } from "./DoseEditor";
import { newStepId } from "./ops";
import { PlanFurther } from "./PlanFurther";
import { Said, Words } from "./Said";
import type { Protocol } from "./useBench";
import { VariantsEditor } from "./VariantsEditor";

type Props = {
	id: string;
	protocol: Protocol;
	evaluation: Schemas["Evaluation"];
	library: Schemas["LibraryView"];
	edit: (p: Protocol) => void;
	locked: boolean;
};

/** The plan as a whole: what is sold, for whom, by which method, and what it uses. */
export function PlanPanel({ id, protocol: p, evaluation: e, library, edit, locked }: Props) {
	const put = (part: Partial<Protocol>) =>
		edit(Object.fromEntries(Object.entries({ ...p, ...part }).filter(([, v]) => v !== undefined)) as Protocol);
	const minutes = (part: Partial<Protocol["minutes"]>) => put({ minutes: { ...p.minutes, ...part } });
	const school = (key: string, v: string) => {
		const next = { ...p.school, [key]: v } as Record<string, unknown>;
		if (!v) delete next[key];
		put({ school: next as Protocol["school"] });
	};
	const skin = skinTypes.map((t) => [t, t] as const);
	return (
		<fieldset disabled={locked} className="m-0 min-w-0 border-0 p-0">
			<div className="grid gap-3 p-3">
				<TextField label={w.name} value={p.name} most={120} onChange={(v) => v && put({ name: v })} />
				<TextField label={w.shortDescription} value={p.summary} most={600} lines onChange={(v) => put({ summary: v })} />
				<div className="grid grid-cols-2 gap-2">
					<NumberField
						label={w.handsOnMin}
						value={p.minutes.handsOn}
						least={1}
						most={480}
						required
						onChange={(v) => v && minutes({ handsOn: v })}
					/>
					<NumberField
						label={w.treatmentMin}
						value={p.minutes.sold}
						least={1}
						most={480}
						required
						onChange={(v) => v && minutes({ sold: v })}
					/>
					<NumberField
						label={w.prepareMin}
						value={p.minutes.prepare}
						most={120}
						onChange={(v) => {
							const { prepare: _, ...rest } = p.minutes;
							put({ minutes: v ? { ...rest, prepare: v } : rest });
						}}
					/>
					<NumberField label={w.resetMin} value={p.minutes.reset} most={120} required onChange={(v) => minutes({ reset: v ?? 0 })} />
				</div>
				<label className="text-sm font-semibold">
					{w.priceInCurrency({ currency: p.price.currency })}
					<input
						className="field num mt-1 font-normal"
						inputMode="decimal"
						value={p.price.amount}
						onChange={(ev) =>
							/^\d{1,7}(\.\d{0,2})?$/.test(ev.target.value) && put({ price: { ...p.price, amount: ev.target.value.replace(/\.$/, ".0") } })
						}
					/>
				</label>
			</div>
			<Group title={w.forWhom} note={[...(p.skinTypes ?? []), ...(p.concerns ?? [])].join(", ")}>
				<Chips
					label={w.skinTypes}
					options={skin}
					chosen={p.skinTypes ?? []}
					onChange={(l) => put({ skinTypes: l.length > 0 ? l : undefined })}
				/>
				<Chips
					label={w.notFor}
					options={skinStateWords.map((s) => [s, s] as const)}
					chosen={p.unsuited ?? []}
					onChange={(l) => put({ unsuited: l.length > 0 ? l : undefined })}
				/>
				<Chips
					label={w.concerns}
					options={library.concerns.map((c) => [c.key, c.name] as const)}
					chosen={p.concerns ?? []}
					onChange={(l) => put({ concerns: l.length > 0 ? l : undefined })}
				/>
			</Group>
			<Group title={w.whatItNeeds} note={[...(p.skills ?? []), ...(p.equipment ?? [])].join(", ")}>
				<Words label={w.skillsAndLicences} value={p.skills} onChange={(skills) => put({ skills })} />
				<Words label={w.equipmentOfTheRoom} value={p.equipment} onChange={(equipment) => put({ equipment })} />
				{(["draining", "deep", "glow"] as const).map((mark) => (
					<Choice
						key={mark}
						label={w.marks[mark]}
						value={p.marked?.[mark] === undefined ? "" : p.marked[mark] ? "yes" : "no"}
						options={{ "": w.asTheStepsSay, yes: w.markYes, no: w.markNo }}
						onChange={(v) => {
							const { [mark]: _, ...rest } = p.marked ?? {};
							const marked = v === "" ? rest : { ...rest, [mark]: v === "yes" };
							put({ marked: Object.keys(marked).length > 0 ? marked : undefined });
						}}
					/>
				))}
			</Group>
			<Group title={w.method} note={schoolWords.drainage.options[(p.school.drainage || "open-and-close") as "none"]}>
				{Object.entries(schoolWords).map(([key, w]) => {
					const first = Object.keys(w.options)[0]!;
					const value = ((p.school as Record<string, unknown>)[key] as string) || first;
					return (
						<Choice
							key={key}
							label={w.label}
							value={value}
							options={w.options}
							onChange={(v) => school(key, v === first && first !== "" && !(key in p.school) ? "" : v)}
						/>
					);
				})}
				<NumberField
					label={w.stopAtDiscomfortAbove010}
					value={p.school.discomfortLimit || undefined}
					least={1}
					most={10}
					hint="6"
					onChange={(v) => put({ school: { ...p.school, ...(v ? { discomfortLimit: v } : { discomfortLimit: 0 }) } })}
				/>
				<Choice
					label={w.firstSide}
					value={p.firstSide || "left"}
					options={{ left: w.left, right: w.right }}
					onChange={(v) => put({ firstSide: v as "left" })}
				/>
				<Choice
					label={w.worked}
					value={p.setting || "client"}
					options={{ client: w.onAClientInTheStudio, self: w.onOneselfAsHomeCare, taught: w.taughtBeforeAMirror }}
					onChange={(v) => put({ setting: v === "client" ? undefined : (v as "self") })}
				/>
				<label className="flex min-h-11 items-center gap-2 text-sm">
					<input
						type="checkbox"
						className="size-5 accent-persimmon"
						checked={Boolean(p.collection)}
						onChange={(ev) => put({ collection: ev.target.checked || undefined })}
					/>
					{w.collectionStrokesOrderNotChecked}
				</label>
			</Group>
			<Group title={w.defaultDose} note={w.forStepsThatInheritIt}>
				<DoseEditor dose={p.defaultDose} inherits={false} onChange={(d) => put({ defaultDose: d })} />
			</Group>
			<Group title={w.recurringCues} note={p.cues?.length ? `${p.cues.length}` : w.none}>
				{(p.cues ?? []).map((c, i) => (
					<div key={`${i}-${p.cues!.length}`} className="grid grid-cols-[minmax(0,1fr)_70px_44px] items-end gap-2">
						<TextField
							label={w.said}
							value={c.text}
							most={120}
							onChange={(v) => v && put({ cues: p.cues!.map((x, n) => (n === i ? { ...x, text: v } : x)) })}
						/>
						<NumberField
							label={w.everyS}
							value={c.every || undefined}
							least={15}
							onChange={(v) => put({ cues: p.cues!.map((x, n) => (n === i ? { ...x, every: v ?? 0 } : x)) })}
						/>
						<Button
							aria-label={w.removeTheCueText({ text: c.text })}
							className="px-0"
							onClick={() => put({ cues: p.cues!.length > 1 ? p.cues!.filter((_, n) => n !== i) : undefined })}
						>
							×
						</Button>
						<div className="col-span-3">
							<Said
								of={c}
								specs={[
									{ path: "seconds", kind: "number", most: 600 },
									{ path: "break", kind: "flag" },
								]}
								onChange={(next) => put({ cues: p.cues!.map((x, n) => (n === i ? next : x)) })}
							/>
						</div>
					</div>
				))}
				<Button onClick={() => put({ cues: [...(p.cues ?? []), { text: w.jawLooseShouldersDown, every: 300 }] })}>{w.addACue}</Button>
			</Group>
			<PlanFurther protocol={p} library={library} put={put} />
			<Group title={w.sections} note={p.sections?.length ? p.sections.map((s) => s.name).join(", ") : w.none}>
				{(p.sections ?? []).map((s, i) => (
					<div key={s.id} className="grid gap-2 border-b border-rule pb-2">
						<TextField
							label={w.name}
							value={s.name}
							most={120}
							onChange={(v) => v && put({ sections: p.sections!.map((x, n) => (n === i ? { ...x, name: v } : x)) })}
						/>
						<TextField
							label={w.position}
							value={s.place}
							most={120}
							onChange={(v) =>
								put({ sections: p.sections!.map((x, n) => (n === i ? { ...x, ...(v ? { place: v } : { place: "" }) } : x)) })
							}
						/>
						<Picks
							label={w.toolsOfTheSection}
							options={Object.fromEntries(library.tools.map((t) => [t.key, t.name]))}
							chosen={s.tools ?? []}
							onChange={(l) => put({ sections: p.sections!.map((x, n) => (n === i ? { ...x, tools: l ?? [] } : x)) })}
						/>
						<TextField
							label={w.precautionsOneALine}
							value={s.cautions?.join("\n")}
							most={1200}
							lines
							onChange={(v) => put({ sections: p.sections!.map((x, n) => (n === i ? { ...x, cautions: v ? v.split("\n") : [] } : x)) })}
						/>
						{s.defaultDose ? (
							<DoseEditor
								dose={s.defaultDose}
								inherits={false}
								onChange={(d) => put({ sections: p.sections!.map((x, n) => (n === i ? { ...x, defaultDose: d } : x)) })}
							/>
						) : (
							<Button
								variant="quiet"
								onClick={() =>
									put({ sections: p.sections!.map((x, n) => (n === i ? { ...x, defaultDose: { kind: "reps", planned: 3 } } : x)) })
								}
							>
								{w.itsOwnDefaultRepetitions}
							</Button>
						)}
						<Button
							onClick={() =>
								put({
									sections: p.sections!.filter((x) => x.id !== s.id),
									steps: p.steps.map((st) =>
										st.section === s.id
											? (Object.fromEntries(Object.entries(st).filter(([k]) => k !== "section")) as Protocol["steps"][number])
											: st,
									),
								})
							}
						>
							{w.ungroupSection}
						</Button>
					</div>
				))}
				<Button onClick={() => put({ sections: [...(p.sections ?? []), { id: newStepId(), name: w.newSection }] })}>{w.addASection}</Button>
			</Group>
			<Group title={w.itsOwnVariants} note={p.variants?.length ? p.variants.map((v) => v.name).join(", ") : w.noneTheUsualOnesApply}>
				<VariantsEditor protocol={p} library={library} edit={edit} />
			</Group>
			<div className="p-3">
				<h3 className="mt-0 mb-1 text-lg">{w.setUpList}</h3>
				<ul className="num m-0 list-none p-0 text-sm">
					{(e.setUp ?? []).map((i) => (
						<li key={`${i.kind}${i.key}`} className="border-b border-rule py-1">
							{setUpText(i)}
						</li>
					))}
					{(e.setUp ?? []).length === 0 &&
						e.products.map((x) => (
							<li key={x.product} className="flex justify-between border-b border-rule py-1">
								{x.name}
								<span>{w.mlMLCost({ ml: x.ml.toFixed(1), cost: x.cost ? `, ${x.cost}` : "" })}</span>
							</li>
						))}
				</ul>
				{e.products
					.filter((x) => (x.usual ?? 0) > 0)
					.map((x) => (
						<p key={x.product} className="num m-0 text-sm">
							{w.youUsuallyTake({ name: x.name, usual: x.usual!.toFixed(1), planned: x.ml.toFixed(1) })}
						</p>
					))}
				<p className="num mt-2 mb-0 text-sm text-soft">
					{w.leftLeftSecondsRightRightSecondsHandsLeave({
						leftSeconds: clock(e.leftSeconds),
						rightSeconds: clock(e.rightSeconds),
						timesLeft: e.timesLeft,
						toolChanges: e.toolChanges,
					})}
				</p>
				{e.reapply.length > 0 && (
					<p className="num mt-1 mb-0 text-sm">
						{w.bestTimeForMoreProductReapply({ reapply: e.reapply.map((r) => clock(r.at)).join(", ") })}
					</p>
				)}
			</div>
			{/* Here, not below the panel: it would jump away under the pointer when the panel comes. */}
			<p className="px-3 pb-3">
				<Link to="/protocols/$id/variants" params={{ id }} className="underline underline-offset-4">
					{w.variantsBySkinType}
				</Link>
				{" · "}
				<Link to="/protocols/$id/versions" params={{ id }} className="underline underline-offset-4">
					{w.versions}
				</Link>
			</p>
		</fieldset>
	);
}
