import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../api/client";
import { asDecimal, decimal } from "../kit/faults";
import { Button, ErrorMessage, Field } from "../kit/kit";
import { ScaleField } from "../kit/ScaleField";
import { useScale } from "../kit/scale";
import * as w from "../words/catalogue/shelf";

const measures = { drops: w.drops, presses: w.presses, spatulas: w.spatulas } as const;
const usualCount = { drops: 20, presses: 5, spatulas: 5 } as const;

/** Weighs some drops, presses or spatulas several times: what one holds, and how sure that is. */
export function Calibrate({ line: l, onDone }: { line: Schemas["ShelfLineView"]; onDone: () => void }) {
	const cache = useQueryClient();
	const scale = useScale();
	const [measure, setMeasure] = useState<keyof typeof measures>(l.product.measures.includes("drops") ? "drops" : "presses");
	const [grams, setGrams] = useState(["", "", ""]);
	const [count, setCount] = useState("");
	const [density, setDensity] = useState(l.density > 0 ? String(l.density) : "");
	const [step, setStep] = useState("0.01");
	const [closure, setClosure] = useState("");
	const given = grams.filter((g) => decimal.test(g.trim())).map(asDecimal);
	const body = {
		measure,
		each: Number(count) || usualCount[measure],
		grams: given,
		step: asDecimal(step) || "0.01",
		density: asDecimal(density) || "0",
		closure,
	};
	const send = (keep: boolean) =>
		unwrap(api.POST("/api/products/{id}/calibrations", { params: { path: { id: l.product.id } }, body: { ...body, keep } }));
	const work = useMutation({ mutationFn: () => send(false) });
	const keep = useMutation({
		mutationFn: () => send(true),
		onSuccess: () => {
			for (const key of ["shelf", "library"]) cache.invalidateQueries({ queryKey: [key] });
			onDone();
		},
	});
	const fault = (path: string) => {
		const e = keep.error ?? work.error;
		return e instanceof ProblemError ? e.at(path) : undefined;
	};
	const set = (i: number, g: string) => {
		work.reset();
		setGrams(grams.map((was, k) => (k === i ? g : was)));
	};
	return (
		<form
			className="grid gap-3"
			noValidate
			onSubmit={(e) => {
				e.preventDefault();
				if (work.data) keep.mutate();
				else work.mutate();
			}}
		>
			<h3 className="m-0 text-lg">{w.weighDropsOrPumps}</h3>
			<p className="m-0 text-sm">{w.calibratingExplained({ count: body.each, measure: measures[measure].toLowerCase() })}</p>
			<Field label={w.measure}>
				{(a) => (
					<select {...a} className="field" value={measure} onChange={(e) => setMeasure(e.target.value as keyof typeof measures)}>
						{Object.entries(measures).map(([k, name]) => (
							<option key={k} value={k}>
								{name}
							</option>
						))}
					</select>
				)}
			</Field>
			{grams.map((g, i) => (
				// The readings are in order and never move.
				<ScaleField
					key={i}
					label={w.readingNumber({ n: i + 1 })}
					value={g}
					onChange={(v) => set(i, v)}
					fault={i === 0 ? fault("/grams") : undefined}
				/>
			))}
			{!scale && (
				<p className="m-0 text-sm text-soft">
					{w.noScaleIsPluggedIn}{" "}
					<button type="button" className="min-h-8 underline underline-offset-4" onClick={openScale}>
						{w.openStandInScale}
					</button>
				</p>
			)}
			<div className="grid grid-cols-3 items-end gap-3">
				<Field label={w.howMany}>
					{(a) => (
						<input
							{...a}
							className="field num"
							inputMode="numeric"
							placeholder={String(usualCount[measure])}
							value={count}
							onChange={(e) => setCount(e.target.value)}
						/>
					)}
				</Field>
				<Field label={w.gPerML} fault={fault("/density")}>
					{(a) => <input {...a} className="field num" inputMode="decimal" value={density} onChange={(e) => setDensity(e.target.value)} />}
				</Field>
				<Field label={w.scaleStepG} fault={fault("/step")}>
					{(a) => <input {...a} className="field num" inputMode="decimal" value={step} onChange={(e) => setStep(e.target.value)} />}
				</Field>
			</div>
			<Field label={w.closure} hint={w.closureHint}>
				{(a) => <input {...a} className="field" maxLength={60} value={closure} onChange={(e) => setClosure(e.target.value)} />}
			</Field>
			{work.data && (
				<p role="status" className="num m-0 border-l-4 border-kelp bg-kelp-pale px-3 py-2">
					{measure === "drops"
						? w.dropsWeighed({ perML: Number(work.data.perML), error: work.data.errorPercent })
						: w.eachHolds({ each: Number(work.data.mlEach), error: work.data.errorPercent })}
					{work.data.coarse && <span className="block font-semibold">{w.weighMoreOrFiner}</span>}
				</p>
			)}
			<ErrorMessage error={fault("/grams") || fault("/density") || fault("/step") ? null : (keep.error ?? work.error)} />
			<div className="flex justify-end gap-3">
				<Button onClick={onDone}>{w.cancel}</Button>
				<Button variant="primary" type="submit" disabled={given.length === 0 || work.isPending || keep.isPending}>
					{work.data ? w.saveMeasure : w.workItOut}
				</Button>
			</div>
		</form>
	);
}

/** Opens the stand-in scale in a small window of its own. */
export function openScale() {
	window.open("/scale", "soft-palm-scale", "popup,width=420,height=520");
}
