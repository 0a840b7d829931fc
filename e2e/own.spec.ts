import { execFileSync, spawn } from "node:child_process";
import { createHmac } from "node:crypto";
import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect } from "@playwright/test";
import { noSeriousFault, test } from "./help";
import { port } from "./server";

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

/** A server of its own on a database of its own. */
async function serve(name: string, port: number) {
	const owner = process.env.TEST_DATABASE_URL!;
	const env = { ...process.env, DATABASE_URL: owner.replace(/\/postgres$/, `/${name}`), SOFTPALM_APP_PASSWORD: process.env.TEST_APP_PASSWORD, SOFTPALM_ADDRESS: `127.0.0.1:${port}` };
	const SOFTPALM_DATABASE_URL = execFileSync("../bin/softpalm", ["url", "server"], { env, encoding: "utf8" }).trim();
	const { DATABASE_URL, SOFTPALM_APP_PASSWORD, TEST_DATABASE_URL, TEST_APP_PASSWORD, ...rest } = env as Record<string, string | undefined>;
	const server = spawn("../bin/softpalm", ["serve"], { env: { ...rest, SOFTPALM_DATABASE_URL }, stdio: "ignore" });
	for (let i = 0; i < 100; i++) {
		try {
			if ((await fetch(`http://127.0.0.1:${port}/readyz`)).ok) return { url: `http://127.0.0.1:${port}`, stop: () => void server.kill("SIGTERM") };
		} catch {
			// not listening yet
		}
		await new Promise((r) => setTimeout(r, 100));
	}
	server.kill("SIGTERM");
	throw new Error("the server did not become ready");
}

const softpalm = (name: string, ...args: string[]) =>
	execFileSync("../bin/softpalm", args, {
		env: { ...process.env, DATABASE_URL: process.env.TEST_DATABASE_URL!.replace(/\/postgres$/, `/${name}`), SOFTPALM_APP_PASSWORD: process.env.TEST_APP_PASSWORD, SOFTPALM_BACKUPS: folder },
		stdio: "pipe",
		encoding: "utf8",
	});
const fresh = (name: string) =>
	execFileSync("psql", ["-q", process.env.TEST_DATABASE_URL!, "-c", `drop database if exists ${name} with (force)`, "-c", `create database ${name}`], { stdio: "ignore" });
const folder = mkdtempSync(join(tmpdir(), "softpalm-own-"));

test("a studio of one's own: made on the first page, a practitioner invited, a second factor on, restored elsewhere", async ({ page, browser }) => {
	fresh("own");
	softpalm("own", "migrate");
	const first = await serve("own", port + 1);
	let key = "";
	try {
		await test.step("the first page makes the studio", async () => {
			await page.goto(first.url);
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
			await page.goto(`${first.url}/team`);
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
			expect((await theirs.request.get(`${first.url}/api/people`)).status()).toBe(403);
			await theirs.goto(`${first.url}/people`);
			await theirs.getByRole("button", { name: "Add client" }).click();
			await theirs.getByRole("textbox", { name: "Name" }).fill("Pia Lindqvist");
			await theirs.getByRole("button", { name: "Add", exact: true }).click();
			await expect(theirs.getByRole("heading", { name: "Pia Lindqvist" })).toBeVisible();
			await theirs.context().close();
		});
		await test.step("the owner turns the second factor on", async () => {
			await page.keyboard.press("Escape");
			await page.goto(`${first.url}/account`);
			await page.getByRole("button", { name: "Set up an app" }).click();
			await noSeriousFault(page, "setting up an app");
			key = (await page.getByText("Or type this key into the app:").locator("span").textContent())!;
			await page.getByLabel("Code that the app shows").fill(code(key));
			await page.getByLabel("Your password").fill("seven warm stones");
			await page.getByRole("button", { name: "Turn on second factor" }).click();
			await expect(page.getByRole("list", { name: "Recovery codes" }).getByRole("listitem")).toHaveCount(10);
			await page.getByRole("button", { name: "I have saved the codes" }).click();
			await expect(page.getByRole("button", { name: "Remove second factor" })).toBeVisible();
			await page.goto(`${first.url}/settings`);
			await page.getByLabel("Owners need a second factor").check();
			await page.getByRole("button", { name: "Save settings" }).click();
			await expect(page.getByText("The settings are saved.")).toBeVisible();
			await noSeriousFault(page, "settings");
		});
	} finally {
		first.stop();
	}
	await test.step("a backup is restored elsewhere and signed in to", async () => {
		softpalm("own", "backup", "now");
		const file = execFileSync("ls", [folder], { encoding: "utf8" }).trim().split("\n").at(-1)!;
		fresh("elsewhere");
		softpalm("elsewhere", "restore", join(folder, file));
		const other = await serve("elsewhere", port + 2);
		try {
			const there = await (await browser.newContext()).newPage();
			await there.goto(other.url);
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
			other.stop();
		}
	});
});

test("a studio that begins with the products and protocols of a file", async ({ page }) => {
	fresh("filed");
	softpalm("filed", "migrate");
	const server = await serve("filed", port + 1);
	try {
		await page.goto(server.url);
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
		server.stop();
	}
});
