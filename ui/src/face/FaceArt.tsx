import { memo } from "react";
import drawing from "../../../internal/craft/anatomy/drawing.json";
import { mirrored } from "./geometry";

export type View = "front" | "left" | "right" | "back" | "mouth";
type Shape = { d: string; fill?: string; line?: number; fade?: number; twice?: boolean };

/** The core's drawing of a view; the right one is the left one mirrored. */
export function drawingOf(view: View): { box: readonly number[]; shapes: readonly Shape[] } {
	if (view !== "right") return drawing[view] as { box: number[]; shapes: Shape[] };
	const { box, shapes } = drawing.left as { box: number[]; shapes: Shape[] };
	return { box: [-(box[0]! + box[2]!), box[1]!, box[2]!, box[3]!], shapes };
}

const day: Record<string, string> = { skin: "#fbf4e8", shade: "#b98a6b", cloth: "#ecdfc9", line: "#36182f", paper: "#fffaf1" };
const dark: Record<string, string> = { skin: "#33251e", shade: "#f2b35c", cloth: "#2a1f1b", line: "#d8b98d", paper: "#d8b98d" };

/** The drawing under the zones: head, neck and shoulders, of no particular sex or age. */
export const FaceArt = memo(function FaceArt({ view, night = false }: { view: View; night?: boolean }) {
	const tone = night ? dark : day;
	const { shapes } = drawingOf(view);
	return (
		<g
			transform={view === "right" ? "scale(-1 1)" : undefined}
			strokeLinecap="round"
			strokeLinejoin="round"
			aria-hidden="true"
			pointerEvents="none"
		>
			{shapes.flatMap((s) =>
				(s.twice ? [s.d, mirrored(s.d)] : [s.d]).map((d) => (
					<path
						key={d}
						d={d}
						fill={s.fill ? tone[s.fill] : "none"}
						stroke={s.line ? tone.line : "none"}
						strokeWidth={s.line}
						fillOpacity={s.fade}
						strokeOpacity={s.fade}
					/>
				)),
			)}
		</g>
	);
});
