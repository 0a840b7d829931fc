import { expect, type Locator, type Page } from "@playwright/test";
import { mark, noSeriousFault, signIn, test } from "./help";

/** Counts what a person does: a press, a field filled in, a choice in a list, a key outside of a field are one each. */
class Acts {
	readonly table: [string, number][] = [];
	private n = 0;
	begin() {
		this.n = 0;
	}
	end(job: string, most: number) {
		this.table.push([job, this.n]);
		expect(this.n, job).toBeLessThanOrEqual(most);
	}
	async press(on: Locator) {
		await on.click();
		this.n++;
	}
	async fill(field: Locator, text: string) {
		await field.fill(text);
		this.n++;
	}
	async choose(list: Locator, option: string) {
		await list.selectOption(option);
		this.n++;
	}
	async key(page: Page, key: string) {
		await page.keyboard.press(key);
		this.n++;
	}
	add(n: number) {
		this.n += n;
	}
}

// The twelve jobs of an ordinary day, and how many acts each takes. Bounds are what they took
// when this was written, or less than before the everyday screens were made anew.
test("the twelve jobs of a day", async ({ page, browser }) => {
	const acts = new Acts();
	const button = (name: string | RegExp, on: Page | Locator = page) => on.getByRole("button", { name, exact: true });
	const link = (name: string | RegExp, on: Page | Locator = page) => on.getByRole("link", { name, exact: true });
	await signIn(page, "owner");

	await test.step("morning look", async () => {
		acts.begin();
		const next = page.getByRole("region", { name: "Next", exact: true });
		await expect(next).toBeVisible();
		await expect(page.getByRole("heading", { name: "Prepare today" })).toBeVisible();
		await expect(page.getByRole("heading", { name: "Waiting for you" })).toBeVisible();
		await noSeriousFault(page, "the day");
		acts.end("morning look", 1);
	});

	await test.step("a new client by telephone", async () => {
		acts.begin();
		await acts.key(page, "/");
		await acts.fill(page.getByRole("combobox", { name: /client/i }).first(), "Senta Quell");
		await page.getByRole("option", { name: /Add Senta Quell/ }).waitFor();
		await acts.key(page, "Enter");
		await acts.fill(page.getByLabel("Phone", { exact: true }), "+00 555 0177");
		await acts.fill(page.getByLabel("E-mail", { exact: true }), "senta@example.org");
		await acts.press(button("Add"));
		await acts.press(link("Book appointment"));
		await acts.press(page.getByRole("button", { name: "17:30", exact: true }).first());
		await acts.press(button("Book"));
		await expect(page.getByText(/^Booked: /)).toBeVisible();
		acts.end("new client by telephone, booked", 13);
	});

	await test.step("her form on a phone", async () => {
		await link("Open appointment").click();
		await link("Client").click();
		await button("Create private link").click();
		const address = await page.getByRole("textbox", { name: "Private link" }).inputValue();
		await expect(page.getByRole("textbox", { name: "The message" })).toHaveValue(/please answer a few questions/);
		await button("Send to senta@example.org").click();
		await expect(page.getByText(/with the link to senta@example.org is ready/)).toBeVisible();
		const sent = await page.getByRole("textbox", { name: "Private link" }).inputValue();
		expect(sent).not.toBe(address); // the one before has ended
		await page.keyboard.press("Escape");
		const context = await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true });
		const phone = await context.newPage();
		await phone.goto(sent);
		acts.begin();
		const done = new Set<string>();
		const once = async (what: string, see: Locator, act: () => Promise<void>) => {
			if (done.has(what) || !(await see.isVisible())) return;
			done.add(what);
			await act();
		};
		for (let n = 0; n < 30 && !(await phone.getByRole("heading", { name: "Check your answers" }).isVisible()); n++) {
			const where = await phone.getByText(/^Page \d+ of/).textContent();
			const filler = phone.getByRole("checkbox", { name: /^A dermal filler/ });
			await once("filler", filler, async () => {
				await acts.press(filler);
				await acts.choose(phone.getByLabel("or roughly"), "3w");
				acts.add(1); // a list is opened, and chosen from
				await mark(phone, "upper-lip", "left");
				acts.add(2);
				await acts.press(phone.locator('[data-zone="lower-lip"][data-side="left"]'));
				await expect(phone.getByRole("list", { name: "Marked places" })).toContainText("Lower lip, your left");
				await noSeriousFault(phone, "marking from near");
			});
			const pressure = phone.getByRole("radiogroup", { name: /high blood pressure that is treated/ });
			await once("pressure", pressure, () => acts.press(pressure.getByText("Yes")));
			const medicine = phone.getByLabel(/Medicines you take/);
			await once("medicine", medicine, async () => {
				await acts.fill(medicine, "rami");
				await acts.press(phone.getByRole("button", { name: "ramipril" }));
			});
			const nuts = phone.getByRole("checkbox", { name: /^Nuts/ });
			await once("nuts", nuts, () => acts.press(nuts));
			const lenses = phone.getByRole("checkbox", { name: /^Contact lenses/ });
			await once("lenses", lenses, () => acts.press(lenses));
			const lighter = phone.getByRole("radiogroup", { name: /lighter or firmer/ });
			await once("lighter", lighter, () => acts.press(lighter.getByText("lighter", { exact: true })));
			const none = phone.getByRole("button", { name: /^(None of|No to)/ });
			if (await none.isVisible()) await acts.press(none);
			for (const group of await phone.getByRole("radiogroup").filter({ hasText: "usual" }).all())
				if ((await group.locator("input:checked").count()) === 0) await acts.press(group.getByText("usual", { exact: true }));
			await expect(phone.getByText("Saved")).toBeVisible();
			if ((await phone.getByText(/^Page \d+ of/).textContent({ timeout: 1000 }).catch(() => "")) === where)
				await acts.press(phone.getByRole("button", { name: /^(Next|Check answers)$/ }));
		}
		expect([...done].sort()).toEqual(["filler", "lenses", "lighter", "medicine", "nuts", "pressure"]);
		await acts.press(phone.getByRole("button", { name: "Send to the studio" }));
		await expect(phone.getByRole("heading", { name: "Thank you" })).toBeVisible();
		acts.end("her form on a phone", 35);
		await context.close();
	});

	await test.step("review", async () => {
		await expect(page.getByRole("status").getByText("Senta Quell sent their answers.")).toBeVisible({ timeout: 30_000 }); // wherever one is
		acts.begin();
		await acts.press(link("Review", page.getByRole("status")));
		await acts.press(button("Review the answers"));
		await expect(page.getByRole("radiogroup", { name: /dermal filler/ })).toBeVisible();
		await expect(page.getByText(/counted from/)).toBeVisible();
		await expect(page.getByRole("radiogroup", { name: /diabetes/ })).not.toBeVisible(); // the no's are folded
		await noSeriousFault(page, "review");
		await acts.press(button("Save reviewed consultation"));
		const band = page.getByRole("region", { name: "Senta Quell: at a glance" });
		await expect(band).toContainText("no nuts, filler (left upper lip, left lower lip)");
		await expect(band).toContainText("Takes ramipril");
		await expect(band.getByRole("link", { name: "+00 555 0177" })).toBeVisible();
		acts.end("review", 6);
		await button("Add note").click();
		await page.getByLabel("A place on the face", { exact: true }).selectOption("jaw-angle");
		await page.getByLabel("Side", { exact: true }).selectOption("left");
		await page.getByLabel("Note", { exact: true }).fill("The left jaw is the tender one.");
		await button("Save note").click();
		await expect(page.getByRole("region", { name: "Notes for the hands" })).toContainText("Left jaw angle");
		await noSeriousFault(page, "client with a note");
	});

	await test.step("check, consent, plan with one disagreement", async () => {
		await page.getByRole("region", { name: "Next appointment" }).getByRole("link").first().click();
		acts.begin();
		await button("Nothing").first().waitFor(); // all() takes what is there, and waits for nothing
		for (const nothing of await button("Nothing").all()) await acts.press(nothing);
		await acts.press(button("I asked each one. Save and see result"));
		await acts.press(button("Ask client to sign: the treatment"));
		const field = (await page.getByTestId("signature").boundingBox())!;
		await page.mouse.move(field.x + 60, field.y + 80);
		await page.mouse.down();
		for (let i = 1; i <= 24; i++) await page.mouse.move(field.x + 60 + i * 12, field.y + 80 + 35 * Math.sin(i));
		await page.mouse.up();
		acts.add(1);
		await acts.press(button("Sign"));
		await expect(page.getByRole("region", { name: "Notes for the hands" })).toContainText("The left jaw is the tender one.");
		const changes = page.getByRole("region", { name: "Adjustments for today" });
		await acts.press(button("Override", changes).first());
		await acts.fill(page.getByLabel(/Reason/), "She is used to it.");
		await acts.press(button("Save override"));
		await expect(changes.getByRole("heading", { name: "Overridden on single steps" })).toBeVisible();
		for (const accept of await button(/^Accept/, changes).all())
			if ((await accept.getAttribute("aria-pressed")) === "false") await acts.press(accept);
		await noSeriousFault(page, "plan with an override");
		await acts.press(button("Open room guide"));
		await expect(page.getByRole("heading", { name: "Set-up list" })).toBeVisible();
		await expect(page.getByText("The left jaw is the tender one.")).toBeVisible();
		acts.end("check, consent and plan with one disagreement", 17);
	});

	await test.step("guide", async () => {
		acts.begin();
		await acts.press(button(/^Start/));
		await expect(page.getByRole("region", { name: "Now" })).toBeVisible();
		await acts.key(page, "PageDown"); // each step's end waits for a key
		await page.waitForTimeout(650);
		await acts.key(page, "PageDown");
		await acts.key(page, "e");
		await acts.press(button(/^Go to the closing/));
		await expect(page.getByRole("region", { name: "Now" })).toBeVisible();
		await acts.key(page, "e");
		await acts.press(button(/^End here/));
		await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
		acts.end("guide, ended early", 12);
	});

	await test.step("record with a correction", async () => {
		acts.begin();
		await acts.fill(page.getByLabel("Treatment notes"), "Left early for her train.");
		await expect(page.getByText("Saved")).toBeVisible();
		await acts.press(button("Sign and lock"));
		await acts.press(button("Sign and lock", page.getByRole("dialog")));
		await expect(page.getByRole("heading", { name: "Skipped in the room" })).toBeVisible();
		await acts.fill(page.getByRole("textbox", { name: "What to add" }), "It was the tram.");
		await acts.press(button("Add to this record"));
		await expect(page.getByText("It was the tram.")).toBeVisible();
		acts.end("record with a correction", 7);
	});

	await test.step("a new treatment of 30 minutes from nothing", async () => {
		acts.begin();
		await acts.press(link("Protocols"));
		await acts.press(link("New protocol"));
		await acts.press(page.getByText("Puffiness", { exact: true }));
		await acts.press(button("Create draft"));
		await expect(page.getByTestId("total")).toBeVisible({ timeout: 20_000 });
		await acts.press(button("Publish"));
		const dialog = page.getByRole("dialog", { name: /^Publish/ });
		await acts.fill(dialog.getByLabel(/^Price/), "58.00");
		await expect(dialog.getByText(/a minute of/)).toBeVisible();
		await dialog.getByText(/a minute of/).click(); // the price is written when its field is left
		await expect(dialog.locator("dl")).not.toContainText("€0.00");
		await expect(button("Publish version 1", dialog)).toBeEnabled();
		await acts.press(button("Publish version 1", dialog));
		await expect(page.getByText("version 1")).toBeVisible();
		acts.end("new treatment of 30 minutes", 36);
	});

	await test.step("a copy of 20 minutes for sensitive skin", async () => {
		acts.begin();
		await acts.press(link("Protocols"));
		await acts.press(button("Copy").first());
		await acts.fill(page.getByRole("dialog").getByLabel("Name"), "Short and gentle");
		await acts.press(button("Create copy"));
		await expect(page.getByRole("heading", { name: "Short and gentle" })).toBeVisible();
		await acts.press(button(/^Rework/));
		await acts.press(page.getByRole("menuitem", { name: /^Shorten to a concern/ }));
		await acts.fill(page.getByRole("dialog").getByLabel(/Hands-on/), "20");
		await expect(button("Apply", page.getByRole("dialog"))).toBeEnabled({ timeout: 20_000 });
		await acts.press(button("Apply", page.getByRole("dialog")));
		await expect(page.getByTestId("total")).toContainText("of 20:00");
		await acts.press(page.getByRole("tab", { name: "Plan" }));
		await acts.press(link("Variants by skin type"));
		await expect(page.getByRole("columnheader", { name: /^Sensitive/ })).toBeVisible();
		acts.end("copy of 20 minutes for sensitive skin", 14);
	});

	await test.step("a delivery and a broken bottle", async () => {
		acts.begin();
		await acts.press(link("Shelf"));
		await acts.press(link("Receive"));
		await acts.choose(page.getByLabel("Add by hand"), "Almond glide oil");
		await acts.fill(page.getByLabel("Lot number"), "AG-9001");
		await acts.fill(page.getByLabel("Use by"), "2028-05");
		await acts.fill(page.getByLabel("Cost of all"), "21.50");
		await acts.press(button("Receive 1 line"));
		await expect(page.getByText("The delivery is on the shelf.")).toBeVisible();
		await acts.press(page.getByRole("navigation", { name: "Jobs at the shelf" }).getByRole("link", { name: "Shelf" }));
		await acts.press(button(/^Almond glide oil/));
		await acts.press(page.getByRole("listitem").filter({ hasText: "AG-9001" }).getByRole("button", { name: "Waste, sell, more" }));
		await acts.fill(page.getByLabel(/^Amount/), "10");
		await acts.press(button("Save entry"));
		await expect(page.getByRole("listitem").filter({ hasText: "AG-9001" }).getByText("240 / 250 mL")).toBeVisible();
		acts.end("a delivery and a broken bottle", 12);
	});

	await test.step("the desk moves, cancels and takes a walk-in", async () => {
		const context = await browser.newContext();
		const desk = await context.newPage();
		await signIn(desk, "desk");
		acts.begin();
		await acts.press(button(/Jonas/, desk).first());
		await acts.press(button("Visit", desk));
		await acts.press(link("Move appointment", desk));
		await acts.press(desk.getByRole("button", { name: "17:15", exact: true }).last());
		await acts.press(button("Move here", desk));
		await expect(desk.getByText(/^Moved: /)).toBeVisible();
		await acts.press(button(/Rafael/, desk).first());
		await acts.press(button("Visit", desk));
		await acts.press(button("Cancel appointment", desk));
		await acts.press(desk.getByText("Client is ill"));
		await expect(button("Undo", desk)).toBeVisible();
		await acts.key(desk, "/");
		await acts.fill(desk.getByRole("combobox", { name: /client/i }).first(), "Walter Kind");
		await desk.getByRole("option", { name: /Add Walter Kind/ }).waitFor();
		await acts.key(desk, "Enter");
		await acts.press(button("Add", desk));
		await acts.press(link("Book appointment", desk));
		await acts.press(desk.getByRole("button", { name: /^\d\d:\d\d$/ }).first());
		await acts.press(button("Book", desk));
		await expect(desk.getByText(/^Booked: Tue,? 24 Nov/)).toBeVisible(); // still today
		acts.end("desk: move, cancel, walk-in", 18);
		await context.close();
	});

	await test.step("the owner's week", async () => {
		acts.begin();
		await acts.key(page, "Alt+1");
		await acts.press(link("This week"));
		await expect(page.getByRole("row", { name: /^The week/ })).toContainText("€");
		await noSeriousFault(page, "week");
		acts.end("the owner's week", 2);
	});

	console.log(acts.table.map(([job, n]) => `${String(n).padStart(3)}  ${job}`).join("\n"));
});

