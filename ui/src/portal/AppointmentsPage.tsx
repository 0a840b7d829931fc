import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { inZone } from "../kit/format";
import { Button, ErrorMessage, Loading } from "../kit/kit";
import * as w from "../words/catalogue/own";

type Own = Schemas["OwnAppointment"];
type Act = {
	id: string;
	act: "confirm" | "cancel" | "ask-to-move" | "take" | "leave" | "stop-messages" | "send-messages";
	text?: string;
};
const nobody = "00000000-0000-0000-0000-000000000000"; // where an act is about no appointment

/** Saves a calendar file with an appointment, or with all of them. */
async function saveCalendar(headers: { "X-Link-Token": string }, alarm: boolean, visit = "") {
	const text = await unwrap(
		api.GET("/api/appointments/calendar", { params: { header: headers, query: { visit, alarm } }, parseAs: "text" }),
	);
	const link = document.createElement("a");
	link.href = URL.createObjectURL(new Blob([text as unknown as string], { type: "text/calendar" }));
	link.download = "appointments.ics";
	link.click();
	URL.revokeObjectURL(link.href);
}

/** The client's own page, on a phone: what is to come, to confirm, to have moved or to cancel. */
export function AppointmentsPage() {
	const headers = { "X-Link-Token": window.location.hash.slice(1) };
	const cache = useQueryClient();
	const page = useQuery({
		queryKey: ["own"],
		queryFn: () => unwrap(api.GET("/api/appointments", { params: { header: headers } })),
		retry: false,
	});
	const [asked, setAsked] = useState<readonly string[]>([]);
	const [alarm, setAlarm] = useState(false);
	const file = useMutation({ mutationFn: (visit?: string) => saveCalendar(headers, alarm, visit) });
	const act = useMutation({
		mutationFn: ({ id, ...body }: Act) => unwrap(api.PUT("/api/appointments/{id}", { params: { header: headers, path: { id } }, body })),
		onSuccess: (v, did) => {
			cache.setQueryData(["own"], v);
			if (did.act === "ask-to-move") setAsked((was) => [...was, did.id]);
		},
	});
	useEffect(() => {
		document.title = w.softPalmAppointments;
	}, []);
	if (!page.data) return <Loading of={w.theAppointments} error={page.error} />;
	const p = page.data;
	const at = inZone(p.timeZone);
	const stopping = window.location.search.includes("stop"); // opened by the link at the end of a message
	return (
		<main className="mx-auto max-w-md px-4 py-5">
			<h1 className="m-0 text-3xl">{w.hello({ name: p.name })}</h1>
			<p className="mt-1 mb-4 text-soft">
				{w.at({ studio: p.studioName })}
				{p.studioAddress && <span className="block whitespace-pre-line">{p.studioAddress}</span>}
			</p>
			<ErrorMessage error={act.error ?? file.error} />
			{stopping && <Stop none={p.noMessages} busy={act.isPending} onAct={(a) => act.mutate({ id: nobody, act: a })} />}
			{p.offers.map((o) => (
				<section key={o.series} className="mb-5 border-l-4 border-persimmon bg-blush p-4">
					<p className="m-0 font-semibold">{w.offer({ time: at.time(o.until) })}</p>
					{o.visits.map((v) => (
						<p key={v.id} className="num my-1 font-serif text-xl">
							{at.long(v.start)}, {at.time(v.start)}, {w.withName({ name: v.practitioner })}
						</p>
					))}
					<div className="mt-2 flex gap-2">
						<Button variant="primary" disabled={act.isPending} onClick={() => act.mutate({ id: o.series, act: "take" })}>
							{w.take}
						</Button>
						<Button variant="quiet" disabled={act.isPending} onClick={() => act.mutate({ id: o.series, act: "leave" })}>
							{w.leave}
						</Button>
					</div>
				</section>
			))}
			{p.appointments.length === 0 && <p className="text-lg">{w.none}</p>}
			<ul className="m-0 list-none p-0">
				{p.appointments.map((v) => (
					<One
						key={v.id}
						visit={v}
						at={at}
						asked={asked.includes(v.id)}
						busy={act.isPending}
						onAct={(x) => act.mutate({ id: v.id, ...x })}
						onCalendar={() => file.mutate(v.id)}
					/>
				))}
			</ul>
			{p.appointments.length > 0 && (
				<p className="mt-0 mb-4 flex flex-wrap items-center gap-x-4 border-t border-rule pt-3">
					<Button onClick={() => file.mutate(undefined)}>{w.allToCalendar}</Button>
					<label className="flex min-h-11 items-center gap-2 text-sm">
						<input type="checkbox" className="size-5 accent-persimmon" checked={alarm} onChange={(e) => setAlarm(e.target.checked)} />
						{w.withAlarm}
					</label>
				</p>
			)}
			{!stopping && <Stop none={p.noMessages} busy={act.isPending} onAct={(a) => act.mutate({ id: nobody, act: a })} />}
			<p className="text-sm text-soft">{w.questions}</p>
		</main>
	);
}

