import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useEffect, useRef, useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { libraryQuery } from "../api/queries";
import { FaceMap } from "../face/FaceMap";
import { Badge, Button, ErrorMessage, Loading, Page } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/protocols";
import { intentWords, pressureWords } from "../words/client";
import { doseText, figureWords, profileWords, sideWords, skinRelationWords } from "../words/sentences";
import { FigureLegend } from "./FigureLegend";
import { StrokeRows } from "./StrokeRows";
import { useStrokeSearch } from "./workbench/LibraryPanel";
import { NewStroke } from "./workbench/NewStroke";
import { usePlayer } from "./workbench/usePlayer";

/** The library of strokes, each with its moving picture. */
export function StrokesPage() {
	const library = useQuery(libraryQuery);
	if (!library.data) return <Loading of={w.theStrokes} error={library.error} retry={() => library.refetch()} />;
	return <Strokes library={library.data} />;
}

function Strokes({ library }: { library: Schemas["LibraryView"] }) {
	const { may } = useSession();
	const edits = may("change-stroke");
	const { list, fields, zone } = useStrokeSearch(library);
	const [homeOnly, setHomeOnly] = useState(false);
	const [ownOnly, setOwnOnly] = useState(false);
	const [key, setKey] = useState(library.strokes[0]?.key);
	const [legend, setLegend] = useState(false);
	const scroller = useRef<HTMLDivElement>(null);
	const [editing, setEditing] = useState<Schemas["Stroke"] | null>(null);
	const cache = useQueryClient();
	const shownList = list.filter((s) => (!homeOnly || s.homeSafe) && (!ownOnly || library.own.includes(s.key)));
	const stroke = library.strokes.find((s) => s.key === key);
	const drop = useMutation({
		mutationFn: (k: string) => unwrap(api.DELETE("/api/strokes/{key}", { params: { path: { key: k } } })),
		onSuccess: () => cache.invalidateQueries({ queryKey: libraryQuery.queryKey }),
	});
	const facts: [string, string | undefined][] = stroke
		? [
				[w.intent, intentWords[stroke.intent]],
				[w.strokeFamily, `${stroke.family}${stroke.layer ? w.layerLayer({ layer: stroke.layer }) : ""}`],
				[
					w.figure,
					[(stroke.path ?? []).length > 0 && figureWords[library.figures[stroke.key] ?? ""], skinRelationWords[stroke.relation ?? ""]]
						.filter(Boolean)
						.join(", "),
				],
				[w.hand, stroke.tool ? (library.tools.find((t) => t.key === stroke.tool!.key)?.name ?? stroke.tool.key) : stroke.hand],
				[w.path, (stroke.path ?? []).map(zone).join(" → ") || w.offTheFace],
				[
					w.pressure,
					`${stroke.pressure} ${pressureWords[stroke.pressure]}${stroke.profile && stroke.profile !== "even" ? `, ${profileWords[stroke.profile]}` : ""}`,
				],
				[w.sides, sideWords[stroke.sides]],
				[
					w.repetitionsAndTiming,
					`${doseText(stroke.dose)}${stroke.dose.min || stroke.dose.max ? w.minToMax({ min: stroke.dose.min || stroke.dose.planned, max: stroke.dose.max || stroke.dose.planned }) : ""}`,
				],
				[w.slip, { any: "any", slide: w.enoughToSlide, stone: "plenty", knead: "some", grip: w.littleOrNone }[stroke.glide ?? "any"]],
				[w.howToFindIt, stroke.find],
				[w.signToLookFor, stroke.sign],
				[w.client, stroke.client],
				[w.howItIsDone, stroke.cue],
			]
		: [];
	return (
		<Page
			title={w.strokes}
			action={
				<span className="flex items-center gap-4">
					<Link to="/library/zones">{w.zonesAndLymphRoutes}</Link>
					<a href="/api/library/file" download>
						{w.libraryFile}
					</a>
				</span>
			}
		>
			<div className="grid gap-5 lg:grid-cols-[330px_minmax(0,1fr)_300px]" style={{ height: "calc(100vh - 260px)", minHeight: 520 }}>
				<div className="flex min-h-0 flex-col">
					{fields}
					<div className="my-1 flex gap-4 text-sm">
						<label className="flex min-h-11 items-center gap-2">
							<input
								type="checkbox"
								className="size-5 accent-persimmon"
								checked={homeOnly}
								onChange={(e) => setHomeOnly(e.target.checked)}
							/>{" "}
							{w.suitableForHomeCare}
						</label>
						<label className="flex min-h-11 items-center gap-2">
							<input type="checkbox" className="size-5 accent-persimmon" checked={ownOnly} onChange={(e) => setOwnOnly(e.target.checked)} />{" "}
							{w.studioStrokesCount({ count: library.own.length })}
						</label>
						<span className="num ml-auto self-center text-soft">{shownList.length}</span>
					</div>
					<div ref={scroller} className="min-h-0 flex-1 overflow-y-auto border-t border-rule">
						<StrokeRows
							strokes={shownList}
							scroller={scroller}
							chosen={key}
							about={(s) =>
								w.intentPressurePressureKey({
									intent: s.intent,
									pressure: s.pressure,
									key: library.own.includes(s.key) ? w.studioStroke : "",
								})
							}
							onChoose={(s) => setKey(s.key)}
						/>
					</div>
				</div>
				<div className="relative min-h-0">
					{stroke && <Moving key={stroke.key} stroke={stroke} library={library} />}
					<Button className="absolute right-0 bottom-0" aria-pressed={legend} onClick={() => setLegend(!legend)}>
						{w.legend}
					</Button>
				</div>
				{legend && <FigureLegend now={stroke ? library.figures[stroke.key] : undefined} />}
				{stroke && !legend && (
					<section aria-label={w.stroke} className="min-h-0 overflow-y-auto">
						<h2 className="m-0 text-2xl leading-tight">{stroke.name}</h2>
						<p className="mt-1 mb-2 flex gap-2">
							{stroke.homeSafe && <Badge tone="go">{w.suitableForHomeCare}</Badge>}
							{library.own.includes(stroke.key) && <Badge tone="plain">{w.studioStroke2}</Badge>}
						</p>
						{stroke.caution && <p className="mt-0 font-semibold text-persimmon-deep">{stroke.caution}</p>}
						<dl className="m-0 grid grid-cols-[72px_minmax(0,1fr)] gap-x-2 gap-y-1 text-sm">
							{facts
								.filter(([, v]) => v)
								.map(([k, v]) => (
									<div key={k} className="contents">
										<dt className="text-soft">{k}</dt>
										<dd className="m-0">{v}</dd>
									</div>
								))}
						</dl>
						{edits && (
							<div className="mt-4 flex flex-wrap gap-2">
								<Button onClick={() => setEditing(stroke)}>{library.own.includes(stroke.key) ? w.edit : w.copyAndEdit}</Button>
								{library.own.includes(stroke.key) && (
									<Button variant="quiet" onClick={() => drop.mutate(stroke.key)}>
										{w.remove}
									</Button>
								)}
							</div>
						)}
						<ErrorMessage error={drop.error} />
					</section>
				)}
			</div>
			{editing && (
				<NewStroke
					library={library}
					from={editing}
					onClose={() => setEditing(null)}
					onMade={(s) => {
						setEditing(null);
						setKey(s.key);
					}}
				/>
			)}
		</Page>
	);
}

