import { test as base, type Cookie, expect, type Page } from "@playwright/test";
import { readFileSync } from "node:fs";
import type axe from "axe-core";
import { database, demo, make, morning, port, serve } from "./server";

/** The session of each person who has signed in, as a device keeps it. */
const kept = new Map<keyof typeof people, Cookie[]>();

/** The studio of a worker: each file of tests finds the demo as it is in the morning, whatever other files did. */
type Studio = { openFor: (file: string) => Promise<void> };

/**
 * Every test fails where a page asks for what the content security policy refuses. early is a page at which the demo's
 * morning has only begun, however long the tests have run: a plan of 09:15 is not shortened yet.
 */
export const test = base.extend<{ policyKept: void; opened: void; early: Page }, { studio: Studio }>({
	studio: [
		// biome-ignore lint/correctness/noEmptyPattern: Playwright wants the braces
		async ({}, use) => {
			let open = "";
			let end = async (): Promise<unknown> => {};
			await use({
				openFor: async (file) => {
					if (file === open) return;
					await end();
					kept.clear();
					make(database, demo);
					end = await serve(database, port, morning);
					open = file;
				},
			});
			await end();
		},
		{ scope: "worker" },
	],
	opened: [
		async ({ studio }, use, info) => {
			await studio.openFor(info.file);
			await use();
		},
		{ auto: true },
	],
	early: async ({ browser }, use) => {
		const end = await serve(database, port + 1, morning);
		const context = await browser.newContext({ baseURL: `http://127.0.0.1:${port + 1}` });
		await use(await context.newPage());
		await context.close();
		await end();
	},
	policyKept: [
		async ({ context }, use) => {
			const refused: string[] = [];
			context.on("console", (m) => {
				if (/content security policy/i.test(m.text())) refused.push(`${m.page()?.url()}: ${m.text()}`);
			});
			await use();
			expect(refused).toEqual([]);
		},
		{ auto: true },
	],
});

export const people = {
	owner: ["owner@demo.example", "demo palms 1"],
	practitioner: ["maud@demo.example", "demo palms 2"],
	desk: ["desk@demo.example", "demo palms 3"],
} as const;

/**
 * Opens the studio as a person: with the session that they have from an earlier test, or by signing in. anew signs in
 * whatever there is, as on another device.
 */
export async function signIn(page: Page, who: keyof typeof people, { anew = false } = {}) {
	const session = anew ? undefined : kept.get(who);
	if (session) await page.context().addCookies(session);
	await page.goto("/");
	const menu = page.getByRole("navigation", { name: "Main menu" });
	const address = page.getByLabel("E-mail address");
	await expect(menu.or(address).first()).toBeVisible();
	if (await menu.isVisible()) return;
	await address.fill(people[who][0]);
	await page.getByLabel("Password").fill(people[who][1]);
	await page.getByRole("button", { name: "Sign in" }).click();
	await expect(menu).toBeVisible();
	if (!anew) kept.set(who, await page.context().cookies());
}

/** Scrolls to what of a page is only asked for when it comes near the screen, until all of it is there. */
export async function seeAll(page: Page) {
	const later = page.locator("[data-later]");
	await expect(async () => {
		for (const part of await later.all()) await part.scrollIntoViewIfNeeded({ timeout: 500 }).catch(() => {}); // it may just have come
		expect(await later.count()).toBe(0);
	}).toPass();
}

/** axe without its comments: half as long to send to a page and to read there. */
const script = readFileSync("node_modules/axe-core/axe.min.js", "utf8");

const wcag = ["wcag2a", "wcag2aa", "wcag21aa", "wcag22aa"];

/**
 * No serious or critical fault by axe on the page as it stands. axe is put into a page once, and only the faults come
 * back: what passes is many times as long.
 */
export async function noSeriousFault(page: Page, where: string) {
	await seeAll(page);
	await expect(page.locator("[aria-busy=true]")).toHaveCount(0); // what is looked for anew is faint until it comes
	if (!(await page.evaluate(() => "axe" in window))) await page.evaluate(script);
	const violations = await page.evaluate(
		async (tags) => (await (window as unknown as { axe: typeof axe }).axe.run({ runOnly: tags, resultTypes: ["violations"] })).violations,
		wcag,
	);
	const serious = violations.filter((v) => v.impact === "serious" || v.impact === "critical");
	expect(serious.map((v) => `${where}: ${v.id}: ${v.nodes.map((n) => n.html.slice(0, 160)).join(" | ")}`)).toEqual([]);
}

