import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, ProblemError, unwrap } from "../api/client";
import { dayWords, newId } from "../kit/format";
import { Button, ErrorMessage, Field } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/checks";

/** Procedures elsewhere that a client plans: their days, and the waits after them, are not booked. */
export function Planned({ client }: { client: string }) {
	const { may } = useSession();
	const cache = useQueryClient();
	const [form, setForm] = useState<{ rule: string; day: string } | null>(null);
	const list = useQuery({
		queryKey: ["planned", client],
		queryFn: () => unwrap(api.GET("/api/clients/{id}/planned", { params: { path: { id: client } } })),
		enabled: may("list-planned"),
	});
	const settled = () => {
		for (const key of ["planned", "series", "free"]) cache.invalidateQueries({ queryKey: [key] });
	};
	const add = useMutation({
		mutationFn: (x: { rule: string; day: string }) =>
			unwrap(api.POST("/api/clients/{id}/planned", { params: { path: { id: client } }, body: { id: newId(), ...x } })),
		onSuccess: () => setForm(null),
		onSettled: settled,
	});
	const remove = useMutation({
		mutationFn: (planned: string) =>
			unwrap(api.DELETE("/api/clients/{id}/planned/{planned}", { params: { path: { id: client, planned } } })),
		onSettled: settled,
	});
	if (!list.data) return null;
	const fault = (path: string) => (add.error instanceof ProblemError ? add.error.at(path) : undefined);
	return (
		<section aria-label={w.plannedProcedures} className="mt-6">
			<h2 className="mt-0 mb-1 text-2xl">{w.plannedProcedures}</h2>
			<p className="m-0 mb-1 text-sm text-soft">{w.plannedHint}</p>
			{list.data.planned.length === 0 && <p className="m-0">{w.nothingPlanned}</p>}
			<ul className="m-0 list-none p-0">
				{list.data.planned.map((p) => (
					<li key={p.id} className="flex items-center justify-between gap-3 border-b border-rule">
						<span className="num">{w.blockedTo({ title: p.title, day: dayWords(p.day), to: dayWords(p.free) })}</span>
						{may("remove-planned") && (
							<Button variant="quiet" aria-label={`${w.removePlanned}: ${p.title}`} onClick={() => remove.mutate(p.id)}>
								{w.removePlanned}
							</Button>
						)}
					</li>
				))}
			</ul>
			<ErrorMessage error={remove.error} />
			{may("add-planned") && !form && (
				<Button className="mt-2" onClick={() => setForm({ rule: list.data.rules[0]?.rule ?? "", day: "" })}>
					{w.addPlanned}
				</Button>
			)}
			{form && (
				<form
					className="mt-2 grid gap-3"
					onSubmit={(e: FormEvent) => {
						e.preventDefault();
						add.mutate(form);
					}}
				>
					<Field label={w.whichProcedure} fault={fault("/rule")}>
						{(a) => (
							<select {...a} className="field" value={form.rule} onChange={(e) => setForm({ ...form, rule: e.target.value })}>
								{list.data.rules.map((r) => (
									<option key={r.rule} value={r.rule}>
										{r.title}
									</option>
								))}
							</select>
						)}
					</Field>
					<Field label={w.onWhichDay} fault={fault("/day")}>
						{(a) => (
							<input {...a} type="date" className="field" value={form.day} onChange={(e) => setForm({ ...form, day: e.target.value })} />
						)}
					</Field>
					{!fault("/rule") && !fault("/day") && <ErrorMessage error={add.error} />}
					<div className="flex gap-2">
						<Button type="submit" variant="primary" disabled={add.isPending}>
							{w.savePlanned}
						</Button>
						<Button variant="quiet" onClick={() => setForm(null)}>
							{w.cancelPlanned}
						</Button>
					</div>
				</form>
			)}
		</section>
	);
}
