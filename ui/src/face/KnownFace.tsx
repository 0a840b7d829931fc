import { useId } from "react";
import type { Schemas } from "../api/client";
import { FaceArt } from "./FaceArt";
import { outlines, seen, type Zone } from "./geometry";

type Place = Schemas["MarkedPlace"];

const strength: Record<string, number> = { mind: 1, cap: 2, "leave-out": 3 };

/** What to look out for on a small face: left out hatched, limited tinted, to be minded outlined. */
export function KnownFace({
	zones,
	places,
	label,
	className,
}: {
	zones: Zone[];
	places: readonly Place[];
	label: string;
	className: string;
}) {
	const hatch = useId();
	const kindAt = (zone: Zone, side: string) => {
		const here = places.filter(
			(p) => p.zone === zone.key && (!zone.paired || side === "mid" || !p.side || p.side === "both" || p.side === side),
		);
		return here.reduce<string>((worst, p) => ((strength[p.kind] ?? 0) > (strength[worst] ?? 0) ? p.kind : worst), "");
	};
	return (
		<svg viewBox="-8.6 -22.6 17.2 32" className={className} role="img" aria-label={label}>
			<title>{label}</title>
			<defs>
				<pattern id={hatch} width="0.7" height="0.7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
					<rect width="0.7" height="0.7" fill="#f2c9b8" />
					<rect width="0.28" height="0.7" fill="#a63614" />
				</pattern>
			</defs>
			<FaceArt view="front" />
			{zones
				.filter((z) => seen(z, "front"))
				.flatMap((z) =>
					outlines(z, "front").map((o) => {
						const kind = kindAt(z, o.side);
						if (!kind) return null;
						return (
							<path
								key={`${z.key}-${o.side}`}
								d={o.d}
								fill={kind === "leave-out" ? `url(#${hatch})` : kind === "cap" ? "#d98f6e" : "none"}
								fillOpacity={kind === "cap" ? 0.55 : 1}
								stroke="#a63614"
								strokeWidth={0.12}
								strokeDasharray={kind === "mind" ? "0.4 0.3" : undefined}
							/>
						);
					}),
				)}
		</svg>
	);
}
