import { type KeyboardEvent, type MouseEvent, memo, type PointerEvent } from "react";
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
	/** Where it can be dragged: a hand is laid on its handle. */
	onGrab: ((e: PointerEvent | KeyboardEvent, id: string) => void) | undefined;
};

const strokeLine: Record<string, string> = { lift: "solid", drain: "dotted", open: "dashed" };

/**
 * One step of the list, with a handle to drag it by pointer or keyboard. The browser lays out only the rows in sight; in return
 * a row clips what reaches beyond it, so the focus ring is drawn inside.
 */
export const StepRow = memo(function StepRow(p: Props) {
	return (
		<div
			className={`flex [contain-intrinsic-size:auto_44px] [content-visibility:auto] data-dragged:relative data-dragged:z-10 data-dragged:bg-blush data-dragged:shadow-md ${p.chosen ? "bg-blush" : "hover:bg-leaf"}`}
		>
			<button
				type="button"
				data-step={p.id}
				aria-current={p.current}
				aria-pressed={p.chosen}
				tabIndex={p.focusable ? 0 : -1}
				onClick={(e: MouseEvent) => p.onSelect(p.id, e.shiftKey ? "to" : e.ctrlKey || e.metaKey ? "also" : "only")}
				onKeyDown={(e) => p.onKey(e, p.index)}
				className={`grid min-h-11 min-w-0 flex-1 focus-visible:-outline-offset-3 grid-cols-[44px_minmax(0,1fr)_auto] items-center gap-2 border-l-4 py-1 pl-2 text-left ${p.onGrab ? "pr-1" : "pr-2"} ${p.inRound ? "pl-4" : ""}`}
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
			{p.onGrab && <Handle id={p.id} name={p.name} focusable={p.focusable} onGrab={p.onGrab} />}
		</div>
	);
});

/** Moves its row. It does not draw when the row's times change. */
const Handle = memo(function Handle({
	id,
	name,
	focusable,
	onGrab,
}: Pick<Props, "id" | "name" | "focusable"> & { onGrab: NonNullable<Props["onGrab"]> }) {
	return (
		<button
			type="button"
			data-handle={id}
			onPointerDown={(e) => onGrab(e, id)}
			onKeyDown={(e) => onGrab(e, id)}
			tabIndex={focusable ? 0 : -1}
			aria-label={w.moveStep({ name })}
			title={w.dragToMove}
			className="grid w-6 shrink-0 cursor-grab focus-visible:-outline-offset-3 touch-none place-items-center text-soft active:cursor-grabbing"
		>
			<span className="block h-4 w-1.5 bg-[repeating-linear-gradient(#6b526399_0_1.6px,transparent_1.6px_7px)]" aria-hidden="true" />
		</button>
	);
});
