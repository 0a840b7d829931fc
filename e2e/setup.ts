import { execFileSync, spawn } from "node:child_process";

/** Makes a database with the demo, starts the real binary on it at a fixed moment, and ends it afterwards. */
export default async function setup() {
	const owner = process.env.TEST_DATABASE_URL;
	const secret = process.env.TEST_APP_PASSWORD;
	if (!owner || !secret) throw new Error("TEST_DATABASE_URL and TEST_APP_PASSWORD must be set; make test sets both");
	execFileSync("psql", ["-q", owner, "-c", "drop database if exists e2e with (force)", "-c", "create database e2e"], { stdio: "ignore" });
	const env = {
		...process.env,
		DATABASE_URL: owner.replace(/\/postgres$/, "/e2e"),
		SOFTPALM_APP_PASSWORD: secret,
		SOFTPALM_ADDRESS: `127.0.0.1:${process.env.E2E_PORT ?? 8098}`,
		SOFTPALM_CLOCK_START: "2026-11-24T09:05:00Z",
	};
	execFileSync("../bin/softpalm", ["demo", "../demo/studio.json"], { env, stdio: "ignore" });
	// The server itself gets the address for its own role, and no other password.
	const { DATABASE_URL, SOFTPALM_APP_PASSWORD, TEST_DATABASE_URL, TEST_APP_PASSWORD, ...rest } = env as Record<string, string | undefined>;
	const SOFTPALM_DATABASE_URL = execFileSync("../bin/softpalm", ["url", "server"], { env, encoding: "utf8" }).trim();
	const server = spawn("../bin/softpalm", ["serve"], { env: { ...rest, SOFTPALM_DATABASE_URL }, stdio: "ignore" });
	for (let i = 0; i < 100; i++) {
		try {
			if ((await fetch(`http://127.0.0.1:${process.env.E2E_PORT ?? 8098}/readyz`)).ok) return () => void server.kill("SIGTERM");
		} catch {
			// not listening yet
		}
		await new Promise((r) => setTimeout(r, 100));
	}
	server.kill("SIGTERM");
	throw new Error("the server did not become ready");
}
