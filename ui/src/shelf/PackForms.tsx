import { useQueryClient } from "@tanstack/react-query";
import * as z from "zod/mini";
import { api, type Schemas, unwrap } from "../api/client";
import { asDecimal, decimal } from "../kit/faults";
import { FormEnd, Input, Select, useServerForm } from "../kit/form";
import { useSession } from "../kit/session";
import { Who } from "../kit/Who";
import * as w from "../words/catalogue/shelf";

type Line = Schemas["ShelfLineView"];
type Pack = Schemas["PackView"];

const kinds = {
	waste: w.waste,
	dispose: w.disposeOf,
	retail: w.soldWhole,
	tester: w.putOutAsTester,
	return: w.returnedByAClient,
	"send-back": w.sentBackToSupplier,
	stocktake: w.countedNow,
} as const;

export const wasteReasons = {
	spilled: w.spilled,
	"too-much-taken": w.tooMuchTaken,
	contaminated: w.contaminated,
	separated: w.separated,
	"dried-up": w.driedUp,
	broken: w.broken,
	"left-in-pack": w.leftInPack,
} as const;

const moved = z.object({
	kind: z.string(),
	amount: z.string().check(
		z.trim(),
		z.refine((s) => s === "" || decimal.test(s), w.enterANumber),
	),
	reason: z.string(),
	note: z.string(),
	client: z.string(),
	opened: z.string(),
	day: z.string(),
	despite: z.string().check(z.trim()),
	credit: z.string().check(
		z.trim(),
		z.refine((s) => s === "" || decimal.test(s), w.enterANumber),
	),
});

/** Whether it is something that a client buys or brings back. */
const toClient = (kind: string) => kind === "retail" || kind === "return";

/** Something done with a pack: wasted, sold, put out, sent back, counted. Whole packs need no amount. */
export function MovePack({ line, pack, onDone }: { line: Line; pack: Pack; onDone: () => void }) {
	const cache = useQueryClient();
	const { may } = useSession();
	const good = pack.usable && Number(pack.left) > 0;
	const of = useServerForm({
		schema: moved,
		start: {
			kind: good ? "waste" : "dispose",
			amount: good ? "" : String(Number(pack.left)),
			reason: "spilled",
			note: "",
			client: "",
			opened: "yes",
			day: "",
			despite: "",
			credit: "",
		},
		send: (f) =>
			unwrap(
				api.POST("/api/packs/{id}/movements", {
					params: { path: { id: pack.id } },
					body: {
						kind: f.kind as "waste",
						...(f.amount ? { amount: asDecimal(f.amount) } : {}),
						...(f.kind === "waste" ? { reason: f.reason } : {}),
						note: f.note,
						...(f.day && f.kind !== "stocktake" ? { day: f.day } : {}),
						...(f.kind === "send-back" && f.credit ? { credit: asDecimal(f.credit) } : {}),
						...(f.client && toClient(f.kind) ? { client: f.client } : {}),
						...(f.kind === "return" ? { opened: f.opened === "yes" } : {}),
						...(f.client && f.kind === "retail" && f.despite ? { despite: f.despite } : {}),
					},
				}),
			),
		onSent: () => {
			cache.invalidateQueries({ queryKey: ["shelf"] });
			onDone();
		},
	});
	const kind = of.form.watch("kind") as keyof typeof kinds;
	const client = of.form.watch("client");
	const despite = of.form.watch("despite") || of.form.formState.errors.despite;
	const whole = kind === "retail" || kind === "tester";
	const options = Object.fromEntries(Object.entries(kinds).filter(([k]) => k !== "stocktake" || may("count-pack")));
	return (
		<form className="mt-2 grid gap-3" onSubmit={of.submit} noValidate>
			<Select of={of} field="kind" label={w.whatHappened} options={options} />
			{!whole && (
				<Input
					of={of}
					field="amount"
					label={kind === "stocktake" ? w.foundInUnit({ unit: line.product.unit }) : w.amountInUnit({ unit: line.product.unit })}
					hint={kind === "stocktake" ? undefined : w.emptyForAllOfIt({ left: Number(pack.left), unit: line.product.unit })}
					inputMode="decimal"
					className="num"
				/>
			)}
			{kind === "waste" && <Select of={of} field="reason" label={w.why} options={wasteReasons} />}
			{kind === "retail" && pack.fewDays !== undefined && (
				<p className="m-0 font-semibold text-persimmon-deep">{w.goodForDaysSayIt({ n: pack.fewDays })}</p>
			)}
			{toClient(kind) && (
				<Who
					label={w.clientIfKnown}
					client={client}
					onChange={(id) => {
						of.form.setValue("client", id);
						of.form.setValue("despite", "");
						of.form.clearErrors("despite");
					}}
				/>
			)}
			{kind === "return" && (
				<Select of={of} field="opened" label={w.wasItOpened} options={{ yes: w.openedSoDisposedOf, no: w.stillSealed }} />
			)}
			{kind === "retail" && client && despite && <Input of={of} field="despite" label={w.whySoldAllTheSame} maxLength={300} />}
			{kind === "send-back" && (
				<Input of={of} field="credit" label={w.creditedFor} hint={w.emptyForItsCost} inputMode="decimal" className="num" />
			)}
			<Input
				of={of}
				field="note"
				label={kind === "retail" ? w.receiptNumber : kind === "send-back" ? w.creditExpected : w.note}
				maxLength={300}
			/>
			{kind !== "stocktake" && <Input of={of} field="day" label={w.onAnEarlierDay} hint={w.emptyForToday} type="date" />}
			<FormEnd of={of} act={w.saveEntry} onCancel={onDone} />
		</form>
	);
}

const blocked = z.object({ why: z.string().check(z.trim(), z.minLength(1, w.sayWhyItIsBlocked)) });

/** Blocks all packs of a lot, with the reason. */
export function BlockLot({ pack, onDone }: { pack: Pack; onDone: () => void }) {
	const cache = useQueryClient();
	const of = useServerForm({
		schema: blocked,
		start: { why: "" },
		send: (f) => unwrap(api.PUT("/api/lots/{id}/block", { params: { path: { id: pack.lotId } }, body: f })),
		onSent: () => {
			cache.invalidateQueries({ queryKey: ["shelf"] });
			onDone();
		},
	});
	return (
		<form className="mt-2 grid gap-3" onSubmit={of.submit} noValidate>
			<Input of={of} field="why" label={w.whyIsLotBlocked({ lot: pack.lot })} maxLength={300} />
			<FormEnd of={of} act={w.blockTheLot} onCancel={onDone} />
		</form>
	);
}
