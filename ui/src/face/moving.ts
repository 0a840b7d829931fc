import type { Schemas } from "../api/client";

type Key = Schemas["Key"];

/** Vibration: centimetres across, and times a second. */
const tremble = { by: 0.08, rate: 8 };

/** Where a hand is at a moment of the repetition, between two keys of its track; now is for what trembles on. */
export function handAt(track: Schemas["Track"], t: number, now: number): Required<Omit<Key, "t">> {
	const keys = track.keys;
	let i = 1;
	while (i < keys.length - 1 && keys[i]!.t < t) i++;
	const a = keys[i - 1]!;
	const b = keys[Math.min(i, keys.length - 1)]!;
	const f = b.t > a.t ? Math.max(0, Math.min(1, (t - a.t) / (b.t - a.t))) : 1;
	const mix = (from: number, to: number) => from + (to - from) * f;
	const turn = mix(a.turn, a.turn + ((((b.turn - a.turn + 180) % 360) + 360) % 360) - 180);
	const shake = track.trembles ? tremble.by * Math.sin(2 * Math.PI * tremble.rate * now) : 0;
	const across = ((turn + 90) * Math.PI) / 180;
	return {
		x: mix(a.x, b.x) + shake * Math.cos(across),
		y: mix(a.y, b.y) + shake * Math.sin(across),
		turn,
		lift: mix(a.lift ?? 0, b.lift ?? 0),
		press: mix(a.press ?? 0, b.press ?? 0),
	};
}
