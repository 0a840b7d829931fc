import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useNavigate } from "@tanstack/react-router";
import { useDeferredValue, useState } from "react";
import { api, unwrap } from "../api/client";
import { clientsQuery } from "../api/queries";
import { Button, Loading, Page } from "../kit/kit";
import { useSession } from "../kit/session";
import { ClientForm, emptyClient } from "./ClientForm";

/** Clients by name. */
export function ClientsPage() {
	const { at } = useSession();
	const [search, setSearch] = useState("");
	const [adding, setAdding] = useState(false);
	const wanted = useDeferredValue(search);
	const list = useQuery({ ...clientsQuery(wanted), placeholderData: (before) => before });
	const cache = useQueryClient();
	const go = useNavigate();
	const add = useMutation({
		mutationFn: (body: typeof emptyClient) => unwrap(api.POST("/api/clients", { body })),
		onSuccess: (c) => {
			cache.invalidateQueries({ queryKey: ["clients"] });
			go({ to: "/people/$id", params: { id: c.id } });
		},
	});
	return (
		<Page
			title="Clients"
			action={
				!adding && (
					<Button variant="primary" onClick={() => setAdding(true)}>
						Add client
					</Button>
				)
			}
		>
			<div className={adding ? "grid grid-cols-1 gap-8 lg:grid-cols-[1fr_460px]" : ""}>
				<div className="min-w-0">
					<label className="mb-3 block max-w-md">
						<span className="mb-1 block text-sm font-semibold">Search by name</span>
						<input className="field" type="search" value={search} onChange={(e) => setSearch(e.target.value)} />
					</label>
					{!list.data && <Loading of="the clients" error={list.error} retry={() => list.refetch()} />}
					{list.data?.clients.length === 0 && (
						<p className="text-lg">
							{wanted
								? `No client found for “${wanted}”.`
								: "No clients yet. Add the first one: a name and a skin type are enough to begin."}
						</p>
					)}
					{list.data && list.data.clients.length > 0 && (
						<table className="w-full border-collapse text-left">
							<thead>
								<tr className="border-b border-ink text-sm text-soft">
									<th className="py-1 font-semibold">Name</th>
									<th className="font-semibold">Skin</th>
									<th className="font-semibold">Last treatment</th>
									<th className="font-semibold">Next appointment</th>
									<th className="pr-2 text-right font-semibold">Treatments</th>
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
										<td className="text-sm">{[c.skinType, ...c.skinStates].join(", ")}</td>
										<td className="num text-sm">{c.last ? at.date(c.last) : "never"}</td>
										<td className="num text-sm">{c.next ? `${at.date(c.next)}, ${at.time(c.next)}` : ""}</td>
										<td className="num pr-2 text-right">{c.visits}</td>
									</tr>
								))}
							</tbody>
						</table>
					)}
					{list.data?.next && <p className="text-sm text-soft">Not all clients are shown. Search by name.</p>}
				</div>
				{adding && (
					<section aria-label="New client" className="leaf p-5">
						<h2 className="mt-0 mb-3 text-2xl">New client</h2>
						<ClientForm
							start={emptyClient}
							error={add.error}
							busy={add.isPending}
							save="Add"
							onSave={(f) => add.mutate(f)}
							onCancel={() => setAdding(false)}
						/>
					</section>
				)}
			</div>
		</Page>
	);
}
