import { useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../../api/client";
import { newId } from "../../kit/format";
import { Button, Field } from "../../kit/kit";
import { useSession } from "../../kit/session";
import * as w from "../../words/catalogue/roster";
import { OpenedForm, TextField, useChange } from "./change";

type Room = Schemas["RosterRoom"];

/** The rooms with what they have; a protocol that asks for it is booked in no other. */
export function Rooms({ view }: { view: Schemas["RosterView"] }) {
	const { may } = useSession();
	const [open, setOpen] = useState("");
	return (
		<section aria-label={w.rooms} className="mt-8">
			<h2 className="mt-0 mb-1 text-xl">{w.rooms}</h2>
			<ul className="m-0 list-none p-0">
				{view.rooms.map((r) => (
					<li key={r.id} className="border-b border-rule py-2">
						<div className="flex items-center justify-between gap-3">
							<span>
								<strong>{r.name}</strong>
								{r.places > 1 && `, ${w.couches({ n: r.places })}`}
								{r.equipment.length > 0 && <span className="block text-sm text-soft">{r.equipment.join(", ")}</span>}
							</span>
							{may("save-room") && open !== r.id && (
								<Button variant="quiet" aria-label={w.changeOf({ what: r.name })} onClick={() => setOpen(r.id)}>
									{w.change}
								</Button>
							)}
						</div>
						{open === r.id && <RoomForm room={r} open onOpen={() => setOpen("")} />}
					</li>
				))}
			</ul>
			{may("add-room") && <RoomForm open={open === "new"} onOpen={(o) => setOpen(o ? "new" : "")} />}
		</section>
	);
}

function RoomForm({ room, open, onOpen }: { room?: Room; open: boolean; onOpen: (open: boolean) => void }) {
	const empty = { name: room?.name ?? "", equipment: room?.equipment.join(", ") ?? "", places: String(room?.places ?? 1) };
	const [form, setForm] = useState(empty);
	const [id] = useState(() => room?.id ?? newId());
	const send = useChange(
		() => {
			const body = { name: form.name, equipment: form.equipment.split(","), places: Number(form.places) };
			return room
				? unwrap(api.PUT("/api/rooms/{id}", { params: { path: { id } }, body }))
				: unwrap(api.POST("/api/rooms", { body: { id, ...body } }));
		},
		() => onOpen(false),
	);
	return (
		<OpenedForm label={room ? w.save : w.addRoom} open={open} onOpen={onOpen} send={send}>
			<TextField
				label={w.name}
				fault={send.error instanceof ProblemError ? send.error.at("/name") : undefined}
				max={120}
				value={form.name}
				onChange={(name) => setForm({ ...form, name })}
			/>
			<Field label={w.places} hint={w.placesHint}>
				{(a) => (
					<select {...a} className="field num" value={form.places} onChange={(e) => setForm({ ...form, places: e.target.value })}>
						{[1, 2, 3, 4, 5, 6].map((n) => (
							<option key={n}>{n}</option>
						))}
					</select>
				)}
			</Field>
			<div className="sm:col-span-2">
				<TextField
					label={w.equipment}
					hint={w.equipmentHint}
					max={400}
					value={form.equipment}
					onChange={(equipment) => setForm({ ...form, equipment })}
				/>
			</div>
		</OpenedForm>
	);
}
