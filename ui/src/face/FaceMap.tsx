import { type KeyboardEvent, memo, useId, useMemo, useRef, useState } from "react";
import type { Schemas } from "../api/client";
import { pressureWords } from "../words/en";
import { FaceArt } from "./FaceArt";
import { along, landmark, openCurve, outlines, ribbon, type Side, within, type XY, type Zone } from "./geometry";
import { intentLook } from "./intents";

type Resolved = Schemas["Resolved"];
type Visit = Schemas["Visit"];
export type Place = { zone: string; side?: string };

type Props = {
	zones: Zone[];
	/** The step whose path is drawn. */
	step?: Resolved | undefined;
	/** The visit being worked and the moment (seconds of the plan), for the moving hand. */
	visit?: Visit | undefined;
	at?: number | undefined;
	/** Places not to be worked. */
	avoid?: readonly Place[];
	/** Places marked by hand, with a function that marks or unmarks one. */
	marked?: readonly Place[];
	onMark?: (place: { zone: string; side: "left" | "right" | "both" }) => void;
	onPick?: (zone: string) => void;
	night?: boolean;
	/** As the practitioner sees it, from behind the head. */
	fromBehind?: boolean;
	label: string;
};

const nowhere: readonly Place[] = [];

const sidesOf = (sides: string): Side[] =>
	sides === "left" || sides === "first"
		? ["left"]
		: sides === "right" || sides === "second"
			? ["right"]
			: sides === "mid"
				? ["mid"]
				: ["left", "right"];