// From signing in to a treatment that is being given, with the keyboard alone. The studio lets
// clients sign by typing their name.
test("from sign-in to a started treatment without a mouse", async ({ page }) => {
	await signIn(page, "owner");
	await page.goto("/settings");
	await page.getByLabel("Clients may sign by typing their name").check();
	await page.getByRole("button", { name: "Save settings" }).click();
	await expect(page.getByText("The settings are saved.")).toBeVisible();
	await page.goto("/people?add=Kay+Board");
	await page.getByRole("button", { name: "Add", exact: true }).click();
	await page.getByRole("link", { name: "Book appointment" }).click();
	await page.getByRole("button", { name: /^\d\d:\d\d$/ }).last().waitFor();
	const free = page.getByRole("button", { name: /^\d\d:\d\d$/ }).first(); // whatever the tests before have left of today
	const time = await free.textContent();
	await free.click();
	await page.getByRole("button", { name: "Book", exact: true }).click();
	await expect(page.getByText(/^Booked: Tue/)).toBeVisible();
	await page.request.post("/api/sign-out");
	await page.context().clearCookies();
	await page.goto("/");
	const key = (k: string) => page.keyboard.press(k);
	/** Goes on with Tab until something by that name has the focus. */
	const reach = async (name: RegExp) => {
		for (let i = 0; i < 150; i++) {
			const on = await page.evaluate(() => {
				const e = document.activeElement as HTMLElement | null;
				if (!e?.matches("a, button, input, select, textarea, summary")) return "";
				return e?.getAttribute("aria-label") || (e as HTMLInputElement | null)?.labels?.[0]?.textContent || e?.textContent || "";
			});
			if (name.test(on.trim())) return;
			await key("Tab");
		}
		throw new Error(`nothing by the name ${name} is reached`);
	};
	await page.getByLabel("E-mail address").waitFor();
	await reach(/^E-mail address/);
	await page.keyboard.type("owner@demo.example");
	await reach(/^Password/);
	await page.keyboard.type("demo palms 1");
	await key("Enter");
	await expect(page.getByRole("navigation", { name: "Main menu" })).toBeVisible();
	await expect(page.getByRole("region", { name: "Next", exact: true })).toBeVisible();
	await key("Alt+n"); // the next client, whoever that is
	await expect(page).toHaveURL(/\/visits\//);
	await key("/");
	await page.keyboard.type("kay board");
	await page.getByRole("option", { name: /Kay Board/ }).waitFor();
	await key("Enter");
	await expect(page.getByRole("region", { name: "Next appointment" })).toBeVisible();
	await reach(new RegExp(`24 Nov, ${time}`));
	await key("Enter");
	await expect(page.getByRole("button", { name: "Save and see result" })).toBeVisible();
	// The page has the focus, behind strip and menu.
	expect(await page.evaluate(() => document.activeElement?.closest("main") !== null)).toBe(true);
	await reach(/^Answer no to the remaining/);
	await key("Enter");
	await expect(page.getByRole("dialog")).toContainText(/They are: /);
	await reach(/^I asked each one$/);
	await key("Enter");
	await reach(/Save and see result/);
	await key("Enter");
	await expect(page.getByRole("region", { name: "Adjustments for today" })).toBeVisible();
	expect(await page.evaluate(() => document.activeElement !== document.body)).toBe(true);
	await reach(/^Ask client to sign/);
	await key("Enter");
	await reach(/^I sign this text by typing my name/);
	await key(" ");
	await reach(/^Sign$/);
	await key("Enter");
	const open = page.getByRole("button", { name: "Open room guide" });
	await expect(open).toBeVisible();
	for (let i = 0; i < 40 && !(await open.isEnabled()); i++) {
		await reach(/^Accept( all \d+ gentler adjustments| adjustment)?$/);
		await key("Enter");
		await key("Tab");
	}
	await page.evaluate(() => (document.querySelector("main") as HTMLElement).focus());
	await reach(/^Open room guide$/);
	await key("Enter");
	await expect(page.getByRole("heading", { name: "Set-up list" })).toBeVisible();
	await reach(/^Start/);
	await key("Enter");
	await expect(page.getByRole("region", { name: "Now" })).toBeVisible();
	await key(" ");
	await expect(page.getByRole("button", { name: "Resume" })).toBeVisible();
	await acceptNothing(page);
});

/** Space pressed no button besides: the same step is shown. */
async function acceptNothing(page: Page) {
	const step = await page.getByRole("heading", { level: 1 }).textContent();
	await page.keyboard.press(" ");
	await expect(page.getByRole("heading", { level: 1 })).toHaveText(step!);
}
