import type { Schemas } from "../api/client";
import type { View } from "./FaceArt";

export type Zone = Schemas["Zone"];
export type Side = "mid" | "left" | "right";
export type XY = readonly [number, number];

/** Whether a zone can be seen in a view. */
export function seen(zone: Zone, view: View): boolean {
	const outline = { front: zone.outline, left: zone.profile, right: zone.profile, back: zone.back, mouth: zone.mouth }[view];
	return (outline ?? []).length > 0;
}

/** Whether a side of a zone can be seen in a view: the far side cannot, from the side. */
export function seenOn(zone: Zone, side: Side, view: View): boolean {
	return seen(zone, view) && !(view === "left" && side === "right") && !(view === "right" && side === "left");
}

/** The landmark of a zone on a side, in picture centimetres of a view (y down). */
export function landmark(zone: Zone, side: Side, view: View = "front"): XY {
	const x = !zone.paired || (zone.midline && side === "mid") ? 0 : side === "right" ? -zone.centre.x : zone.centre.x;
	switch (view) {
		case "left":
			return [-zone.centre.z, -zone.centre.y];
		case "right":
			return [zone.centre.z, -zone.centre.y];
		case "back":
			return [-x, -zone.centre.y];
		case "mouth": {
			const m = zone.mouth ?? [];
			const mx = m.reduce((sum, p) => sum + p[0]!, 0) / Math.max(1, m.length);
			const my = m.reduce((sum, p) => sum + p[1]!, 0) / Math.max(1, m.length);
			return [side === "right" ? -mx : mx, -my];
		}
	}
	return [x, -zone.centre.y];
}

/** A closed smooth outline through points. */
export function closedCurve(points: readonly XY[]): string {
	const n = points.length;
	if (n < 3) return "";
	let d = `M${points[0]![0].toFixed(2)} ${points[0]![1].toFixed(2)}`;
	for (let i = 0; i < n; i++) {
		const p0 = points[(i - 1 + n) % n]!;
		const p1 = points[i]!;
		const p2 = points[(i + 1) % n]!;
		const p3 = points[(i + 2) % n]!;
		const k = 0.11;
		d += `C${(p1[0] + (p2[0] - p0[0]) * k).toFixed(2)} ${(p1[1] + (p2[1] - p0[1]) * k).toFixed(2)} ${(p2[0] - (p3[0] - p1[0]) * k).toFixed(2)} ${(p2[1] - (p3[1] - p1[1]) * k).toFixed(2)} ${p2[0].toFixed(2)} ${p2[1].toFixed(2)}`;
	}
	return `${d}Z`;
}

/** The outlines of a zone in a view, one a side. */
export function outlines(zone: Zone, view: View = "front"): { side: Side; d: string }[] {
	const mirror = (p: XY): XY => [-p[0], p[1]];
	const flip = (p: readonly number[]): XY => [p[0]!, -p[1]!];
	const out: { side: Side; d: string }[] = [];
	const midline = (pts: XY[]) =>
		closedCurve([
			...pts,
			...pts
				.map(mirror)
				.reverse()
				.filter((p) => Math.abs(p[0]) > 0.01),
		]);
	if (!seen(zone, view)) return out;
	if (view === "left" || view === "right") {
		const pts = zone.profile!.map((p): XY => [view === "left" ? -p[0]! : p[0]!, -p[1]!]);
		return [{ side: zone.paired ? view : "mid", d: closedCurve(pts) }];
	}
	const half = (view === "back" ? zone.back! : view === "mouth" ? zone.mouth! : zone.outline!).map(flip);
	const [left, right] = view === "back" ? [half.map(mirror), half] : [half, half.map(mirror)];
	if (zone.paired) {
		out.push({ side: "left", d: closedCurve(left) }, { side: "right", d: closedCurve(right) });
		if (zone.midline && zone.midOutline && view === "front") out.push({ side: "mid", d: midline(zone.midOutline.map(flip)) });
	} else {
		out.push({ side: "mid", d: midline(half) });
	}
	return out;
}

