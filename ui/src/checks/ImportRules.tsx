import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { Dialog } from "../kit/Dialog";
import { FormEnd, Lines, useServerForm } from "../kit/form";
import { Badge } from "../kit/kit";
import * as w from "../words/catalogue/checks";
import { useAfterOther, useRuleRevision } from "./RuleRevision";
import { TouchedVisits } from "./WriteRule";

type Pack = Schemas["Pack"];

const kinds: Record<string, string> = { added: w.ruleAdded, removed: w.ruleRemoved, changed: w.ruleChanged };

/** Standard rules from a file, or the shipped ones again: what changes and whom it touches is shown before it is saved. */
export function ImportRules({ onClose, shipped }: { onClose: () => void; shipped: boolean }) {
	const [pack, setPack] = useState<Pack | null>(null);
	const [unreadable, setUnreadable] = useState(false);
	const [look, setLook] = useState<Schemas["RulesImport"] | null>(null);
	const revision = useRuleRevision();
	const cache = useQueryClient();
	const of = useServerForm({
		start: { reason: "" },
		send: ({ reason }) =>
			unwrap(
				api.POST("/api/rule-pack", {
					body: { ...(shipped || !pack ? {} : { pack }), reason, save: look !== null, revision: revision.current },
				}),
			),
		onSent: (v) => {
			if (look === null) return setLook(v);
			cache.invalidateQueries();
			onClose();
		},
	});
	useAfterOther(revision, of.changed);
	const choose = async (file: File | undefined) => {
		setLook(null);
		of.reset();
		try {
			const { version, rules, lists } = JSON.parse((await file?.text()) ?? "") as Pack;
			setPack({ version, rules, ...(lists ? { lists } : {}) });
			setUnreadable(!Array.isArray(rules));
		} catch {
			setPack(null);
			setUnreadable(true);
		}
	};
	return (
		<Dialog open onClose={onClose} title={shipped ? w.useTheShippedRules : w.importStandardRules}>
			<form className="grid gap-3" onSubmit={of.submit} noValidate>
				{shipped ? (
					<p className="m-0">{w.theShippedRulesTakeThePlace}</p>
				) : (
					<>
						<p className="m-0">{w.theRulesInTheFileTakeThePlace}</p>
						<label className="grid gap-1 text-sm font-semibold">
							{w.fileOfStandardRules}
							<input
								type="file"
								accept="application/json,.json"
								className="field py-2 font-normal"
								onChange={(e) => choose(e.target.files?.[0])}
							/>
						</label>
						{unreadable && (
							<p role="alert" className="m-0 font-semibold text-persimmon-deep">
								{w.thisFileCouldNotBeReadAsRules}
							</p>
						)}
					</>
				)}
				{look && <Changes list={look.changes} />}
				{look && <TouchedVisits touched={look.affected} />}
				{look && <Lines of={of} field="reason" label={look.changes.some((c) => c.loosens) ? w.reasonSavedInTheLog : w.reasonOptional} />}
				<FormEnd of={of} act={look ? w.saveRules : w.showWhatChanges} onCancel={onClose} disabled={!shipped && (!pack || unreadable)} />
			</form>
		</Dialog>
	);
}

function Changes({ list }: { list: readonly Schemas["PackChange"][] }) {
	if (list.length === 0) return <p className="m-0">{w.theseRulesAreTheSame}</p>;
	return (
		<ul className="m-0 max-h-60 list-none overflow-y-auto border-y border-rule p-0" aria-label={w.whatChanges}>
			{list.map((c) => (
				<li key={c.rule} className="flex flex-wrap items-center justify-between gap-2 border-b border-rule py-1.5 last:border-b-0">
					<span>{c.title}</span>
					<span className="flex gap-2">
						{c.loosens && <Badge tone="not-before">{w.lessStrict}</Badge>}
						<span className="text-sm text-soft">{kinds[c.kind]}</span>
					</span>
				</li>
			))}
		</ul>
	);
}
