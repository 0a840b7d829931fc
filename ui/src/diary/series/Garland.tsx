import { type KeyboardEvent, useEffect, useRef, useState } from "react";
import type { Schemas } from "../../api/client";
import { useSession } from "../../kit/session";
import * as w from "../../words/catalogue/series";
import { type Bead, type Item, picture, reach } from "./garland";
import { dayOf, type Offered, shortDay, timeOf } from "./say";
import { useDrag } from "./useDrag";

type Props = {
	visits: readonly Offered[];
	items: readonly Item[];
	ground: Schemas["SeriesGround"];
	/** Names of the practitioners in the studio's order, and the letters they are known by. */
	people: readonly { name: string; mark: string }[];
	/** From when to when the studio is open, in minutes of the day. */
	open: readonly [number, number];
	others?: readonly (readonly Offered[])[];
	focus: number;
	onFocus: (n: number) => void;
	/** Where a bead is put that is being moved, and where else it could be. */
	ghost?: Offered | undefined;
	times?: readonly Offered[];
	onMove?: ((n: number) => void) | undefined;
	/** A bead was dragged to a time. */
	onDrag?: ((t: Offered) => void) | undefined;
	/** A key that the page understands while a bead has the focus; true where it was taken. */
	onKey?: (e: KeyboardEvent) => boolean;
	size?: "small" | "tall";
	/** Treatments that were given: their beads are filled. */
	given?: ReadonlySet<number>;
};

/** The edge of a bead by practitioner: a pattern, never a colour alone. */
const edges = ["none", "5 2.5", "1.5 2.5", "9 2 2 2", "3 5"];

/** How wide an element is. */
function useWidth(least: number) {
	const on = useRef<HTMLDivElement>(null);
	const [width, setWidth] = useState(900);
	useEffect(() => {
		const el = on.current;
		if (!el) return;
		const seen = new ResizeObserver(([e]) => e && setWidth(Math.max(least, e.contentRect.width)));
		seen.observe(el);
		return () => seen.disconnect();
	}, [least]);
	return [on, width] as const;
}

/**
 * A series through the months: one line sags from bead to bead, deeper where the gap is longer, with the band that the
 * rhythm allows as its shadow. A bead's height is the hour of the day, its size the minutes, its edge the practitioner.
 */
