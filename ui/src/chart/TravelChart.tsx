import { type KeyboardEvent, memo, type PointerEvent, useId, useLayoutEffect, useMemo, useRef, useState } from "react";
import type { Schemas } from "../api/client";
import { intentLook } from "../face/intents";
import { clock } from "../kit/format";
import * as w from "../words/catalogue/chart";
import { phaseWords } from "../words/sentences";
import { bodyDown, momentTicks, secondsAcross } from "./scales";

type Evaluation = Schemas["Evaluation"];

const top = 19.5;
const low = -17;
const gutter = 92;
const bands: [string, number][] = [
	[w.hairline, 17.5],
	[w.brow, 13.2],
	[w.cheekbone, 9.2],
	[w.mouth, 4.6],
	[w.chin, 0.6],
	[w.neck, -3.8],
	[w.collarbone, -8.8],
	[w.chest, -13.5],
];

const nothing: readonly string[] = [];

type Props = {
	evaluation: Evaluation;
	selected?: string | undefined;
	/** Steps to set off, for a comparison. */
	marked?: readonly string[];
	/** The moment of the plan, in seconds. */
	at: number;
	onSeek: (seconds: number, stepId: string) => void;
	height?: number;
	tracks?: boolean;
	/** Where the hands really were, step by step, in seconds of hands-on time: drawn over the plan. */
	real?: readonly RealSpell[];
};

/** One step as it was really given: from a second to another, of the step with an id. */
export type RealSpell = { from: number; to: number; step: string };

let lastWidth = 900; // of a chart on this screen: what the next one begins with

/**
 * The whole protocol as one picture: time runs across, the body runs down, a
 * line shows where the hands are at each moment. The step list is its twin for
 * those who do not see it.
 */
