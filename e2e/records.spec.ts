import { expect, type Page } from "@playwright/test";
import { nextStep, noSeriousFault, ready, signIn, test } from "./help";

/** The headers with which the page itself would write. */
async function asThePage(page: Page) {
	const { csrf } = (await (await page.request.get("/api/session")).json()) as { csrf: string };
	return { "X-CSRF-Token": csrf };
}

/** A treatment of today of its own, so that no other test is in its way; its id. */
async function booked(page: Page, client: string, protocol: string): Promise<string> {
	const get = async (path: string) => (await page.request.get(path)).json();
	const { clients } = await get(`/api/clients?search=${encodeURIComponent(client)}`);
	const protocols = (await get("/api/protocols")) as { id: string; key: string }[];
	const of = protocols.find((p) => p.key === protocol)!.id;
	const free = (await get(`/api/free-times?protocol=${of}&client=${clients[0].id}&days=1`)) as { start: string; practitioner: string; room: string }[];
	const { start, practitioner, room } = free[0]!;
	const id = crypto.randomUUID();
	const made = await page.request.post("/api/visits", { headers: await asThePage(page), data: { id, client: clients[0].id, protocol: of, start, practitioner, room } });
	expect(made.ok(), await made.text()).toBe(true);
	return id;
}

/** Tells the mean relative luminance of the page as it is shown, 0 to 1. */
async function lightOf(page: Page): Promise<() => Promise<number>> {
	const blank = await page.context().newPage(); // about:blank may read a picture
	await page.bringToFront();
	return async () => {
		const shot = (await page.screenshot()).toString("base64");
		return blank.evaluate(async (data) => {
			const picture = await createImageBitmap(await (await fetch(`data:image/png;base64,${data}`)).blob());
			const canvas = new OffscreenCanvas(picture.width, picture.height);
			const on = canvas.getContext("2d")!;
			on.drawImage(picture, 0, 0);
			const { data: rgba } = on.getImageData(0, 0, picture.width, picture.height);
			const part = (v: number) => (v / 255 <= 0.04045 ? v / 255 / 12.92 : ((v / 255 + 0.055) / 1.055) ** 2.4);
			let sum = 0;
			for (let i = 0; i < rgba.length; i += 4) sum += 0.2126 * part(rgba[i]!) + 0.7152 * part(rgba[i + 1]!) + 0.0722 * part(rgba[i + 2]!);
			return sum / (rgba.length / 4);
		}, shot);
	};
}

test("a reaction is recorded, blocks its products, is followed up and closed, by keyboard", async ({ page }) => {
	await signIn(page, "owner");
	await page.goto("/people");
	await page.getByRole("link", { name: /Hugo Harkin/ }).first().click();
	await page.getByRole("button", { name: "Record a reaction" }).press("Enter");
	const form = page.getByRole("form", { name: "Record a reaction" });
	await form.getByLabel("What was noticed").selectOption({ label: "Rash" });
	await form.getByRole("radio", { name: /Emergency/ }).press("Space");
	await expect(form.getByText("Call the emergency number first.", { exact: false })).toBeVisible();
	await form.getByRole("radio", { name: /Moderate/ }).press("Space");
	await form.getByLabel("What was done").fill("Washed off, cool compress.");
	await noSeriousFault(page, "recording a reaction");
	await form.getByRole("button", { name: "Save reaction" }).press("Enter");
	const reactions = page.getByRole("region", { name: "Reactions" });
	await expect(reactions.getByText("blocked until a patch test shows no reaction").first()).toBeVisible();
	await expect(reactions.getByText(/Follow-up due/)).toBeVisible();
	await reactions.getByRole("button", { name: "Follow up now" }).press("Enter");
	await expect(page.getByText(/Any trouble with breathing/)).toBeVisible();
	await reactions.getByRole("button", { name: "Worse" }).press("Enter");
	await reactions.getByRole("radio", { name: /Severe/ }).press("Space");
	await reactions.getByRole("button", { name: "Save follow-up" }).press("Enter");
	await expect(reactions.getByText("blocked for this client").first()).toBeVisible();
	await expect(reactions.getByText(/set aside/).first()).toBeVisible();
	const paper = await page.request.get((await reactions.getByRole("link", { name: "Report (PDF)" }).getAttribute("href"))!);
	expect((await paper.body()).subarray(0, 5).toString()).toBe("%PDF-");
	await reactions.getByRole("button", { name: "Close reaction" }).press("Enter");
	await reactions.getByLabel("Close as").selectOption({ label: "Recorded by mistake" });
	await reactions.getByRole("button", { name: "Close reaction" }).press("Enter");
	await expect(reactions.getByText("Enter why this was recorded by mistake.", { exact: false })).toBeVisible();
	await reactions.getByLabel("Why it was a mistake").fill("It was Bruno.");
	await reactions.getByRole("button", { name: "Close reaction" }).press("Enter");
	await expect(reactions.getByText(/Closed .*recorded by mistake/)).toBeVisible();
	await noSeriousFault(page, "reactions");
	// The lots stay set aside until somebody lets them be used; the other tests want them.
	const all = (await (await page.request.get(`/api/clients/${page.url().split("/").pop()?.split("#")[0]}/reactions`)).json()) as {
		products: { lotId?: string }[];
	}[];
	for (const { lotId } of all.flatMap((r) => r.products))
		if (lotId) expect((await page.request.put(`/api/lots/${lotId}/block`, { headers: await asThePage(page), data: { why: "" } })).ok()).toBe(true);
});

