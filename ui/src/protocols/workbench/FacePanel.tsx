import { type Dispatch, type SetStateAction, useState } from "react";
import type { Schemas } from "../../api/client";
import type { View } from "../../face/FaceArt";
import { FaceMap } from "../../face/FaceMap";
import { intentLook, intentsInPlay } from "../../face/intents";
import { Button } from "../../kit/kit";
import * as w from "../../words/catalogue/protocols";
import { StepCaption } from "./StepCaption";
import type { usePlayer } from "./usePlayer";

export const views = ["front", "left", "right", "back", "mouth"] as const;

/** What of the face is looked at: the view, null for the best one, and what is drawn besides. */
export function useLook() {
	const [view, setView] = useState<View | null>(null);
	const [behind, setBehind] = useState(false);
	const [lymph, setLymph] = useState(false);
	const [load, setLoad] = useState(false);
	return { view, setView, behind, setBehind, lymph, setLymph, load, setLoad };
}

type Props = {
	player: ReturnType<typeof usePlayer>;
	onPlay: () => void;
	look: ReturnType<typeof useLook>;
	evaluation: Schemas["Evaluation"];
	library: Schemas["LibraryView"];
	/** The moment that the face shows, in seconds of the plan. */
	at: number;
	step: Schemas["Resolved"] | undefined;
	visit: Schemas["Occurrence"] | undefined;
	/** The zones of a path that is being drawn; null while none is. */
	drawing: string[] | null;
	setDrawing: Dispatch<SetStateAction<string[] | null>>;
	zoneName: (key: string) => string;
	/** Gives the drawn path to the step shown. */
	onPath: () => void;
	onNewStroke: () => void;
	onShortcuts: () => void;
};

/** The face with the step in hand, how it is looked at and played, and the path that is drawn on it. */
export function FacePanel({
	player,
	onPlay,
	look,
	evaluation,
	library,
	at,
	step,
	visit,
	drawing,
	setDrawing,
	zoneName,
	onPath,
	onNewStroke,
	onShortcuts,
}: Props) {
	const drawn = (zone: string) => setDrawing((d) => (d && d[d.length - 1] !== zone ? [...d, zone] : d));
	return (
		<div className="isolate flex min-h-0 flex-col">
			<div className="relative min-h-0 flex-1">
				<FaceMap
					zones={library.zones}
					view={look.view ?? (step?.view as View | undefined) ?? "front"}
					step={drawing ? undefined : step}
					visit={visit}
					at={at}
					fromBehind={look.behind}
					routes={look.lymph ? library.routes : undefined}
					open={visit?.open}
					loads={look.load ? evaluation.loads : undefined}
					{...(drawing ? { onPick: drawn, picked: drawing } : {})}
					label={step ? w.shownOnTheFace({ shown: step.name }) : w.theFaceFromTheFront}
				/>
				<div className="absolute top-2 left-2 flex flex-col gap-1">
					<Button onClick={onPlay} disabled={evaluation.visits.length === 0} title="Space">
						{player.playing ? w.pause : w.play}
					</Button>
					<select
						aria-label={w.speed}
						className="field w-32"
						value={player.speed}
						onChange={(ev) => player.setSpeed(Number(ev.target.value))}
					>
						{[0.5, 1, 2, 5, 10, 20].map((n) => (
							<option key={n} value={n}>
								{n === 1 ? w.trueTempo : n < 1 ? w.halfTempo : `${n} ×`}
							</option>
						))}
					</select>
				</div>
				<div className="absolute top-2 right-2 flex w-32 flex-col items-stretch text-sm">
					<select
						aria-label={w.viewOfTheBody}
						className="field"
						value={look.view ?? "auto"}
						onChange={(ev) => look.setView(ev.target.value === "auto" ? null : (ev.target.value as View))}
					>
						<option value="auto">{w.bestView}</option>
						{views.map((v) => (
							<option key={v} value={v}>
								{v}
							</option>
						))}
					</select>
					<Tick label={w.fromBehind} on={look.behind} set={look.setBehind} />
					<Tick label={w.lymphRoutes} on={look.lymph} set={look.setLymph} />
					<Tick label={w.load} on={look.load} set={look.setLoad} />
					<button type="button" className="min-h-9 text-right underline underline-offset-4" onClick={onShortcuts}>
						{w.shortcuts}
					</button>
				</div>
				{drawing ? (
					<div className="absolute right-2 bottom-2 left-2 flex flex-wrap items-center justify-end gap-2 border border-ink bg-paper p-2">
						<span className="mr-auto text-sm">{drawing.length === 0 ? w.drawOverFaceOrChooseOne : drawing.map(zoneName).join(" → ")}</span>
						<Button onClick={() => setDrawing(drawing.slice(0, -1))} disabled={drawing.length === 0} title="Backspace">
							{w.back}
						</Button>
						<Button onClick={() => setDrawing(null)}>{w.cancel}</Button>
						<Button onClick={onNewStroke} disabled={drawing.length === 0}>
							{w.newStrokeFromThisPath}
						</Button>
						{step && (
							<Button variant="primary" disabled={drawing.length === 0} onClick={onPath}>
								{w.pathOfShown({ shown: step.short || step.name })}
							</Button>
						)}
					</div>
				) : (
					<ul aria-label={w.intents} className="absolute right-2 bottom-2 m-0 hidden list-none p-0 text-xs xl:block">
						{intentsInPlay.map((i) => (
							<IntentKey key={i} intent={i} />
						))}
					</ul>
				)}
			</div>
			{step && <StepCaption step={step} visit={visit} at={at} playing={player.playing} />}
		</div>
	);
}

function Tick({ label, on, set }: { label: string; on: boolean; set: (on: boolean) => void }) {
	return (
		<label className="ml-auto flex min-h-9 w-fit items-center gap-2 rounded-sm bg-paper/85 pl-1.5">
			{label}
			<input type="checkbox" className="size-5 accent-persimmon" checked={on} onChange={(ev) => set(ev.target.checked)} />
		</label>
	);
}

/** How an intent is drawn. */
function IntentKey({ intent }: { intent: string }) {
	const look = intentLook(intent);
	const dash = look.dash
		.split(" ")
		.filter(Boolean)
		.map((n) => Number(n) * 8)
		.join(" ");
	return (
		<li className="flex items-center justify-end gap-2">
			{intent}
			<svg width={36} height={10} aria-hidden="true">
				<line x1={0} x2={36} y1={5} y2={5} stroke={look.colour} strokeWidth={8} />
				<line x1={3} x2={33} y1={5} y2={5} stroke="#fffaf1" strokeWidth={2} strokeLinecap="round" strokeDasharray={dash || undefined} />
			</svg>
		</li>
	);
}
