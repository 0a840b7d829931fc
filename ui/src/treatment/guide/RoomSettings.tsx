import { Dialog } from "../../kit/Dialog";
import { Button, Field } from "../../kit/kit";
import * as w from "../../words/catalogue/treatment";
import type { RoomScreen } from "./roomScreen";

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
				<div className="flex justify-end">
					<Button variant="primary" onClick={onClose}>
						{w.done}
					</Button>
				</div>
			</div>
		</Dialog>
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