export function TravelChart({ evaluation, selected, marked = nothing, at, onSeek, height = 200, tracks = true, real }: Props) {
	const box = useRef<HTMLDivElement>(null);
	const clip = useId();
	const [width, setWidth] = useState(lastWidth);
	useLayoutEffect(() => {
		const el = box.current;
		if (!el) return;
		const seen = new ResizeObserver(([e]) => {
			if (!e) return;
			lastWidth = e.contentRect.width;
			setWidth(lastWidth);
		});
		seen.observe(el);
		return () => seen.disconnect();
	}, []);
	const total = Math.max(evaluation.seconds, evaluation.slotSeconds, 60, ...(real?.map((r) => r.to) ?? []));
	const [zoom, setZoom] = useState<{ from: number; to: number } | null>(null);
	// A window that the plan has outgrown, or the playing head has left, moves on.
	const span = useMemo(() => {
		if (!zoom || zoom.from >= total) return { from: 0, to: total };
		const length = Math.min(zoom.to - zoom.from, total);
		const from = at < zoom.from ? Math.max(0, at - 2) : at > zoom.from + length ? Math.min(at - 2, total - length) : zoom.from;
		return { from, to: from + length };
	}, [zoom, total, at]);
	const scale = (width - gutter - 12) / (span.to - span.from);
	const x = useMemo(() => secondsAcross(span.from, span.to, gutter, width - 12), [span, width]);
	const phases = useMemo(() => runs(evaluation), [evaluation]);
	const narrow = (by: number) => {
		const length = Math.max(20, (span.to - span.from) * by);
		if (length >= total) return setZoom(null);
		const from = Math.max(0, Math.min(total - length, at - (at - span.from) * by));
		setZoom({ from, to: from + length });
	};
	const trackHeight = tracks ? 62 : 0;
	const bodyHeight = height - trackHeight - 20;
	const y = useMemo(() => bodyDown(top, low, 4, bodyHeight - 12), [bodyHeight]);

	// Where the chart begins is asked once a scrub: asking between two pictures would lay the page out each time.
	const begins = useRef<number>(undefined);
	function seek(clientX: number) {
		begins.current ??= box.current?.getBoundingClientRect().left ?? 0;
		const t = Math.max(0, Math.min(evaluation.seconds - 0.01, x.invert(clientX - begins.current)));
		const visit = evaluation.visits.find((v) => t < v.end) ?? evaluation.visits.at(-1);
		if (visit) onSeek(Math.max(t, visit.start - visit.lead), evaluation.steps[visit.step]!.id);
	}
	function key(e: KeyboardEvent) {
		if (e.key === "+" || e.key === "-") {
			e.preventDefault();
			return narrow(e.key === "+" ? 0.5 : 2);
		}
		const now = evaluation.visits.findIndex((v) => at < v.end - 0.001);
		const to = e.key === "ArrowRight" ? now + 1 : e.key === "ArrowLeft" ? now - 1 : -1;
		const v = evaluation.visits[to];
		if (!v) return;
		e.preventDefault();
		onSeek(v.start, evaluation.steps[v.step]!.id);
	}
	const now = evaluation.visits.find((v) => at < v.end);
	const nowName = now ? evaluation.steps[now.step]!.name : w.theEnd;
	return (
		<div ref={box} className="relative isolate w-full select-none">
			<div className="absolute bottom-0 left-0 z-10 flex items-center gap-1">
				<ZoomButton label={w.zoomOut} sign="−" onClick={() => narrow(2)} disabled={!zoom} />
				<ZoomButton label={w.zoomIn} sign="+" onClick={() => narrow(0.5)} />
			</div>
			<div className="absolute inset-y-0 right-0 overflow-hidden" style={{ left: gutter - 2 }} aria-hidden="true">
				{evaluation.visits.map((v) => {
					const { id } = evaluation.steps[v.step]!;
					if (id !== selected && !marked.includes(id)) return null;
					const from = x(v.start) - gutter + 1;
					const wide = Math.max(3, (v.end - v.start) * scale + 2);
					return (
						<div
							key={`${v.step}-${v.pass}`}
							className="absolute top-0 left-0 w-px origin-left bg-[#f7d9c9bf]"
							style={{ transform: `translateX(${from}px) scaleX(${wide})`, height: height - 18 }}
						/>
					);
				})}
			</div>
			<svg
				width={width}
				height={height}
				className="relative block cursor-crosshair"
				role="slider"
				tabIndex={0}
				aria-label={w.travelChartWhereHandsAtEach}
				aria-valuemin={0}
				aria-valuemax={Math.round(evaluation.seconds)}
				aria-valuenow={Math.round(at)}
				aria-valuetext={`${clock(at)}, ${nowName}`}
				onPointerDown={(e: PointerEvent) => {
					e.currentTarget.setPointerCapture(e.pointerId);
					begins.current = undefined;
					seek(e.clientX);
				}}
				onPointerMove={(e: PointerEvent) => e.buttons === 1 && seek(e.clientX)}
				onKeyDown={key}
				onDoubleClick={(e) => {
					const rect = box.current!.getBoundingClientRect();
					const t = x.invert(e.clientX - rect.left);
					const p = phases.find((x) => t >= x.from && t < x.to);
					setZoom(zoom || !p ? null : { from: p.from, to: Math.max(p.to, p.from + 20) });
				}}
				onWheel={(e) => e.ctrlKey && narrow(e.deltaY < 0 ? 0.8 : 1.25)}
				data-chart
			>
				<defs>
					<clipPath id={clip}>
						<rect x={gutter - 2} y={0} width={width - gutter + 2} height={height} />
					</clipPath>
				</defs>
				<Picture
					clip={clip}
					span={span}
					phases={phases}
					evaluation={evaluation}
					scale={scale}
					x={x}
					y={y}
					width={width}
					bodyHeight={bodyHeight}
					height={height}
					tracks={tracks}
				/>
				{real && (
					<path
						d={realLine(evaluation, real, x, y)}
						clipPath={`url(#${clip})`}
						fill="none"
						stroke="#c8411b"
						strokeWidth={2.4}
						strokeLinejoin="round"
						aria-hidden="true"
						data-testid="real-line"
					/>
				)}
			</svg>
			<Head at={x(at)} height={height} />
		</div>
	);
}

