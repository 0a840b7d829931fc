import { expect, type Page } from "@playwright/test";
import { noSeriousFault, readyToBegin, signIn, test } from "./help";

/** Goes on with Tab until something by that name has the focus. */
async function reach(page: Page, name: RegExp, within = 200) {
	for (let i = 0; i < within; i++) {
		const on = await page.evaluate(() => {
			const e = document.activeElement as HTMLElement | null;
			if (!e?.matches("a, button, input, select, textarea, summary")) return "";
			return e.getAttribute("aria-label") || (e as HTMLInputElement).labels?.[0]?.textContent || e.textContent || "";
		});
		if (name.test(on.trim())) return;
		await page.keyboard.press("Tab");
	}
	throw new Error(`nothing by the name ${name} is reached`);
}

/** Reaches something, and types into it or presses it. */
async function by(page: Page, name: RegExp, text?: string) {
	await reach(page, name);
	if (text === undefined) await page.keyboard.press("Enter");
	else {
		await page.keyboard.press("ControlOrMeta+a");
		await page.keyboard.type(text);
	}
}

test("a delivery is scanned against its order and half received, by keyboard; the order is printed", async ({ page }) => {
	await signIn(page, "owner");
	await page.goto("/shelf/order");
	const list = page.getByRole("region", { name: "Plain Clinic Goods" });
	await expect(list.getByText(/^lasts to 26 Nov, delivery/)).toBeVisible();
	await noSeriousFault(page, "what to order");
	await by(page, /^Packs of Lint-free wipes$/, "4");
	await expect(list.getByText("€25.60").first()).toBeVisible();
	await reach(page, /^Packs of Lint-free wipes$/);
	await reach(page, /^Order 1 line$/);
	await page.keyboard.press("Enter");
	await expect(page.getByRole("button", { name: "Yes, order for €25.60" })).toBeFocused();
	await page.keyboard.press("Enter");
	const order = page.getByRole("listitem").filter({ hasText: "2026-005" });
	await expect(order.getByText("Lint-free wipes: 0 of 4 received, 4 to come")).toBeVisible();
	const paper = await page.request.get((await order.getByRole("link", { name: "PDF" }).getAttribute("href"))!);
	expect((await paper.body()).subarray(0, 5).toString()).toBe("%PDF-");
	const csv = await (await page.request.get((await order.getByRole("link", { name: "CSV" }).getAttribute("href"))!)).text();
	expect(csv.split("\r\n")[1]).toMatch(/^2026-005,2026-11-24,Plain Clinic Goods,PC-300,02000000052007,Lint-free wipes,4,100,pcs,6\.40,EUR,25\.60,,$/);

	await page.goto("/shelf/receive");
	await page.getByLabel("For order").selectOption({ label: "2026-005, Plain Clinic Goods" });
	await page.getByLabel("Scan the packs").focus();
	await page.keyboard.type("(01)02000000052007(17)281031(10)W-91\n");
	await expect(page.getByLabel("Lot number")).toHaveValue("W-91");
	await expect(page.getByLabel("Use by")).toHaveValue("2028-10-31");
	await by(page, /^Packs$/, "2");
	await by(page, /^Cost of all$/, "13.40");
	await expect(page.getByText("6.70 a pack; the order said 6.40.")).toBeVisible();
	await noSeriousFault(page, "receiving");
	await by(page, /^Receive 1 line$/);
	await expect(page.getByText("The delivery is on the shelf.")).toBeVisible();
	await page.goto("/shelf/order");
	await expect(order.getByText("Lint-free wipes: 2 of 4 received, 2 to come")).toBeVisible();
	await expect(order.getByText("part received")).toBeVisible();
	await order.getByRole("button", { name: "Close short" }).press("Enter");
	await expect(order.getByText("closed short")).toBeVisible();
});

