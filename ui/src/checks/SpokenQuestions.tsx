import { useState } from "react";
import type { Schemas } from "../api/client";
import { Button } from "../kit/kit";
import * as w from "../words/catalogue/checks";
import { type Answers, type AskingProps, Questions } from "./Questions";

type Rule = Schemas["Rule"];

/** Whether an answer says that there is something. */
export const saysSomething = (r: Rule, answers: Answers) => {
	const a = answers[r.id];
	return Boolean(a && (a.yes || a.unsure || a.option || Object.values(a.grades ?? {}).some((g) => g > 0)));
};

type Props = AskingProps & {
	spoken: readonly Schemas["List"][];
	/** Says no to what of some rules has no answer yet: each of them was asked. */
	onNone: (rules: readonly Rule[]) => void;
};

/** The check of somebody whose consultation is current: one spoken question a group, each saying what it covers. */
export function SpokenQuestions({ spoken, onNone, ...asking }: Props) {
	const [open, setOpen] = useState<string[]>([]);
	const groups = [...new Set(asking.rules.map((r) => r.group))];
	return groups.map((group) => {
		const rules = asking.rules.filter((r) => r.group === group);
		const question = spoken.find((s) => s.group === group)?.question ?? group;
		const left = rules.filter((r) => !asking.answers[r.id]);
		const told = rules.filter((r) => saysSomething(r, asking.answers));
		const asked = open.includes(group) || rules.some((r) => asking.fault(r.id));
		const done = left.length === 0;
		return (
			<section key={group} aria-label={group} className="border-b border-rule py-3">
				<div className="flex items-start justify-between gap-4">
					<div className="min-w-0">
						<p className="m-0 font-serif text-xl leading-snug font-semibold">{question}</p>
						<p className="m-0 text-sm text-soft">
							{w.covers({ names: rules.map((r) => (r.asks === "choice" ? r.title.toLowerCase() : r.short || r.title)).join(", ") })}
						</p>
					</div>
					{!asked && (
						<div className="flex shrink-0 gap-2">
							<Button
								aria-pressed={done && told.length === 0}
								className={done && told.length === 0 ? "border-ink bg-ink! text-paper" : ""}
								onClick={() => onNone(rules)}
							>
								{w.nothing}
							</Button>
							<Button aria-expanded={false} onClick={() => setOpen([...open, group])}>
								{told.length > 0 ? w.somethingTold({ n: told.length }) : w.something}
							</Button>
						</div>
					)}
				</div>
				{asked && (
					<div className="mt-2">
						<Questions {...asking} rules={rules} bare />
						<div className="flex gap-3">
							<Button disabled={done} onClick={() => onNone(rules)}>
								{w.noToTheRest}
							</Button>
						</div>
					</div>
				)}
			</section>
		);
	});
}