/** The moment of the plan: on a layer of its own, so that nothing else is drawn anew when it moves. */
function Head({ at, height }: { at: number; height: number }) {
	if (at < gutter - 6) return null;
	return (
		<svg
			width={10}
			height={height - 16}
			className="pointer-events-none absolute top-0 left-0 will-change-transform"
			style={{ transform: `translateX(${at - 5}px)` }}
			aria-hidden="true"
		>
			<path d={`M0 0H10L6 6V${height - 16}H4V6Z`} fill="#c8411b" />
		</svg>
	);
}

function ZoomButton({ label, sign, onClick, disabled = false }: { label: string; sign: string; onClick: () => void; disabled?: boolean }) {
	return (
		<button
			type="button"
			aria-label={label}
			title={w.labelSignOnTheChart({ label, sign })}
			disabled={disabled}
			className="size-7 rounded-sm border border-[#9c8873] bg-leaf font-bold leading-none disabled:opacity-40"
			onClick={onClick}
		>
			{sign}
		</button>
	);
}

type PictureProps = {
	clip: string;
	span: { from: number; to: number };
	phases: { phase: string; from: number; to: number }[];
	evaluation: Evaluation;
	scale: number;
	x: (t: number) => number;
	y: (h: number) => number;
	width: number;
	bodyHeight: number;
	height: number;
	tracks: boolean;
};

