import { useState } from "react";
import type { Schemas } from "../api/client";
import { Badge, Button } from "../kit/kit";
import { ReasonForm } from "../kit/ReasonForm";
import * as w from "../words/catalogue/checks";
import { findingText } from "../words/findings";
import { biteText, changeText, reasonText, severityWords } from "../words/sentences";

type PlanView = Schemas["PlanView"];
export type SetAside = Schemas["Override"];

type ChangesProps = {
	plan: PlanView;
	zone: (key: string) => string;
	product: (key: string) => string;
	productKey: (name: string) => string;
	accepted: { gentler: boolean; changes: string[] };
	onAccepted: (a: { gentler: boolean; changes: string[] }) => void;
	overrules: SetAside[];
	onOverrules: (o: SetAside[]) => void;
	onInstead: (of: string, use: string) => void;
	anySkin: boolean;
	onAnySkin: (b: boolean) => void;
	/** Steps at which what the protocol says for the skin is left out. */
	anySkinSteps: string[];
	onAnySkinSteps: (steps: string[]) => void;
};

/** Changes by the rule that asks for them, each with its reason once. */
function byReason(list: Schemas["Adjustment"][]): Schemas["Adjustment"][][] {
	return [...new Set(list.map((c) => c.rule))].map((rule) => list.filter((c) => c.rule === rule));
}

