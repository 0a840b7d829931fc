import { type BrowserContext, type Page, test } from "@playwright/test";
import { people } from "../help";

// What a page asks of a phone: bytes over the wire without fonts and styles, and at a quarter of this machine's speed the
// time until it can be used and the longest task. Each page is opened cold. Printed, not judged: timings are no test.

/** measure opens a page cold and waits until it can be used. */
async function measure(context: BrowserContext, name: string, path: string, usable: (page: Page) => Promise<unknown>) {
	const page = await context.newPage();
	const cdp = await context.newCDPSession(page);
	await cdp.send("Network.enable");
	await cdp.send("Network.clearBrowserCache");
	const types = new Map<string, string>();
	let bytes = 0;
	cdp.on("Network.responseReceived", (e) => types.set(e.requestId, e.type));
	cdp.on("Network.loadingFinished", (e) => {
		if (!["Font", "Stylesheet"].includes(types.get(e.requestId) ?? "")) bytes += e.encodedDataLength;
	});
	await cdp.send("Emulation.setCPUThrottlingRate", { rate: 4 });
	await page.addInitScript(() => {
		const longest = { ms: 0 };
		(window as unknown as { longest: typeof longest }).longest = longest;
		new PerformanceObserver((list) => {
			for (const e of list.getEntries()) longest.ms = Math.max(longest.ms, e.duration);
		}).observe({ type: "longtask", buffered: true });
	});
	const begun = Date.now();
	await page.goto(path, { waitUntil: "commit" });
	await usable(page);
	const ms = Date.now() - begun;
	await page.waitForLoadState("networkidle");
	const longest = await page.evaluate(() => (window as unknown as { longest: { ms: number } }).longest.ms);
	console.log(`BrowserRoute  ${name}: ${(bytes / 1024).toFixed(0)} kB, usable after ${ms} ms at 4x, longest task ${longest.toFixed(0)} ms`);
	await page.close();
}

test("the routes", async ({ browser, baseURL }) => {
	const open = await browser.newContext({ baseURL });
	await measure(open, "sign-in", "/", (page) => page.getByLabel("E-mail address").waitFor());

	const inside = await browser.newContext({ baseURL });
	const [email, password] = people.owner;
	await inside.request.post("/api/sign-in", { data: { email, password } });
	const csrf = ((await (await inside.request.get("/api/session")).json()) as { csrf: string }).csrf;
	const day = (await (await inside.request.get("/api/day")).json()) as { visits: { id: string; client: string; clientName: string }[] };
	const made = await inside.request.post(`/api/clients/${day.visits[0]!.client}/link`, { headers: { "X-CSRF-Token": csrf } });
	const { token } = (await made.json()) as { token: string };
	const phone = await browser.newContext({ baseURL, viewport: { width: 390, height: 844 } });
	await measure(phone, "private link", `/consultation#${token}`, (page) => page.getByRole("heading").first().waitFor());
	await measure(inside, "day", "/", (page) => page.getByText(day.visits[0]!.clientName).first().waitFor());
	const list = (await (await inside.request.get("/api/protocols")).json()) as { id: string; name: string }[];
	const full = list.find((p) => p.name.startsWith("Full-face"))!;
	await measure(inside, "workbench", `/protocols/${full.id}`, (page) => page.getByRole("button", { name: /^\d+ steps$/ }).waitFor());
});
