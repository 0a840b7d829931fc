import { Link } from "@tanstack/react-router";
import type { Schemas } from "../../api/client";
import * as w from "../../words/catalogue/treatment";
import { changeText, setUpText } from "../../words/sentences";
import type { RoomGuide } from "../useRoomGuide";
import { Knuckle } from "./Knuckle";
import type { RoomSizes } from "./roomScreen";

type Props = {
	room: Schemas["RoomGuideView"];
	r: RoomGuide;
	sizes: RoomSizes;
	avoid: string[];
	zone: (k: string) => string;
	fits: boolean;
	onStop: () => void;
	onSettings: () => void;
};

/** How many changes are told before the start; of more it says how many. */
const mostTold = 8;

/** What to lay out, with ticks, and what to mind with this client; then the start, by pedal or knuckle. */
export function LayOut({ room, r, sizes, avoid, zone, fits, onStop, onSettings }: Props) {
	const items = (room.evaluation.setUp ?? []).map(setUpText);
	const about = room.mind.length + room.changes.length + room.clientNotes.length;
	const minutes = Math.trunc(Math.abs(r.late) / 60);
	const small = "min-h-14 shrink-0 rounded-md border-2 border-amber-dim px-4 text-xl font-semibold";
	return (
		<>
			<header className="flex items-center justify-between gap-x-6 border-b border-amber-dim/50 pb-2">
				<p className="m-0 min-w-[9rem] flex-1 truncate text-xl">
					{room.visit.clientName.split(" ")[0]} · {room.visit.protocolName}
				</p>
				<p className="m-0 max-w-[52%] text-xl font-bold" role="note">
					{avoid.length > 0 ? w.leaveOutPlaces({ places: avoid.join(", ") }) : w.nothingLeftOut}
				</p>
				<button type="button" className={small} onClick={onSettings}>
					{w.screenWord}
				</button>
				<Knuckle still={sizes.still} className={`${small} border-amber font-bold`} title={w.stopKeys} onPress={onStop}>
					{w.stop}
				</Knuckle>
			</header>
			{!fits && (
				<p role="status" className="m-0 mt-2 text-lg font-bold">
					{w.thisScreenIsTooSmall}
				</p>
			)}
			<div className="mt-6 grid gap-10 md:grid-cols-2">
				<section aria-label={w.setUpList}>
					<h2 className="m-0 text-3xl">{w.setUpList}</h2>
					<ul className="m-0 mt-2 list-none p-0" style={{ fontSize: sizes.arm }}>
						{items.map((item) => (
							<li key={item}>
								<label className="flex min-h-14 items-center gap-4 border-b border-amber-dim/40">
									<input
										type="checkbox"
										className="size-8 shrink-0 appearance-none rounded-sm border-2 border-amber bg-night checked:bg-amber"
										checked={r.here.ticks[item] ?? false}
										onChange={(ev) => r.tick(item, ev.target.checked)}
									/>
									{item}
								</label>
							</li>
						))}
					</ul>
				</section>
				<section aria-label={w.forThisClient}>
					<h2 className="m-0 text-3xl">{w.forThisClient}</h2>
					<ul className="mt-2" style={{ fontSize: sizes.arm }}>
						{room.clientNotes.map((n) => (
							<li key={n.body} className="font-bold">
								{n.body}
							</li>
						))}
						{room.mind.map((m) => (
							<li key={m}>{m}</li>
						))}
						{room.changes.slice(0, mostTold).map((c) => (
							<li key={`${c.step}${c.did}${c.zone ?? ""}`}>{changeText(c, { zone, step: (k) => k })}</li>
						))}
						{room.changes.length > mostTold && <li>{w.andMoreSteps({ n: room.changes.length - mostTold })}</li>}
						{about === 0 && <li>{w.noAdjustmentsToday}</li>}
					</ul>
					{minutes > 0 && (
						<p className="num m-0 mt-4 text-2xl font-bold" role="status">
							{r.late > 0 ? w.minutesLate({ n: minutes }) : w.minutesEarly({ n: minutes })}
						</p>
					)}
					<Knuckle
						still={sizes.still}
						className="mt-4 w-full rounded-md border-2 border-amber-dim bg-amber px-5 text-2xl font-semibold text-night"
						style={{ minHeight: sizes.target }}
						onPress={() => r.start("tap")}
					>
						{w.startSecondsMinHandsOn({ seconds: Math.round(room.evaluation.seconds / 60) })}
					</Knuckle>
					<Link to="/" className="mt-4 inline-flex min-h-11 items-center text-lg underline underline-offset-4">
						{w.backToToday}
					</Link>
				</section>
			</div>
		</>
	);
}
