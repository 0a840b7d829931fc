import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../../api/client";
import { Button, ErrorMessage, Field } from "../../kit/kit";
import { useSession } from "../../kit/session";
import * as w from "../../words/catalogue/roster";
import { BusyTimes } from "./BusyTimes";
import { typedWeek, weekText } from "./hours";

/** When a client can come and likes to come; typed as it is said. */
export function ClientHours({ client }: { client: string }) {
	const { may } = useSession();
	const [editing, setEditing] = useState(false);
	const hours = useQuery({
		queryKey: ["client hours", client],
		queryFn: () => unwrap(api.GET("/api/clients/{id}/hours", { params: { path: { id: client } } })),
		enabled: may("get-client-hours"),
	});
	if (!hours.data) return null;
	const h = hours.data;
	const rows: [string, string][] = [
		[w.canCome, h.possible ? weekText(h.possible) : w.anyTime],
		[w.likes, h.likes ? weekText(h.likes) : ""],
		[w.guardian, h.guardian ? weekText(h.guardian) : ""],
		[w.bedtime, h.bedtime ?? ""],
	];
	return (
		<section aria-label={w.whenTheyCome} className="mt-6">
			<h2 className="mt-0 mb-1 text-2xl">{w.whenTheyCome}</h2>
			{editing ? (
				<HoursForm client={client} start={h} onDone={() => setEditing(false)} />
			) : (
				<>
					<dl className="m-0 grid grid-cols-[130px_1fr] gap-y-1">
						{rows
							.filter(([, text]) => text)
							.map(([name, text]) => (
								<div key={name} className="contents">
									<dt className="text-sm text-soft">{name}</dt>
									<dd className="num m-0">{text}</dd>
								</div>
							))}
					</dl>
					{may("save-client-hours") && (
						<Button className="mt-2" onClick={() => setEditing(true)}>
							{w.edit}
						</Button>
					)}
					<BusyTimes client={client} busy={h.busy ?? 0} address={h.busyAddress} />
				</>
			)}
		</section>
	);
}

function HoursForm({ client, start, onDone }: { client: string; start: Schemas["ClientHours"]; onDone: () => void }) {
	const cache = useQueryClient();
	const [form, setForm] = useState({
		possible: typedWeek(start.possible),
		likes: typedWeek(start.likes),
		guardian: typedWeek(start.guardian),
		bedtime: start.bedtime ?? "",
	});
	const save = useMutation({
		mutationFn: () => unwrap(api.PUT("/api/clients/{id}/hours", { params: { path: { id: client } }, body: form })),
		onSuccess: (v) => {
			cache.setQueryData(["client hours", client], v);
			onDone();
		},
		onSettled: () => cache.invalidateQueries({ queryKey: ["series"] }),
	});
	const fault = (path: string) => (save.error instanceof ProblemError ? save.error.at(path) : undefined);
	const fields = [
		["possible", w.canCome],
		["likes", w.likes],
		["guardian", w.guardian],
		["bedtime", w.bedtime],
	] as const;
	return (
		<form
			className="grid gap-3"
			onSubmit={(e) => {
				e.preventDefault();
				save.mutate();
			}}
		>
			{fields.map(([key, label]) => (
				<Field key={key} label={label} hint={key === "possible" ? w.canComeHint : undefined} fault={fault(`/${key}`)}>
					{(a) => (
						<input
							{...a}
							className="field"
							maxLength={key === "bedtime" ? 5 : 200}
							placeholder={key === "bedtime" ? "22:30" : undefined}
							value={form[key]}
							onChange={(e) => setForm({ ...form, [key]: e.target.value })}
						/>
					)}
				</Field>
			))}
			<ErrorMessage error={save.error} />
			<div className="flex gap-2">
				<Button type="submit" variant="primary" disabled={save.isPending}>
					{w.save}
				</Button>
				<Button variant="quiet" onClick={onDone}>
					{w.cancel}
				</Button>
			</div>
		</form>
	);
}
