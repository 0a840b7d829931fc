import { useSortable } from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import { type KeyboardEvent, type MouseEvent, memo } from "react";
import { intentLook } from "../../face/intents";
import { clock } from "../../kit/format";
import * as w from "../../words/catalogue/workbench";

type Props = {
	id: string;
	index: number;
	name: string;
	/** Its repetitions, sides and whether it is optional, in short. */
	says: string;
	start: number;
	seconds: number;
	intent: string;
	/** The gravest finding about it. */
	mark: string | undefined;
	inRound: boolean;
	current: boolean;
	chosen: boolean;
	focusable: boolean;
	onSelect: (id: string, how: "only" | "to" | "also") => void;
	onKey: (e: KeyboardEvent, index: number) => void;
	/** Whether it can be dragged. */
	moves: boolean;
};

const strokeLine: Record<string, string> = { lift: "solid", drain: "dotted", open: "dashed" };

/** One step of the list, with a handle to drag it by pointer or keyboard. */
export const StepRow = memo(function StepRow(p: Props) {
	const drag = useSortable({ id: p.id, disabled: !p.moves });
	return (
		<div
			ref={drag.setNodeRef}
			className={`flex ${p.chosen ? "bg-blush" : "hover:bg-leaf"} ${drag.isDragging ? "relative z-10 bg-blush shadow-md" : ""}`}
			style={{ transform: CSS.Translate.toString(drag.transform), transition: drag.transition }}
		>
			<button
				type="button"
				data-step={p.id}
				aria-current={p.current}
				aria-pressed={p.chosen}
				tabIndex={p.focusable ? 0 : -1}
				onClick={(e: MouseEvent) => p.onSelect(p.id, e.shiftKey ? "to" : e.ctrlKey || e.metaKey ? "also" : "only")}
				onKeyDown={(e) => p.onKey(e, p.index)}
				className={`grid min-h-11 min-w-0 flex-1 grid-cols-[44px_minmax(0,1fr)_auto] items-center gap-2 border-l-4 py-1 pl-2 text-left ${p.moves ? "" : "pr-2"} ${p.inRound ? "pl-4" : ""}`}
				style={{ borderLeftColor: intentLook(p.intent).colour, borderLeftStyle: (strokeLine[p.intent] ?? "double") as "solid" }}
			>
				<span className="num text-sm text-soft">{clock(p.start)}</span>
				<span className="min-w-0">
					<span className="block truncate leading-tight">{p.name}</span>
					<span className="block truncate text-xs text-soft">{p.says}</span>
				</span>
				<span className="num text-right text-sm">
					{clock(p.seconds)}
					{p.mark && p.mark !== "note" && (
						<span className={`ml-1 font-bold ${p.mark === "stop" ? "text-[#a31313]" : "text-persimmon"}`} title={p.mark}>
							▲
						</span>
					)}
				</span>
			</button>
			{p.moves && (
				<button
					type="button"
					ref={drag.setActivatorNodeRef}
					{...drag.attributes}
					{...drag.listeners}
					tabIndex={p.focusable ? 0 : -1}
					aria-label={w.moveStep({ name: p.name })}
					title={w.dragToMove}
					className="grid w-6 shrink-0 cursor-grab touch-none place-items-center text-soft active:cursor-grabbing"
				>
					<svg width="6" height="18" aria-hidden="true" className="opacity-60">
						{[2, 9, 16].map((y) => (
							<rect key={y} width="6" height="1.6" y={y - 1} fill="currentColor" />
						))}
					</svg>
				</button>
			)}
		</div>
	);
});
