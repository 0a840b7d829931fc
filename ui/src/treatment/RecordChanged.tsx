import type { Schemas } from "../api/client";
import { Button } from "../kit/kit";
import * as k from "../words/catalogue/kit";
import * as w from "../words/catalogue/treatment";
import type { useOf } from "./uses";

type Props = {
	mine: { note: string; uses: readonly ReturnType<typeof useOf>[] };
	theirs: Schemas["Record"];
	view: Schemas["RecordView"];
	onSettled: (keepMine: boolean) => void;
};

type Said = { product: string; how?: string; count?: string; measure?: string; before?: string; after?: string };

/** How much was used of each product, as it was measured. */
function said(uses: readonly Said[]): Record<string, string> {
	return Object.fromEntries(
		uses.map((u) => [
			u.product,
			u.how === "weighed"
				? w.weighedFromTo({ before: Number(u.before ?? 0), after: Number(u.after ?? 0) })
				: u.how === "counted"
					? `${Number(u.count ?? 0)} ${u.measure ?? ""}`
					: w.asPlanned,
		]),
	);
}

/** Both texts of a record that was saved on another screen meanwhile; nothing that was typed is lost. */
export function RecordChanged({ mine, theirs, view, onSettled }: Props) {
	const other = said(theirs.uses);
	const own = said(mine.uses);
	const differ = view.record.uses.filter((u) => other[u.product] !== undefined && other[u.product] !== own[u.product]);
	const columns = [
		{ title: k.yours, note: mine.note, used: own, keep: true, act: w.keepYours },
		{ title: k.savedMeanwhile, note: theirs.note, used: other, keep: false, act: w.takeWhatWasSaved },
	];
	return (
		<section role="alert" aria-label={k.changedMeanwhile} className="mb-6 border border-persimmon bg-paper p-4">
			<p className="mt-0 mb-3 font-semibold">{w.thisRecordWasSavedOnAnotherScreen}</p>
			<div className="grid gap-6 md:grid-cols-2">
				{columns.map((c) => (
					<div key={c.title} className="grid content-start gap-2">
						<h2 className="m-0 text-xl">{c.title}</h2>
						<ul className="num m-0 list-none p-0">
							{differ.map((u) => (
								<li key={u.product}>
									{u.name}: {c.used[u.product]}
								</li>
							))}
						</ul>
						<p className="m-0 max-h-48 overflow-y-auto whitespace-pre-wrap">{c.note || w.noTreatmentNotes}</p>
						<p className="m-0">
							<Button onClick={() => onSettled(c.keep)}>{c.act}</Button>
						</p>
					</div>
				))}
			</div>
		</section>
	);
}
