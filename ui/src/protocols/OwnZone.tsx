import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../api/client";
import { libraryQuery } from "../api/queries";
import { Dialog } from "../kit/Dialog";
import { Choice, TextField } from "../kit/fields";
import { Button, ErrorMessage } from "../kit/kit";
import * as w from "../words/catalogue/protocols";
import { pressureWords } from "../words/client";
import { nodeWords } from "../words/sentences";

type OwnZone = Schemas["OwnZone"];

const fresh: Schemas["OwnZoneBody"] = { name: "", paired: true, ceiling: 3 };

/** A zone of the studio's own: a new one, or one that is there. */
export function OwnZoneDialog({ from, onClose, onSaved }: { from?: OwnZone; onClose: () => void; onSaved: (key: string) => void }) {
	const [z, setZ] = useState<Schemas["OwnZoneBody"]>(() => {
		if (!from) return fresh;
		const { key: _, ...body } = from;
		return body;
	});
	const [was, setWas] = useState(from);
	const cache = useQueryClient();
	const save = useMutation({
		mutationFn: () =>
			from
				? unwrap(api.PUT("/api/zones/{key}", { params: { path: { key: from.key } }, body: { zone: z, ...(was ? { was } : {}) } }))
				: unwrap(api.POST("/api/zones", { body: z })),
		onSuccess: async (saved) => {
			await cache.invalidateQueries({ queryKey: libraryQuery.queryKey });
			onSaved(saved.key);
		},
		onError: (e) => {
			if (e instanceof ProblemError && e.problem.zone) setWas(e.problem.zone);
		},
	});
	const theirs = save.error instanceof ProblemError ? save.error.problem.zone : undefined;
	const put = (part: Partial<typeof z>) => setZ({ ...z, ...part });
	return (
		<Dialog open onClose={onClose} title={from ? w.changeZone : w.addZone}>
			<form
				className="grid gap-3"
				onSubmit={(e: FormEvent) => {
					e.preventDefault();
					save.mutate();
				}}
			>
				<TextField label={w.zoneName} value={z.name} most={40} onChange={(v) => put({ name: v ?? "" })} />
				<label className="flex min-h-11 items-center gap-2">
					<input
						type="checkbox"
						className="size-5 accent-persimmon"
						checked={z.paired}
						onChange={(e) => put({ paired: e.target.checked })}
					/>
					{w.zonePaired}
				</label>
				<Choice
					label={w.mostPressure}
					value={`${z.ceiling}`}
					options={Object.fromEntries([1, 2, 3, 4, 5].map((n) => [`${n}`, `${n} ${pressureWords[n]}`]))}
					onChange={(v) => put({ ceiling: Number(v) })}
				/>
				<Choice
					label={w.lymphGoesTo}
					value={z.drainsTo ?? ""}
					options={{ "": w.noGroupKnown, ...nodeWords }}
					onChange={(v) => put({ drainsTo: v as "terminus" })}
				/>
				<TextField label={w.zoneNote} value={z.note} most={200} onChange={(v) => put({ note: v ?? "" })} />
				<p className="m-0 text-sm text-soft">{w.notInPictures}</p>
				<ErrorMessage error={save.error} />
				{theirs && (
					<p className="m-0 border-l-4 border-persimmon pl-3">{w.zoneChangedMeanwhile({ name: theirs.name, ceiling: theirs.ceiling })}</p>
				)}
				<div className="flex justify-end gap-3">
					<Button onClick={onClose}>{w.cancelZone}</Button>
					<Button variant="primary" type="submit" disabled={!z.name.trim() || save.isPending}>
						{w.saveZone}
					</Button>
				</div>
			</form>
		</Dialog>
	);
}

/** Changing and removing a zone of the studio's own. */
export function OwnZoneButtons({ zone, onEdit, onDropped }: { zone: OwnZone; onEdit: () => void; onDropped: () => void }) {
	const cache = useQueryClient();
	const drop = useMutation({
		mutationFn: () => unwrap(api.DELETE("/api/zones/{key}", { params: { path: { key: zone.key } } })),
		onSuccess: async () => {
			onDropped();
			await cache.invalidateQueries({ queryKey: libraryQuery.queryKey });
		},
	});
	return (
		<>
			<p className="mt-0 text-sm text-soft">{w.zoneOfYourOwn}</p>
			<p className="flex flex-wrap gap-3">
				<Button onClick={onEdit}>{w.changeZone}</Button>
				<Button disabled={drop.isPending} onClick={() => drop.mutate()}>
					{w.dropZone}
				</Button>
			</p>
			<ErrorMessage error={drop.error} />
		</>
	);
}
