import type { ReactNode } from "react";
import type { Schemas } from "../../api/client";
import { Button } from "../../kit/kit";
import * as w from "../../words/catalogue/series";
import { relaxed, sentence } from "./say";

/** Where there is none: what would have to give way, and what each limit gives alone. */
export function NoSeries({
	answer,
	onRelax,
	children,
}: {
	answer: Schemas["SeriesAnswer"];
	onRelax: (names: string[]) => void;
	children: ReactNode;
}) {
	return (
		<div className="max-w-3xl">
			<p className="m-0 font-serif text-3xl font-semibold">{w.noSeries}</p>
			{answer.relax.length === 0 && <p>{answer.notAllTried ? w.notAllTried : w.evenThree}</p>}
			{answer.relax.length > 0 && (
				<>
					<h2 className="mt-3 mb-1 text-xl">{(answer.relax[0]?.limits.length ?? 1) > 1 ? w.toGiveWayTogether : w.toGiveWay}</h2>
					<ul className="m-0 list-none p-0">
						{answer.relax.map((r) => (
							<li key={relaxed(r.limits)} className="flex items-center justify-between gap-4 border-b border-rule py-2">
								<span>
									<strong>{relaxed(r.limits)}</strong>
									<span className="block">{sentence(r.visits)}.</span>
									<span className="num text-sm text-soft">{w.costOf({ n: r.cost })}</span>
								</span>
								<Button onClick={() => onRelax(r.limits.map((l) => l.name))}>{w.useThis}</Button>
							</li>
						))}
					</ul>
				</>
			)}
			<h2 className="mt-4 mb-1 text-xl">{w.alone}</h2>
			<ul className="m-0 grid list-none gap-x-6 p-0 sm:grid-cols-2">
				{answer.alone.map((l) => (
					<li key={relaxed([l])} className="flex justify-between gap-3 border-b border-rule py-1">
						<span>{relaxed([l])}</span>
						<span className="num text-sm text-soft">{l.cost === null || l.cost === undefined ? w.stillNone : w.costOf({ n: l.cost })}</span>
					</li>
				))}
			</ul>
			<p className="mt-4 mb-0">{children}</p>
		</div>
	);
}
