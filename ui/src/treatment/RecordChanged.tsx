import type { Schemas } from "../api/client";
import { Button } from "../kit/kit";
import * as k from "../words/catalogue/kit";
import * as w from "../words/catalogue/treatment";

type Props = {
	mine: { note: string; real: Record<string, string> };
	theirs: Schemas["Record"];
	view: Schemas["RecordView"];
	onSettled: (keepMine: boolean) => void;
};

/** Both texts of a record that was saved on another screen meanwhile; nothing that was typed is lost. */
export function RecordChanged({ mine, theirs, view, onSettled }: Props) {
	const other = Object.fromEntries(theirs.uses.map((u) => [u.product, u.real]));
	const differ = view.record.uses.filter(
		(u) => other[u.product] !== undefined && Number(other[u.product]) !== Number(mine.real[u.product]?.replace(",", ".")),
	);
	const columns = [
		{ title: k.yours, note: mine.note, used: mine.real, keep: true, act: w.keepYours },
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
									{u.name}: {c.used[u.product]} {u.unit}
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
