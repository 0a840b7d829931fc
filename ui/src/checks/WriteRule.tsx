import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../api/client";
import { libraryQuery, rulesViewQuery } from "../api/queries";
import { FaceMap } from "../face/FaceMap";
import { Dialog } from "../kit/Dialog";
import { Choice, NumberField, TextField } from "../kit/fields";
import { dayWords } from "../kit/format";
import { Badge, Button, ErrorMessage, Field } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/checks";
import { pressureWords } from "../words/client";
import { askWords, familyWords, headlineWords, kindChoices, stageWords, toolKindWords } from "../words/sentences";
import { SavedMeanwhile, useAfterOther, useRuleRevision } from "./RuleRevision";

type Rule = Omit<Schemas["Rule"], "$schema">;
type Outcome = Schemas["Outcome"];

/** Visits to come that a change of the rules touches. */
export function TouchedVisits({ touched }: { touched: Schemas["AffectedVisit"][] }) {
	const { at } = useSession();
	return (
		<div role="status" className="mt-3">
			<p className="m-0 font-semibold">
				{touched.length === 0 ? w.noBookedAppointmentsAreAffected : w.bookedAppointmentsAffectedCount({ count: touched.length })}
			</p>
			<ul className="m-0 max-h-48 list-none overflow-auto p-0">
				{touched.map((t) => (
					<li key={t.visit.id} className="flex flex-wrap items-center gap-2 border-b border-rule py-1.5">
						<span className="num">
							{at.date(t.visit.startsAt)}, {at.time(t.visit.startsAt)}
						</span>
						<span className="flex-1">{t.visit.clientName}</span>
						<Badge tone={t.was}>{headlineWords[t.was]}</Badge> →{" "}
						<Badge tone={t.now}>
							{headlineWords[t.now]} {t.notBefore ? dayWords(t.notBefore) : ""}
						</Badge>
					</li>
				))}
			</ul>
		</div>
	);
}

const blank: Rule = {
	id: "",
	title: "",
	group: "Health",
	stage: "consultation",
	question: "",
	asks: "yes-no",
	outcomes: [{ kind: "cap", pressure: 2 }],
	why: "",
	basis: "the studio's own",
};

