import { readFileSync } from "node:fs";
import { expect, type Page } from "@playwright/test";
import { noSeriousFault, signIn, test } from "./help";

type Json = Record<string, unknown>;

/** A protocol without what a workbench names by itself: ids, key, and empty values. */
function bare(p: Json): Json {
	const steps = p.steps as Json[];
	const place = new Map(steps.map((s, i) => [s.id, `#${i}`]));
	const rounds = new Map(((p.rounds as Json[]) ?? []).map((r, i) => [r.id, `r${i}`]));
	const clean = (v: unknown): unknown => {
		if (Array.isArray(v)) return v.map(clean);
		if (v && typeof v === "object")
			return Object.fromEntries(
				Object.entries(v)
					.filter(([, x]) => x !== null && x !== "" && x !== 0 && x !== false && !(Array.isArray(x) && x.length === 0))
					.map(([k, x]) => [k, clean(x)]),
			);
		return v;
	};
	return clean({
		...p,
		key: undefined,
		price: undefined,
		steps: steps.map((s) => ({ ...s, id: place.get(s.id), round: rounds.get(s.round), mirrorOf: place.get(s.mirrorOf) })),
		rounds: ((p.rounds as Json[]) ?? []).map((r) => ({ ...r, id: rounds.get(r.id) })),
	}) as Json;
}

const protocolOnScreen = async (page: Page) => {
	const id = /protocols\/([0-9a-f-]+)/.exec(page.url())![1];
	return (await (await page.request.get(`/api/protocols/${id}`)).json()) as { protocol: Json };
};

// Everything below is typed: the pointer is never used.
async function tabTo(page: Page, name: string | RegExp, role: "button" | "link" | "tab" | "combobox" | "spinbutton" | "textbox" | "searchbox" | "checkbox" = "button", within = page.locator("body")) {
	const el = within.getByRole(role, { name, exact: typeof name === "string" }).first();
	await el.focus();
	return el;
}
async function press(page: Page, name: string | RegExp, role: "button" | "link" | "tab" = "button") {
	await tabTo(page, name, role);
	await page.keyboard.press("Enter");
}
async function type(page: Page, name: string | RegExp, text: string, role: "textbox" | "spinbutton" | "searchbox" = "textbox") {
	const el = await tabTo(page, name, role);
	await page.keyboard.press("Control+a");
	if (text) await page.keyboard.type(text);
	else await page.keyboard.press("Delete");
	await el.evaluate((x: HTMLElement) => x.dispatchEvent(new Event("change", { bubbles: true })));
}
async function choose(page: Page, name: string | RegExp, value: string) {
	const el = await tabTo(page, name, "combobox");
	// The keyboard picks an option by typing its beginning; selectOption does that for us.
	await el.selectOption(value);
}
async function unfold(page: Page, title: string) {
	const group = page.locator("details", { has: page.locator("summary", { hasText: title }) }).first();
	if ((await group.getAttribute("open")) === null) {
		await group.locator("summary").focus();
		await page.keyboard.press("Enter");
	}
}

