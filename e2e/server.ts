import { execFileSync, spawn } from "node:child_process";

/** The demo's moment, at which the tests begin. */
export const morning = "2026-11-24T09:05:00Z";

/** How many browsers work at a time, each with a server and a database of its own. */
export const workers = 2;

const first = Number(process.env.E2E_PORT ?? 8098);
const mine = Number(process.env.TEST_PARALLEL_INDEX ?? 0);

/** portOf is where the server of a worker is; the nine ports after it are free for the servers of single tests. */
export const portOf = (worker: number) => first + 10 * worker;
export const port = portOf(mine);

/** environment is what the product is told of a worker's database, and of the address at that port. */
export function environment(port: number, worker = mine): NodeJS.ProcessEnv {
	const owner = process.env.TEST_DATABASE_URL;
	const secret = process.env.TEST_APP_PASSWORD;
	if (!owner || !secret) throw new Error("TEST_DATABASE_URL and TEST_APP_PASSWORD must be set; make test sets both");
	return {
		...process.env,
		DATABASE_URL: owner.replace(/\/postgres$/, `/e2e${worker}`),
		SOFTPALM_APP_PASSWORD: secret,
		SOFTPALM_ADDRESS: `127.0.0.1:${port}`,
		SOFTPALM_CLOCK_START: morning,
	};
}

/** serve starts the real binary on a worker's database, its clock at the demo's moment, and returns what ends it. */
export async function serve(at: number, worker = mine): Promise<() => void> {
	const answers = await fetch(`http://127.0.0.1:${at}/readyz`).then(
		() => true,
		() => false,
	);
	if (answers) throw new Error(`another server answers at port ${at}: end it, or choose another port with E2E_PORT`);
	const env = environment(at, worker);
	// The server itself gets the address for its own role, and no other password.
	const { DATABASE_URL, SOFTPALM_APP_PASSWORD, TEST_DATABASE_URL, TEST_APP_PASSWORD, ...rest } = env;
	const SOFTPALM_DATABASE_URL = execFileSync("../bin/softpalm", ["url", "server"], { env, encoding: "utf8" }).trim();
	const server = spawn("../bin/softpalm", ["serve"], { env: { ...rest, SOFTPALM_DATABASE_URL }, stdio: "ignore" });
	for (let i = 0; i < 100; i++) {
		try {
			if ((await fetch(`http://127.0.0.1:${at}/readyz`)).ok) return () => void server.kill("SIGTERM");
		} catch {
			// not listening yet
		}
		await new Promise((r) => setTimeout(r, 100));
	}
	server.kill("SIGTERM");
	throw new Error("the server did not become ready");
}
