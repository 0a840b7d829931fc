import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import * as z from "zod/mini";
import { api, type Schemas, unwrap } from "../api/client";
import { libraryQuery, rulesViewQuery } from "../api/queries";
import { Dialog } from "../kit/Dialog";
import { FormEnd, Input, Lines, useServerForm } from "../kit/form";
import { Badge, Button, Loading, Page } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/checks";
import { caution, ruleOutcomeText, stageWords } from "../words/sentences";
import { ImportRules } from "./ImportRules";
import { SavedMeanwhile, useAfterOther, useRuleRevision } from "./RuleRevision";
import { TouchedVisits, WriteRule } from "./WriteRule";

/** The waiting times in force: the trade's usual days, and the studio's own beside them. */
export function RulesPage() {
	const { at, may } = useSession();
	const view = useQuery(rulesViewQuery);
	const library = useQuery(libraryQuery);
	const [changing, setChanging] = useState<Schemas["Rule"] | null>(null);
	const [deciding, setDeciding] = useState<Deciding | null>(null);
	const [importing, setImporting] = useState<"file" | "shipped" | null>(null);
	const [writing, setWriting] = useState<Schemas["Rule"] | "new" | null>(null);
	if (!view.data) return <Loading of={w.theRules} error={view.error} retry={() => view.refetch()} />;
	const { pack, trade, own } = view.data;
	const waits = pack.rules.filter((r) => trade[r.id]);
	const ownRules = own.rules ?? [];
	const zone = (key: string) => library.data?.zones.find((z) => z.key === key)?.name.toLowerCase() ?? key;
	const policies = [
		...pack.rules.flatMap((r) => (r.policy ? [{ id: r.id, says: r.policy.says, loosens: true }] : [])),
		{ id: "no-mouth-work", says: w.noWorkInsideMouthOurLicence, loosens: false },
	];
	const title = (id: string) => pack.rules.find((r) => r.id === id)?.title ?? id;
	return (
		<Page title={w.studioRules}>
			<div className="mt-2 mb-1 flex items-center justify-between gap-3">
				<h2 className="m-0 text-2xl">{w.theStudiosOwnRules}</h2>
				{may("save-rule") && <Button onClick={() => setWriting("new")}>{w.addRule}</Button>}
			</div>
			{ownRules.length === 0 ? (
				<p className="mt-0 text-sm text-soft">{w.noneYetYourRulesAddedStandard}</p>
			) : (
				<ul className="m-0 list-none p-0">
					{ownRules.map((r) => (
						<li key={r.id} className="flex flex-wrap items-center gap-4 border-b border-rule py-1.5">
							<span className="min-w-60 flex-1">
								<span className="font-semibold">{r.title}</span>
								<span className="block text-sm text-soft">{r.question}</span>
							</span>
							<span className="text-sm">{r.outcomes.map((o) => ruleOutcomeText(o, zone)).join("; ")}</span>
							{may("save-rule") && <Button onClick={() => setWriting(r)}>{w.edit}</Button>}
						</li>
					))}
				</ul>
			)}
			<h2 className="mt-8 mb-1 text-2xl">{w.studioPolicies}</h2>
			<ul className="m-0 list-none p-0">
				{policies.map((x) => {
					const on = (own.policies ?? []).includes(x.id);
					return (
						<li key={x.id} className="flex items-center gap-4 border-b border-rule py-1.5">
							<span className="flex-1">{x.says}</span>
							<Badge tone={on ? "go" : "plain"}>{on ? w.onWord : w.offWord}</Badge>
							{may("save-rule") && <Button onClick={() => setDeciding({ ...x, on: !on })}>{on ? w.turnOff : w.turnOn}</Button>}
						</li>
					);
				})}
			</ul>
			<h2 className="mt-8 mb-1 text-2xl">
				{w.standardRulesOfVersion({ version: own.base?.version ?? pack.version.replace(/, \d+ of .*$/, "") })}
			</h2>
			<p className="mt-2 flex flex-wrap gap-3">
				{may("import-rules") && <Button onClick={() => setImporting("file")}>{w.importStandardRules}</Button>}
				{may("import-rules") && own.base && <Button onClick={() => setImporting("shipped")}>{w.useTheShippedRules}</Button>}
				<a
					href="/api/rule-pack"
					download="rules.json"
					className="inline-flex min-h-11 items-center font-semibold underline underline-offset-4"
				>
					{w.downloadRules}
				</a>
			</p>
			<h2 className="mt-8 mb-1 text-2xl">{w.waitingPeriods}</h2>
			<p className="mt-0 max-w-3xl">{w.theseDaysUsuallyTaughtInTrade}</p>
			<table className="w-full border-collapse text-left">
				<thead>
					<tr className="border-b border-ink text-sm text-soft">
						<th className="py-1 font-semibold">{w.after}</th>
						<th className="pr-4 font-semibold">{w.usualDays}</th>
						<th className="pr-4 font-semibold">{w.inThisStudio}</th>
						<th className="font-semibold">{w.why}</th>
						<th />
					</tr>
				</thead>
				<tbody>
					{waits.map((r) => {
						const mine = own.amendments?.find((a) => a.rule === r.id);
						return (
							<tr key={r.id} className="border-b border-rule">
								<td className="pr-4 font-semibold">{r.title}</td>
								<td className="num pr-4">
									{trade[r.id]} {r.doubtful && <span className="text-sm text-soft">{w.ruleOfThumb2}</span>}
								</td>
								<td className="num pr-4">
									{mine ? (
										<Badge tone={mine.days < mine.was ? "not-here" : "go"}>{w.daysDays({ days: mine.days })}</Badge>
									) : (
										w.tradeDays({ trade: trade[r.id] })
									)}
								</td>
								<td className="pr-4 text-sm text-soft">{mine?.reason || r.why}</td>
								<td className="py-1 text-right">{may("save-rule") && <Button onClick={() => setChanging(r)}>{w.edit}</Button>}</td>
							</tr>
						);
					})}
				</tbody>
			</table>
			<h2 className="mt-8 mb-1 text-2xl">{w.allRulesInUse}</h2>
			<p className="mt-0 max-w-3xl text-sm text-soft">{caution}</p>
			{[...new Set(pack.rules.map((r) => r.group))].map((g) => (
				<details key={g} className="border-b border-rule">
					<summary className="flex min-h-11 cursor-pointer items-center font-serif text-lg font-semibold">
						{g}, {pack.rules.filter((r) => r.group === g).length}
					</summary>
					<ul className="m-0 list-none p-0 pb-3">
						{pack.rules
							.filter((r) => r.group === g)
							.map((r) => (
								<li key={r.id} className="grid gap-x-6 border-t border-rule py-1.5 md:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
									<span>
										<span className="font-semibold">{r.title}</span>
										<span className="block text-sm text-soft">
											{r.question || w.workedOutFromTheAge} ({stageWords[r.stage]})
										</span>
									</span>
									<span className="text-sm">
										{r.outcomes.map((o) => ruleOutcomeText(o, zone).replace(/\.$/, "")).join("; ")}
										<span className="block text-soft">
											{r.why} ({r.basis}
											{r.doubtful ? w.ruleOfThumb : ""})
										</span>
									</span>
								</li>
							))}
					</ul>
				</details>
			))}
			{(own.log?.length ?? 0) > 0 && (
				<>
					<h2 className="mt-8 mb-1 text-2xl">{w.changes2}</h2>
					<ul className="m-0 list-none p-0">
						{[...(own.log ?? [])].reverse().map((l) => (
							<li key={`${l.at}${l.rule}`} className="flex flex-wrap gap-4 border-b border-rule py-2">
								<span className="num w-36">
									{at.date(l.at)}, {at.time(l.at)}
								</span>
								<span className="w-36">{l.by}</span>
								<span className="flex-1">
									{l.did ? `${l.title}: ${l.did}` : w.ruleDaysDaysUsualWas({ rule: title(l.rule), days: l.days, was: l.was })}
									{l.loosens && (
										<>
											{" "}
											<Badge tone="not-here">{w.relaxed}</Badge>
										</>
									)}
									{l.reason && <span className="block text-sm text-soft">{l.reason}</span>}
								</span>
							</li>
						))}
					</ul>
				</>
			)}
			{deciding && <Decide key={deciding.id} policy={deciding} onClose={() => setDeciding(null)} />}
			{importing && <ImportRules shipped={importing === "shipped"} onClose={() => setImporting(null)} />}
			{writing && (
				<WriteRule
					key={writing === "new" ? "new" : writing.id}
					rule={writing === "new" ? null : writing}
					onClose={() => setWriting(null)}
				/>
			)}
			{changing && (
				<ChangeDays
					key={changing.id}
					rule={changing}
					usual={trade[changing.id] ?? 0}
					now={own.amendments?.find((a) => a.rule === changing.id)?.days ?? trade[changing.id] ?? 0}
					onClose={() => setChanging(null)}
				/>
			)}
		</Page>
	);
}

