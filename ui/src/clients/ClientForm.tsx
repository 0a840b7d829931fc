import { type FormEvent, useState } from "react";
import { ProblemError, type Schemas } from "../api/client";
import { Button, ErrorMessage, Field } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/clients";
import { skinStateWords, skinTypes } from "../words/client";

type Fields = Omit<Schemas["ClientFields"], "$schema">;

export const emptyClient: Fields = {
	name: "",
	email: "",
	phone: "",
	birthDate: "",
	skinType: "normal",
	skinStates: [],
	phototype: 0,
	note: "",
};

const phototypes = [w.notStated, "I", "II", "III", "IV", "V", "VI"];

type Props = { start: Fields; error: unknown; busy: boolean; save: string; onSave: (f: Fields) => void; onCancel: () => void };

/** What is written about a client. */
export function ClientForm({ start, error, busy, save, onSave, onCancel }: Props) {
	const [f, setF] = useState<Fields>(start);
	const { treats } = useSession();
	const put = (part: Partial<Fields>) => setF((old) => ({ ...old, ...part }));
	const fault = (path: string) => (error instanceof ProblemError ? error.at(path) : undefined);
	return (
		<form
			className="grid gap-4"
			onSubmit={(e: FormEvent) => {
				e.preventDefault();
				onSave(f);
			}}
		>
			<Field label={w.name} fault={fault("/name")}>
				{(a) => <input {...a} className="field" required maxLength={120} value={f.name} onChange={(e) => put({ name: e.target.value })} />}
			</Field>
			<div className="grid grid-cols-2 gap-3">
				<Field label={w.eMail} fault={fault("/email")}>
					{(a) => <input {...a} className="field" maxLength={200} value={f.email} onChange={(e) => put({ email: e.target.value })} />}
				</Field>
				<Field label={w.phone}>
					{(a) => (
						<input {...a} className="field" type="tel" maxLength={60} value={f.phone} onChange={(e) => put({ phone: e.target.value })} />
					)}
				</Field>
			</div>
			<div className="grid grid-cols-3 gap-3">
				<Field label={w.birthDate} fault={fault("/birthDate")}>
					{(a) => <input {...a} className="field" type="date" value={f.birthDate} onChange={(e) => put({ birthDate: e.target.value })} />}
				</Field>
				<Field label={w.skinType}>
					{(a) => (
						<select {...a} className="field" value={f.skinType} onChange={(e) => put({ skinType: e.target.value as Fields["skinType"] })}>
							{skinTypes.map((t) => (
								<option key={t}>{t}</option>
							))}
						</select>
					)}
				</Field>
				<Field label={w.phototype}>
					{(a) => (
						<select {...a} className="field" value={f.phototype} onChange={(e) => put({ phototype: Number(e.target.value) })}>
							{phototypes.map((t, i) => (
								<option key={t} value={i}>
									{t}
								</option>
							))}
						</select>
					)}
				</Field>
			</div>
			{treats && (
				<>
					<fieldset className="m-0 border-0 p-0">
						<legend className="mb-1 text-sm font-semibold">{w.skinConditions}</legend>
						<div className="flex flex-wrap gap-x-4">
							{skinStateWords.map((s) => (
								<label key={s} className="flex min-h-11 items-center gap-2">
									<input
										type="checkbox"
										className="size-5 accent-persimmon"
										checked={f.skinStates.includes(s)}
										onChange={(e) => put({ skinStates: e.target.checked ? [...f.skinStates, s] : f.skinStates.filter((x) => x !== s) })}
									/>
									{s}
								</label>
							))}
						</div>
					</fieldset>
					<Field label={w.notes}>
						{(a) => (
							<textarea {...a} className="field min-h-20" maxLength={2000} value={f.note} onChange={(e) => put({ note: e.target.value })} />
						)}
					</Field>
				</>
			)}
			<ErrorMessage error={error} />
			<div className="flex gap-3">
				<Button variant="primary" type="submit" disabled={busy}>
					{save}
				</Button>
				<Button variant="quiet" onClick={onCancel}>
					{w.cancel}
				</Button>
			</div>
		</form>
	);
}
