import { expect, test } from "@playwright/test";
import { noSeriousFault, signIn } from "./help";

test("link sent, filled on a phone, reviewed, booked, cold sore at the door, visit moved, letter printed", async ({ page, browser }) => {
	let address = "";
	await signIn(page, "owner");

	await test.step("the link is sent", async () => {
		await page.getByRole("link", { name: "People" }).click();
		await page.getByRole("button", { name: "Add a client" }).click();
		await page.getByLabel("Name", { exact: true }).fill("Wilhelmina Oak");
		await page.getByRole("button", { name: "Add", exact: true }).click();
		await page.getByRole("button", { name: "New private link" }).click();
		address = await page.getByRole("textbox", { name: "Private link" }).inputValue();
		await noSeriousFault(page, "link dialog");
		await page.keyboard.press("Escape");
		await expect(page.getByText(/A link is open until/)).toBeVisible();
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
		for (let pages = 0; pages < 30 && !(await phone.getByRole("heading", { name: "All done?" }).isVisible()); pages++) {
			for (const group of await phone.getByRole("radiogroup").all()) {
				const asks = (await group.getAttribute("aria-labelledby")) ?? "";
				await group.getByText(asks === "q-cancer" || asks === "q-port" ? "Yes" : "No", { exact: true }).click();
				if (asks === "q-port") {
					await phone.locator('[data-zone="collarbone"][data-side="left"]').click();
					await expect(phone.getByText("1 marked")).toBeVisible();
					await noSeriousFault(phone, "link page with the face");
				}
			}
			await expect(phone.getByText("kept as you go")).toBeVisible();
			if (pages === 2 && !reloaded) {
				reloaded = true;
				const before = await phone.getByText(/of \d+ answered/).textContent();
				await phone.reload();
				await expect(phone.getByText(before!)).toBeVisible(); // nothing answered is lost
				continue; // it opens again where the first question is open
			}
			const next = phone.getByRole("button", { name: /^(Next|To the end)$/ });
			if (await next.isVisible()) await next.click();
		}
		await phone.getByRole("button", { name: "Send to the studio" }).click();
		await expect(phone.getByRole("heading", { name: "Thank you" })).toBeVisible();
		await phone.reload();
		await expect(phone.getByRole("heading", { name: "Thank you" })).toBeVisible(); // and shows nothing any more
		await noSeriousFault(phone, "link page, sent");
		await phone.goto("/consultation#not-a-token");
		await phone.reload();
		await expect(phone.getByText(/does not open a consultation/)).toBeVisible();
		await context.close();
	});

	await test.step("it is reviewed, and counts", async () => {
		await page.reload();
		await page.getByRole("button", { name: "Review the answers" }).click();
		await noSeriousFault(page, "review");
		await page.getByRole("button", { name: "Reviewed: it counts from now on" }).click();
		await expect(page.getByText(/^Holds until/)).toBeVisible();
	});

	await test.step("a visit is booked, and flagged: a letter will be needed", async () => {
		await page.getByRole("link", { name: "Book a visit" }).click();
		await page.getByRole("button", { name: "17:30", exact: true }).first().click();
		await page.getByRole("button", { name: "Book", exact: true }).click();
		await expect(page.getByText(/Booked: Tue,? 24 Nov, 17:30/)).toBeVisible();
		await expect(page.getByText("Needs a doctor's letter").first()).toBeVisible();
		await noSeriousFault(page, "diary with an outlook");
		await page.getByRole("link", { name: "Open the visit" }).click();
	});

	await test.step("at the door only the door's questions are asked; a new cold sore refuses the visit", async () => {
		await expect(page.getByText(/only what can be new is asked/)).toBeVisible();
		await expect(page.getByRole("radiogroup", { name: /Cancer now/ })).toHaveCount(0);
		await page.getByRole("radiogroup", { name: /cold sore/ }).getByText("Yes").click();
		await page.getByRole("button", { name: /No to the other/ }).click();
		await page.getByRole("button", { name: "Judge and keep" }).click();
		await expect(page.getByText("Not here for now").first()).toBeVisible();
		await expect(page.getByText(/Cancer/).first()).toBeVisible(); // the milder outcome stays listed
		await expect(page.getByRole("button", { name: /go to the room/i })).toHaveCount(0);
		await noSeriousFault(page, "refused visit");
	});

	await test.step("the letter is written and printed", async () => {
		await page.getByRole("link", { name: "Client", exact: true }).click();
		await page.getByRole("button", { name: "Write to the doctor" }).click();
		await noSeriousFault(page, "letter dialog");
		await page.getByRole("button", { name: "Write it" }).click();
		const href = await page.getByRole("link", { name: "Print the letter" }).getAttribute("href");
		const pdf = await page.request.get(href!);
		expect(pdf.headers()["content-type"]).toBe("application/pdf");
		expect((await pdf.body()).subarray(0, 5).toString()).toBe("%PDF-");
		await page.getByRole("button", { name: "Close" }).click();
		await expect(page.getByText("No answer yet")).toBeVisible();
	});

	await test.step("the visit is moved by one click", async () => {
		await page.getByRole("link", { name: /Tue,? 24 Nov, 17:30/ }).click();
		await page.getByRole("button", { name: /^Move to/ }).click();
		await expect(page.getByRole("link", { name: /Fri,? 4 Dec/ })).toBeVisible();
		await noSeriousFault(page, "client with a letter");
	});

	await test.step("the answer lifts the letter, and the owner can read who did what", async () => {
		await page.getByRole("button", { name: "Record the answer" }).click();
		await page.getByLabel("Holds through").fill("2027-11-24");
		await page.getByLabel(/Limits/).fill("No drainage.");
		await page.getByRole("button", { name: "Keep the answer" }).click();
		await expect(page.getByText(/Answered yes, holds through/)).toBeVisible();
		await page.getByRole("button", { name: /Lantern Row/ }).click();
		await page.getByRole("menuitem", { name: "Audit log" }).click();
		await expect(page.getByRole("cell", { name: "recorded the doctor's answer" }).first()).toBeVisible();
		await expect(page.getByRole("cell", { name: "Wilhelmina Oak" }).first()).toBeVisible();
		await noSeriousFault(page, "audit log");
	});

	await test.step("the client's data is handed out, then erased on the name typed", async () => {
		await page.getByRole("link", { name: "People" }).click();
		await page.getByLabel(/Search|Name/).first().fill("Wilhelmina");
		await page.getByRole("link", { name: "Wilhelmina Oak" }).click();
		const href = await page.getByRole("link", { name: "Hand out the file" }).getAttribute("href");
		const file = await (await page.request.get(href!)).json();
		expect(file.client.name).toBe("Wilhelmina Oak");
		expect(file.letters).toHaveLength(1);
		await page.getByRole("button", { name: "Erase the client" }).click();
		await expect(page.getByRole("button", { name: "Erase for good" })).toBeDisabled();
		await page.getByLabel("Type the client’s name").fill("Wilhelmina Oak");
		await noSeriousFault(page, "erase dialog");
		await page.getByRole("button", { name: "Erase for good" }).click();
		await expect(page.getByRole("heading", { name: "People" })).toBeVisible();
		expect((await (await page.request.get(href!)).json()).client.name).toBe("Erased client");
	});
});

