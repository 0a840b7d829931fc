import { execFileSync, spawn } from "node:child_process";
import { once } from "node:events";

/** The demo's moment, at which the tests begin. */
export const morning = "2026-11-24T09:05:00Z";

/** How many browsers work at a time, each with a server and a database of its own. They often wait for their servers, so they may be more than the processors. */
export const workers = 3;

/** The database with the demo, made once for a run: those of the tests are copies. */
export const demo = "e2e_demo";

const mine = Number(process.env.TEST_PARALLEL_INDEX ?? 0);

/** The database of this worker's tests, and where their server is; the nine ports after it are free for the servers of single tests. */
export const database = `e2e${mine}`;
export const port = Number(process.env.E2E_PORT ?? 8098) + 10 * mine;

const given = (name: "TEST_DATABASE_URL" | "TEST_APP_PASSWORD") => {
	const value = process.env[name];
	if (!value) throw new Error(`${name} must be set; make test sets it`);
	return value;
};

const owner = (of: string) => ({
	...process.env,
	DATABASE_URL: given("TEST_DATABASE_URL").replace(/\/postgres$/, `/${of}`),
	SOFTPALM_APP_PASSWORD: given("TEST_APP_PASSWORD"),
});

/** softpalm runs one of the product's commands on a database. */
export const softpalm = (of: string, args: string[], env: NodeJS.ProcessEnv = {}) =>
	execFileSync("../bin/softpalm", args, { env: { ...owner(of), ...env }, stdio: "pipe", encoding: "utf8" });

/** make makes a database anew: empty, or as a copy of another. */
export function make(name: string, of = "template1") {
	const sql = ["-c", `drop database if exists ${name} with (force)`, "-c", `create database ${name} template ${of}`];
	execFileSync("psql", ["-q", given("TEST_DATABASE_URL"), ...sql], { stdio: "ignore" });
}

/** serve starts the real binary on a database, its clock at a moment or right, and returns what ends it. */
export async function serve(of: string, at: number, clock = ""): Promise<() => Promise<unknown>> {
	const ready = () =>
		fetch(`http://127.0.0.1:${at}/readyz`).then(
			(r) => r.ok,
			() => undefined,
		);
	if ((await ready()) !== undefined) throw new Error(`another server answers at port ${at}: end it, or choose another port with E2E_PORT`);
	// The server itself gets the address for its own role, and no other password.
	const { DATABASE_URL, SOFTPALM_APP_PASSWORD, TEST_DATABASE_URL, TEST_APP_PASSWORD, ...rest } = owner(of);
	const env = {
		...rest,
		SOFTPALM_DATABASE_URL: softpalm(of, ["url", "server"]).trim(),
		SOFTPALM_ADDRESS: `127.0.0.1:${at}`,
		...(clock && { SOFTPALM_CLOCK_START: clock }),
	};
	const server = spawn("../bin/softpalm", ["serve"], { env, stdio: "ignore" });
	const ended = once(server, "exit");
	const end = () => {
		server.kill("SIGTERM");
		return ended;
	};
	for (let i = 0; i < 100; i++) {
		if (await ready()) return end;
		await new Promise((r) => setTimeout(r, 100));
	}
	await end();
	throw new Error("the server did not become ready");
}
