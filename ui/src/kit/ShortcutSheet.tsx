import * as w from "../words/catalogue/kit";
import { Dialog } from "./Dialog";
import { Button } from "./kit";

/** Shortcuts by what they are for: a title, and keys with what they do. */
export type Sheet = readonly (readonly [string, readonly (readonly [string, string])[]])[];

/** The shortcuts of every screen but the treatment room. */
export const everywhere: Sheet[number] = [
	w.onEveryScreen,
	[
		["/", w.findAClient],
		["Alt + N", w.openTheNextClient],
		["Alt + 1 … 6", w.openAPlace],
		["Alt + T", w.foldTheDayStrip],
		["?", w.theseShortcuts],
	],
];

/** The shortcuts of a screen that has none of its own. */
export function ShortcutsEverywhere({ onClose }: { onClose: () => void }) {
	return <ShortcutSheet open onClose={onClose} sheet={[everywhere]} />;
}

/** Every shortcut of a screen on one sheet. */
export function ShortcutSheet({ open, onClose, sheet }: { open: boolean; onClose: () => void; sheet: Sheet }) {
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
			<div className="mt-4 flex justify-end">
				<Button onClick={onClose}>{w.close}</Button>
			</div>
		</Dialog>
	);
}