test("a pump is calibrated with the scale, and what it says is offered in the record", async ({ page, context }) => {
	await signIn(page, "owner");
	await page.goto("/shelf");
	await page.getByLabel("Search the shelf, or scan a pack").fill("oat cleansing");
	await page.keyboard.press("Enter");
	const panel = page.getByRole("complementary", { name: "Oat cleansing milk" });
	await panel.getByRole("tab", { name: "Details" }).press("Enter");
	await panel.getByRole("button", { name: "Weigh drops or pumps" }).press("Enter");
	await panel.getByLabel("Measure").selectOption("presses");
	const scale = await context.newPage();
	await scale.goto("/scale");
	for (const [n, grams] of [["1", "7.63"], ["2", "7.68"], ["3", "7.65"]] as const) {
		await scale.getByLabel("Put on the scale, g").fill(grams);
		await expect(scale.getByText("Steady.")).toBeVisible();
		await expect(panel.getByRole("button", { name: `${grams} g` }).first()).toBeEnabled();
		await panel.getByLabel(`Weight ${n}, g`).press("Enter"); // takes what the scale shows
		await expect(panel.getByLabel(`Weight ${n}, g`)).toHaveValue(grams);
	}
	await panel.getByRole("button", { name: "Work it out" }).press("Enter");
	await expect(panel.getByText(/^1\.50065 mL each, ±0\.4 %/)).toBeVisible(); // (7.63 + 7.68 + 7.65) / 15 / 1.02 = 1.50065
	await noSeriousFault(page, "calibrating");
	await panel.getByRole("button", { name: "Save measure" }).press("Enter");
	await panel.getByRole("tab", { name: "Learned" }).press("Enter");
	await expect(panel.getByText(/1\.50065 mL a pump/)).toBeVisible();
	await scale.getByRole("button", { name: "Unplug" }).click();
	await expect(scale.getByText("unplugged")).toBeVisible();
	await scale.close();
});

test("a treatment is recorded in three ways of measuring, from the pack in the hand", async ({ page }) => {
	await signIn(page, "practitioner");
	await page.goto("/people?add=Wenda+Weigh");
	await page.getByRole("button", { name: "Add", exact: true }).click();
	const book = await page.getByRole("link", { name: "Book appointment" }).getAttribute("href");
	const list = (await (await page.request.get("/api/protocols")).json()) as { id: string; name: string }[];
	await page.goto(`${book}&protocol=${list.find((p) => p.name === "Full-face drainage and lift")!.id}`);
	await page.getByRole("button", { name: /^\d\d:\d\d$/ }).first().click();
	await page.getByRole("button", { name: "Book", exact: true }).click();
	await expect(page.getByText(/^Booked: Tue/)).toBeVisible();
	await page.goto("/");
	await readyToBegin(page, /Wenda/);
	await page.getByRole("button", { name: "Open room guide" }).click();
	await expect(page).toHaveURL(/\/room$/);
	await page.goto(page.url().replace("/room", "/record"));
	await expect(page.getByRole("heading", { name: "Products" })).toBeVisible();
	await page.getByLabel("Calm seed oil, measure").selectOption("weigh");
	await page.getByLabel("Before, g").focus();
	await page.keyboard.type("186.42\n");
	await expect(page.getByLabel("After, g")).toBeFocused();
	await page.keyboard.type("187");
	await expect(page.getByText("It weighs more after than before. Did the cap go back on?")).toBeVisible();
	await page.getByLabel("After, g").fill("183.50");
	await expect(page.getByText("= 3.17 mL")).toBeVisible();
	await page.getByLabel("Oat cleansing milk, used").fill("2");
	await expect(page.getByText("= 3 mL")).toBeVisible();
	await page.getByRole("button", { name: "Yes, this one" }).first().press("Enter");
	await noSeriousFault(page, "a record in three ways");
	await expect(page.getByText("Saved")).toBeVisible();
	await page.getByRole("button", { name: "Sign and lock" }).press("Enter");
	await page.getByRole("dialog").getByRole("button", { name: "Sign and lock" }).press("Enter");
	await expect(page.getByText("This record is locked.")).toBeVisible();
	await expect(page.getByText("weighed, 186.42 to 183.5 g")).toBeVisible();
	await expect(page.getByText("2 pumps", { exact: true }).first()).toBeVisible();
	await expect(page.getByText("as planned").first()).toBeVisible();
	await expect(page.getByText("3.17 mL")).toBeVisible(); // kept as 3.174; shown to a hundredth (handbook, amounts on screen)
});

