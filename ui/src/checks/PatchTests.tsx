import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useRef, useState } from "react";
import * as z from "zod/mini";
import { api, type Schemas, unwrap } from "../api/client";
import { patchOfferQuery, patchTestsQuery, shelfQuery } from "../api/queries";
import { Dialog } from "../kit/Dialog";
import { FormEnd, Input, Select, useServerForm } from "../kit/form";
import { dayWords, newId } from "../kit/format";
import { Badge, Button, ErrorMessage, Field, Loading } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/checks";
import { patchGradeWords, patchStateWords } from "../words/sentences";

type PatchTest = Schemas["PatchTest"];
const stale = ["client", "visit", "plan", "day", "patch offer", "free"];
const useStale = () => {
	const cache = useQueryClient();
	return () => {
		for (const key of stale) cache.invalidateQueries({ queryKey: [key] });
	};
};

const places = [w.innerForearmLeft, w.innerForearmRight, w.behindTheEarLeft, w.behindTheEarRight, w.belowTheJawAngle];
const usualMonths = 6;

const applied = z.object({
	product: z.string().check(z.minLength(1, w.chooseAProduct)),
	lot: z.string(),
	place: z.string().check(z.trim(), z.minLength(1, w.enterTheTestSite)),
	months: z.string().check(z.trim(), z.regex(/^\d{1,2}$/, w.enterWholeMonths)),
	note: z.string(),
});

type Shelf = Schemas["ShelfLineView"][];

/** A pack of every lot that may be used. */
const usableLots = (shelf: Shelf, product: string) => {
	const packs = shelf.find((l) => l.product.key === product)?.packs.filter((p) => p.usable && p.side === "cabin") ?? [];
	return packs.filter((p, i) => packs.findIndex((q) => q.lot === p.lot) === i);
};

/** The lot that was chosen, else the open one, else the first. */
function lotOf(shelf: Shelf, product: string, chosen: string): string {
	const lots = usableLots(shelf, product);
	return lots.some((l) => l.lot === chosen) ? chosen : (lots.find((l) => l.opened)?.lot ?? lots[0]?.lot ?? "");
}

type Applying = { client: string; visit?: string; product?: string; onClose: () => void };

/** Applies a patch test: product, lot, place. */
export function ApplyPatchTest(props: Applying) {
	const shelf = useQuery(shelfQuery);
	return (
		<Dialog open onClose={props.onClose} title={w.applyPatchTest}>
			{shelf.data ? (
				<ApplyForm {...props} shelf={shelf.data} />
			) : (
				<Loading of={w.product} error={shelf.error} retry={() => shelf.refetch()} />
			)}
		</Dialog>
	);
}

/** The form, once the products to choose from are there. */
function ApplyForm({ client, visit, product, onClose, shelf }: Applying & { shelf: Shelf }) {
	const refresh = useStale();
	const of = useServerForm({
		schema: applied,
		start: { product: product ?? "", lot: "", place: places[0] ?? "", months: String(usualMonths), note: "" },
		send: (f) =>
			unwrap(
				api.POST("/api/clients/{id}/patch-tests", {
					params: { path: { id: client } },
					body: { ...f, lot: lotOf(shelf, f.product, f.lot), months: Number(f.months), ...(visit ? { visit } : {}) },
				}),
			),
		onSent: () => {
			refresh();
			onClose();
		},
	});
	const [chosen, typed] = of.form.watch(["product", "lot"]);
	const lots = usableLots(shelf, chosen);
	const lot = lotOf(shelf, chosen, typed);
	return (
		<form className="grid gap-3" onSubmit={of.submit} noValidate>
			<Select
				of={of}
				field="product"
				label={w.product}
				options={{
					"": w.choose,
					...Object.fromEntries(shelf.filter((l) => l.product.unit !== "pcs").map((l) => [l.product.key, l.product.name])),
				}}
			/>
			<Field label={w.lot} fault={of.fault("lot")} hint={chosen && lots.length === 0 ? w.noUsableLotInStock : undefined}>
				{(a) => (
					<select {...a} className="field" value={lot} onChange={(e) => of.form.setValue("lot", e.target.value)}>
						{lots.map((l) => (
							<option key={l.id} value={l.lot}>
								{w.numberUseByGoodUntil({ number: l.lot, goodUntil: dayWords(l.goodUntil) })}
							</option>
						))}
					</select>
				)}
			</Field>
			<Input of={of} field="place" label={w.testSite} list="patch-places" maxLength={80} />
			<datalist id="patch-places">
				{places.map((p) => (
					<option key={p} value={p} />
				))}
			</datalist>
			<Input of={of} field="months" label={w.clearResultValidForMonths} className="num w-28" inputMode="numeric" />
			<Input of={of} field="note" label={w.notes} maxLength={1000} />
			<p className="m-0 text-sm text-soft">{w.applySmallAmountCleanSkinLeave}</p>
			<FormEnd of={of} act={w.saveAppliedNow} onCancel={onClose} cancel={w.notNow} disabled={Boolean(chosen) && !lot} />
		</form>
	);
}

