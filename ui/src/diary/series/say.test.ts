import { describe, expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { depth, picture, reach } from "./garland";
import { compromises, heardText, type Offered, sentence, without } from "./say";

const visit = (n: number, wall: string, practitionerName = "Bo"): Offered => ({
	kind: "treatment",
	n,
	wall,
	start: `${wall.replace(" ", "T")}:00Z`,
	end: "",
	practitioner: practitionerName.toLowerCase(),
	practitionerName,
	room: "r",
	roomName: "Garden room",
});

describe("a series as a sentence", () => {
	it("is the handbook's way of saying it (chapter 6, Working with it)", () => {
		const mondays = ["2027-01-04", "2027-01-11", "2027-01-18"].map((d, i) => visit(i + 1, `${d} 12:00`));
		expect(sentence(mondays)).toBe("Three Mondays at 12:00 from 4 January, with Bo");
	});
	it("names the exceptions", () => {
		const list = [
			visit(1, "2027-01-04 12:00"),
			visit(2, "2027-01-12 11:00", "Ann"),
			visit(3, "2027-01-18 12:00"),
			visit(4, "2027-01-25 12:00"),
		];
		expect(sentence(list)).toBe("Four Mondays at 12:00 from 4 January, with Bo; visit 2 on Tuesday 12 January at 11:00 with Ann");
	});
	it("names the weekdays where there are several", () => {
		const days = ["2027-01-17", "2027-01-20", "2027-01-24", "2027-01-27"];
		expect(sentence(days.map((d, i) => visit(i + 1, `${d} 09:00`)))).toBe(
			"Four visits on Sundays and Wednesdays at 09:00 from 17 January, with Bo",
		);
		const late = [...days, "2027-01-31", "2027-02-03", "2027-02-07"].map((d, i) => visit(i + 1, `${d} ${i === 1 ? "10" : "09"}:00`));
		expect(sentence(late)).toBe("Seven visits on Sundays and Wednesdays from 17 January, mostly at 09:00, with Bo");
	});
	it("tells from when to when the hours lie where no hour is usual", () => {
		const days = ["2027-01-17", "2027-01-20", "2027-01-24", "2027-01-27"];
		const list = days.map((d, i) => visit(i + 1, `${d} ${i % 2 ? "09:30" : "10:15"}`));
		expect(sentence(list)).toBe("Four visits on Sundays and Wednesdays from 17 January, beginning between 09:30 and 10:15, with Bo");
	});
	it("tells one visit, and one without a habit", () => {
		expect(sentence([visit(1, "2027-01-04 12:00")])).toBe("Monday 4 January at 12:00, with Bo");
		expect(sentence([visit(1, "2027-01-04 12:00"), visit(2, "2027-01-06 10:00", "Ann"), visit(3, "2027-01-09 15:00")])).toBe(
			"Three visits from Mon 4 Jan to Sat 9 Jan, with Bo and Ann",
		);
	});
});

describe("what was given up", () => {
	const offer = (list: Partial<Schemas["ToldCompromise"]>[]) =>
		({
			cost: 0,
			more: 0,
			changed: 0,
			terms: {},
			visits: [1, 2].map((n) => visit(n, `2027-01-0${n + 3} 12:00`)),
			compromises: list.map((c) => ({ visit: 1, points: 1, term: "gap", ...c })),
		}) as Schemas["SeriesOffer"];
	it("says which limit forbids the cheaper place", () => {
		expect(compromises(offer([{ visit: 2, term: "gap", by: 1, limit: "room", name: "Garden room", day: "2027-01-14" }]))).toEqual([
			"Visit 2 is a day late, because Garden room is taken (Thu 14 Jan)",
		]);
	});
	it("tells a wish that no visit keeps once", () => {
		expect(
			compromises(
				offer([
					{ visit: 1, term: "prefer" },
					{ visit: 2, term: "prefer", limit: "booked", name: "Ann", day: "2027-01-11" },
				]),
			),
		).toEqual(["No visit is with the practitioner wished for, because Ann is booked then (Mon 11 Jan)"]);
	});
});

describe("the pieces of the line", () => {
	it("say what was understood, and can be taken out", () => {
		const typed = "tue thu after 5, not 12-19 may";
		const days = { from: 0, to: 7, as: "weekdays", days: ["tue", "thu"] } as Schemas["Heard"];
		const away = { from: 17, to: 30, as: "not-days", days: ["2027-05-12", "2027-05-19"] } as Schemas["Heard"];
		expect(heardText(days, typed, [])).toBe("Tue and Thu");
		expect(heardText(away, typed, [])).toBe("not Wed 12 May to Wed 19 May");
		expect(without(typed, away)).toBe("tue thu after 5");
		expect(without(typed, days)).toBe("after 5, not 12-19 may");
	});
});

describe("the garland", () => {
	it("sags deeper for a longer gap, and shows a gap outside its band", () => {
		expect(depth(8, 8, 74)).toBeGreaterThan(depth(6, 8, 74));
		expect(depth(40, 8, 74)).toBe(74);
		const visits = [visit(1, "2027-01-04 12:00"), visit(2, "2027-01-14 10:00")];
		const items = [1, 2].map((n) => ({ n, ideal: 7, least: 6, most: 8, minutes: 60 }));
		const pic = picture(visits, items, reach(visits, []), 900, [540, 1140], ["Bo"]);
		expect(pic.sags[0]).toMatchObject({ loose: true, tight: false });
		expect(pic.beads[0]!.x).toBeLessThan(pic.beads[1]!.x);
		expect(pic.beads[0]!.y).toBeLessThan(pic.beads[1]!.y); // the later hour stands higher
	});
});