test("lengths are read twice with the first hidden, by keyboard, and only a change beyond the noise is said", async ({ page }) => {
	await signIn(page, "owner");
	await page.goto("/people");
	await page.getByRole("link", { name: /Una Umber/ }).first().click();
	await page.getByRole("link", { name: "Progress and measurements" }).click();
	const jaw = page.getByRole("region", { name: /Jaw opening/ });
	await expect(jaw.getByText(/no change shown/)).toBeVisible();
	await noSeriousFault(page, "progress");
	await page.getByRole("link", { name: "Measure", exact: true }).click();
	await page.getByRole("button", { name: "Outer eye corner to mouth corner" }).press("Enter"); // off
	await noSeriousFault(page, "measuring");
	await page.getByRole("button", { name: "Begin" }).press("Enter");
	await page.keyboard.type("572");
	await page.keyboard.press("Enter");
	await expect(page.getByText("Second round. Let go of the landmark and find it again.")).toBeVisible();
	await expect(page.getByText("57.2")).toHaveCount(0);
	await page.reload(); // what was read is kept on the tablet
	await expect(page.getByText("Second round. Let go of the landmark and find it again.")).toBeVisible();
	await page.keyboard.type("9");
	await page.keyboard.press("Backspace");
	await page.keyboard.type("575");
	await page.keyboard.press("Enter");
	await expect(page.getByText("57.2")).toBeVisible();
	await page.getByRole("button", { name: "Save readings" }).press("Enter");
	await expect(jaw.getByText(/\+\d+\.\d mm, more than the measuring noise/)).toBeVisible();
	await jaw.getByText("All readings").click();
	await jaw.getByRole("button", { name: "Take out" }).first().press("Enter");
	await jaw.getByRole("textbox", { name: "Why these readings do not count" }).fill("She was laughing.");
	await jaw.getByRole("button", { name: "Take these readings out" }).press("Enter");
	await expect(jaw.getByText(/no change shown/)).toBeVisible();
});

