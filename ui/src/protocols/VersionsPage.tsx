import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "@tanstack/react-router";
import { useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { libraryQuery, protocolQuery, versionsQuery } from "../api/queries";
import { TravelChart } from "../chart/TravelChart";
import { Choice } from "../kit/fields";
import { clock, dayWords } from "../kit/format";
import { Loading, Page } from "../kit/kit";
import * as w from "../words/catalogue/protocols";
import { fieldWords, stepChangeText } from "../words/sentences";

/** Two versions of a protocol, in words and on the travel chart. */
export function VersionsPage() {
	const { id } = useParams({ from: "/shell/protocols/$id/versions" });
	const opened = useQuery({ ...protocolQuery(id), refetchOnMount: "always" });
	const library = useQuery(libraryQuery);
	const versions = useQuery(versionsQuery(id));
	const [picked, setPicked] = useState<{ was?: number; now?: number }>({});
	const newest = versions.data?.[0]?.number ?? 0;
	const drafted = opened.data?.hasDraft ?? false;
	const was = picked.was ?? (drafted ? newest : Math.max(1, newest - 1));
	const now = picked.now ?? (drafted ? 0 : newest);
	const compared = useQuery({
		queryKey: ["comparison", id, was, now],
		queryFn: () => unwrap(api.GET("/api/protocols/{id}/comparison", { params: { path: { id }, query: { was, now } } })),
		enabled: Boolean(versions.data && newest > 0),
	});
	if (!opened.data || opened.isFetching || !library.data || !versions.data)
		return <Loading of={w.theVersions} error={opened.error ?? library.error ?? versions.error} retry={() => versions.refetch()} />;
	const options = {
		...(drafted ? { "0": w.yourDraft } : {}),
		...Object.fromEntries(
			versions.data.map((v) => [
				`${v.number}`,
				w.versionNumberPublishedAtBy({ number: v.number, publishedAt: dayWords(v.publishedAt.slice(0, 10)), by: v.by ? `, ${v.by}` : "" }),
			]),
		),
	};
	const c = compared.data?.comparison;
	const stroke = (k: string) => library.data.strokes.find((s) => s.key === k)?.name ?? k;
	return (
		<Page
			title={w.versionsOf({ protocol: opened.data.protocol.name })}
			action={
				<Link to="/protocols/$id" params={{ id }}>
					{w.backToProtocol}
				</Link>
			}
		>
			{newest === 0 ? (
				<p className="text-lg">{w.publishVersionFirstThenYouCan}</p>
			) : (
				<>
					<div className="mb-4 grid max-w-2xl grid-cols-2 gap-4">
						<Choice label={w.from} value={`${was}`} options={options} onChange={(v) => setPicked({ was: Number(v), now })} />
						<Choice label={w.to} value={`${now}`} options={options} onChange={(v) => setPicked({ was, now: Number(v) })} />
					</div>
					{c && (
						<section aria-label={w.differences} className="mb-4 max-w-3xl">
							{c.steps.length + c.fields.length === 0 && <p className="m-0 text-lg">{w.noDifferences}</p>}
							<ul className="m-0 list-none p-0">
								{c.fields.map((f) => (
									<li key={f} className="border-b border-rule py-1.5">
										{w.changedFieldWords({ fieldWords: fieldWords[f] ?? f })}
									</li>
								))}
								{c.steps.map((s) => (
									<li key={s.step} className="border-b border-rule py-1.5">
										<span
											className={`mr-2 inline-block w-5 text-center font-bold ${s.change === "added" ? "text-kelp" : s.change === "removed" ? "text-persimmon-deep" : "text-slate"}`}
										>
											{{ added: "+", removed: "−", moved: "↕", altered: "≠" }[s.change]}
										</span>
										{stepChangeText(s, stroke(s.stroke))}
									</li>
								))}
							</ul>
						</section>
					)}
					{compared.data && (
						<>
							<Charted
								title={options[`${was}` as "0"] ?? ""}
								protocol={compared.data.was}
								marked={changed(compared.data.comparison, "was")}
							/>
							<Charted
								title={options[`${now}` as "0"] ?? ""}
								protocol={compared.data.now}
								marked={changed(compared.data.comparison, "now")}
							/>
						</>
					)}
				</>
			)}
		</Page>
	);
}

function changed(c: Schemas["Comparison"], side: "was" | "now"): string[] {
	return c.steps.filter((s) => (side === "was" ? s.change !== "added" : s.change !== "removed")).map((s) => s.step);
}

function Charted({ title, protocol, marked }: { title: string; protocol: Schemas["Protocol"]; marked: string[] }) {
	const [at, setAt] = useState(0);
	const e = useQuery({ queryKey: ["evaluated", protocol], queryFn: () => unwrap(api.POST("/api/evaluate", { body: { protocol } })) });
	if (!e.data) return null;
	return (
		<section aria-label={title} className="mb-2">
			<h2 className="num m-0 text-lg">
				{title} <span className="font-sans text-sm font-normal text-soft">{clock(e.data.seconds)}</span>
			</h2>
			<TravelChart evaluation={e.data} at={at} marked={marked} onSeek={(t) => setAt(t)} height={170} tracks={false} />
		</section>
	);
}
