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

/** A line of moves, lines and curves, mirrored in the middle of the face. */
export function mirrored(d: string): string {
	return d.replace(/(-?)([\d.]+) (-?[\d.]+)/g, (_, minus, x, y) => `${minus || Number(x) === 0 ? "" : "-"}${x} ${y}`);
}