function ReadPatchTest({ test, hours, onClose }: { test: PatchTest; hours: number; onClose: () => void }) {
	const [grade, setGrade] = useState<string>("");
	const [fromPicture, setFromPicture] = useState(false);
	const refresh = useStale();
	const send = useMutation({
		mutationFn: () =>
			unwrap(
				api.POST("/api/patch-tests/{id}/readings", {
					params: { path: { id: test.id } },
					body: { hours: hours as 24, grade: grade as "negative", ...(fromPicture ? { fromPicture } : {}) },
				}),
			),
		onSuccess: () => {
			refresh();
			onClose();
		},
	});
	return (
		<Dialog open onClose={onClose} title={w.testAfterHoursHours({ test: test.name, hours })}>
			<fieldset className="m-0 grid gap-1 border-0 p-0">
				<legend className="mb-1 text-sm font-semibold">{w.howDidSkinReactLotLot({ lot: test.lot, place: test.place })}</legend>
				{Object.entries(patchGradeWords).map(([key, w]) => (
					<label
						key={key}
						className={`flex min-h-11 cursor-pointer items-center gap-3 rounded-sm border px-3 ${grade === key ? "border-ink bg-leaf" : "border-transparent"}`}
					>
						<input type="radio" name="grade" checked={grade === key} onChange={() => setGrade(key)} />
						<span className="num w-10 font-semibold">{w.sign}</span>
						<span>
							<span className="font-semibold">{w.name}</span> <span className="text-sm text-soft">{w.says}</span>
						</span>
					</label>
				))}
			</fieldset>
			{hours === 48 && (
				<label className="flex min-h-11 cursor-pointer items-center gap-3 px-3">
					<input type="checkbox" checked={fromPicture} onChange={(e) => setFromPicture(e.target.checked)} />
					{w.readFromPicture}
				</label>
			)}
			<ErrorMessage error={send.error} />
			<p className="text-sm text-soft">{w.youCantChangeThisLaterAny}</p>
			<div className="flex justify-end gap-3">
				<Button onClick={onClose}>{w.notNow}</Button>
				<Button variant="primary" disabled={!grade || send.isPending} onClick={() => send.mutate()}>
					{w.saveReading}
				</Button>
			</div>
		</Dialog>
	);
}

const tone: Record<string, string> = { clear: "go", reacted: "not-here", due: "not-before", waiting: "plain", over: "plain" };

/** A client's patch tests: the state of each, and the reading that is due. */
export function PatchTests({ client }: { client: string }) {
	const { at } = useSession();
	const list = useQuery(patchTestsQuery(client));
	const [applying, setApplying] = useState(false);
	const [reading, setReading] = useState<{ test: PatchTest; hours: number } | null>(null);
	const tests = list.data;
	if (!tests) return <Loading of={w.patchTests} error={list.error} retry={() => list.refetch()} />;
	return (
		<section aria-label={w.patchTests} className="mt-8">
			<div className="flex items-center justify-between gap-3">
				<h2 className="m-0 text-2xl">{w.patchTests}</h2>
				<Button onClick={() => setApplying(true)}>{w.applyPatchTest}</Button>
			</div>
			{tests.length === 0 && <p className="mt-1 text-sm text-soft">{w.noPatchTestsYetApplyOne}</p>}
			<ul className="m-0 list-none p-0">
				{tests.map((t) => (
					<li key={t.id} className="flex flex-wrap items-center gap-3 border-b border-rule py-1.5">
						<span className="num w-28">{at.date(t.applied)}</span>
						<span className="min-w-52 flex-1">
							<span className="font-semibold">{t.name}</span>
							<span className="block text-sm text-soft">
								{w.lotLotPlaceReadings({
									lot: t.lot,
									place: t.place,
									readings: t.readings
										.map(
											(r) =>
												w.afterHoursHName({ hours: r.hours, name: patchGradeWords[r.grade]?.name.toLowerCase() ?? r.grade }) +
												(r.fromPicture ? w.fromPicture : ""),
										)
										.join(""),
								})}
								{t.note && `; ${t.note}`}
							</span>
						</span>
						<Badge tone={tone[t.state] ?? "plain"}>
							{patchStateWords[t.state]}
							{t.state === "clear" ? w.untilUntil({ until: dayWords(t.until) }) : ""}
						</Badge>
						{t.due.map((h) => (
							<Button key={h} onClick={() => setReading({ test: t, hours: h })}>
								{w.readHH({ h })}
							</Button>
						))}
					</li>
				))}
			</ul>
			{applying && <ApplyPatchTest client={client} onClose={() => setApplying(false)} />}
			{reading && <ReadPatchTest {...reading} onClose={() => setReading(null)} />}
		</section>
	);
}