type Deciding = { id: string; says: string; loosens: boolean; on: boolean };

/** A decision on a policy, with the bookings it touches; allowing more wants a reason. */
function Decide({ policy: p, onClose }: { policy: Deciding; onClose: () => void }) {
	const [touched, setTouched] = useState<Schemas["AffectedVisit"][] | null>(null);
	const cache = useQueryClient();
	const revision = useRuleRevision();
	const of = useServerForm({
		start: { reason: "" },
		send: ({ reason }) => {
			const body = { on: p.on, reason, save: touched !== null, revision: revision.current };
			return unwrap(api.POST("/api/policies/{policy}", { params: { path: { policy: p.id } }, body }));
		},
		onSent: (list) => {
			if (touched === null) return setTouched(list);
			cache.invalidateQueries();
			onClose();
		},
	});
	useAfterOther(revision, of.changed);
	const more = p.on === p.loosens;
	return (
		<Dialog open onClose={onClose} title={p.on ? w.turnThisPolicyOn : w.turnThisPolicyOff}>
			<form className="grid gap-3" onSubmit={of.submit} noValidate>
				<p className="m-0">{p.says}.</p>
				<Lines of={of} field="reason" label={more ? w.reasonSavedInTheLog : w.reasonOptional} />
				{touched && <TouchedVisits touched={touched} />}
				<SavedMeanwhile changed={of.changed} what="policy" />
				<FormEnd of={of} act={touched ? (p.on ? w.turnOn : w.turnOff) : w.showAffectedAppointments} onCancel={onClose} />
			</form>
		</Dialog>
	);
}

