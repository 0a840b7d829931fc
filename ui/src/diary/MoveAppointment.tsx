import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useNavigate } from "@tanstack/react-router";
import { api, type Schemas, unwrap } from "../api/client";
import { Button, ErrorMessage } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/diary";

/** A visit that cannot be today: the first allowed free time by one click, or another from the diary. */
export function MoveAppointment({ visit }: { visit: Schemas["VisitLine"] }) {
	const { at, may } = useSession();
	const first = useQuery({
		queryKey: ["free", "first", visit.id, visit.checked, visit.notBefore],
		queryFn: () => unwrap(api.GET("/api/visits/{id}/first-free", { params: { path: { id: visit.id } } })),
		retry: false,
	});
	const go = useNavigate();
	const cache = useQueryClient();
	const move = useMutation({
		mutationFn: (f: Schemas["FreeTime"]) =>
			unwrap(
				api.POST("/api/visits/{id}/move", {
					params: { path: { id: visit.id } },
					body: { practitioner: f.practitioner, room: f.room, start: f.start },
				}),
			),
		onSuccess: () => {
			for (const key of ["visit", "day", "plan", "free", "client"]) cache.invalidateQueries({ queryKey: [key] });
			go({ to: "/people/$id", params: { id: visit.client } });
		},
	});
	if (!may("move-visit")) return null;
	return (
		<>
			{first.data && (
				<Button variant="primary" disabled={move.isPending} onClick={() => first.data && move.mutate(first.data)}>
					{w.moveTo} <span className="num">{`${at.date(first.data.start)}, ${at.time(first.data.start)}`}</span>,{" "}
					{first.data.practitionerName}
				</Button>
			)}
			<AnotherTime visit={visit} from={first.data ? at.day(first.data.start) : undefined} />
			<ErrorMessage error={move.error} />
		</>
	);
}

/** The diary, to move a visit by hand: another day, another practitioner. */
export function AnotherTime({
	visit,
	from,
	label = w.chooseAnotherTime,
}: {
	visit: Schemas["VisitLine"];
	from?: string | undefined;
	label?: string;
}) {
	return (
		<Link
			to="/diary"
			search={{ client: visit.client, protocol: visit.protocol, from, move: visit.id }}
			className="inline-flex min-h-11 items-center rounded-sm border border-[#9c8873] bg-leaf px-4 font-semibold text-ink no-underline"
		>
			{label}
		</Link>
	);
}
