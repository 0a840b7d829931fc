import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import * as z from "zod/mini";
import { api, unwrap } from "../api/client";
import { libraryQuery, protocolsQuery } from "../api/queries";
import { Dialog } from "../kit/Dialog";
import { FormEnd, Input, useServerForm } from "../kit/form";
import { Badge, Button, Loading, Page } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/protocols";
import { askedText } from "../words/sentences";

const copy = z.object({ name: z.string().check(z.trim(), z.minLength(1, w.enterAName)) });

/** The protocols the studio sells, and drafts of new ones. */
export function ProtocolsPage() {
	const list = useQuery(protocolsQuery);
	const { may } = useSession();
	const edits = may("add-protocol");
	const library = useQuery(libraryQuery);
	const concern = (key: string) => library.data?.concerns.find((c) => c.key === key)?.name.toLowerCase() ?? key.replaceAll("-", " ");
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
			<ul className="m-0 list-none p-0">
				{list.data.map((p) => (
					<li key={p.id} className="grid grid-cols-[minmax(0,1fr)_auto] gap-6 border-b border-rule py-4">
						<div className="min-w-0">
							<Link
								to="/protocols/$id"
								params={{ id: p.id }}
								className="font-serif text-2xl font-semibold underline decoration-rule underline-offset-4"
							>
								{p.name}
							</Link>
							<p className="mt-1 mb-1 max-w-2xl">{p.summary}</p>
							<p className="m-0 text-sm text-soft">
								{[
									p.concerns.map(concern).join(", "),
									p.skinTypes.length > 0 ? w.forSkinTypesSkin({ skinTypes: p.skinTypes.join(", ") }) : "",
									w.stepsSteps({ steps: p.steps }),
								]
									.filter(Boolean)
									.join(" · ")}
							</p>
						</div>
						<div className="num text-right">
							<p className="m-0 font-serif text-2xl font-semibold">{w.soldMin({ sold: p.sold })}</p>
							<p className="m-0 text-sm">{w.handsOnHandsOnResetReset({ handsOn: p.handsOn, reset: p.reset })}</p>
							<p className="m-0">{askedText(p)}</p>
							<p className="mt-1 mb-1 flex justify-end gap-1.5">
								{p.version > 0 ? (
									<Badge tone="plain">{w.versionVersion({ version: p.version })}</Badge>
								) : (
									<Badge tone="not-before">{w.notPublished}</Badge>
								)}
								{p.hasDraft && p.version > 0 && <Badge tone="go">{w.yourDraft}</Badge>}
							</p>
							{edits && (
								<Button variant="quiet" onClick={() => ask(p.id, `${p.name}, copy`)}>
									{w.copy}
								</Button>
							)}
						</div>
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
