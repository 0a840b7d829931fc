import { expect, type Page, test } from "@playwright/test";
import { acceptAll, answerDoor, mark, nextStep, sign, signIn } from "../help";

/** Six steps of the demo's plans as the workbench draws them, in one picture. */
async function figures(page: Page) {
	const drawn: { name: string; picture: string }[] = [];
	for (const [plan, step] of [
		["Full-face drainage and lift", "Under-jaw circles"],
		["Stone and Shoulders", "Jaw notch glide"],
		["Upward by Hand", "Quick pinches over the cheeks"],
		["Bright Quarter", "Eyes wide without the brows"],
		["From the Inside", "Cheek drawn out from inside"],
		["Loose Hinge", "Masseter stretch down"],
	] as const) {
		await page.getByRole("link", { name: "Protocols" }).click();
		await page.getByRole("link", { name: plan }).first().click();
		await page.getByRole("button", { name: new RegExp(step) }).first().click();
		await page.waitForTimeout(700);
		const picture = await page.screenshot({ clip: { x: 322, y: 127, width: 606, height: 424 } });
		drawn.push({ name: `${step} (${plan})`, picture: picture.toString("base64") });
	}
	const sheet = await page.context().newPage();
	await sheet.setContent(
		`<body style="margin:0;display:grid;align-content:start;grid-template-columns:repeat(3,1fr);gap:2px;background:#f5ecdf;font:15px sans-serif">${drawn
			.map((d) => `<figure style="margin:0"><img style="width:100%" src="data:image/png;base64,${d.picture}"><figcaption style="padding:4px 8px">${d.name}</figcaption></figure>`)
			.join("")}</body>`,
	);
	await sheet.locator("body").evaluate((b) => {
		b.style.height = "fit-content";
	});
	await sheet.locator("body").screenshot({ path: "../docs/screenshots/figures.png" });
	await sheet.close();
}

test("pictures of every main view", async ({ page, browser }) => {
	const shot = async (name: string) => {
		await page.evaluate(() => document.fonts.ready);
		await page.waitForTimeout(500);
		await page.screenshot({ path: `../docs/screenshots/${name}.png` });
	};
	await page.goto("/");
	await signIn(page, "owner");
	await page.waitForTimeout(500);
	await shot("day");
	await page.getByRole("link", { name: "This week" }).click();
	await expect(page.getByRole("row", { name: /^The week/ })).toBeVisible();
	await shot("week");
	await page.getByRole("link", { name: "Clients" }).click();
	await page.getByRole("link", { name: "Ada Abendroth" }).click();
	await page.getByRole("button", { name: "Create private link" }).click();
	const phone = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
	await phone.goto(await page.getByRole("textbox", { name: "Private link" }).inputValue());
	await phone.getByRole("button", { name: "Next" }).click();
	await phone.getByRole("button", { name: "Next" }).click();
	await phone.getByText("A dermal filler (a gel injected under the skin)", { exact: true }).click();
	await phone.getByLabel("or roughly").selectOption("3w");
	await mark(phone, "nasolabial", "left");
	await phone.waitForTimeout(600);
	await phone.evaluate(() => window.scrollTo(0, 150));
	await phone.screenshot({ path: "../docs/screenshots/link.png" });
	await phone.context().close();
	await page.keyboard.press("Escape");
	await page.getByRole("button", { name: "Sign" }).first().click();
	await sign(page);
	await page.getByRole("link", { name: "Clients" }).click();
	await page.getByRole("link", { name: /^Mirela/ }).click();
	await page.waitForTimeout(500);
	await shot("client");
	await page.getByRole("link", { name: "Protocols" }).click();
	await shot("protocols");
	await page.getByRole("link", { name: "New protocol" }).click();
	await page.getByText("Puffiness", { exact: true }).click();
	await page.getByText("Clenching and jaw pain", { exact: true }).click();
	await shot("new-protocol");
	await page.goto("/library");
	await page.getByRole("button", { name: /Zigzag flicks/ }).click();
	await page.getByRole("button", { name: "Legend" }).click();
	await page.waitForTimeout(1600);
	await shot("strokes");
	await page.getByRole("link", { name: "Protocols" }).click();
	await page.getByRole("link", { name: "Full-face drainage and lift" }).click();
	await page.getByRole("button", { name: /Cheek glide to the ear/ }).first().click();
	await shot("workbench");
	await figures(page);
	await page.getByRole("link", { name: "Day" }).click();
	await page.getByRole("link", { name: "Start pre-treatment check" }).first().click();
	await page.getByRole("radiogroup", { name: /sore, broken/ }).getByText("Yes").click();
	await page.locator('[data-zone="cheekbone"][data-side="left"]').click();
	await page.getByRole("radiogroup", { name: /jaw joint/ }).getByText("Yes").click();
	await shot("pre-treatment-check");
	await answerDoor(page);
	await expect(page.getByRole("button", { name: "Open room guide" })).toBeVisible();
	await shot("plan");
	await acceptAll(page);
	await page.getByRole("button", { name: "Open room guide" }).click();
	await expect(page.getByRole("button", { name: /^Start/ })).toBeVisible();
	await page.getByRole("button", { name: /^Start/ }).click();
	await nextStep(page, 13);
	await page.waitForTimeout(3000);
	await shot("room-guide");
	await page.goto(page.url().replace("/room", "/record"));
	await page.getByLabel("Treatment notes").fill("Left cheek avoided. Jaw softer than last time; she asked for lighter pressure at the temples.");
	await page.evaluate(() => scrollTo(0, 0));
	await shot("record");
	await page.goto("/book");
	await page.getByRole("combobox", { name: "Who" }).fill("kaia");
	await page.getByRole("option").first().waitFor();
	await page.keyboard.press("Enter");
	await page.getByLabel("How often").fill("6 weekly");
	await page.getByLabel("When", { exact: true }).fill("mon tue after 2, not 21 dec - 2 jan, rather before 5");
	await page.getByLabel("With", { exact: true }).fill("rather Maud");
	await expect(page.getByText(/^Six /).first()).toBeVisible();
	await shot("booking");
	await page.goto("/people");
	await page.getByRole("link", { name: /^Xenia/ }).click();
	await page.getByRole("region", { name: "Series" }).getByRole("link", { name: /Full-face/ }).click();
	await page.getByRole("button", { name: /^Visit 3: / }).waitFor();
	await shot("series");
	await page.goto("/diary");
	await page.getByRole("region", { name: "The weeks to come" }).waitFor();
	await shot("diary");
	await page.getByRole("link", { name: "Shelf" }).click();
	await page.getByRole("button", { name: /^Lint-free wipes/ }).click();
	await shot("shelf");
	await page.goto("/shelf/order");
	await page.getByRole("button", { name: "Lint-free wipes" }).click();
	await shot("order");
	await page.goto("/shelf/tools");
	await page.getByRole("region", { name: "Tools" }).waitFor();
	await shot("tools");
});
