import { defineConfig } from "@playwright/test";
import { port, workers } from "./server";

const longest = ["studio.spec.ts", "slice.spec.ts", "consultation.spec.ts", "bench.spec.ts", "weekend.spec.ts"];

// The tests of a file follow each other, on a server and a database of their own.
export default defineConfig({
	testDir: ".",
	workers,
	// The longest files first: a long one that began last would leave the other browsers without work.
	projects: [
		{ name: "long", testMatch: longest },
		{ name: "others", testIgnore: ["pictures/**", "speed/**", ...longest] },
	],
	// Patient: how fast a screen is, make bench tells.
	timeout: 300_000,
	expect: { timeout: 20_000 },
	globalSetup: "./setup.ts",
	outputDir: "test-results",
	use: {
		// What a page asks for is looked at by the tests themselves; the room's own test lets the worker in.
		serviceWorkers: "block",
		actionTimeout: 20_000,
		baseURL: `http://127.0.0.1:${port}`,
		viewport: { width: 1280, height: 800 },
		timezoneId: "Europe/Lisbon",
		launchOptions: {
			executablePath: process.env.SOFTPALM_BROWSER ?? "/usr/bin/chromium",
			args: ["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking", "--disable-component-update", "--disable-sync"],
		},
	},
});
