import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { preparationQuery } from "../api/queries";
import { Loading } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/diary";

/** What to get ready for the treatments of today that are still to come. */
export function Preparation() {
	const { practitioner, at } = useSession();
	const [all, setAll] = useState(false);
	const { data, error, refetch } = useQuery(preparationQuery(all ? "" : (practitioner ?? "")));
	if (!data) return <Loading of={w.prepareToday} error={error} retry={() => refetch()} />;
	return (
		<section aria-labelledby="prepare" className="mb-8">
			<div className="flex items-baseline justify-between gap-3">
				<h2 id="prepare" className="m-0 text-xl">
					{w.prepareToday}
				</h2>
				{practitioner && (
					<button type="button" className="min-h-11 text-sm underline underline-offset-4" onClick={() => setAll(!all)}>
						{all ? w.justMine : w.wholeStudio}
					</button>
				)}
			</div>
			{data.treatments === 0 ? (
				<p className="m-0 text-soft">{w.nothingToPrepare}</p>
			) : (
				<>
					<dl className="m-0 text-[0.95rem]">
						<Part name={w.tools}>
							{data.tools.map((t) => (
								<li key={t.key}>
									{t.uses > 1 ? w.ofWhich({ uses: t.uses, name: t.name }) : t.name}
									{t.short && (
										<span className="font-semibold text-persimmon-deep"> · {w.piecesAtOnce({ atOnce: t.atOnce, pieces: t.pieces })}</span>
									)}
								</li>
							))}
						</Part>
						<Part name={w.products}>
							{data.products.map((p) => (
								<li key={p.key} className="flex justify-between gap-3">
									<span className="min-w-0">
										{p.name}
										{data.short.includes(p.key) && <span className="font-semibold text-persimmon-deep"> · {w.notEnoughLeft}</span>}
									</span>
									<span className="num shrink-0">{w.mlOfProduct({ ml: p.ml })}</span>
								</li>
							))}
						</Part>
						<Part name={w.linen}>
							<li>
								{[
									w.towels({ n: data.towels }),
									data.bowls > 0 && w.bowls({ n: data.bowls }),
									data.gloves > 0 && w.glovePairs({ n: data.gloves }),
								]
									.filter(Boolean)
									.join(", ")}
							</li>
						</Part>
						{data.temper.length > 0 && (
							<Part name={w.temper}>
								{data.temper.map((t) => (
									<li key={`${t.key}${t.for}`} className="num">
										{(t.how === "chill" ? w.chillAt : w.warmAt)({ at: at.time(t.at), name: t.name, time: at.time(t.for) })}
									</li>
								))}
							</Part>
						)}
					</dl>
					<p className="mt-2 mb-0 text-sm text-soft">{w.prepareForTreatments({ n: data.treatments })}</p>
				</>
			)}
		</section>
	);
}

function Part({ name, children }: { name: string; children: ReactNode }) {
	return (
		<div className="border-t border-rule py-1.5">
			<dt className="text-sm text-soft">{name}</dt>
			<dd className="m-0">
				<ul className="m-0 list-none p-0">{children}</ul>
			</dd>
		</div>
	);
}