/** What is changed for today: what only makes it gentler in one go, each other one by one; single ones can be taken back. */
export function Changes(props: ChangesProps) {
	const { plan: t, zone, product, productKey, accepted, onAccepted, overrules, onOverrules, onInstead } = props;
	const [asking, setAsking] = useState<string | null>(null);
	const e = t.evaluation;
	const names = { zone, step: (id: string) => e.steps.find((s) => s.id === id)?.name ?? id };
	const skin = t.changes.filter((c) => c.skin);
	const asked = t.changes.filter((c) => !c.skin);
	const gentler = asked.filter((c) => c.gentler);
	const again = asked.filter((c) => c.again);
	const others = asked.filter((c) => !c.gentler && !c.again);
	const taken = overrules.filter((o) => o.step);
	const stepName = (id: string) => t.before.steps.find((s) => s.id === id)?.name ?? id;
	const line = (c: Schemas["Adjustment"], grouped = false) => (
		<li key={c.id} className="border-b border-rule py-1.5">
			<div className="flex items-start gap-3">
				<span className="flex-1">
					{changeText(c, names)}
					{grouped
						? biteText(c, zone) && <span className="text-sm text-soft"> ({biteText(c, zone)})</span>
						: c.title && <span className="block text-sm text-soft">{reasonText(c, zone)}</span>}
					{(c.others?.length ?? 0) > 1 && (
						<label className="mt-1 flex flex-wrap items-center gap-2 text-sm font-semibold">
							{w.useInstead}{" "}
							<select
								className="field w-auto font-normal"
								value={c.others?.find((k) => product(k) === c.to) ?? ""}
								onChange={(x) => c.from && onInstead(productKey(c.from), x.target.value)}
							>
								{c.others?.map((k) => (
									<option key={k} value={k}>
										{w.kStockMLInStock({ k: product(k), stock: Math.floor(t.stock[k] ?? 0) })}
									</option>
								))}
							</select>
						</label>
					)}
				</span>
				{t.takeBack.includes(c.id) && asking !== c.id && (
					<Button variant="quiet" className="text-sm" onClick={() => setAsking(c.id)}>
						{" "}
						{w.override}
					</Button>
				)}
				{(c.skin || (c.again && c.rule?.startsWith("variant/"))) && c.step && (
					<Button variant="quiet" className="text-sm" onClick={() => props.onAnySkinSteps([...props.anySkinSteps, c.step])}>
						{w.leaveOutHere}
					</Button>
				)}
				{!c.gentler && !c.skin && (
					<Button
						variant={accepted.changes.includes(c.id) ? "quiet" : "plain"}
						aria-pressed={accepted.changes.includes(c.id)}
						onClick={() =>
							onAccepted({
								...accepted,
								changes: accepted.changes.includes(c.id) ? accepted.changes.filter((x) => x !== c.id) : [...accepted.changes, c.id],
							})
						}
					>
						{accepted.changes.includes(c.id) ? "Accepted" : "Accept"}
					</Button>
				)}
			</div>
			{asking === c.id && (
				<ReasonForm
					label={w.reasonSavedInTheRecord}
					button={w.saveOverride}
					onReason={(reason) => {
						onOverrules([...overrules, { rule: c.rule ?? "", step: c.step, reason }]);
						setAsking(null);
					}}
					onLeave={() => setAsking(null)}
				/>
			)}
		</li>
	);
	return (
		<section aria-label={w.adjustmentsForToday} id="changes">
			<h2 className="mb-1 text-2xl">
				{t.changes.length === 0
					? w.noAdjustmentsNeeded
					: asked.length === 0
						? w.adjustedForSkinTypeOnly
						: w.countForToday({ count: asked.length === 1 ? "1 adjustment" : w.countAdjustments({ count: asked.length }) })}
			</h2>
			{again.length > 0 && (
				<section aria-label={w.decideAgain} className="mb-4 border-l-4 border-persimmon pl-4">
					<h3 className="m-0 text-lg">{w.decideAgain}</h3>
					<p className="m-0 text-sm text-soft">{w.youOverrodeAnotherRuleAsks}</p>
					<ul className="m-0 list-none p-0">{again.map((c) => line(c))}</ul>
				</section>
			)}
			{others.length > 0 && <ul className="m-0 mb-4 list-none p-0">{others.map((c) => line(c))}</ul>}
			{gentler.length > 0 && (
				<>
					<div className="flex flex-wrap items-center justify-between gap-3 border-b border-ink pb-1">
						<h3 className="m-0 text-lg">{w.gentlerOnly}</h3>
						<Button
							variant={accepted.gentler ? "quiet" : "plain"}
							aria-pressed={accepted.gentler}
							onClick={() => onAccepted({ ...accepted, gentler: !accepted.gentler })}
						>
							{accepted.gentler
								? w.allCountAccepted({ count: gentler.length })
								: gentler.length === 1
									? "Accept adjustment"
									: w.acceptAllGentler({ count: gentler.length })}
						</Button>
					</div>
					{byReason(gentler).map((list) => (
						<section key={list[0]!.rule} className="mt-2">
							{list[0]!.title && (
								<p className="m-0 text-sm text-soft">
									<span className="font-semibold">{list[0]!.title}:</span> {list[0]!.why}
								</p>
							)}
							<ul className="m-0 list-none p-0">{list.map((c) => line(c, true))}</ul>
						</section>
					))}
				</>
			)}
			{t.forSkin.length > 0 && (
				<>
					<div className="mt-4 flex flex-wrap items-center justify-between gap-3 border-b border-ink pb-1">
						<h3 className="m-0 text-lg">
							{w.forTheClientsSkinForSkin({ forSkin: t.forSkin.map((n) => n.toLowerCase()).join(", ") })}
							{props.anySkin && <span className="font-normal"> {w.offToday}</span>}
						</h3>
						<Button variant="quiet" aria-pressed={props.anySkin} onClick={() => props.onAnySkin(!props.anySkin)}>
							{props.anySkin ? w.turnBackOn : w.turnOffForToday}
						</Button>
					</div>
					<ul className="m-0 list-none p-0">{skin.map((c) => line(c))}</ul>
				</>
			)}
			{props.anySkinSteps.length > 0 && (
				<>
					<h3 className="mt-4 mb-1 text-lg">{w.skinLeftOutOnSteps}</h3>
					<ul className="m-0 list-none p-0">
						{props.anySkinSteps.map((id) => (
							<li key={id} className="flex items-center gap-3 border-b border-rule py-1">
								<span className="flex-1">{stepName(id)}</span>
								<Button variant="quiet" onClick={() => props.onAnySkinSteps(props.anySkinSteps.filter((x) => x !== id))}>
									{w.useAgain}
								</Button>
							</li>
						))}
					</ul>
				</>
			)}
			{taken.length > 0 && (
				<>
					<h3 className="mt-4 mb-1 text-lg">{w.overriddenOnSingleSteps}</h3>
					<ul className="m-0 list-none p-0">
						{taken.map((o) => (
							<li key={`${o.rule}${o.step}`} className="flex items-center gap-3 border-b border-rule py-1">
								<span className="flex-1">
									{stepName(o.step ?? "")}: {t.outcomes.find((x) => x.rule === o.rule)?.title ?? o.rule}
									<span className="block text-sm text-soft">{o.reason}</span>
								</span>
								<Button variant="quiet" onClick={() => onOverrules(overrules.filter((x) => x !== o))}>
									{w.undoOverride}
								</Button>
							</li>
						))}
					</ul>
				</>
			)}
			{e.findings.map((f) => (
				<p key={f.id} className="my-1 text-sm">
					<Badge tone={f.severity === "note" ? "plain" : "not-here"}>{severityWords[f.severity]}</Badge>{" "}
					{f.steps[0] ? `${names.step(f.steps[0])}: ` : ""}
					{findingText(f, names)}
				</p>
			))}
		</section>
	);
}
