import { type PointerEvent, useRef } from "react";
import type { Offered } from "./say";

/** How far a pointer goes, in pixels, before a press is a drag. */
const slack = 6;

type Props = {
	times: readonly Offered[] | undefined;
	/** Where a time is drawn. */
	at: (t: Offered) => readonly [number, number];
	onMove: ((n: number) => void) | undefined;
	onDrag: ((t: Offered) => void) | undefined;
};

/** Dragging a bead along the times at which its visit could be: it goes to the one nearest to the pointer. */
export function useDrag({ times, at, onMove, onDrag }: Props) {
	const drag = useRef<{ n: number; x: number; y: number; with: string; on: boolean; last: string } | null>(null);
	const move = (e: PointerEvent<SVGSVGElement>) => {
		const d = drag.current;
		if (!d || !onMove || !onDrag) return;
		if (!d.on) {
			if (Math.hypot(e.clientX - d.x, e.clientY - d.y) < slack) return;
			d.on = true;
			e.currentTarget.setPointerCapture(e.pointerId);
			onMove(d.n);
		}
		const box = e.currentTarget.getBoundingClientRect();
		const scale = e.currentTarget.viewBox.baseVal.width / box.width;
		const x = (e.clientX - box.left) * scale;
		const y = (e.clientY - box.top) * scale;
		let best: Offered | undefined;
		let least = Number.POSITIVE_INFINITY;
		for (const t of times ?? []) {
			const [tx, ty] = at(t);
			const far = Math.hypot(tx - x, ty - y) + (t.practitioner === d.with ? 0 : 1);
			if (far < least) {
				least = far;
				best = t;
			}
		}
		const key = best ? `${best.wall}${best.practitioner}` : "";
		if (best && key !== d.last) {
			d.last = key;
			onDrag(best);
		}
	};
	const end = () => {
		drag.current = null;
	};
	return {
		/** A bead that was pressed. */
		press: (v: Offered) => (e: PointerEvent) => {
			if (e.button === 0 && onMove && onDrag)
				drag.current = { n: v.n, x: e.clientX, y: e.clientY, with: v.practitioner, on: false, last: "" };
		},
		picture: { onPointerMove: move, onPointerUp: end, onPointerCancel: end },
	};
}