/** What is drawn of the plan whatever is chosen: it is drawn anew only when the plan or the window changes. */
const Picture = memo(
	function Picture({ clip, span, phases, evaluation, scale, x, y, width, bodyHeight, height, tracks }: PictureProps) {
		const hatch = useId();
		const lines = useMemo(() => travel(evaluation, scale, x, y, bodyHeight), [evaluation, scale, x, y, bodyHeight]);
		const found = new Map<string, string>();
		for (const f of evaluation.findings) for (const s of f.steps) if (!found.has(s)) found.set(s, f.severity);
		const ticks = momentTicks(span.from, span.to, width - gutter - 12, 46);
		const short = (ticks[1] ?? 60) - (ticks[0] ?? 0) < 60;
		const trackTop = bodyHeight + 4;
		const slipY = (s: number) => trackTop + 58 - (s / 100) * 26;
		return (
			<g fontFamily="var(--font-sans)" fontSize={11} fill="#6b5263" aria-hidden="true">
				<defs>
					<pattern id={hatch} width={5} height={5} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
						<line x1={0} x2={0} y1={0} y2={5} stroke="#36182f" strokeWidth={1} opacity={0.25} />
					</pattern>
				</defs>
				{bands.map(([name, h]) => (
					<g key={name}>
						<line x1={gutter} x2={width - 12} y1={y(h)} y2={y(h)} stroke="#d9cbb4" strokeDasharray="1 4" />
						<text x={gutter - 8} y={y(h) + 4} textAnchor="end">
							{name}
						</text>
					</g>
				))}
				{tracks && (
					<g textAnchor="end">
						<text x={gutter - 8} y={trackTop + 13}>
							{w.pressure}
						</text>
						<text x={gutter - 8} y={trackTop + 48}>
							{w.slip}
						</text>
					</g>
				)}
				<g clipPath={`url(#${clip})`}>
					{phases.map((p, i) => (
						<g key={`${p.phase}-${p.from}`}>
							{i % 2 === 1 && (
								<rect x={x(p.from)} y={0} width={Math.max(0, x(p.to) - x(p.from))} height={bodyHeight} fill="#36182f" fillOpacity={0.035} />
							)}
							{x(p.to) - Math.max(x(p.from), gutter) > 6 + 5.8 * phaseWords[p.phase]!.length && (
								<text x={Math.max(x(p.from), gutter) + 4} y={bodyHeight - 3} fontSize={10.5} fill="#6b5263">
									{phaseWords[p.phase]}
								</text>
							)}
						</g>
					))}
					{evaluation.seconds < evaluation.slotSeconds - 1 && (
						<rect
							x={x(evaluation.seconds)}
							width={x(evaluation.slotSeconds) - x(evaluation.seconds)}
							y={0}
							height={bodyHeight}
							fill={`url(#${hatch})`}
						/>
					)}
					{lines.map((l) =>
						l.kind === "band" ? (
							<g key={l.key}>
								<rect x={l.x} y={l.y} width={l.w} height={l.h} fill={l.colour} fillOpacity={0.2} />
								<path d={l.d} fill="none" stroke={l.colour} strokeWidth={1.3} strokeDasharray={l.dash} />
							</g>
						) : (
							<path
								key={l.key}
								d={l.d}
								fill="none"
								stroke={l.colour}
								strokeWidth={l.w}
								strokeLinejoin="round"
								strokeDasharray={l.dash}
								strokeOpacity={0.95}
							/>
						),
					)}
					{tracks && (
						<g>
							<line x1={gutter} x2={width - 12} y1={trackTop + 58} y2={trackTop + 58} stroke="#d9cbb4" />
							{evaluation.visits.map((v) => {
								const s = evaluation.steps[v.step]!;
								const most = s.path.reduce((m, p) => Math.max(m, p.pressure), 0);
								return (
									<g key={`${v.step}-${v.pass}`}>
										{most > 0 && (
											<rect
												x={x(v.start)}
												width={Math.max(1, (v.end - v.start) * scale - 0.6)}
												y={trackTop + 18 - most * 3.4}
												height={most * 3.4}
												fill="#7a2f5c"
												fillOpacity={0.25 + most * 0.14}
											/>
										)}
										{s.glide !== "any" && s.path.length > 0 && (
											<rect
												x={x(v.start)}
												width={Math.max(1, (v.end - v.start) * scale)}
												y={slipY(Math.min(v.needMost, 100))}
												height={v.needMost < 100 ? slipY(0) - slipY(v.needMost) : slipY(v.needLeast) - slipY(100)}
												fill="#3d5a3b"
												fillOpacity={0.13}
											/>
										)}
										{s.path.length > 0 && (
											<line
												x1={x(v.start)}
												y1={slipY(v.slipStart)}
												x2={x(v.end)}
												y2={slipY(v.slipEnd)}
												stroke="#2f6d73"
												strokeWidth={1.8}
											/>
										)}
									</g>
								);
							})}
							{evaluation.visits.map((v) => {
								const sev = found.get(evaluation.steps[v.step]!.id);
								if (!sev || v.pass > 1) return null;
								const cx = x(v.start) + 4;
								return sev === "note" ? (
									<circle key={v.step} cx={cx} cy={trackTop + 25} r={3} fill="#44586b" />
								) : (
									<path
										key={v.step}
										d={`M${cx - 5} ${trackTop + 29}L${cx} ${trackTop + 20}L${cx + 5} ${trackTop + 29}Z`}
										fill={sev === "stop" ? "#a31313" : "#c8411b"}
									/>
								);
							})}
						</g>
					)}
					{ticks.map((t) => (
						<text key={t} x={x(t)} y={height - 3} textAnchor={t === 0 ? "start" : "middle"} className="num">
							{short ? clock(t) : t === 0 ? w.noMinutes : t / 60}
						</text>
					))}
				</g>
			</g>
		);
	},
	(a, b) =>
		a.evaluation === b.evaluation && a.width === b.width && a.height === b.height && a.scale === b.scale && a.span.from === b.span.from,
);

