import * as w from "../words/catalogue/kit";

/** Minutes and seconds of a number of seconds: 2:05. */
export function clock(seconds: number): string {
	const s = Math.max(0, Math.round(seconds));
	return `${Math.floor(s / 60)}:${String(s % 60).padStart(2, "0")}`;
}

/** A length in words: 45 min, 45 s. */
export function length(seconds: number): string {
	return seconds >= 90 ? w.secondsMin({ seconds: Math.round(seconds / 60) }) : `${Math.round(seconds)} s`;
}

// A formatter is dear to make and cheap to use: each is made once, when it is first wanted.
const made = new Map<string, Intl.DateTimeFormat>();
function dates(zone: string, options: Intl.DateTimeFormatOptions, locale = "en-GB"): Intl.DateTimeFormat {
	const key = `${locale} ${zone} ${JSON.stringify(options)}`;
	const was = made.get(key);
	if (was) return was;
	const format = new Intl.DateTimeFormat(locale, { timeZone: zone, ...options });
	made.set(key, format);
	return format;
}

type InZone = Record<"time" | "date" | "long" | "day", (t: string | Date) => string>;
const zones = new Map<string, InZone>();

/** Formats moments in the studio's time zone. */
export function inZone(zone: string): InZone {
	const was = zones.get(zone);
	if (was) return was;
	const lazily = (options: Intl.DateTimeFormatOptions, locale?: string) => {
		let format: Intl.DateTimeFormat | undefined;
		return (t: string | Date) => {
			format ??= dates(zone, options, locale);
			return format.format(new Date(t));
		};
	};
	const at = {
		time: lazily({ hour: "2-digit", minute: "2-digit" }),
		date: lazily({ weekday: "short", day: "numeric", month: "short" }),
		long: lazily({ weekday: "long", day: "numeric", month: "long" }),
		day: lazily({ year: "numeric", month: "2-digit", day: "2-digit" }, "sv-SE"),
	};
	zones.set(zone, at);
	return at;
}

/** Formats civil days, which have no time zone. */
export const civil = (options: Intl.DateTimeFormatOptions) => dates("UTC", options);

/** A civil day (2026-11-24) in words: 24 Nov 2026. */
export function dayWords(day: string): string {
	if (!day) return "";
	return civil({ day: "numeric", month: "short", year: "numeric" }).format(new Date(`${day}T00:00:00Z`));
}

/** A month (2026-11) in words: November 2026. */
export function monthWords(month: string): string {
	return civil({ month: "long", year: "numeric" }).format(new Date(`${month}-01T00:00:00Z`));
}

/** The civil day some days after another. */
export function dayAfter(day: string, n: number): string {
	const d = new Date(`${day}T00:00:00Z`);
	d.setUTCDate(d.getUTCDate() + n);
	return d.toISOString().slice(0, 10);
}

const currencies = new Map<string, Intl.NumberFormat>();

/** An exact amount of money as the server sent it, with its currency. */
export function money(amount: string, currency: string): string {
	const was = currencies.get(currency);
	const format = was ?? new Intl.NumberFormat("en-GB", { style: "currency", currency });
	if (!was) currencies.set(currency, format);
	return format.format(Number(amount));
}

/** An amount of a product as it is shown: to a hundredth, where the books keep a thousandth. */
export const amountShown = (amount: string | number): number => Math.round(Number(amount) * 100) / 100;

/** A new id that orders by time (UUID version 7). */
export function newId(): string {
	const b = crypto.getRandomValues(new Uint8Array(16));
	let t = Date.now();
	for (let i = 5; i >= 0; i--) {
		b[i] = t % 256;
		t = Math.floor(t / 256);
	}
	b[6] = (b[6]! & 0x0f) | 0x70;
	b[8] = (b[8]! & 0x3f) | 0x80;
	const h = Array.from(b, (x) => x.toString(16).padStart(2, "0")).join("");
	return `${h.slice(0, 8)}-${h.slice(8, 12)}-${h.slice(12, 16)}-${h.slice(16, 20)}-${h.slice(20)}`;
}