const days = z.object({ days: z.string().check(z.trim(), z.regex(/^\d{1,4}$/, w.enterWholeDays)), reason: z.string() });

function ChangeDays({ rule, usual, now, onClose }: { rule: Schemas["Rule"]; usual: number; now: number; onClose: () => void }) {
	const [touched, setTouched] = useState<Schemas["AffectedVisit"][] | null>(null);
	const cache = useQueryClient();
	const revision = useRuleRevision();
	const of = useServerForm({
		schema: days,
		start: { days: String(now), reason: "" },
		send: (v) => {
			const body = { days: Number(v.days), reason: v.reason, save: touched !== null, revision: revision.current };
			return unwrap(api.POST("/api/rules/{rule}", { params: { path: { rule: rule.id } }, body }));
		},
		onSent: (list) => {
			if (touched === null) return setTouched(list);
			cache.invalidateQueries();
			onClose();
		},
	});
	useAfterOther(revision, of.changed);
	return (
		<Dialog open onClose={onClose} title={rule.title}>
			<form
				className="grid gap-3"
				onSubmit={of.submit}
				onInput={() => {
					setTouched(null); // other days touch other appointments
					of.reset();
				}}
				noValidate
			>
				<p className="m-0">
					{w.usual} <span className="num">{usual}</span> {w.daysWhy({ why: rule.why })}
				</p>
				<Input of={of} field="days" label={w.daysAtThisStudio} className="num w-28" inputMode="numeric" />
				<Lines of={of} field="reason" label={w.reasonNeededForFewerDaysThan} />
				{touched && <TouchedVisits touched={touched} />}
				<SavedMeanwhile changed={of.changed} what="days" />
				<FormEnd of={of} act={touched ? w.saveDays : w.showAffectedAppointments} onCancel={onClose} />
			</form>
		</Dialog>
	);
}
