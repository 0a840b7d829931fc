import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useNavigate } from "@tanstack/react-router";
import { useMemo, useState } from "react";
import * as z from "zod/mini";
import { api, type Schemas, unwrap } from "../api/client";
import { libraryQuery, menuQuery, protocolsQuery } from "../api/queries";
import { Dialog } from "../kit/Dialog";
import { Choice, TextField } from "../kit/fields";
import { FormEnd, Input, useServerForm } from "../kit/form";
import { Badge, Button, Loading, Page } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/protocols";
import { skinTypes } from "../words/client";
import { askedText } from "../words/sentences";
import { Travel } from "./Travel";

const copy = z.object({ name: z.string().check(z.trim(), z.minLength(1, w.enterAName)) });

const all = { words: "", concern: "", skin: "", minutes: "", today: false };

/** Whether a protocol is among what is asked for. */
function fits(p: Schemas["ProtocolListView"], line: Schemas["MenuLine"] | undefined, asked: typeof all): boolean {
	const words = asked.words.trim().toLowerCase();
	return (
		`${p.name} ${p.summary}`.toLowerCase().includes(words) &&
		(!asked.concern || p.concerns.includes(asked.concern)) &&
		(!asked.skin || p.skinTypes.length === 0 || p.skinTypes.includes(asked.skin)) &&
		(!asked.minutes || p.sold <= Number(asked.minutes)) &&
		(!asked.today || (p.version > 0 && line?.lacks.length === 0))
	);
}

const lackWords = { product: w.tooLittleOf, tool: w.noPieceOf, skill: w.nobodyWith };

/** What a protocol wants today and the studio does not have. */
function lackText(line: Schemas["MenuLine"]): string {
	return w.lackingToday({ what: line.lacks.map((l) => lackWords[l.kind]({ name: l.name })).join(", ") });
}

