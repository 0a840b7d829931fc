import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { clientQuery, libraryQuery } from "../api/queries";
import { FaceMap } from "../face/FaceMap";
import { newId } from "../kit/format";
import { Button, ErrorMessage, Field } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/treatment";
import { reactionGradeWords, reactionKindWords, theZone } from "../words/sentences";

type Place = Schemas["ZoneSide"];

/** Where and when Stop was pressed: what the form begins with. */
export type ReactionStart = { visit?: string; minute?: number; step?: string; zones?: readonly Place[] };

/** The grade from which a doctor is asked, and the one at which the emergency number comes first. */
const doctorFrom = 3;
const emergency = 4;

const given = ["in-room", "done", "broken-off"];

/** Records a reaction: what was noticed, where, how bad. What follows for the products is worked out by the server. */
export function ReactionForm({
	client,
	start = {},
	onSaved,
	onCancel,
}: {
	client: string;
	start?: ReactionStart;
	onSaved: () => void;
	onCancel: () => void;
}) {
	const { at, name: me } = useSession();
	const file = useQuery(clientQuery(client));
	const library = useQuery(libraryQuery);
	const [id] = useState(newId);
	const treatments = file.data?.visits.filter((v) => v.kind === "treatment" && given.includes(v.state)) ?? [];
	const [chosen, setChosen] = useState(start.visit);
	const visit = chosen ?? treatments[0]?.id ?? "";
	const [kind, setKind] = useState("");
	const [by, setBy] = useState(start.minute === undefined ? w.theClient : (me ?? ""));
	const [when, setWhen] = useState("");
	const [zones, setZones] = useState<readonly Place[]>(start.zones ?? []);
	const [grade, setGrade] = useState<number>();
	const [done, setDone] = useState("");
	const send = useMutation({
		mutationFn: () =>
			unwrap(
				api.POST("/api/clients/{id}/reactions", {
					params: { path: { id: client } },
					body: {
						id,
						noticedBy: by,
						kind,
						zones: [...zones],
						grade: grade ?? 0,
						done,
						...(visit ? { visit } : {}),
						...(when ? { noticed: when } : {}),
						...(start.minute === undefined ? {} : { minute: Math.round(start.minute), step: start.step ?? "" }),
					},
				}),
			),
		onSuccess: onSaved,
	});
	const mark = (p: { zone: string; side: "left" | "right" | "both" }) =>
		setZones((was) => {
			const without = was.filter((z) => z.zone !== p.zone || z.side !== p.side);
			return without.length < was.length ? without : [...was, p];
		});
	const zoneName = (p: Place) =>
		theZone(library.data?.zones.find((z) => z.key === p.zone)?.name ?? p.zone, p.side === "both" ? "" : (p.side ?? ""));
	return (
		<form
			className="leaf mt-3 mb-6 grid gap-6 p-5 lg:grid-cols-[minmax(0,1fr)_260px]"
			onSubmit={(e) => {
				e.preventDefault();
				send.mutate();
			}}
			aria-label={w.recordReaction}
		>
			<div className="grid content-start gap-3">
				{grade === emergency && (
					<p className="m-0 border-l-4 border-persimmon bg-blush px-4 py-3 text-lg font-semibold">{w.callEmergencyFirst}</p>
				)}
				{grade === doctorFrom && <p className="m-0 border-l-4 border-persimmon bg-blush px-4 py-3 font-semibold">{w.seeADoctor}</p>}
				<div className="grid gap-3 sm:grid-cols-2">
					<Field label={w.whatWasNoticed}>
						{(a) => (
							<select {...a} className="field" value={kind} onChange={(e) => setKind(e.target.value)}>
								<option value="">{w.chooseWhatWasNoticed}</option>
								{Object.entries(reactionKindWords).map(([key, name]) => (
									<option key={key} value={key}>
										{name}
									</option>
								))}
							</select>
						)}
					</Field>
					<Field label={w.afterWhich}>
						{(a) => (
							<select {...a} className="field" value={visit} onChange={(e) => setChosen(e.target.value)}>
								{treatments.slice(0, 12).map((v) => (
									<option key={v.id} value={v.id}>
										{`${at.date(v.startsAt)}, ${v.protocolName}`}
									</option>
								))}
								<option value="">{w.noTreatment}</option>
							</select>
						)}
					</Field>
					<Field label={w.whoNoticed}>
						{(a) => <input {...a} className="field" maxLength={80} value={by} onChange={(e) => setBy(e.target.value)} />}
					</Field>
					<Field label={w.whenNoticed} hint={w.emptyForNow}>
						{(a) => <input {...a} type="datetime-local" className="field" value={when} onChange={(e) => setWhen(e.target.value)} />}
					</Field>
				</div>
				<fieldset className="m-0 grid gap-0.5 border-0 p-0">
					<legend className="mb-1 text-sm font-semibold">{w.howBad}</legend>
					<Grades value={grade} onChange={setGrade} />
				</fieldset>
				<Field label={w.whatWasDone}>
					{(a) => (
						<textarea
							{...a}
							className="field min-h-16"
							placeholder={w.whatWasDoneExample}
							maxLength={2000}
							value={done}
							onChange={(e) => setDone(e.target.value)}
						/>
					)}
				</Field>
				<ErrorMessage error={send.error} />
				<div className="flex gap-3">
					<Button type="submit" variant="primary" disabled={!kind || grade === undefined || send.isPending}>
						{w.saveReaction}
					</Button>
					<Button onClick={onCancel}>{w.cancel}</Button>
				</div>
			</div>
			<div>
				<p className="m-0 mb-1 text-sm font-semibold">{w.whereOnTheFace}</p>
				<p className="m-0 mb-1 text-sm text-soft">{zones.length > 0 ? zones.map(zoneName).join(", ") : w.markItOnTheFace}</p>
				<div className="h-[330px]">
					{library.data && <FaceMap zones={library.data.zones} marked={zones} onMark={mark} label={w.markItOnTheFace} />}
				</div>
			</div>
		</form>
	);
}

/** The five grades, each in words. */
export function Grades({ value, onChange }: { value: number | undefined; onChange: (grade: number) => void }) {
	return (
		<>
			{Object.entries(reactionGradeWords).map(([key, says]) => (
				<label
					key={key}
					className={`flex min-h-11 cursor-pointer items-center gap-3 rounded-sm border px-3 ${String(value) === key ? "border-ink bg-white" : "border-transparent"}`}
				>
					<input type="radio" className="accent-persimmon" checked={String(value) === key} onChange={() => onChange(Number(key))} />
					<span className="num w-4 font-serif text-xl font-semibold">{key}</span>
					<span>{says}</span>
				</label>
			))}
		</>
	);
}
