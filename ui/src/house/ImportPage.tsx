import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useState } from "react";
import { api, ProblemError, unwrap } from "../api/client";
import { clock } from "../kit/format";
import { Button, ErrorMessage, Page } from "../kit/kit";
import * as w from "../words/catalogue/house";
import { fateWords } from "../words/sentences";

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
		<Page title={w.importAFile}>
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
				<span className="font-serif text-xl font-semibold">{file ? file.name : w.dropFileHereOrChoose}</span>
				<span className="text-sm text-soft">{w.protocolLibraryStrokesOrWholeStudio}</span>
				<input type="file" accept=".json,application/json" className="sr-only" onChange={(e) => read(e.target.files?.[0])} />
			</label>
			<ErrorMessage error={look.error ?? accept.error} />
			{faults.length > 0 && (
				<section aria-label={w.problems}>
					<p className="m-0">{w.nothingWasChangedFixTheseIn}</p>
					<ul className="m-0 list-none p-0">
						{faults.map((f) => (
							<li key={f.path + f.message} className="grid grid-cols-[minmax(0,280px)_1fr] gap-4 border-b border-rule py-1.5">
								<code className="text-sm break-all">{f.path || w.theFile}</code>
								<span>{f.message}</span>
							</li>
						))}
					</ul>
				</section>
			)}
			{look.data && !accept.data && (
				<section aria-label={w.whatThisWillAdd} className="mt-4">
					<h2 className="mt-0 mb-1 text-2xl">{w.thisWillAdd}</h2>
					{look.data.counts && (
						<ul className="num m-0 mb-4 list-none p-0 text-lg">
							{Object.entries(look.data.counts)
								.filter(([, n]) => Number(n) > 0)
								.map(([k, n]) => (
									<li key={k} className="first-letter:uppercase">
										{k}: {String(n)}
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
									{w.secondsSlotSecondsHandsOnCountImported({
										seconds: clock(look.data.brought.evaluation.seconds),
										slotSeconds: clock(look.data.brought.evaluation.slotSeconds),
										count:
											look.data.brought.evaluation.findings.length === 0
												? w.noFindings
												: w.countFindings({ count: look.data.brought.evaluation.findings.length }),
									})}
								</p>
							)}
						</>
					)}
					<Button variant="primary" disabled={accept.isPending} onClick={() => file && accept.mutate(file.text)}>
						{w.importWord}
					</Button>
				</section>
			)}
			{accept.data && (
				<p role="status" className="text-lg font-semibold">
					{w.importComplete}{" "}
					{accept.data.brought?.protocol && (
						<Link to="/protocols/$id" params={{ id: accept.data.brought.protocol }}>
							{w.openProtocol}
						</Link>
					)}
				</p>
			)}
		</Page>
	);
}