/** The menu: the protocols the studio sells, and drafts of new ones. */
export function ProtocolsPage() {
	const list = useQuery(protocolsQuery);
	const { may } = useSession();
	const edits = may("add-protocol");
	const library = useQuery(libraryQuery);
	const concern = (key: string) => library.data?.concerns.find((c) => c.key === key)?.name.toLowerCase() ?? key.replaceAll("-", " ");
	const menu = useQuery(menuQuery);
	const lines = useMemo(() => new Map((menu.data ?? []).map((m) => [m.protocol, m])), [menu.data]);
	const [asked, setAsked] = useState(all);
	const put = (part: Partial<typeof all>) => setAsked({ ...asked, ...part });
	const shown = (list.data ?? []).filter((p) => fits(p, lines.get(p.id), asked));
	const [naming, setNaming] = useState<string | null>(null);
	const go = useNavigate();
	const cache = useQueryClient();
	const of = useServerForm({
		schema: copy,
		start: { name: "" },
		send: async ({ name }) => {
			const stem =
				name
					.toLowerCase()
					.replace(/[^a-z0-9]+/g, "-")
					.replace(/^-|-$/g, "") || "protocol";
			const from = (await unwrap(api.GET("/api/protocols/{id}", { params: { path: { id: naming! } } }))).protocol;
			return unwrap(api.POST("/api/protocols", { body: { ...from, key: `${stem}-${Date.now().toString(36)}`, name } }));
		},
		onSent: (v) => {
			cache.invalidateQueries({ queryKey: ["protocols"] });
			go({ to: "/protocols/$id", params: { id: v.id } });
		},
	});
	if (!list.data) return <Loading of={w.theProtocols} error={list.error} retry={() => list.refetch()} />;
	const ask = (from: string, as: string) => {
		setNaming(from);
		of.form.setValue("name", as);
	};
	return (
		<Page
			title={w.protocols}
			action={
				edits && (
					<span className="flex flex-wrap items-center gap-4">
						<Link to="/library">{w.strokes}</Link>
						<Link to="/library/zones">{w.zones}</Link>
						<Link
							to="/protocols/new"
							className="inline-flex min-h-11 items-center rounded-sm border border-persimmon bg-persimmon px-4 font-semibold text-white no-underline hover:bg-persimmon-deep"
						>
							{w.newProtocol}
						</Link>
					</span>
				)
			}
		>
			{list.data.length === 0 && <p className="text-lg">{w.noProtocolsYetSayWhatNew}</p>}
			{list.data.length > 1 && (
				<div className="mb-4 grid max-w-4xl grid-cols-2 items-end gap-3 lg:grid-cols-[1.4fr_1fr_1fr_1fr_auto]">
					<TextField label={w.findProtocol} value={asked.words} most={80} onChange={(v) => put({ words: v ?? "" })} />
					<Choice
						label={w.forConcern}
						value={asked.concern}
						options={{
							"": w.anyConcern,
							...Object.fromEntries([...new Set(list.data.flatMap((p) => p.concerns))].map((c) => [c, concern(c)])),
						}}
						onChange={(v) => put({ concern: v })}
					/>
					<Choice
						label={w.forSkin}
						value={asked.skin}
						options={{ "": w.anySkin, ...Object.fromEntries(skinTypes.map((k) => [k, k])) }}
						onChange={(v) => put({ skin: v })}
					/>
					<Choice
						label={w.atMostMinutes}
						value={asked.minutes}
						options={{ "": w.anyLength, ...Object.fromEntries([30, 45, 60, 75].map((m) => [`${m}`, w.upToMinutes({ minutes: m })])) }}
						onChange={(v) => put({ minutes: v })}
					/>
					<label className="flex min-h-11 items-center gap-2 text-sm">
						<input
							type="checkbox"
							className="size-5 accent-persimmon"
							checked={asked.today}
							onChange={(e) => put({ today: e.target.checked })}
						/>
						{w.onlyToday}
					</label>
				</div>
			)}
			{list.data.length > 0 && shown.length === 0 && <p>{w.nothingFits}</p>}
			<ul className="m-0 grid list-none gap-x-8 gap-y-5 p-0 md:grid-cols-2 xl:grid-cols-3">
				{shown.map((p) => (
					<li key={p.id} className="flex min-w-0 flex-col border-t-2 border-ink pt-2">
						<div className="flex items-baseline justify-between gap-3">
							<Link
								to="/protocols/$id"
								params={{ id: p.id }}
								className="min-w-0 font-serif text-xl leading-tight font-semibold underline decoration-rule underline-offset-4"
							>
								{p.name}
							</Link>
							<span className="num shrink-0 font-serif text-xl font-semibold">{w.soldMin({ sold: p.sold })}</span>
						</div>
						<p className="num m-0 flex justify-between gap-3 text-sm text-soft">
							<span>{w.handsOnHandsOnResetReset({ handsOn: p.handsOn, reset: p.reset })}</span>
							<span className="shrink-0 text-ink">{askedText(p)}</span>
						</p>
						{lines.get(p.id) && <Travel line={lines.get(p.id)!} />}
						<p className="mt-1 mb-1 text-sm">{p.summary}</p>
						<p className="m-0 text-sm text-soft">
							{[p.concerns.map(concern).join(", "), p.skinTypes.length > 0 ? w.forSkinTypesSkin({ skinTypes: p.skinTypes.join(", ") }) : ""]
								.filter(Boolean)
								.join(" · ")}
						</p>
						{(lines.get(p.id)?.lacks.length ?? 0) > 0 && (
							<p className="m-0 text-sm font-semibold text-persimmon-deep">{lackText(lines.get(p.id)!)}</p>
						)}
						<p className="mt-auto mb-0 flex min-h-11 items-center gap-1.5">
							<span className="num text-sm text-soft">
								{w.stepsSteps({ steps: p.steps })}
								{p.version > 0 && ` · ${w.versionVersion({ version: p.version })}`}
							</span>
							{p.version === 0 && <Badge tone="not-before">{w.notPublished}</Badge>}
							{p.hasDraft && p.version > 0 && <Badge tone="go">{w.yourDraft}</Badge>}
							{edits && (
								<Button variant="quiet" className="-mr-4 ml-auto" onClick={() => ask(p.id, `${p.name}, copy`)}>
									{w.copy}
								</Button>
							)}
						</p>
					</li>
				))}
			</ul>
			<Dialog open={naming !== null} onClose={() => setNaming(null)} title={w.copyProtocol}>
				<form className="grid gap-3" onSubmit={of.submit} noValidate>
					<Input of={of} field="name" label={w.name} maxLength={120} />
					<FormEnd of={of} act={w.createCopy} onCancel={() => setNaming(null)} />
				</form>
			</Dialog>
		</Page>
	);
}
