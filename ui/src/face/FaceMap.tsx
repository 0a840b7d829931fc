import { type KeyboardEvent, memo, useId, useMemo, useRef, useState } from "react";
import type { Schemas } from "../api/client";
import * as w from "../words/catalogue/face";
import { pressureWords } from "../words/client";
import { drawingOf, FaceArt, type View } from "./FaceArt";
import { landmark, openCurve, outlines, type Side, seen, type XY, type Zone } from "./geometry";
import { StepDrawing } from "./StepDrawing";
import { useDrawing } from "./useDrawing";

type Resolved = Schemas["Resolved"];
type Visit = Schemas["Occurrence"];
export type Place = { zone: string; side?: string };

type Props = {
	zones: Zone[];
	view?: View;
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
	/** A zone was picked; drawn when the pointer came to it pressed down. */
	onPick?: (zone: string, drawn: boolean) => void;
	/** Zones picked so far, in order. */
	picked?: readonly string[];
	/** The lymph routes, with the node groups that are open now. */
	routes?: Schemas["Route"][] | undefined;
	open?: readonly string[];
	/** How much work each zone gets. */
	loads?: Schemas["Load"][] | undefined;
	night?: boolean;
	/** Only the still picture: asked for, or because the system asks for less motion. */
	still?: boolean;
	/** As the practitioner sees it, from behind the head; of the front only. */
	fromBehind?: boolean;
	/** Read by the client: left and right are their own. */
	forClient?: boolean;
	/** Shown small: the sides are named above it, since letters on it could not be read. */
	small?: boolean;
	/** Only what lies round a place, from nearer; instead of choosing a zone, a touch says where. */
	near?: XY | undefined;
	onTouch?: ((at: XY) => void) | undefined;
	label: string;
};

const nowhere: readonly Place[] = [];
/** How many centimetres of the face are seen from nearer. */
const nearBy = 8.5;
const none: readonly string[] = [];

const lessMotion = () => window.matchMedia?.("(prefers-reduced-motion: reduce)").matches ?? false;

