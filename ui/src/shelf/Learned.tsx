import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../api/client";
import { dayWords, money, monthWords } from "../kit/format";
import { Button, ErrorMessage, Loading } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/shelf";
import { wasteReasons } from "./PackForms";

type Taught = Schemas["Learned"];

/** What records teach of a product: habits, how long it slides, and how its measures were weighed. Plans never change by it. */
export function Learned({ line: l, currency }: { line: Schemas["ShelfLineView"]; currency: string }) {
	const { may } = useSession();
	const cache = useQueryClient();
	const id = l.product.id;
	const taught = useQuery({
		queryKey: ["shelf", "learned", id],
		queryFn: () => unwrap(api.GET("/api/products/{id}/learned", { params: { path: { id } } })),
	});
	const forget = useMutation({
		mutationFn: (kind: "dose" | "half-life") => unwrap(api.DELETE("/api/products/{id}/learned/{kind}", { params: { path: { id, kind } } })),
		onSuccess: () => {
			for (const key of ["shelf", "library"]) cache.invalidateQueries({ queryKey: [key] });
		},
	});
	const closure = useMutation({
		mutationFn: () => unwrap(api.POST("/api/products/{id}/closure", { params: { path: { id } } })),
		onSuccess: () => cache.invalidateQueries({ queryKey: ["shelf", "learned", id] }),
	});
	if (!taught.data) return <Loading of={w.learned} error={taught.error} retry={() => taught.refetch()} />;
	const t = taught.data;
	return (
		<div className="grid gap-4 text-sm">
			<section aria-label={w.plannedAndUsed}>
				<h3 className="m-0 text-base">{w.plannedAndUsed}</h3>
				{t.uses.length === 0 ? <p className="m-0">{w.noRecordsYet}</p> : <Dots taught={t} unit={l.product.unit} />}
				{t.records > 0 && (
					<p className="num m-0">
						{w.factorFromRecords({ factor: Number(t.dose), records: t.records })}{" "}
						{Math.abs(Number(t.overPlan)) >= 0.01 &&
							(Number(t.overPlan) > 0
								? w.overPlanCost({ sum: money(t.overPlan, currency) })
								: w.underPlanCost({ sum: money(String(-Number(t.overPlan)), currency) }))}
					</p>
				)}
				{may("forget-learned") && t.records > 0 && (
					<Button variant="quiet" className="px-0" onClick={() => forget.mutate("dose")}>
						{w.forgetAndStartOver}
					</Button>
				)}
			</section>
			{t.waste.some((m) => Number(m.wasted) > 0) && (
				<section aria-label={w.wasted}>
					<h3 className="m-0 text-base">{w.wasted}</h3>
					<ul className="num m-0 list-none p-0">
						{t.waste.map((m) => (
							<li key={m.month} className={m.much ? "font-semibold text-persimmon-deep" : ""}>
								{w.wastedInMonth({ month: monthWords(m.month), amount: Number(m.wasted), unit: l.product.unit })}
								{Number(m.used) > 0 && ` ${w.shareOfWhatWasUsed({ percent: Number(m.percent) })}`}
								{m.reasons.length > 0 &&
									`: ${m.reasons.map((r) => wasteReasons[r as keyof typeof wasteReasons]?.toLowerCase() ?? r).join(", ")}`}
							</li>
						))}
					</ul>
				</section>
			)}
			{t.priorHalfLife > 0 && (
				<section aria-label={w.howLongItSlides}>
					<h3 className="m-0 text-base">{w.howLongItSlides}</h3>
					<p className="num m-0">
						{t.observations > 0
							? w.halfLifeLearned({ minutes: Math.round(t.halfLife * 10) / 10, n: t.observations, prior: t.priorHalfLife })
							: w.halfLifePrior({ minutes: t.priorHalfLife })}
					</p>
					{may("forget-learned") && t.observations > 0 && (
						<Button variant="quiet" className="px-0" onClick={() => forget.mutate("half-life")}>
							{w.forgetAndStartOver}
						</Button>
					)}
				</section>
			)}
			<section aria-label={w.weighedMeasures}>
				<h3 className="m-0 text-base">{w.weighedMeasures}</h3>
				{t.calibrations.length === 0 && <p className="m-0">{w.nothingWeighedYet}</p>}
				<ul className="num m-0 list-none p-0">
					{t.calibrations.map((c) => (
						<li key={c.measure}>
							{measureLine(c)} <span className="text-soft">{dayWords(c.day)}</span>
							{c.due && (
								<span className="font-semibold text-persimmon-deep">
									{" "}
									{c.closureChanged ? w.closureChangedWeighAgain({ day: dayWords(c.closureChanged) }) : w.weighAgain}
								</span>
							)}
						</li>
					))}
				</ul>
				{may("change-closure") && t.calibrations.some((c) => !c.closureChanged) && (
					<Button variant="quiet" className="px-0" onClick={() => closure.mutate()} disabled={closure.isPending}>
						{w.anotherClosureWasPutOn}
					</Button>
				)}
			</section>
			<ErrorMessage error={forget.error ?? closure.error} />
		</div>
	);
}

