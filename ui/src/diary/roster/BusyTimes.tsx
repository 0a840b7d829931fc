import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useRef, useState } from "react";
import { api, type Schemas, unwrap } from "../../api/client";
import { Button, ErrorMessage, Field } from "../../kit/kit";
import { useSession } from "../../kit/session";
import * as w from "../../words/catalogue/roster";

const shown = 8;

/** Busy times out of a calendar file of a practitioner's or a client's own: looked at first, then written. */
export function BusyTimes({
	practitioner = "",
	client = "",
	busy,
	address,
}: {
	practitioner?: string;
	client?: string;
	busy: number;
	address?: Schemas["BusyState"] | undefined;
}) {
	const { at, may } = useSession();
	const cache = useQueryClient();
	const input = useRef<HTMLInputElement>(null);
	const send = (file: Blob, dry: boolean) =>
		unwrap(
			api.POST("/api/busy-times", {
				params: { query: { practitioner, client, dry } },
				body: file as never,
				bodySerializer: () => file,
				headers: { "Content-Type": "application/octet-stream" },
			}),
		);
	const read = (typed: string, dry: boolean) =>
		unwrap(api.PUT("/api/busy-address", { params: { query: { practitioner, client, dry } }, body: { address: typed } }));
	const [typing, setTyping] = useState<string | null>(null);
	const look = useMutation({
		mutationFn: async (from: Blob | string) => ({
			from,
			found: await (typeof from === "string" ? read(from, true) : send(from, true)),
		}),
	});
	const write = useMutation({
		mutationFn: (from: Blob | string) => (typeof from === "string" ? read(from, false) : send(from, false)),
		onSuccess: () => {
			look.reset();
			setTyping(null);
		},
		onSettled: () => {
			for (const key of ["roster", "client hours", "clashes", "strips", "free", "series"]) cache.invalidateQueries({ queryKey: [key] });
		},
	});
	if (!may("import-busy")) return null;
	const found = look.data?.found;
	const line = (p: { start: string; end: string }) =>
		`${at.date(p.start)}, ${at.time(p.start)} – ${at.date(p.end) === at.date(p.start) ? "" : `${at.date(p.end)}, `}${at.time(p.end)}`;
	return (
		<div className="mt-2">
			{busy > 0 && <p className="num m-0 text-sm">{w.busyTimes({ n: busy })}</p>}
			{address && (
				<p className="num m-0 text-sm">
					{address.readAt && w.readFromAddress({ when: `${at.date(address.readAt)}, ${at.time(address.readAt)}` })}
					{address.failure && <span className="block font-semibold text-persimmon-deep">{w.notRead({ why: address.failure })}</span>}
				</p>
			)}
			<input
				ref={input}
				type="file"
				accept=".ics,text/calendar"
				className="sr-only"
				tabIndex={-1}
				aria-label={w.ownCalendarFile}
				onChange={(e) => {
					const file = e.target.files?.[0];
					write.reset();
					if (file) look.mutate(file);
					e.target.value = "";
				}}
			/>
			{!found && typing !== null && (
				<form
					className="flex flex-wrap items-end gap-2"
					onSubmit={(e: FormEvent) => {
						e.preventDefault();
						look.mutate(typing);
					}}
				>
					<div className="min-w-60 flex-1">
						<Field label={w.calendarAt} hint={w.readEveryHour}>
							{(a) => <input {...a} className="field" maxLength={2000} value={typing} onChange={(e) => setTyping(e.target.value)} />}
						</Field>
					</div>
					<Button type="submit" className="mb-6" disabled={look.isPending || typing.trim() === ""}>
						{w.lookThere}
					</Button>
					<Button variant="quiet" className="mb-6" onClick={() => setTyping(null)}>
						{w.cancel}
					</Button>
				</form>
			)}
			{!found && typing === null && (
				<Button variant="quiet" className="mr-4 px-0!" onClick={() => setTyping("")}>
					{w.readAnAddress}
				</Button>
			)}
			{!found && typing === null && address && (
				<Button variant="quiet" className="mr-4 px-0!" disabled={write.isPending} onClick={() => write.mutate("")}>
					{w.readNoMore}
				</Button>
			)}
			{!found && typing === null && (
				<Button variant="quiet" className="px-0!" disabled={look.isPending} onClick={() => input.current?.click()}>
					{busy > 0 ? w.anotherCalendar : w.readCalendar}
				</Button>
			)}
			<ErrorMessage error={look.error ?? write.error} />
			{found && (
				<div className="leaf p-4">
					<p className="num m-0 font-semibold">{w.foundBusy({ n: found.times.length })}</p>
					<ul className="num m-0 list-none p-0 text-sm">
						{found.times.slice(0, shown).map((p) => (
							<li key={p.start}>{line(p)}</li>
						))}
					</ul>
					{found.times.length > shown && <p className="num m-0 text-sm text-soft">{w.andMore({ n: found.times.length - shown })}</p>}
					{found.clashes.length > 0 && (
						<div className="mt-2 border-l-4 border-persimmon bg-blush px-3 py-2">
							<p className="m-0 font-semibold">{w.theseStay}</p>
							<ul className="num m-0 list-none p-0 text-sm">
								{found.clashes.map((v) => (
									<li key={v.id}>
										{v.clientName}, {at.date(v.startsAt)}, {at.time(v.startsAt)}
									</li>
								))}
							</ul>
						</div>
					)}
					{found.replaced > 0 && <p className="num mt-2 mb-0 text-sm">{w.takesThePlace({ n: found.replaced })}</p>}
					<div className="mt-3 flex gap-2">
						<Button variant="primary" disabled={write.isPending} onClick={() => look.data && write.mutate(look.data.from)}>
							{w.useTheseTimes}
						</Button>
						<Button variant="quiet" onClick={() => look.reset()}>
							{w.cancel}
						</Button>
					</div>
				</div>
			)}
		</div>
	);
}
