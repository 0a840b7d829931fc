import { expect } from "@playwright/test";
import { acceptAll, answerDoor, holdButton, nextStep, noSeriousFault, sign, signIn, test } from "./help";

test("the whole slice: protocol, client, check, booking, room, record, shelf", async ({ page }) => {
	await page.goto("/");
	await expect(page.getByText("owner@demo.example")).toBeVisible(); // the demo names its accounts
	await noSeriousFault(page, "sign-in");
	await signIn(page, "owner");
	await noSeriousFault(page, "day");

	await test.step("a protocol is adapted on the workbench and published", async () => {
		await page.getByRole("link", { name: "Protocols" }).click();
		await noSeriousFault(page, "protocols");
		await page.getByRole("link", { name: "Full-face drainage and lift" }).click();
		await expect(page.getByRole("tab", { name: "No findings" })).toBeVisible();
		const total = page.getByTestId("total");
		const before = await total.textContent();
		await page.getByRole("button", { name: /Chin kneading/ }).first().click();
		await noSeriousFault(page, "workbench");
		await page.getByRole("button", { name: "Repetitions and timing: more" }).click();
		await expect(total).not.toHaveText(before!);
		await page.keyboard.press("Control+z");
		await expect(total).toHaveText(before!);
		await page.keyboard.press("Control+y");
		await expect(total).not.toHaveText(before!);
		await page.getByRole("button", { name: "Repetitions and timing: less" }).click();
		await expect(total).toHaveText(before!);
		// Too hard on the neck is found at once, and put right by one click.
		await page.getByRole("button", { name: /Neck glide to the terminus/ }).first().click();
		await page.getByTitle("medium", { exact: true }).click();
		await page.getByRole("tab", { name: /Findings/ }).click();
		await expect(page.getByText(/Both sides of the neck at once, .*carotid arteries/)).toBeVisible();
		await expect(page.getByRole("button", { name: "Publish" })).toBeDisabled();
		await noSeriousFault(page, "findings");
		await page.getByRole("button", { name: "Lower the pressure" }).first().click();
		await expect(page.getByRole("tab", { name: "No findings" })).toBeVisible();
		// Moving by keyboard, adding and removing.
		await page.getByRole("button", { name: /Chin kneading/ }).first().focus();
		await page.keyboard.press("Alt+ArrowDown");
		await page.keyboard.press("Control+z");
		await page.getByRole("button", { name: "Add a stroke" }).click();
		await page.getByLabel("Stroke, zone, intent, hand or tool").fill("temple hold");
		await page.getByRole("button", { name: /Still press at the temples/ }).click();
		await expect(page.getByRole("button", { name: "49 steps" })).toBeVisible();
		await page.getByRole("button", { name: "Remove" }).click();
		await expect(page.getByRole("button", { name: "48 steps" })).toBeVisible();
		await expect(page.getByText("your draft, saved")).toBeVisible();
		await page.reload();
		await expect(page.getByText("your draft, saved")).toBeVisible(); // drafts outlive a reload
		await page.getByRole("button", { name: "Publish" }).click();
		const dialog = page.getByRole("dialog", { name: /^Publish/ });
		await expect(dialog.getByText(/a minute of 75 min/)).toBeVisible();
		await expect(dialog.getByText(/booked appointments keep the version/)).toBeVisible();
		await noSeriousFault(page, "publishing");
		await dialog.getByRole("button", { name: "Publish version 2" }).click();
		await expect(dialog).toHaveCount(0);
		await expect(page.getByText("version 2")).toBeVisible();
	});

	await test.step("a client is added and screened", async () => {
		await page.getByRole("link", { name: "Clients" }).click();
		await noSeriousFault(page, "people");
		await page.getByRole("button", { name: "Add client" }).click();
		await page.getByLabel("Name", { exact: true }).fill("Orla Fenwick");
		await page.getByLabel("E-mail", { exact: true }).fill("not an address");
		await page.getByRole("button", { name: "Add", exact: true }).click();
		await expect(page.getByText(/with an @/).first()).toBeVisible();
		await expect(page.getByLabel("Name", { exact: true })).toHaveValue("Orla Fenwick"); // nothing typed is lost
		await page.getByLabel("E-mail", { exact: true }).fill("orla@example.org");
		const sent = page.waitForRequest((r) => r.method() === "POST" && new URL(r.url()).pathname === "/api/clients");
		await page.getByRole("button", { name: "Add", exact: true }).click();
		expect(await (await sent).headerValue("Idempotency-Key")).toMatch(/^[0-9a-f-]{36}$/); // a repeat adds nobody twice
		await expect(page.getByRole("heading", { name: "Orla Fenwick" })).toBeVisible();
		await page.getByRole("button", { name: "Start pre-treatment check" }).click();
		await noSeriousFault(page, "door check");
		await answerDoor(page);
		await expect(page.getByText("No contraindications today.")).toBeVisible();
		await noSeriousFault(page, "client");
	});

	await test.step("a visit is booked", async () => {
		await page.getByRole("link", { name: "Book appointment" }).click();
		await expect(page.getByText("Orla Fenwick")).toBeVisible();
		await page.getByLabel("What", { exact: true }).selectOption({ label: "Full-face drainage and lift" });
		await page.getByRole("button", { name: "17:00", exact: true }).first().click();
		await page.getByRole("button", { name: "Book", exact: true }).click();
		await expect(page.getByText(/Booked: Tue,? 24 Nov, 17:00/)).toBeVisible();
		await noSeriousFault(page, "diary");
		await page.getByRole("link", { name: "Open appointment" }).click();
	});

	await test.step("the door check of the visit tailors the plan, each change with its reason", async () => {
		// The client was checked this morning; a sore cheek is new.
		await page.getByRole("button", { name: "Repeat check" }).click();
		await page.getByRole("region", { name: "Skin today" }).getByRole("button", { name: "Something" }).click();
		await page.getByRole("radiogroup", { name: /sore, broken/ }).getByText("Yes").click();
		await page.locator('[data-zone="cheekbone"][data-side="left"]').click();
		await answerDoor(page);
		await expect(page.getByText("OK with adjustments")).toBeVisible();
		await expect(page.getByText(/full path on the right/).first()).toBeVisible();
		await noSeriousFault(page, "plan");
		// Nothing starts before the client has signed for it.
		await page.getByRole("button", { name: "Ask client to sign: the treatment" }).click();
		await noSeriousFault(page, "consent");
		await sign(page);
		await expect(page.getByRole("button", { name: "Open room guide" })).toBeDisabled(); // every change wants its yes
		await acceptAll(page);
		// With a cold sore of one's own nobody is treated.
		await page.getByLabel("I have a cold sore or infection").check();
		await expect(page.getByText(/Do not treat while you have this/)).toBeVisible();
		await expect(page.getByRole("button", { name: "Open room guide" })).toHaveCount(0);
		await expect(page.getByRole("link", { name: "Choose another time" })).toBeVisible();
		await noSeriousFault(page, "the practitioner's own side");
		await page.getByLabel("I have a cold sore or infection").uncheck();
		await page.getByRole("button", { name: "Open room guide" }).click();
	});

	await test.step("the room guides, by keys and across a reload", async () => {
		await expect(page.getByText("Avoid: L cheekbone")).toBeVisible();
		await noSeriousFault(page, "lay out");
		await page.getByRole("button", { name: /^Start/ }).click();
		await expect(page.getByRole("heading", { name: "Breathe together" })).toBeVisible();
		await expect(page.getByText(/^breath 1 of/i)).toBeVisible();
		await nextStep(page, 3);
		await expect(page.getByRole("heading", { name: "Warm towel wipe" })).toBeVisible();
		await page.keyboard.press("PageUp");
		await expect(page.getByRole("heading", { name: "Cleansing circles" })).toBeVisible();
		await page.getByRole("button", { name: "Pause" }).click();
		await noSeriousFault(page, "room");
		await page.keyboard.press("x");
		await expect(page.getByRole("heading", { name: "Stopped" })).toBeVisible();
		await expect(page.getByText("9 Lantern Row")).toBeVisible(); // what is told to those who come to help
		await noSeriousFault(page, "stopped");
		await page.keyboard.press("PageDown"); // moves nothing meanwhile
		await holdButton(page, "Resume");
		await expect(page.getByRole("heading", { name: "Cleansing circles" })).toBeVisible();
		await page.reload();
		await expect(page.getByRole("heading", { name: "Cleansing circles" })).toBeVisible();
		await expect(page.getByText("Avoid: L cheekbone")).toBeVisible();
		await page.getByRole("button", { name: "Skip" }).click();
		await expect(page.getByRole("heading", { name: "Warm towel wipe" })).toBeVisible();
		// Whatever was pressed last, Space pauses and goes on, and skips nothing.
		const paused = page.getByRole("button", { name: "Resume" });
		const stood = await paused.isVisible();
		await page.keyboard.press(" ");
		await expect(paused).toHaveCount(stood ? 0 : 1);
		await page.keyboard.press(" ");
		await expect(paused).toHaveCount(stood ? 1 : 0);
		await expect(page.getByRole("heading", { name: "Warm towel wipe" })).toBeVisible();
		if (!stood) await page.keyboard.press(" "); // it stands while it is left, so that it is found where it was
		await page.keyboard.press("?");
		await expect(page.getByRole("dialog", { name: "Shortcuts" })).toContainText("End or leave");
		await page.keyboard.press("Escape");
		await page.keyboard.press("e");
		await expect(page.getByRole("button", { name: /^Go to the closing/ })).toBeVisible();
		await noSeriousFault(page, "end or leave");
		const room = new URL(page.url()).pathname;
		await page.getByRole("button", { name: /^Leave the guide/ }).click();
		const back = page.locator(`a[href="${room}"]`, { hasText: "Back to room guide" }).first();
		await expect(page.getByText(/^Colleagues/)).toBeVisible();
		if (!(await back.isVisible())) await page.getByText(/^Colleagues/).click(); // whose client it is
		await back.click();
		await expect(page.getByRole("heading", { name: "Warm towel wipe" })).toBeVisible();
		for (let i = 0; i < 60 && !(await page.getByRole("button", { name: "Record" }).isVisible()); i++) await nextStep(page, 1, "ArrowRight");
		await page.getByRole("button", { name: "Record" }).click();
	});

	let oil = 0;
	await test.step("the record is written, closed and costs by lot", async () => {
		const used = page.getByLabel("Calm seed oil, used");
		await page.getByLabel("Calm seed oil, measure").selectOption("drops");
		await expect(used).toHaveAttribute("placeholder", /^\d+$/);
		await page.getByLabel("Calm seed oil, measure").selectOption("mL");
		await expect(used).toHaveAttribute("placeholder", "3.2");
		await used.fill("many");
		await expect(page.getByText(/Enter the amount used as a number/)).toBeVisible();
		await used.fill("4");
		await page.getByLabel("Treatment notes").fill("Left cheek left out; pink for a moment at the temples.");
		await expect(page.getByText("Saved")).toBeVisible();
		await noSeriousFault(page, "record");
		await page.getByRole("button", { name: "Sign and lock" }).click();
		await page.getByRole("dialog").getByRole("button", { name: "Sign and lock" }).click();
		await expect(page.getByText("This record is locked.")).toBeVisible();
		await expect(page.getByText("CS-2291")).toBeVisible();
		await expect(page.getByTestId("cost")).toContainText("€");
		await expect(page.getByRole("heading", { name: "Skipped in the room" })).toBeVisible();
		await page.getByRole("textbox", { name: "What to add" }).fill("She called in the evening: all well.");
		await page.getByRole("button", { name: "Add to this record" }).click();
		await expect(page.getByText("She called in the evening: all well.")).toBeVisible();
		await noSeriousFault(page, "closed record");
		const shelf = await page.evaluate(async () => (await fetch("/api/shelf")).json());
		oil = Number(shelf.find((l: { product: { key: string } }) => l.product.key === "calm-oil").left);
	});

	await test.step("the shelf has gone down, and the strip leads on", async () => {
		await page.getByRole("link", { name: "Open shelf" }).click();
		await page.getByRole("button", { name: /^Calm seed oil/ }).click();
		await expect(page.getByRole("complementary", { name: "Calm seed oil" }).getByText(`${Math.round(oil * 100) / 100} mL`).first()).toBeVisible();
		await noSeriousFault(page, "shelf");
		await page.getByRole("tab", { name: "Details" }).click();
		await page.getByRole("button", { name: "Ingredients", exact: true }).click();
		await page.getByRole("dialog").getByText("Bee products").click();
		await page.getByRole("dialog").getByLabel(/Other groups/).fill("Our harvest, Comedogenic");
		await noSeriousFault(page, "what a product is made of");
		await page.getByRole("button", { name: "Save ingredients" }).click();
		await expect(page.getByText(/oil, bee products, may clog pores, plants of the daisy family/)).toBeVisible();
		await page.getByRole("button", { name: "Ingredients", exact: true }).click();
		await expect(page.getByRole("dialog").getByLabel(/Other groups/)).toHaveValue("our-harvest");
		await expect(page.getByRole("dialog").getByLabel("May clog pores")).toBeChecked();
		for (const group of ["Bee products", "May clog pores"]) await page.getByRole("dialog").getByText(group).click();
		await page.getByRole("dialog").getByLabel(/Other groups/).fill("");
		await page.getByRole("button", { name: "Save ingredients" }).click();
		await expect(page.getByText("oil, plants of the daisy family")).toBeVisible();
		await page.getByRole("button", { name: /17:00 Orla Fenwick/ }).click();
		await page.getByRole("link", { name: "Record" }).click();
		await expect(page.getByText("This record is locked.")).toBeVisible();
	});
});

