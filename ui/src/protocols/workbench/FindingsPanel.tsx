import { useState } from "react";
import type { Schemas } from "../../api/client";
import { Button } from "../../kit/kit";
import { late } from "../../kit/late";
import * as w from "../../words/catalogue/workbench";
import { findingText } from "../../words/findings";
import { fixWords, gapWords } from "../../words/sentences";
import type { Protocol } from "./useBench";

// Findings are seldom put aside.
const ReasonForm = late(async () => (await import("../../kit/ReasonForm")).ReasonForm);

type Finding = Schemas["Finding"];
type Props = {
	findings: Finding[];
	notStated: Schemas["Unsaid"][];
	protocol: Protocol;
	names: { zone: (k: string) => string; step: (id: string) => string };
	onSelect: (id: string) => void;
	fix?: ((finding: string, fix: string) => void) | undefined;
	fixing: boolean;
	edit?: ((p: Protocol) => void) | undefined;
};

const groups = [
	["stop", w.mustFix, "text-[#a31313]"],
	["warning", w.shouldFix, "text-persimmon-deep"],
	["note", w.notes, "text-slate"],
] as const;

/** What the checks found, gravest first, each with its reason and ways out. */
export function FindingsPanel({ findings, notStated, protocol, names, onSelect, fix, fixing, edit }: Props) {
	const open = findings.filter((f) => !f.dismissed);
	const aside = findings.filter((f) => f.dismissed);
	const dismiss = (f: Finding, why?: string) =>
		edit?.({
			...protocol,
			dismissed: [...(protocol.dismissed ?? []).filter((d) => d.finding !== f.id), why ? { finding: f.id, why } : { finding: f.id }],
		});
	const back = (f: Finding) => edit?.({ ...protocol, dismissed: (protocol.dismissed ?? []).filter((d) => d.finding !== f.id) });
	return (
		<div className="p-3">
			{open.length === 0 && <p className="m-0">{w.allChecksPassed}</p>}
			{groups.map(([severity, title, colour]) => {
				const list = open.filter((f) => f.severity === severity);
				if (list.length === 0) return null;
				return (
					<section key={severity} aria-label={title} className="mb-4">
						<h3 className={`mt-0 mb-2 text-lg ${colour}`}>
							{severity === "note" ? "● " : "▲ "}
							{title} <span className="num text-sm font-normal">{list.length}</span>
						</h3>
						<ul className="m-0 list-none p-0">
							{list.map((f) => (
								<li key={f.id} className="mb-3 border-b border-rule pb-3">
									<StepLink f={f} names={names} onSelect={onSelect} />
									<p className="m-0">{findingText(f, names)}</p>
									<p className="m-0 text-xs text-soft">{f.basis}</p>
									<div className="mt-1 flex flex-wrap items-center gap-2">
										{fix &&
											f.fixes.map((x) => (
												<Button key={x} disabled={fixing} onClick={() => fix(f.id, x)}>
													{fixWords[x] ?? x}
												</Button>
											))}
										{edit && severity === "note" && (
											<Button variant="quiet" onClick={() => dismiss(f)}>
												{w.dismiss}
											</Button>
										)}
										{edit && severity === "warning" && <Dismiss onDone={(why) => dismiss(f, why)} />}
									</div>
								</li>
							))}
						</ul>
					</section>
				);
			})}
			<NotStated list={notStated} names={names} onSelect={onSelect} />
			{aside.length > 0 && (
				<details>
					<summary className="min-h-11 cursor-pointer py-3 text-sm font-semibold text-soft">
						{w.dismissedCount({ count: aside.length })}
					</summary>
					<ul className="m-0 list-none p-0">
						{aside.map((f) => (
							<li key={f.id} className="mb-2 border-b border-rule pb-2 text-sm">
								<StepLink f={f} names={names} onSelect={onSelect} />
								<p className="m-0">{findingText(f, names)}</p>
								{f.why && <p className="m-0 italic">{f.why}</p>}
								{edit && (
									<Button variant="quiet" onClick={() => back(f)}>
										{w.reopen}
									</Button>
								)}
							</li>
						))}
					</ul>
				</details>
			)}
		</div>
	);
}

/** What the plan never said: one line, its list folded away. */
function NotStated({ list, names, onSelect }: { list: Schemas["Unsaid"][]; names: Props["names"]; onSelect: (id: string) => void }) {
	if (list.length === 0) return null;
	return (
		<details>
			<summary className="min-h-11 cursor-pointer py-3 text-sm font-semibold text-soft">{w.notStatedCount({ n: list.length })}</summary>
			<p className="mt-0 mb-2 text-sm text-soft">{w.notStatedHint}</p>
			<ul className="m-0 list-none p-0">
				{list.map((u) => (
					<li key={`${u.step}${u.property}`} className="border-b border-rule py-1 text-sm">
						<button type="button" className="min-h-8 text-left font-semibold underline underline-offset-4" onClick={() => onSelect(u.step)}>
							{names.step(u.step)}
						</button>
						: {gapWords[u.property] ?? u.property}
						{u.said && ` (“${u.said}”)`}
					</li>
				))}
			</ul>
		</details>
	);
}

function StepLink({ f, names, onSelect }: { f: Finding; names: Props["names"]; onSelect: (id: string) => void }) {
	const id = f.steps[f.steps.length - 1];
	if (!id) return null;
	return (
		<button type="button" className="min-h-8 text-left text-sm font-semibold underline underline-offset-4" onClick={() => onSelect(id)}>
			{names.step(id)}
		</button>
	);
}

/** A warning is dismissed only with its reason. */
function Dismiss({ onDone }: { onDone: (why: string) => void }) {
	const [asking, setAsking] = useState(false);
	if (!asking)
		return (
			<Button variant="quiet" onClick={() => setAsking(true)}>
				{w.dismiss2}
			</Button>
		);
	return (
		<ReasonForm label={w.reasonForDismissing} button={w.dismiss} least={1} most={300} onReason={onDone} onLeave={() => setAsking(false)} />
	);
}
