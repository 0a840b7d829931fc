import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { FaceMap } from "../face/FaceMap";
import type { XY } from "../face/geometry";
import { Button, Loading } from "../kit/kit";
import * as w from "../words/catalogue/link";
import { zoneClientWords } from "../words/client";

type Place = Schemas["ZoneSide"];
type Marked = { zone: string; side: "left" | "right" | "both" };

/** Marking on a phone: a first touch brings the place nearer, the next ones mark it by name. */
export function ClientMarking({ marked, onMark, label }: { marked: readonly Place[]; onMark: (p: Marked) => void; label: string }) {
	const [near, setNear] = useState<XY>();
	const found = useQuery({
		queryKey: ["link", "zones"],
		queryFn: () => unwrap(api.GET("/api/consultation/zones")),
		staleTime: Number.POSITIVE_INFINITY,
		select: (all) => all.map((z) => ({ ...z, name: zoneClientWords[z.key] ?? z.name })),
	});
	if (!found.data) return <Loading of={w.theFace} error={found.error} retry={() => found.refetch()} />;
	const zones = found.data;
	const name = (p: Place) => {
		const zone = zones.find((z) => z.key === p.zone);
		const side = zone?.paired && p.side && p.side !== "both" ? { left: w.yourLeft, right: w.yourRight }[p.side] : "";
		return [zone?.name ?? p.zone, side].filter(Boolean).join(", ");
	};
	return (
		<div>
			<p className="m-0 mb-1 text-sm">{near ? w.tapThePlaceItIsNamed : w.tapWhereItIs}</p>
			<div className="leaf h-[360px] p-2">
				<FaceMap zones={zones} marked={marked} forClient label={label} {...(near ? { near, onMark } : { onTouch: setNear })} />
			</div>
			{near && (
				<Button className="mt-2 min-h-12 w-full" onClick={() => setNear(undefined)}>
					{w.backToWholeFace}
				</Button>
			)}
			<ul className="m-0 mt-2 grid list-none gap-2 p-0" aria-live="polite" aria-label={w.markedPlaces}>
				{marked.map((p) => (
					<li key={`${p.zone}${p.side}`} className="flex items-center justify-between gap-3 rounded-sm bg-blush pl-3">
						<span className="font-semibold">{name(p)}</span>
						<Button
							variant="quiet"
							aria-label={w.unmark({ name: name(p) })}
							onClick={() => onMark({ zone: p.zone, side: (p.side || "both") as Marked["side"] })}
						>
							{w.takeAway}
						</Button>
					</li>
				))}
			</ul>
		</div>
	);
}