test("a failed check refuses the treatment and says why", async ({ page }) => {
	await signIn(page, "practitioner");
	await page.getByRole("button", { name: /09:30 Dario/ }).click();
	await page.getByRole("button", { name: "Visit", exact: true }).click();
	await answerDoor(page, [/cold sore, impetigo/i]);
	await expect(page.getByText("Do not treat today")).toBeVisible();
	await expect(page.getByText("Book again when it has healed.")).toBeVisible();
	await expect(page.getByRole("button", { name: /open room guide/i })).toHaveCount(0);
	await noSeriousFault(page, "refused");
	await page.goto(`${page.url()}/room`);
	await expect(page.getByText("This treatment has not been started.")).toBeVisible();
});

test("a time booked by somebody else meanwhile is refused with the new best", async ({ browser }) => {
	const desks = await Promise.all([0, 1].map(async () => (await browser.newContext()).newPage()));
	for (const [i, page] of desks.entries()) {
		await signIn(page, "desk", { anew: i === 1 });
		await page.getByRole("link", { name: "Book appointment" }).click();
		await page.getByRole("combobox", { name: "Who" }).fill(i === 0 ? "Edda Eskola" : "Hugo Harkin");
		await page.getByRole("option", { name: i === 0 ? "Edda Eskola" : "Hugo Harkin" }).click();
		await page.getByLabel("When", { exact: true }).fill("14 jan at 10:00");
		await page.getByLabel("With", { exact: true }).fill("only Tove");
		await expect(page.getByText("Thursday 14 January at 10:00, with Tove Ekdal.")).toBeVisible();
	}
	for (const page of desks) {
		await page.getByRole("button", { name: "Book", exact: true }).click();
		await expect(page.getByText(/^Booked:/).or(page.getByText("Visit 1 no longer fits: Tove Ekdal is booked then."))).toBeVisible();
	}
	await expect(desks[0]!.getByText(/^Booked:/)).toBeVisible();
	await expect(desks[1]!.getByText("Visit 1 no longer fits: Tove Ekdal is booked then.")).toBeVisible();
	await expect(desks[1]!.getByText(/^Thursday 14 January at .*, with Tove Ekdal\.$/)).toBeVisible(); // the new best
	await noSeriousFault(desks[1]!, "a taken time, front desk");
});

test("a bad studio file is told by place and reason and changes nothing", async ({ page }) => {
	await signIn(page, "owner");
	await page.goto("/import");
	const give = (text: string) => page.locator('input[type="file"]').setInputFiles({ name: "studio.json", mimeType: "application/json", buffer: Buffer.from(text) });
	await give('{\n "format": "softpalm-studio",\n "version": 1,\n "rooms": [\n');
	await expect(page.getByText(/not JSON from line/).first()).toBeVisible();
	await give(JSON.stringify({ format: "softpalm-studio", version: 1, rooms: [{ key: "attic", name: "Attic", colour: "red" }] }));
	await expect(page.getByText("/rooms/0", { exact: true })).toBeVisible();
	await noSeriousFault(page, "import");
	await give(JSON.stringify({ format: "softpalm-studio", version: 1, rooms: [{ key: "attic", name: "Attic" }] }));
	await expect(page.getByText("rooms: 1")).toBeVisible();
	await page.getByRole("button", { name: "Import" }).click();
	await expect(page.getByText("Import complete.")).toBeVisible();
});
