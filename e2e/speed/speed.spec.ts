import { test } from "@playwright/test";
import { signIn } from "../help";

// From a click to the picture: how long an edit of a plan of 60 steps takes to be
// judged and drawn. Printed, not judged: timings are no test.
test("an edit on the workbench", async ({ page }) => {
	await signIn(page, "practitioner");
	const csrf = ((await (await page.request.get("/api/session")).json()) as { csrf: string }).csrf;
	const headers = { "X-CSRF-Token": csrf };
	const list = (await (await page.request.get("/api/protocols")).json()) as { id: string; name: string }[];
	const base = (await (await page.request.get(`/api/protocols/${list.find((p) => p.name.startsWith("Full-face"))!.id}`)).json()) as {
		protocol: { steps: { id: string; phase: string }[] };
	};
	const steps = [...base.protocol.steps];
	for (let i = 0; steps.length < 60; i++) {
		const s = base.protocol.steps.filter((x) => x.phase === "work")[i % 12]!;
		steps.splice(steps.findIndex((x) => x.id === s.id) + 1, 0, { ...s, id: `more${i}` });
	}
	const made = (await (
		await page.request.post("/api/protocols", { headers, data: { ...base.protocol, key: `sixty-${Date.now()}`, name: "Sixty steps", steps } })
	).json()) as { id: string };
	await page.goto(`/protocols/${made.id}`);
	await page.getByRole("button", { name: "60 steps" }).waitFor();
	const times: number[] = [];
	for (let i = 0; i < 24; i++) {
		const ms = await page.evaluate(
			(more) =>
				new Promise<number>((done) => {
					const total = document.querySelector('[data-testid="total"]')!;
					const begun = performance.now();
					const seen = new MutationObserver(() => {
						seen.disconnect();
						requestAnimationFrame(() => done(performance.now() - begun));
					});
					seen.observe(total, { subtree: true, characterData: true, childList: true });
					document.querySelector<HTMLButtonElement>(`[aria-label="Repetitions and timing: ${more ? "more" : "less"}"]`)!.click();
				}),
			i % 2 === 0,
		);
		times.push(ms);
		await page.waitForTimeout(250);
	}
	const [first, ...rest] = times as [number, ...number[]]; // the first finds a cold page
	rest.sort((a, b) => a - b);
	console.log(
		`BrowserEdit60Steps  ${rest.length} edits: least ${rest[0]!.toFixed(0)} ms, median ${rest[rest.length >> 1]!.toFixed(0)} ms, most ${rest.at(-1)!.toFixed(0)} ms; the first after opening ${first.toFixed(0)} ms`,
	);
});
