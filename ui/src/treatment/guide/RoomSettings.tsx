import { useEffect, useState } from "react";
import { Dialog } from "../../kit/Dialog";
import { Button, Field } from "../../kit/kit";
import * as w from "../../words/catalogue/treatment";
import { kept, noPedal, type Pedal, type PedalAct, pedalActs, taught } from "./pedal";
import type { RoomScreen } from "./roomScreen";
import { useLocalVoices } from "./useVoice";

type Props = { open: boolean; screen: RoomScreen; fits: boolean; onChange: (more: Partial<RoomScreen>) => void; onClose: () => void };

const modes = { mixed: w.modeMixed, auto: w.modeAuto, hand: w.modeHand } as const;
const edges = { right: w.edgeRight, left: w.edgeLeft } as const;

/** How large this screen is and how far away it is read: letters follow from it. And how the guide goes on. */
export function RoomSettings({ open, screen, fits, onChange, onClose }: Props) {
	const number = (value: number, set: (n: number) => void, least: number, most: number, step: number) => (a: object) => (
		<input
			{...a}
			type="number"
			className="field num"
			min={least}
			max={most}
			step={step}
			defaultValue={value}
			onChange={(e) => {
				const n = Number(e.target.value);
				if (n >= least && n <= most) set(n);
			}}
		/>
	);
	return (
		<Dialog open={open} onClose={onClose} title={w.screenAndPace}>
			<div className="grid gap-4">
				<div className="grid grid-cols-2 gap-4">
					<Field label={w.diagonalInches}>{number(screen.inches, (inches) => onChange({ inches }), 5, 60, 0.1)}</Field>
					<Field label={w.readFromMetres}>{number(screen.metres, (metres) => onChange({ metres }), 0.4, 4, 0.1)}</Field>
				</div>
				{!fits && <p className="m-0 font-semibold text-persimmon-deep">{w.thisScreenIsTooSmall}</p>}
				<Field label={w.levelOfTones}>{number(screen.level, (level) => onChange({ level }), 0, 10, 1)}</Field>
				<Choice label={w.howItGoesOn} options={modes} value={screen.mode} onChange={(mode) => onChange({ mode })} />
				<Choice label={w.wishesStandAt} options={edges} value={screen.edge} onChange={(edge) => onChange({ edge })} />
				<VoiceSetting on={screen.voice} onChange={(voice) => onChange({ voice })} />
				<PedalSetting pedal={screen.pedal} onChange={(pedal) => onChange({ pedal })} />
				<div className="flex justify-end">
					<Button variant="primary" onClick={onClose}>
						{w.done}
					</Button>
				</div>
			</div>
		</Dialog>
	);
}

function VoiceSetting({ on, onChange }: { on: boolean; onChange: (on: boolean) => void }) {
	const voices = useLocalVoices();
	return (
		<fieldset className="m-0 border-0 p-0">
			<legend className="p-0 font-semibold">{w.voice}</legend>
			<label className="flex min-h-11 items-center gap-3">
				<input
					type="checkbox"
					className="size-5 accent-persimmon"
					disabled={voices.length === 0}
					checked={on && voices.length > 0}
					onChange={(e) => onChange(e.target.checked)}
				/>
				{w.voiceOn}
			</label>
			{voices.length === 0 && <p className="m-0 text-sm text-soft">{w.voiceNone}</p>}
		</fieldset>
	);
}

const actWords: Record<PedalAct, string> = {
	next: w.next,
	back: w.back,
	pause: w.pauseOrResume,
	stay: w.stayLonger,
	less: w.lessPressureToday,
	tender: w.tenderHere,
};

/** Teaches what a pedal sends: an act is chosen, and the pedal is pressed. */
function PedalSetting({ pedal, onChange }: { pedal: Pedal; onChange: (pedal: Pedal) => void }) {
	const [act, setAct] = useState<PedalAct>();
	useEffect(() => {
		if (!act) return;
		const learn = (e: KeyboardEvent) => {
			if (kept.includes(e.key)) return;
			e.preventDefault();
			e.stopPropagation();
			onChange(taught(pedal, e.key, act));
			setAct(undefined);
		};
		window.addEventListener("keydown", learn, true);
		return () => window.removeEventListener("keydown", learn, true);
	}, [act, pedal, onChange]);
	const keyOf = (a: PedalAct) => Object.entries(pedal.keys).find(([, b]) => b === a)?.[0];
	const any = Object.keys(pedal.keys).length > 0;
	return (
		<fieldset className="m-0 grid gap-2 border-0 p-0">
			<legend className="p-0 font-semibold">{w.pedal}</legend>
			<p className="m-0 text-sm" role="status">
				{act ? w.pedalTeach({ act: actWords[act] }) : any ? "" : w.pedalNothing}
			</p>
			<div className="flex flex-wrap gap-2">
				{(Object.keys(pedalActs) as PedalAct[]).map((a) => (
					<Button
						key={a}
						aria-pressed={act === a}
						className={act === a ? "border-ink bg-white" : ""}
						onClick={() => setAct(act === a ? undefined : a)}
					>
						{actWords[a]}
						{keyOf(a) && <kbd className="num text-sm font-normal text-soft">{keyOf(a)}</kbd>}
					</Button>
				))}
			</div>
			<label className="flex min-h-11 items-center gap-3">
				<input
					type="checkbox"
					className="size-5 accent-persimmon"
					checked={pedal.one}
					onChange={(e) => onChange({ ...pedal, one: e.target.checked })}
				/>
				{w.pedalOne}
			</label>
			{any && (
				<Button variant="quiet" className="justify-self-start px-0!" onClick={() => onChange(noPedal)}>
					{w.pedalForget}
				</Button>
			)}
		</fieldset>
	);
}

function Choice<K extends string>(of: { label: string; options: Record<K, string>; value: K; onChange: (k: K) => void }) {
	return (
		<fieldset className="m-0 grid gap-1 border-0 p-0">
			<legend className="p-0 font-semibold">{of.label}</legend>
			{(Object.keys(of.options) as K[]).map((k) => (
				<label key={k} className="flex min-h-11 items-center gap-3">
					<input
						type="radio"
						className="size-5 accent-persimmon"
						name={of.label}
						checked={of.value === k}
						onChange={() => of.onChange(k)}
					/>
					{of.options[k]}
				</label>
			))}
		</fieldset>
	);
}
