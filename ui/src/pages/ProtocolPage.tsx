import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useParams } from "@tanstack/react-router";
import { Tabs } from "radix-ui";
import { useCallback, useEffect, useMemo, useState } from "react";
import { api, type Schemas, take } from "../api/client";
import { libraryQuery, protocolQuery } from "../api/queries";
import { Inspector } from "../bench/Inspector";
import { StepList } from "../bench/StepList";
import { type Protocol, type Step, useBench } from "../bench/useBench";
import { usePlayer } from "../bench/usePlayer";
import { TravelChart } from "../chart/TravelChart";
import { FaceMap } from "../face/FaceMap";
import { intentLook, intentsInPlay } from "../face/intents";
import { clock } from "../format";
import { Button, Dialog, Trouble, Waiting } from "../parts/kit";
import { useSession } from "../parts/session";
import { findingText, fixWords } from "../words/en";

/** The workbench: face map, travel chart, steps and one step in hand, all showing one selection. */
export function ProtocolPage() {
	const { id } = useParams({ from: "/shell/protocols/$id" });
	const opened = useQuery(protocolQuery(id));
	const library = useQuery(libraryQuery);
	if (!opened.data || !library.data)
		return <Waiting of="the protocol" error={opened.error ?? library.error} retry={() => opened.refetch()} />;
	return <Bench key={`${id}-${opened.dataUpdatedAt}`} opened={opened.data} library={library.data} />;
}

