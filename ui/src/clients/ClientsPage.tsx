import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useNavigate, useSearch } from "@tanstack/react-router";
import { useDeferredValue, useEffect, useState } from "react";
import { api, unwrap } from "../api/client";
import { clientsQuery } from "../api/queries";
import { Button, Loading, Page } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/clients";
import { ClientForm, emptyClient } from "./ClientForm";

/** Clients by name. */
export function ClientsPage() {
	const { at, treats, may } = useSession();
	const [search, setSearch] = useState("");
	const { add } = useSearch({ from: "/shell/people" });
	const [adding, setAdding] = useState(add);
	useEffect(() => {
		if (add !== undefined) setAdding(add);
	}, [add]);
	const wanted = useDeferredValue(search);
	const list = useQuery({ ...clientsQuery(wanted), placeholderData: (before) => before });
	const cache = useQueryClient();
	const go = useNavigate();
	return (
		<Page
			title={w.clients}
			action={
				<span className="flex flex-wrap items-center gap-6">
					{may("import-cards") && (
						<Link to="/people/contacts" className="inline-flex min-h-11 items-center font-semibold underline underline-offset-4">
							{w.contacts}
						</Link>
					)}
					{adding === undefined && may("add-client") && (
						<Button variant="primary" onClick={() => setAdding("")}>
							{w.addClient}
						</Button>
					)}
				</span>
			}
		>
			<div className={adding !== undefined ? "grid grid-cols-1 gap-8 lg:grid-cols-[1fr_460px]" : ""}>
				<div className="min-w-0">
					<label className="mb-3 block max-w-md">
						<span className="mb-1 block text-sm font-semibold">{w.searchByName}</span>
						<input className="field" type="search" value={search} onChange={(e) => setSearch(e.target.value)} />
					</label>
					{!list.data && <Loading of={w.theClients} error={list.error} retry={() => list.refetch()} />}
					{list.data?.clients.length === 0 && (
						<>
							<p className="text-lg">{wanted ? w.noClientFoundForWanted({ wanted }) : w.noClientsYetAddFirstOne}</p>
							{wanted && adding === undefined && may("add-client") && (
								<Button onClick={() => setAdding(wanted)}>{w.addNamed({ name: wanted })}</Button>
							)}
						</>
					)}
					{list.data && list.data.clients.length > 0 && (
						<table className="w-full border-collapse text-left">
							<thead>
								<tr className="border-b border-ink text-sm text-soft">
									<th className="py-1 font-semibold">{w.name}</th>
									<th className="font-semibold">{w.skin}</th>
									<th className="font-semibold">{w.lastTreatment}</th>
									<th className="font-semibold">{w.nextAppointment}</th>
									<th className="pr-2 text-right font-semibold">{w.treatments}</th>
								</tr>
							</thead>
							<tbody>
								{list.data.clients.map((c) => (
									<tr key={c.id} className="border-b border-rule">
										<td className="max-w-72">
											<Link
												to="/people/$id"
												params={{ id: c.id }}
												className="flex min-h-11 items-center truncate font-serif text-lg font-semibold underline decoration-rule underline-offset-4"
											>
												{c.name}
											</Link>
										</td>
										<td className="text-sm">
											{[c.skinType || (treats ? w.notAsked.toLowerCase() : ""), ...c.skinStates].filter(Boolean).join(", ")}
										</td>
										<td className="num text-sm">{c.last ? at.date(c.last) : w.never}</td>
										<td className="num text-sm">{c.next ? `${at.date(c.next)}, ${at.time(c.next)}` : ""}</td>
										<td className="num pr-2 text-right">{c.visits}</td>
									</tr>
								))}
							</tbody>
						</table>
					)}
					{list.data?.next && <p className="text-sm text-soft">{w.notAllClientsShownSearchBy}</p>}
				</div>
				{adding !== undefined && (
					<section aria-label={w.newClient} className="leaf p-5">
						<h2 className="mt-0 mb-3 text-2xl">{w.newClient}</h2>
						<ClientForm
							key={adding}
							start={{ ...emptyClient(treats), name: adding }}
							act={w.add}
							send={(body) => unwrap(api.POST("/api/clients", { body }))}
							onSent={(v) => {
								cache.invalidateQueries({ queryKey: ["clients"] });
								go({ to: "/people/$id", params: { id: v.id } });
							}}
							onCancel={() => setAdding(undefined)}
						/>
					</section>
				)}
			</div>
		</Page>
	);
}
