import { type KeyboardEvent, type MouseEvent, memo, useEffect, useRef } from "react";
import type { Schemas } from "../../api/client";
import { intentLook } from "../../face/intents";
import { clock } from "../../kit/format";
import * as w from "../../words/catalogue/workbench";
import { doseText, phaseWords, sideWords } from "../../words/sentences";
import type { Protocol } from "./useBench";

type Props = {
	evaluation: Schemas["Evaluation"];
	protocol: Protocol;
	selected: string | undefined;
	/** All steps that are chosen, the selected one among them. */
	chosen: readonly string[];
	onSelect: (id: string, how?: "only" | "to" | "also") => void;
	onMove?: (by: -1 | 1) => void;
	onRemove?: () => void;
	onRound?: (round: Schemas["Round"]) => void;
};

/** The steps in order with their times: the accessible twin of the travel chart. */
export const StepList = memo(function StepList({ evaluation, protocol, selected, chosen, onSelect, onMove, onRemove, onRound }: Props) {
	const worst = new Map<string, string>();
	for (const f of evaluation.findings) if (!f.dismissed) for (const s of f.steps) if (!worst.has(s)) worst.set(s, f.severity);
	const list = useRef<HTMLOListElement>(null);
	useEffect(() => {
		if (selected) list.current?.querySelector(`[data-step="${selected}"]`)?.scrollIntoView({ block: "nearest" });
	}, [selected]);
	function key(e: KeyboardEvent, i: number) {
		const by = e.key === "ArrowDown" ? 1 : e.key === "ArrowUp" ? -1 : 0;
		if (by !== 0) {
			e.preventDefault();
			if (e.altKey) return onMove?.(by);
			const to = evaluation.steps[i + by];
			if (to) {
				onSelect(to.id, e.shiftKey ? "to" : "only");
				list.current?.querySelector<HTMLButtonElement>(`[data-step="${to.id}"]`)?.focus();
			}
		}
		if (e.key === "Delete") {
			e.preventDefault();
			onRemove?.();
		}
	}
	return (
		<ol ref={list} className="m-0 list-none p-0" aria-label={w.steps}>
			{evaluation.steps.map((s, i) => {
				const own = protocol.steps[i];
				const before = protocol.steps[i - 1];
				const phase = evaluation.steps[i - 1]?.phase !== s.phase;
				const round = own?.round && own.round !== before?.round ? protocol.rounds?.find((r) => r.id === own.round) : undefined;
				const look = intentLook(s.intent);
				const on = chosen.includes(s.id);
				const mark = worst.get(s.id);
				return (
					<li key={s.id}>
						{phase && (
							<p className="m-0 mt-2 border-b border-rule px-2 font-serif text-sm font-semibold text-soft">{phaseWords[s.phase]}</p>
						)}
						{round && (
							<div className="flex min-h-9 items-center gap-2 border-l-4 border-ink px-2 text-sm">
								<span className="font-semibold">
									{w.roundOfCount({ count: protocol.steps.filter((x) => x.round === round.id).length })}
								</span>
								<input
									type="number"
									aria-label={w.rounds}
									className="num w-14 rounded-sm border border-[#9c8873] bg-leaf px-1 py-0.5"
									min={1}
									max={20}
									value={round.times}
									disabled={!onRound}
									onChange={(e) => {
										const n = Math.round(Number(e.target.value));
										if (n >= 1 && n <= 20)
											onRound?.({
												...round,
												times: n,
												...(round.min ? { min: Math.min(round.min, n) } : {}),
												...(round.max ? { max: Math.max(round.max, n) } : {}),
											});
									}}
								/>
								<span>{w.times}</span>
								<span className="ml-auto flex items-center gap-1 text-xs text-soft">
									<input
										type="number"
										aria-label={w.roundsAtLeast}
										className="num w-11 rounded-sm border border-[#9c8873] bg-leaf px-1 py-0.5"
										min={1}
										max={round.times}
										placeholder="–"
										value={round.min || ""}
										disabled={!onRound}
										onChange={(e) => onRound?.(bound(round, "min", e.target.value))}
									/>
									{w.to}
									<input
										type="number"
										aria-label={w.roundsAtMost}
										className="num w-11 rounded-sm border border-[#9c8873] bg-leaf px-1 py-0.5"
										min={round.times}
										max={20}
										placeholder="–"
										value={round.max || ""}
										disabled={!onRound}
										onChange={(e) => onRound?.(bound(round, "max", e.target.value))}
									/>
								</span>
							</div>
						)}
						<button
							type="button"
							data-step={s.id}
							aria-current={s.id === selected}
							aria-pressed={on}
							tabIndex={s.id === selected || (!selected && i === 0) ? 0 : -1}
							onClick={(e: MouseEvent) => onSelect(s.id, e.shiftKey ? "to" : e.ctrlKey || e.metaKey ? "also" : "only")}
							onKeyDown={(e) => key(e, i)}
							className={`grid min-h-11 w-full grid-cols-[44px_minmax(0,1fr)_auto] items-center gap-2 border-l-4 px-2 py-1 text-left ${on ? "bg-blush" : "hover:bg-leaf"} ${own?.round ? "pl-4" : ""}`}
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
									{own?.optional ? w.optional : ""}
								</span>
							</span>
							<span className="num text-right text-sm">
								{clock(s.seconds)}
								{mark && mark !== "note" && (
									<span className={`ml-1 font-bold ${mark === "stop" ? "text-[#a31313]" : "text-persimmon"}`} title={mark}>
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

/** A round with another bound; empty takes it away. */
function bound(r: Schemas["Round"], which: "min" | "max", text: string): Schemas["Round"] {
	const n = Math.round(Number(text));
	const { [which]: _, ...rest } = r;
	if (text === "" || !Number.isFinite(n)) return rest;
	return { ...rest, [which]: which === "min" ? Math.max(1, Math.min(n, r.times)) : Math.min(20, Math.max(n, r.times)) };
}
