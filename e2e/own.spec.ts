import { createHmac } from "node:crypto";
import { mkdtempSync, readdirSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect } from "@playwright/test";
import { noSeriousFault, test } from "./help";
import { make, port, serve, softpalm } from "./server";

/** The code that an authenticator app shows at a moment (RFC 6238, with RFC 4648 for the key). */
function code(key: string, at = Date.now()): string {
	const bits = [...key.replace(/\s/g, "")].map((c) => "ABCDEFGHIJKLMNOPQRSTUVWXYZ234567".indexOf(c).toString(2).padStart(5, "0")).join("");
	const secret = Buffer.from((bits.match(/.{8}/g) ?? []).map((b) => Number.parseInt(b, 2)));
	const step = Buffer.alloc(8);
	step.writeBigUInt64BE(BigInt(Math.floor(at / 30_000)));
	const mac = createHmac("sha1", secret).update(step).digest();
	const from = mac[19]! & 15;
	return String((mac.readUInt32BE(from) & 0x7fffffff) % 1_000_000).padStart(6, "0");
}

const folder = mkdtempSync(join(tmpdir(), "softpalm-own-"));
const backups = { SOFTPALM_BACKUPS: folder };
const at = (n: number) => `http://127.0.0.1:${port + n}`;

test("a studio of one's own: made on the first page, a practitioner invited, a second factor on, restored elsewhere", async ({ page, browser }) => {
	make("own");
	softpalm("own", ["migrate"]);
	const endFirst = await serve("own", port + 1);
	let key = "";
	try {
		await test.step("the first page makes the studio", async () => {
			await page.goto(at(1));
			await expect(page.getByRole("heading", { name: "Set up your studio" })).toBeVisible();
			await noSeriousFault(page, "the first page");
			await page.getByRole("button", { name: "Create studio" }).click();
			await expect(page.getByText("Enter the name of the studio.")).toBeVisible();
			await page.getByLabel("Name of the studio").fill("Rowan Street Face Studio");
			await page.getByLabel("Address", { exact: true }).fill("3 Rowan Street");
			await page.getByLabel("Your name").fill("Ана Łęcka");
			await page.getByLabel("E-mail address").fill("ana@studio.example");
			await page.getByLabel("Password").fill("seven warm stones");
			await page.getByRole("button", { name: "Create studio" }).click();
			await expect(page.getByRole("navigation", { name: "Main menu" })).toBeVisible();
			await page.getByRole("link", { name: "Protocols" }).click();
			await expect(page.getByRole("link", { name: /drainage/i }).first()).toBeVisible();
		});
		await test.step("a second practitioner is invited and signs in", async () => {
			await page.goto(`${at(1)}/team`);
			await page.getByRole("button", { name: "Invite person" }).click();
			await noSeriousFault(page, "an invitation");
			await page.getByLabel("Name").fill("Дарья Đặng");
			await page.getByLabel("E-mail address").fill("darya@studio.example");
			await page.getByLabel("Licences").fill("Facialist; F-77; 2027-06-30");
			await page.getByRole("button", { name: "Create invitation" }).click();
			const link = await page.getByLabel("Link", { exact: true }).inputValue();
			const theirs = await (await browser.newContext()).newPage();
			await theirs.goto(link);
			await noSeriousFault(theirs, "choosing a password");
			await theirs.getByLabel("New password").fill("a quiet new morning");
			await theirs.getByRole("button", { name: "Save password" }).click();
			await theirs.getByRole("link", { name: "Sign in" }).click();
			await theirs.getByLabel("E-mail address").fill("darya@studio.example");
			await theirs.getByLabel("Password").fill("a quiet new morning");
			await theirs.getByRole("button", { name: "Sign in" }).click();
			await expect(theirs.getByRole("navigation", { name: "Main menu" })).toBeVisible();
			expect((await theirs.request.get(`${at(1)}/api/people`)).status()).toBe(403);
			await theirs.goto(`${at(1)}/people`);
			await theirs.getByRole("button", { name: "Add client" }).click();
			await theirs.getByRole("textbox", { name: "Name" }).fill("Pia Lindqvist");
			await theirs.getByRole("button", { name: "Add", exact: true }).click();
			await expect(theirs.getByRole("heading", { name: "Pia Lindqvist" })).toBeVisible();
			await theirs.context().close();
		});
		await test.step("the owner turns the second factor on", async () => {
			await page.keyboard.press("Escape");
			await page.goto(`${at(1)}/account`);
			await page.getByRole("button", { name: "Set up an app" }).click();
			await noSeriousFault(page, "setting up an app");
			key = (await page.getByText("Or type this key into the app:").locator("span").textContent())!;
			await page.getByLabel("Code that the app shows").fill(code(key));
			await page.getByLabel("Your password").fill("seven warm stones");
			await page.getByRole("button", { name: "Turn on second factor" }).click();
			await expect(page.getByRole("list", { name: "Recovery codes" }).getByRole("listitem")).toHaveCount(10);
			await page.getByRole("button", { name: "I have saved the codes" }).click();
			await expect(page.getByRole("button", { name: "Remove second factor" })).toBeVisible();
			await page.goto(`${at(1)}/settings`);
			await page.getByLabel("Owners need a second factor").check();
			await page.getByRole("button", { name: "Save settings" }).click();
			await expect(page.getByText("The settings are saved.")).toBeVisible();
			await noSeriousFault(page, "settings");
		});
	} finally {
		await endFirst();
	}
	await test.step("a backup is restored elsewhere and signed in to", async () => {
		softpalm("own", ["backup", "now"], backups);
		const file = readdirSync(folder).sort().at(-1)!;
		make("elsewhere");
		softpalm("elsewhere", ["restore", join(folder, file)], backups);
		const endOther = await serve("elsewhere", port + 2);
		try {
			const there = await (await browser.newContext()).newPage();
			await there.goto(at(2));
			await there.getByLabel("E-mail address").fill("ana@studio.example");
			await there.getByLabel("Password").fill("seven warm stones");
			await there.getByRole("button", { name: "Sign in" }).click();
			await there.getByLabel("Code from your authenticator app").fill(code(key, Date.now() + 30_000)); // the one of this half minute was used
			await there.getByRole("button", { name: "Sign in" }).click();
			await expect(there.getByRole("navigation", { name: "Main menu" })).toBeVisible();
			await there.getByRole("link", { name: "Clients" }).click();
			await expect(there.getByRole("link", { name: /Pia Lindqvist/ })).toBeVisible();
			await there.context().close();
		} finally {
			await endOther();
		}
	});
});

test("a studio that begins with the products and protocols of a file", async ({ page }) => {
	make("filed");
	softpalm("filed", ["migrate"]);
	const end = await serve("filed", port + 1);
	try {
		await page.goto(at(1));
		await page.getByLabel("Name of the studio").fill("Rowan Street Face Studio");
		await page.getByLabel("Your name").fill("Ana Becker");
		await page.getByLabel("E-mail address").fill("ana@studio.example");
		await page.getByLabel("Password").fill("seven warm stones");
		await page.getByLabel("Import them from a file in the next step").check();
		await page.getByRole("button", { name: "Create studio" }).click();
		await expect(page.getByRole("heading", { name: "Import a file" })).toBeVisible();
		await page.locator('input[type="file"]').setInputFiles("../demo/studio.json");
		await expect(page.getByRole("heading", { name: "This will add" })).toBeVisible();
		await page.getByRole("button", { name: "Import", exact: true }).click();
		await expect(page.getByText("Import complete.")).toBeVisible();
		await page.getByRole("link", { name: "Protocols" }).click();
		await expect(page.getByRole("link", { name: /drainage/i }).first()).toBeVisible();
	} finally {
		await end();
	}
});
