import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useMemo, useState } from "react";
import { libraryQuery } from "../api/queries";
import type { View } from "../face/FaceArt";
import { FaceMap } from "../face/FaceMap";
import { Choice } from "../kit/fields";
import { Button, Loading, Page } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/protocols";
import { pressureWords } from "../words/client";
import { nodeWords } from "../words/sentences";
import { OwnZoneButtons, OwnZoneDialog } from "./OwnZone";

const views: Record<View, string> = { front: "front", left: "left", right: "right", back: "back", mouth: w.insideTheMouth };

/** The zones of the body: what lies there, how much pressure it bears, and where its lymph goes. */
export function ZonesPage() {
	const library = useQuery(libraryQuery);
	const [key, setKey] = useState("cheekbone");
	const [view, setView] = useState<View>("front");
	const { may } = useSession();
	const [editing, setEditing] = useState<"new" | "this">();
	const picked = useMemo(() => [key], [key]);
	if (!library.data) return <Loading of={w.theZones} error={library.error} retry={() => library.refetch()} />;
	const { zones, routes, strokes, ownZones } = library.data;
	const own = ownZones.find((x) => x.key === key);
	const z = zones.find((x) => x.key === key);
	const name = (k: string) => zones.find((x) => x.key === k)?.name ?? k;
	const to = routes.filter((r) => r.from === key);
	const from = routes.filter((r) => r.to === key && !r.practice);
	const used = strokes.filter((s) => (s.path ?? []).includes(key));
	return (
		<Page title={w.zones} action={<Link to="/library">{w.strokes}</Link>}>
			<div className="grid gap-5 lg:grid-cols-[230px_minmax(0,1fr)_330px]" style={{ height: "calc(100vh - 260px)", minHeight: 520 }}>
				<div className="flex min-h-0 flex-col gap-2">
					<Choice label={w.seenFrom} value={view} options={views} onChange={setView} />
					<ul className="m-0 min-h-0 flex-1 list-none overflow-y-auto border-t border-rule p-0">
						{zones.map((x) => (
							<li key={x.key} ref={x.key === key ? (li) => li?.scrollIntoView({ block: "nearest" }) : undefined}>
								<button
									type="button"
									aria-pressed={x.key === key}
									onClick={() => setKey(x.key)}
									className={`flex min-h-11 w-full items-center justify-between border-b border-rule px-2 text-left ${x.key === key ? "bg-blush" : "hover:bg-leaf"}`}
								>
									{x.name}
									<span className="num text-sm text-soft">{x.ceiling}</span>
								</button>
							</li>
						))}
					</ul>
					{may("add-zone") && <Button onClick={() => setEditing("new")}>{w.addZone}</Button>}
				</div>
				<div className="min-h-0">
					<FaceMap zones={zones} view={view} routes={routes} picked={picked} onPick={(k) => setKey(k)} label={w.zonesAndLymphRoutes} />
				</div>
				{z && (
					<section aria-label={w.zone} className="min-h-0 overflow-y-auto">
						<h2 className="m-0 text-2xl">{z.name}</h2>
						<p className="mt-1 mb-2 text-sm text-soft">
							{z.paired && z.midline ? w.midlineAndBothSides : z.paired ? w.leftAndRight : w.midline}, {z.region}
						</p>
						{own && may("change-zone") && (
							<OwnZoneButtons zone={own} onEdit={() => setEditing("this")} onDropped={() => setKey("cheekbone")} />
						)}
						{z.note && <p className="mt-0">{z.note[0]!.toUpperCase() + z.note.slice(1)}.</p>}
						<p className="m-0">
							<span className="num font-serif text-3xl font-semibold">{z.ceiling}</span>{" "}
							{w.pressureWordsAtMostForSlidingOr({
								pressureWords: pressureWords[z.ceiling],
								absolute: z.absolute ? w.whateverTheReason : "",
							})}
						</p>
						{z.stillCeiling > z.ceiling && <p className="m-0">{w.stillCeilingForStillPressOrAnchored({ stillCeiling: z.stillCeiling })}</p>}
						{z.delicate && <p className="m-0 font-semibold text-persimmon-deep">{w.delicateDraggingHarms}</p>}
						{z.node && <p className="mt-2 mb-0">{w.nodesHereNodeWords({ nodeWords: nodeWords[z.node] })}</p>}
						<h3 className="mt-4 mb-1 text-lg">{w.itsLymphGoesTo}</h3>
						{z.drainsTo && <p className="m-0">{nodeWords[z.drainsTo]}</p>}
						{to.length === 0 && !z.drainsTo && (
							<p className="m-0">
								{own ? w.noGroupKnown : z.node === "terminus" || z.node === "axillary" ? w.theRouteEndsHere : w.notWorkedNoRouteLeadsHere}
							</p>
						)}
						<ul className="m-0 list-none p-0">
							{to.map((r) => (
								<li key={r.to}>
									<button type="button" className="min-h-9 underline underline-offset-4" onClick={() => setKey(r.to)}>
										{name(r.to)}
									</button>
									{r.practice && <span className="text-sm text-soft"> {w.asMassageFollowsIt}</span>}
								</li>
							))}
						</ul>
						{from.length > 0 && (
							<>
								<h3 className="mt-3 mb-1 text-lg">{w.itGathersFrom}</h3>
								<p className="m-0 text-sm">{from.map((r) => name(r.from)).join(", ")}</p>
							</>
						)}
						<h3 className="mt-3 mb-1 text-lg">{w.workedByCountStrokes({ count: used.length })}</h3>
						<p className="m-0 text-sm">{used.map((s) => s.name).join(", ")}</p>
						<p className="mt-3 text-xs text-soft">{w.pressureLimitsCommonPracticeRoutesStandard}</p>
					</section>
				)}
			</div>
			{editing && (
				<OwnZoneDialog
					key={editing}
					{...(editing === "this" && own ? { from: own } : {})}
					onClose={() => setEditing(undefined)}
					onSaved={(k) => {
						setKey(k);
						setEditing(undefined);
					}}
				/>
			)}
		</Page>
	);
}