export function Garland(p: Props) {
	const { at, now } = useSession();
	const [on, width] = useWidth(560);
	const today = at.day(now());
	const days = p.others?.flat().map((v) => dayOf(v.wall)) ?? [];
	const edge = [p.ground.event ?? "", p.ghost ? dayOf(p.ghost.wall) : "", ...days];
	const from = [...p.visits.map((v) => dayOf(v.wall)), today].sort()[0] === today ? [today] : [];
	const shown = reach(p.visits, [...edge, ...from]);
	const who = p.people.map((x) => x.name);
	const drawn = (visits: readonly Offered[]) => picture(visits, p.items, shown, width, p.open, who, p.size);
	const pic = drawn(p.visits);
	const others = (p.others ?? []).filter((o) => o.length > 0);
	const height = pic.floor + 40 + others.length * 26;
	const beadRefs = useRef<Record<number, SVGGElement | null>>({});
	const strung = pic.beads.filter((b) => b.visit.kind === "treatment");
	const key = (e: KeyboardEvent<SVGGElement>, n: number) => {
		if (p.onKey?.(e)) {
			e.preventDefault();
			return;
		}
		const step = { ArrowRight: 1, ArrowLeft: -1 }[e.key];
		const to = e.key === "Home" ? 1 : e.key === "End" ? strung.length : step ? n + step : 0;
		if (to >= 1 && to <= strung.length) {
			e.preventDefault();
			p.onFocus(to);
			beadRefs.current[to]?.focus();
		} else if (e.key.toLowerCase() === "m" && p.onMove) {
			e.preventDefault();
			p.onMove(n);
		}
	};
	const drag = useDrag({
		times: p.times,
		at: (t) => [pic.x(dayOf(t.wall)), heightOf(t, pic, p)],
		onMove: p.onMove,
		onDrag: p.onDrag,
	});
	const ghost = p.ghost && drawn([p.ghost]).beads[0];
	return (
		<div ref={on} className="min-w-0">
			{/* biome-ignore lint/a11y/useSemanticElements: a picture cannot be a fieldset */}
			<svg
				width={width}
				height={height}
				viewBox={`0 0 ${width} ${height}`}
				role="group"
				aria-label={w.garland}
				className={`block max-w-full ${p.onDrag ? "touch-none select-none" : ""}`}
				{...drag.picture}
			>
				<title>{w.garland}</title>
				<defs>
					<pattern id="hatch" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
						<line x1="0" y1="0" x2="0" y2="6" stroke="#6b5263" strokeWidth="1.2" />
					</pattern>
				</defs>
				{pic.hours.map((h) => (
					<g key={h.text}>
						<line x1={58} x2={width - 8} y1={h.y} y2={h.y} stroke="#d9cbb4" strokeWidth="1" strokeDasharray="1 5" />
						<text x={50} y={h.y + 4} textAnchor="end" fontSize="12" fill="#6b5263" className="num">
							{h.text}
						</text>
					</g>
				))}
				<Ground pic={pic} ground={p.ground} width={width} today={today} />
				{pic.sags.map((s) => (
					<path key={s.n} d={s.band} fill="#dcc9a6" />
				))}
				{pic.sags.map((s) => (
					<path key={s.n} d={s.path} fill="none" stroke={s.tight || s.loose ? "#c8411b" : "#36182f"} strokeWidth="2" />
				))}
				{p.times?.map((t) => (
					<line
						key={`${t.wall}${t.practitioner}`}
						x1={pic.x(dayOf(t.wall)) - 3}
						x2={pic.x(dayOf(t.wall)) + 3}
						y1={heightOf(t, pic, p)}
						y2={heightOf(t, pic, p)}
						stroke="#3d5a3b"
						strokeWidth="2"
					/>
				))}
				{pic.beads.map((b) =>
					b.visit.kind === "patch" ? (
						<g key={`patch${b.visit.wall}`}>
							<title>{`${w.patchTest}: ${shortDay(dayOf(b.visit.wall))}, ${timeOf(b.visit.wall)}`}</title>
							<line x1={b.x} x2={b.x} y1={b.y} y2={b.foot} stroke="#36182f" strokeWidth="1" strokeDasharray="2 2" />
							<ellipse cx={b.x} cy={b.y} rx="3" ry="5" fill="#44586b" />
						</g>
					) : (
						// biome-ignore lint/a11y/useSemanticElements: a button of HTML cannot stand in a picture
						<g
							key={b.visit.n}
							ref={(el) => {
								beadRefs.current[b.visit.n] = el;
							}}
							role="button"
							tabIndex={b.visit.n === p.focus ? 0 : -1}
							aria-label={w.visitLabel({
								n: b.visit.n,
								day: shortDay(dayOf(b.visit.wall)),
								time: timeOf(b.visit.wall),
								name: b.visit.practitionerName,
								room: b.visit.roomName,
							})}
							onFocus={() => p.onFocus(b.visit.n)}
							onClick={() => p.onFocus(b.visit.n)}
							onPointerDown={drag.press(b.visit)}
							onKeyDown={(e) => key(e, b.visit.n)}
							className="cursor-pointer focus:outline-none"
						>
							<OneBead
								b={b}
								mark={p.people[b.pattern]?.mark ?? ""}
								chosen={b.visit.n === p.focus}
								faint={Boolean(ghost) && b.visit.n === p.focus}
								given={p.given?.has(b.visit.n) ?? false}
							/>
						</g>
					),
				)}
				{ghost && (
					<g aria-hidden="true">
						<OneBead b={ghost} mark={p.people[ghost.pattern]?.mark ?? ""} chosen faint={false} given={false} />
					</g>
				)}
				{others.map((list, i) => (
					<Thin key={list[0]!.wall + String(i)} list={list} x={pic.x} y={pic.floor + 46 + i * 26} n={i + 2} width={width} />
				))}
				{pic.months.map((m) => (
					<text key={m.x} x={m.x} y={pic.floor + 26} fontSize="13" fill="#36182f" className="font-serif">
						{m.text}
					</text>
				))}
			</svg>
		</div>
	);
}

const heightOf = (t: Offered, pic: ReturnType<typeof picture>, p: Props) => {
	const minutes = Number(timeOf(t.wall).slice(0, 2)) * 60 + Number(timeOf(t.wall).slice(3));
	const [low, , high] = pic.hours.map((h) => h.y);
	return low! + ((minutes - p.open[0]) / (p.open[1] - p.open[0])) * (high! - low!);
};

