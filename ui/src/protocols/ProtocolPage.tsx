import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useParams } from "@tanstack/react-router";
import { Tabs } from "radix-ui";
import { startTransition, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { libraryQuery, protocolQuery } from "../api/queries";
import { TravelChart } from "../chart/TravelChart";
import { Dialog } from "../kit/Dialog";
import { clock, money } from "../kit/format";
import { Gradually } from "../kit/Gradually";
import { Button, ErrorMessage, Loading } from "../kit/kit";
import { Later } from "../kit/Later";
import { late } from "../kit/late";
import { usePaced } from "../kit/pace";
import { useSession } from "../kit/session";
import { useStable } from "../kit/useStable";
import * as w from "../words/catalogue/protocols";
import { exportWord, rework } from "../words/catalogue/workbench";
import { FacePanel, useLook, views } from "./workbench/FacePanel";
import { Inspector } from "./workbench/Inspector";
import {
	asNew,
	copiedSteps,
	copySteps,
	dropSteps,
	insertAfter,
	leaveRound,
	makeRound,
	moveSteps,
	newStepId,
	removeSteps,
	withPressure,
	withStep,
} from "./workbench/ops";
import { StepList } from "./workbench/StepList";
import { type Step, useBench } from "./workbench/useBench";
import { usePlayer } from "./workbench/usePlayer";

// What is opened now and then comes when it is.
const Commands = late(async () => (await import("./workbench/Commands")).Commands);
const ExportMenu = late(async () => (await import("./workbench/ExportMenu")).ExportMenu);
const FindingsPanel = late(async () => (await import("./workbench/FindingsPanel")).FindingsPanel);
const LibraryPanel = late(async () => (await import("./workbench/LibraryPanel")).LibraryPanel);
const MarginDialog = late(async () => (await import("./workbench/MarginDialog")).MarginDialog);
const NewStroke = late(async () => (await import("./workbench/NewStroke")).NewStroke);
const PlanPanel = late(async () => (await import("./workbench/PlanPanel")).PlanPanel);
const PublishDialog = late(async () => (await import("./workbench/PublishDialog")).PublishDialog);
const Shortcuts = late(async () => (await import("./workbench/Shortcuts")).Shortcuts);

/** How far the draft on this screen is saved. */
const draftWords = { saved: "saved", waiting: "saving …", saving: "saving …", "not saved": w.notSaved } as const;

/** The workbench: face map, travel chart, steps and one step in hand, all showing one selection. */
export function ProtocolPage() {
	const { id } = useParams({ from: "/shell/protocols/$id" });
	const opened = useQuery(protocolQuery(id));
	const library = useQuery(libraryQuery);
	if (!opened.data || !library.data)
		return <Loading of={w.theProtocol} error={opened.error ?? library.error} retry={() => opened.refetch()} />;
	return (
		<Gradually key={`${id}-${opened.dataUpdatedAt}`} first={<Loading of={w.theProtocol} />}>
			<Bench opened={opened.data} library={library.data} />
		</Gradually>
	);
}

/** How often the face follows a chart that is scrubbed, in milliseconds. */
const facePace = 90;

function Bench({ opened, library }: { opened: Schemas["OpenedView"]; library: Schemas["LibraryView"] }) {
	const b = useBench(opened);
	const { may } = useSession();
	const edits = may("save-draft");
	const e = b.evaluation;
	const p = b.protocol;
	const first = e.steps.find((s) => s.phase === "work")?.id ?? e.steps[0]?.id;
	const [selected, setSelected] = useState<string | undefined>(first);
	const [chosen, setChosen] = useState<string[]>(first ? [first] : []);
	const panel = useRef<HTMLDivElement>(null); // the steps or the library, whichever it shows
	const [adding, setAdding] = useState(e.steps.length === 0);
	const look = useLook();
	const [tab, setTab] = useState("step");
	const [drawing, setDrawing] = useState<string[] | null>(null);
	const [newStroke, setNewStroke] = useState(false);
	const [sheet, setSheet] = useState(false);
	const [publishing, setPublishing] = useState(false);
	const [pricing, setPricing] = useState(false);
	const player = usePlayer(e.seconds);
	const cache = useQueryClient();
	const visitAt = (at: number) => e.visits.find((v) => at >= v.start - v.lead && at < v.end);
	const visit = visitAt(player.at);
	// While the chart is scrubbed its head moves at once, the face follows at its pace, as drawing it anew takes longer than
	// a picture may, and the list and the inspector when there is time.
	const [head, setHead] = useState<string>();
	const stepOf = (id: string | undefined) => e.steps.find((s) => s.id === id) ?? e.steps[0];
	const playing = player.playing && visit ? e.steps[visit.step] : undefined;
	const shown = playing ?? stepOf(head ?? selected);
	const listed = playing ?? stepOf(selected);
	const hands = useMemo(() => ({ at: player.at, head }), [player.at, head]);
	const faced = usePaced(hands, player.playing ? 0 : facePace);
	useEffect(() => {
		const at = faced.head;
		if (at === undefined) return;
		startTransition(() => {
			setHead((now) => (now === at ? undefined : now));
			setSelected(at);
			setChosen([at]);
		});
	}, [faced.head]);
	const byKey = useMemo(() => new Map(library.zones.map((z) => [z.key, z.name])), [library.zones]);
	const names = { zone: (k: string) => byKey.get(k) ?? k, step: (id: string) => e.steps.find((s) => s.id === id)?.name ?? id };
	const { seek, pause } = player;
	/** Plays or pauses; where it pauses is the step in hand. */
	const play = () => {
		if (playing) {
			setSelected(playing.id);
			setChosen([playing.id]);
		}
		player.toggle();
	};
	const edit = b.edit;

	const select = useCallback(
		(id: string, how: "only" | "to" | "also" = "only") => {
			setChosen((was) => {
				if (how === "also") return was.includes(id) && was.length > 1 ? was.filter((x) => x !== id) : [...was, id];
				if (how === "to" && selected) {
					const ids = p.steps.map((s) => s.id);
					const [i, j] = [ids.indexOf(was[0] ?? selected), ids.indexOf(id)];
					const run = i <= j ? ids.slice(i, j + 1) : ids.slice(j, i + 1).reverse();
					return run.length > 0 ? run : [id];
				}
				return [id];
			});
			setSelected(id);
			pause();
			if (how === "only") setTab((t) => (t === "plan" ? "step" : t));
			const s = e.steps.find((x) => x.id === id);
			if (s) seek(s.start);
		},
		[e.steps, seek, pause, p.steps, selected],
	);
	const inHand = chosen.length > 0 ? chosen : selected ? [selected] : [];
	const move = useCallback((by: -1 | 1) => edit(moveSteps(p, inHand, by)), [p, edit, inHand]);
	const remove = useCallback(() => {
		const i = p.steps.findIndex((s) => inHand.includes(s.id));
		const left = removeSteps(p, inHand);
		edit({ ...left, rounds: (left.rounds ?? []).filter((r) => left.steps.some((s) => s.round === r.id)) });
		const near = left.steps[i] ?? left.steps[i - 1];
		setSelected(near?.id);
		setChosen(near ? [near.id] : []);
	}, [p, edit, inHand]);
	function put(steps: Step[]) {
		pause();
		edit(insertAfter(p, inHand[inHand.length - 1] ?? selected, steps));
		setSelected(steps[steps.length - 1]?.id);
		setChosen(steps.map((s) => s.id));
		setTab("step");
	}
	function add(stroke: Schemas["Stroke"], path?: string[]) {
		const here = p.steps.find((s) => s.id === selected);
		const phase: Step["phase"] = stroke.intent === "open" ? "open" : (here?.phase ?? "work");
		put([{ id: newStepId(), stroke: stroke.key, phase, ...(path ? { path: path.map((zone) => ({ zone })) } : {}) }]);
	}
	function round() {
		const inRound = p.steps.some((s) => inHand.includes(s.id) && s.round);
		const next = inRound ? leaveRound(p, inHand) : makeRound(p, inHand, 3);
		if (next) edit(next);
	}
	const draw = () => setDrawing([]);
	const { onSelect, onDraw, ...onSteps } = useStable({
		onSelect: select,
		onDraw: draw,
		onMove: move,
		onDrop: (step: string, over: string) => edit(dropSteps(p, inHand.includes(step) ? inHand : [step], over)),
		onRemove: remove,
		onRound: (r: Schemas["Round"]) => edit({ ...p, rounds: (p.rounds ?? []).map((x) => (x.id === r.id ? r : x)) }),
	});
	function takePath() {
		if (drawing && shown) edit(withStep(p, shown.id, { path: drawing.map((zone) => ({ zone })) }));
		setDrawing(null);
	}

	function keys(ev: KeyboardEvent) {
		const on = ev.target as HTMLElement;
		const typing = on.closest("input:not([type=radio]):not([type=checkbox]), textarea, select, [role=menu], [role=dialog]");
		const k = ev.key.length === 1 ? ev.key.toLowerCase() : ev.key;
		const done = (f: () => void) => {
			ev.preventDefault();
			f();
		};
		if ((ev.ctrlKey || ev.metaKey) && !ev.altKey) {
			if (k === "z" && !ev.shiftKey && b.undo && !typing?.closest("[role=dialog]")) return done(b.undo);
			if ((k === "y" || (k === "z" && ev.shiftKey)) && b.redo) return done(b.redo);
			if (typing || !edits) return;
			const mine = p.steps.filter((s) => inHand.includes(s.id));
			if (k === "c" && !window.getSelection()?.toString()) return done(() => copySteps(mine));
			if (k === "x")
				return done(() => {
					copySteps(mine);
					remove();
				});
			if (k === "v" && copiedSteps().length > 0) return done(() => put(asNew(copiedSteps())));
			if (k === "d" && mine.length > 0) return done(() => put(asNew(mine)));
			return;
		}
		if (typing || ev.altKey) return;
		if (drawing && k === "Backspace") return done(() => setDrawing(drawing.slice(0, -1)));
		if (drawing && k === "Escape") return done(() => setDrawing(null));
		const looks: Record<string, () => void> = {
			"?": () => setSheet(true),
			a: () => setAdding(true),
			e: () => setTab("step"),
			f: () => setTab("findings"),
			r: () => setTab("plan"),
			l: () => look.setLymph(!look.lymph),
			h: () => look.setLoad(!look.load),
			b: () => look.setBehind(!look.behind),
			v: () => look.setView(views[(views.indexOf(look.view ?? shown?.view ?? "front") + 1) % views.length]!),
			p: () => window.open(`/api/protocols/${opened.id}/card?size=A4`, "_blank", "noreferrer"),
		};
		if (k === " " && !on.closest("button, a, summary, input, label, [role=application]")) return done(play);
		if (looks[k]) return done(looks[k]);
		if (!edits || !shown) return;
		if (k === "g") return done(round);
		if (k === "d") return done(draw);
		if (/^[0-5]$/.test(k)) return done(() => edit(withPressure(p, inHand, Number(k))));
		if ((k === "+" || k === "-") && shown.dose.planned && !on.closest("[data-chart]")) {
			const n = Math.max(1, shown.dose.planned + (k === "+" ? shown.grain : -shown.grain));
			return done(() =>
				edit(
					withStep(p, shown.id, {
						dose: {
							...shown.dose,
							planned: n,
							...(shown.dose.min ? { min: Math.min(shown.dose.min, n) } : {}),
							...(shown.dose.max ? { max: Math.max(shown.dose.max, n) } : {}),
						},
					}),
				),
			);
		}
	}
	useEffect(() => {
		window.addEventListener("keydown", keys);
		return () => window.removeEventListener("keydown", keys);
	});
	const discard = useMutation({
		mutationFn: () => unwrap(api.DELETE("/api/protocols/{id}/draft", { params: { path: { id: opened.id } } })),
		onSuccess: () => cache.resetQueries({ queryKey: ["protocol", opened.id] }),
	});
	const open = e.findings.filter((f) => !f.dismissed);
	const serious = open.filter((f) => f.severity !== "note").length;
	const over = e.seconds > e.slotSeconds + 0.5;
	return (
		<main className="flex min-h-0 flex-1 flex-col" data-own-shortcuts {...b.typing}>
			{/* The parts are isolated: what changes in one does not have the others painted anew. */}
			<div className="isolate flex flex-wrap items-center justify-between gap-x-3 border-b border-rule px-5 py-1">
				<div className="min-w-0 flex-1">
					<h1 className="m-0 line-clamp-2 text-balance text-lg leading-tight xl:line-clamp-1 xl:text-2xl" title={p.name}>
						{p.name}
					</h1>
					<span className="block whitespace-nowrap text-xs text-soft" aria-live="polite">
						{b.publish.data
							? w.versionNumber({ number: b.publish.data.number })
							: opened.version > 0
								? w.versionVersion({ version: opened.version })
								: w.notPublished}
						{b.drafted ? w.yourDraftDraftWords({ draftWords: draftWords[b.draftState] }) : ""}
					</span>
				</div>
				<div className="flex items-center gap-1.5">
					<p className="num m-0 mr-1 text-right whitespace-nowrap leading-tight" data-testid="money">
						{may("get-margin") && b.draftState === "saved" ? (
							<button
								type="button"
								className="font-serif text-2xl font-semibold underline decoration-rule decoration-2 underline-offset-4"
								title={w.costAndPrice}
								onClick={() => setPricing(true)}
							>
								{money(p.price.amount, p.price.currency)}
							</button>
						) : (
							<span className="font-serif text-2xl font-semibold">{money(p.price.amount, p.price.currency)}</span>
						)}
						<span className="block text-xs text-soft">
							{w.productsCostText({ cost: money(e.cost || "0", p.price.currency) })}
							{(e.costUnknown ?? 0) > 0 && w.andUnknown({ n: e.costUnknown })}
						</span>
					</p>
					<p className="num m-0 mr-1 text-right whitespace-nowrap leading-tight" data-testid="total">
						<span className={`font-serif text-2xl font-semibold ${over ? "text-persimmon-deep" : ""}`}>{clock(e.seconds)}</span>
						<span className="text-sm text-soft"> {w.ofSlotSeconds({ slotSeconds: clock(e.slotSeconds) })}</span>
						<span className="block text-xs text-soft">
							{w.handsOnOpenSteps({
								openSteps:
									e.openSteps > 0
										? w.atLeastOrLongerOpenStepsByFeel({
												atLeast: clock(e.atLeast),
												openSteps: e.openSteps === 1 ? "1 step" : w.openStepsSteps({ openSteps: e.openSteps }),
											})
										: "",
							})}
						</span>
					</p>
					{edits && (
						<>
							<Button onClick={b.undo} disabled={!b.undo} title={w.ctrlZ} className="px-3">
								{w.undo}
							</Button>
							<Button onClick={b.redo} disabled={!b.redo} title={w.ctrlY} className="px-3">
								{w.redo}
							</Button>
							<Later
								button={(press) => (
									<Button aria-haspopup="menu" onClick={press}>
										{rework}
									</Button>
								)}
							>
								{(plain) => <Commands meanwhile={plain} protocol={p} library={library} evaluation={e} names={names} apply={b.replace} />}
							</Later>
						</>
					)}
					<Later
						button={(press) => (
							<Button aria-haspopup="menu" disabled={b.draftState !== "saved"} onClick={press}>
								{exportWord}
							</Button>
						)}
					>
						{(plain) => <ExportMenu meanwhile={plain} id={opened.id} slug={p.key} ready={b.draftState === "saved"} />}
					</Later>
					{edits && (
						<>
							{b.drafted && opened.version > 0 && (
								<Button variant="quiet" className="px-1" onClick={() => discard.mutate()} disabled={discard.isPending}>
									{w.discard}
								</Button>
							)}
							<Button
								variant="primary"
								disabled={!b.drafted || b.publish.isPending || e.findings.some((f) => f.severity === "stop")}
								onClick={() => setPublishing(true)}
							>
								{w.publish}
							</Button>
						</>
					)}
				</div>
			</div>
			{Boolean(b.fault || b.publish.error || b.fix.error || discard.error) && (
				<div className="px-5">
					<ErrorMessage error={b.fault ?? b.publish.error ?? b.fix.error ?? discard.error} />
				</div>
			)}
			<div className="grid min-h-0 flex-1 grid-cols-[270px_minmax(0,1fr)_310px] grid-rows-[minmax(0,1fr)] border-b border-rule xl:grid-cols-[320px_minmax(0,1fr)_350px]">
				<div className="isolate flex min-h-0 flex-col border-r border-rule">
					<div className="flex border-b border-rule">
						<PanelButton on={!adding} onClick={() => setAdding(false)}>
							{w.countSteps({ count: e.steps.length })}
						</PanelButton>
						{edits && (
							<PanelButton on={adding} onClick={() => setAdding(true)}>
								{w.addAStroke}
							</PanelButton>
						)}
					</div>
					{!adding && edits && chosen.length > 1 && (
						<div className="flex flex-wrap items-center gap-1 border-b border-rule bg-blush px-2 py-1 text-sm">
							<span className="num mr-1 font-semibold">{w.countChosen({ count: chosen.length })}</span>
							<Button className="px-2" onClick={() => copySteps(p.steps.filter((s) => chosen.includes(s.id)))} title={w.ctrlC}>
								{w.copy}
							</Button>
							<Button className="px-2" onClick={round} title="G">
								{w.round}
							</Button>
							<Button className="px-2" onClick={remove} title="Delete">
								{w.remove}
							</Button>
						</div>
					)}
					<div ref={panel} className="min-h-0 flex-1 overflow-y-auto">
						{adding ? (
							<LibraryPanel library={library} scroller={panel} onAdd={add} />
						) : e.steps.length === 0 ? (
							<p className="p-3">{w.noStepsYetAddStrokeBegin}</p>
						) : (
							<StepList evaluation={e} protocol={p} selected={listed?.id} chosen={chosen} onSelect={onSelect} {...(edits ? onSteps : {})} />
						)}
					</div>
				</div>
				<FacePanel
					player={player}
					onPlay={play}
					look={look}
					evaluation={e}
					library={library}
					at={faced.at}
					step={playing ?? stepOf(faced.head ?? selected)}
					visit={visitAt(faced.at)}
					drawing={drawing}
					setDrawing={setDrawing}
					zoneName={names.zone}
					onPath={takePath}
					onNewStroke={() => setNewStroke(true)}
					onShortcuts={() => setSheet(true)}
				/>
				<Tabs.Root value={tab} onValueChange={setTab} className="isolate flex min-h-0 flex-col border-l border-rule">
					<Tabs.List aria-label={w.details} className="flex border-b border-rule">
						{[
							["step", w.step],
							[
								"findings",
								serious > 0
									? w.findingsCount({ count: open.length })
									: open.length > 0
										? w.notesCount({ count: open.length })
										: w.noFindings,
							],
							["plan", w.plan],
						].map(([v, name]) => (
							<Tabs.Trigger
								key={v}
								value={v!}
								className={`min-h-11 flex-1 border-b-4 border-transparent px-2 text-sm font-semibold data-[state=active]:border-ink ${v === "findings" && serious > 0 ? "text-persimmon-deep" : ""}`}
							>
								{name}
							</Tabs.Trigger>
						))}
					</Tabs.List>
					<Tabs.Content value="step" className="min-h-0 flex-1 overflow-y-auto" tabIndex={-1}>
						{listed && edits ? (
							<Gradually first={null}>
								<Inspector
									protocol={p}
									resolved={listed}
									products={e.products}
									library={library}
									edit={edit}
									onMove={onSteps.onMove}
									onRemove={onSteps.onRemove}
									onDraw={onDraw}
								/>
							</Gradually>
						) : (
							<p className="p-3">{listed ? listed.name : w.addStrokeFromLibraryBegin}</p>
						)}
					</Tabs.Content>
					<Tabs.Content value="findings" className="min-h-0 flex-1 overflow-y-auto" tabIndex={-1}>
						<FindingsPanel
							findings={e.findings}
							notStated={e.notStated}
							protocol={p}
							names={names}
							onSelect={select}
							fix={edits ? (finding, fix) => b.fix.mutate({ finding, fix }) : undefined}
							fixing={b.fix.isPending}
							edit={edits ? edit : undefined}
						/>
					</Tabs.Content>
					<Tabs.Content value="plan" className="min-h-0 flex-1 overflow-y-auto" tabIndex={-1}>
						<PlanPanel id={opened.id} protocol={p} evaluation={e} library={library} edit={edit} locked={!edits} />
					</Tabs.Content>
				</Tabs.Root>
			</div>
			<div className="px-3 pt-1">
				<TravelChart
					evaluation={e}
					at={player.at}
					selected={shown?.id}
					onSeek={(t, id) => {
						seek(t);
						setHead(id);
					}}
					height={206}
				/>
			</div>
			{pricing && <MarginDialog id={opened.id} name={p.name} currency={p.price.currency} onClose={() => setPricing(false)} />}
			{publishing && (
				<PublishDialog
					id={opened.id}
					protocol={p}
					saved={b.draftState === "saved"}
					edit={edit}
					onClose={() => setPublishing(false)}
					onPublish={() => {
						setPublishing(false);
						b.publish.mutate();
					}}
				/>
			)}
			{sheet && <Shortcuts onClose={() => setSheet(false)} />}
			{newStroke && drawing && (
				<NewStroke
					library={library}
					path={drawing}
					onClose={() => setNewStroke(false)}
					onMade={(s) => {
						setNewStroke(false);
						setDrawing(null);
						add(s);
					}}
				/>
			)}
			<Dialog open={b.stale !== null} onClose={() => {}} title={w.thisDraftWasChangedInAnother}>
				<p>{w.bothVersionsSafeKeepThisOne}</p>
				<div className="flex justify-end gap-3">
					<Button onClick={() => b.settle(false)}>{w.useTheOtherOne}</Button>
					<Button variant="primary" onClick={() => b.settle(true)}>
						{w.keepThisOne}
					</Button>
				</div>
			</Dialog>
		</main>
	);
}

function PanelButton({ on, onClick, children }: { on: boolean; onClick: () => void; children: React.ReactNode }) {
	return (
		<button
			type="button"
			aria-pressed={on}
			onClick={onClick}
			className={`min-h-11 flex-1 border-b-4 px-2 text-sm font-semibold ${on ? "border-ink" : "border-transparent"}`}
		>
			{children}
		</button>
	);
}