function measureLine(c: Schemas["CalibrationLine"]): string {
	if (c.measure === "drops") return w.dropsWeighed({ perML: Number(c.perML), error: c.errorPercent });
	const of = { each: Number(c.mlEach), error: c.errorPercent };
	return c.measure === "presses" ? w.pressesWeighed(of) : w.spatulasWeighed(of);
}

/** Planned against used, a row of dots a practitioner: on the line as planned, to its right more. */
function Dots({ taught: t, unit }: { taught: Taught; unit: string }) {
	const width = 340;
	const name = 96;
	const x = (ratio: number) => name + (width - name - 8) * Math.max(0, Math.min(1, (ratio - 0.4) / 1.2));
	const rows = t.own.filter((o) => t.uses.some((u) => u.practitioner === o.practitioner));
	const high = 26 * rows.length + 20;
	return (
		<figure className="m-0">
			<svg viewBox={`0 0 ${width} ${high}`} className="block w-full" role="img" aria-label={w.dotsOf({ count: t.uses.length })}>
				<line x1={x(1)} x2={x(1)} y1={0} y2={high - 16} stroke="var(--color-ink)" strokeWidth={1} />
				<text x={x(1)} y={high - 4} textAnchor="middle" fontSize={11} fill="var(--color-soft)">
					{w.asPlannedShort}
				</text>
				<text x={width - 4} y={high - 4} textAnchor="end" fontSize={11} fill="var(--color-soft)">
					{w.moreShort}
				</text>
				<text x={name} y={high - 4} fontSize={11} fill="var(--color-soft)">
					{w.lessShort}
				</text>
				{rows.map((o, i) => (
					<g key={o.practitioner}>
						<text x={0} y={26 * i + 17} fontSize={12} fill="var(--color-ink)">
							{o.name.split(" ")[0]}
						</text>
						{t.uses
							.filter((u) => u.practitioner === o.practitioner && Number(u.planned) > 0)
							.map((u, k) => {
								const measured = u.how !== "as planned";
								return (
									<circle
										// Records of one day have no other name here.
										key={`${u.day}-${k}`}
										cx={x(Number(u.used) / Number(u.planned))}
										cy={26 * i + 13 + ((k * 7) % 11) - 5}
										r={3.6}
										fill={measured ? "var(--color-kelp)" : "none"}
										stroke={u.asked ? "var(--color-persimmon)" : "var(--color-kelp)"}
										strokeWidth={1.2}
										opacity={0.85}
									>
										<title>{w.dotTitle({ day: dayWords(u.day), used: Number(u.used), planned: Number(u.planned), unit })}</title>
									</circle>
								);
							})}
						<path d={`M${x(Number(o.factor))} ${26 * i + 2}v22`} stroke="var(--color-persimmon)" strokeWidth={2.5} />
					</g>
				))}
			</svg>
			<figcaption className="text-xs text-soft">{w.dotsExplained}</figcaption>
		</figure>
	);
}
