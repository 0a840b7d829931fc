import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { libraryQuery } from "../api/queries";
import { Chips, Choice, TextField } from "../kit/fields";
import { Button, ErrorMessage, Loading, Page } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/protocols";
import { skinStateWords, skinTypes } from "../words/client";
import { schoolWords } from "../words/sentences";

type School = Schemas["Method"];

/** A new protocol from a question: whom it is for, what it answers, how long; the core composes the first draft. */
export function NewProtocolPage() {
	const library = useQuery(libraryQuery);
	const { currency } = useSession();
	const [skinType, setSkinType] = useState("");
	const [skinStates, setSkinStates] = useState<string[]>([]);
	const [concerns, setConcerns] = useState<string[]>([]);
	const [minutes, setMinutes] = useState(30);
	const [school, setSchool] = useState<School>({});
	const [tools, setTools] = useState<string[] | null>(null);
	const [exercises, setExercises] = useState(false);
	const [products, setProducts] = useState<string[] | null>(null);
	const [name, setName] = useState<string | undefined>();
	const go = useNavigate();
	const cache = useQueryClient();
	const create = async (body: Schemas["Protocol"]) => {
		const v = await unwrap(api.POST("/api/protocols", { body: { ...body, key: keyOf(body.name) } }));
		cache.invalidateQueries({ queryKey: ["protocols"] });
		go({ to: "/protocols/$id", params: { id: v.id } });
	};
	const compose = useMutation({
		mutationFn: async () => {
			const d = await unwrap(
				api.POST("/api/draft", {
					body: {
						skinType: skinType as "dry",
						skinStates,
						concerns,
						minutes,
						school,
						exercises,
						...(tools ? { tools } : {}),
						...(products ? { products } : {}),
					},
				}),
			);
			await create({ ...d.protocol, name: name ?? w.nameMinutesMin({ name: d.protocol.name, minutes }) });
		},
	});
	const empty = useMutation({
		mutationFn: () =>
			create({
				key: "new",
				name: name ?? w.newProtocol,
				school: {},
				minutes: { sold: minutes + 10, handsOn: minutes, reset: 10 },
				price: { amount: "0.00", currency: currency ?? "EUR" },
				defaultDose: { kind: "reps", planned: 3, min: 3, max: 4 },
				steps: [],
			}),
	});
	if (!library.data) return <Loading of={w.theLibrary} error={library.error} retry={() => library.refetch()} />;
	const lib = library.data;
	const allTools = lib.tools.map((t) => t.key);
	const allProducts = lib.products.map((p) => p.key);
	return (
		<Page title={w.whatIsThisProtocolFor}>
			<div className="grid gap-6 lg:grid-cols-[minmax(0,1.6fr)_minmax(0,1fr)]">
				<div className="grid content-start gap-5">
					<Chips
						label={w.concernsMostImportantFirst}
						options={lib.concerns.map((c) => [c.key, c.name] as const)}
						chosen={concerns}
						onChange={(l) => setConcerns(l.slice(-6))}
					/>
					{concerns.length > 0 && (
						<ul className="m-0 list-none p-0 text-sm">
							{concerns.map((k, i) => {
								const c = lib.concerns.find((x) => x.key === k);
								return (
									c?.caution && (
										<li key={k} className="text-persimmon-deep">
											<span className="num text-soft">{i + 1}.</span> {c.name}: {c.caution}
										</li>
									)
								);
							})}
						</ul>
					)}
					<fieldset className="m-0 border-0 p-0">
						<legend className="mb-1 text-sm font-semibold">{w.handsOnTime}</legend>
						<div className="flex flex-wrap gap-1.5">
							{[10, 15, 20, 30, 45, 60].map((n) => (
								<label
									key={n}
									className="num flex min-h-11 min-w-16 cursor-pointer items-center justify-center rounded-sm border border-[#9c8873] bg-leaf px-3 has-[:checked]:bg-ink has-[:checked]:text-paper has-[:focus-visible]:outline-3 has-[:focus-visible]:outline-persimmon"
								>
									<input type="radio" name="minutes" className="sr-only" checked={minutes === n} onChange={() => setMinutes(n)} />
									{w.nMin({ n })}
								</label>
							))}
						</div>
					</fieldset>
					<label className="flex min-h-11 items-center gap-2">
						<input
							type="checkbox"
							className="size-5 accent-persimmon"
							checked={exercises}
							onChange={(e) => setExercises(e.target.checked)}
						/>
						{w.withExercises}
					</label>
				</div>
				<div className="grid content-start gap-4">
					<Choice
						label={w.skinType}
						value={skinType}
						options={{ "": w.any, ...Object.fromEntries(skinTypes.map((t) => [t, t])) }}
						onChange={setSkinType}
					/>
					<Chips
						label={w.skinConditions}
						options={skinStateWords.map((s) => [s, s] as const)}
						chosen={skinStates}
						onChange={setSkinStates}
					/>
					<div className="grid grid-cols-2 gap-3">
						{(["drainage", "sides", "slip", "redness"] as const).map((k) => {
							const w = schoolWords[k];
							const first = Object.keys(w.options)[0]!;
							return (
								<Choice
									key={k}
									label={w.label}
									value={((school as Record<string, unknown>)[k] as string) ?? first}
									options={w.options}
									onChange={(v) => {
										const next = { ...school, [k]: v } as Record<string, unknown>;
										if (v === first) delete next[k];
										setSchool(next as School);
									}}
								/>
							);
						})}
					</div>
					<details>
						<summary className="flex min-h-11 cursor-pointer items-center font-semibold">
							{w.atHandCountToolsCount2({ count: (tools ?? allTools).length, count2: (products ?? allProducts).length })}
						</summary>
						<div className="grid gap-3 pt-2">
							<Chips
								label={w.tools}
								options={lib.tools.map((t) => [t.key, t.name] as const)}
								chosen={tools ?? allTools}
								onChange={setTools}
							/>
							<Chips
								label={w.products}
								options={lib.products.map((p) => [p.key, p.name] as const)}
								chosen={products ?? allProducts}
								onChange={setProducts}
							/>
						</div>
					</details>
					<TextField label={w.nameOptional} value={name} most={120} onChange={setName} />
					<ErrorMessage error={compose.error ?? empty.error} />
					<div className="flex flex-wrap justify-end gap-3">
						<Button onClick={() => empty.mutate()} disabled={empty.isPending}>
							{w.startBlank}
						</Button>
						<Button
							variant="primary"
							onClick={() => compose.mutate()}
							disabled={concerns.length === 0 || compose.isPending}
							title={concerns.length === 0 ? w.chooseAtLeastOneConcern : undefined}
						>
							{compose.isPending ? w.creatingDraft : w.createDraft}
						</Button>
					</div>
					<p className="m-0 text-sm text-soft">
						{w.draftOpensOnWorkbenchCheckedFitted} <Link to="/import">{w.importAProtocolFile}</Link>.
					</p>
				</div>
			</div>
		</Page>
	);
}

function keyOf(name: string): string {
	const stem = name
		.toLowerCase()
		.replace(/[^a-z0-9]+/g, "-")
		.replace(/^-|-$/g, "")
		.slice(0, 46)
		.replace(/-$/, "");
	return `${stem || "protocol"}-${Date.now().toString(36)}`;
}
