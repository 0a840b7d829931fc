import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../api/client";
import { toolRoomQuery } from "../api/queries";
import { asDecimal } from "../kit/faults";
import { money } from "../kit/format";
import { Badge, Button, ErrorMessage, Field, Loading, Page } from "../kit/kit";
import { ReasonForm } from "../kit/ReasonForm";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/shelf";
import { AddTool } from "./ShelfForms";
import { ShelfNav } from "./ShelfNav";

type Room = Schemas["ToolRoom"];
type Piece = Schemas["Piece"];
type State = Piece["state"];

const stateWords: Record<State, string> = {
	ready: w.pieceReady,
	"in use": w.pieceInUse,
	"to clean": w.pieceToClean,
	"in the bath": w.pieceInBath,
	drying: w.pieceDrying,
	chilling: w.pieceChilling,
	"put away": w.pieceAway,
	retired: w.pieceRetired,
};

const acts: Record<State, string> = {
	ready: w.actReady,
	"in use": w.actUse,
	"to clean": w.actToClean,
	"in the bath": w.actBath,
	drying: w.actDrying,
	chilling: w.actChill,
	"put away": w.actAway,
	retired: w.actRetire,
};

/** What is usually done next with a piece; everything else stands behind "more". */
const usual: Partial<Record<State, State>> = {
	"in use": "to clean",
	"to clean": "in the bath",
	"in the bath": "drying",
	drying: "ready",
	chilling: "ready",
	"put away": "ready",
};

const tones: Partial<Record<State, string>> = {
	ready: "go",
	chilling: "needs-letter",
	drying: "needs-letter",
	"in the bath": "needs-letter",
	"to clean": "not-here",
};

/** Tools piece by piece, baths, linen: what is clean, what is not, and when it will be. */
export function ToolsPage() {
	const room = useQuery(toolRoomQuery);
	const { may } = useSession();
	const [adding, setAdding] = useState(false);
	if (!room.data) return <Loading of={w.toolsAndLinen} error={room.error} retry={() => room.refetch()} />;
	return (
		<Page title={w.toolsAndLinen} action={<ShelfNav />}>
			{adding && <AddTool onDone={() => setAdding(false)} />}
			<div className="grid gap-8 lg:grid-cols-[minmax(0,1fr)_400px]">
				<section aria-label={w.tools}>
					<div className="flex items-center justify-between border-b border-ink pb-1">
						<h2 className="m-0 text-2xl">{w.tools}</h2>
						{may("add-tool") && <Button onClick={() => setAdding(true)}>{w.addTool}</Button>}
					</div>
					{room.data.tools.length === 0 && <p>{w.noToolsYet}</p>}
					{room.data.tools.map((t) => (
						<Tool key={t.tool.key} of={t} />
					))}
				</section>
				<div className="grid content-start gap-8">
					<Baths room={room.data} />
					<LinenList room={room.data} />
					<Cycles room={room.data} />
				</div>
			</div>
		</Page>
	);
}

function Tool({ of: l }: { of: Schemas["ToolLine"] }) {
	const { at, currency = "EUR" } = useSession();
	const missing = l.wanted.filter((x) => x.piece === 0);
	return (
		<div className="border-b border-rule py-2">
			<div className="flex flex-wrap items-baseline justify-between gap-x-4">
				<h3 className="m-0 text-lg">
					{l.tool.name} {l.tool.fragile && <span className="font-sans text-sm font-normal text-soft">{w.layOnATowel}</span>}
				</h3>
				<span className="num text-sm text-soft">
					{[
						w.readyAgainIn({ minutes: l.tool.readyAfter + (l.tool.chill ?? 0) }),
						Number(l.costPerUse) > 0 ? w.costAUse({ cost: money(l.costPerUse, currency) }) : "",
					]
						.filter(Boolean)
						.join(" · ")}
				</span>
			</div>
			{l.tool.care && <p className="m-0 text-sm text-soft">{l.tool.care}</p>}
			<ul className="m-0 flex list-none flex-wrap gap-x-6 p-0">
				{[...l.pieces]
					.sort((p, q) => Number(p.state === "ready") - Number(q.state === "ready"))
					.map((p) => (
						<PieceLine key={p.number} piece={p} />
					))}
			</ul>
			{l.wanted.length > 0 && (
				<p className="num m-0 text-sm">
					{w.wantedToday} {l.wanted.map((x) => `${at.time(x.at)} ${x.piece > 0 ? w.pieceNumber({ n: x.piece }) : w.noPiece}`).join(" · ")}
				</p>
			)}
			{missing.map((x) => (
				<p key={x.visit} className="num m-0 text-sm font-semibold text-persimmon-deep">
					{x.firstReady ? w.noneReadyFirst({ at: at.time(x.at), first: at.time(x.firstReady) }) : w.noneReady({ at: at.time(x.at) })}
				</p>
			))}
		</div>
	);
}

