import { useState } from "react";
import type { Schemas } from "../api/client";
import { Button } from "../kit/kit";
import { useNow, useSession } from "../kit/session";
import * as w from "../words/catalogue/diary";
import { Pebble } from "./Pebble";

type Line = Schemas["VisitLine"];

const row = 40;
const names = 118;

const minutes = (clock: string) => Number(clock.slice(0, 2)) * 60 + Number(clock.slice(3));

/** A day as pebbles: a row a practitioner or a room, what is held as outlines, slivers as grit, tools as lanes beneath. */
export function DayPicture({ strips }: { strips: Schemas["Strips"] }) {
	const { at, treats } = useSession();
	const now = useNow(30_000);
	const [byRoom, setByRoom] = useState(false);
	const d = strips.day;
	const times = [
		minutes(d.opens),
		minutes(d.closes),
		...d.load.people.flatMap((p) => p.pieces.flat().map(minutes)),
		...d.visits.flatMap((v) => [minutes(at.time(v.busyFrom)), minutes(at.time(v.busyUntil))]),
	];
	const from = Math.floor(Math.min(...times) / 60) * 60;
	const to = Math.max(Math.ceil(Math.max(...times) / 60) * 60, from + 60);
	const part = (m: number) => Math.max(0, Math.min(1, (m - from) / (to - from)));
	const of = (t: string) => part(minutes(at.time(t)));
	const live = d.visits.filter((v) => !["cancelled", "late-cancelled"].includes(v.state));
	// who shares a room has a line of its own there, under the other's
	const lane = (v: Line) => live.filter((o) => o.room === v.room && o.together && o.together === v.together && o.id < v.id).length;
	const lanes = (room: string) => Math.max(1, ...live.filter((v) => v.room === room).map((v) => lane(v) + 1));
	const rows = byRoom
		? d.rooms.flatMap((r) => Array.from({ length: lanes(r.id) }, (_, i) => ({ id: r.id, name: i === 0 ? r.name : "", lane: i })))
		: strips.people.map((p) => ({ id: p.id, name: p.name.split(" ")[0]!, lane: 0 }));
	const hours = (to - from) / 60;
	return (
		<section aria-label={w.theDayAsPicture}>
			<div className="mb-1 flex flex-wrap items-center justify-between gap-3">
				<h2 className="m-0 text-2xl">{at.long(`${d.date}T12:00:00Z`)}</h2>
				<Button variant="quiet" className="-mr-4" aria-pressed={byRoom} onClick={() => setByRoom(!byRoom)}>
					{byRoom ? w.byPractitioner : w.byRoom}
				</Button>
			</div>
			<div className="leaf overflow-hidden pr-4 pb-2">
				<div className="relative" style={{ marginLeft: names, height: 20 }} aria-hidden="true">
					{Array.from({ length: hours }, (_, i) => (
						<span key={from + i * 60} className="num absolute -translate-x-1/2 text-xs text-soft" style={{ left: `${(i / hours) * 100}%` }}>
							{String(from / 60 + i).padStart(2, "0")}
						</span>
					))}
				</div>
				{rows.map((r) => {
					const load = byRoom ? undefined : d.load.people.find((p) => p.key === r.id);
					return (
						<div key={`${r.id}${r.lane}`} className="relative flex items-center" style={{ height: row }}>
							<span className="truncate pr-2 pl-4 text-sm text-soft" style={{ width: names }}>
								{r.name}
							</span>
							<div className="relative h-full flex-1">
								{(load?.pieces ?? [[d.opens, d.closes]]).map(([a, b]) => (
									<div
										key={a}
										className="absolute top-1/2 border-t border-dotted border-[#9c8873]"
										style={{ left: `${part(minutes(a!)) * 100}%`, width: `${(part(minutes(b!)) - part(minutes(a!))) * 100}%` }}
									/>
								))}
								{load?.slivers.map(([a, b]) => (
									<span
										key={a}
										title={w.sliver({ from: a, to: b })}
										className="absolute top-1/2 h-1.5 -translate-y-1/2 bg-[radial-gradient(#9c8873_1px,transparent_1.4px)] bg-[length:4px_3px]"
										style={{ left: `${part(minutes(a!)) * 100}%`, width: `${(part(minutes(b!)) - part(minutes(a!))) * 100}%` }}
									/>
								))}
								<ul className="m-0 list-none p-0">
									{live
										.filter((v) => (byRoom ? v.room === r.id && lane(v) === r.lane : v.practitioner === r.id))
										.map((v) => (
											<Pebble
												key={v.id}
												visit={v}
												left={of(v.startsAt)}
												width={of(v.endsAt) - of(v.startsAt)}
												reset={of(v.busyUntil) - of(v.endsAt)}
												treats={treats}
												height={row}
											/>
										))}
								</ul>
								{d.holds
									.filter((h) => r.lane === 0 && (byRoom ? h.room : h.practitioner) === r.id)
									.map((h) => {
										const left = Math.max(0, Date.parse(h.heldUntil) - now.getTime());
										return (
											<span
												key={h.visit}
												title={w.heldUntil({ name: h.clientName, time: at.time(h.heldUntil) })}
												className="num absolute top-1 truncate rounded-full border-2 border-dashed border-persimmon px-2 text-center text-sm"
												style={{
													left: `${of(h.start) * 100}%`,
													width: `${(of(h.end) - of(h.start)) * 100}%`,
													height: Math.max(16, (row - 8) * Math.min(1, left / 600_000)),
												}}
											>
												{h.clientName.split(" ")[0]}
											</span>
										);
									})}
							</div>
						</div>
					);
				})}
				{d.tools.map((t) => (
					<div key={t.name} className="relative flex items-center" style={{ height: 16 }}>
						<span className="num truncate pr-2 pl-4 text-xs text-soft" style={{ width: names }} title={t.name}>
							{t.sets} × {t.name}
						</span>
						<div className="relative h-full flex-1">
							{t.uses.map((u) => (
								<span key={u.from + u.ready} title={w.toolOut({ sets: u.sets, ready: at.time(u.ready) })}>
									<span
										className="absolute top-[5px] h-1.5 bg-slate"
										style={{ left: `${of(u.from) * 100}%`, width: `${(of(u.end) - of(u.from)) * 100}%` }}
									/>
									<span
										className="absolute top-[5px] h-1.5 bg-slate-pale"
										style={{ left: `${of(u.end) * 100}%`, width: `${Math.max(0, of(u.ready) - of(u.end)) * 100}%` }}
									/>
								</span>
							))}
						</div>
					</div>
				))}
			</div>
		</section>
	);
}
