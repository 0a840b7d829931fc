import { expect, test } from "@playwright/test";
import { noSeriousFault, signIn } from "./help";

// A freed time goes to the first whom it serves, and a practitioner who is ill leaves a list of
// calls (handbook, chapter 6, Everyday diary and Working with it). The clock is the demo's.
test("a cancelled time is offered to the waiting list and booked with two presses", async ({ page }) => {
	await signIn(page, "desk");
	await page.goto("/book");
	const ask = async (who: string, when: string, w: string) => {
		await page.getByRole("combobox", { name: "Who" }).fill(who);
		await page.getByRole("option").first().waitFor();
		await page.keyboard.press("Enter");
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
	await expect(waits.getByText(/^Held for Benno Corvin until 09:/)).toBeVisible();
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
