import { useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../../api/client";
import { dayWords, newId } from "../../kit/format";
import { ErrorMessage, Field } from "../../kit/kit";
import { useSession } from "../../kit/session";
import * as w from "../../words/catalogue/roster";
import { OpenedForm, Row, TextField, useChange } from "./change";

type View = Schemas["RosterView"];

/** Pieces of tools that are not there: being mended until a day, or retired. */
export function ToolsOut({ view }: { view: View }) {
	const { at, now, may } = useSession();
	const today = at.day(now());
	const empty = { tool: "", pieces: "1", from: today, to: "", reason: "mended" as "mended" | "retired", note: "" };
	const [form, setForm] = useState(empty);
	const [open, setOpen] = useState(false);
	const add = useChange(
		() =>
			unwrap(
				api.POST("/api/tools-out", {
					body: {
						id: newId(),
						tool: form.tool || view.tools[0]!.key,
						pieces: Number(form.pieces) || 1,
						from: form.from,
						reason: form.reason,
						note: form.note,
						...(form.to && form.reason === "mended" ? { to: form.to } : {}),
					},
				}),
			),
		() => {
			setForm(empty);
			setOpen(false);
		},
	);
	const remove = useChange((id: string) => unwrap(api.DELETE("/api/tools-out/{id}", { params: { path: { id } } })));
	if (view.tools.length === 0) return null;
	const fault = (path: string) => (add.error instanceof ProblemError ? add.error.at(path) : undefined);
	const text = (o: Schemas["ToolOut"]) => {
		const name = view.tools.find((t) => t.key === o.tool)?.name ?? o.tool;
		const what = `${o.pieces} × ${name}`;
		return o.reason === "retired"
			? w.retiredFrom({ what, from: dayWords(o.from) })
			: w.mendedFromTo({ what, from: dayWords(o.from), to: dayWords(o.to ?? "") });
	};
	return (
		<section aria-label={w.toolsOut} className="mt-8">
			<h2 className="mt-0 mb-1 text-xl">{w.toolsOut}</h2>
			{view.toolsOut.length === 0 && <p className="m-0 text-soft">{w.noToolsOut}</p>}
			<ul className="m-0 list-none p-0">
				{view.toolsOut.map((o) => (
					<Row key={o.id} text={text(o)} note={o.note} onRemove={may("remove-tool-out") ? () => remove.mutate(o.id) : undefined} />
				))}
			</ul>
			<ErrorMessage error={remove.error} />
			{may("add-tool-out") && (
				<OpenedForm label={w.addToolOut} open={open} onOpen={setOpen} send={add}>
					<Field label={w.tool}>
						{(a) => (
							<select {...a} className="field" value={form.tool} onChange={(e) => setForm({ ...form, tool: e.target.value })}>
								{view.tools.map((t) => (
									<option key={t.key} value={t.key}>
										{t.name} ({t.pieces})
									</option>
								))}
							</select>
						)}
					</Field>
					<Field label={w.pieces} fault={fault("/pieces")}>
						{(a) => (
							<input
								{...a}
								className="field num"
								inputMode="numeric"
								value={form.pieces}
								onChange={(e) => setForm({ ...form, pieces: e.target.value })}
							/>
						)}
					</Field>
					<Field label={w.toolReason}>
						{(a) => (
							<select
								{...a}
								className="field"
								value={form.reason}
								onChange={(e) => setForm({ ...form, reason: e.target.value as "mended" | "retired" })}
							>
								<option value="mended">{w.beingMended}</option>
								<option value="retired">{w.retired}</option>
							</select>
						)}
					</Field>
					<Field label={w.from} fault={fault("/from")}>
						{(a) => (
							<input {...a} className="field" type="date" value={form.from} onChange={(e) => setForm({ ...form, from: e.target.value })} />
						)}
					</Field>
					{form.reason === "mended" && (
						<Field label={w.until} fault={fault("/to")}>
							{(a) => (
								<input {...a} className="field" type="date" value={form.to} onChange={(e) => setForm({ ...form, to: e.target.value })} />
							)}
						</Field>
					)}
					<TextField label={w.note} value={form.note} onChange={(note) => setForm({ ...form, note })} />
				</OpenedForm>
			)}
		</section>
	);
}