function OneBead({ b, mark, chosen, faint, given }: { b: Bead; mark: string; chosen: boolean; faint: boolean; given: boolean }) {
	return (
		<g opacity={faint ? 0.35 : 1}>
			<line x1={b.x} x2={b.x} y1={b.y + b.r} y2={b.foot} stroke="#36182f" strokeWidth="1" />
			{chosen && <circle cx={b.x} cy={b.y} r={b.r + 5} fill="none" stroke="#c8411b" strokeWidth="3" />}
			<circle cx={b.x} cy={b.y} r={b.r} fill={b.visit.changed ? "#f7d9c9" : given ? "#c9b48f" : "#fbf6ec"} stroke="none" />
			<circle
				cx={b.x}
				cy={b.y}
				r={b.r}
				fill="none"
				stroke="#36182f"
				strokeWidth="2.4"
				strokeDasharray={edges[Math.max(b.pattern, 0) % edges.length]}
			/>
			{b.r >= 8 && (
				<text
					x={b.x}
					y={b.y + 3.5}
					textAnchor="middle"
					fontSize={mark.length > 1 ? "9" : "11"}
					fontWeight="700"
					fill="#36182f"
					aria-hidden="true"
				>
					{mark}
				</text>
			)}
		</g>
	);
}

/** What the series stands on: weeks, months, today, days on which nothing can be, and the event. */
function Ground({
	pic,
	ground,
	width,
	today,
}: {
	pic: ReturnType<typeof picture>;
	ground: Schemas["SeriesGround"];
	width: number;
	today: string;
}) {
	const left = 58;
	const right = width - 8;
	const clip = (x: number) => Math.min(Math.max(x, left), right);
	const gaps = [...ground.away.map(([a, b]) => [a!, b!] as const), ...(ground.notBefore ? [[today, ground.notBefore] as const] : [])]
		.map(([a, b]) => [clip(pic.x(a)), clip(pic.x(b)), a] as const)
		.filter(([a, b]) => b > left && a < right && b >= a);
	const event = ground.event ? pic.x(ground.event) : undefined;
	const now = pic.x(today);
	return (
		<g aria-hidden="true">
			<line x1={left} x2={right} y1={pic.floor + 8} y2={pic.floor + 8} stroke="#36182f" strokeWidth="2" />
			{gaps.map(([a, b, day]) => (
				<g key={`${day}${b}`}>
					<rect x={a} y={pic.floor + 5} width={Math.max(b - a, 5)} height="6" fill="#f5eddf" />
					<rect x={a} y={pic.floor + 5} width={Math.max(b - a, 5)} height="6" fill="url(#hatch)" />
				</g>
			))}
			{pic.weeks.map((x) => (
				<line key={x} x1={x} x2={x} y1={pic.floor + 8} y2={pic.floor + 13} stroke="#36182f" strokeWidth="1" />
			))}
			{now >= left && now <= right && (
				<g>
					<line x1={now} x2={now} y1={pic.hours[2]!.y - 6} y2={pic.floor + 8} stroke="#c8411b" strokeWidth="1" strokeDasharray="3 3" />
				</g>
			)}
			{event !== undefined && (
				<g>
					<rect
						x={event - (event - pic.x(dayBefore(ground.event!, 2)))}
						y={pic.line - 96}
						width={event - pic.x(dayBefore(ground.event!, 2))}
						height={pic.floor - pic.line + 104}
						fill="url(#hatch)"
						opacity="0.25"
					/>
					<line x1={event} x2={event} y1={pic.hours[2]!.y - 4} y2={pic.floor + 8} stroke="#36182f" strokeWidth="2" />
					<path d={`M${event} ${pic.hours[2]!.y - 4} l-22 7 l22 7 Z`} fill="#c8411b" />
					<text x={event - 4} y={pic.hours[2]!.y + 24} fontSize="12" textAnchor="end" fill="#36182f">
						{ground.eventName}
					</text>
				</g>
			)}
		</g>
	);
}

const dayBefore = (day: string, n: number) => new Date(Date.parse(`${day}T00:00:00Z`) - n * 86_400_000).toISOString().slice(0, 10);

/** An alternative: a thin line with its days. */
function Thin({ list, x, y, n, width }: { list: readonly Offered[]; x: (day: string) => number; y: number; n: number; width: number }) {
	const own = list.filter((v) => v.kind === "treatment");
	return (
		<g aria-hidden="true">
			<text x={50} y={y + 4} fontSize="13" textAnchor="end" fill="#6b5263" className="num">
				{n}
			</text>
			<line x1={58} x2={width - 8} y1={y} y2={y} stroke="#9c8873" strokeWidth="1" />
			{own.map((v) => (
				<circle key={v.n} cx={x(dayOf(v.wall))} cy={y} r="4" fill="#fbf6ec" stroke="#6b5263" strokeWidth="1.5" />
			))}
		</g>
	);
}