function PieceLine({ piece: p }: { piece: Piece }) {
	const { at, may, now } = useSession();
	const cache = useQueryClient();
	const [more, setMore] = useState(false);
	const [retiring, setRetiring] = useState(false);
	const move = useMutation({
		mutationFn: (to: { state: State; note?: string }) =>
			unwrap(api.POST("/api/tool-room/pieces", { body: { tool: p.tool, number: p.number, ...to } })),
		onSuccess: () => {
			setMore(false);
			setRetiring(false);
			cache.invalidateQueries({ queryKey: toolRoomQuery.queryKey });
		},
	});
	const next = usual[p.state];
	const others = (p.next as State[]).filter((s) => s !== next && s !== "retired");
	const early = p.state === "in the bath" && p.contactEnds !== undefined && new Date(p.contactEnds) > now();
	const act = "min-h-9 text-sm underline underline-offset-4";
	return (
		<li className={p.state === "ready" && !more ? "py-0.5" : "w-full py-0.5"}>
			<div className="flex items-center gap-3">
				<span className="num text-soft">{p.number}</span>
				<span>
					<Badge tone={tones[p.state] ?? ""}>{stateWords[p.state]}</Badge>
				</span>
				<span className={`num text-sm text-soft ${p.state === "ready" ? "" : "flex-1"}`}>
					{[
						p.state === "in the bath" && p.contactEnds ? w.contactEnds({ at: at.time(p.contactEnds) }) : "",
						p.readyAt && p.state !== "ready" ? w.readyAt({ at: at.time(p.readyAt) }) : "",
						p.uses > 0 ? w.usedTimes({ n: p.uses }) : "",
						p.worn ? w.lookItOver : "",
					]
						.filter(Boolean)
						.join(" · ")}
				</span>
				{may("move-piece") && p.state !== "retired" && (
					<span className="flex flex-wrap justify-end gap-x-4">
						{next && p.next.includes(next) && (
							<button type="button" className={act} disabled={move.isPending} onClick={() => move.mutate({ state: next })}>
								{acts[next]}
							</button>
						)}
						<button
							type="button"
							className={act}
							aria-expanded={more}
							aria-label={w.moreOf({ n: p.number })}
							onClick={() => setMore(!more)}
						>
							{w.more}
						</button>
					</span>
				)}
			</div>
			{early && more && <p className="m-0 text-sm">{w.earlyDoesNotCount}</p>}
			{more && (
				<span className="flex flex-wrap justify-end gap-x-4">
					{others.map((s) => (
						<button key={s} type="button" className={act} disabled={move.isPending} onClick={() => move.mutate({ state: s })}>
							{acts[s]}
						</button>
					))}
					<button type="button" className={act} onClick={() => setRetiring(true)}>
						{acts.retired}
					</button>
				</span>
			)}
			{retiring && (
				<ReasonForm
					label={w.whyIsItRetired}
					button={w.actRetire}
					onLeave={() => setRetiring(false)}
					onReason={(note) => move.mutate({ state: "retired", note })}
				/>
			)}
			<ErrorMessage error={move.error} />
		</li>
	);
}