/** Head, neck and shoulders to scale, with zones, the strokes of a step and the hands that move along them. */
export function FaceMap({
	zones,
	view = "front",
	step,
	visit,
	at,
	avoid = nowhere,
	marked = nowhere,
	onMark,
	onPick,
	picked = none,
	routes,
	open = none,
	loads,
	night = false,
	still = lessMotion(),
	fromBehind = false,
	forClient = false,
	small = false,
	near,
	onTouch,
	label,
}: Props) {
	const [pointed, setPointed] = useState<{ zone: Zone; side: Side } | null>(null);
	const [cursor, setCursor] = useState(0);
	const hatch = useId();
	const shown = useMemo(
		() => zones.filter((z) => seen(z, view)).flatMap((zone) => outlines(zone, view).map((o) => ({ zone, ...o }))),
		[zones, view],
	);
	const byKey = useMemo(() => new Map(zones.map((z) => [z.key, z])), [zones]);
	const heat = useMemo(() => {
		if (!loads) return null;
		const most = Math.max(...loads.map((l) => l.load), 0.01);
		return new Map(loads.map((l) => [`${l.zone} ${l.side}`, l.load / most]));
	}, [loads]);
	const interactive = Boolean(onMark || onPick);
	const drawing = useDrawing(step, view);
	const pass = visit && at !== undefined ? visit.passes.find((p) => at >= p.start && at < p.start + p.seconds) : undefined;
	const turned = fromBehind && view === "front";
	const here = Math.min(cursor, shown.length - 1);

	const is = (list: readonly Place[], zone: Zone, side: Side) =>
		list.some((p) => p.zone === zone.key && (!zone.paired || side === "mid" || !p.side || p.side === "both" || p.side === side));

	function choose(i: number, drawn = false) {
		const f = shown[i];
		if (!f) return;
		onPick?.(f.zone.key, drawn);
		if (!drawn) onMark?.({ zone: f.zone.key, side: f.side === "mid" ? "both" : f.side });
	}

	// One stop of the tab key; the arrows walk from zone to zone by place.
	function walk(e: KeyboardEvent) {
		const dirs: Record<string, XY> = { ArrowUp: [0, -1], ArrowDown: [0, 1], ArrowLeft: [-1, 0], ArrowRight: [1, 0] };
		const dir = dirs[e.key];
		if ((e.key === "Enter" || e.key === " ") && interactive) {
			e.preventDefault();
			choose(here);
			return;
		}
		if (!dir) return;
		e.preventDefault();
		e.stopPropagation();
		const turn = turned ? -1 : 1;
		const from = shown[here];
		if (!from) return;
		const [x, y] = centreOf(from.zone, from.side, view);
		let best = -1;
		let nearest = Number.POSITIVE_INFINITY;
		shown.forEach((f, i) => {
			const [fx, fy] = centreOf(f.zone, f.side, view);
			const dx = (fx - x) * turn;
			const dy = (fy - y) * turn;
			const ahead = dx * dir[0] + dy * dir[1];
			const aside = Math.abs(dx * dir[1]) + Math.abs(dy * dir[0]);
			if (i !== here && ahead > 0.2 && ahead + 2 * aside < nearest) {
				nearest = ahead + 2 * aside;
				best = i;
			}
		});
		if (best >= 0) {
			setCursor(best);
			setPointed({ zone: shown[best]!.zone, side: shown[best]!.side });
		}
	}

	// Drawn anew only when something on it changes, not with every moment of the moving hand.
	const chosen = useRef(choose);
	chosen.current = choose;
	const ink = night ? "#f2b35c" : "#36182f";
	const zonesDrawn = useMemo(
		() =>
			shown.map((f, i) => {
				const out = is(avoid, f.zone, f.side);
				const on = is(marked, f.zone, f.side);
				const lit = pointed?.zone === f.zone && pointed.side === f.side;
				const nth = picked.indexOf(f.zone.key);
				const warm = heat?.get(`${f.zone.key} ${f.side}`) ?? 0;
				return (
					<path
						key={`${f.zone.key}-${f.side}`}
						d={f.d}
						fill={out || on ? `url(#${hatch})` : lit || nth >= 0 ? ink : warm > 0 ? "#b8421c" : "transparent"}
						fillOpacity={out || on ? 1 : nth >= 0 ? 0.28 : lit ? 0.16 : 0.08 + 0.62 * warm}
						stroke={ink}
						strokeWidth={lit ? 0.1 : 0.035}
						strokeOpacity={lit ? 0.9 : night ? 0.16 : view === "mouth" ? 0.5 : 0.2}
						onPointerEnter={(e) => {
							setPointed(f);
							if (e.buttons === 1) chosen.current(i, true);
						}}
						onPointerDown={(e) => e.currentTarget.releasePointerCapture?.(e.pointerId)}
						onClick={() => chosen.current(i)}
						style={{ cursor: interactive ? "pointer" : "default" }}
						data-zone={f.zone.key}
						data-side={f.side}
					>
						<title>{placeName(f.zone, f.side)}</title>
					</path>
				);
			}),
		[shown, avoid, marked, picked, pointed, interactive, night, hatch, ink, heat, view],
	);

	const box = useMemo(() => {
		const whole = drawingOf(view).box;
		if (near) return [near[0] - nearBy / 2, near[1] - nearBy / 2, nearBy, nearBy];
		const zonesOf = step && !onPick && !onMark && !routes ? step.path.map((p) => byKey.get(p.zone)) : [];
		// Work on the face alone is looked at from nearer.
		const close =
			view !== "mouth" &&
			view !== "back" &&
			zonesOf.length > 0 &&
			zonesOf.every((z) => z && z.centre.y > -1 && z.centre.y < 18 && (view === "front" || z.centre.z > -11));
		const left = { front: -10.9, left: -5.2, right: -16.6 }[view as "front"];
		if (close) return [left, turned ? -9 : -21.2, 21.8, 23.2];
		return (zonesOf.length > 0 && drawing && closer(drawing.near, whole[2]!, turned)) || whole;
	}, [view, step, byKey, onPick, onMark, routes, turned, near, drawing]);
	const [left, right] = namesOf(view, turned, forClient ? "your" : "client’s");
	return (
		<figure className="relative m-0 h-full min-h-0">
			<svg
				viewBox={box.join(" ")}
				className="block h-full w-full touch-none select-none"
				role={interactive ? "application" : "img"}
				aria-label={label}
				tabIndex={0}
				onKeyDown={walk}
				onBlur={() => setPointed(null)}
				onPointerLeave={() => setPointed(null)}
				onClick={
					onTouch &&
					((e) => {
						const svg = e.currentTarget;
						const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(svg.getScreenCTM()?.inverse());
						onTouch([p.x, p.y]);
					})
				}
				data-view={view}
			>
				<defs>
					<pattern id={hatch} width={0.7} height={0.7} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
						<rect width={0.7} height={0.7} fill={night ? "#5a2418" : "#f3d3c4"} opacity={0.75} />
						<line x1={0} y1={0} x2={0} y2={0.7} stroke={night ? "#ff9a76" : "#a33213"} strokeWidth={0.28} />
					</pattern>
				</defs>
				<g transform={turned ? "rotate(180)" : undefined}>
					<g transform={turned ? "translate(0 7)" : undefined}>
						<FaceArt view={view} night={night} />
						<g>{zonesDrawn}</g>
						{routes && <Routes routes={routes} open={open} byKey={byKey} view={view} night={night} />}
						{picked.length > 0 && <Picked picked={picked} byKey={byKey} view={view} />}
						{step && drawing && (
							<StepDrawing
								drawing={drawing}
								intent={step.intent}
								figure={step.figure}
								night={night}
								upright={turned}
								pass={still ? undefined : pass}
								local={pass && at !== undefined ? at - pass.start : undefined}
							/>
						)}
					</g>
				</g>
				{/* In the room large letters at the screen's edge say the side. */}
				{!night && !small && (
					<g fill={ink} fontSize={box[2]! * 0.031} fontFamily="var(--font-sans)" fillOpacity={0.8} aria-hidden="true">
						<text x={box[0]! + box[2]! - 0.3 * (box[2]! / 39)} y={box[1]! + box[3]! * (turned ? 0.92 : 0.73)} textAnchor="end">
							{right}
						</text>
						<text x={box[0]! + 0.3 * (box[2]! / 39)} y={box[1]! + box[3]! * (turned ? 0.92 : 0.73)}>
							{left}
						</text>
					</g>
				)}
			</svg>
			{small && (
				<div className="pointer-events-none absolute inset-x-0 top-0 flex justify-between text-xs text-soft" aria-hidden="true">
					<span>{left}</span>
					<span>{right}</span>
				</div>
			)}
			<figcaption
				aria-live="polite"
				className={`pointer-events-none absolute bottom-0 left-0 rounded-sm px-2 py-0.5 text-sm ${pointed ? "" : "opacity-0"} ${night ? "bg-night text-amber" : "bg-ink text-paper"}`}
			>
				{pointed
					? `${placeName(pointed.zone, pointed.side)}${onMark ? "" : w.pressureLimitCeilingPressureWordsAbsolute({ ceiling: pointed.zone.ceiling, pressureWords: pressureWords[pointed.zone.ceiling], absolute: pointed.zone.absolute ? w.withoutException : "" })}`
					: ""}
			</figcaption>
		</figure>
	);
}

