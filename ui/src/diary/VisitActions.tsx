import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { api, unwrap } from "../api/client";
import { TakePayment } from "../books";
import { Button, ErrorMessage } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/diary";
import { AnotherTime } from "./MoveAppointment";
import { isExpected, type Line, minutesTo } from "./visits";

/** The next thing to do for a visit, in a word; null where there is none. */
function next(v: Line, treats: boolean): { to: "/visits/$id" | "/visits/$id/room" | "/visits/$id/record"; word: string } | null {
	if (v.state === "in-room") return treats ? { to: "/visits/$id/room", word: w.backToRoomGuide } : null;
	if (v.state === "done" && v.kind === "patch-test") return null;
	if (v.state === "done" || v.state === "broken-off") return treats ? { to: "/visits/$id/record", word: w.record } : null;
	if (["cancelled", "late-cancelled", "no-show"].includes(v.state)) return null;
	if (!treats) return { to: "/visits/$id", word: w.visit };
	if (v.kind === "review") return v.state === "done" ? null : { to: "/visits/$id", word: w.toTheEndReview };
	if (v.kind === "patch-test") return { to: "/visits/$id", word: w.applyPatchTest };
	return { to: "/visits/$id", word: v.checked ? w.seeTodaysPlan : w.startPreTreatmentCheck };
}

/** What can be done about an appointment of today: arrived, did not come, and the next step. */
export function VisitActions({ visit: v, now, primary }: { visit: Line; now: Date; primary: boolean }) {
	const { treats, may } = useSession();
	const cache = useQueryClient();
	const move = useMutation({
		mutationFn: (state: "arrived" | "no-show" | "booked") =>
			unwrap(api.POST("/api/visits/{id}/state", { params: { path: { id: v.id } }, body: { state } })),
		onSettled: () => cache.invalidateQueries({ queryKey: ["day"] }),
	});
	const n = next(v, treats);
	return (
		<span className="flex flex-wrap justify-end gap-2">
			{isExpected(v) && minutesTo(now, v.startsAt) < -15 && <Button onClick={() => move.mutate("no-show")}>{w.didNotCome}</Button>}
			{primary && isExpected(v) && v.kind === "treatment" && may("move-visit") && <AnotherTime visit={v} label={w.moveAppointment} />}
			{isExpected(v) && minutesTo(now, v.startsAt) <= 120 && <Button onClick={() => move.mutate("arrived")}>{w.arrived}</Button>}
			{v.state === "arrived" && !primary && (
				<Button variant="quiet" onClick={() => move.mutate("booked")}>
					{w.notHereYet}
				</Button>
			)}
			<TakePayment visit={v} primary={!treats} />
			{n && (
				<Link
					to={n.to}
					params={{ id: v.id }}
					className={`inline-flex min-h-11 items-center rounded-sm border px-4 font-semibold no-underline ${primary ? "border-persimmon bg-persimmon text-white" : "border-[#9c8873] bg-leaf text-ink"}`}
				>
					{n.word}
				</Link>
			)}
			{move.error && <ErrorMessage error={move.error} />}
		</span>
	);
}
