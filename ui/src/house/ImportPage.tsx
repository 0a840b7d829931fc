import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useState } from "react";
import { api, ProblemError, unwrap } from "../api/client";
import { clock } from "../kit/format";
import { Button, ErrorMessage, Page } from "../kit/kit";
import { fateWords } from "../words/en";

/** Import a file: what it adds is shown first; nothing changes until it is accepted. */
export function ImportPage() {
	const [file, setFile] = useState<{ name: string; text: string } | null>(null);
	const [over, setOver] = useState(false);
	const cache = useQueryClient();
	const send = (dry: boolean, text: string) =>
		unwrap(
			api.POST("/api/import", {
				params: { query: { dry } },
				body: text as never,
				bodySerializer: (b: unknown) => b as string,
				headers: { "Content-Type": "application/octet-stream" },
			}),
		);
	const look = useMutation({ mutationFn: (text: string) => send(true, text) });
	const accept = useMutation({ mutationFn: (text: string) => send(false, text), onSuccess: () => cache.invalidateQueries() });
	async function read(f: File | undefined) {
		if (!f) return;
		accept.reset();
		const text = await f.text();
		setFile({ name: f.name, text });
		look.mutate(text);
	}
	const faults = look.error instanceof ProblemError ? (look.error.problem.errors ?? []) : [];
	return (
		<Page title="Import a file">
			<label
				className={`leaf flex min-h-40 cursor-pointer flex-col items-center justify-center gap-2 border-dashed p-6 text-center has-[:focus-visible]:outline-3 has-[:focus-visible]:outline-persimmon ${over ? "border-persimmon" : ""}`}
				onDragOver={(e) => {
					e.preventDefault();
					setOver(true);
				}}
				onDragLeave={() => setOver(false)}
				onDrop={(e) => {
					e.preventDefault();
					setOver(false);
					read(e.dataTransfer.files[0]);
				}}
			>
				<span className="font-serif text-xl font-semibold">{file ? file.name : "Drop the file here, or choose it"}</span>
				<span className="text-sm text-soft">A protocol, a library of strokes, or a whole studio (JSON)</span>
				<input type="file" accept=".json,application/json" className="sr-only" onChange={(e) => read(e.target.files?.[0])} />
			</label>
			<ErrorMessage error={look.error ?? accept.error} />
			{faults.length > 0 && (
				<section aria-label="Problems">
					<p className="m-0">Nothing was changed. Fix these in the file:</p>
					<ul className="m-0 list-none p-0">
						{faults.map((f) => (
							<li key={f.path + f.message} className="grid grid-cols-[minmax(0,280px)_1fr] gap-4 border-b border-rule py-1.5">
								<code className="text-sm break-all">{f.path || "the file"}</code>
								<span>{f.message}</span>
							</li>
						))}
					</ul>
				</section>
			)}
			{look.data && !accept.data && (
				<section aria-label="What this will add" className="mt-4">
					<h2 className="mt-0 mb-1 text-2xl">This will add</h2>
					{look.data.counts && (
						<ul className="num m-0 mb-4 list-none p-0 text-lg">
							{Object.entries(look.data.counts)
								.filter(([, n]) => Number(n) > 0)
								.map(([k, n]) => (
									<li key={k}>
										{String(n)} {k}
									</li>
								))}
						</ul>
					)}
					{look.data.brought && (
						<>
							<ul className="m-0 mb-3 max-w-[760px] list-none p-0">
								{look.data.brought.things.map((t) => (
									<li
										key={t.kind + t.key}
										className="grid grid-cols-[90px_minmax(0,1fr)_minmax(0,1fr)] items-baseline gap-3 border-b border-rule py-1.5"
									>
										<span className="text-sm text-soft">{t.kind}</span>
										<span className="font-semibold">{t.name}</span>
										<span className={t.fate === "new" || t.fate === "added-as" ? "font-semibold text-kelp" : "text-soft"}>
											{fateWords(t)}
										</span>
									</li>
								))}
							</ul>
							{look.data.brought.evaluation && (
								<p className="num">
									{clock(look.data.brought.evaluation.seconds)} of {clock(look.data.brought.evaluation.slotSeconds)} hands-on,{" "}
									{look.data.brought.evaluation.findings.length === 0
										? "no findings"
										: `${look.data.brought.evaluation.findings.length} findings`}
									. It is imported as your draft.
								</p>
							)}
						</>
					)}
					<Button variant="primary" disabled={accept.isPending} onClick={() => file && accept.mutate(file.text)}>
						Import
					</Button>
				</section>
			)}
			{accept.data && (
				<p role="status" className="text-lg font-semibold">
					Import complete.{" "}
					{accept.data.brought?.protocol && (
						<Link to="/protocols/$id" params={{ id: accept.data.brought.protocol }}>
							Open protocol
						</Link>
					)}
				</p>
			)}
		</Page>
	);
}
