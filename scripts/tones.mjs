// Makes the tones of the room guide, as short recordings in ui/public/tones: mono, 20 ms fades, peak -18 dBFS.
// node scripts/tones.mjs
import { mkdirSync, writeFileSync } from "node:fs";

const rate = 22_050;
/** Samples a second of the long, low breath tones. */
const breathRate = 8_000;
const fade = 0.02;
const peak = 10 ** (-18 / 20);
const pause = (seconds) => ({ hertz: 0, seconds });

/** Name, and its notes one after the other; a note with "to" glides there. The breath is played slower or faster, in the same pitch, to last as long as the client's. */
const tones = {
	tick: [{ hertz: 440, seconds: 0.04 }],
	last: [{ hertz: 440, seconds: 0.04 }, pause(0.08), { hertz: 440, seconds: 0.04 }],
	next: [{ hertz: 330, seconds: 0.14 }, { hertz: 440, seconds: 0.18 }],
	side: [{ hertz: 440, seconds: 0.14 }, { hertz: 330, seconds: 0.18 }],
	waiting: [{ hertz: 392, seconds: 0.2 }],
	breathIn: [{ hertz: 220, to: 294, seconds: 4 }],
	breathOut: [{ hertz: 294, to: 220, seconds: 6 }],
	stop: [{ hertz: 196, seconds: 0.25 }, pause(0.12), { hertz: 196, seconds: 0.25 }, pause(0.12), { hertz: 196, seconds: 0.25 }],
};

function samples(notes, rate) {
	return notes.flatMap(({ hertz, to = hertz, seconds }) => {
		const n = Math.round(seconds * rate);
		return Array.from({ length: n }, (_, i) => {
			const edge = Math.min(1, i / (fade * rate), (n - 1 - i) / (fade * rate));
			const turns = (hertz + ((to - hertz) * i) / (2 * n)) * (i / rate);
			return hertz === 0 ? 0 : peak * edge * Math.sin(2 * Math.PI * turns);
		});
	});
}

/** A WAV file of 16 bit mono samples. */
function wav(values, rate) {
	const data = Buffer.alloc(2 * values.length);
	for (const [i, v] of values.entries()) data.writeInt16LE(Math.round(32_767 * v), 2 * i);
	const head = Buffer.alloc(44);
	head.write("RIFF", 0);
	head.writeUInt32LE(36 + data.length, 4);
	head.write("WAVEfmt ", 8);
	head.writeUInt32LE(16, 16);
	head.writeUInt16LE(1, 20);
	head.writeUInt16LE(1, 22);
	head.writeUInt32LE(rate, 24);
	head.writeUInt32LE(2 * rate, 28);
	head.writeUInt16LE(2, 32);
	head.writeUInt16LE(16, 34);
	head.write("data", 36);
	head.writeUInt32LE(data.length, 40);
	return Buffer.concat([head, data]);
}

const folder = new URL("../ui/public/tones/", import.meta.url);
mkdirSync(folder, { recursive: true });
for (const [name, notes] of Object.entries(tones)) {
	const per = name.startsWith("breath") ? breathRate : rate;
	writeFileSync(new URL(`${name}.wav`, folder), wav(samples(notes, per), per));
}
