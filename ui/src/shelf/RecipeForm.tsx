import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../api/client";
import { asDecimal, decimal } from "../kit/faults";
import { newId } from "../kit/format";
import { Button, ErrorMessage, Field } from "../kit/kit";
import * as w from "../words/catalogue/shelf";

type Part = { key: string; product: string; amount: string; measure: "mL" | "g" | "drops" | "percent"; dermalMax: string };

/** A recipe: what it makes, its parts in order, how long it keeps. A change is a new version. */
export function RecipeForm({ of, shelf, onDone }: { of: Schemas["Recipe"] | null; shelf: Schemas["ShelfLineView"][]; onDone: () => void }) {
	const cache = useQueryClient();
	const [name, setName] = useState(of?.name ?? "");
	const [product, setProduct] = useState(of?.product ?? "");
	const [yields, setYields] = useState(of ? String(Number(of.yield)) : "30");
	const [note, setNote] = useState(of?.note ?? "");
	const [keeps, setKeeps] = useState(of?.keeps.days !== undefined ? String(of.keeps.days) : String(of?.keeps.months ?? 3));
	const [keepsIn, setKeepsIn] = useState<"days" | "months">(of?.keeps.days !== undefined ? "days" : "months");
	const [parts, setParts] = useState<Part[]>(
		of
			? of.parts.map((p) => ({
					key: newId(),
					product: p.product,
					amount: String(Number(p.amount)),
					measure: p.measure as "g",
					dermalMax: p.dermalMax ? String(Number(p.dermalMax)) : "",
				}))
			: [{ key: newId(), product: "", amount: "", measure: "mL", dermalMax: "" }],
	);
	const save = useMutation({
		mutationFn: () =>
			unwrap(
				api.PUT("/api/recipes", {
					body: {
						...(of ? { id: of.id } : {}),
						name,
						product,
						note,
						yield: asDecimal(yields) || "0",
						keeps: keepsIn === "days" ? { days: Number(keeps) } : { months: Number(keeps) },
						parts: parts.map((p) => ({
							product: p.product,
							amount: asDecimal(p.amount) || "0",
							measure: p.measure,
							...(p.dermalMax ? { dermalMax: asDecimal(p.dermalMax) } : {}),
						})),
					},
				}),
			),
		onSuccess: () => {
			for (const key of ["recipes", "shelf", "library"]) cache.invalidateQueries({ queryKey: [key] });
			onDone();
		},
	});
	const fault = (path: string) => (save.error instanceof ProblemError ? save.error.at(path) : undefined);
	const placed = save.error instanceof ProblemError && (save.error.problem.errors ?? []).some((e) => e.path.length > 1);
	const change = (key: string, to: Partial<Part>) => setParts(parts.map((p) => (p.key === key ? { ...p, ...to } : p)));
	const choices = [...shelf].filter((l) => l.product.unit !== "pcs").sort((a, b) => a.product.name.localeCompare(b.product.name));
	const unit = shelf.find((l) => l.product.id === product)?.product.unit ?? "mL";
	const ready = product !== "" && parts.every((p) => p.product !== "" && decimal.test(p.amount.trim()));
	return (
		<form
			className="leaf mb-6 grid gap-3 p-4"
			noValidate
			onSubmit={(e) => {
				e.preventDefault();
				save.mutate();
			}}
		>
			<h2 className="m-0 text-2xl">{of ? w.changeRecipe : w.newRecipe}</h2>
			<div className="grid gap-3 lg:grid-cols-[1.5fr_1.5fr_1fr_0.7fr_1fr]">
				<Field label={w.name} fault={fault("/name")}>
					{(a) => <input {...a} className="field" maxLength={120} value={name} onChange={(e) => setName(e.target.value)} />}
				</Field>
				<Field label={w.makesProduct} fault={fault("/product")}>
					{(a) => (
						<select {...a} className="field" value={product} onChange={(e) => setProduct(e.target.value)}>
							<option value="">{w.chooseAProduct}</option>
							{choices.map((l) => (
								<option key={l.product.id} value={l.product.id}>
									{l.product.name}
								</option>
							))}
						</select>
					)}
				</Field>
				<Field label={w.makesAbout({ unit })} fault={fault("/yield")}>
					{(a) => <input {...a} className="field num" inputMode="decimal" value={yields} onChange={(e) => setYields(e.target.value)} />}
				</Field>
				<Field label={w.keepsFor} fault={fault("/keeps")}>
					{(a) => (
						<input
							{...a}
							className="field num"
							inputMode="numeric"
							value={keeps}
							onChange={(e) => setKeeps(e.target.value.replace(/\D/g, ""))}
						/>
					)}
				</Field>
				<Field label={w.daysOrMonths}>
					{(a) => (
						<select {...a} className="field" value={keepsIn} onChange={(e) => setKeepsIn(e.target.value as "days")}>
							<option value="days">{w.daysWord}</option>
							<option value="months">{w.monthsWord}</option>
						</select>
					)}
				</Field>
			</div>
			<p className="m-0 text-sm text-soft">{w.keepsExplained}</p>
			{parts.map((p, i) => (
				<div key={p.key} className="grid grid-cols-[minmax(0,2fr)_1fr_1fr_1fr_auto] items-start gap-3">
					<Field label={w.partNumber({ n: i + 1 })} fault={fault(`/parts/${i}/product`)}>
						{(a) => (
							<select {...a} className="field" value={p.product} onChange={(e) => change(p.key, { product: e.target.value })}>
								<option value="">{w.chooseAProduct}</option>
								{choices
									.filter((l) => l.product.id !== product)
									.map((l) => (
										<option key={l.product.id} value={l.product.id}>
											{l.product.name}
										</option>
									))}
							</select>
						)}
					</Field>
					<Field label={w.amountWord} fault={fault(`/parts/${i}/amount`)}>
						{(a) => (
							<input
								{...a}
								className="field num text-right"
								inputMode="decimal"
								value={p.amount}
								onChange={(e) => change(p.key, { amount: e.target.value })}
							/>
						)}
					</Field>
					<Field label={w.measure}>
						{(a) => (
							<select {...a} className="field" value={p.measure} onChange={(e) => change(p.key, { measure: e.target.value as "g" })}>
								<option value="mL">mL</option>
								<option value="g">g</option>
								<option value="drops">{w.drops}</option>
								<option value="percent">{w.percentOfWeight}</option>
							</select>
						)}
					</Field>
					<Field label={w.dermalMax}>
						{(a) => (
							<input
								{...a}
								className="field num"
								inputMode="decimal"
								placeholder={w.noneWord}
								value={p.dermalMax}
								onChange={(e) => change(p.key, { dermalMax: e.target.value })}
							/>
						)}
					</Field>
					<Button
						variant="quiet"
						className="mt-6"
						disabled={parts.length === 1}
						onClick={() => setParts(parts.filter((x) => x.key !== p.key))}
					>
						{w.leaveOut}
					</Button>
				</div>
			))}
			<div>
				<Button onClick={() => setParts([...parts, { key: newId(), product: "", amount: "", measure: "mL", dermalMax: "" }])}>
					{w.addPart}
				</Button>
			</div>
			<Field label={w.note}>
				{(a) => <input {...a} className="field" maxLength={1000} value={note} onChange={(e) => setNote(e.target.value)} />}
			</Field>
			<ErrorMessage error={placed ? null : save.error} />
			<div className="flex justify-end gap-3">
				<Button onClick={onDone}>{w.cancel}</Button>
				<Button variant="primary" type="submit" disabled={!ready || save.isPending}>
					{of ? w.saveNewVersion : w.saveRecipe}
				</Button>
			</div>
		</form>
	);
}
