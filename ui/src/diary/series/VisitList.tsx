import { Link } from "@tanstack/react-router";
import type { ReactNode } from "react";
import * as w from "../../words/catalogue/series";
import { dayOf, type Offered, shortDay, timeOf } from "./say";

export type Row = {
	/** 0 where the treatment has no visit. */
	n: number;
	visit?: Offered | undefined;
	name: string;
	/** The id of the appointment that stands for it. */
	id?: string | undefined;
	note?: ReactNode;
	/** Whether it can still be moved. */
	movable?: boolean;
};

const gapOf = (a: string, b: string) => Math.round((Date.parse(`${b}T00:00:00Z`) - Date.parse(`${a}T00:00:00Z`)) / 86_400_000);

/** The same as the garland in words, line by line; patch tests stand where they are. */
export function VisitList({
	rows,
	patches,
	products,
	focus,
	onFocus,
	onMove,
}: {
	rows: readonly Row[];
	patches: readonly Offered[];
	products: string;
	focus: number;
	onFocus: (n: number) => void;
	onMove?: ((n: number) => void) | undefined;
}) {
	const several = new Set(rows.map((r) => r.name)).size > 1;
	return (
		<ol className="m-0 list-none p-0">
			{rows.map((r, i) => {
				const before = rows[i - 1]?.visit;
				const gap = r.visit && before ? gapOf(dayOf(before.wall), dayOf(r.visit.wall)) : 0;
				const test = patches.find((t) => t.n === r.n);
				return (
					<li key={r.n} className="border-b border-rule">
						{test && (
							<p className="num m-0 grid grid-cols-[28px_minmax(0,1fr)] gap-2 py-1.5 text-sm text-soft">
								<span />
								<span>
									{products ? w.patchTestOf({ products }) : w.patchTest}, {shortDay(dayOf(test.wall))}, {timeOf(test.wall)},{" "}
									{test.practitionerName}
								</span>
							</p>
						)}
						<div className={`grid grid-cols-[28px_minmax(0,1fr)_auto] items-center gap-2 py-1 ${focus === r.n ? "bg-leaf" : ""}`}>
							<button
								type="button"
								className={`num grid h-7 w-7 place-items-center rounded-full border text-sm font-semibold ${focus === r.n ? "border-persimmon bg-persimmon text-white" : "border-rule"}`}
								aria-label={w.visitN({ n: r.n })}
								aria-pressed={focus === r.n}
								onClick={() => onFocus(r.n)}
							>
								{r.n}
							</button>
							{r.visit ? (
								<p className="m-0 min-w-0 leading-tight">
									<span className="num font-semibold">
										{r.id ? (
											<Link to="/visits/$id" params={{ id: r.id }} className="underline decoration-rule underline-offset-4">
												{shortDay(dayOf(r.visit.wall))}, {timeOf(r.visit.wall)}
											</Link>
										) : (
											`${shortDay(dayOf(r.visit.wall))}, ${timeOf(r.visit.wall)}`
										)}
									</span>
									{r.visit.changed && <strong className="text-sm"> {w.changed}</strong>}
									<span className="num block text-sm text-soft">
										{several && `${r.name}. `}
										{r.visit.practitionerName}, {r.visit.roomName}
										{gap > 0 && `; ${w.gapOf({ n: gap })}`}
										{r.note}
									</span>
								</p>
							) : (
								<p className="m-0 text-soft">{w.noAppointment}</p>
							)}
							{onMove && r.visit && r.movable !== false && (
								<button
									type="button"
									className="min-h-11 px-2 text-sm font-semibold underline decoration-rule underline-offset-4"
									aria-label={`${w.move} ${w.visitN({ n: r.n }).toLowerCase()}`}
									onClick={() => onMove(r.n)}
								>
									{w.move}
								</button>
							)}
						</div>
					</li>
				);
			})}
		</ol>
	);
}
