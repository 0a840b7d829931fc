import { expect } from "@playwright/test";
import { noSeriousFault, signIn, test } from "./help";

// The everyday diary (handbook, chapter 6): two who come together, two treatments in one visit, what
// is written to clients, and contacts of an address book. The studio and its clock are those of the demo.
test("two who come together are booked in one press, are written to, and one stops the messages", async ({ page, browser }) => {
	await signIn(page, "owner");
	await page.goto("/book");
	await page.getByRole("link", { name: "Two who come together" }).click();
	await expect(page.getByText("Choose both clients.")).toBeVisible();
	for (const name of ["Selma Sundal", "Teo Tarn"]) {
		await page.getByRole("combobox", { name: "Who" }).first().fill(name.slice(0, 5)); // goes when somebody is chosen
		await page.getByRole("option", { name }).waitFor();
		await page.keyboard.press("Enter");
	}
	await page.getByLabel("When", { exact: true }).fill("3 mar");
	await expect(page.getByText(/^Wednesday 3 March/)).not.toHaveCount(0);
	await noSeriousFault(page, "two together");
	await page.getByRole("button", { name: "Book both" }).first().click();
	const booked = page.getByRole("status").filter({ hasText: "Booked" });
	await expect(booked.getByRole("link", { name: "Selma Sundal" })).toBeVisible();
	await expect(booked.getByRole("link", { name: "Teo Tarn" })).toBeVisible();

	await page.goto("/messages");
	const told = page.getByRole("listitem").filter({ hasText: "Selma Sundal" }).first();
	await expect(told.getByText(/3 March/)).toBeVisible({ timeout: 20_000 });
	const text = await told.innerText();
	expect(text).toMatch(/free until/i);
	await noSeriousFault(page, "messages");
	const stop = text.match(/\S+\/appointments\?stop#\S+/)?.[0] ?? "";
	const phone = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
	await phone.goto(stop.replace(/^https?:\/\/[^/]+/, ""));
	await phone.getByRole("button", { name: "Stop these messages" }).click();
	await expect(phone.getByText("The studio does not write to you any more.", { exact: false })).toBeVisible();
	await noSeriousFault(phone, "messages stopped");
	await expect(phone.getByRole("listitem").filter({ hasText: "Wednesday 3 March" })).toBeVisible(); // stands as before
	await phone.context().close();
});

test("two treatments in one visit are one appointment, and its rhythm is changed line by line", async ({ page }) => {
	await signIn(page, "desk");
	await page.goto("/book");
	await page.getByRole("combobox", { name: "Who" }).fill("wanda");
	await page.getByRole("option", { name: "Wanda Wexcombe" }).waitFor();
	await page.keyboard.press("Enter");
	await page.getByRole("button", { name: "Add to this visit" }).click();
	await expect(page.getByText(/^60 min together, /)).toBeVisible(); // twice the 30 minutes of the first protocol
	await page.getByLabel("How often").fill("3 weekly");
	await page.getByLabel("When", { exact: true }).fill("thu, from 4 mar");
	await expect(page.getByText(/^Three Thursdays at .* from 4 March/).first()).toBeVisible();
	await page.getByText("The rhythm line by line").click();
	await page.getByLabel("Visit 3: ideal").fill("14");
	await page.getByLabel("Visit 3: most").fill("15");
	await page.getByRole("button", { name: "Use these lines" }).click();
	await expect(page.getByText("The rhythm line by line, changed by hand")).toBeVisible();
	await expect(page.getByRole("listitem").filter({ hasText: "25 Mar" }).first()).toBeVisible();
	await noSeriousFault(page, "a rhythm changed by hand");
	await page.getByRole("button", { name: "As the rhythm says" }).click();
	await expect(page.getByRole("listitem").filter({ hasText: "18 Mar" }).first()).toBeVisible();
	await page.getByRole("button", { name: "Book", exact: true }).click();
	await expect(page.getByText(/^Booked: Thu,? 4 Mar/)).toBeVisible();
});

test("contacts come in and go out, and a doubtful one is asked about", async ({ page }) => {
	await signIn(page, "owner");
	await page.goto("/people/contacts");
	const card = (fn: string, tel: string) => `BEGIN:VCARD\r\nVERSION:4.0\r\nFN:${fn}\r\nTEL:${tel}\r\nX-SHOE-SIZE:38\r\nEND:VCARD\r\n`;
	await page.getByLabel("File of contacts").setInputFiles({
		name: "contacts.vcf",
		mimeType: "text/vcard",
		buffer: Buffer.from(card("Viktor Vane", "+00 555 0121") + card("Ottilie Marrow", "+00 555 0871")),
	});
	await expect(page.getByRole("row").filter({ hasText: "Ottilie Marrow" })).toBeVisible();
	await expect(page.getByText(/X-SHOE-SIZE/i).first()).toBeVisible();
	await noSeriousFault(page, "contacts");
	await page.getByRole("button", { name: "Take over", exact: true }).click();
	await expect(page.getByText("Added: 1. Known already: 1. Left out: 0.")).toBeVisible();
	await page.goto("/people");
	await expect(page.getByRole("link", { name: "Ottilie Marrow" })).toHaveCount(1);
	await expect(page.getByRole("link", { name: "Viktor Vane" })).toHaveCount(1);
});
