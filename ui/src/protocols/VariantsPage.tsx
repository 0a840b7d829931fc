import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "@tanstack/react-router";
import { api, type Schemas, unwrap } from "../api/client";
import { libraryQuery, protocolQuery } from "../api/queries";
import { clock } from "../kit/format";
import { Loading, Page } from "../kit/kit";
import * as w from "../words/catalogue/protocols";
import { changeText, doseText } from "../words/sentences";

/** Every variant of a protocol in one table, step by step: what the base does, and what each skin changes. */
export function VariantsPage() {
	const { id } = useParams({ from: "/shell/protocols/$id/variants" });
	const opened = useQuery({ ...protocolQuery(id), refetchOnMount: "always" });
	const library = useQuery(libraryQuery);
	const protocol = opened.data?.protocol;
	const variants = useQuery({
		queryKey: ["variants", id, opened.dataUpdatedAt],
		queryFn: () => unwrap(api.POST("/api/variants", { body: { protocol: protocol! } })),
		enabled: Boolean(protocol) && !opened.isFetching,
	});
	if (!opened.data || opened.isFetching || !library.data || !variants.data)
		return <Loading of={w.theVariants} error={opened.error ?? library.error ?? variants.error} retry={() => variants.refetch()} />;
	const base = opened.data.evaluation;
	const names = { zone: (k: string) => library.data.zones.find((z) => z.key === k)?.name ?? k };
	return (
		<Page
			title={w.variantsOf({ protocol: opened.data.protocol.name })}
			action={
				<Link to="/protocols/$id" params={{ id }}>
					{w.backToProtocol}
				</Link>
			}
		>
			<p className="mt-0">{w.changeProtocolAppliesEveryVariantVariant}</p>
			{/* biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must be reached by keyboard */}
			<section aria-label={w.variantsStepByStep} tabIndex={0} className="overflow-x-auto">
				<table className="w-full border-collapse text-sm">
					<caption className="sr-only">{w.whatEachVariantChangesStepBy}</caption>
					<thead>
						<tr className="border-b-2 border-ink text-left align-bottom">
							<th scope="col" className="sticky left-0 min-w-56 bg-paper p-2 font-serif text-base">
								{w.baseSeconds({ seconds: clock(base.seconds) })}
							</th>
							{variants.data.map((v) => (
								<th key={v.variant.key} scope="col" className="min-w-40 p-2 font-serif text-base">
									{v.variant.name}
									<span className="num block text-xs font-normal text-soft">
										{v.refused
											? w.tooLittleIsLeft
											: w.secondsCountStepsChanged({ seconds: clock(v.evaluation.seconds), count: v.comparison.steps.length })}
									</span>
								</th>
							))}
						</tr>
					</thead>
					<tbody>
						{base.steps.map((s) => (
							<tr key={s.id} className="border-b border-rule align-top">
								<th scope="row" className="sticky left-0 bg-paper p-2 text-left font-normal">
									{s.name}
									<span className="num block text-xs text-soft">
										{w.dosePressurePressure({ dose: doseText(s.dose), pressure: s.pressure })}
									</span>
								</th>
								{variants.data.map((v) => (
									<td key={v.variant.key} className={`p-2 ${v.refused ? "opacity-50" : ""}`}>
										<Cell v={v} id={s.id} base={s} names={names} />
									</td>
								))}
							</tr>
						))}
					</tbody>
				</table>
			</section>
		</Page>
	);
}

function Cell({
	v,
	id,
	base,
	names,
}: {
	v: Schemas["VariationView"];
	id: string;
	base: Schemas["Resolved"];
	names: { zone: (k: string) => string };
}) {
	const changes = v.changes.filter((c) => c.step === id);
	const now = v.evaluation.steps.find((s) => s.id === id);
	const differs = v.comparison.steps.find((s) => s.step === id)?.fields ?? [];
	const use = v.protocol.steps.find((s) => s.id === id)?.use;
	const amount =
		differs.includes("use") && use && !changes.some((c) => c.did === "replaced") ? `${use.amount.value} ${use.amount.measure}` : "";
	const slower = differs.includes("parts") ? "slower" : "";
	const dose = now && now.dose.planned !== base.dose.planned ? doseText(now.dose) : "";
	if (changes.length === 0 && !dose && !amount && !slower) return <span className="text-soft">·</span>;
	return (
		<>
			{changes.map((c) => (
				<span key={`${c.did}${c.zone}${c.rule}`} className="block" title={c.why}>
					{changeText(c, { zone: names.zone, step: () => c.name }).replace(`${c.name}: `, "")}
				</span>
			))}
			{amount && <span className="num block">{amount}</span>}
			{slower && <span className="block">{slower}</span>}
			{dose && <span className="num block text-soft">{dose}</span>}
		</>
	);
}
