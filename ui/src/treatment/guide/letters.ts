/** A screen as the guide measures it: CSS size in pixels, its diagonal in inches, and how far away it is read, in metres. */
export type Screen = { width: number; height: number; inches: number; metres: number };

/** Minutes of arc: what is glanced at, what is read, and at arm's length (handbook, chapter 7, Letters; ISO 9241-303, from memory). */
const glanceArc = 20;
const readArc = 16;
const armMetres = 0.7;
/** Height of a capital letter to the size of the font: a usual figure, unless the font says otherwise. */
const capital = 0.7;

/** Millimetres of a CSS pixel. */
export const mmPerPixel = (s: Screen) => (s.inches * 25.4) / Math.hypot(s.width, s.height);

/** Millimetres of a CSS pixel of a screen on which a bank card, 85.60 mm wide (ISO/IEC 7810 ID-1), covers so many. */
export const mmByCard = (pixels: number) => 85.6 / pixels;

/** Height in mm of a letter seen under an angle of so many minutes of arc, at a distance in mm. */
export const letterMm = (minutes: number, mm: number) => 2 * mm * Math.tan(((minutes / 60) * Math.PI) / 360);

const fontPx = (minutes: number, metres: number, mm: number) => Math.ceil(letterMm(minutes, metres * 1000) / (mm * capital));

/** Sizes in CSS pixels of everything in the room that is read from afar or pressed by a knuckle. */
export function sizes(s: Screen) {
	const mm = mmPerPixel(s);
	return {
		glance: fontPx(glanceArc, s.metres, mm),
		read: fontPx(readArc, s.metres, mm),
		arm: fontPx(readArc, armMetres, mm),
		target: Math.max(88, Math.ceil(20 / mm)),
		gap: Math.ceil(5 / mm),
		/** A contact that moves further than this is none. */
		still: 15 / mm,
	};
}

/** Luminance of a colour (WCAG 2.2), from #rrggbb. */
export function luminance(hex: string): number {
	const part = (at: number) => {
		const c = Number.parseInt(hex.slice(at, at + 2), 16) / 255;
		return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
	};
	return 0.2126 * part(1) + 0.7152 * part(3) + 0.0722 * part(5);
}

/** Contrast of two colours (WCAG 2.2). */
export function contrast(a: string, b: string): number {
	const [x, y] = [luminance(a), luminance(b)].sort((p, q) => q - p) as [number, number];
	return (x + 0.05) / (y + 0.05);
}

/** The usual diagonal of a screen of this size, where nobody said one. */
export const usualInches = (width: number) => (width <= 1100 ? 10.1 : width <= 1400 ? 13.3 : 15.6);

/** Letters are made for this distance where nobody said another. */
export const usualMetres = 2;