/** A patch test appointment: each product is applied. */
export function PatchVisit({ visit }: { visit: Schemas["VisitLine"] }) {
	const tests = useQuery(patchTestsQuery(visit.client));
	const shelf = useQuery(shelfQuery);
	const [applying, setApplying] = useState<string | null>(null);
	const name = (key: string) => shelf.data?.find((l) => l.product.key === key)?.product.name ?? key;
	const on = (key: string) => tests.data?.find((t) => t.visit === visit.id && t.product === key);
	return (
		<section aria-label={w.patchTest}>
			<p className="mt-0">{w.firstAskAboutRednessItchingMedicines}</p>
			<ul className="m-0 list-none p-0">
				{visit.products.map((key) => {
					const done = on(key);
					return (
						<li key={key} className="flex items-center gap-4 border-b border-rule py-2">
							<span className="flex-1 font-serif text-xl font-semibold">{name(key)}</span>
							{done ? (
								<Badge tone="go">{w.appliedLotLotPlace({ lot: done.lot, place: done.place })}</Badge>
							) : (
								<Button variant="primary" onClick={() => setApplying(key)}>
									{w.applyPatchTest}
								</Button>
							)}
						</li>
					);
				})}
			</ul>
			{applying && <ApplyPatchTest client={visit.client} visit={visit.id} product={applying} onClose={() => setApplying(null)} />}
		</section>
	);
}

/** A visit whose plan needs a patch test first: says so, and offers the ten minutes. */
export function PatchFirst({ visit }: { visit: Schemas["VisitLine"] }) {
	const { at, may } = useSession();
	const needed = (visit.patchFirst?.length ?? 0) > 0;
	const offer = useQuery({ ...patchOfferQuery(visit.id), enabled: needed });
	const [open, setOpen] = useState(false);
	const request = useRef(newId());
	const refresh = useStale();
	const book = useMutation({
		mutationFn: (f: Schemas["FreeTime"]) =>
			unwrap(
				api.POST("/api/visits/{id}/patch-test", {
					params: { path: { id: visit.id } },
					body: { id: request.current, practitioner: f.practitioner, room: f.room, start: f.start },
				}),
			),
		onSuccess: () => {
			refresh();
			setOpen(false);
		},
	});
	if (!needed) return null;
	const o = offer.data;
	const days = [...new Set(o?.times.map((t) => at.day(t.start)))];
	return (
		<section aria-label={w.patchTestFirst} className="mb-5 border-l-4 border-slate bg-slate-pale p-4">
			<p className="m-0 font-serif text-xl font-semibold">{w.patchTestFirst}</p>
			<p className="mt-1 mb-2">
				{w.newForThisClient} <span className="font-semibold">{visit.patchFirst?.join(", ")}</span>
				{w.applyTest2448HoursBefore}
			</p>
			{o?.booked ? (
				<p className="m-0 font-semibold">
					{w.booked}{" "}
					<Link to="/visits/$id" params={{ id: o.booked.id }} className="num underline underline-offset-4">
						{at.date(o.booked.startsAt)}, {at.time(o.booked.startsAt)}
					</Link>
					, {o.booked.practitionerName}
				</p>
			) : o && o.times.length === 0 ? (
				<p className="m-0">{w.thereNoFreeTimeForPatch}</p>
			) : (
				o &&
				may("book-patch-test") && (
					<Button variant="primary" onClick={() => setOpen(true)}>
						{w.bookPatchTest}
					</Button>
				)
			)}
			<Dialog open={open} onClose={() => setOpen(false)} title={w.bookPatchTest}>
				<ErrorMessage error={book.error} />
				{days.map((d) => (
					<div key={d} className="mb-3">
						<p className="mt-0 mb-1 font-semibold">{at.long(`${d}T12:00:00Z`)}</p>
						<div className="flex flex-wrap gap-2">
							{o?.times
								.filter((t) => at.day(t.start) === d)
								.map((t) => (
									<Button key={t.start} className="num" title={t.practitionerName} disabled={book.isPending} onClick={() => book.mutate(t)}>
										{at.time(t.start)}
									</Button>
								))}
						</div>
					</div>
				))}
				<div className="flex justify-end">
					<Button onClick={() => setOpen(false)}>{w.notNow}</Button>
				</div>
			</Dialog>
		</section>
	);
}
