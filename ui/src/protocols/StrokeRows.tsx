import type { RefObject } from "react";
import type { Schemas } from "../api/client";
import { intentLook } from "../face/intents";
import { LongList } from "../kit/LongList";

type Props = {
	strokes: Schemas["Stroke"][];
	scroller: RefObject<HTMLElement | null>;
	/** The key of the stroke that is looked at. */
	chosen?: string | undefined;
	/** The line below a stroke's name. */
	about: (s: Schemas["Stroke"]) => string;
	onChoose: (s: Schemas["Stroke"]) => void;
};

/** Strokes one below the other, each with the colour of its intent. */
export function StrokeRows({ strokes, scroller, chosen, about, onChoose }: Props) {
	return (
		<LongList
			rows={strokes}
			keyOf={(s) => s.key}
			height={45}
			scroller={scroller}
			row={(s) => (
				<button
					type="button"
					aria-pressed={chosen === undefined ? undefined : s.key === chosen}
					className={`min-h-11 w-full border-b border-rule border-l-4 px-2 py-1 text-left ${s.key === chosen ? "bg-blush" : "hover:bg-leaf"}`}
					style={{ borderLeftColor: intentLook(s.intent).colour }}
					onClick={() => onChoose(s)}
				>
					<span className="block leading-tight">{s.name}</span>
					<span className="block truncate text-xs text-soft">{about(s)}</span>
				</button>
			)}
		/>
	);
}