/** Whether the studio writes to the client by itself. */
function Stop({ none, busy, onAct }: { none: boolean; busy: boolean; onAct: (act: "stop-messages" | "send-messages") => void }) {
	return (
		<section aria-label={w.messages} className="mb-4 border-l-4 border-rule px-3 py-2">
			<p role="status" className="m-0 text-sm">
				{none ? w.youGetNoMessages : w.youGetMessages}
			</p>
			<Button variant="quiet" className="px-0!" disabled={busy} onClick={() => onAct(none ? "send-messages" : "stop-messages")}>
				{none ? w.sendMessagesAgain : w.stopMessages}
			</Button>
		</section>
	);
}

function One({
	visit: v,
	at,
	asked,
	busy,
	onAct,
	onCalendar,
}: {
	visit: Own;
	at: ReturnType<typeof inZone>;
	asked: boolean;
	busy: boolean;
	onAct: (x: Omit<Act, "id">) => void;
	onCalendar: () => void;
}) {
	const [doing, setDoing] = useState<"cancel" | "move" | null>(null);
	const [text, setText] = useState("");
	return (
		<li className="border-t border-rule py-4">
			<p className="num m-0 font-serif text-2xl font-semibold">{at.long(v.start)}</p>
			<p className="num m-0">
				{at.time(v.start)} {w.until({ time: at.time(v.end) })}, {w.withName({ name: v.practitioner })}
				{v.state === "confirmed" && <strong className="text-kelp"> · {w.confirmed}</strong>}
			</p>
			{asked && <p className="mt-2 mb-0 border-l-4 border-kelp bg-kelp-pale px-3 py-2">{w.asked}</p>}
			{doing === null && (
				<div className="mt-3 flex flex-wrap gap-2">
					{v.state === "booked" && (
						<Button variant="primary" disabled={busy} onClick={() => onAct({ act: "confirm" })}>
							{w.confirm}
						</Button>
					)}
					{!asked && <Button onClick={() => setDoing("move")}>{w.askToMove}</Button>}
					<Button variant="quiet" onClick={onCalendar}>
						{w.toCalendar}
					</Button>
					<Button variant="quiet" onClick={() => setDoing("cancel")}>
						{w.cancel}
					</Button>
				</div>
			)}
			{doing === "move" && (
				<form
					className="mt-3"
					onSubmit={(e) => {
						e.preventDefault();
						onAct({ act: "ask-to-move", text });
						setDoing(null);
					}}
				>
					<label className="block text-sm font-semibold">
						{w.whenWouldSuit}
						<input className="field mt-1 font-normal" maxLength={150} value={text} onChange={(e) => setText(e.target.value)} />
					</label>
					<div className="mt-2 flex gap-2">
						<Button type="submit" variant="primary" disabled={busy || text.trim() === ""}>
							{w.send}
						</Button>
						<Button variant="quiet" onClick={() => setDoing(null)}>
							{w.keep}
						</Button>
					</div>
				</form>
			)}
			{doing === "cancel" && (
				<div className="mt-3 border-l-4 border-persimmon bg-blush p-3">
					<p className="m-0 font-semibold">{w.reallyCancel}</p>
					<p className="mt-1 mb-2">{v.free ? w.cancelFree({ day: at.date(v.freeUntil), time: at.time(v.freeUntil) }) : w.cancelLate}</p>
					<div className="flex gap-2">
						<Button
							variant="primary"
							disabled={busy}
							onClick={() => {
								onAct({ act: "cancel" });
								setDoing(null);
							}}
						>
							{w.yesCancel}
						</Button>
						<Button variant="quiet" onClick={() => setDoing(null)}>
							{w.keep}
						</Button>
					</div>
				</div>
			)}
		</li>
	);
}
