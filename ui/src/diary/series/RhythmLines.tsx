import { useState } from "react";
import type { Schemas } from "../../api/client";
import { Button } from "../../kit/kit";
import * as w from "../../words/catalogue/series";

type Item = Schemas["SeriesItem"];
const numbers = ["ideal", "least", "most", "rest"] as const;
const marks = [
	["draining", w.markDraining],
	["deep", w.markDeep],
	["glow", w.markGlow],
] as const;
const heads = { ideal: w.gapIdeal, least: w.gapLeast, most: w.gapMost, rest: w.gapRest };

/** What of a line is sent: not what is only shown. */
const asItem = ({ n, protocol, also, ideal, least, most, rest, draining, deep, glow }: Item): Item => ({
	n,
	protocol,
	ideal,
	least,
	most,
	rest,
	draining: draining ?? false,
	deep: deep ?? false,
	glow: glow ?? false,
	...(also ? { also } : {}),
});

/** The rhythm line by line, as the finder sees it: days from the visit before, hours of rest, and what each visit is. */
export function RhythmLines({ items, changed, onChange }: { items: readonly Item[]; changed: boolean; onChange: (gaps: Item[]) => void }) {
	const [open, setOpen] = useState(false);
	const [lines, setLines] = useState<Item[] | null>(null);
	const shown = lines ?? items;
	const put = (n: number, part: Partial<Item>) => setLines(shown.map((x) => (x.n === n ? { ...x, ...part } : x)));
	return (
		<details className="mb-3" open={open} onToggle={(e) => setOpen(e.currentTarget.open)}>
			<summary className="min-h-6 cursor-pointer text-sm text-soft">{changed ? w.rhythmChanged : w.rhythmLines}</summary>
			{open && (
				<>
					<p className="m-0 text-sm text-soft">{w.rhythmExplained}</p>
					<table className="num mt-1 w-full border-collapse text-sm">
						<thead>
							<tr className="text-left text-soft">
								<th aria-label={w.visit} />
								{numbers.map((f) => (
									<th key={f} className="font-semibold">
										{heads[f]}
									</th>
								))}
								<th className="font-semibold">{w.visitIs}</th>
							</tr>
						</thead>
						<tbody>
							{shown.map((x) => (
								<tr key={x.n} className="border-t border-rule align-top">
									<th className="pr-1 text-right font-semibold">{x.n}</th>
									{numbers.map((f) => (
										<td key={f} className="pr-1">
											{x.n > 1 && (
												<input
													className="field min-h-8! w-11! px-1!"
													inputMode="numeric"
													aria-label={`${w.visit} ${x.n}: ${heads[f]}`}
													value={x[f]}
													onChange={(e) => put(x.n, { [f]: Number(e.target.value.replace(/\D/g, "").slice(0, 3)) })}
												/>
											)}
										</td>
									))}
									<td>
										{marks.map(([key, label]) => (
											<label key={key} className="flex min-h-6 items-center gap-1">
												<input
													type="checkbox"
													className="size-6 accent-persimmon"
													checked={x[key] ?? false}
													onChange={(e) => put(x.n, { [key]: e.target.checked })}
												/>
												{label}
											</label>
										))}
									</td>
								</tr>
							))}
						</tbody>
					</table>
					<div className="mt-2 flex gap-2">
						<Button
							disabled={!lines}
							onClick={() => {
								if (lines) onChange(lines.map(asItem));
								setLines(null);
							}}
						>
							{w.useTheseLines}
						</Button>
						{(changed || lines) && (
							<Button
								variant="quiet"
								onClick={() => {
									setLines(null);
									onChange([]);
								}}
							>
								{w.asTheRhythmSays}
							</Button>
						)}
					</div>
				</>
			)}
		</details>
	);
}
