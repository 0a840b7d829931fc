// Prints "passed failed" of a test run's JSON, and the output of what failed to standard error.
import { readFileSync } from "node:fs";

const [kind, file] = process.argv.slice(2);
const text = readFileSync(file, "utf8");
let passed = 0;
let failed = 0;
if (kind === "go") {
	const output = new Map();
	for (const line of text.split("\n")) {
		if (!line.startsWith("{")) continue;
		const e = JSON.parse(line);
		const key = `${e.Package} ${e.Test ?? ""}`;
		if (e.Action === "output") output.set(key, (output.get(key) ?? "") + e.Output);
		if (e.Action === "skip" && e.Test) console.error(`SKIP  ${key}`);
		if (e.Action === "pass" && e.Test) passed++;
		if (e.Action === "build-fail" || (e.Action === "fail" && (e.Test || e.FailedBuild || !/--- FAIL/.test([...output].filter(([k]) => k.startsWith(`${e.Package} `)).join(""))))) {
			failed++;
			console.error(`FAIL  ${key}\n${output.get(key) ?? e.Output ?? ""}`);
		}
	}
	if (passed === 0) failed++;
} else if (kind === "vitest") {
	for (const file of JSON.parse(text).testResults) {
		if (file.assertionResults.length === 0) {
			failed++;
			console.error(`FAIL  ${file.name}\n${file.message}`);
		}
		for (const t of file.assertionResults) {
			if (t.status === "passed") passed++;
			else {
				failed++;
				console.error(`FAIL  ${t.fullName}\n${(t.failureMessages ?? []).join("\n")}`);
			}
		}
	}
	if (passed === 0 && failed === 0) failed = 1;
} else {
	const walk = (suite) => {
		for (const s of suite.suites ?? []) walk(s);
		for (const spec of suite.specs ?? []) {
			if (spec.ok) passed++;
			else {
				failed++;
				console.error(`FAIL  ${spec.title}`);
				for (const t of spec.tests) for (const r of t.results) for (const err of r.errors ?? []) console.error(err.message);
			}
		}
	};
	const run = JSON.parse(text);
	walk(run);
	for (const err of run.errors ?? []) {
		failed++;
		console.error(err.message);
	}
	if (passed === 0 && failed === 0) failed = 1;
}
console.log(passed, failed);