/** The face from the front, to scale, with its zones, the strokes of a step and the hands that move along them. */
export function FaceMap({
	zones,
	step,
	visit,
	at,
	avoid = nowhere,
	marked = nowhere,
	onMark,
	onPick,
	night = false,
	fromBehind = false,
	label,
}: Props) {
	const [pointed, setPointed] = useState<{ zone: Zone; side: Side } | null>(null);
	const [cursor, setCursor] = useState(0);
	const box = useRef<SVGSVGElement>(null);
	const hatch = useId();
	const front = useMemo(
		() => zones.filter((z) => (z.outline ?? []).length > 0).flatMap((zone) => outlines(zone).map((o) => ({ zone, ...o }))),
		[zones],
	);
	const byKey = useMemo(() => new Map(zones.map((z) => [z.key, z])), [zones]);
	const interactive = Boolean(onMark || onPick);

	const is = (list: readonly Place[], zone: Zone, side: Side) =>
		list.some((p) => p.zone === zone.key && (!zone.paired || side === "mid" || !p.side || p.side === "both" || p.side === side));

	function choose(i: number) {
		const f = front[i];
		if (!f) return;
		onPick?.(f.zone.key);
		onMark?.({ zone: f.zone.key, side: f.side === "mid" ? "both" : f.side });
	}

	// One stop of the tab key; the arrows walk from zone to zone by place.
	function walk(e: KeyboardEvent) {
		const dirs: Record<string, XY> = { ArrowUp: [0, -1], ArrowDown: [0, 1], ArrowLeft: [-1, 0], ArrowRight: [1, 0] };
		const dir = dirs[e.key];
		if (e.key === "Enter" || e.key === " ") {
			e.preventDefault();
			choose(cursor);
			return;
		}
		if (!dir) return;
		e.preventDefault();
		const turn = fromBehind ? -1 : 1;
		const here = front[cursor];
		if (!here) return;
		const [x, y] = centreOf(here.zone, here.side);
		let best = -1;
		let nearest = Number.POSITIVE_INFINITY;
		front.forEach((f, i) => {
			const [fx, fy] = centreOf(f.zone, f.side);
			const dx = (fx - x) * turn;
			const dy = (fy - y) * turn;
			const ahead = dx * dir[0] + dy * dir[1];
			const aside = Math.abs(dx * dir[1]) + Math.abs(dy * dir[0]);
			if (i !== cursor && ahead > 0.2 && ahead + 2 * aside < nearest) {
				nearest = ahead + 2 * aside;
				best = i;
			}
		});
		if (best >= 0) {
			setCursor(best);
			setPointed({ zone: front[best]!.zone, side: front[best]!.side });
		}
	}

	// Drawn anew only when something on it changes, not with every moment of the moving hand.
	const chosen = useRef(choose);
	chosen.current = choose;
	const ink = night ? "#f2b35c" : "#36182f";
	const zonesDrawn = useMemo(
		() =>
			front.map((f, i) => {
				const out = is(avoid, f.zone, f.side);
				const on = is(marked, f.zone, f.side);
				const lit = pointed?.zone === f.zone && pointed.side === f.side;
				return (
					<path
						key={`${f.zone.key}-${f.side}`}
						d={f.d}
						fill={out || on ? `url(#${hatch})` : lit ? ink : "transparent"}
						fillOpacity={out || on ? 1 : lit ? 0.16 : 0}
						stroke={ink}
						strokeWidth={lit ? 0.1 : 0.035}
						strokeOpacity={lit ? 0.9 : night ? 0.16 : 0.2}
						onPointerEnter={() => setPointed(f)}
						onClick={() => chosen.current(i)}
						style={{ cursor: interactive ? "pointer" : "default" }}
						data-zone={f.zone.key}
						data-side={f.side}
					>
						<title>{placeName(f.zone, f.side)}</title>
					</path>
				);
			}),
		[front, avoid, marked, pointed, interactive, night, hatch, ink],
	);

	const flip = fromBehind ? "rotate(180)" : undefined;
	return (
		<figure className="relative m-0 h-full min-h-0">
			<svg
				ref={box}
				viewBox="-19.5 -24.2 39 41.4"
				className="block h-full w-full"
				role={interactive ? "application" : "img"}
				aria-label={label}
				tabIndex={0}
				onKeyDown={walk}
				onBlur={() => setPointed(null)}
				onPointerLeave={() => setPointed(null)}
			>
				<defs>
					<pattern id={hatch} width={0.7} height={0.7} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
						<rect width={0.7} height={0.7} fill={night ? "#5a2418" : "#f3d3c4"} opacity={0.75} />
						<line x1={0} y1={0} x2={0} y2={0.7} stroke={night ? "#ff9a76" : "#a33213"} strokeWidth={0.28} />
					</pattern>
				</defs>
				<g transform={flip}>
					<g transform={fromBehind ? "translate(0 7)" : undefined}>
						<FaceArt night={night} />
						<g>{zonesDrawn}</g>
						{step && <StrokePicture step={step} byKey={byKey} night={night} upright={fromBehind} />}
						{step && visit && at !== undefined && <Hands step={step} visit={visit} at={at} byKey={byKey} night={night} />}
					</g>
				</g>
				<g fill={ink} fontSize={0.95} fontFamily="var(--font-sans)" opacity={0.75} aria-hidden="true">
					<text x={fromBehind ? -19.2 : 19.2} y={fromBehind ? 14 : 5.6} textAnchor={fromBehind ? "start" : "end"}>
						client’s left
					</text>
					<text x={fromBehind ? 19.2 : -19.2} y={fromBehind ? 14 : 5.6} textAnchor={fromBehind ? "end" : "start"}>
						client’s right
					</text>
				</g>
			</svg>
			<figcaption
				aria-live="polite"
				className={`pointer-events-none absolute bottom-0 left-0 rounded-sm px-2 py-0.5 text-sm ${pointed ? "" : "opacity-0"} ${night ? "bg-night text-amber" : "bg-ink text-paper"}`}
			>
				{pointed
					? `${placeName(pointed.zone, pointed.side)} · at most ${pointed.zone.ceiling} ${pressureWords[pointed.zone.ceiling]}${pointed.zone.absolute ? ", never more" : ""}`
					: ""}
			</figcaption>
		</figure>
	);
}

function centreOf(zone: Zone, side: Side): XY {
	if (zone.paired && side === "mid") return [0, -zone.centre.y - 1];
	return landmark(zone, side);
}

export function placeName(zone: Zone, side: Side): string {
	return zone.paired && side !== "mid" ? `${zone.name}, ${side}` : zone.name;
}