function Baths({ room }: { room: Room }) {
	const { at, may } = useSession();
	const cache = useQueryClient();
	const [making, setMaking] = useState(false);
	const [f, set] = useState({
		product: room.baths[0]?.product ?? "",
		lot: "",
		dilution: room.baths[0]?.dilution ?? "",
		contact: String(room.baths[0]?.contact ?? 10),
		hours: "24",
	});
	const stale = () => cache.invalidateQueries({ queryKey: toolRoomQuery.queryKey });
	const make = useMutation({
		mutationFn: () => unwrap(api.POST("/api/baths", { body: { ...f, contact: Number(f.contact) || 0, hours: Number(f.hours) || 0 } })),
		onSuccess: () => {
			setMaking(false);
			stale();
		},
	});
	const discard = useMutation({
		mutationFn: (id: string) => unwrap(api.POST("/api/baths/{id}/discard", { params: { path: { id } } })),
		onSuccess: stale,
	});
	const fault = (path: string) => (make.error instanceof ProblemError ? make.error.at(path) : undefined);
	const input = (field: keyof typeof f, label: string, number = false) => (
		<Field label={label} fault={fault(`/${field}`)}>
			{(a) => (
				<input
					{...a}
					className="field num"
					inputMode={number ? "numeric" : "text"}
					value={f[field]}
					onChange={(e) => set({ ...f, [field]: e.target.value })}
				/>
			)}
		</Field>
	);
	return (
		<section aria-label={w.baths}>
			<div className="flex items-center justify-between border-b border-ink pb-1">
				<h2 className="m-0 text-2xl">{w.baths}</h2>
				{may("make-bath") && !making && <Button onClick={() => setMaking(true)}>{w.makeABath}</Button>}
			</div>
			{making && (
				<form
					className="leaf mt-2 grid gap-2 p-3"
					noValidate
					onSubmit={(e) => {
						e.preventDefault();
						make.mutate();
					}}
				>
					{input("product", w.disinfectant)}
					<div className="grid grid-cols-2 gap-3">
						{input("dilution", w.dilution)}
						{input("lot", w.lotNumber)}
						{input("contact", w.contactMinutes, true)}
						{input("hours", w.goodForHours, true)}
					</div>
					<p className="m-0 text-sm text-soft">{w.followTheLabel}</p>
					<ErrorMessage error={fault("/product") ? null : make.error} />
					<div className="flex justify-end gap-3">
						<Button onClick={() => setMaking(false)}>{w.cancel}</Button>
						<Button variant="primary" type="submit" disabled={make.isPending}>
							{w.bathIsMade}
						</Button>
					</div>
				</form>
			)}
			{room.baths.length === 0 && !making && <p className="m-0">{w.noBathYet}</p>}
			<ul className="m-0 list-none p-0">
				{room.baths.map((b) => (
					<li key={b.id} className="flex items-center justify-between gap-3 border-b border-dotted border-rule py-1.5">
						<span>
							<span className="font-semibold">{b.product}</span> {b.dilution}{" "}
							<span className={`num block text-sm ${b.good ? "text-soft" : "font-semibold text-persimmon-deep"}`}>
								{b.good
									? w.bathGood({ contact: b.contact, until: `${at.date(b.goodUntil)} ${at.time(b.goodUntil)}` })
									: w.bathPast({ until: `${at.date(b.goodUntil)} ${at.time(b.goodUntil)}` })}
							</span>
						</span>
						{may("discard-bath") && (
							<button
								type="button"
								className="min-h-9 text-sm underline underline-offset-4"
								disabled={discard.isPending}
								onClick={() => discard.mutate(b.id)}
							>
								{w.discard}
							</button>
						)}
					</li>
				))}
			</ul>
			<ErrorMessage error={discard.error} />
		</section>
	);
}

const linenActs = [
	["use", w.linenUse],
	["hamper", w.linenHamper],
	["wash", w.linenWash],
	["clean", w.linenBack],
] as const;