/** A stroke worked over and over on the face, at true tempo, as the core resolves it. */
function Moving({ stroke, library }: { stroke: Schemas["Stroke"]; library: Schemas["LibraryView"] }) {
	const e = useQuery({
		queryKey: ["stroke-alone", stroke],
		queryFn: () =>
			unwrap(
				api.POST("/api/evaluate", {
					body: {
						protocol: {
							key: "alone",
							name: stroke.name,
							setting: "self",
							school: {},
							minutes: { sold: 30, handsOn: 30, reset: 0 },
							price: { amount: "0.00", currency: "EUR" },
							defaultDose: { kind: "reps", planned: 3 },
							steps: [{ id: "a", stroke: stroke.key, phase: "work" }],
						},
					},
				}),
			),
	});
	const player = usePlayer(e.data?.seconds ?? 0);
	const { seek, at, playing, toggle } = player;
	const calm = window.matchMedia("(prefers-reduced-motion: reduce)").matches;
	const total = e.data?.seconds ?? 0;
	useEffect(() => {
		if (total > 0 && !playing && !calm) {
			if (at >= total) seek(0);
			toggle();
		}
	}, [total, playing, at, calm, seek, toggle]);
	const step = e.data?.steps[0];
	return (
		<FaceMap
			zones={library.zones}
			view={step?.view ?? "front"}
			step={step}
			visit={e.data?.visits[0]}
			at={at}
			label={w.strokeOnTheFace({ stroke: stroke.name })}
		/>
	);
}
