import { useInfiniteQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useState } from "react";
import type { Schemas } from "../api/client";
import { clientVisitsQuery } from "../api/queries";
import { VisitMarks } from "../diary";
import { Badge, Button, ErrorMessage } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/clients";
import { stateWords } from "../words/sentences";

/** A client's appointments, newest first: the newest at once, those before them a page at a time. */
export function Appointments({ client, visits, more }: { client: string; visits: Schemas["VisitLine"][]; more: string | undefined }) {
	const { at } = useSession();
	const [asked, setAsked] = useState(false);
	const older = useInfiniteQuery({ ...clientVisitsQuery(client, more ?? ""), enabled: asked && Boolean(more) });
	const all = [...visits, ...(older.data?.pages.flatMap((p) => p.visits) ?? [])];
	const left = more && (!older.data || older.hasNextPage);
	return (
		<>
			<h2 className="mt-6 text-2xl">{w.appointments}</h2>
			{all.length === 0 && <p>{w.noAppointmentsYetDoPreTreatment}</p>}
			<table className="w-full border-collapse text-left">
				<tbody>
					{all.map((v) => (
						<tr key={v.id} className="border-b border-rule">
							<td className="num whitespace-nowrap pr-4">
								<Link
									to="/visits/$id"
									params={{ id: v.id }}
									className="inline-flex min-h-11 items-center font-semibold underline decoration-rule underline-offset-4"
								>
									{at.date(v.startsAt)}, {at.time(v.startsAt)}
								</Link>
							</td>
							<td className="pr-4">{v.protocolName}</td>
							<td className="pr-4 text-sm">{v.practitionerName}</td>
							<td className="text-right">
								<VisitMarks visit={v} known={[]} /> <Badge tone="plain">{stateWords[v.state]}</Badge>
							</td>
						</tr>
					))}
				</tbody>
			</table>
			<ErrorMessage error={older.error} />
			{left && (
				<Button className="mt-3" disabled={older.isFetching} onClick={() => (older.data ? older.fetchNextPage() : setAsked(true))}>
					{w.earlierAppointments}
				</Button>
			)}
		</>
	);
}
