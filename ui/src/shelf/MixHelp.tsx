import { useMutation } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { api, ProblemError, unwrap } from "../api/client";
import { asDecimal } from "../kit/faults";
import { Button, ErrorMessage, Field } from "../kit/kit";
import * as w from "../words/catalogue/shelf";

/** Works out drops in a carrier and dilutions, for what is mixed without a recipe. */
export function MixHelp() {
	return (
		<div className="mt-8 grid gap-x-10 gap-y-6 lg:grid-cols-2">
			<Drops />
			<Dilution />
		</div>
	);
}

/** A few numbers and what they come to; the answer goes when a number changes. */
function useNumbers<K extends string>(start: Record<K, string>) {
	const [values, setValues] = useState(start);
	return { values, set: (k: K, v: string) => setValues((was) => ({ ...was, [k]: v })) };
}

const orEmpty = (s: string) => (s.trim() === "" ? "0" : asDecimal(s));

function Drops() {
	const { values: v, set } = useNumbers({ carrierML: "30", percent: "1", dropsPerML: "20", dermalMax: "" });
	const [careful, setCareful] = useState(false);
	const work = useMutation({
		mutationFn: () =>
			unwrap(
				api.POST("/api/blends", {
					body: {
						carrierML: orEmpty(v.carrierML),
						percent: orEmpty(v.percent),
						dropsPerML: orEmpty(v.dropsPerML),
						...(v.dermalMax.trim() ? { dermalMax: asDecimal(v.dermalMax) } : {}),
						careful,
					},
				}),
			),
	});
	const field = (k: keyof typeof v, label: string) => (
		<NumberOf label={label} value={v[k]} onChange={(x) => [set(k, x), work.reset()]} error={work.error} path={`/${k}`} />
	);
	return (
		<Sheet
			title={w.dropsInACarrier}
			about={w.dropsInACarrierExplained}
			onWork={() => work.mutate()}
			error={work.error}
			paths={Object.keys(v)}
		>
			{field("carrierML", w.carrierML)}
			{field("percent", w.strengthPercent)}
			{field("dropsPerML", w.dropsOfTheOilPerML)}
			{field("dermalMax", w.dermalMaxPercent)}
			<label className="col-span-2 flex min-h-11 items-center gap-3">
				<input
					type="checkbox"
					className="size-5 accent-persimmon"
					checked={careful}
					onChange={(e) => {
						setCareful(e.target.checked);
						work.reset();
					}}
				/>
				{w.pregnancyChildSensitive}
			</label>
			{work.data && (
				<Answer>
					<span className="font-serif text-2xl font-semibold">{w.dropsGoIn({ n: work.data.drops })}</span>
					<span className="block">{w.ofCarrierAndBlend({ carrier: Number(work.data.ofCarrier), blend: Number(work.data.ofBlend) })}</span>
					{work.data.mind && <span className="block font-semibold text-persimmon-deep">{work.data.mind}</span>}
				</Answer>
			)}
		</Sheet>
	);
}

function Dilution() {
	const { values: v, set } = useNumbers({ have: "70", want: "30", total: "100" });
	const work = useMutation({
		mutationFn: () =>
			unwrap(api.POST("/api/dilutions", { body: { have: orEmpty(v.have), want: orEmpty(v.want), total: orEmpty(v.total) } })),
	});
	const field = (k: keyof typeof v, label: string) => (
		<NumberOf label={label} value={v[k]} onChange={(x) => [set(k, x), work.reset()]} error={work.error} path={`/${k}`} />
	);
	return (
		<Sheet title={w.dilute} about={w.diluteExplained} onWork={() => work.mutate()} error={work.error} paths={Object.keys(v)}>
			{field("have", w.strengthThereIs)}
			{field("want", w.strengthWanted)}
			{field("total", w.howMuchIsWanted)}
			{work.data && (
				<Answer>
					<span className="font-serif text-2xl font-semibold">
						{w.concentrateAndWater({ concentrate: Number(work.data.concentrate), water: Number(work.data.water) })}
					</span>
				</Answer>
			)}
		</Sheet>
	);
}

function Sheet(of: {
	title: string;
	about: string;
	onWork: () => void;
	error: Error | null;
	/** Fields that say their own faults. */
	paths: string[];
	children: ReactNode;
}) {
	const placed = of.error instanceof ProblemError && of.paths.some((p) => (of.error as ProblemError).at(`/${p}`));
	return (
		<form
			aria-label={of.title}
			noValidate
			onSubmit={(e) => {
				e.preventDefault();
				of.onWork();
			}}
		>
			<h2 className="mt-0 mb-1 text-2xl">{of.title}</h2>
			<p className="mt-0 mb-3 text-sm text-soft">{of.about}</p>
			<div className="grid grid-cols-2 items-end gap-x-4 gap-y-3">
				{of.children}
				<div className="col-span-2">
					<Button type="submit">{w.workItOut}</Button>
				</div>
			</div>
			<ErrorMessage error={placed ? null : of.error} />
		</form>
	);
}

function NumberOf(of: { label: string; value: string; onChange: (v: string) => void; error: Error | null; path: string }) {
	const fault = of.error instanceof ProblemError ? of.error.at(of.path) : undefined;
	return (
		<Field label={of.label} fault={fault}>
			{(a) => <input {...a} className="field num" inputMode="decimal" value={of.value} onChange={(e) => of.onChange(e.target.value)} />}
		</Field>
	);
}

function Answer({ children }: { children: ReactNode }) {
	return (
		<p role="status" className="num col-span-2 m-0 border-l-4 border-kelp bg-kelp-pale px-3 py-2">
			{children}
		</p>
	);
}
