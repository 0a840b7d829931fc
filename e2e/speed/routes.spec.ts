import { brotliCompressSync, constants } from "node:zlib";
import type { BrowserContext } from "@playwright/test";
import { people, test } from "../help";

// What a page asks of a phone: bytes over the wire without fonts and styles, and at a quarter of this machine's speed the
// time from the navigation until it can be used and the longest task, both as the page itself sees them. Each page is
// opened cold. Beside them stands a page of one word, which is what the browser itself takes here. Printed, not judged:
// timings are no test.

type Measured = { usable: number; longest: number };

type Day = { visits: { id: string; client: string; startsAt: string }[] };

/** packed is how many bytes a day would be over the wire: compressed as in a hurry, with its headers. */
const packed = (day: Day) =>
	brotliCompressSync(JSON.stringify(day), { params: { [constants.BROTLI_PARAM_QUALITY]: 1 } }).length + 600;

/** measure opens a page cold and waits until what the selector names is painted. */
async function measure(context: BrowserContext, name: string, path: string, usable: string, day?: Day) {
	const page = await context.newPage();
	await page.goto("/healthz"); // the process of the page is there, as on a device in use
	if (day) await page.route("**/api/day?*", (route) => route.fulfill({ json: day }));
	const cdp = await context.newCDPSession(page);
	await cdp.send("Network.enable");
	await cdp.send("Network.clearBrowserCache");
	const counted = new Set<string>();
	let bytes = day ? packed(day) : 0;
	cdp.on("Network.responseReceived", (e) => {
		if (!["Font", "Stylesheet"].includes(e.type) && !(day && e.response.url.includes("/api/day?"))) counted.add(e.requestId);
	});
	cdp.on("Network.loadingFinished", (e) => {
		if (counted.has(e.requestId)) bytes += e.encodedDataLength;
	});
	await cdp.send("Emulation.setCPUThrottlingRate", { rate: 4 });
	await page.addInitScript((wanted) => {
		const seen: Measured = { usable: 0, longest: 0 };
		(window as unknown as { seen: Measured }).seen = seen;
		new PerformanceObserver((list) => {
			for (const e of list.getEntries()) seen.longest = Math.max(seen.longest, e.duration);
		}).observe({ type: "longtask", buffered: true });
		const look = () => {
			if (!document.querySelector(wanted)) return;
			changes.disconnect();
			requestAnimationFrame(() => setTimeout(() => (seen.usable = performance.now())));
		};
		const changes = new MutationObserver(look);
		changes.observe(document, { childList: true, subtree: true, characterData: true });
		addEventListener("DOMContentLoaded", look);
	}, usable);
	await page.goto(path, { waitUntil: "commit" });
	await page.waitForFunction(() => (window as unknown as { seen: Measured }).seen.usable > 0, null, { polling: 500 });
	await page.waitForLoadState("networkidle");
	const seen = await page.evaluate(() => (window as unknown as { seen: Measured }).seen);
	console.log(
		`BrowserRoute  ${name}: ${(bytes / 1024).toFixed(0)} kB, usable after ${seen.usable.toFixed(0)} ms at 4x, longest task ${seen.longest.toFixed(0)} ms`,
	);
	await page.close();
}

test("the routes", async ({ browser, baseURL }) => {
	const open = await browser.newContext({ baseURL });
	await measure(open, "a page of one word", "/readyz", "pre, body:not(:empty)");
	await measure(open, "sign-in", "/", 'input[type="email"]');

	const inside = await browser.newContext({ baseURL, viewport: { width: 1280, height: 800 } });
	const [email, password] = people.owner;
	await inside.request.post("/api/sign-in", { data: { email, password } });
	const csrf = ((await (await inside.request.get("/api/session")).json()) as { csrf: string }).csrf;
	const headers = { "X-CSRF-Token": csrf };
	const day = (await (await inside.request.get("/api/day")).json()) as Day;
	const made = await inside.request.post(`/api/clients/${day.visits[0]!.client}/link`, { headers });
	const { token } = (await made.json()) as { token: string };
	const phone = await browser.newContext({ baseURL, viewport: { width: 390, height: 844 } });
	await measure(phone, "private link", `/consultation#${token}`, "main button");

	// A day of 64 appointments: those of the demo, over and over.
	const full: Day = { ...day, visits: [] };
	for (let i = 0; full.visits.length < 64; i++)
		full.visits.push(...day.visits.map((v) => ({ ...v, id: i === 0 ? v.id : v.id.slice(0, -2) + String(10 + i) })));
	await measure(inside, "day, 64 appointments", "/", "main h2 a", full);

	const list = (await (await inside.request.get("/api/protocols")).json()) as { id: string; name: string }[];
	const fullFace = list.find((p) => p.name.startsWith("Full-face"))!;
	const { protocol } = (await (await inside.request.get(`/api/protocols/${fullFace.id}`)).json()) as {
		protocol: { steps: { id: string; phase: string }[] };
	};
	const steps = [...protocol.steps];
	for (let i = 0; steps.length < 48; i++) {
		const s = protocol.steps.filter((x) => x.phase === "work")[i % 12]!;
		steps.splice(steps.findIndex((x) => x.id === s.id) + 1, 0, { ...s, id: `more${i}` });
	}
	const plan = await inside.request.post("/api/protocols", {
		headers,
		data: { ...protocol, key: `forty-eight-${Date.now()}`, name: "Forty-eight steps", steps },
	});
	const { id } = (await plan.json()) as { id: string };
	await measure(inside, "workbench, 48 steps", `/protocols/${id}`, '[data-testid="total"]');
});