function LinenList({ room }: { room: Room }) {
	const { may } = useSession();
	const cache = useQueryClient();
	const [editing, setEditing] = useState<Schemas["Linen"] | "new" | null>(null);
	const move = useMutation({
		mutationFn: (body: { kind: string; how: "use" | "hamper" | "wash" | "clean" }) => unwrap(api.POST("/api/linen/moves", { body })),
		onSuccess: () => cache.invalidateQueries({ queryKey: toolRoomQuery.queryKey }),
	});
	const has = (l: Schemas["Linen"], how: string) =>
		(how === "use" ? l.clean : how === "hamper" ? l.inUse : how === "wash" ? l.toWash : l.washing) > 0;
	return (
		<section aria-label={w.linen}>
			<div className="flex items-center justify-between border-b border-ink pb-1">
				<h2 className="m-0 text-2xl">{w.linen}</h2>
				{may("save-linen") && !editing && <Button onClick={() => setEditing("new")}>{w.addLinen}</Button>}
			</div>
			{editing && <LinenForm of={editing === "new" ? null : editing} onDone={() => setEditing(null)} />}
			{room.linen.length === 0 && !editing && <p className="m-0">{w.noLinenYet}</p>}
			<ErrorMessage error={move.error} />
			<ul className="m-0 list-none p-0">
				{room.linen.map((l) => (
					<li key={l.kind} className="border-b border-dotted border-rule py-1.5">
						<p className="m-0 flex justify-between gap-3">
							<span className="font-semibold">{l.kind}</span>
							{may("save-linen") && (
								<button type="button" className="min-h-8 text-sm underline underline-offset-4" onClick={() => setEditing(l)}>
									{w.change}
								</button>
							)}
						</p>
						<p className="num m-0 text-sm">{w.linenCounts({ clean: l.clean, inUse: l.inUse, toWash: l.toWash, washing: l.washing })}</p>
						<p className="num m-0 text-sm text-soft">{w.linenWanted({ wanted: l.wanted, perVisit: l.perVisit })}</p>
						{l.short > 0 && <p className="num m-0 text-sm font-semibold text-persimmon-deep">{w.linenShort({ n: l.short })}</p>}
						{may("move-linen") && (
							<span className="flex flex-wrap gap-x-4">
								{linenActs
									.filter(([how]) => has(l, how))
									.map(([how, name]) => (
										<button
											key={how}
											type="button"
											className="min-h-9 text-sm underline underline-offset-4"
											disabled={move.isPending}
											onClick={() => move.mutate({ kind: l.kind, how })}
										>
											{name}
										</button>
									))}
							</span>
						)}
					</li>
				))}
			</ul>
		</section>
	);
}

function LinenForm({ of, onDone }: { of: Schemas["Linen"] | null; onDone: () => void }) {
	const cache = useQueryClient();
	const [f, set] = useState({
		kind: of?.kind ?? "",
		clean: String(of?.clean ?? 20),
		perVisit: String(of?.perVisit ?? 1),
		charge: of ? String(Number(of.charge)) : "0",
	});
	const save = useMutation({
		mutationFn: () =>
			unwrap(
				api.PUT("/api/linen", {
					body: {
						kind: f.kind,
						clean: Number(f.clean) || 0,
						perVisit: Number(f.perVisit) || 0,
						charge: asDecimal(f.charge) || "0",
						inUse: of?.inUse ?? 0,
						toWash: of?.toWash ?? 0,
						washing: of?.washing ?? 0,
						wanted: 0,
						short: 0,
					},
				}),
			),
		onSuccess: () => {
			cache.invalidateQueries({ queryKey: toolRoomQuery.queryKey });
			onDone();
		},
	});
	const input = (field: keyof typeof f, label: string, locked = false) => (
		<Field label={label} fault={save.error instanceof ProblemError ? save.error.at(`/${field}`) : undefined}>
			{(a) => (
				<input {...a} className="field num" readOnly={locked} value={f[field]} onChange={(e) => set({ ...f, [field]: e.target.value })} />
			)}
		</Field>
	);
	return (
		<form
			className="leaf mt-2 grid gap-2 p-3"
			noValidate
			onSubmit={(e) => {
				e.preventDefault();
				save.mutate();
			}}
		>
			{input("kind", w.kindOfLinen, of !== null)}
			<div className="grid grid-cols-3 items-end gap-3">
				{input("clean", w.cleanPieces)}
				{input("perVisit", w.perAppointment)}
				{input("charge", w.washCharge)}
			</div>
			<ErrorMessage error={save.error instanceof ProblemError && save.error.at("/kind") ? null : save.error} />
			<div className="flex justify-end gap-3">
				<Button onClick={onDone}>{w.cancel}</Button>
				<Button variant="primary" type="submit" disabled={save.isPending || f.kind.trim() === ""}>
					{w.save}
				</Button>
			</div>
		</form>
	);
}

