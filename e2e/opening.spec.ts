import { expect, type Page, type Request } from "@playwright/test";
import { signIn, test } from "./help";

/** scriptsOf opens a page and returns the scripts that its HTML names and those that it asked for until it was still. */
async function scriptsOf(page: Page, path: string) {
	const asked = new Set<string>();
	const note = (r: Request) => {
		if (r.resourceType() === "script") asked.add(new URL(r.url()).pathname);
	};
	page.on("request", note);
	const answer = await page.goto(path);
	await page.waitForLoadState("networkidle");
	page.off("request", note);
	const named = [...(await answer!.text()).matchAll(/(?:src|href)="(\/assets\/[^"]+\.js)"/g)].map((m) => m[1]!);
	return { named, asked: [...asked] };
}

// A script that the page does not name is asked for only when the one before it has run: on a slow line each step counts.
test("a page names all scripts that it opens with", async ({ page }) => {
	await signIn(page, "owner");
	await page.goto("/protocols");
	const bench = await page.locator('main a[href^="/protocols/0"]').first().getAttribute("href");
	await page.goto("/people");
	const client = await page.locator('main a[href^="/people/0"]').first().getAttribute("href");
	for (const path of ["/", bench!, client!, "/diary", "/shelf", "/books", "/settings"]) {
		const { named, asked } = await scriptsOf(page, path);
		expect(asked.length, path).toBeGreaterThan(6);
		expect(asked.filter((s) => !named.includes(s) && !s.includes("formatters")), `${path} asks for more than it names`).toEqual([]);
	}
});

test("a dialog that did not come leaves what was typed, and can be asked for again", async ({ page }) => {
	await signIn(page, "owner");
	await page.goto("/people");
	await page.locator('main a[href^="/people/0"]').first().click();
	await page.getByRole("button", { name: "Add note" }).click();
	await page.getByRole("textbox", { name: "Note", exact: true }).fill("Likes the lamp turned away");
	await page.route("**/assets/DialogBox-*.js", (r) => r.abort());
	await page.getByRole("button", { name: "Delete client data" }).click();
	await expect(page.getByRole("alert")).toContainText("What you have entered is still here");
	await expect(page.getByRole("textbox", { name: "Note", exact: true })).toHaveValue("Likes the lamp turned away");
	await page.unroute("**/assets/DialogBox-*.js");
	await page.getByRole("button", { name: "Try again" }).click();
	await expect(page.getByRole("dialog")).toBeVisible();
});

test("screens that did not come can be asked for again", async ({ page }) => {
	await signIn(page, "owner");
	await page.route("**/assets/inside-*.js", (r) => r.abort());
	await page.goto("/");
	await expect(page.getByRole("alert")).toBeVisible();
	await page.unroute("**/assets/inside-*.js");
	await page.getByRole("button", { name: "Try again" }).click();
	await expect(page.getByRole("navigation", { name: "Main menu" })).toBeVisible();
});
