import { expect } from "@playwright/test";
import { noSeriousFault, signIn, test } from "./help";

// A freed time goes to the first whom it serves, and a practitioner who is ill leaves a list of
// calls (handbook, chapter 6, Everyday diary and Working with it). The clock is the demo's.
test("a cancelled time is offered to the waiting list and booked with two presses", async ({ page }) => {
	await signIn(page, "desk");
	await page.goto("/book");
	const ask = async (who: string, when: string, w: string) => {
		await page.getByRole("combobox", { name: "Who" }).fill(who);
		await page.getByRole("option").first().waitFor();
		await page.keyboard.press("Enter");
		await page.getByLabel("What", { exact: true }).selectOption({ label: "Full-face drainage and lift" });
		await page.getByLabel("When", { exact: true }).fill(when);
		await page.getByLabel("With", { exact: true }).fill(w);
	};
	await ask("ilse", "19 jan at 10:00", "only Tove");
	await expect(page.getByText("Tuesday 19 January at 10:00, with Tove Ekdal.")).toBeVisible();
	await page.getByRole("button", { name: "Book", exact: true }).click();
	await expect(page.getByText(/^Booked: Tue,? 19 Jan/)).toBeVisible();
	const appointment = await page.getByRole("link", { name: "Open appointment" }).getAttribute("href");
	await page.getByRole("button", { name: "Book for another client" }).click();
	await ask("cosima", "tue before noon", "rather Tove");
	await page.getByRole("button", { name: "Put on waiting list" }).click();
	await expect(page.getByText("On the waiting list.")).toBeVisible();

	await page.goto(appointment ?? "");
	await page.getByRole("button", { name: "Cancel appointment" }).click();
	await page.getByRole("dialog").getByRole("button", { name: "Client is ill" }).click();
	const waits = page.getByRole("region", { name: "Who waits for this time" });
	// The studio took Benno's own time away: he comes before those who wait longer.
	await expect(waits.getByText(/Benno Corvin comes first: displaced by the studio/)).toBeVisible();
	await noSeriousFault(page, "a freed time");
	await waits.getByRole("button", { name: "Offer to Benno Corvin" }).click();
	// For the half hour in which a client may answer, by the server's clock, which has run on since the morning.
	const { now } = (await (await page.request.get("/api/session")).json()) as { now: string };
	const held = await waits.getByText(/^Held for Benno Corvin until \d\d:\d\d/).textContent();
	const [, hour, minute] = /until (\d\d):(\d\d)/.exec(held ?? "")!;
	const minutes = Number(hour) * 60 + Number(minute) - (new Date(now).getUTCHours() * 60 + new Date(now).getUTCMinutes());
	expect(minutes).toBeGreaterThanOrEqual(29);
	expect(minutes).toBeLessThanOrEqual(30);
	await waits.getByRole("button", { name: "Book for Benno Corvin" }).click();
	await expect(waits.getByText("Booked for Benno Corvin.")).toBeVisible();
	await page.goto("/diary");
	await expect(page.getByRole("region", { name: "Waiting list" }).getByText("Cosima Drayford")).toBeVisible();
	await expect(page.getByRole("region", { name: "Waiting list" }).getByText("Benno Corvin")).toHaveCount(0);
	await noSeriousFault(page, "diary");
	await page.getByRole("button", { name: "By room" }).click();
	await expect(page.getByText("North room", { exact: true }).first()).toBeVisible();
});

test("a practitioner is ill: three presses, then one a call made", async ({ page }) => {
	await signIn(page, "desk");
	await page.goto("/diary");
	await page.getByRole("link", { name: "Practitioner away" }).click();
	await page.getByLabel("From").fill("2026-12-08T08:00"); // a day that no other test looks at
	await page.getByLabel("Until").fill("2026-12-08T20:00");
	await page.getByRole("button", { name: "Ines Lorca" }).click();
	const plan = page.getByRole("region", { name: "The day laid again" });
	await expect(plan.getByRole("row").first()).toBeVisible();
	await noSeriousFault(page, "a day laid again");
	const rows = await plan.getByRole("row").count();
	await plan.getByRole("button", { name: "Accept, and list the calls" }).click();
	await expect(page.getByRole("status").getByText(/The day is laid again/)).toBeVisible();
	await page.getByRole("link", { name: "To the diary" }).click();
	const calls = page.getByRole("region", { name: "Calls to make" });
	await expect(calls.getByRole("button", { name: /^Called: / })).toHaveCount(rows);
	for (let i = rows; i > 0; i--) await calls.getByRole("button", { name: /^Called: / }).first().click();
	await expect(calls).toHaveCount(0);
});

test("a client confirms on a phone, and asks to have another day", async ({ page, browser }) => {
	await signIn(page, "desk");
	await page.goto("/people");
	await page.getByRole("link", { name: "Oona Oakham" }).click();
	await page.getByRole("button", { name: "Show link" }).click();
	const address = await page.getByLabel(/^Pass it on/).inputValue();
	const phone = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
	await phone.goto(address);
	await expect(phone.getByRole("heading", { name: "Oona Oakham, your appointments" })).toBeVisible();
	await noSeriousFault(phone, "a client's page");
	const latest = phone.getByRole("listitem").last(); // weeks away, whatever other tests left of today
	await latest.getByRole("button", { name: "Confirm" }).click();
	await expect(latest.getByText("confirmed")).toBeVisible();
	await latest.getByRole("button", { name: "Ask to move" }).click();
	await latest.getByLabel("When would suit you?").fill("a week later, mornings");
	await latest.getByRole("button", { name: "Send" }).click();
	await expect(latest.getByText("The studio will call you about another time.")).toBeVisible();
	await latest.getByRole("button", { name: "Cancel" }).click();
	await expect(latest.getByText(/^Cancelling is free until/)).toBeVisible();
	await noSeriousFault(phone, "a client cancels");
	await latest.getByRole("button", { name: "Keep appointment" }).click();
	await phone.context().close();
	await page.goto("/diary");
	const calls = page.getByRole("region", { name: "Calls to make" });
	await expect(calls.getByText("Asks to move: a week later, mornings")).toBeVisible();
	await calls.getByRole("button", { name: "Called: Oona Oakham" }).click();
	await expect(calls).toHaveCount(0);
	// The address is made anew, and the one before leads nowhere.
	await page.goBack();
	await page.getByRole("button", { name: "Show link" }).click();
	await expect(page.getByLabel(/^Pass it on/)).not.toHaveValue(address);
	const late = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
	await late.goto(address);
	await expect(late.getByText(/link is not valid or has expired/)).toBeVisible();
	await late.context().close();
});
