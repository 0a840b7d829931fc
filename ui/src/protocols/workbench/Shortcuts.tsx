import { everywhere, type Sheet, ShortcutSheet } from "../../kit/ShortcutSheet";
import * as w from "../../words/catalogue/workbench";

const sheet: Sheet = [
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
export function Shortcuts({ onClose }: { onClose: () => void }) {
	return <ShortcutSheet open onClose={onClose} sheet={[...sheet, everywhere]} />;
}