function Cycles({ room }: { room: Room }) {
	const { at, may } = useSession();
	const cache = useQueryClient();
	const [open, setOpen] = useState(false);
	const [load, setLoad] = useState<string[]>([]);
	const [celsius, setCelsius] = useState("121");
	const [minutes, setMinutes] = useState("20");
	const [passed, setPassed] = useState(true);
	const name = (key: string) => room.tools.find((t) => t.tool.key === key)?.tool.name ?? key;
	const loads = room.tools.flatMap((t) =>
		t.pieces.filter((p) => p.state === "to clean" || p.state === "drying").map((p) => `${p.tool}/${p.number}`),
	);
	const add = useMutation({
		mutationFn: () =>
			unwrap(
				api.POST("/api/heat-cycles", {
					body: {
						celsius: Number(celsius) || 0,
						minutes: Number(minutes) || 0,
						passed,
						load: load.map((x) => ({ tool: x.split("/")[0]!, number: Number(x.split("/")[1]) })),
					},
				}),
			),
		onSuccess: () => {
			setOpen(false);
			setLoad([]);
			cache.invalidateQueries({ queryKey: toolRoomQuery.queryKey });
		},
	});
	return (
		<section aria-label={w.heatCycles}>
			<div className="flex items-center justify-between border-b border-ink pb-1">
				<h2 className="m-0 text-2xl">{w.heatCycles}</h2>
				{may("add-heat-cycle") && !open && <Button onClick={() => setOpen(true)}>{w.addCycle}</Button>}
			</div>
			{open && (
				<form
					className="leaf mt-2 grid gap-2 p-3"
					noValidate
					onSubmit={(e) => {
						e.preventDefault();
						add.mutate();
					}}
				>
					{loads.length === 0 && <p className="m-0">{w.nothingToSterilise}</p>}
					<div className="flex flex-wrap gap-x-4">
						{loads.map((x) => (
							<label key={x} className="flex min-h-11 items-center gap-2 text-sm">
								<input
									type="checkbox"
									className="size-5 accent-persimmon"
									checked={load.includes(x)}
									onChange={(e) => setLoad(e.target.checked ? [...load, x] : load.filter((y) => y !== x))}
								/>
								{name(x.split("/")[0]!)} {x.split("/")[1]}
							</label>
						))}
					</div>
					<div className="grid grid-cols-2 items-end gap-3">
						<Field label={w.celsius}>
							{(a) => <input {...a} className="field num" value={celsius} onChange={(e) => setCelsius(e.target.value)} />}
						</Field>
						<Field label={w.minutes}>
							{(a) => <input {...a} className="field num" value={minutes} onChange={(e) => setMinutes(e.target.value)} />}
						</Field>
					</div>
					<label className="flex min-h-11 items-center gap-2">
						<input type="checkbox" className="size-5 accent-persimmon" checked={passed} onChange={(e) => setPassed(e.target.checked)} />
						{w.indicatorPassed}
					</label>
					<ErrorMessage error={add.error} />
					<div className="flex justify-end gap-3">
						<Button onClick={() => setOpen(false)}>{w.cancel}</Button>
						<Button variant="primary" type="submit" disabled={load.length === 0 || add.isPending}>
							{w.saveCycle}
						</Button>
					</div>
				</form>
			)}
			{add.data && !add.data.passed && (
				<p role="alert" className="m-0 mt-2 font-semibold text-persimmon-deep">
					{w.cycleFailed({ visits: add.data.since.join("; ") || w.noAppointments })}
				</p>
			)}
			<ul className="num m-0 list-none p-0 text-sm">
				{room.cycles.map((c) => (
					<li key={c.number} className="border-b border-dotted border-rule py-1.5">
						<span className="font-semibold">{w.cycleNumber({ n: c.number })}</span> {at.date(c.at)} {at.time(c.at)}, {c.celsius} °C,{" "}
						{c.minutes} {w.minutesShort},{" "}
						<span className={c.passed ? "text-kelp" : "font-semibold text-persimmon-deep"}>{c.passed ? w.passed : w.failed}</span>
						<span className="block text-soft">{c.load.map((x) => `${name(x.tool)} ${x.number}`).join(", ")}</span>
					</li>
				))}
			</ul>
			{room.cycles.length === 0 && !open && <p className="m-0">{w.noCyclesYet}</p>}
		</section>
	);
}
