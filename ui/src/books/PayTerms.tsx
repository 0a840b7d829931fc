import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../api/client";
import { Button, ErrorMessage, Field } from "../kit/kit";
import * as w from "../words/catalogue/books";

/** The grade of each practitioner, and their part of what they sell. */
export function PayTerms() {
	const list = useQuery({ queryKey: ["pay-terms"], queryFn: () => unwrap(api.GET("/api/pay-terms")) });
	return (
		<section>
			<h2 className="m-0 mb-1 text-2xl">{w.gradesAndCommission}</h2>
			<ErrorMessage error={list.error} />
			<ul className="m-0 list-none border-t border-ink p-0">
				{list.data?.map((p) => (
					<One key={p.practitioner} of={p} />
				))}
			</ul>
			<p className="mt-2 mb-0 text-sm text-soft">{w.gradesSay}</p>
		</section>
	);
}

function One({ of }: { of: Schemas["PayTerms"] }) {
	const cache = useQueryClient();
	const [grade, setGrade] = useState(of.grade);
	const [treatments, setTreatments] = useState(String(Number(of.treatments)));
	const [retail, setRetail] = useState(String(Number(of.retail)));
	const number = (s: string) => s.trim().replace(",", ".") || "0";
	const save = useMutation({
		mutationFn: () => unwrap(api.PUT("/api/pay-terms", { body: { ...of, grade, treatments: number(treatments), retail: number(retail) } })),
		onSuccess: () => {
			for (const key of ["pay-terms", "price-list"]) cache.invalidateQueries({ queryKey: [key] });
		},
	});
	const fault = (path: string) => (save.error instanceof ProblemError ? save.error.at(path) : undefined);
	const same = grade === of.grade && Number(number(treatments)) === Number(of.treatments) && Number(number(retail)) === Number(of.retail);
	return (
		<li className="border-b border-rule py-2">
			<form
				className="grid items-end gap-3 sm:grid-cols-[minmax(0,1fr)_6rem_6rem_auto] xl:grid-cols-[minmax(0,1fr)_8rem_6rem_6rem_auto]"
				onSubmit={(e) => {
					e.preventDefault();
					save.mutate();
				}}
			>
				<span className="col-span-full self-center truncate font-semibold xl:col-auto" title={of.name}>
					{of.name}
				</span>
				<Field label={w.grade} fault={fault("/grade")}>
					{(a) => <input {...a} className="field" maxLength={40} value={grade} onChange={(e) => setGrade(e.target.value)} />}
				</Field>
				<Field label={w.ofTreatments} fault={fault("/treatments")}>
					{(a) => (
						<input {...a} className="field num" inputMode="decimal" value={treatments} onChange={(e) => setTreatments(e.target.value)} />
					)}
				</Field>
				<Field label={w.ofProducts} fault={fault("/retail")}>
					{(a) => <input {...a} className="field num" inputMode="decimal" value={retail} onChange={(e) => setRetail(e.target.value)} />}
				</Field>
				<Button type="submit" disabled={same || save.isPending}>
					{w.save}
				</Button>
			</form>
		</li>
	);
}
