import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../../api/client";
import { dayWords, newId } from "../../kit/format";
import { ErrorMessage, Field, Loading, Page } from "../../kit/kit";
import { useSession } from "../../kit/session";
import * as w from "../../words/catalogue/roster";
import { instantOf } from "../waiting/instant";
import { BusyTimes } from "./BusyTimes";
import { OpenedForm, Row, TextField, useChange } from "./change";
import { weekText } from "./hours";
import { Rooms } from "./Rooms";
import { ToolsOut } from "./ToolsOut";

type View = Schemas["RosterView"];
const rosterKey = ["roster"];

/** Who works when, who is away, and what the rooms have. */
export function RosterPage() {
	const session = useSession();
	const { may } = session;
	const roster = useQuery({ queryKey: rosterKey, queryFn: () => unwrap(api.GET("/api/roster")) });
	if (!roster.data) return <Loading of={w.theShifts} error={roster.error} retry={() => roster.refetch()} />;
	const v = roster.data;
	return (
		<Page title={w.shifts}>
			<div className="grid gap-x-10 gap-y-8 lg:grid-cols-2">
				<section aria-label={w.usualWeek}>
					<h2 className="mt-0 mb-1 text-xl">{w.usualWeek}</h2>
					<ul className="m-0 list-none p-0">
						{v.people.map((p) => (
							<li key={p.id} className="flex flex-wrap justify-between gap-x-4 border-b border-rule py-2">
								<strong>{p.name}</strong>
								<span className="num">{weekText(p.week)}</span>
								{(session.role === "owner" || session.practitioner === p.id) && (
									<div className="w-full">
										<BusyTimes practitioner={p.id} busy={p.busy} address={p.busyAddress} />
									</div>
								)}
							</li>
						))}
					</ul>
					<Rooms view={v} />
					<ToolsOut view={v} />
				</section>
				<div>
					<Shifts view={v} editable={may("add-shift")} />
					<Absences view={v} editable={may("add-absence")} />
				</div>
			</div>
		</Page>
	);
}

const faultAt = (error: unknown, path: string) => (error instanceof ProblemError ? error.at(path) : undefined);

function Shifts({ view, editable }: { view: View; editable: boolean }) {
	const { at, now } = useSession();
	const empty = { practitioner: "", from: at.day(now()), to: "", every: "1", hours: "", note: "" };
	const [form, setForm] = useState(empty);
	const [open, setOpen] = useState(false);
	const name = (id: string) => view.people.find((p) => p.id === id)?.name ?? "";
	const add = useChange(
		() =>
			unwrap(
				api.POST("/api/roster", {
					body: {
						id: newId(),
						practitioner: form.practitioner || view.people[0]!.id,
						from: form.from,
						...(form.to ? { to: form.to } : {}),
						every: Number(form.every) || 1,
						hours: form.hours,
						note: form.note,
					},
				}),
			),
		() => {
			setForm(empty);
			setOpen(false);
		},
	);
	const remove = useChange((id: string) => unwrap(api.DELETE("/api/roster/{id}", { params: { path: { id } } })));
	const text = (e: Schemas["RosterEntry"]) =>
		`${name(e.practitioner)}, ${weekText(e.days)}, ${e.to ? w.fromTo({ from: dayWords(e.from), to: dayWords(e.to) }) : w.fromOn({ from: dayWords(e.from) })}, ${e.every > 1 ? w.weeksOfTwo({ n: e.every }) : w.weekly}`;
	return (
		<section aria-label={w.changes}>
			<h2 className="mt-0 mb-1 text-xl">{w.changes}</h2>
			{view.entries.length === 0 && <p className="m-0 text-soft">{w.noChanges}</p>}
			<ul className="m-0 list-none p-0">
				{view.entries.map((e) => (
					<Row key={e.id} text={text(e)} note={e.note} onRemove={editable ? () => remove.mutate(e.id) : undefined} />
				))}
			</ul>
			<ErrorMessage error={remove.error} />
			{editable && (
				<OpenedForm label={w.addShift} open={open} onOpen={setOpen} send={add}>
					<Field label={w.who}>
						{(a) => (
							<select
								{...a}
								className="field"
								value={form.practitioner}
								onChange={(e) => setForm({ ...form, practitioner: e.target.value })}
							>
								{view.people.map((p) => (
									<option key={p.id} value={p.id}>
										{p.name}
									</option>
								))}
							</select>
						)}
					</Field>
					<TextField
						label={w.hours}
						hint={w.hoursHint}
						fault={faultAt(add.error, "/hours")}
						value={form.hours}
						onChange={(hours) => setForm({ ...form, hours })}
					/>
					<Field label={w.from} fault={faultAt(add.error, "/from")}>
						{(a) => (
							<input {...a} className="field" type="date" value={form.from} onChange={(e) => setForm({ ...form, from: e.target.value })} />
						)}
					</Field>
					<Field label={w.until} hint={w.untilHint} fault={faultAt(add.error, "/to")}>
						{(a) => (
							<input {...a} className="field" type="date" value={form.to} onChange={(e) => setForm({ ...form, to: e.target.value })} />
						)}
					</Field>
					<Field label={w.everyWeeks}>
						{(a) => (
							<input
								{...a}
								className="field num"
								type="number"
								min={1}
								max={52}
								value={form.every}
								onChange={(e) => setForm({ ...form, every: e.target.value })}
							/>
						)}
					</Field>
					<TextField label={w.note} value={form.note} onChange={(note) => setForm({ ...form, note })} />
				</OpenedForm>
			)}
		</section>
	);
}

