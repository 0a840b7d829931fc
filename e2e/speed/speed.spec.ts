import type { CDPSession, Page } from "@playwright/test";
import { signIn, test } from "../help";

// At the workbench with a plan of 60 steps: from a click to the picture, from a letter to the screen, and how many
// pictures a second the travel chart keeps while it is scrubbed, at this machine's speed and at a quarter of it. Printed,
// not judged: timings are no test.

/** open makes a plan of 60 steps and opens it. */
async function open(page: Page) {
	await signIn(page, "practitioner");
	const csrf = ((await (await page.request.get("/api/session")).json()) as { csrf: string }).csrf;
	const headers = { "X-CSRF-Token": csrf };
	const list = (await (await page.request.get("/api/protocols")).json()) as { id: string; name: string }[];
	const base = (await (await page.request.get(`/api/protocols/${list.find((p) => p.name.startsWith("Full-face"))!.id}`)).json()) as {
		protocol: { steps: { id: string; phase: string }[] };
	};
	const steps = [...base.protocol.steps];
	for (let i = 0; steps.length < 60; i++) {
		const s = base.protocol.steps.filter((x) => x.phase === "work")[i % 12]!;
		steps.splice(steps.findIndex((x) => x.id === s.id) + 1, 0, { ...s, id: `more${i}` });
	}
	const data = { ...base.protocol, key: `sixty-${Date.now()}`, name: "Sixty steps", steps };
	const made = (await (await page.request.post("/api/protocols", { headers, data })).json()) as { id: string };
	await page.goto(`/protocols/${made.id}`);
	await page.getByRole("button", { name: "60 steps" }).waitFor();
}

/** edits clicks more and less in turn, and returns the milliseconds from each click to its picture. */
async function edits(page: Page, n: number): Promise<number[]> {
	const times: number[] = [];
	for (let i = 0; i < n; i++) {
		times.push(
			await page.evaluate(
				(more) =>
					new Promise<number>((done) => {
						const total = document.querySelector('[data-testid="total"]')!;
						const begun = performance.now();
						const seen = new MutationObserver(() => {
							seen.disconnect();
							requestAnimationFrame(() => done(performance.now() - begun));
						});
						seen.observe(total, { subtree: true, characterData: true, childList: true });
						document.querySelector<HTMLButtonElement>(`[aria-label="Repetitions and timing: ${more ? "more" : "less"}"]`)!.click();
					}),
				i % 2 === 0,
			),
		);
		await page.waitForTimeout(250);
	}
	return times;
}

/** letters types into the note of the step in hand, and returns the milliseconds from each key to its paint. */
async function letters(page: Page): Promise<number[]> {
	await page.evaluate(() => {
		const times: number[] = [];
		(window as unknown as { typed: number[] }).typed = times;
		addEventListener("keydown", (e) => {
			const begun = e.timeStamp;
			requestAnimationFrame(() => setTimeout(() => times.push(performance.now() - begun)));
		}, { capture: true });
	});
	await page.evaluate(() => document.querySelectorAll("details").forEach((d) => (d.open = true)));
	await page.getByRole("textbox", { name: "Note", exact: true }).first().focus();
	for (const letter of "slowly now and softly") {
		await page.keyboard.press(letter === " " ? "Space" : letter);
		await page.waitForTimeout(120);
	}
	return page.evaluate(() => (window as unknown as { typed: number[] }).typed);
}

/** scrubbed drags over the chart for two seconds and returns the pictures a second. */
async function scrubbed(page: Page): Promise<number> {
	return page.evaluate(
		() =>
			new Promise<number>((done) => {
				const chart = document.querySelector("[data-chart]")!;
				const box = chart.getBoundingClientRect();
				const at = (t: number) => ({
					clientX: box.left + 100 + ((box.width - 140) * (t % 1000)) / 1000,
					clientY: box.top + box.height / 2,
					buttons: 1,
					bubbles: true,
					pointerId: 1,
				});
				const begun = performance.now();
				let pictures = 0;
				const draw = (now: number) => {
					if (now - begun > 2000) return done((pictures * 1000) / (now - begun));
					pictures++;
					chart.dispatchEvent(new PointerEvent("pointermove", at(now - begun)));
					requestAnimationFrame(draw);
				};
				requestAnimationFrame(draw);
			}),
	);
}

const sorted = (times: number[]) => [...times].sort((a, b) => a - b);
const median = (times: number[]) => sorted(times)[times.length >> 1]!.toFixed(0);
const slow = (cdp: CDPSession, rate: number) => cdp.send("Emulation.setCPUThrottlingRate", { rate });

test("the workbench", async ({ page }) => {
	await open(page);
	const cdp = await page.context().newCDPSession(page);
	await cdp.send("Network.enable");
	const drafts = new Set<string>();
	const bytes: number[] = [];
	cdp.on("Network.responseReceived", (e) => e.response.url.endsWith("/draft") && drafts.add(e.requestId));
	cdp.on("Network.loadingFinished", (e) => drafts.has(e.requestId) && bytes.push(e.encodedDataLength));
	for (const rate of [1, 4]) {
		await slow(cdp, rate);
		const [first, ...rest] = (await edits(page, 24)) as [number, ...number[]]; // the first finds a cold page
		const s = sorted(rest);
		console.log(
			`BrowserEdit60Steps  ${rate}x: ${rest.length} edits: least ${s[0]!.toFixed(0)} ms, median ${median(rest)} ms, most ${s.at(-1)!.toFixed(0)} ms; the first ${first.toFixed(0)} ms`,
		);
		console.log(`BrowserScrub        ${rate}x: ${(await scrubbed(page)).toFixed(0)} pictures a second`);
		const typed = await letters(page);
		console.log(`BrowserLetter       ${rate}x: ${typed.length} letters: median ${median(typed)} ms, most ${sorted(typed).at(-1)!.toFixed(0)} ms`);
	}
	const s = sorted(bytes);
	console.log(`BrowserEditAnswer   median ${(s[s.length >> 1]! / 1024).toFixed(1)} kB, most ${(s.at(-1)! / 1024).toFixed(1)} kB with headers`);
});
