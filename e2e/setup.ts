import { execFileSync } from "node:child_process";
import { environment, port, serve } from "./server";

/** Makes a database with the demo, starts the real binary on it at a fixed moment, and ends it afterwards. */
export default async function setup() {
	const env = environment(port);
	const database = ["-c", "drop database if exists e2e with (force)", "-c", "create database e2e"];
	execFileSync("psql", ["-q", env.TEST_DATABASE_URL!, ...database], { stdio: "ignore" });
	execFileSync("../bin/softpalm", ["demo", "../demo/studio.json"], { env, stdio: "ignore" });
	return serve(port);
}
