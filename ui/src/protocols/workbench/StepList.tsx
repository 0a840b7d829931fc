import { type ComponentType, type KeyboardEvent, memo, type PointerEvent, useCallback, useEffect, useRef, useState } from "react";
import type { Schemas } from "../../api/client";
import * as w from "../../words/catalogue/workbench";
import { doseText, phaseWords, sideWords } from "../../words/sentences";
import { RoundHead } from "./RoundHead";
import type { Grips, SortingProps } from "./Sorting";
import { StepRow } from "./StepRow";
import type { Protocol } from "./useBench";

type Props = {
	evaluation: Schemas["Evaluation"];
	protocol: Protocol;
	selected: string | undefined;
	/** All steps that are chosen, the selected one among them. */
	chosen: readonly string[];
	onSelect: (id: string, how?: "only" | "to" | "also") => void;
	onMove?: (by: -1 | 1) => void;
	/** A step, and with it all that are chosen when it is one of them, is dropped in the place of another. */
	onDrop?: (id: string, over: string) => void;
	onRemove?: () => void;
	onRound?: (round: Schemas["Round"]) => void;
};

/** The steps in order with their times: the accessible twin of the travel chart. */
export const StepList = memo(function StepList(props: Props) {
	const { evaluation, protocol, selected, chosen, onDrop, onRound } = props;
	const { steps } = evaluation;
	const worst = new Map<string, string>();
	for (const f of evaluation.findings) if (!f.dismissed) for (const s of f.steps) if (!worst.has(s)) worst.set(s, f.severity);
	const list = useRef<HTMLOListElement>(null);
	useEffect(() => {
		if (selected) list.current?.querySelector(`[data-step="${selected}"]`)?.scrollIntoView({ block: "nearest" });
	}, [selected]);

	// The rows get callbacks that stay, so that only those redraw that changed.
	const now = useRef(props);
	now.current = props;
	const select = useCallback((id: string, how: "only" | "to" | "also") => now.current.onSelect(id, how), []);
	const key = useCallback((e: KeyboardEvent, i: number) => {
		const by = e.key === "ArrowDown" ? 1 : e.key === "ArrowUp" ? -1 : 0;
		if (by !== 0) {
			e.preventDefault();
			if (e.altKey) return now.current.onMove?.(by);
			const to = now.current.evaluation.steps[i + by];
			if (to) {
				now.current.onSelect(to.id, e.shiftKey ? "to" : "only");
				list.current?.querySelector<HTMLButtonElement>(`[data-step="${to.id}"]`)?.focus();
			}
		}
		if (e.key === "Delete") {
			e.preventDefault();
			now.current.onRemove?.();
		}
	}, []);

	// Dragging is a quarter of what the workbench would load. It comes when a pointer or the focus comes to the list; while it
	// cannot be had, steps are moved by Alt and the arrow keys, and it is asked for again the next time.
	const [Sorting, setSorting] = useState<ComponentType<SortingProps>>();
	const come = useCallback(() => {
		import("./Sorting").then(
			(m) => setSorting(() => m.Sorting),
			() => {},
		);
	}, []);
	const grips = useRef<Grips>({ of: new Map() });
	const grab = useCallback((e: PointerEvent | KeyboardEvent, id: string) => {
		const grip = grips.current.of.get(id);
		if (grip) return grip(e);
		grips.current.waiting = { id, e };
		if (e.type === "pointerdown") addEventListener("pointerup", () => (grips.current.waiting = undefined), { once: true });
	}, []);
	return (
		<>
			<ol ref={list} className="m-0 list-none p-0" aria-label={w.steps} onPointerEnter={come} onFocus={come}>
				{steps.map((s, i) => {
					const own = protocol.steps[i];
					const phase = steps[i - 1]?.phase !== s.phase;
					const round =
						own?.round && own.round !== protocol.steps[i - 1]?.round ? protocol.rounds?.find((r) => r.id === own.round) : undefined;
					return (
						<li key={s.id}>
							{phase && (
								<p className="m-0 mt-2 border-b border-rule px-2 font-serif text-sm font-semibold text-soft">{phaseWords[s.phase]}</p>
							)}
							{round && <RoundHead round={round} steps={protocol.steps.filter((x) => x.round === round.id).length} onRound={onRound} />}
							<StepRow
								id={s.id}
								index={i}
								name={s.name}
								says={`${doseText(s.dose)}${s.sides === "mid" || s.sides === "both" ? "" : `, ${sideWords[s.sides]}`}${own?.optional ? w.optional : ""}`}
								start={s.start}
								seconds={s.seconds}
								intent={s.intent}
								mark={worst.get(s.id)}
								inRound={Boolean(own?.round)}
								current={s.id === selected}
								chosen={chosen.includes(s.id)}
								focusable={s.id === selected || (!selected && i === 0)}
								onSelect={select}
								onKey={key}
								onGrab={onDrop && grab}
							/>
						</li>
					);
				})}
			</ol>
			{Sorting && onDrop && <Sorting steps={steps} list={list} grips={grips} onDrop={onDrop} />}
		</>
	);
});