/** Points along a smooth open curve through the stops, evenly many between each two. */
export function openCurve(stops: readonly XY[], each = 14): XY[] {
	if (stops.length < 2) return [...stops];
	const out: XY[] = [];
	for (let i = 0; i + 1 < stops.length; i++) {
		const p0 = stops[Math.max(0, i - 1)]!;
		const p1 = stops[i]!;
		const p2 = stops[i + 1]!;
		const p3 = stops[Math.min(stops.length - 1, i + 2)]!;
		for (let j = 0; j < each; j++) {
			const t = j / each;
			const f = (a: number, b: number, c: number, d: number) =>
				0.5 * (2 * b + (c - a) * t + (2 * a - 5 * b + 4 * c - d) * t * t + (3 * b - a - 3 * c + d) * t * t * t);
			out.push([f(p0[0], p1[0], p2[0], p3[0]), f(p0[1], p1[1], p2[1], p3[1])]);
		}
	}
	out.push(stops[stops.length - 1]!);
	return out;
}

/** A ribbon along a curve whose half width runs through the stops' widths, ending in an arrow head. */
export function ribbon(curve: readonly XY[], widths: readonly number[]): string {
	const n = curve.length;
	if (n < 2) return "";
	const left: XY[] = [];
	const right: XY[] = [];
	const normal = (i: number): XY => {
		const a = curve[Math.max(0, i - 1)]!;
		const b = curve[Math.min(n - 1, i + 1)]!;
		const l = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
		return [-(b[1] - a[1]) / l, (b[0] - a[0]) / l];
	};
	const headAt = Math.max(1, n - 1 - Math.min(6, Math.floor(n / 4)));
	for (let i = 0; i <= headAt; i++) {
		const at = (i / (n - 1)) * (widths.length - 1);
		const w0 = widths[Math.floor(at)]!;
		const w1 = widths[Math.min(widths.length - 1, Math.floor(at) + 1)]!;
		const w = (w0 + (w1 - w0) * (at % 1)) * (0.35 + 0.65 * Math.min(1, i / (n * 0.35)));
		const [nx, ny] = normal(i);
		const [x, y] = curve[i]!;
		left.push([x + nx * w, y + ny * w]);
		right.push([x - nx * w, y - ny * w]);
	}
	const w = widths[widths.length - 1]!;
	const [nx, ny] = normal(headAt);
	const [hx, hy] = curve[headAt]!;
	const head = w + 0.3;
	const tip = curve[n - 1]!;
	const pts: XY[] = [...left, [hx + nx * head, hy + ny * head], tip, [hx - nx * head, hy - ny * head], ...right.reverse()];
	return `M${pts.map((p) => `${p[0].toFixed(2)} ${p[1].toFixed(2)}`).join("L")}Z`;
}

/** The point a part (0 to 1) of the way along a curve. */
export function along(curve: readonly XY[], part: number): XY {
	if (curve.length === 1) return curve[0]!;
	const at = Math.max(0, Math.min(1, part)) * (curve.length - 1);
	const a = curve[Math.floor(at)]!;
	const b = curve[Math.min(curve.length - 1, Math.floor(at) + 1)]!;
	return [a[0] + (b[0] - a[0]) * (at % 1), a[1] + (b[1] - a[1]) * (at % 1)];
}

type Part = Schemas["Part"];

/** Where a hand is within one repetition: how far along the path, and how hard it pulses (0 to 1). */
export function within(parts: readonly Part[], seconds: number): { part: number; pulse: number } {
	const total = parts.reduce((sum, p) => sum + p.seconds * Math.max(1, p.count ?? 1), 0);
	if (total <= 0) {
		// No parts: a slow there and back of four seconds.
		const t = (seconds % 4) / 4;
		return { part: t < 0.5 ? t * 2 : 2 - t * 2, pulse: 0.5 + 0.5 * Math.sin(seconds * Math.PI) };
	}
	const moving = parts.filter((p) => p.kind === "move").reduce((sum, p) => sum + p.seconds * Math.max(1, p.count ?? 1), 0);
	let rest = seconds % total;
	let at = moving > 0 ? 0 : 1;
	for (const p of parts) {
		const length = p.seconds * Math.max(1, p.count ?? 1);
		const here = Math.min(rest, length);
		const f = here / length;
		if (p.kind === "move") at += here / moving;
		if (p.kind === "back") at -= at * f;
		rest -= here;
		if (rest <= 0)
			return {
				part: at,
				pulse: p.kind === "hold" ? 1 : p.kind === "pulse" ? Math.abs(Math.sin(f * Math.PI * Math.max(1, p.count ?? 1))) : 0,
			};
	}
	return { part: at, pulse: 0 };
}
