import { expect } from "@playwright/test";
import { noSeriousFault, signIn, test } from "./help";

// The desk books a series by typing one line, and moves a visit with the keyboard alone (handbook,
// chapter 6, Working with it). The studio and its clock are those of the demo: Tuesday 24 November 2026.
test("a series is booked by typing one line, and moved by keyboard on the garland", async ({ page }) => {
	await signIn(page, "desk");
	await page.goto("/book");
	await noSeriousFault(page, "booking, empty");
	await page.getByRole("combobox", { name: "Who" }).fill("oona");
	await page.getByRole("option", { name: "Oona Oakham" }).waitFor();
	await page.keyboard.press("Enter");
	await page.getByLabel("How often").fill("5 weekly");
	await page.getByLabel("When", { exact: true }).fill("wed 9-13, from 13 jan, by 20 feb, not 1-6 feb");
	await page.getByLabel("With", { exact: true }).fill("rather Maud");
	await expect(page.getByRole("button", { name: "Remove “5 visits weekly”" })).toBeVisible();
	await expect(page.getByRole("button", { name: "Remove “rather Maud Ferrant”" })).toBeVisible();
	await expect(page.getByText("There is no such series.")).toBeVisible(); // a week is away, and weekly visits bear a day more
	await page.getByRole("listitem").filter({ hasText: "Gaps up to a week longer" }).getByRole("button", { name: "Use this" }).click();
	await expect(page.getByText(/^Gave way: Gaps up to a week longer/)).toBeVisible();
	await page.getByRole("button", { name: "Ask as before" }).click();
	await page.getByRole("button", { name: /Remove “not / }).click();
	await expect(page.getByLabel("When", { exact: true })).toHaveValue("wed 9-13, from 13 jan, by 20 feb");
	await expect(page.getByText(/^Five Wednesdays at .* from 13 January, with Maud Ferrant\.$/)).toBeVisible();
	await noSeriousFault(page, "booking, answered");

	await expect(page.getByRole("button", { name: "Hold", exact: true })).toBeEnabled(); // the answer is to what was typed
	await page.getByLabel("With", { exact: true }).focus();
	await page.keyboard.press("Enter"); // leaves the fields
	await page.keyboard.press(" ");
	await expect(page.getByRole("button", { name: "Release" })).toBeVisible();
	await expect(page.getByRole("timer").first()).toHaveText(/^Held for (10:00|9:5\d)$/);
	await noSeriousFault(page, "held");
	await page.keyboard.press("Enter");
	await expect(page.getByText(/^Booked: Wed,? 13 Jan/)).toBeVisible();
	await page.getByRole("link", { name: "Open series" }).click();

	// Visit 3 goes to a later hour with the arrow keys; the answer says what follows.
	await page.getByRole("button", { name: /^Visit 3: / }).focus();
	await page.keyboard.press("m");
	for (let i = 0; i < 5; i++) await page.keyboard.press("ArrowUp");
	await expect(page.getByText(/No other visit changes\./).or(page.getByText(/other visits? change/))).toBeVisible();
	await noSeriousFault(page, "moving");
	await page.keyboard.press("Enter");
	await expect(page.getByText(/first agreed: Wed,? 27 Jan/)).toBeVisible();
	await noSeriousFault(page, "series");

	await page.getByRole("button", { name: "Pause" }).click();
	await page.getByRole("button", { name: "Client is away" }).click();
	await expect(page.getByText("Paused: Client is away")).toBeVisible();
	await page.getByRole("button", { name: "Take up again" }).click();
	await page.getByRole("button", { name: "Book the rest" }).click();
	await expect(page.getByText(/has no appointment/)).toHaveCount(0);
	await page.getByRole("link", { name: "To the client’s file" }).click();
	await expect(page.getByRole("region", { name: "Series" }).getByText("0 of 5 given")).toBeVisible();
});
