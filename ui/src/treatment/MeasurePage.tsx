import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate, useParams, useSearch } from "@tanstack/react-router";
import { useEffect, useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { progressQuery } from "../api/queries";
import { newId } from "../kit/format";
import { ErrorMessage, Loading } from "../kit/kit";
import * as w from "../words/catalogue/treatment";
import { instrumentWords, measureNames } from "../words/sentences";
import { Knuckle } from "./guide/Knuckle";
import { type RoomSizes, useRoomScreen } from "./guide/roomScreen";
import { nextTask, type Offered, roundOf, type Side, taskKey, typed } from "./measuring";

type Moment = "before" | "after";

/** What is being measured, kept on this tablet until it is saved. */
type Kept = {
	chosen: string[];
	moment: Moment;
	begun: boolean;
	readings: Record<string, number[]>;
	/** Under which id each is saved, so that saving twice adds one. */
	ids: Record<string, string>;
};

const offeredKey = (o: Offered) => `${o.measure}/${o.instrument}`;
const usual = ["outer-eye-mouth/caliper", "lid-opening/caliper", "jaw-opening/caliper"];

function readKept(key: string): Kept | undefined {
	try {
		return JSON.parse(localStorage.getItem(key) ?? "null") ?? undefined;
	} catch {
		return undefined;
	}
}

/** Measuring beside the couch: dark, a keypad for knuckles, the earlier reading hidden until all are taken. */
export function MeasurePage() {
	const { id } = useParams({ from: "/people/$id/measure" });
	const progress = useQuery(progressQuery(id));
	if (!progress.data) return <Loading of={w.theProgress} error={progress.error} retry={() => progress.refetch()} />;
	return <Measuring id={id} progress={progress.data} />;
}

function Measuring({ id, progress }: { id: string; progress: Schemas["Progress"] }) {
	const { visit, after, room } = useSearch({ from: "/people/$id/measure" });
	const { sizes } = useRoomScreen();
	const go = useNavigate();
	const cache = useQueryClient();
	const place = `softpalm-measuring-${id}`;
	const last = progress.measures.map((m) => `${m.measure}/${m.instrument}`);
	const [kept, setKept] = useState<Kept>(
		() =>
			readKept(place) ?? {
				chosen: last.length > 0 ? last : usual,
				moment: after ? "after" : "before",
				begun: false,
				readings: {},
				ids: {},
			},
	);
	useEffect(() => localStorage.setItem(place, JSON.stringify(kept)), [place, kept]);
	const offered = progress.offered.filter((o) => o.instrument !== "photo");
	const chosen = offered.filter((o) => kept.chosen.includes(offeredKey(o)));
	const next = nextTask(chosen, kept.readings);
	const leave = () =>
		room && visit ? go({ to: "/visits/$id/room", params: { id: visit } }) : go({ to: "/people/$id/progress", params: { id } });
	const save = useMutation({
		mutationFn: () =>
			unwrap(
				api.POST("/api/clients/{id}/measurements", {
					params: { path: { id } },
					body: {
						measurements: Object.entries(kept.readings).map(([key, readings]) => {
							const [measure, instrument, side] = key.split("/") as [string, Offered["instrument"], Side];
							return {
								id: kept.ids[key] ?? newId(),
								measure,
								instrument,
								side,
								moment: kept.moment,
								readings,
								...(visit ? { visit } : {}),
							};
						}),
					},
				}),
			),
		onSuccess: (p) => {
			cache.setQueryData(["progress", id], p);
			localStorage.removeItem(place);
			void leave();
		},
	});
	const discard = () => {
		localStorage.removeItem(place);
		void leave();
	};
	const take = (value: number) => {
		if (!next) return;
		const key = taskKey(next.task);
		setKept((k) => ({
			...k,
			readings: { ...k.readings, [key]: [...(k.readings[key] ?? []), value] },
			ids: { ...k.ids, [key]: k.ids[key] ?? newId() },
		}));
	};
	return (
		<main className="night flex min-h-screen flex-col bg-night px-8 py-6 text-amber">
			{!kept.begun && (
				<Choose
					name={progress.name}
					offered={offered}
					kept={kept}
					sizes={sizes}
					onChange={(to) => setKept((k) => ({ ...k, ...to }))}
					onLeave={discard}
				/>
			)}
			{kept.begun && next && (
				<Read
					key={`${taskKey(next.task)} ${next.round}`}
					chosen={chosen}
					kept={kept}
					next={next}
					sizes={sizes}
					onTake={take}
					onLeave={leave}
				/>
			)}
			{kept.begun && !next && (
				<Taken
					chosen={chosen}
					kept={kept}
					sizes={sizes}
					busy={save.isPending}
					error={save.error}
					onSave={() => save.mutate()}
					onDiscard={discard}
				/>
			)}
		</main>
	);
}

const big = "rounded-md border-2 border-amber-dim px-5 font-semibold disabled:opacity-40";

function Choose({
	name,
	offered,
	kept,
	sizes,
	onChange,
	onLeave,
}: {
	name: string;
	offered: Offered[];
	kept: Kept;
	sizes: RoomSizes;
	onChange: (to: Partial<Kept>) => void;
	onLeave: () => void;
}) {
	const toggle = (o: Offered) => {
		const key = offeredKey(o);
		onChange({ chosen: kept.chosen.includes(key) ? kept.chosen.filter((k) => k !== key) : [...kept.chosen, key] });
	};
	const [tape, setTape] = useState(kept.chosen.some((k) => k.endsWith("/tape")) && !kept.chosen.some((k) => k.endsWith("/caliper")));
	const instrument = tape ? "tape" : "caliper";
	const change = (to: boolean) => {
		setTape(to);
		const other = to ? "tape" : "caliper";
		onChange({
			chosen: kept.chosen.map((k) => {
				const [measure, was] = k.split("/");
				return was !== "grade" && offered.some((o) => o.measure === measure && o.instrument === other) ? `${measure}/${other}` : k;
			}),
		});
	};
	const choice = (on: boolean) =>
		`min-h-[56px] rounded-md border-2 px-4 text-lg ${on ? "border-amber bg-amber font-semibold text-night" : "border-amber-dim"}`;
	const group = (title: string, list: Offered[]) => (
		<section aria-label={title} className="mb-5">
			<h2 className="m-0 mb-2 text-xl">{title}</h2>
			<div className="flex flex-wrap gap-2">
				{list.map((o) => {
					const on = kept.chosen.includes(offeredKey(o));
					return (
						<button key={offeredKey(o)} type="button" aria-pressed={on} onClick={() => toggle(o)} className={choice(on)}>
							{measureNames[o.measure]}
						</button>
					);
				})}
			</div>
		</section>
	);
	return (
		<>
			<div className="flex items-baseline justify-between gap-6">
				<h1 className="m-0 text-4xl">{w.measureTitle({ name })}</h1>
				<button type="button" className="min-h-11 text-lg underline underline-offset-4" onClick={onLeave}>
					{w.cancel}
				</button>
			</div>
			<p className="mt-2 mb-5 max-w-[70ch] text-lg text-amber-dim">{w.howToMeasure}</p>
			<fieldset className="m-0 mb-5 flex flex-wrap gap-2 border-0 p-0">
				<legend className="mb-2 font-serif text-xl font-semibold">{w.measuredWith}</legend>
				{[false, true].map((t) => (
					<button key={String(t)} type="button" aria-pressed={tape === t} onClick={() => change(t)} className={choice(tape === t)}>
						{instrumentWords[t ? "tape" : "caliper"]}
					</button>
				))}
			</fieldset>
			{group(
				w.lengths,
				offered.filter((o) => o.instrument === instrument),
			)}
			{group(
				w.grades,
				offered.filter((o) => o.instrument === "grade"),
			)}
			<fieldset className="m-0 flex flex-wrap gap-2 border-0 p-0">
				<legend className="mb-2 font-serif text-xl font-semibold">{w.whenMeasured}</legend>
				{(["before", "after"] as const).map((m) => (
					<button
						key={m}
						type="button"
						aria-pressed={kept.moment === m}
						onClick={() => onChange({ moment: m })}
						className={choice(kept.moment === m)}
					>
						{m === "before" ? w.beforeTreatment : w.afterTreatment}
					</button>
				))}
			</fieldset>
			<div className="mt-auto flex justify-end pt-5">
				<Knuckle
					still={sizes.still}
					onPress={() => onChange({ begun: true })}
					disabled={kept.chosen.length === 0}
					className={`${big} bg-amber text-2xl text-night`}
					style={{ minHeight: sizes.target, minWidth: sizes.target * 2 }}
				>
					{w.beginMeasuring}
				</Knuckle>
			</div>
		</>
	);
}

const digits = ["1", "2", "3", "4", "5", "6", "7", "8", "9"];
const mostDigits = 4;

function Read({
	chosen,
	kept,
	next,
	sizes,
	onTake,
	onLeave,
}: {
	chosen: Offered[];
	kept: Kept;
	next: NonNullable<ReturnType<typeof nextTask>>;
	sizes: RoomSizes;
	onTake: (value: number) => void;
	onLeave: () => void;
}) {
	const { task, round } = next;
	const o = chosen.find((c) => c.measure === task.measure && c.instrument === task.instrument)!;
	const [text, setText] = useState("");
	const value = typed(text, o.decimals);
	const fits = value !== undefined && value >= o.least && value <= o.most;
	const of = roundOf(round, chosen, kept.readings);
	const done = of.filter((t) => (kept.readings[taskKey(t)]?.length ?? 0) >= round).length;
	const press = (d: string) => setText((t) => (t.length < mostDigits ? t + d : t));
	useEffect(() => {
		const key = (e: KeyboardEvent) => {
			if (e.ctrlKey || e.metaKey || e.altKey) return;
			const on = e.target instanceof HTMLElement && e.target.tagName === "BUTTON";
			if (/^\d$/.test(e.key)) press(e.key);
			else if (e.key === "Backspace") setText((t) => t.slice(0, -1));
			else if (e.key === "Escape") onLeave();
			else if (e.key === "Enter" && !on && fits && value !== undefined) onTake(value);
			else return;
			e.preventDefault();
		};
		window.addEventListener("keydown", key);
		return () => window.removeEventListener("keydown", key);
	});
	const letter = task.side === "left" ? w.letterLeft : task.side === "right" ? w.letterRight : "";
	const pad = `${big} num`;
	const cell = { minHeight: sizes.target, fontSize: sizes.read * 0.75 };
	return (
		<div className="grid flex-1 grid-cols-[70px_minmax(0,1fr)_auto_70px] gap-4">
			<span className="self-center font-serif font-bold" style={{ fontSize: sizes.glance }} aria-hidden="true">
				{task.side === "left" ? letter : ""}
			</span>
			<section aria-label={w.readingOf({ n: round, of: o.readings })} className="flex flex-col">
				<p className="m-0 text-xl text-amber-dim">{round === 1 ? w.readingsHidden : round === 2 ? w.secondRound : w.thirdRound}</p>
				<h1 className="m-0 mt-4 leading-tight" style={{ fontSize: sizes.read }}>
					{measureNames[task.measure]}
				</h1>
				<p className="m-0 mt-1 text-2xl">
					{[task.side === "mid" ? "" : task.side === "left" ? w.letterLeftWord : w.letterRightWord, instrumentWords[task.instrument]]
						.filter(Boolean)
						.join(" · ")}
				</p>
				<output
					className="num mt-6 block font-serif font-bold"
					style={{ fontSize: sizes.glance * 1.4, minHeight: sizes.glance * 1.8 }}
					aria-live="polite"
				>
					{value === undefined ? "–" : value.toFixed(o.decimals)}
				</output>
				{value !== undefined && !fits && text.length >= mostDigits - 1 && (
					<p className="m-0 text-xl font-semibold">{w.outOfBounds({ least: o.least, most: o.most })}</p>
				)}
				<p className="num mt-auto mb-0 text-lg text-amber-dim">{w.takenSoFar({ n: done, of: of.length })}</p>
				<div className="mt-1 flex gap-2" aria-hidden="true">
					{of.map((t, i) => (
						<span key={taskKey(t)} className={`size-4 rounded-full border-2 border-amber ${i < done ? "bg-amber" : ""}`} />
					))}
				</div>
			</section>
			<div className="grid grid-cols-3 self-center" style={{ gap: sizes.gap, width: sizes.target * 3 + sizes.gap * 2 }}>
				{digits.map((d) => (
					<Knuckle key={d} still={sizes.still} className={pad} style={cell} onPress={() => press(d)}>
						{d}
					</Knuckle>
				))}
				<Knuckle
					still={sizes.still}
					aria-label={w.eraseDigit}
					className={pad}
					style={{ ...cell, fontSize: sizes.read * 0.5 }}
					onPress={() => setText((t) => t.slice(0, -1))}
				>
					⌫
				</Knuckle>
				<Knuckle still={sizes.still} className={pad} style={cell} onPress={() => press("0")}>
					0
				</Knuckle>
				<Knuckle
					still={sizes.still}
					disabled={!fits}
					className={`${pad} ${fits ? "bg-amber text-night" : ""}`}
					style={{ ...cell, fontSize: sizes.read * 0.5 }}
					onPress={() => value !== undefined && onTake(value)}
				>
					{w.ok}
				</Knuckle>
			</div>
			<span className="self-center text-right font-serif font-bold" style={{ fontSize: sizes.glance }} aria-hidden="true">
				{task.side === "right" ? letter : ""}
			</span>
		</div>
	);
}

function Taken({
	chosen,
	kept,
	sizes,
	busy,
	error,
	onSave,
	onDiscard,
}: {
	chosen: Offered[];
	kept: Kept;
	sizes: RoomSizes;
	busy: boolean;
	error: unknown;
	onSave: () => void;
	onDiscard: () => void;
}) {
	return (
		<>
			<h1 className="m-0 text-4xl">{w.theReadings}</h1>
			<table className="num mt-4 border-collapse text-2xl">
				<tbody>
					{roundOf(1, chosen, kept.readings).map((t) => {
						const o = chosen.find((c) => c.measure === t.measure && c.instrument === t.instrument)!;
						const all = kept.readings[taskKey(t)] ?? [];
						const apart = all.length > 1 && Math.max(...all) - Math.min(...all) > o.apart;
						return (
							<tr key={taskKey(t)} className="border-b border-amber-dim/50">
								<th className="py-2 pr-8 text-left font-normal">{measureNames[t.measure]}</th>
								<td className="pr-8 font-bold">{t.side === "left" ? w.letterLeft : t.side === "right" ? w.letterRight : ""}</td>
								{[0, 1, 2].map((i) => (
									<td key={i} className="w-24 text-right">
										{all[i]?.toFixed(o.decimals) ?? ""}
									</td>
								))}
								<td className="pl-8 text-lg text-amber-dim">{apart ? w.farApart : ""}</td>
							</tr>
						);
					})}
				</tbody>
			</table>
			<div className="night mt-4 text-ink">
				<ErrorMessage error={error} />
			</div>
			<div className="mt-auto flex justify-between gap-4 pt-5">
				<Knuckle still={sizes.still} className={`${big} text-2xl`} style={{ minHeight: sizes.target }} onPress={onDiscard}>
					{w.discard}
				</Knuckle>
				<Knuckle
					still={sizes.still}
					disabled={busy}
					className={`${big} bg-amber text-2xl text-night`}
					style={{ minHeight: sizes.target, minWidth: sizes.target * 2 }}
					onPress={onSave}
				>
					{w.saveReadings}
				</Knuckle>
			</div>
		</>
	);
}