/** A studio rule: what is asked, and what follows from a yes. */
export function WriteRule({ rule, onClose }: { rule: Rule | null; onClose: () => void }) {
	const view = useQuery(rulesViewQuery);
	const revision = useRuleRevision();
	const [r, setR] = useState<Rule>(rule ?? blank);
	const [reason, setReason] = useState("");
	const [touched, setTouched] = useState<Schemas["AffectedVisit"][] | null>(null);
	const [retiring, setRetiring] = useState(false);
	const cache = useQueryClient();
	const change = (part: Partial<Rule>) => {
		setR({ ...r, ...part });
		setRetiring(false);
		setTouched(null);
		send.reset();
	};
	const done = (list: Schemas["AffectedVisit"][], save: boolean) => {
		if (!save) return setTouched(list);
		cache.invalidateQueries();
		onClose();
	};
	const send = useMutation({
		mutationFn: ({ save, retire }: { save: boolean; retire?: boolean }) =>
			retire
				? unwrap(api.POST("/api/own-rules/retirement", { body: { rule: r.id, reason, save, revision: revision.current } }))
				: unwrap(api.POST("/api/own-rules", { body: { rule: r, reason, save, revision: revision.current } })),
		onSuccess: (list, { save }) => done(list, save),
	});
	const changed = send.error instanceof ProblemError && send.error.problem.code === "changed-meanwhile" ? send.error.problem : null;
	useAfterOther(revision, changed);
	const fault = (path: string) => (send.error instanceof ProblemError ? send.error.at(path) : undefined);
	const groups = [...new Set((view.data?.pack.rules ?? []).map((x) => x.group))];
	const outcome = (i: number, o: Outcome) => change({ outcomes: r.outcomes.map((x, k) => (k === i ? o : x)) });
	const known = ["/reason", "/title", "/question"].some((p) => fault(p));
	return (
		<Dialog open onClose={onClose} title={rule ? rule.title : w.aRuleOfStudioRule}>
			<form
				className="grid gap-3"
				onSubmit={(e) => {
					e.preventDefault();
					send.mutate({ save: Boolean(touched) && !retiring });
					setRetiring(false);
				}}
			>
				<TextField label={w.title} value={r.title} most={80} onChange={(v) => change({ title: v ?? "" })} />
				<TextField label={w.questionForClientInPlainWords} value={r.question} most={200} onChange={(v) => change({ question: v ?? "" })} />
				<div className="grid grid-cols-3 gap-3">
					<Choice label={w.asked} value={r.stage} options={stageWords} onChange={(v) => change({ stage: v as "door" })} />
					<Choice
						label={w.answer}
						value={r.asks}
						options={askWords}
						onChange={(v) => change({ asks: v as "date", outcomes: r.outcomes.map(({ fromAnswer: _, ...o }) => o) })}
					/>
					<Choice
						label={w.group}
						value={r.group}
						options={Object.fromEntries(groups.map((g) => [g, g]))}
						onChange={(v) => change({ group: v })}
					/>
				</div>
				<p className="m-0 font-serif text-xl font-semibold">{w.ifTheAnswerIsYes}</p>
				{r.outcomes.map((o, i) => (
					<OutcomeEditor
						key={i}
						asks={r.asks}
						outcome={o}
						fault={
							send.error instanceof ProblemError
								? send.error.problem.errors?.find((e) => e.path.startsWith(`/outcomes/${i}`))?.message
								: undefined
						}
						onOutcome={(n) => outcome(i, n)}
						{...(r.outcomes.length > 1 ? { onRemove: () => change({ outcomes: r.outcomes.filter((_, k) => k !== i) }) } : {})}
					/>
				))}
				<Button className="justify-self-start" onClick={() => change({ outcomes: [...r.outcomes, { kind: "mind", does: "" }] })}>
					{w.addAnotherResult}
				</Button>
				<TextField label={w.why} value={r.why} most={300} onChange={(v) => change({ why: v ?? "" })} />
				<TextField label={w.source} value={r.basis} most={120} onChange={(v) => change({ basis: v ?? "" })} />
				{rule && (
					<Field label={w.reasonForChangeRequiredIfLess} fault={fault("/reason")}>
						{(a) => <textarea {...a} className="field" value={reason} onChange={(e) => setReason(e.target.value)} />}
					</Field>
				)}
				<ErrorMessage error={known && fault("/reason") ? null : send.error} />
				<SavedMeanwhile changed={changed} what="rule" />
				{touched && <TouchedVisits touched={touched} />}
				<div className="flex flex-wrap justify-end gap-3">
					{rule && (
						<Button
							variant="quiet"
							className="mr-auto -ml-4"
							disabled={send.isPending}
							onClick={() => {
								send.mutate({ save: retiring, retire: true });
								setRetiring(true);
							}}
						>
							{retiring ? w.deletePermanently : w.deleteRule}
						</Button>
					)}
					<Button onClick={onClose}>{w.cancel}</Button>
					<Button variant="primary" type="submit" disabled={send.isPending || !r.title.trim()}>
						{touched && !retiring ? w.saveRule : w.showAffectedAppointments}
					</Button>
				</div>
			</form>
		</Dialog>
	);
}

