import type { Schemas } from "../../api/client";
import * as w from "../../words/catalogue/workbench";

type Round = Schemas["Round"];

/** The line above a round's first step: of how many steps it is, how often, and between which bounds. */
export function RoundHead({ round, steps, onRound }: { round: Round; steps: number; onRound?: ((r: Round) => void) | undefined }) {
	const field = "num rounded-sm border border-[#9c8873] bg-leaf px-1 py-0.5";
	return (
		<div className="flex min-h-9 items-center gap-2 border-l-4 border-ink px-2 text-sm">
			<span className="font-semibold">{w.roundOfCount({ count: steps })}</span>
			<input
				type="number"
				aria-label={w.rounds}
				className={`${field} w-14`}
				min={1}
				max={20}
				value={round.times}
				disabled={!onRound}
				onChange={(e) => {
					const n = Math.round(Number(e.target.value));
					if (n >= 1 && n <= 20) onRound?.(times(round, n));
				}}
			/>
			<span>{w.times}</span>
			<span className="ml-auto flex items-center gap-1 text-xs text-soft">
				<input
					type="number"
					aria-label={w.roundsAtLeast}
					className={`${field} w-11`}
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
					className={`${field} w-11`}
					min={round.times}
					max={20}
					placeholder="–"
					value={round.max || ""}
					disabled={!onRound}
					onChange={(e) => onRound?.(bound(round, "max", e.target.value))}
				/>
			</span>
		</div>
	);
}

/** A round of another number; its bounds give way. */
function times(r: Round, n: number): Round {
	return { ...r, times: n, ...(r.min ? { min: Math.min(r.min, n) } : {}), ...(r.max ? { max: Math.max(r.max, n) } : {}) };
}

/** A round with another bound; empty takes it away. */
function bound(r: Round, which: "min" | "max", text: string): Round {
	const n = Math.round(Number(text));
	const { [which]: _, ...rest } = r;
	if (text === "" || !Number.isFinite(n)) return rest;
	return { ...rest, [which]: which === "min" ? Math.max(1, Math.min(n, r.times)) : Math.min(20, Math.max(n, r.times)) };
}
