/** What a pedal may be taught: the act, and the key of the keyboard that stands for it. */
export const pedalActs = { next: "PageDown", back: "PageUp", pause: " ", stay: "ArrowUp", less: "ArrowDown", tender: "t" } as const;

export type PedalAct = keyof typeof pedalActs;

/** What each key that a pedal sends means; and whether there is one pedal only. */
export type Pedal = { keys: Partial<Record<string, PedalAct>>; one: boolean };

export const noPedal: Pedal = { keys: {}, one: false };

/** With one pedal, held for so many milliseconds it pauses; short it is Next. */
export const heldFor = 700;

/** Teaches a key to mean an act; each act has one key. */
export function taught(pedal: Pedal, key: string, act: PedalAct): Pedal {
	const keys = Object.fromEntries(Object.entries(pedal.keys).filter(([, a]) => a !== act));
	return { ...pedal, keys: { ...keys, [key]: act } };
}

/** The key of the keyboard that a pressed key stands for, as taught. */
export const meant = (pedal: Pedal, key: string): string => {
	const act = pedal.keys[key];
	return act ? pedalActs[act] : key;
};

/** Keys that cannot be taught: they stop the treatment or close what is open. */
export const kept = ["Escape", "x", "X", "Tab", "?"];
