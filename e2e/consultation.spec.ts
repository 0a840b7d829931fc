import { expect } from "@playwright/test";
import { acceptAll, answerDoor, fillConsultation, mark, noSeriousFault, seeAll, signIn, test } from "./help";

test("link sent, filled on a phone, reviewed, booked, cold sore at the door, visit moved, letter printed", async ({ page, browser }) => {
	let address = "";
	const refused: string[] = [];
	page.on("console", (m) => m.text().includes("Content Security Policy") && refused.push(m.text()));
	await signIn(page, "owner");

	await test.step("the link is sent", async () => {
		await page.getByRole("link", { name: "Clients" }).click();
		await page.getByRole("button", { name: "Add client" }).click();
		await page.getByLabel("Name", { exact: true }).fill("Wilhelmina Oak");
		await page.getByRole("button", { name: "Add", exact: true }).click();
		await page.getByRole("button", { name: "Create private link" }).click();
		address = await page.getByRole("textbox", { name: "Private link" }).inputValue();
		await noSeriousFault(page, "link dialog");
		await page.keyboard.press("Escape");
		await expect(page.getByText(/Private link valid until/)).toBeVisible();
	});

	await test.step("it is filled on a phone, over a slow network and a reload", async () => {
		const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
		const phone = await context.newPage();
		await phone.route("**/api/consultation", async (route) => {
			await new Promise((done) => setTimeout(done, 120));
			await route.continue();
		});
		await phone.goto(address);
		await expect(phone.getByRole("heading", { name: "Before your treatment" })).toBeVisible();
		await noSeriousFault(phone, "link page");
		expect(await phone.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
		let reloaded = false;
		let offline = false;
		await fillConsultation(phone, async () => {
			const where = await phone.getByText(/^Page \d+ of/).textContent();
			await phone.reload(); // at every page: it opens where it was left
			await expect(phone.getByText(where!)).toBeVisible();
			const no = phone.getByRole("radiogroup").first().getByText("No", { exact: true });
			if (!offline && (await no.isVisible())) {
				offline = true; // the network drops, and comes back
				await context.setOffline(true);
				await no.click();
				await expect(phone.getByText("Not saved yet. Trying again …")).toBeVisible();
				await context.setOffline(false);
				await expect(phone.getByText("Saved")).toBeVisible();
			}
			const asked = await phone.getByRole("radiogroup").evaluateAll((all) => all.map((g) => g.getAttribute("aria-labelledby")));
			if (asked.includes("q-diabetes")) await phone.locator('[aria-labelledby="q-diabetes"]').getByText("Not sure").click();
			for (const yes of ["q-cancer", "q-port"].filter((q) => asked.includes(q)))
				await phone.locator(`[aria-labelledby="${yes}"]`).getByText("Yes", { exact: true }).click();
			if (asked.includes("q-port") && !reloaded) {
				await mark(phone, "collarbone", "left");
				await expect(phone.getByRole("list", { name: "Marked places" })).toContainText("your left");
				await noSeriousFault(phone, "link page with the face");
				await expect(phone.getByText("Saved")).toBeVisible();
				reloaded = true;
				await phone.reload();
				await expect(phone.getByRole("list", { name: "Marked places" })).toContainText("your left"); // nothing answered is lost, and it opens where it was left
			}
			if (await phone.getByText("Have you had any of these in the last six months").isVisible()) {
				await phone.getByText("A skin booster").click();
				await phone.getByLabel("Date it was done (the latest)").fill("2026-11-20"); // a follow-up where it is needed
				await mark(phone, "mid-cheek", "right");
				await noSeriousFault(phone, "link page with a list");
				await expect(phone.getByText("Saved")).toBeVisible();
				await phone.getByRole("button", { name: "None of the others" }).click(); // and not by turning the page
				await expect(phone.getByText("Have you had any of these in the last six months")).toHaveCount(0);
				return true;
			}
			if (await phone.getByLabel(/Medicines you take/).isVisible()) {
				await phone.getByLabel(/Medicines you take/).fill("warf");
				await phone.getByRole("button", { name: "warfarin" }).click();
				await noSeriousFault(phone, "link page with medicines");
			}
			if (await phone.getByLabel(/Allergic to anything else/).isVisible()) {
				await phone.getByLabel(/Allergic to anything else/).fill("sweet alm");
				await phone.getByRole("button", { name: /Prunus Amygdalus Dulcis/ }).click();
				await noSeriousFault(phone, "link page with allergies");
			}
			return false;
		});
		expect(reloaded && offline).toBe(true);
		await phone.getByRole("button", { name: "Send to the studio" }).click();
		await expect(phone.getByRole("heading", { name: "Thank you" })).toBeVisible();
		await phone.reload();
		await expect(phone.getByRole("heading", { name: "Thank you" })).toBeVisible(); // and shows nothing any more
		await noSeriousFault(phone, "link page, sent");
		await phone.goto("/consultation#not-a-token");
		await phone.reload();
		await expect(phone.getByText(/is not valid or has expired/)).toBeVisible();
		await context.close();
	});

	await test.step("it is reviewed, and counts", async () => {
		await page.reload();
		await expect(page.getByText(/1 answer is “not sure”/)).toBeVisible();
		await page.getByRole("button", { name: "Review the answers" }).click();
		await expect(page.getByText(/1 answer is “not sure”. Go through it with the client./)).toBeVisible();
		await expect(page.getByRole("button", { name: "Save reviewed consultation" })).toBeDisabled();
		await page.getByRole("radiogroup", { name: "Do you have diabetes?" }).getByText("No", { exact: true }).click();
		await expect(page.getByText("warfarin", { exact: true })).toBeVisible();
		await expect(page.getByText("Prunus Amygdalus Dulcis Oil", { exact: true })).toBeVisible();
		await noSeriousFault(page, "review");
		await page.getByRole("button", { name: "Save reviewed consultation" }).click();
		await expect(page.getByText(/^Valid until/)).toBeVisible();
	});

	await test.step("a visit is booked, and flagged: a letter will be needed", async () => {
		await page.getByRole("link", { name: "Book appointment" }).click();
		await page.getByRole("button", { name: "17:30", exact: true }).first().click();
		await page.getByRole("button", { name: "Book", exact: true }).click();
		await expect(page.getByText(/Booked: Tue,? 24 Nov, 17:30/)).toBeVisible();
		await expect(page.getByText("Doctor’s letter needed").first()).toBeVisible();
		await noSeriousFault(page, "diary with an outlook");
		await page.getByRole("link", { name: "Open appointment" }).click();
	});

	await test.step("at the door only the door's questions are asked; a new cold sore refuses the visit", async () => {
		await expect(page.getByText(/only new or changing things are asked/)).toBeVisible();
		await expect(page.getByRole("region", { name: "Treatments elsewhere" })).toHaveCount(0); // gone through a moment ago
		const now = page.getByRole("region", { name: "Right now" });
		await expect(now.getByText(/^Covers: .*cold sore or infection/)).toBeVisible();
		await now.getByRole("button", { name: "Something" }).click();
		await expect(page.getByRole("radiogroup", { name: /Do you have cancer/ })).toHaveCount(0);
		await now.getByRole("radiogroup", { name: /cold sore/ }).getByText("Yes").click();
		await now.getByRole("button", { name: "No to the rest" }).click();
		await page.getByRole("region", { name: "Skin today" }).getByRole("button", { name: "Nothing" }).click();
		await noSeriousFault(page, "short check");
		await page.getByRole("button", { name: "I asked each one. Save and see result" }).click();
		await expect(page.getByText("Do not treat today").first()).toBeVisible();
		await expect(page.getByText(/Cancer/).first()).toBeVisible(); // the milder outcome stays listed
		await expect(page.getByRole("button", { name: /open room guide/i })).toHaveCount(0);
		await noSeriousFault(page, "refused visit");
	});

	await test.step("the letter is written and printed", async () => {
		await page.getByRole("link", { name: "Client", exact: true }).click();
		await page.getByRole("button", { name: "Write to the doctor" }).click();
		await noSeriousFault(page, "letter dialog");
		await page.getByRole("button", { name: "Save letter" }).click();
		const href = await page.getByRole("link", { name: "Print the letter" }).getAttribute("href");
		const pdf = await page.request.get(href!);
		expect(pdf.headers()["content-type"]).toBe("application/pdf");
		expect((await pdf.body()).subarray(0, 5).toString()).toBe("%PDF-");
		await page.getByRole("button", { name: "Close" }).click();
		await seeAll(page);
		await expect(page.getByText("No answer yet")).toBeVisible();
	});

	await test.step("the visit is moved by one click", async () => {
		await page.getByRole("row").getByRole("link", { name: /Tue,? 24 Nov, 17:30/ }).click();
		await page.getByRole("button", { name: /^Move to/ }).click();
		await expect(page.getByRole("link", { name: /Tue,? 8 Dec/ }).first()).toBeVisible(); // when the doctor is expected to answer
		await noSeriousFault(page, "client with a letter");
	});

	await test.step("the answer lifts the letter, and the owner can read who did what", async () => {
		await seeAll(page);
		await page.getByRole("button", { name: "Record the answer" }).click();
		await page.getByLabel("Valid to (last day)").fill("2027-11-24");
		await page.getByLabel(/Limits/).fill("No drainage.");
		await page.getByRole("button", { name: "Save answer" }).click();
		await page.getByLabel("Attach a scan").setInputFiles({ name: "answer.pdf", mimeType: "application/pdf", buffer: Buffer.from("%PDF-1.4\n%%EOF\n") });
		const scan = await page.getByRole("link", { name: "Scan", exact: true }).getAttribute("href");
		expect((await page.request.get(scan!)).headers()["content-type"]).toBe("application/pdf");
		await page.getByLabel("Attach a scan").setInputFiles({ name: "answer.pdf", mimeType: "application/pdf", buffer: Buffer.from("only a name") });
		await expect(page.getByText(/A scan is a PDF, a JPEG or a PNG file/)).toBeVisible();
		await expect(page.getByText(/Yes, valid to/)).toBeVisible();
		await page.getByRole("button", { name: /Lantern Row/ }).click();
		await page.getByRole("menuitem", { name: "Audit log" }).click();
		await expect(page.getByRole("cell", { name: "recorded the doctor’s answer" }).first()).toBeVisible();
		await expect(page.getByRole("cell", { name: "Wilhelmina Oak" }).first()).toBeVisible();
		await noSeriousFault(page, "audit log");
	});

	await test.step("the client's data is handed out, then erased on the name typed", async () => {
		await page.getByRole("link", { name: "Clients" }).click();
		await page.getByLabel(/Search|Name/).first().fill("Wilhelmina");
		await page.getByRole("link", { name: "Wilhelmina Oak" }).click();
		const href = await page.getByRole("link", { name: "Download client file" }).getAttribute("href");
		const file = await (await page.request.get(href!)).json();
		expect(file.client.name).toBe("Wilhelmina Oak");
		expect(file.letters).toHaveLength(1);
		expect(file.scans).toHaveLength(1);
		const paper = await page.request.get((await page.getByRole("link", { name: "Print client file" }).getAttribute("href"))!);
		expect((await paper.body()).subarray(0, 5).toString()).toBe("%PDF-");
		await page.getByRole("button", { name: "Delete client data" }).click();
		await expect(page.getByRole("button", { name: "Delete permanently" })).toBeDisabled();
		await page.getByLabel("Type the client’s name").fill("Wilhelmina Oak");
		await noSeriousFault(page, "erase dialog");
		await page.getByRole("button", { name: "Delete permanently" }).click();
		await expect(page.getByRole("heading", { name: "Clients" })).toBeVisible();
		expect((await page.request.get(href!)).status()).toBe(404); // there is no file any more
	});
	expect(refused).toEqual([]); // the page does nothing that its own policy forbids
});

test("the owner lengthens a rule and sees beforehand which bookings it touches; loosening needs a reason", async ({ page }) => {
	await signIn(page, "owner");
	await page.getByRole("link", { name: "Clients" }).click();
	await page.getByRole("link", { name: /Jonas/ }).first().click();
	await page.getByRole("button", { name: "Start pre-treatment check" }).click();
	await page.getByRole("radiogroup", { name: /A medium peel/ }).getByText("Yes").click();
	await page.getByLabel("Date it was done (the latest)").fill("2026-11-09");
	await page.getByRole("button", { name: /Answer no to the remaining/ }).click();
	await page.getByRole("button", { name: "I asked each one" }).click();
	await page.getByRole("button", { name: "Save and see result" }).click();
	await expect(page.getByRole("region", { name: "Result of the check" }).getByText(/^OK/).first()).toBeVisible();
	await page.goto("/rules");
	await noSeriousFault(page, "rules");
	const row = page.getByRole("row", { name: /^Medium peel/ });
	await row.getByRole("button", { name: "Edit" }).click();
	await page.getByLabel("Days at this studio").fill("60");
	await page.getByRole("button", { name: "Show affected appointments" }).click();
	await expect(page.getByText(/Booked appointments affected: [1-9]/)).toBeVisible();
	await expect(page.getByRole("dialog").getByText(/Jonas/).first()).toBeVisible();
	await noSeriousFault(page, "rule dialog");
	await page.getByRole("button", { name: "Save days", exact: true }).click();
	await expect(row.getByText("60 days")).toBeVisible();
	await row.getByRole("button", { name: "Edit" }).click();
	await page.getByLabel("Days at this studio").fill("7");
	await page.getByRole("button", { name: "Show affected appointments" }).click();
	await page.getByRole("button", { name: "Save days", exact: true }).click();
	await expect(page.getByText(/Give a reason/).first()).toBeVisible();
	await page.getByLabel("Days at this studio").fill("14");
	await page.getByRole("button", { name: "Show affected appointments" }).click();
	await page.getByRole("button", { name: "Save days", exact: true }).click();
	await expect(row.getByText("14 days")).toBeVisible();
});

test("the studio's tablet is handed over locked, and taken back with a PIN", async ({ page }) => {
	await signIn(page, "practitioner");
	await page.getByRole("link", { name: "Clients" }).click();
	await page.getByRole("link", { name: /Viktor/ }).first().click();
	const file = page.url();
	await page.getByRole("button", { name: "Give tablet to client" }).click();
	await noSeriousFault(page, "hand-over dialog");
	await page.getByRole("button", { name: "Give tablet to client" }).click();
	await page.getByLabel(/PIN, 4 to 8 digits/).fill("4711"); // the first time one is chosen
	await noSeriousFault(page, "PIN dialog");
	await page.getByRole("button", { name: "Save PIN" }).click();
	await expect(page.getByRole("heading", { name: "Before your treatment" })).toBeVisible();
	await expect(page.getByRole("navigation", { name: "Main menu" })).toHaveCount(0);
	expect((await page.request.get("/api/clients")).status()).toBe(409);
	await page.goto(file);
	await expect(page.getByRole("heading", { name: "This tablet is with a client" })).toBeVisible();
	await expect(page.getByText("Viktor")).toHaveCount(0);
	await noSeriousFault(page, "handed over");
	await page.getByRole("button", { name: /unlock tablet/ }).click();
	await page.getByLabel("PIN").fill("0000");
	await page.getByRole("button", { name: "Unlock" }).click();
	await expect(page.getByText(/You have 4 tries left/)).toBeVisible();
	await page.getByLabel("PIN").fill("4711");
	await page.getByRole("button", { name: "Unlock" }).click();
	await expect(page.getByRole("navigation", { name: "Main menu" })).toBeVisible();
	expect((await page.request.get("/api/clients")).status()).toBe(200);
});

test("twelve findings: the plan beside the one published, gentler changes in one go, one taken back with a reason", async ({ page }) => {
	await signIn(page, "owner");
	const row = page.getByRole("listitem").filter({ hasText: "Mirela" }).last();
	await row.getByRole("link", { name: "Start pre-treatment check" }).click();
	await expect(page.getByText(/Has anything changed since/)).toBeVisible();
	await expect(page.getByText(/0 earlier answers/)).toHaveCount(0);
	await page.getByRole("button", { name: "Show each question" }).click();
	await page.getByRole("radiogroup", { name: "Puffiness today: left eye" }).getByText("2").click();
	await page.getByRole("radiogroup", { name: /lighter or firmer pressure/ }).getByText("usual", { exact: true }).click(); // filled in from the consultation
	await answerDoor(page);
	await expect(page.getByText("OK with adjustments").first()).toBeVisible();
	await expect(page.getByText("Published", { exact: true })).toBeVisible();
	await expect(page.getByText("Allowed by the doctor’s letter", { exact: false }).first()).toBeVisible();
	await noSeriousFault(page, "plan of twelve findings");
	const changes = page.getByRole("region", { name: "Adjustments for today" });
	const lowered = changes.getByRole("listitem").filter({ hasText: /Spread-finger scalp circles: pressure/ });
	await lowered.getByRole("button", { name: "Override" }).click();
	await page.getByLabel("Reason (saved in the record)").fill("She asked for it and bruises nowhere there.");
	await page.getByRole("button", { name: "Save override" }).click();
	await expect(changes.getByText("Overridden on single steps")).toBeVisible();
	await expect(lowered).toHaveCount(0);
	await expect(page.getByRole("button", { name: "Open room guide" })).toBeDisabled();
	await acceptAll(page);
	await page.getByRole("button", { name: "Open room guide" }).click();
	await expect(page.getByRole("button", { name: /^Start/ })).toBeVisible();
	await page.goto(page.url().replace("/room", "/record"));
	await expect(page.getByText("She asked for it and bruises nowhere there.")).toBeVisible();
});

test("a booking that needs a patch test says so, offers the ten minutes, and the reading counts", async ({ page }) => {
	await signIn(page, "owner");
	await page.getByRole("link", { name: "Clients" }).click();
	await page.getByRole("button", { name: "Add client" }).click();
	await page.getByLabel("Name", { exact: true }).fill("Thea Larkspur");
	await page.getByText("sensitive", { exact: true }).click();
	await page.getByRole("button", { name: "Add", exact: true }).click();
	await page.getByRole("link", { name: "Book appointment" }).click();
	await page.getByLabel("What", { exact: true }).selectOption({ label: "Full-face drainage and lift" });
	// The finder places the ten minutes with the visit, a day or two before it.
	await page.getByLabel("When", { exact: true }).fill("from 1 dec, after 2");
	await expect(page.getByText(/Patch test: .*Calm seed oil/)).toBeVisible();
	await page.getByRole("button", { name: "Book", exact: true }).click();
	const first = page.getByRole("region", { name: "Patch test first" });
	await expect(first.getByText(/Calm seed oil/)).toBeVisible();
	await noSeriousFault(page, "booked with its patch test");
	await first.getByRole("link").click();
	await page.getByRole("button", { name: "Apply patch test" }).first().click();
	await noSeriousFault(page, "patch test dialog");
	await page.getByRole("button", { name: "Save: applied now" }).click();
	await expect(page.getByText(/^applied, lot/)).toBeVisible();
	// A test of yesterday is read today, and clears the product.
	await page.getByRole("link", { name: "Clients" }).click();
	await page.getByLabel(/Search|Name/).first().fill("Alma");
	await page.getByRole("link", { name: "Alma Birkett" }).click();
	await expect(page.getByText("Patch test first")).toBeVisible();
	await seeAll(page);
	await page.getByRole("button", { name: "Read, 24 h" }).click();
	await page.getByRole("dialog").getByText("Negative", { exact: true }).click();
	await page.getByRole("button", { name: "Save reading" }).click();
	await expect(page.getByText("Patch test first")).toHaveCount(0);
	await noSeriousFault(page, "client with patch tests");
});

test("the owner writes a rule of the studio's own; taking it away needs a reason", async ({ page }) => {
	await signIn(page, "owner");
	await page.goto("/rules");
	await page.getByRole("button", { name: "Add rule" }).click();
	await page.getByLabel("Title").fill("Self-tanner");
	await page.getByLabel("Question for the client, in plain words").fill("Self-tanner on the face? Give the day.");
	await page.getByRole("combobox", { name: "Asked" }).selectOption("door");
	await page.getByRole("combobox", { name: "Answer" }).selectOption("date");
	await page.getByRole("combobox", { name: "What", exact: true }).selectOption("wait");
	await page.getByRole("button", { name: "Show affected appointments" }).click();
	await expect(page.getByText(/A rule needs its title, question, reason and basis/)).toBeVisible();
	await page.getByLabel("Why", { exact: true }).fill("It comes off in streaks under oil.");
	await noSeriousFault(page, "rule editor");
	await page.getByRole("button", { name: "Show affected appointments" }).click();
	await expect(page.getByText("No booked appointments are affected.")).toBeVisible();
	await page.getByRole("button", { name: "Save rule", exact: true }).click();
	await expect(page.getByRole("listitem").filter({ hasText: "Self-tanner" }).getByText("waiting period of 7 days")).toBeVisible();
	// It is asked from now on.
	await page.goto("/");
	await page.getByText(/^Colleagues/).click();
	await page.getByRole("listitem").filter({ hasText: "Yara" }).last().getByRole("link", { name: "Start pre-treatment check" }).click();
	await page.getByRole("button", { name: "Show each question" }).click();
	await page.getByRole("radiogroup", { name: /Self-tanner/ }).getByText("Yes").click();
	await page.getByLabel(/^Date/).fill("2026-11-22");
	await answerDoor(page);
	await expect(page.getByText(/Not before 29 Nov 2026/).first()).toBeVisible();
	await page.goto("/rules");
	await page.getByRole("listitem").filter({ hasText: "Self-tanner" }).getByRole("button", { name: "Edit" }).click();
	await page.getByRole("button", { name: "Delete rule" }).click();
	await expect(page.getByText(/Booked appointments affected: [1-9]/)).toBeVisible();
	await page.getByRole("button", { name: "Delete permanently" }).click();
	await expect(page.getByText(/Give a reason/).first()).toBeVisible();
	await page.getByLabel(/Reason for the change/).fill("Our new oil does not take it off.");
	await page.getByRole("button", { name: "Delete permanently" }).click();
	await expect(page.getByText("Our new oil does not take it off.")).toBeVisible();
});