test("the owner lengthens a rule and sees beforehand which bookings it touches; loosening needs a reason", async ({ page }) => {
	await signIn(page, "owner");
	await page.getByRole("link", { name: "People" }).click();
	await page.getByRole("link", { name: /Jonas/ }).first().click();
	await page.getByRole("button", { name: "Check at the door" }).click();
	await page.getByRole("radiogroup", { name: /A medium peel/ }).getByText("Yes").click();
	await page.getByLabel("Day", { exact: true }).fill("2026-11-09");
	await page.getByRole("button", { name: /No to the other/ }).click();
	await page.getByRole("button", { name: "Judge and keep" }).click();
	await expect(page.getByRole("region", { name: "Result of the door check" }).getByText(/^Go/).first()).toBeVisible();
	await page.goto("/rules");
	await noSeriousFault(page, "rules");
	const row = page.getByRole("row", { name: /^Medium peel/ });
	await row.getByRole("button", { name: "Change" }).click();
	await page.getByLabel("Days at this studio").fill("60");
	await page.getByRole("button", { name: "See what it touches" }).click();
	await expect(page.getByText(/Booked visits it touches: [1-9]/)).toBeVisible();
	await expect(page.getByRole("dialog").getByText(/Jonas/).first()).toBeVisible();
	await noSeriousFault(page, "rule dialog");
	await page.getByRole("button", { name: "Keep", exact: true }).click();
	await expect(row.getByText("60 days")).toBeVisible();
	await row.getByRole("button", { name: "Change" }).click();
	await page.getByLabel("Days at this studio").fill("7");
	await page.getByRole("button", { name: "See what it touches" }).click();
	await page.getByRole("button", { name: "Keep", exact: true }).click();
	await expect(page.getByText(/Write the reason/).first()).toBeVisible();
	await page.getByLabel("Days at this studio").fill("14");
	await page.getByRole("button", { name: "See what it touches" }).click();
	await page.getByRole("button", { name: "Keep", exact: true }).click();
	await expect(row.getByText("14 days")).toBeVisible();
});

test("the studio's tablet is handed over with nothing else on it", async ({ page }) => {
	await signIn(page, "practitioner");
	await page.getByRole("link", { name: "People" }).click();
	await page.getByRole("link", { name: /Viktor/ }).first().click();
	const file = page.url();
	await page.getByRole("button", { name: "Hand over the tablet" }).click();
	await noSeriousFault(page, "hand-over dialog");
	await page.getByRole("button", { name: "Sign out and hand over" }).click();
	await expect(page.getByRole("heading", { name: "Before your treatment" })).toBeVisible();
	await expect(page.getByRole("navigation", { name: "Places" })).toHaveCount(0);
	expect((await page.request.get("/api/clients")).status()).toBe(401);
	await page.goBack();
	await expect(page.getByText("Viktor")).toHaveCount(0); // the way back asks who it is
	await page.goto(file);
	await expect(page.getByLabel("Password")).toBeVisible();
});