/** How many centimetres a picture of neck, chest or back shows at least. */
const leastSeen = 24;

/** The square round a drawing that is worth looking at from nearer; in a turned picture where it stands on its head. */
function closer([x, y, size]: readonly number[], whole: number, turned: boolean): number[] | undefined {
	const seen = Math.max(size!, leastSeen);
	if (seen > whole * 0.8) return undefined;
	const left = x! + (size! - seen) / 2;
	const top = y! + (size! - seen) / 2;
	return turned ? [-left - seen, -top - 7 - seen, seen, seen] : [left, top, seen, seen];
}

/** The words at the left and right edge of a view. */
function namesOf(view: View, turned: boolean, whose: "client’s" | "your"): [string, string] {
	switch (view) {
		case "left":
			return [w.whoseLeftSide({ whose }), ""];
		case "right":
			return ["", w.whoseRightSide({ whose })];
		case "back":
			return [w.whoseLeft({ whose }), w.whoseRight({ whose })];
	}
	const [left, right] = [w.whoseLeft({ whose }), w.whoseRight({ whose })];
	return turned ? [left, right] : [right, left];
}

function centreOf(zone: Zone, side: Side, view: View): XY {
	if (view === "front" && zone.paired && side === "mid") return [0, -zone.centre.y - 1];
	return landmark(zone, side, view);
}

