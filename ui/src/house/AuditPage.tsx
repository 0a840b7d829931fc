import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, unwrap } from "../api/client";
import { Button, Loading, Page } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/house";
import { auditWords } from "../words/sentences";

/** Who looked at or changed health data, newest first; nobody can alter it. */
export function AuditPage() {
	const { at } = useSession();
	const [before, setBefore] = useState<string | undefined>();
	const log = useQuery({
		queryKey: ["audit", before],
		queryFn: () => unwrap(api.GET("/api/audit", { params: { query: before ? { before } : {} } })),
	});
	if (!log.data) return <Loading of={w.theAuditLog} error={log.error} retry={() => log.refetch()} />;
	const last = log.data.at(-1);
	return (
		<Page title={w.auditLog}>
			<p className="mt-0 text-sm text-soft">{w.everyoneWhoViewedOrChangedHealth}</p>
			{log.data.length === 0 && <p>{w.nothingInTheLogYet}</p>}
			<table className="w-full border-collapse text-left">
				<thead>
					<tr className="border-b border-ink text-sm text-soft">
						<th className="py-1 font-semibold">{w.when}</th>
						<th className="font-semibold">{w.who}</th>
						<th className="font-semibold">{w.action}</th>
						<th className="font-semibold">{w.concerning}</th>
					</tr>
				</thead>
				<tbody>
					{log.data.map((l, i) => (
						<tr key={`${l.at}-${i}`} className="border-b border-rule">
							<td className="num py-2 whitespace-nowrap">
								{at.date(l.at)}, {at.time(l.at)}
							</td>
							<td>{l.account || w.theClientByPrivateLink}</td>
							<td>{auditWords[`${l.action} ${l.subject}`] ?? `${l.action} ${l.subject}`}</td>
							<td>{l.client}</td>
						</tr>
					))}
				</tbody>
			</table>
			<div className="mt-4 flex gap-3">
				{before && <Button onClick={() => setBefore(undefined)}>{w.newest}</Button>}
				{last && log.data.length >= 100 && <Button onClick={() => setBefore(last.at)}>{w.older}</Button>}
			</div>
		</Page>
	);
}