function Bench({ opened, library }: { opened: Schemas["OpenedView"]; library: Schemas["LibraryView"] }) {
	const b = useBench(opened);
	const { treats } = useSession();
	const e = b.evaluation;
	const p = b.protocol;
	const [selected, setSelected] = useState<string | undefined>(e.steps.find((s) => s.phase === "work")?.id ?? e.steps[0]?.id);
	const [adding, setAdding] = useState(e.steps.length === 0);
	const [behind, setBehind] = useState(false);
	const [tab, setTab] = useState("step");
	const player = usePlayer(e.seconds);
	const cache = useQueryClient();
	const visit = e.visits.find((v) => player.at >= v.start - v.lead && player.at < v.end);
	const shown = player.playing && visit ? e.steps[visit.step] : (e.steps.find((s) => s.id === selected) ?? e.steps[0]);
	const byKey = useMemo(() => new Map(library.zones.map((z) => [z.key, z.name])), [library.zones]);
	const names = { zone: (k: string) => byKey.get(k) ?? k, step: (id: string) => e.steps.find((s) => s.id === id)?.name ?? id };
	const { seek } = player;

	// Loops the step in hand on the face, so that a still screen shows its tempo on demand.
	const select = useCallback(
		(id: string) => {
			setSelected(id);
			setTab((t) => (t === "protocol" ? "step" : t));
			const s = e.steps.find((x) => x.id === id);
			if (s) seek(s.start);
		},
		[e.steps, seek],
	);
	const move = useCallback(
		(id: string, by: -1 | 1) => {
			const i = p.steps.findIndex((s) => s.id === id);
			const j = i + by;
			const here = p.steps[i];
			const there = p.steps[j];
			if (!here || !there) return;
			const steps = [...p.steps];
			if (here.phase !== there.phase) steps[i] = { ...here, phase: there.phase };
			else {
				steps[i] = there;
				steps[j] = here;
			}
			b.edit({ ...p, steps });
		},
		[p, b.edit],
	);
	const remove = useCallback(
		(id: string) => {
			const i = p.steps.findIndex((s) => s.id === id);
			const near = p.steps[i + 1] ?? p.steps[i - 1];
			b.edit({ ...p, steps: p.steps.filter((s) => s.id !== id) });
			setSelected(near?.id);
		},
		[p, b.edit],
	);
	function add(stroke: Schemas["Stroke"]) {
		const i = p.steps.findIndex((s) => s.id === selected);
		const phase: Step["phase"] = stroke.intent === "open" ? "open" : (p.steps[i]?.phase ?? "work");
		const id = `s${Date.now().toString(36)}${Math.floor(Math.random() * 1296).toString(36)}`;
		const steps = [...p.steps];
		steps.splice(i + 1, 0, { id, stroke: stroke.key, phase });
		b.edit({ ...p, steps });
		setSelected(id);
		setTab("step");
	}
	useEffect(() => {
		function key(ev: KeyboardEvent) {
			if (!(ev.ctrlKey || ev.metaKey) || ev.altKey) return;
			const k = ev.key.toLowerCase();
			if (k === "z" && !ev.shiftKey && b.undo) {
				ev.preventDefault();
				b.undo();
			} else if ((k === "y" || (k === "z" && ev.shiftKey)) && b.redo) {
				ev.preventDefault();
				b.redo();
			}
		}
		window.addEventListener("keydown", key);
		return () => window.removeEventListener("keydown", key);
	}, [b.undo, b.redo]);
	const discard = useMutation({
		mutationFn: () => take(api.DELETE("/api/protocols/{id}/draft", { params: { path: { id: opened.id } } })),
		onSuccess: () => cache.resetQueries({ queryKey: ["protocol", opened.id] }),
	});
	const serious = e.findings.filter((f) => f.severity !== "note").length;
	const over = e.seconds > e.slotSeconds + 0.5;
	return (
		<main className="flex flex-col" style={{ height: "calc(100vh - 166px)", minHeight: 600 }}>
			<div className="flex flex-wrap items-center justify-between gap-x-4 border-b border-rule px-5 py-1">
				<div className="flex min-w-0 items-baseline gap-3">
					<h1 className="m-0 truncate text-2xl" title={p.name}>
						{p.name}
					</h1>
					<span className="whitespace-nowrap text-sm text-soft" aria-live="polite">
						{b.publish.data ? `version ${b.publish.data.number}` : opened.version > 0 ? `version ${opened.version}` : "not published"}
						{b.drafted ? ` · your draft, ${b.kept}` : ""}
					</span>
				</div>
				<div className="flex items-center gap-2">
					<p className="num m-0 mr-2 whitespace-nowrap" data-testid="total">
						<span className={`font-serif text-2xl font-semibold ${over ? "text-persimmon-deep" : ""}`}>{clock(e.seconds)}</span>
						<span className="text-sm text-soft">
							{" "}
							of {clock(e.slotSeconds)} hands-on
							{e.openSteps > 0 ? `, at least ${clock(e.atLeast)}` : ""}
						</span>
					</p>
					{treats && (
						<>
							<Button onClick={b.undo} disabled={!b.undo} title="Ctrl + Z">
								Undo
							</Button>
							<Button onClick={b.redo} disabled={!b.redo} title="Ctrl + Y">
								Redo
							</Button>
							{b.drafted && opened.version > 0 && (
								<Button look="quiet" onClick={() => discard.mutate()} disabled={discard.isPending}>
									Discard
								</Button>
							)}
							<Button
								look="next"
								disabled={!b.drafted || b.publish.isPending || e.findings.some((f) => f.severity === "stop")}
								onClick={() => b.publish.mutate()}
							>
								Publish
							</Button>
						</>
					)}
				</div>
			</div>
			{Boolean(b.fault || b.publish.error || b.fix.error || discard.error) && (
				<div className="px-5">
					<Trouble error={b.fault ?? b.publish.error ?? b.fix.error ?? discard.error} />
				</div>
			)}
			<div className="grid min-h-0 flex-1 grid-cols-[270px_minmax(0,1fr)_310px] grid-rows-[minmax(0,1fr)] border-b border-rule xl:grid-cols-[320px_minmax(0,1fr)_350px]">
				<div className="flex min-h-0 flex-col border-r border-rule">
					<div className="flex border-b border-rule">
						<PanelButton on={!adding} onClick={() => setAdding(false)}>
							{e.steps.length} step{e.steps.length === 1 ? "" : "s"}
						</PanelButton>
						{treats && (
							<PanelButton on={adding} onClick={() => setAdding(true)}>
								Add a stroke
							</PanelButton>
						)}
					</div>
					<div className="min-h-0 flex-1 overflow-y-auto">
						{adding ? (
							<Library library={library} onAdd={add} />
						) : treats ? (
							<StepList evaluation={e} selected={shown?.id} onSelect={select} onMove={move} onRemove={remove} />
						) : (
							<StepList evaluation={e} selected={shown?.id} onSelect={select} />
						)}
					</div>
				</div>
				<div className="relative min-h-0">
					<FaceMap
						zones={library.zones}
						step={shown}
						visit={visit}
						at={player.at}
						fromBehind={behind}
						label={shown ? `${shown.name} on the face` : "The face from the front"}
					/>
					<div className="absolute top-2 left-2 flex flex-col gap-1">
						<Button onClick={player.toggle} disabled={e.visits.length === 0}>
							{player.playing ? "Pause" : "Play"}
						</Button>
						<select
							aria-label="Speed"
							className="field w-32"
							value={player.speed}
							onChange={(ev) => player.setSpeed(Number(ev.target.value))}
						>
							{[1, 2, 5, 10, 20].map((n) => (
								<option key={n} value={n}>
									{n === 1 ? "true tempo" : `${n} ×`}
								</option>
							))}
						</select>
					</div>
					<label className="absolute top-2 right-2 flex min-h-11 items-center gap-2 text-sm">
						<input type="checkbox" className="size-5 accent-persimmon" checked={behind} onChange={(ev) => setBehind(ev.target.checked)} />
						from behind the head
					</label>
					<ul aria-label="Intents" className="absolute right-2 bottom-2 m-0 hidden list-none p-0 text-xs xl:block">
						{intentsInPlay.map((i) => (
							<li key={i} className="flex items-center justify-end gap-2">
								{i}
								<svg width={36} height={10} aria-hidden="true">
									<line x1={0} x2={36} y1={5} y2={5} stroke={intentLook(i).colour} strokeWidth={8} />
									<line
										x1={3}
										x2={33}
										y1={5}
										y2={5}
										stroke="#fffaf1"
										strokeWidth={2}
										strokeLinecap="round"
										strokeDasharray={
											intentLook(i)
												.dash.split(" ")
												.filter(Boolean)
												.map((n) => Number(n) * 8)
												.join(" ") || undefined
										}
									/>
								</svg>
							</li>
						))}
					</ul>
				</div>
				<Tabs.Root value={tab} onValueChange={setTab} className="flex min-h-0 flex-col border-l border-rule">
					<Tabs.List aria-label="Details" className="flex border-b border-rule">
						{[
							["step", "Step"],
							[
								"findings",
								serious > 0 ? `Findings (${e.findings.length})` : e.findings.length > 0 ? `Notes (${e.findings.length})` : "No findings",
							],
							["protocol", "Protocol"],
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
						{shown && treats ? (
							<Inspector
								protocol={p}
								resolved={shown}
								library={library}
								edit={b.edit}
								onMove={(by) => move(shown.id, by)}
								onRemove={() => remove(shown.id)}
							/>
						) : (
							<p className="p-3">{shown ? shown.name : "Add a stroke from the library to begin."}</p>
						)}
					</Tabs.Content>
					<Tabs.Content value="findings" className="min-h-0 flex-1 overflow-y-auto p-3" tabIndex={-1}>
						{e.findings.length === 0 && <p className="m-0">Every check passes.</p>}
						<ul className="m-0 list-none p-0">
							{e.findings.map((f) => (
								<li key={f.id} className="mb-3 border-b border-rule pb-3">
									{f.steps[0] && (
										<button
											type="button"
											className="min-h-8 text-left text-sm font-semibold underline underline-offset-4"
											onClick={() => select(f.steps[f.steps.length - 1]!)}
										>
											{names.step(f.steps[f.steps.length - 1]!)}
										</button>
									)}
									<p className="m-0">
										<span
											className={`font-bold ${f.severity === "stop" ? "text-[#a31313]" : f.severity === "warning" ? "text-persimmon-deep" : "text-slate"}`}
										>
											{f.severity === "stop" ? "▲ Stop. " : f.severity === "warning" ? "▲ " : "● "}
										</span>
										{findingText(f, names)}
									</p>
									<p className="m-0 text-xs text-soft">{f.basis}</p>
									{treats && (
										<div className="mt-1 flex flex-wrap gap-2">
											{f.fixes.map((x) => (
												<Button key={x} disabled={b.fix.isPending} onClick={() => b.fix.mutate({ finding: f.id, fix: x })}>
													{fixWords[x] ?? x}
												</Button>
											))}
										</div>
									)}
								</li>
							))}
						</ul>
					</Tabs.Content>
					<Tabs.Content value="protocol" className="min-h-0 flex-1 overflow-y-auto p-3" tabIndex={-1}>
						<ProtocolFields protocol={p} edit={b.edit} locked={!treats} />
						<h3 className="mt-4 mb-1 text-lg">Takes</h3>
						<ul className="m-0 list-none p-0">
							{e.products.map((x) => (
								<li key={x.product} className="num flex justify-between border-b border-rule py-1">
									{x.name} <span>{x.ml.toFixed(1)} mL</span>
								</li>
							))}
							{e.tools.map((t) => (
								<li key={t} className="border-b border-rule py-1">
									{library.tools.find((x) => x.key === t)?.name ?? t}
								</li>
							))}
						</ul>
						<p className="num mt-2 text-sm text-soft">
							Left {clock(e.leftSeconds)}, right {clock(e.rightSeconds)}. The hands leave the face {e.timesLeft} times.
						</p>
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
						setSelected(id);
					}}
					height={206}
				/>
			</div>
			<Dialog open={b.stale !== null} onClose={() => {}} title="This draft was changed in another window">
				<p>
					Both texts are still there. Keep the one on this screen, or take the other one in its place; you can copy the protocol first if
					you want both.
				</p>
				<div className="flex justify-end gap-3">
					<Button onClick={() => b.settle(false)}>Take the other one</Button>
					<Button look="next" onClick={() => b.settle(true)}>
						Keep this one
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

function Library({ library, onAdd }: { library: Schemas["LibraryView"]; onAdd: (s: Schemas["Stroke"]) => void }) {
	const [text, setText] = useState("");
	const words = text.toLowerCase().split(/\s+/).filter(Boolean);
	const zone = (k: string) => library.zones.find((z) => z.key === k)?.name ?? k;
	const list = library.strokes.filter((s) => {
		const all = [s.name, s.family, s.intent, s.hand ?? "", s.tool?.key ?? "", ...(s.path ?? []).map(zone)].join(" ").toLowerCase();
		return words.every((w) => all.includes(w));
	});
	return (
		<div className="p-2">
			<label className="mb-2 block">
				<span className="mb-1 block text-sm font-semibold">Stroke, zone, intent, hand or tool</span>
				<input className="field" type="search" value={text} onChange={(e) => setText(e.target.value)} />
			</label>
			{list.length === 0 && <p className="m-0">No stroke of the library fits these words.</p>}
			<ul className="m-0 list-none p-0">
				{list.map((s) => (
					<li key={s.key}>
						<button
							type="button"
							className="min-h-11 w-full border-b border-rule border-l-4 px-2 py-1 text-left hover:bg-leaf"
							style={{ borderLeftColor: intentLook(s.intent).colour }}
							onClick={() => onAdd(s)}
						>
							<span className="block leading-tight">{s.name}</span>
							<span className="block truncate text-xs text-soft">
								{s.intent}, pressure {s.pressure}, {(s.path ?? []).map(zone).join(" → ") || "off the face"}
							</span>
						</button>
					</li>
				))}
			</ul>
		</div>
	);
}

function ProtocolFields({ protocol: p, edit, locked }: { protocol: Protocol; edit: (p: Protocol) => void; locked: boolean }) {
	const minutes = (part: Partial<Protocol["minutes"]>) => edit({ ...p, minutes: { ...p.minutes, ...part } });
	const school = (part: Partial<Protocol["school"]>) => edit({ ...p, school: { ...p.school, ...part } });
	return (
		<fieldset disabled={locked} className="m-0 grid gap-3 border-0 p-0">
			<label className="text-sm font-semibold">
				Name
				<input
					className="field mt-1 font-normal"
					maxLength={120}
					value={p.name}
					onChange={(e) => e.target.value && edit({ ...p, name: e.target.value })}
				/>
			</label>
			<label className="text-sm font-semibold">
				In two sentences
				<textarea
					className="field mt-1 min-h-16 font-normal"
					maxLength={600}
					value={p.summary ?? ""}
					onChange={(e) => edit({ ...p, summary: e.target.value })}
				/>
			</label>
			<div className="grid grid-cols-3 gap-2">
				{(
					[
						["handsOn", "Hands-on min"],
						["sold", "Sold min"],
						["reset", "Reset min"],
					] as const
				).map(([k, name]) => (
					<label key={k} className="text-sm font-semibold">
						{name}
						<input
							type="number"
							min={k === "reset" ? 0 : 1}
							max={480}
							className="field num mt-1 font-normal"
							value={p.minutes[k]}
							onChange={(e) =>
								e.target.value && minutes({ [k]: Math.min(480, Math.max(k === "reset" ? 0 : 1, Math.round(Number(e.target.value)))) })
							}
						/>
					</label>
				))}
			</div>
			<label className="text-sm font-semibold">
				Price in {p.price.currency}
				<input
					className="field num mt-1 font-normal"
					inputMode="decimal"
					value={p.price.amount}
					onChange={(e) =>
						/^\d{1,7}(\.\d{0,2})?$/.test(e.target.value) &&
						edit({ ...p, price: { ...p.price, amount: e.target.value.replace(/\.$/, ".0") } })
					}
				/>
			</label>
			<label className="text-sm font-semibold">
				Drainage
				<select
					className="field mt-1 font-normal"
					value={p.school.drainage || "open-and-close"}
					onChange={(e) => school({ drainage: e.target.value as "none" })}
				>
					<option value="open-and-close">opens and closes</option>
					<option value="only-open">only opens</option>
					<option value="only-close">only closes</option>
					<option value="middle">in the middle</option>
					<option value="whole">the whole treatment</option>
					<option value="none">none</option>
				</select>
			</label>
			<label className="text-sm font-semibold">
				Opening
				<select
					className="field mt-1 font-normal"
					value={p.school.opening || "nearest-first"}
					onChange={(e) => school({ opening: e.target.value as "kneaded" })}
				>
					<option value="nearest-first">nearest the heart first</option>
					<option value="feather-sweep">one feather sweep to the terminus</option>
					<option value="kneaded">nodes kneaded</option>
				</select>
			</label>
			<label className="text-sm font-semibold">
				First side
				<select
					className="field mt-1 font-normal"
					value={p.firstSide || "left"}
					onChange={(e) => edit({ ...p, firstSide: e.target.value as "left" })}
				>
					<option value="left">left</option>
					<option value="right">right</option>
				</select>
			</label>
		</fieldset>
	);
}