test("a photo is shown and marked before it is kept, and stands beside the first only where it is like it", async ({ page }) => {
	await signIn(page, "owner");
	await page.goto("/people");
	await page.getByRole("link", { name: /Quirina Quade/ }).first().click();
	await page.getByRole("link", { name: "Progress and measurements" }).click();
	await page.getByRole("link", { name: "Photos", exact: true }).click();
	await expect(page.getByText("Not comparable: light")).toBeVisible();
	await page.getByRole("button", { name: "Compare with the first" }).first().press("Enter");
	await page.getByRole("button", { name: "Slider" }).press("Enter");
	await page.getByRole("slider", { name: "Place of the slider, in per cent" }).press("ArrowRight");
	await noSeriousFault(page, "photos");
	const first = await page.request.get((await page.locator("img").first().getAttribute("src"))!);
	await page.getByLabel("Take or choose a photo").first().setInputFiles({ name: "face.jpg", mimeType: "image/jpeg", buffer: await first.body() });
	const canvas = page.locator("canvas");
	await expect(page.getByText("Tap the pupil on the left of the picture.")).toBeVisible();
	await canvas.focus();
	for (const [key, times] of [["ArrowLeft", 8], ["ArrowUp", 6]] as const) for (let i = 0; i < times; i++) await page.keyboard.press(key);
	await page.keyboard.press("Enter");
	await expect(page.getByText("Tap the pupil on the right of the picture.")).toBeVisible();
	const box = (await canvas.boundingBox())!;
	for (const [x, y] of [
		[438, 392],
		[90, 800],
	] as const)
		await page.mouse.click(box.x + (x / 720) * box.width, box.y + (y / 900) * box.height);
	await page.getByRole("button", { name: "Skip tilt" }).press("Enter");
	await page.getByRole("button", { name: "Save photo" }).press("Enter");
	await expect(page.getByRole("listitem")).not.toHaveCount(0);
	await expect(page.getByRole("button", { name: "Delete photo" })).toHaveCount(4);
});

test("Stop in the room opens the reaction with its minute and place; an incident and a correction are recorded", async ({ page }) => {
	test.setTimeout(240_000);
	await signIn(page, "practitioner");
	await page.goto(`/visits/${await booked(page, "Fabian Farrow", "row-classic")}`);
	await ready(page);
	await page.getByRole("button", { name: "Open room guide" }).click();
	await expect(page.getByRole("heading", { name: "Set-up list" })).toBeVisible();
	const light = await lightOf(page);
	const seen = [await light()];
	await page.getByRole("button", { name: /^Start/ }).click();
	await page.waitForTimeout(1500);
	for (let i = 0; i < 8; i++) {
		seen.push(await light());
		await nextStep(page);
	}
	// Dim, and never suddenly bright: at most 0.08 of white, and at most doubled from one screen to the next (handbook,
	// chapter 7, Letters, light, targets; WCAG 2.2 relative luminance).
	for (const [i, l] of seen.entries()) {
		expect(l, `screen ${i}`).toBeLessThanOrEqual(0.08);
		if (i > 1) expect(l, `screen ${i} after ${seen[i - 1]}`).toBeLessThanOrEqual(2 * seen[i - 1]!);
	}
	await page.keyboard.press("x");
	const end = page.getByRole("button", { name: "End and record" });
	await end.hover();
	await page.mouse.down();
	await page.waitForTimeout(2300);
	await page.mouse.up();
	const form = page.getByRole("form", { name: "Record a reaction" });
	await expect(form).toBeVisible();
	await expect(form.getByLabel("Noticed by")).toHaveValue("Maud Ferrant");
	await form.getByLabel("What was noticed").selectOption({ label: "Dizziness" });
	await form.getByRole("radio", { name: /Mild/ }).check();
	await form.getByRole("button", { name: "Save reaction" }).click();
	await expect(page.getByText("Dizziness", { exact: false }).first()).toBeVisible();
	await page.getByRole("button", { name: "Record an incident" }).click();
	const incident = page.getByRole("form", { name: "Record an incident" });
	await incident.getByLabel("What happened").first().selectOption({ label: "Power cut" });
	await incident.getByRole("textbox", { name: "What happened" }).fill("The lights went out for a minute.");
	await incident.getByRole("button", { name: "Save incident" }).click();
	await expect(page.getByText("The lights went out for a minute.")).toBeVisible();
	await page.getByRole("button", { name: "Sign and lock" }).click();
	await page.getByRole("dialog").getByRole("button", { name: "Sign and lock" }).click();
	await expect(page.getByText("This record is locked.")).toBeVisible();
	await page.getByLabel("What to add").first().selectOption({ label: "treatment notes" });
	await page.getByLabel("Right is").fill("The client felt dizzy and sat up.");
	await page.getByRole("button", { name: "Add to this record" }).click();
	await expect(page.getByText("The client felt dizzy and sat up.")).toBeVisible();
	await noSeriousFault(page, "a corrected record");
});
