import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useParams } from "@tanstack/react-router";
import { useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { progressQuery } from "../api/queries";
import { ClientSeries } from "../diary";
import { Button, ErrorMessage, Loading, Page } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/treatment";
import { instrumentWords, measureNames, reactionKindWords } from "../words/sentences";
import { type Era, GradeChart, MeasureChart, sideName, TreatmentThread } from "./MeasureChart";

type Progress = Schemas["Progress"];
type Measure = Schemas["MeasureProgress"];

const day = 24 * 3600 * 1000;

/** From the first thing that happened to now, with a little room on both sides. */
function eraOf(p: Progress, now: number): Era {
	const all = [
		...p.visits.map((v) => v.at),
		...p.reactions.map((r) => r.at),
		...p.measures.flatMap((m) => m.sides.flatMap((s) => s.points.map((x) => x.at))),
		...p.grades.flatMap((g) => g.points.map((x) => x.at)),
	].map((at) => Date.parse(at));
	const from = Math.min(now - 28 * day, ...all);
	return { from: from - 2 * day, to: Math.max(now, ...all) + 2 * day };
}

/** A client's progress: what was measured with its noise, what was graded, what was done, on one line of time. */
export function ProgressPage() {
	const { id } = useParams({ from: "/shell/people/$id/progress" });
	const progress = useQuery(progressQuery(id));
	const { may, now } = useSession();
	if (!progress.data) return <Loading of={w.theProgress} error={progress.error} retry={() => progress.refetch()} />;
	const p = progress.data;
	const era = eraOf(p, now().getTime());
	const row = "grid items-start gap-x-8 gap-y-2 border-b border-rule py-4 lg:grid-cols-[minmax(0,1fr)_400px]";
	return (
		<Page
			title={w.progressOf({ name: p.name })}
			action={
				<span className="flex items-center gap-6">
					<Link
						to="/people/$id"
						params={{ id }}
						className="inline-flex min-h-11 items-center font-semibold underline decoration-rule underline-offset-4"
					>
						{w.backToClient}
					</Link>
					{may("list-photos") && (
						<Link
							to="/people/$id/photos"
							params={{ id }}
							className="inline-flex min-h-11 items-center font-semibold underline decoration-rule underline-offset-4"
						>
							{w.photos}
						</Link>
					)}
					{may("add-measurements") && (
						<Link
							to="/people/$id/measure"
							params={{ id }}
							search={{ visit: undefined }}
							className="inline-flex min-h-11 items-center rounded-sm border border-persimmon bg-persimmon px-4 font-semibold text-white no-underline"
						>
							{w.measure}
						</Link>
					)}
				</span>
			}
		>
			{p.measures.length === 0 && <p className="mt-0 max-w-[70ch] text-lg">{w.nothingMeasured}</p>}
			<section aria-label={w.treatments} className={row}>
				<TreatmentThread visits={p.visits} reactions={p.reactions} era={era} />
				<div>
					<h2 className="m-0 text-xl">{w.treatments}</h2>
					<p className="m-0 text-sm text-soft">
						{p.reactions.map((r) => `${reactionKindWords[r.kind]}, ${w.gradeOf({ n: r.grade }).toLowerCase()}`).join("; ")}
					</p>
				</div>
			</section>
			{p.measures.map((m) => (
				<MeasureRow key={`${m.measure}${m.instrument}`} client={id} of={m} era={era} className={row} />
			))}
			{[...new Set(p.grades.map((g) => g.measure))].map((measure) => {
				const of = p.grades.filter((g) => g.measure === measure);
				return (
					<section key={measure} aria-label={measureNames[measure]} className={row}>
						<GradeChart of={of} era={era} />
						<div>
							<h2 className="m-0 text-lg">{measureNames[measure]}</h2>
							{of.map((g) => (
								<p key={g.side} className="m-0">
									{g.said && g.side !== "mid" && <span className="font-semibold">{g.side === "left" ? w.letterLeft : w.letterRight} </span>}
									{g.said?.text}
								</p>
							))}
						</div>
					</section>
				);
			})}
			<div className="mt-8">
				<ClientSeries client={id} />
			</div>
			{p.visits.length > 0 && <Done visits={p.visits} />}
		</Page>
	);
}

function Done({ visits }: { visits: Progress["visits"] }) {
	const { at } = useSession();
	return (
		<section aria-label={w.whatWasDone}>
			<h2 className="mt-6 mb-1 text-2xl">{w.whatWasDone}</h2>
			<ul className="m-0 list-none p-0">
				{[...visits].reverse().map((v) => (
					<li key={v.id} className="flex flex-wrap gap-4 border-b border-rule py-1.5">
						<Link
							to="/visits/$id/record"
							params={{ id: v.id }}
							search={{}}
							className="num w-28 underline decoration-rule underline-offset-4"
						>
							{at.date(v.at)}
						</Link>
						<span className="min-w-52 flex-1">{v.protocol}</span>
						<span className="text-sm text-soft">{v.practitioner}</span>
					</li>
				))}
			</ul>
		</section>
	);
}

function MeasureRow({ client, of, era, className }: { client: string; of: Measure; era: Era; className: string }) {
	const angle = of.instrument === "photo";
	return (
		<section aria-label={measureNames[of.measure]} className={className}>
			{of.sides.length > 0 ? <MeasureChart of={of} era={era} unit={angle ? "°" : ""} /> : <span />}
			<div>
				<h2 className="m-0 text-xl">
					{measureNames[of.measure]} <span className="text-base font-normal text-soft">{instrumentWords[of.instrument]}</span>
				</h2>
				{of.sides.map((s) => (
					<div key={s.side}>
						{s.said.map((x) => (
							<p key={x.text} className={`m-0 ${x.verdict === "change" ? "font-semibold" : ""}`}>
								{s.side !== "mid" && <span className="font-semibold">{s.side === "left" ? w.letterLeft : w.letterRight} </span>}
								{x.text}
							</p>
						))}
					</div>
				))}
				{of.said.map((x) => (
					<p key={x.text} className="m-0">
						{x.text}
					</p>
				))}
				<p className="m-0 text-sm text-soft">
					{of.sides.some((s) => s.usual) ? w.bandUsual : w.bandOwn} {w.legendChart}
				</p>
				<Hope client={client} of={of} />
				<Everybody of={of} />
				<AllReadings client={client} of={of} />
			</div>
		</section>
	);
}

/** What is hoped of a measure: it counts only where it is stated before. */
function Hope({ client, of }: { client: string; of: Measure }) {
	const { may } = useSession();
	const cache = useQueryClient();
	const save = useMutation({
		mutationFn: (hope: "longer" | "shorter" | "") =>
			unwrap(api.PUT("/api/clients/{id}/hopes/{measure}", { params: { path: { id: client, measure: of.measure } }, body: { hope } })),
		onSuccess: (p) => cache.setQueryData(["progress", client], p),
	});
	if (!may("save-hope")) return null;
	const angle = of.instrument === "photo";
	return (
		<label className="mt-1 flex flex-wrap items-center gap-2 text-sm">
			{w.hopedFor}
			<select
				className="field min-h-9! w-auto! py-0!"
				value={of.hope ?? ""}
				disabled={save.isPending}
				onChange={(e) => save.mutate(e.target.value as "longer" | "shorter" | "")}
			>
				<option value="">{w.hopeNothing}</option>
				<option value="longer">{angle ? w.hopeLarger : w.hopeLonger}</option>
				<option value="shorter">{angle ? w.hopeSmaller : w.hopeShorter}</option>
			</select>
			<ErrorMessage error={save.error} />
		</label>
	);
}

/** The same measure over all clients: how many changed beyond the noise. */
function Everybody({ of }: { of: Measure }) {
	const { may } = useSession();
	const [open, setOpen] = useState(false);
	const side = of.sides[0]?.side;
	const many = useQuery({
		queryKey: ["many clients", of.measure, of.instrument, side],
		queryFn: () =>
			unwrap(
				api.GET("/api/measures/{measure}/clients", {
					params: { path: { measure: of.measure }, query: { instrument: of.instrument, side: side ?? "mid" } },
				}),
			),
		enabled: open && side !== undefined,
	});
	if (!may("measure-clients") || !side) return null;
	return (
		<details className="text-sm" onToggle={(e) => setOpen(e.currentTarget.open)}>
			<summary className="min-h-9 cursor-pointer py-1.5 underline decoration-rule underline-offset-4">{w.showAllClients}</summary>
			{many.data && (
				<p className="m-0">
					{side !== "mid" && `${sideName(side)}: `}
					{many.data.text}. {many.data.note}
				</p>
			)}
			<ErrorMessage error={many.error} />
		</details>
	);
}

function AllReadings({ client, of }: { client: string; of: Measure }) {
	const { at, may } = useSession();
	const cache = useQueryClient();
	const [striking, setStriking] = useState("");
	const [why, setWhy] = useState("");
	const strike = useMutation({
		mutationFn: (id: string) => unwrap(api.POST("/api/measurements/{id}/strike", { params: { path: { id } }, body: { reason: why } })),
		onSuccess: (p) => {
			cache.setQueryData(["progress", client], p);
			setStriking("");
			setWhy("");
		},
	});
	return (
		<details className="text-sm">
			<summary className="min-h-9 cursor-pointer py-1.5 underline decoration-rule underline-offset-4">{w.allReadings}</summary>
			<ul className="num m-0 list-none p-0">
				{[...of.all].reverse().map((m) => (
					<li key={m.id} className="border-b border-dotted border-rule py-1">
						<span className={`flex flex-wrap items-baseline gap-x-3 ${m.struckAt ? "text-soft line-through" : ""}`}>
							<span className="w-40">
								{at.date(m.at)}, {at.time(m.at)}
							</span>
							<span className="font-semibold">{m.side === "mid" ? "" : m.side === "left" ? w.letterLeft : w.letterRight}</span>
							<span>{m.readings.join(" / ")}</span>
							<span>{m.moment === "before" ? w.beforeTreatment.toLowerCase() : w.afterTreatment.toLowerCase()}</span>
							<span className="text-soft">{m.by}</span>
							{!m.struckAt && may("strike-measurement") && striking !== m.id && (
								<Button variant="quiet" className="ml-auto min-h-9! px-0!" onClick={() => setStriking(m.id)}>
									{w.strike}
								</Button>
							)}
						</span>
						{m.struckReason && <span className="block text-soft">{w.struckFor({ reason: m.struckReason })}</span>}
						{striking === m.id && (
							<form
								className="mt-1 flex flex-wrap gap-2"
								onSubmit={(e) => {
									e.preventDefault();
									strike.mutate(m.id);
								}}
							>
								<input
									className="field min-w-48 flex-1"
									aria-label={w.strikeWhy}
									placeholder={w.strikeWhy}
									maxLength={500}
									value={why}
									onChange={(e) => setWhy(e.target.value)}
								/>
								<Button type="submit" disabled={!why.trim() || strike.isPending}>
									{w.strikeNow}
								</Button>
								<ErrorMessage error={strike.error} />
							</form>
						)}
					</li>
				))}
			</ul>
		</details>
	);
}
