import { useState } from "react";
import { sizes, usualInches, usualMetres } from "./letters";
import { noPedal, type Pedal } from "./pedal";
import type { Mode } from "./spells";
import { usualLevel } from "./useTones";

/** How this device shows the room: how large its screen is, how far away it stands, where the wishes are, how it goes on. */
export type RoomScreen = {
	inches: number;
	metres: number;
	edge: "left" | "right";
	mode: Mode;
	/** Of the tones, 0 to 10. */
	level: number;
	/** Whether a voice of this device speaks. */
	voice: boolean;
	pedal: Pedal;
};

const key = "softpalm-room-screen";

function read(): RoomScreen {
	const usual: RoomScreen = {
		inches: usualInches(window.innerWidth),
		metres: usualMetres,
		edge: "right",
		mode: "mixed",
		level: usualLevel,
		voice: false,
		pedal: noPedal,
	};
	try {
		return { ...usual, ...(JSON.parse(localStorage.getItem(key) ?? "{}") as Partial<RoomScreen>) };
	} catch {
		return usual;
	}
}

export function useRoomScreen() {
	const [screen, setScreen] = useState(read);
	const change = (more: Partial<RoomScreen>) => {
		const next = { ...screen, ...more };
		localStorage.setItem(key, JSON.stringify(next));
		setScreen(next);
	};
	const s = sizes({ width: window.innerWidth, height: window.innerHeight, inches: screen.inches, metres: screen.metres });
	/** Whether six wishes fit beside each other, and seven lines above the acts. */
	const fits = 6 * s.target + 5 * s.gap <= window.innerHeight && window.innerWidth >= 1000;
	return { screen, change, sizes: s, fits };
}

export type RoomSizes = ReturnType<typeof sizes>;
