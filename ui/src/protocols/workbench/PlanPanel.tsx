import type { Schemas } from "../../api/client";
import { Chips, Choice, Group, NumberField, Picks, TextField } from "../../kit/fields";
import { clock } from "../../kit/format";
import { Button } from "../../kit/kit";
import { skinStateWords, skinTypes } from "../../words/client";
import { schoolWords, setUpText } from "../../words/en";
import { DoseEditor } from "./DoseEditor";
import { newStepId } from "./ops";
import type { Protocol } from "./useBench";
import { VariantsEditor } from "./VariantsEditor";

type Props = {
	protocol: Protocol;
	evaluation: Schemas["Evaluation"];
	library: Schemas["LibraryView"];
	edit: (p: Protocol) => void;
	locked: boolean;
};

/** The plan as a whole: what is sold, for whom, by which school, and what it takes. */
export function PlanPanel({ protocol: p, evaluation: e, library, edit, locked }: Props) {
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
				<TextField label="Name" value={p.name} most={120} onChange={(v) => v && put({ name: v })} />
				<TextField label="Short description" value={p.summary} most={600} lines onChange={(v) => put({ summary: v })} />
				<div className="grid grid-cols-3 gap-2">
					<NumberField
						label="Hands-on min"
						value={p.minutes.handsOn}
						least={1}
						most={480}
						required
						onChange={(v) => v && minutes({ handsOn: v })}
					/>
					<NumberField
						label="Treatment min"
						value={p.minutes.sold}
						least={1}
						most={480}
						required
						onChange={(v) => v && minutes({ sold: v })}
					/>
					<NumberField label="Reset min" value={p.minutes.reset} most={120} required onChange={(v) => minutes({ reset: v ?? 0 })} />
				</div>
				<label className="text-sm font-semibold">
					Price in {p.price.currency}
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
			<Group title="For whom" note={[...(p.skinTypes ?? []), ...(p.concerns ?? [])].join(", ")}>
				<Chips
					label="Skin types"
					options={skin}
					chosen={p.skinTypes ?? []}
					onChange={(l) => put({ skinTypes: l.length > 0 ? l : undefined })}
				/>
				<Chips
					label="Not for"
					options={skinStateWords.map((s) => [s, s] as const)}
					chosen={p.unsuited ?? []}
					onChange={(l) => put({ unsuited: l.length > 0 ? l : undefined })}
				/>
				<Chips
					label="Concerns"
					options={library.concerns.map((c) => [c.key, c.name] as const)}
					chosen={p.concerns ?? []}
					onChange={(l) => put({ concerns: l.length > 0 ? l : undefined })}
				/>
			</Group>
			<Group title="Method" note={schoolWords.drainage.options[(p.school.drainage || "open-and-close") as "none"]}>
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
					label="Stop at discomfort above (0–10)"
					value={p.school.discomfortLimit || undefined}
					least={1}
					most={10}
					hint="6"
					onChange={(v) => put({ school: { ...p.school, ...(v ? { discomfortLimit: v } : { discomfortLimit: 0 }) } })}
				/>
				<Choice
					label="First side"
					value={p.firstSide || "left"}
					options={{ left: "left", right: "right" }}
					onChange={(v) => put({ firstSide: v as "left" })}
				/>
				<Choice
					label="Worked"
					value={p.setting || "client"}
					options={{ client: "on a client in the studio", self: "on oneself, as home care", taught: "taught before a mirror" }}
					onChange={(v) => put({ setting: v === "client" ? undefined : (v as "self") })}
				/>
				<label className="flex min-h-11 items-center gap-2 text-sm">
					<input
						type="checkbox"
						className="size-5 accent-persimmon"
						checked={Boolean(p.collection)}
						onChange={(ev) => put({ collection: ev.target.checked || undefined })}
					/>
					Collection of strokes (order is not checked)
				</label>
			</Group>
			<Group title="Default dose" note="for steps that inherit it">
				<DoseEditor dose={p.defaultDose} inherits={false} onChange={(d) => put({ defaultDose: d })} />
			</Group>
			<Group title="Recurring cues" note={p.cues?.length ? `${p.cues.length}` : "none"}>
				{(p.cues ?? []).map((c, i) => (
					<div key={`${i}-${p.cues!.length}`} className="grid grid-cols-[minmax(0,1fr)_70px_44px] items-end gap-2">
						<TextField
							label="Said"
							value={c.text}
							most={120}
							onChange={(v) => v && put({ cues: p.cues!.map((x, n) => (n === i ? { ...x, text: v } : x)) })}
						/>
						<NumberField
							label="every s"
							value={c.every}
							least={15}
							required
							onChange={(v) => v && put({ cues: p.cues!.map((x, n) => (n === i ? { ...x, every: v } : x)) })}
						/>
						<Button
							aria-label={`Remove the cue ${c.text}`}
							className="px-0"
							onClick={() => put({ cues: p.cues!.length > 1 ? p.cues!.filter((_, n) => n !== i) : undefined })}
						>
							×
						</Button>
					</div>
				))}
				<Button onClick={() => put({ cues: [...(p.cues ?? []), { text: "Jaw loose, shoulders down", every: 300 }] })}>Add a cue</Button>
			</Group>
			<Group title="Sections" note={p.sections?.length ? p.sections.map((s) => s.name).join(", ") : "none"}>
				{(p.sections ?? []).map((s, i) => (
					<div key={s.id} className="grid gap-2 border-b border-rule pb-2">
						<TextField
							label="Name"
							value={s.name}
							most={120}
							onChange={(v) => v && put({ sections: p.sections!.map((x, n) => (n === i ? { ...x, name: v } : x)) })}
						/>
						<TextField
							label="Position"
							value={s.place}
							most={120}
							onChange={(v) =>
								put({ sections: p.sections!.map((x, n) => (n === i ? { ...x, ...(v ? { place: v } : { place: "" }) } : x)) })
							}
						/>
						<Picks
							label="Tools of the section"
							options={Object.fromEntries(library.tools.map((t) => [t.key, t.name]))}
							chosen={s.tools ?? []}
							onChange={(l) => put({ sections: p.sections!.map((x, n) => (n === i ? { ...x, tools: l ?? [] } : x)) })}
						/>
						<TextField
							label="Precautions, one a line"
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
								Its own default repetitions
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
							Ungroup section
						</Button>
					</div>
				))}
				<Button onClick={() => put({ sections: [...(p.sections ?? []), { id: newStepId(), name: "New section" }] })}>Add a section</Button>
			</Group>
			<Group title="Its own variants" note={p.variants?.length ? p.variants.map((v) => v.name).join(", ") : "none; the usual ones apply"}>
				<VariantsEditor protocol={p} library={library} edit={edit} />
			</Group>
			<div className="p-3">
				<h3 className="mt-0 mb-1 text-lg">Set-up list</h3>
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
								<span>
									{x.ml.toFixed(1)} mL{x.cost ? `, ${x.cost}` : ""}
								</span>
							</li>
						))}
				</ul>
				<p className="num mt-2 mb-0 text-sm text-soft">
					Left {clock(e.leftSeconds)}, right {clock(e.rightSeconds)}. The hands leave the face {e.timesLeft} times, change tools{" "}
					{e.toolChanges} times.
				</p>
				{e.reapply.length > 0 && (
					<p className="num mt-1 mb-0 text-sm">Best time for more product: {e.reapply.map((r) => clock(r.at)).join(", ")}.</p>
				)}
			</div>
		</fieldset>
	);
}
