import { type KeyboardEvent, memo, useEffect, useRef } from "react";
import type { Schemas } from "../api/client";
import { intentLook } from "../face/intents";
import { clock } from "../format";
import { doseText, phaseWords, sideWords } from "../words/en";

type Props = {
	evaluation: Schemas["Evaluation"];
	selected: string | undefined;
	onSelect: (id: string) => void;
	onMove?: (id: string, by: -1 | 1) => void;
	onRemove?: (id: string) => void;
};

/** The steps in order with their times: the accessible twin of the travel chart. */
export const StepList = memo(function StepList({ evaluation, selected, onSelect, onMove, onRemove }: Props) {
	const worst = new Map<string, string>();
	for (const f of evaluation.findings) for (const s of f.steps) if (!worst.has(s)) worst.set(s, f.severity);
	const list = useRef<HTMLOListElement>(null);
	useEffect(() => {
		list.current?.querySelector('[aria-current="true"]')?.scrollIntoView({ block: "nearest" });
	}, [selected]);
	function key(e: KeyboardEvent, i: number) {
		const id = evaluation.steps[i]!.id;
		const by = e.key === "ArrowDown" ? 1 : e.key === "ArrowUp" ? -1 : 0;
		if (by !== 0) {
			e.preventDefault();
			if (e.altKey) onMove?.(id, by);
			else {
				const to = evaluation.steps[i + by];
				if (to) {
					onSelect(to.id);
					(list.current?.querySelectorAll<HTMLButtonElement>("button[data-step]")[i + by] ?? null)?.focus();
				}
			}
		}
		if (e.key === "Delete") {
			e.preventDefault();
			onRemove?.(id);
		}
	}
	return (
		<ol ref={list} className="m-0 list-none p-0" aria-label="Steps">
			{evaluation.steps.map((s, i) => {
				const phase = evaluation.steps[i - 1]?.phase !== s.phase;
				const look = intentLook(s.intent);
				const on = s.id === selected;
				return (
					<li key={s.id}>
						{phase && (
							<p className="m-0 mt-2 border-b border-rule px-2 font-serif text-sm font-semibold text-soft">{phaseWords[s.phase]}</p>
						)}
						<button
							type="button"
							data-step={s.id}
							aria-current={on}
							tabIndex={on || (!selected && i === 0) ? 0 : -1}
							onClick={() => onSelect(s.id)}
							onKeyDown={(e) => key(e, i)}
							className={`grid min-h-11 w-full grid-cols-[44px_minmax(0,1fr)_auto] items-center gap-2 border-l-4 px-2 py-1 text-left ${on ? "bg-blush" : "hover:bg-leaf"}`}
							style={{
								borderLeftColor: look.colour,
								borderLeftStyle:
									s.intent === "lift" ? "solid" : s.intent === "drain" ? "dotted" : s.intent === "open" ? "dashed" : "double",
							}}
						>
							<span className="num text-sm text-soft">{clock(s.start)}</span>
							<span className="min-w-0">
								<span className="block truncate leading-tight">{s.name}</span>
								<span className="block truncate text-xs text-soft">
									{doseText(s.dose)}
									{s.sides === "mid" || s.sides === "both" ? "" : `, ${sideWords[s.sides]}`}
								</span>
							</span>
							<span className="num text-right text-sm">
								{clock(s.seconds)}
								{worst.get(s.id) && worst.get(s.id) !== "note" && (
									<span
										className={`ml-1 font-bold ${worst.get(s.id) === "stop" ? "text-[#a31313]" : "text-persimmon"}`}
										title={worst.get(s.id)}
									>
										▲
									</span>
								)}
							</span>
						</button>
					</li>
				);
			})}
		</ol>
	);
});
