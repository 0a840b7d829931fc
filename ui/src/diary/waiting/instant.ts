/** The instant of a studio's wall time (2026-11-24T09:00), found by trying the hours round it; "" where it is none. */
export function instantOf(wall: string, at: { day: (t: Date) => string; time: (t: Date) => string }): string {
	const guess = Date.parse(`${wall}:00Z`);
	if (Number.isNaN(guess)) return "";
	for (let quarter = -56; quarter <= 56; quarter++) {
		const t = new Date(guess - quarter * 900_000);
		if (`${at.day(t)}T${at.time(t)}` === wall) return t.toISOString();
	}
	return new Date(guess).toISOString();
}