function OutcomeEditor({
	asks,
	outcome: o,
	fault,
	onOutcome,
	onRemove,
}: {
	asks: string;
	outcome: Outcome;
	fault?: string | undefined;
	onOutcome: (o: Outcome) => void;
	onRemove?: () => void;
}) {
	const library = useQuery(libraryQuery);
	const [marking, setMarking] = useState(false);
	const zoned = ["leave-out", "cap", "exclude"].includes(o.kind);
	const where = asks === "zones" || asks === "date-and-zones";
	const dated = asks === "date" || asks === "date-and-zones";
	const known = (library.data?.tags ?? []).map((t) => [t.tag, t.name]);
	const own = (library.data?.products ?? []).flatMap((p) => p.tags).map((t) => [t, t.replaceAll("-", " ")]);
	const put = (part: Partial<Outcome>) => onOutcome({ ...o, ...part });
	const several = (label: string, key: "families" | "tools" | "tags", all: Record<string, string>) => (
		<details className="border-b border-rule">
			<summary className="flex min-h-11 cursor-pointer items-center text-sm font-semibold">
				{label}: {(o[key] ?? []).map((k) => all[k] ?? k).join(", ") || w.none}
			</summary>
			<div className="flex flex-wrap gap-x-4 pb-2">
				{Object.entries(all).map(([k, name]) => (
					<label key={k} className="flex min-h-11 items-center gap-2 text-sm">
						<input
							type="checkbox"
							className="size-5 accent-persimmon"
							checked={(o[key] ?? []).includes(k)}
							onChange={(e) => put({ [key]: e.target.checked ? [...(o[key] ?? []), k] : (o[key] ?? []).filter((x) => x !== k) })}
						/>
						{name}
					</label>
				))}
			</div>
		</details>
	);
	return (
		<div className="leaf grid gap-2 p-3">
			<div className="flex flex-wrap items-end gap-3">
				<Choice
					label={w.what}
					value={o.kind}
					options={kindChoices}
					onChange={(v) =>
						onOutcome({
							kind: v as "cap",
							...(v === "cap" ? { pressure: 2 } : {}),
							...(v === "wait" ? { days: 7 } : {}),
							...(o.does ? { does: o.does } : {}),
						})
					}
				/>
				{o.kind === "cap" && (
					<Choice
						label={w.pressureAtMost}
						value={String(o.pressure ?? 2)}
						options={Object.fromEntries(pressureWords.map((w, i) => [String(i), `${i} ${w}`]))}
						onChange={(v) => put({ pressure: Number(v) })}
					/>
				)}
				{o.kind !== "mind" && o.kind !== "urgent" && (dated || o.kind === "wait") && (
					<span className="w-28">
						<NumberField
							label={w.days}
							value={o.days}
							most={3650}
							{...(o.kind === "wait" ? { required: true } : { hint: w.noEnd })}
							onChange={(v) => put({ days: v })}
						/>
					</span>
				)}
				{onRemove && (
					<Button variant="quiet" className="ml-auto" onClick={onRemove}>
						{w.remove}
					</Button>
				)}
			</div>
			{zoned && (
				<>
					<div className="flex flex-wrap items-center gap-4 text-sm">
						{where && (
							<label className="flex min-h-11 items-center gap-2">
								<input
									type="checkbox"
									className="size-5 accent-persimmon"
									checked={Boolean(o.fromAnswer)}
									onChange={(e) => put({ fromAnswer: e.target.checked })}
								/>
								{w.whereTheClientMarksIt}
							</label>
						)}
						<Button className="text-sm" aria-expanded={marking} onClick={() => setMarking(!marking)}>
							{(o.zones?.length ?? 0) > 0
								? o.zones?.length === 1
									? "1 zone"
									: w.countZones({ count: o.zones?.length })
								: o.kind === "leave-out" || o.fromAnswer
									? w.chooseZones
									: w.allZonesChooseZones}
						</Button>
					</div>
					{marking && library.data && (
						<div className="h-[320px]">
							<FaceMap
								zones={library.data.zones}
								marked={(o.zones ?? []).map((zone) => ({ zone, side: "both" }))}
								onMark={(p) =>
									put({ zones: (o.zones ?? []).includes(p.zone) ? o.zones?.filter((z) => z !== p.zone) : [...(o.zones ?? []), p.zone] })
								}
								label={w.chooseTheZonesOfThisRule}
							/>
						</div>
					)}
				</>
			)}
			{o.kind === "exclude" && (
				<>
					{several(w.strokes, "families", Object.fromEntries(familyWords.map((f) => [f, f])))}
					{several(w.tools, "tools", toolKindWords)}
					{several(w.productsWith, "tags", Object.fromEntries([...own, ...known]))}
				</>
			)}
			<TextField label={o.kind === "mind" ? w.whatToDoOrAsk : w.andWhatToDo} value={o.does} most={200} onChange={(v) => put({ does: v })} />
			{fault && <p className="m-0 text-sm font-semibold text-persimmon-deep">{fault}</p>}
		</div>
	);
}