test("a recall runs from the lot to the letters, and a stocktake is closed, by keyboard", async ({ page }) => {
	await signIn(page, "owner");
	await page.goto("/shelf/recall");
	await page.getByLabel("Lot of the notice").focus();
	await page.keyboard.type("LV-15");
	await page.keyboard.press("Enter");
	await expect(page.getByText("batch made with it").first()).toBeVisible();
	await expect(page.getByText("2026-11-20 A").first()).toBeVisible();
	await noSeriousFault(page, "a trace");
	await page.getByLabel("What the notice says").fill("Oxidised, may irritate");
	await page.keyboard.press("Enter");
	const list = page.getByRole("region", { name: "Call list" });
	await expect(list.getByRole("heading", { name: "Oxidised, may irritate" })).toBeVisible();
	for (const name of ["Print with names", "Print without names, to hand on", "Letters to clients"]) {
		const file = await page.request.get((await list.getByRole("link", { name }).getAttribute("href"))!);
		expect((await file.body()).subarray(0, 5).toString()).toBe("%PDF-");
	}
	const csv = await page.request.get((await list.getByRole("link", { name: "As CSV" }).getAttribute("href"))!);
	expect((await csv.text()).split("\r\n")[0]).toBe("day,client,phone,email,lot,product,kind,amount,unit,practitioner,certainty");
	await page.goto("/shelf");
	await page.getByRole("button", { name: /^Lantern evening blend/ }).press("Enter");
	await expect(page.getByRole("complementary", { name: "Lantern evening blend" }).getByText("recalled").first()).toBeVisible();

	await page.goto("/shelf/count");
	await expect(page.getByRole("region", { name: "Last stocktake" }).getByText("Left in the pump")).toBeVisible();
	await page.getByLabel("Fridge").press(" ");
	await page.getByRole("button", { name: "Start: Fridge" }).press("Enter");
	const form = page.getByRole("region", { name: "Pack to count" });
	await expect(form.getByRole("heading", { name: "Cooling leaf gel" })).toBeVisible();
	await form.getByLabel("Weight with pack, g").fill("178.00");
	await page.keyboard.press("Enter"); // asks for the empty pack
	await page.keyboard.type("40.60");
	await page.keyboard.press("Enter");
	await expect(form.getByRole("heading", { name: "1 difference" })).toBeVisible(); // 137.4 of 141.5
	await noSeriousFault(page, "a stocktake");
	await form.getByRole("button", { name: /^Close; \d+ packs? (is|are) left out/ }).press("Enter");
	await expect(page.getByRole("region", { name: "Last stocktake" }).getByText("141.5 → 137.4 mL")).toBeVisible();
});

test("drops and dilutions are worked out, and the stock is worth what its lots cost", async ({ page }) => {
	await signIn(page, "owner");
	await page.goto("/shelf/mix");
	const drops = page.getByRole("form", { name: "Drops in a carrier" });
	await drops.getByRole("button", { name: "Work it out" }).press("Enter");
	await expect(drops.getByText("6 drops")).toBeVisible(); // 30 mL at 1 % with 20 drops a mL (handbook, chapter 4)
	await drops.getByLabel(/Pregnancy/).check();
	await drops.getByLabel("Strength, %").press("Enter");
	await expect(drops.getByText(/none, or half a per cent at most/)).toBeVisible();
	const dilution = page.getByRole("form", { name: "Dilute" });
	await dilution.getByLabel("Strength wanted, %").fill("80");
	await page.keyboard.press("Enter");
	await expect(dilution.getByText(/weaker than what there is/)).toBeVisible();
	await dilution.getByLabel("Strength wanted, %").fill("30");
	await page.keyboard.press("Enter");
	await expect(dilution.getByText("42.9 mL concentrate + 57.1 mL water")).toBeVisible();
	await page.getByRole("link", { name: "Use and worth" }).press("Enter");
	await expect(page.getByRole("heading", { name: "What the stock is worth" })).toBeVisible();
	await page.getByRole("tab", { name: "Practitioner" }).press("Enter");
	await expect(page.getByRole("tabpanel").getByRole("row")).not.toHaveCount(0);
	await noSeriousFault(page, "use and worth");
});

test("the day is opened and closed by its lists; a tool goes through the bath", async ({ page }) => {
	await signIn(page, "owner");
	await page.goto("/shelf/today");
	const opening = page.getByRole("region", { name: "Opening" });
	await opening.getByLabel("Fridge temperature, °C").fill("4.5");
	await page.keyboard.press("Enter");
	await expect(opening.getByText(/^4\.5 °C · Ines Lorca/)).toBeVisible();
	await opening.getByRole("button", { name: /^Tick the \d+ that are well/ }).press("Enter");
	await expect(opening.getByRole("checkbox", { name: "Disposables for the day" })).toBeChecked();
	await noSeriousFault(page, "opening the day");
	const setUp = await page.request.get("/api/day-setup");
	expect((await setUp.body()).subarray(0, 5).toString()).toBe("%PDF-");

	await page.goto("/shelf/tools");
	const tools = page.getByRole("region", { name: "Tools" });
	const plate = tools.getByRole("listitem").filter({ hasText: "to clean" }).first();
	await plate.getByRole("button", { name: "Into the bath" }).press("Enter");
	await expect(tools.getByText(/^contact until/).first()).toBeVisible();
	await noSeriousFault(page, "tools");
});