type Drawn = { side: Side; stops: XY[]; curve: XY[] };

function drawn(step: Resolved, byKey: Map<string, Zone>): Drawn[] {
	return sidesOf(step.sides).map((side) => {
		const stops = step.path.flatMap((p): XY[] => {
			const z = byKey.get(p.zone);
			return z ? [landmark(z, z.paired ? (side === "mid" ? "left" : side) : "mid")] : [];
		});
		return { side, stops, curve: openCurve(stops) };
	});
}

/** Ribbons along the step's path: direction by the head, pressure by width and number, intent by colour and pattern. */
const StrokePicture = memo(function StrokePicture({
	step,
	byKey,
	night,
	upright,
}: {
	step: Resolved;
	byKey: Map<string, Zone>;
	night: boolean;
	upright: boolean;
}) {
	const look = intentLook(step.intent);
	const colour = night ? look.night : look.colour;
	const paper = night ? "#17100f" : "#fffaf1";
	const width = (p: number) => 0.2 + 0.11 * p;
	return (
		<g pointerEvents="none">
			{drawn(step, byKey).map(({ side, stops, curve }) => (
				<g key={side}>
					{curve.length > 1 && (
						<>
							<path
								d={ribbon(
									curve,
									step.path.map((p) => width(p.pressure)),
								)}
								fill={colour}
								fillOpacity={0.9}
								stroke={paper}
								strokeWidth={0.06}
							/>
							<path
								d={`M${curve
									.slice(0, -5)
									.map((p) => `${p[0].toFixed(2)} ${p[1].toFixed(2)}`)
									.join("L")}`}
								fill="none"
								stroke={paper}
								strokeWidth={0.11}
								strokeDasharray={look.dash || undefined}
								strokeLinecap="round"
								opacity={0.9}
							/>
						</>
					)}
					{stops.map(([x, y], i) => {
						const p = step.path[i]!;
						const first = i === 0;
						if (stops.length > 1 && !first && p.pressure === step.path[i - 1]!.pressure) return null;
						const r = stops.length > 1 ? 0.52 : 0.62 + 0.12 * p.pressure;
						return (
							<g key={p.zone} transform={`translate(${x.toFixed(2)} ${y.toFixed(2)})${upright ? " rotate(180)" : ""}`}>
								{stops.length === 1 && (
									<circle r={r + 0.35} fill="none" stroke={colour} strokeWidth={0.14} strokeDasharray={look.dash || undefined} />
								)}
								<circle r={r} fill={paper} stroke={colour} strokeWidth={0.13} />
								<text textAnchor="middle" dy="0.34" fontSize={0.86} fontWeight={700} fill={night ? colour : "#36182f"}>
									{p.pressure}
								</text>
							</g>
						);
					})}
				</g>
			))}
		</g>
	);
});

/** The hands at a moment: a mark a side that travels the path at true tempo and grows while it holds. */
function Hands({ step, visit, at, byKey, night }: { step: Resolved; visit: Visit; at: number; byKey: Map<string, Zone>; night: boolean }) {
	const pass = visit.passes.find((p) => at >= p.start && at < p.start + p.seconds);
	if (!pass || step.path.length === 0) return null;
	const local = at - pass.start;
	const { part, pulse } = within(step.parts, local);
	const colour = night ? "#ffe2b0" : "#c8411b";
	return (
		<g pointerEvents="none">
			{drawn(step, byKey)
				.filter((d) => pass.side === "both" || pass.side === "mid" || d.side === pass.side)
				.map((d) => {
					const [x, y] = along(d.curve.length > 1 ? d.curve : d.stops, part);
					return (
						<g key={d.side} transform={`translate(${x.toFixed(2)} ${y.toFixed(2)})`}>
							<ellipse
								rx={0.95 + 0.25 * pulse}
								ry={0.75 + 0.25 * pulse}
								fill={colour}
								fillOpacity={0.35}
								stroke={colour}
								strokeWidth={0.16}
							/>
							<circle r={0.22} fill={colour} />
						</g>
					);
				})}
		</g>
	);
}
