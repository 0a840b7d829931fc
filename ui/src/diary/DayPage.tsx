import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { api, type Schemas, unwrap } from "../api/client";
import { dayQuery } from "../api/queries";
import { Badge, Button, ErrorMessage, Loading, Page } from "../kit/kit";
import { useNow, useSession } from "../kit/session";
import * as w from "../words/catalogue/diary";
import { stateWords } from "../words/sentences";
import { VisitMarks } from "./VisitMarks";

type Line = Schemas["VisitLine"];

/** What is next for each visit, in a word. */
function next(v: Line, treats: boolean): { to: "/visits/$id" | "/visits/$id/room" | "/visits/$id/record"; word: string } | null {
	if (v.state === "in-room") return treats ? { to: "/visits/$id/room", word: w.backToRoomGuide } : null;
	if (v.state === "done" && v.kind === "patch-test") return null;
	if (v.state === "done") return treats ? { to: "/visits/$id/record", word: w.record } : null;
	if (["cancelled", "late-cancelled", "no-show"].includes(v.state)) return null;
	if (!treats) return { to: "/visits/$id", word: w.visit };
	if (v.kind === "patch-test") return { to: "/visits/$id", word: w.applyPatchTest };
	return { to: "/visits/$id", word: v.checked ? w.seeTodaysPlan : w.startPreTreatmentCheck };
}

/** Today, in order, with the next thing to do. */
export function DayPage() {
	const { at, treats, practitioner } = useSession();
	const now = useNow(30_000);
	const today = at.day(now);
	const day = useQuery(dayQuery(today));
	const cache = useQueryClient();
	const move = useMutation({
		mutationFn: (v: { id: string; state: "arrived" | "no-show" | "cancelled" | "confirmed" }) =>
			unwrap(api.POST("/api/visits/{id}/state", { params: { path: { id: v.id } }, body: { state: v.state } })),
		onSettled: () => cache.invalidateQueries({ queryKey: ["day"] }),
	});
	if (!day.data) return <Loading of={w.theDay} error={day.error} retry={() => day.refetch()} />;
	const visits = day.data.visits;
	const open = visits.filter((v) => ["booked", "confirmed", "arrived", "in-room"].includes(v.state));
	const mine = open.find((v) => !practitioner || v.practitioner === practitioner) ?? open[0];
	return (
		<Page
			title={at.long(now)}
			action={
				<Link to="/diary" search={{}} className="inline-flex min-h-11 items-center font-semibold underline underline-offset-4">
					{w.bookAppointment}
				</Link>
			}
		>
			<ErrorMessage error={move.error} />
			{visits.length === 0 && (
				<p className="text-lg">
					{w.noAppointmentsToday}{" "}
					<Link to="/diary" search={{}} className="font-semibold underline">
						{w.bookFirstAppointment}
					</Link>
					.
				</p>
			)}
			<ol className="m-0 list-none p-0">
				{visits.map((v) => {
					const n = next(v, treats);
					const over = ["done", "cancelled", "late-cancelled", "no-show"].includes(v.state);
					return (
						<li
							key={v.id}
							className={`grid grid-cols-[74px_minmax(0,1.3fr)_minmax(0,1.4fr)_minmax(0,1fr)_auto] items-center gap-4 border-b border-rule py-2.5 ${over ? "text-soft" : ""}`}
						>
							<span className="num font-serif text-2xl font-semibold">{at.time(v.startsAt)}</span>
							<span className="min-w-0">
								<Link
									to="/people/$id"
									params={{ id: v.client }}
									className="block truncate font-serif text-lg font-semibold text-inherit underline decoration-rule underline-offset-4"
									title={v.clientName}
								>
									{v.clientName}
								</Link>
								<span className="text-sm text-soft">
									{v.practitionerName}, {v.roomName}
								</span>
							</span>
							<span className="min-w-0 truncate" title={v.protocolName}>
								{v.protocolName}
							</span>
							<span className="flex flex-wrap gap-1.5">
								<Badge tone="plain">{stateWords[v.state]}</Badge>
								<VisitMarks visit={v} todo={!v.checked} />
							</span>
							<span className="flex min-w-[16.5rem] justify-end gap-2">
								{(v.state === "booked" || v.state === "confirmed") && (
									<Button onClick={() => move.mutate({ id: v.id, state: "arrived" })}>{w.arrived}</Button>
								)}
								{n && (
									<Link
										to={n.to}
										params={{ id: v.id }}
										className={`inline-flex min-h-11 items-center rounded-sm border px-4 font-semibold no-underline ${v === mine ? "border-persimmon bg-persimmon text-white" : "border-[#9c8873] bg-leaf text-ink"}`}
									>
										{n.word}
									</Link>
								)}
							</span>
						</li>
					);
				})}
			</ol>
		</Page>
	);
}
