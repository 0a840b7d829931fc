import { type Sheet, ShortcutSheet } from "../kit/ShortcutSheet";
import * as w from "../words/catalogue/treatment";

const sheet: Sheet = [
	[
		w.room,
		[
			["Space", w.pauseOrResume],
			["→, Page Down", w.next],
			["←, Page Up", w.back],
			["S", w.skip],
			["↑", w.stayLonger],
			["↓", w.lessPressureToday],
			["T", w.tenderHere],
			["A", w.addedProduct],
			["R", w.rednessHere],
			["L", w.timeLeftAndRefit],
			["C", w.cueNowWord],
			["M", w.tonesOnOff],
			["Z", w.undoWish],
			["Q", w.quietClientAsleep],
			["E", w.endOrLeave],
			["X, Escape", w.stop],
			["?", w.theseShortcuts],
		],
	],
];

/** The keys of the treatment room, which a pedal may send too. */
export function RoomShortcuts({ open, onClose }: { open: boolean; onClose: () => void }) {
	return <ShortcutSheet open={open} onClose={onClose} sheet={sheet} />;
}