/** Presses Next in the room guide so many times: a second press within 600 ms would be taken for a slip of the hand. */
export async function nextStep(page: Page, times = 1, key = "PageDown") {
	for (let i = 0; i < times; i++) {
		await page.keyboard.press(key);
		await page.waitForTimeout(650);
	}
}

/** Holds a button for the two seconds that it wants. */
export async function holdButton(page: Page, name: string) {
	await page.getByRole("button", { name }).hover();
	await page.mouse.down();
	await page.waitForTimeout(2300);
	await page.mouse.up();
}

/** Draws a signature in the open consent and signs it. */
export async function sign(page: Page) {
	const box = (await page.getByTestId("signature").boundingBox())!;
	await page.mouse.move(box.x + 60, box.y + 80);
	await page.mouse.down();
	for (let i = 1; i <= 24; i++) await page.mouse.move(box.x + 60 + i * 12, box.y + 80 + 35 * Math.sin(i));
	await page.mouse.up();
	await page.getByRole("button", { name: "Sign", exact: true }).click();
}

/** Answers the door check: no to everything but the questions given. */
export async function answerDoor(page: Page, yes: RegExp[] = []) {
	await expect(page.getByRole("button", { name: "Save and see result" })).toBeVisible();
	const each = page.getByRole("button", { name: "Show each question" });
	if (yes.length > 0 && (await each.isVisible())) await each.click();
	for (const q of yes) await page.getByRole("radiogroup", { name: q }).getByText("Yes").click();
	const rest = page.getByRole("button", { name: /Answer no to the remaining/ });
	if (await rest.isEnabled()) {
		await rest.click();
		await page.getByRole("button", { name: "I asked each one" }).click();
	}
	await page.getByRole("button", { name: "Save and see result" }).click();
}

/** Opens a visit of today from the strip, checks its client at the door with no to everything, and has them sign where they have not. */
export async function readyToBegin(page: Page, pebble: RegExp) {
	await page.getByRole("button", { name: pebble }).click();
	await page.getByRole("button", { name: "Visit", exact: true }).click();
	await ready(page);
}

/** Checks the client of the open visit at the door with no to everything, and has them sign where they have not. */
export async function ready(page: Page) {
	await answerDoor(page);
	const consent = page.getByRole("button", { name: "Ask client to sign: the treatment" });
	await expect(consent.or(page.getByRole("button", { name: "Open room guide" })).first()).toBeVisible();
	if (await consent.isVisible()) {
		await consent.click();
		await sign(page);
	}
	await acceptAll(page);
	await expect(page.getByRole("button", { name: "Open room guide" })).toBeEnabled();
}

/** Accepts every change of the plan: the gentler ones in one go, the others one by one. */
export async function acceptAll(page: Page) {
	await expect(page.getByRole("region", { name: "Adjustments for today" })).toBeVisible();
	for (const button of await page.getByRole("button", { name: /^Accept/, exact: false }).all())
		if ((await button.getAttribute("aria-pressed")) === "false") await button.click();
}

/** Marks a place on the phone: a first touch near it brings it closer, a second one marks it. */
export async function mark(phone: Page, zone: string, side: "left" | "right") {
	const place = phone.locator(`[data-zone="${zone}"][data-side="${side}"]`);
	await place.click();
	await expect(phone.getByRole("button", { name: "Show the whole face" })).toBeVisible();
	await place.click();
}

/** Goes through a consultation page by page: no to everything but what is given, until the end. */
export async function fillConsultation(phone: Page, onPage: (n: number) => Promise<boolean | undefined>) {
	for (let n = 0; n < 40 && !(await phone.getByRole("heading", { name: "Check your answers" }).isVisible()); n++) {
		if (await onPage(n)) continue;
		for (const group of await phone.getByRole("radiogroup").all()) {
			if ((await group.locator("input:checked").count()) === 0) await group.getByText(/^(No|usual)$/).click();
		}
		const none = phone.getByRole("button", { name: /^(None of|No to)/ });
		const before = await phone.getByText(/^Page \d+ of/).textContent();
		if (await none.isVisible()) await none.click();
		await expect(phone.getByText("Saved")).toBeVisible();
		if ((await phone.getByText(/^Page \d+ of/).textContent({ timeout: 1000 }).catch(() => "")) === before)
			await phone.getByRole("button", { name: /^(Next|Check answers)$/ }).click();
	}
}