/** The line of what was really done: each step at the middle of its path, a break where the hands had none. */
function realLine(e: Evaluation, real: readonly RealSpell[], x: (t: number) => number, y: (h: number) => number): string {
	let d = "";
	let off = true;
	for (const r of real) {
		const path = e.steps.find((s) => s.id === r.step)?.path ?? [];
		if (path.length === 0) {
			off = true;
			continue;
		}
		const at = y(path.reduce((sum, p) => sum + p.height, 0) / path.length);
		d += `${off ? "M" : "L"}${x(r.from)} ${at}H${x(r.to)}`;
		off = false;
	}
	return d;
}

type Line = {
	key: string;
	kind: "band" | "line";
	d: string;
	colour: string;
	dash?: string | undefined;
	x: number;
	y: number;
	w: number;
	h: number;
};

/** The hands' line: one stretch a pass; repetitions finer than a few pixels become a band between the path's ends. */
function travel(e: Evaluation, scale: number, x: (t: number) => number, y: (h: number) => number, bodyHeight: number): Line[] {
	const out: Line[] = [];
	e.visits.forEach((v, vi) => {
		const s = e.steps[v.step]!;
		const look = intentLook(s.intent);
		const dash = look.dash
			? look.dash
					.split(" ")
					.map((n) => Math.max(1.5, Number(n) * 5))
					.join(" ")
			: undefined;
		v.passes.forEach((p, pi) => {
			const key = `${vi}-${pi}`;
			if (s.path.length === 0) {
				out.push({
					key,
					kind: "line",
					d: `M${x(p.start)} ${bodyHeight - 14}H${x(p.start + p.seconds)}`,
					colour: "#6b5263",
					dash: "2 3",
					x: 0,
					y: 0,
					w: 3,
					h: 0,
				});
				return;
			}
			const ys = s.path.map((q) => y(q.height));
			const hi = Math.min(...ys);
			const lo = Math.max(...ys);
			const rep = v.repSeconds > 0 && s.path.length > 1 ? v.repSeconds : p.seconds;
			const offsets = p.side === "both" ? [-1.4, 1.4] : p.side === "left" ? [-1.4] : p.side === "right" ? [1.4] : [0];
			if (s.path.length > 1 && rep * scale < 5) {
				const xa = x(p.start);
				const xb = x(p.start + p.seconds);
				out.push({
					key,
					kind: "band",
					d: `M${xa} ${ys[0]}L${xa} ${hi}H${xb}L${xb} ${lo}H${xa}Z`,
					colour: look.colour,
					dash,
					x: xa,
					y: hi,
					w: Math.max(1, xb - xa),
					h: Math.max(2, lo - hi),
				});
				return;
			}
			for (const off of offsets) {
				let d = "";
				if (s.path.length === 1) {
					d = `M${x(p.start)} ${ys[0]! + off}H${x(p.start + p.seconds)}`;
				} else {
					const n = Math.max(1, Math.round(p.seconds / rep));
					for (let i = 0; i < n; i++) {
						const a = p.start + i * rep;
						d += ys
							.map((yy, k) => `${k === 0 ? "M" : "L"}${x(a + (k / (ys.length - 1)) * rep * 0.94).toFixed(1)} ${(yy + off).toFixed(1)}`)
							.join("");
					}
				}
				out.push({ key: `${key}${off}`, kind: "line", d, colour: look.colour, dash, x: 0, y: 0, w: 1.9, h: 0 });
			}
		});
	});
	return out;
}

function runs(e: Evaluation): { phase: string; from: number; to: number }[] {
	const out: { phase: string; from: number; to: number }[] = [];
	for (const v of e.visits) {
		const phase = e.steps[v.step]!.phase;
		const last = out.at(-1);
		if (last && last.phase === phase) last.to = v.end;
		else out.push({ phase, from: v.start - v.lead, to: v.end });
	}
	return out;
}
