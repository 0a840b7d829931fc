import { useEffect, useRef, useState } from "react";
import { Button } from "../kit/kit";
import { channel, type Reading } from "../kit/scale";
import * as w from "../words/catalogue/shelf";

const tick = 250;

/** A stand-in for the scale on the bench, in a window of its own: what is put on it, what it shows, and its plug. It shows hundredths of a gram and trembles a little until it stands still. */
export function ScalePage() {
	const [plugged, setPlugged] = useState(true);
	const [typed, setTyped] = useState("0");
	const [tare, setTare] = useState(0);
	const [shown, setShown] = useState<Reading>(null);
	const moved = useRef(Date.now());
	const on = Number(typed.replace(",", ".")) || 0;
	useEffect(() => {
		moved.current = Date.now();
	}, [on, tare]);
	useEffect(() => {
		const line = new BroadcastChannel(channel);
		const say = () => {
			const still = Date.now() - moved.current > 900;
			const tremble = still ? 0 : (Math.random() - 0.5) * 0.06;
			const reading = plugged ? { grams: Math.max(-999, on - tare + tremble).toFixed(2), still } : null;
			setShown(reading);
			line.postMessage(reading);
		};
		const timer = window.setInterval(say, tick);
		say();
		return () => {
			window.clearInterval(timer);
			line.postMessage(null);
			line.close();
		};
	}, [plugged, on, tare]);
	return (
		<main className="mx-auto grid max-w-sm gap-4 p-5">
			<h1 className="m-0 text-2xl">{w.standInScale}</h1>
			<p className="m-0 text-sm text-soft">{w.standInScaleSays}</p>
			<output
				aria-label={w.theScaleShows}
				className={`num grid h-28 place-content-center rounded-md text-5xl ${shown ? "bg-night text-amber" : "bg-rule text-soft"}`}
			>
				{shown ? `${shown.grams} g` : w.unplugged}
			</output>
			<p className="m-0 h-5 text-sm">{shown && (shown.still ? w.standsStill : w.settling)}</p>
			<label className="block">
				<span className="mb-1 block text-sm font-semibold">{w.putOnTheScale}</span>
				<input className="field num" inputMode="decimal" value={typed} onChange={(e) => setTyped(e.target.value)} />
			</label>
			<div className="flex flex-wrap gap-3">
				<Button onClick={() => setTare(on)}>{w.setToZero}</Button>
				<Button onClick={() => setTyped("0")}>{w.takeOff}</Button>
				<Button onClick={() => setPlugged(!plugged)}>{plugged ? w.unplug : w.plugIn}</Button>
			</div>
		</main>
	);
}
