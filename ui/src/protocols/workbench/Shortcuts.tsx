import { Dialog } from "../../kit/Dialog";

const sheet: [string, [string, string][]][] = [
	[
		"Steps",
		[
			["↑ ↓", "step before, step after"],
			["Shift + ↑ ↓", "choose several"],
			["Alt + ↑ ↓", "move up, down"],
			["Ctrl + C, X, V", "copy, cut, paste, here or in another protocol"],
			["Ctrl + D", "duplicate"],
			["G", "make a round of the chosen steps, or ungroup it"],
			["Delete", "remove"],
			["Ctrl + Z, Ctrl + Y", "undo, redo"],
		],
	],
	[
		"The chosen step",
		[
			["0 to 5", "pressure"],
			["+ −", "more, fewer repetitions"],
			["D", "draw its path on the face: arrows, Enter; Backspace takes the last zone back"],
		],
	],
	[
		"View",
		[
			["Space", "play, pause"],
			["V", "next view of the face"],
			["L", "lymph routes"],
			["H", "work on each zone"],
			["B", "from behind the head"],
		],
	],
	[
		"Panels",
		[
			["A", "add a stroke"],
			["E", "the step"],
			["F", "findings"],
			["R", "the plan"],
			["P", "print the card"],
			["?", "these shortcuts"],
		],
	],
];

/** Every shortcut of the workbench on one sheet. */
export function Shortcuts({ open, onClose }: { open: boolean; onClose: () => void }) {
	return (
		<Dialog open={open} onClose={onClose} title="Shortcuts">
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