export function placeName(zone: Zone, side: Side): string {
	return zone.paired && side !== "mid" ? `${zone.name}, ${side}` : zone.name;
}

/** Zones picked one after the other, numbered. */
function Picked({ picked, byKey, view }: { picked: readonly string[]; byKey: Map<string, Zone>; view: View }) {
	const stops = picked.flatMap((k, n) => {
		const z = byKey.get(k);
		return z && seen(z, view) ? [{ n, at: landmark(z, z.paired ? (view === "right" ? "right" : "left") : "mid", view) }] : [];
	});
	return (
		<g pointerEvents="none">
			{stops.length > 1 && (
				<path
					d={`M${openCurve(stops.map((s) => s.at))
						.map((p) => `${p[0].toFixed(2)} ${p[1].toFixed(2)}`)
						.join("L")}`}
					fill="none"
					stroke="#c8411b"
					strokeWidth={0.3}
					strokeDasharray="0.6 0.4"
				/>
			)}
			{stops.map((s) => (
				<g key={s.n} transform={`translate(${s.at[0]} ${s.at[1]})`}>
					<circle r={0.62} fill="#c8411b" />
					<text textAnchor="middle" dy="0.32" fontSize={0.85} fontWeight={700} fill="#fffaf1">
						{s.n + 1}
					</text>
				</g>
			))}
		</g>
	);
}

/** The lymph routes as thin arrows, node groups as lozenges: filled when open. */
const Routes = memo(function Routes({
	routes,
	open,
	byKey,
	view,
	night,
}: {
	routes: Schemas["Route"][];
	open: readonly string[];
	byKey: Map<string, Zone>;
	view: View;
	night: boolean;
}) {
	const colour = night ? "#9ccfb6" : "#2f6d73";
	const sides: Side[] = view === "left" ? ["left"] : view === "right" ? ["right"] : ["left", "right"];
	return (
		<g pointerEvents="none">
			{sides.flatMap((side) =>
				routes.map((r) => {
					const a = byKey.get(r.from);
					const b = byKey.get(r.to);
					if (!a || !b || !seen(a, view) || !seen(b, view)) return null;
					const [x1, y1] = landmark(a, a.paired ? side : "mid", view);
					const [x2, y2] = landmark(b, b.paired ? side : "mid", view);
					const l = Math.hypot(x2 - x1, y2 - y1) || 1;
					const [ux, uy] = [(x2 - x1) / l, (y2 - y1) / l];
					const [tx, ty] = [x2 - ux * 0.7, y2 - uy * 0.7];
					return (
						<g key={`${side}${r.from}${r.to}`} fillOpacity={r.practice ? 0.4 : 0.8} strokeOpacity={r.practice ? 0.4 : 0.8}>
							<line
								x1={x1}
								y1={y1}
								x2={tx}
								y2={ty}
								stroke={colour}
								strokeWidth={0.09}
								strokeDasharray={r.practice ? "0.3 0.25" : undefined}
							/>
							<path
								d={`M${tx} ${ty}L${tx - ux * 0.5 - uy * 0.22} ${ty - uy * 0.5 + ux * 0.22}L${tx - ux * 0.5 + uy * 0.22} ${ty - uy * 0.5 - ux * 0.22}Z`}
								fill={colour}
							/>
						</g>
					);
				}),
			)}
			{sides.flatMap((side) =>
				[...byKey.values()]
					.filter((z) => z.node && seen(z, view))
					.map((z) => {
						const [x, y] = landmark(z, z.paired ? side : "mid", view);
						const isOpen = open.includes(z.node!);
						return (
							<path
								key={`${side}${z.key}`}
								d={`M${x} ${y - 0.75}L${x + 0.75} ${y}L${x} ${y + 0.75}L${x - 0.75} ${y}Z`}
								fill={isOpen ? "#3d5a3b" : night ? "#17100f" : "#fffaf1"}
								stroke="#3d5a3b"
								strokeWidth={0.16}
							/>
						);
					}),
			)}
		</g>
	);
});