test("a protocol is built from nothing by keyboard and equals the file", async ({ page }) => {
	const file = JSON.parse(readFileSync("../internal/craft/crafttest/testdata/protocols/sinus-gentle.json", "utf8")) as { protocol: Json };
	const wanted = file.protocol;
	const steps = wanted.steps as { stroke: string; phase: string; dose: { kind: string; planned: number; in?: number; out?: number; pulses?: number }; round?: string }[];
	await signIn(page, "practitioner");
	await press(page, "Protocols", "link");
	await press(page, "New protocol", "link");
	await noSeriousFault(page, "new protocol");
	await press(page, "Start blank");
	await expect(page.getByRole("button", { name: "0 steps" })).toBeVisible();

	await test.step("the plan", async () => {
		await press(page, "Plan", "tab");
		await type(page, "Name", wanted.name as string);
		await type(page, "Short description", wanted.summary as string);
		const m = wanted.minutes as { sold: number; handsOn: number; reset: number };
		await type(page, "Treatment min", `${m.sold}`, "spinbutton");
		await type(page, "Hands-on min", `${m.handsOn}`, "spinbutton");
		await type(page, "Reset min", `${m.reset}`, "spinbutton");
		await unfold(page, "For whom");
		await page.getByRole("checkbox", { name: "Blocked sinus" }).focus();
		await page.keyboard.press("Space");
		await unfold(page, "Method");
		await choose(page, "Slip", "dry");
		await choose(page, "Closing", "reverse");
		await choose(page, "Discomfort", "comfort");
	});

	const names = (await (await page.request.get("/api/library")).json()) as { strokes: { key: string; name: string }[] };
	for (const [i, s] of steps.entries()) {
		const name = names.strokes.find((x) => x.key === s.stroke)!.name;
		await press(page, "Add a stroke");
		await type(page, "Stroke, zone, intent, hand or tool", name, "searchbox");
		await page.getByRole("button", { name: new RegExp(`^${name.replace(/[.*+?^${}()|[\]\\]/g, "\\$&")}`) }).first().focus();
		await page.keyboard.press("Enter");
		await expect(page.getByRole("button", { name: `${i + 1} step${i === 0 ? "" : "s"}`, exact: true })).toBeVisible();
		await unfold(page, "Repetitions and timing in full");
		const d = s.dose;
		await choose(page, "Kind of repetitions and timing", d.kind);
		await type(page, "At least", "", "spinbutton");
		await type(page, "At most", "", "spinbutton");
		const planned = { reps: "Repetitions", clock: "Seconds", breaths: "Breaths" }[d.kind]!;
		await type(page, planned, `${d.planned}`, "spinbutton");
		if (d.in) await type(page, "In s", `${d.in}`, "spinbutton");
		if (d.out) await type(page, "Out s", `${d.out}`, "spinbutton");
		if (d.pulses) await type(page, "Pumps each out-breath", `${d.pulses}`, "spinbutton");
		await unfold(page, "Phase, notes and timing");
		await choose(page, "Phase", s.phase);
	}
	await test.step("the round", async () => {
		await press(page, new RegExp(`^${steps.length} steps$`));
		const at = steps.findIndex((s) => s.round);
		const buttons = page.locator("[data-step]");
		await buttons.nth(at).focus();
		await page.keyboard.press("Enter");
		await page.keyboard.press("Shift+ArrowDown");
		await page.keyboard.press("Shift+ArrowDown");
		await expect(page.getByText("3 chosen")).toBeVisible();
		await page.keyboard.press("g");
		await type(page, "Rounds", `${(wanted.rounds as { times: number }[])[0]!.times}`, "spinbutton");
	});
	await expect(page.getByText("your draft, saved")).toBeVisible();
	await expect(page.getByRole("tab", { name: "No findings" })).toBeVisible();
	expect(bare((await protocolOnScreen(page)).protocol)).toEqual(bare(wanted));

	await test.step("the same file brought in is the same", async () => {
		await page.goto("/import");
		await page.locator('input[type="file"]').setInputFiles("../internal/craft/crafttest/testdata/protocols/sinus-gentle.json");
		await expect(page.getByText("no findings")).toBeVisible();
		await noSeriousFault(page, "import a protocol");
		await page.getByRole("button", { name: "Import" }).click();
		await page.getByRole("link", { name: "Open protocol" }).click();
		await expect(page.getByRole("tab", { name: "No findings" })).toBeVisible();
		expect(bare((await protocolOnScreen(page)).protocol)).toEqual(bare(wanted));
	});
});

