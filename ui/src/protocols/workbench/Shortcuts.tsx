import { Dialog } from "../../kit/Dialog";
import * as w from "../../words/catalogue/workbench";

const sheet: [string, [string, string][]][] = [
	[
		w.steps,
		[
			["↑ ↓", w.stepBeforeStepAfter],
			["Shift + ↑ ↓", w.chooseSeveral],
			["Alt + ↑ ↓", w.moveUpDown],
			["Ctrl + C, X, V", w.copyCutPasteHereOrIn],
			["Ctrl + D", "duplicate"],
			["G", w.makeRoundChosenStepsOrUngroup],
			["Delete", "remove"],
			["Ctrl + Z, Ctrl + Y", w.undoRedo],
		],
	],
	[
		w.theChosenStep,
		[
			["0 to 5", "pressure"],
			["+ −", w.moreFewerRepetitions],
			["D", w.drawItsPathOnFaceArrows],
		],
	],
	[
		w.view,
		[
			["Space", w.playPause],
			["V", w.nextViewOfTheFace],
			["L", w.lymphRoutes],
			["H", w.workOnEachZone],
			["B", w.fromBehindTheHead],
		],
	],
	[
		w.panels,
		[
			["A", w.addAStroke],
			["E", w.theStep],
			["F", "findings"],
			["R", w.thePlan],
			["P", w.printTheCard],
			["?", w.theseShortcuts],
		],
	],
];

/** Every shortcut of the workbench on one sheet. */
export function Shortcuts({ open, onClose }: { open: boolean; onClose: () => void }) {
	return (
		<Dialog open={open} onClose={onClose} title={w.shortcuts}>
			<div className="grid gap-4 sm:grid-cols-2">
				{sheet.map(([title, rows]) => (
					<section key={title}>
						<h3 className="mt-0 mb-1 text-lg">{title}</h3>
						<dl className="m-0 grid grid-cols-[auto_minmax(0,1fr)] gap-x-3 gap-y-1 text-sm">
							{rows.map(([keys, does]) => (
								<div key={keys} className="contents">
									<dt className="font-semibold whitespace-nowrap">{keys}</dt>
									<dd className="m-0">{does}</dd>
								</div>
							))}
						</dl>
					</section>
				))}
			</div>
		</Dialog>
	);
}
