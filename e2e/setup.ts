import { execFileSync } from "node:child_process";
import type { FullConfig } from "@playwright/test";
import { environment, portOf, serve } from "./server";

/** Makes a database with the demo for each worker, starts the real binary on it at a fixed moment, and ends it afterwards. */
export default async function setup(config: FullConfig) {
	const ends: (() => void)[] = [];
	for (let worker = 0; worker < config.workers; worker++) {
		const env = environment(portOf(worker), worker);
		const database = ["-c", `drop database if exists e2e${worker} with (force)`, "-c", `create database e2e${worker}`];
		execFileSync("psql", ["-q", env.TEST_DATABASE_URL!, ...database], { stdio: "ignore" });
		execFileSync("../bin/softpalm", ["demo", "../demo/studio.json"], { env, stdio: "ignore" });
		ends.push(await serve(portOf(worker), worker));
	}
	return () => {
		for (const end of ends) end();
	};
}