test("from sign-in to a printed thirty-minute protocol in a handful of clicks", async ({ page, context }) => {
	let clicks = 0;
	const click = async (el: ReturnType<Page["getByRole"]>) => {
		await el.click();
		clicks++;
	};
	await signIn(page, "practitioner");
	await click(page.getByRole("link", { name: "Protocols" }));
	await click(page.getByRole("link", { name: "New protocol" }));
	await click(page.getByText("Puffiness", { exact: true }));
	await click(page.getByText("30 min", { exact: true }));
	const begun = Date.now();
	await click(page.getByRole("button", { name: "Create draft" }));
	await expect(page.getByTestId("total")).toContainText("of 30:00");
	expect(Date.now() - begun).toBeLessThan(10_000);
	expect((await page.getByRole("tab", { name: /Findings \(/ }).count()) === 0).toBe(true); // nothing but notes
	await click(page.getByRole("button", { name: "Export ▾" }));
	const card = page.getByRole("menuitem", { name: /Card to print, A4/ });
	const href = await card.getAttribute("href");
	const opened = context.waitForEvent("page");
	await click(card);
	await opened;
	const pdf = await page.request.get(href!);
	expect(pdf.headers()["content-type"]).toBe("application/pdf");
	expect((await pdf.body()).subarray(0, 5).toString()).toBe("%PDF-");
	expect(clicks).toBeLessThanOrEqual(12);
});

test("the workbench: several steps, drawing, commands, findings put aside, papers", async ({ page }) => {
	await signIn(page, "practitioner");
	await page.getByRole("link", { name: "Protocols" }).click();
	await page.getByRole("link", { name: "Stone work, one side first" }).click();
	await expect(page.getByRole("tab", { name: "No findings" })).toBeVisible();
	const total = page.getByTestId("total");
	const before = await total.textContent();
	// A command is shown before it is done, and undone in one go.
	await page.getByRole("button", { name: "Rework ▾" }).click();
	await page.getByRole("menuitem", { name: /Fit to time/ }).click();
	await page.getByRole("dialog").getByLabel("Hands-on min").fill("25");
	await expect(page.getByRole("dialog").getByText(/→ 2[45]:/)).toBeVisible();
	await noSeriousFault(page, "command preview");
	await expect(total).toHaveText(before!);
	await page.getByRole("button", { name: "Apply" }).click();
	await expect(total).toContainText("of 25:00");
	await page.keyboard.press("Control+z");
	await expect(total).toHaveText(before!);
	// Several steps, copied into another protocol.
	await page.getByRole("button", { name: /Jaw notch glide/ }).first().click();
	await page.getByRole("button", { name: /Cheek glide from the nose/ }).first().click({ modifiers: ["Shift"] });
	await expect(page.getByText("3 chosen")).toBeVisible();
	await page.keyboard.press("Control+c");
	await page.getByRole("link", { name: "Protocols" }).click();
	await page.getByRole("link", { name: "Full-face drainage and lift" }).click();
	const steps = Number((await page.getByRole("button", { name: /^\d+ steps$/ }).textContent())!.split(" ")[0]);
	await page.getByRole("button", { name: /Chin kneading/ }).first().click();
	await page.keyboard.press("Control+v");
	await expect(page.getByRole("button", { name: `${steps + 3} steps` })).toBeVisible();
	// What is found is grouped; a warning is put aside only with its reason.
	await page.getByRole("tab", { name: /Findings/ }).click();
	await expect(page.getByRole("heading", { name: /Should fix/ })).toBeVisible();
	await noSeriousFault(page, "findings");
	const found = await page.getByRole("tab", { name: /Findings/ }).textContent();
	await page.getByRole("button", { name: "Dismiss …" }).first().click();
	await page.getByRole("button", { name: "Dismiss", exact: true }).first().click();
	await expect(page.getByText("Give a reason.")).toBeVisible();
	await page.getByLabel("Reason for dismissing").fill("Tried on a colleague");
	await page.getByRole("button", { name: "Dismiss", exact: true }).first().click();
	await expect(page.getByText("Dismissed: 1")).toBeVisible();
	await expect(page.getByRole("tab", { name: /Findings|Notes|No findings/ })).not.toHaveText(found!);
	// A path drawn on the face becomes a stroke of the studio's own.
	await page.keyboard.press("Escape");
	await page.getByRole("tab", { name: "Step" }).click();
	await page.keyboard.press("d");
	for (const zone of ["chin", "lower-cheek", "cheekbone"]) await page.locator(`[data-zone="${zone}"]`).first().click();
	await page.getByRole("button", { name: "New stroke from this path" }).click();
	await page.getByRole("dialog").getByLabel("Name").fill("Slow lift to the cheekbone");
	await noSeriousFault(page, "new stroke");
	await page.getByRole("button", { name: "Save stroke" }).click();
	await expect(page.getByRole("heading", { name: "Slow lift to the cheekbone" })).toBeVisible();
	await expect(page.getByText("your draft, saved")).toBeVisible();
	// Views, layers, shortcuts.
	for (const view of ["left", "right", "back", "mouth", "front"]) {
		await page.getByLabel("View of the body").selectOption(view);
		await expect(page.locator(`[data-view="${view}"]`)).toBeVisible();
	}
	await page.getByText("lymph routes").click();
	await page.getByText("load", { exact: true }).click();
	await noSeriousFault(page, "layers");
	await page.locator("main").focus();
	await page.keyboard.press("?");
	await expect(page.getByRole("dialog", { name: "Shortcuts" })).toBeVisible();
	await noSeriousFault(page, "shortcuts");
	await page.keyboard.press("Escape");
	// Papers.
	const id = /protocols\/([0-9a-f-]+)/.exec(page.url())![1];
	const csv = await (await page.request.get(`/api/protocols/${id}/csv`)).text();
	expect(csv.split("\r\n")[0]).toContain("step,phase,round");
	expect(csv).toContain("Slow lift to the cheekbone");
	await page.getByRole("button", { name: "Export ▾" }).click();
	const saved = page.waitForEvent("download");
	await page.getByRole("menuitem", { name: /Travel chart/ }).click();
	expect((await saved).suggestedFilename()).toMatch(/chart\.svg$/);
	await page.getByRole("button", { name: "Export ▾" }).click();
	await page.getByRole("menuitem", { name: /Variants/ }).click();
	await expect(page.getByRole("columnheader", { name: /Sensitive/ })).toBeVisible();
	await noSeriousFault(page, "variants");
	await page.getByRole("link", { name: "Back to protocol" }).click();
	await page.getByRole("button", { name: "Export ▾" }).click();
	await page.getByRole("menuitem", { name: /Compare versions/ }).click();
	await expect(page.getByText(/Slow lift to the cheekbone: added/)).toBeVisible();
	await noSeriousFault(page, "versions");
	await page.goto("/library");
	await page.getByLabel(/Studio strokes/).check();
	await expect(page.getByRole("heading", { name: /Slow lift|Breathe|./ }).first()).toBeVisible();
	await noSeriousFault(page, "strokes");
	await page.goto("/library/zones");
	await expect(page.getByRole("heading", { name: "Cheekbone" })).toBeVisible();
	await noSeriousFault(page, "zones");
	await page.goto("/shelf/tools");
	await page.getByRole("button", { name: "Add tool" }).click();
	await page.getByRole("dialog").getByLabel("Name").fill("Shell scraper");
	await noSeriousFault(page, "add a tool");
	await page.getByRole("button", { name: "Add tool" }).click();
	await page.goto("/shelf");
	await page.getByRole("button", { name: "Add product" }).click();
	await page.getByRole("dialog").getByLabel("Name", { exact: true }).fill("Linseed glide");
	await noSeriousFault(page, "add a product");
	await page.getByRole("button", { name: "Add product" }).click();
	await expect(page.getByText("Linseed glide")).toBeVisible();
});

test("an edit is one request, and a note is one undo step however long it takes to type", async ({ page }) => {
	await signIn(page, "practitioner");
	await page.getByRole("link", { name: "Protocols" }).click();
	await page.getByRole("link", { name: "Full-face drainage and lift" }).click();
	await page.getByRole("button", { name: /Chin kneading/ }).first().click();
	// Opening a step asks for its drawing, which an edit does not: that of the first step has come, and of this one.
	const drawn = () => page.evaluate(() => performance.getEntriesByType("resource").filter((r) => r.name.endsWith("/drawings")).length);
	await expect.poll(drawn).toBe(2);
	const sent: string[] = [];
	page.on("request", (r) => ["POST", "PUT"].includes(r.method()) && r.url().includes("/api/") && sent.push(`${r.method()} ${new URL(r.url()).pathname.split("/").at(-1)}`));
	await page.getByLabel("Repetitions and timing: more").click();
	await expect(page.getByText(/your draft, saved/)).toBeVisible();
	expect(sent).toEqual(["PUT draft"]);
	await page.locator("summary", { hasText: "Phase, notes and timing" }).click();
	await page.getByLabel("Note", { exact: true }).pressSequentially("Slowly, and ask how it feels.", { delay: 15 });
	expect(sent, "nothing is sent while one types").toHaveLength(1);
	await expect(page.getByText(/your draft, saved/)).toBeVisible();
	await expect.poll(() => sent.length).toBe(2);
	await page.getByRole("button", { name: "Undo" }).click();
	await expect(page.getByLabel("Note", { exact: true })).toHaveValue("");
	// Two fields are written into at once, as a program fills in a form: the first has not been drawn yet.
	await page.getByRole("tab", { name: "Plan" }).click();
	const name = page.getByRole("textbox", { name: "Name" }).first();
	const said = page.getByLabel("Short description");
	const fields = [await name.elementHandle(), await said.elementHandle()] as const;
	await page.evaluate(([a, b]) => {
		for (const [field, text] of [[a, "Both at once"], [b, "Nothing is lost."]] as const) {
			Object.getOwnPropertyDescriptor(Object.getPrototypeOf(field), "value")!.set!.call(field, text);
			field!.dispatchEvent(new InputEvent("input", { bubbles: true }));
		}
	}, fields);
	await expect(page.getByRole("heading", { level: 1 })).toHaveText("Both at once");
	await expect(said).toHaveValue("Nothing is lost.");
	// A name that is emptied is not taken; the field shows so when it is left.
	await name.fill("");
	await expect(name).toHaveValue("");
	await said.focus();
	await expect(name).toHaveValue("Both at once");
	await expect(page.getByText(/your draft, saved/)).toBeVisible();
	expect((await protocolOnScreen(page)).protocol).toMatchObject({ name: "Both at once", summary: "Nothing is lost." });
	await page.getByRole("button", { name: "Discard" }).click();
});

test("where the playing pauses is the step in hand", async ({ page }) => {
	await signIn(page, "practitioner");
	await page.getByRole("link", { name: "Protocols" }).click();
	await page.getByRole("link", { name: "Full-face drainage and lift" }).click();
	const inHand = page.locator('[data-step][aria-current="true"]');
	const before = await inHand.getAttribute("data-step");
	await page.getByLabel("Speed").selectOption("20");
	await page.getByRole("button", { name: "Play" }).click();
	await expect(inHand).not.toHaveAttribute("data-step", before!);
	await page.getByRole("button", { name: "Pause" }).click();
	const name = await page.getByTestId("caption").locator("span").first().textContent();
	await expect(page.getByRole("heading", { level: 2, name: name! })).toBeVisible();
	await expect(inHand).toContainText(name!);
	await expect(inHand).not.toHaveAttribute("data-step", before!);
});

test("a step is moved by its handle, by pointer and by keyboard, and the move is one undo step", async ({ page }) => {
	await signIn(page, "practitioner");
	await page.getByRole("link", { name: "Protocols" }).click();
	// What moves steps is fetched when the hand comes to the list, as it may have when the page opens beneath it. A hand takes
	// longer to move one than this test does.
	const fetched = page.waitForResponse(/\/Sorting-/);
	await page.getByRole("link", { name: "Full-face drainage and lift" }).click();
	const steps = page.getByRole("list", { name: "Steps" }).locator("[data-step]");
	await expect(steps.first()).toBeVisible();
	const order = () => steps.evaluateAll((list) => list.map((x) => (x as HTMLElement).dataset.step!));
	const before = await order();
	const swapped = [...before.slice(0, 8), before[9]!, before[8]!, ...before.slice(10)];
	await steps.nth(8).click();
	await (await fetched).finished();
	const handle = page.getByRole("button", { name: /^Move /, exact: false });
	const [from, to] = [(await handle.nth(8).boundingBox())!, (await handle.nth(9).boundingBox())!];
	await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
	await page.mouse.down();
	for (let i = 1; i <= 10; i++) await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2 + ((to.y - from.y + 6) * i) / 10);
	await page.mouse.up();
	await expect.poll(order).toEqual(swapped);
	await page.getByRole("button", { name: "Undo" }).click();
	await expect.poll(order).toEqual(before);
	await steps.nth(8).click();
	await steps.nth(8).focus();
	await page.keyboard.press("Tab");
	await expect(handle.nth(8)).toBeFocused();
	await page.keyboard.press("Space");
	await page.waitForTimeout(300);
	await page.keyboard.press("ArrowDown");
	await page.waitForTimeout(300);
	await expect(page.getByRole("status").filter({ hasText: `is over step 10 of ${before.length}` })).toHaveCount(1);
	await page.keyboard.press("Space");
	await expect.poll(order).toEqual(swapped);
	await page.getByRole("button", { name: "Discard" }).click();
	await expect.poll(order).toEqual(before);
});
