import { useEffect, useState } from "react";

/** What a scale says: what it shows in g, and whether it stands still; null while none is plugged in. */
export type Reading = { grams: string; still: boolean } | null;

/** The channel on which the stand-in scale speaks to the other windows of this browser. */
export const channel = "soft-palm-scale";

/** A reading is believed for this long: a scale that is unplugged says nothing more. */
const believed = 1500;

/** What the scale on the bench shows. */
export function useScale(): Reading {
	const [reading, setReading] = useState<Reading>(null);
	useEffect(() => {
		if (typeof BroadcastChannel === "undefined") return;
		const line = new BroadcastChannel(channel);
		let silent: number | undefined;
		line.onmessage = (e: MessageEvent<Reading>) => {
			window.clearTimeout(silent);
			setReading(e.data);
			if (e.data) silent = window.setTimeout(() => setReading(null), believed);
		};
		return () => {
			window.clearTimeout(silent);
			line.close();
		};
	}, []);
	return reading;
}