function Absences({ view, editable }: { view: View; editable: boolean }) {
	const { at, now } = useSession();
	const today = at.day(now());
	const empty = { of: "", from: `${today}T09:00`, to: `${today}T19:00`, note: "" };
	const [form, setForm] = useState(empty);
	const [open, setOpen] = useState(false);
	const [clashes, setClashes] = useState(0);
	const add = useChange(
		() => {
			const of = form.of || view.people[0]!.id;
			const room = view.rooms.some((r) => r.id === of);
			return unwrap(
				api.POST("/api/absences", {
					body: {
						id: newId(),
						...(room ? { room: of } : { practitioner: of }),
						start: instantOf(form.from, at),
						end: instantOf(form.to, at),
						kind: room ? "closed" : "away",
						note: form.note,
					},
				}),
			);
		},
		(c) => {
			setClashes(c.appointments);
			setForm(empty);
			setOpen(false);
		},
	);
	const remove = useChange((id: string) => unwrap(api.DELETE("/api/absences/{id}", { params: { path: { id } } })));
	const text = (x: Schemas["Absence"]) => {
		const room = view.rooms.find((r) => r.id === x.room);
		const who = view.people.find((p) => p.id === x.practitioner);
		const moment = (t: string) => `${at.date(t)}, ${at.time(t)}`;
		return `${room ? w.roomClosed({ name: room.name }) : w.awayPerson({ name: who?.name })}: ${w.fromTo({ from: moment(x.start), to: moment(x.end) })}`;
	};
	return (
		<section aria-label={w.absences} className="mt-8">
			<h2 className="mt-0 mb-1 text-xl">{w.absences}</h2>
			{view.absences.length === 0 && <p className="m-0 text-soft">{w.noAbsences}</p>}
			<ul className="m-0 list-none p-0">
				{view.absences.map((x) => (
					<Row key={x.id} text={text(x)} note={x.note} onRemove={editable ? () => remove.mutate(x.id) : undefined} />
				))}
			</ul>
			<ErrorMessage error={remove.error} />
			{clashes > 0 && (
				<p role="status" className="border-l-4 border-persimmon bg-blush px-4 py-3">
					{w.clash({ n: clashes })}{" "}
					<Link to="/away" className="font-semibold underline underline-offset-4">
						{w.layAgain}
					</Link>
				</p>
			)}
			{editable && (
				<OpenedForm label={w.addAbsence} open={open} onOpen={setOpen} send={add}>
					<Field label={w.who}>
						{(a) => (
							<select {...a} className="field" value={form.of} onChange={(e) => setForm({ ...form, of: e.target.value })}>
								{[...view.people, ...view.rooms].map((p) => (
									<option key={p.id} value={p.id}>
										{p.name}
									</option>
								))}
							</select>
						)}
					</Field>
					<TextField label={w.note} value={form.note} onChange={(note) => setForm({ ...form, note })} />
					<Field label={w.from}>
						{(a) => (
							<input
								{...a}
								className="field"
								type="datetime-local"
								value={form.from}
								onChange={(e) => setForm({ ...form, from: e.target.value })}
							/>
						)}
					</Field>
					<Field label={w.until} fault={faultAt(add.error, "/end")}>
						{(a) => (
							<input
								{...a}
								className="field"
								type="datetime-local"
								value={form.to}
								onChange={(e) => setForm({ ...form, to: e.target.value })}
							/>
						)}
					</Field>
				</OpenedForm>
			)}
		</section>
	);
}
