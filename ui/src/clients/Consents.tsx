import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type PointerEvent, useRef, useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../api/client";
import { clientConsentsQuery, consentTextsQuery } from "../api/queries";
import { Dialog } from "../kit/Dialog";
import { Button, ErrorMessage, Field, Loading } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/clients";

type Consent = Schemas["Consent"];
const width = 600;
const height = 200;
const nearest = 3;

const drawn = (lines: readonly number[][]) =>
	lines.map((l) => l.reduce((d, v, i) => d + (i === 0 ? "M" : i % 2 === 0 ? "L" : " ") + v, "")).join("");

/** A field to sign in with a finger, a pen or the mouse. */
function SignaturePad({ lines, onLines }: { lines: number[][]; onLines: (lines: number[][]) => void }) {
	const field = useRef<SVGSVGElement>(null);
	const drawing = useRef(false);
	const point = (e: PointerEvent) => {
		const box = field.current!.getBoundingClientRect();
		const fit = (v: number, most: number) => Math.min(most, Math.max(0, Math.round(v)));
		return [fit(((e.clientX - box.left) / box.width) * width, width), fit(((e.clientY - box.top) / box.height) * height, height)];
	};
	return (
		<svg
			ref={field}
			viewBox={`0 0 ${width} ${height}`}
			role="img"
			aria-label={lines.length > 0 ? w.signatureDrawn : w.fieldForTheSignatureEmpty}
			data-testid="signature"
			className="block w-full touch-none rounded-sm border border-[#9c8873] bg-white"
			onPointerDown={(e) => {
				e.currentTarget.setPointerCapture(e.pointerId);
				drawing.current = true;
				onLines([...lines, point(e)]);
			}}
			onPointerMove={(e) => {
				if (!drawing.current) return;
				const line = lines.at(-1) ?? [];
				const [x, y] = point(e) as [number, number];
				if (Math.hypot(x - (line.at(-2) ?? 0), y - (line.at(-1) ?? 0)) < nearest) return;
				onLines([...lines.slice(0, -1), [...line, x, y]]);
			}}
			onPointerUp={() => {
				drawing.current = false;
			}}
		>
			<line x1="30" x2="570" y1="160" y2="160" stroke="#d8cbb0" strokeWidth="2" />
			<path d={drawn(lines)} fill="none" stroke="#35182f" strokeWidth="3" strokeLinecap="round" strokeLinejoin="round" />
		</svg>
	);
}

/** The text of a consent, read and signed. */
export function SignDialog({
	client,
	name,
	kind,
	onClose,
}: {
	client: string;
	name: string;
	kind: Consent["kind"] | null;
	onClose: () => void;
}) {
	const texts = useQuery(consentTextsQuery);
	const [signer, setSigner] = useState(name);
	const [guardian, setGuardian] = useState(false);
	const [lines, setLines] = useState<number[][]>([]);
	const [typed, setTyped] = useState(false); // signed by the name as it is typed, where the studio allows it
	const { typedSignatures } = useSession();
	const cache = useQueryClient();
	const sign = useMutation({
		mutationFn: () =>
			unwrap(
				api.POST("/api/clients/{id}/consents", {
					params: { path: { id: client } },
					body: { kind: kind!, signer, guardian, signature: typed ? [] : lines },
				}),
			),
		onSuccess: () => {
			for (const key of ["client", "plan"]) cache.invalidateQueries({ queryKey: [key] });
			setLines([]);
			setTyped(false);
			onClose();
		},
	});
	const text = texts.data?.find((t) => t.kind === kind);
	const fault = (path: string) => (sign.error instanceof ProblemError ? sign.error.at(path) : undefined);
	return (
		<Dialog
			open={kind !== null}
			onClose={() => {
				sign.reset();
				setLines([]);
				setTyped(false);
				onClose();
			}}
			title={w.consentTitle({ title: text?.title ?? "…" })}
		>
			<p className="mt-0 text-lg whitespace-pre-line">{text?.body}</p>
			<div className="mt-4 mb-3 flex flex-wrap items-end gap-5">
				<div className="min-w-60 flex-1">
					<Field label={w.nameOfThePersonSigning} fault={fault("/signer")}>
						{(a) => <input {...a} className="field" value={signer} onChange={(e) => setSigner(e.target.value)} />}
					</Field>
				</div>
				<label className="flex min-h-11 items-center gap-2 font-semibold">
					<input type="checkbox" className="size-5 accent-persimmon" checked={guardian} onChange={(e) => setGuardian(e.target.checked)} />
					{w.asParentOrGuardian}
				</label>
			</div>
			{!typed && <SignaturePad lines={lines} onLines={setLines} />}
			{typedSignatures && (
				<label className="mt-2 flex min-h-11 items-center gap-3 font-semibold">
					<input type="checkbox" className="size-5 accent-persimmon" checked={typed} onChange={(e) => setTyped(e.target.checked)} />
					{w.iSignByTypingMyName}
				</label>
			)}
			<ErrorMessage error={sign.error} />
			<div className="mt-4 flex justify-between gap-3">
				<Button variant="quiet" disabled={lines.length === 0} onClick={() => setLines([])}>
					{w.clear}
				</Button>
				<Button variant="primary" disabled={sign.isPending || (!typed && lines.length === 0)} onClick={() => sign.mutate()}>
					{w.sign}
				</Button>
			</div>
		</Dialog>
	);
}

/** The consents of a client: what is signed, when, and what is not. */
export function Consents({ client }: { client: Schemas["Client"] }) {
	const { at } = useSession();
	const list = useQuery(clientConsentsQuery(client.id));
	const texts = useQuery(consentTextsQuery);
	const [signing, setSigning] = useState<Consent["kind"] | null>(null);
	const [ending, setEnding] = useState<Consent | null>(null);
	const cache = useQueryClient();
	const withdraw = useMutation({
		mutationFn: (id: string) => unwrap(api.POST("/api/consents/{id}/withdrawal", { params: { path: { id } } })),
		onSuccess: () => {
			setEnding(null);
			for (const key of ["client", "plan"]) cache.invalidateQueries({ queryKey: [key] });
		},
	});
	const consents = list.data;
	if (!consents) return <Loading of={w.consents} error={list.error} retry={() => list.refetch()} />;
	return (
		<section aria-label={w.consents} className="mt-8">
			<h2 className="mt-0 mb-1 text-2xl">{w.consents}</h2>
			<ul className="m-0 list-none p-0">
				{texts.data?.map((t) => {
					const all = consents.filter((c) => c.kind === t.kind);
					const stands = all.find((c) => !c.withdrawnAt);
					const changed = stands && stands.version !== t.version;
					return (
						<li key={t.kind} className="flex min-h-12 flex-wrap items-center gap-3 border-b border-rule py-1">
							<span className="min-w-36 flex-1">
								<span className="font-semibold">{t.title}</span>
								<span className="block text-sm text-soft">
									{stands
										? w.signedSignedAtBySignerGuardian({
												signedAt: at.date(stands.signedAt),
												signer: stands.signer,
												guardian: stands.guardian ? w.guardianToo : "",
											})
										: all[0]?.withdrawnAt
											? w.withdrawnWithdrawnAt({ withdrawnAt: at.date(all[0].withdrawnAt) })
											: w.notSigned}
									{changed && <strong className="block">{w.theTextHasChangedSince}</strong>}
								</span>
								{stands && (
									<Button variant="quiet" className="-ml-4 text-sm" onClick={() => setEnding(stands)}>
										{w.withdraw}
									</Button>
								)}
							</span>
							{(!stands || changed) && <Button onClick={() => setSigning(t.kind)}>{changed ? w.signAgain : w.sign}</Button>}
							{stands && stands.signature.length > 0 && (
								<svg
									viewBox={`0 0 ${width} ${height}`}
									className="h-9"
									role="img"
									aria-label={w.signatureOfSigner({ signer: stands.signer })}
								>
									<path d={drawn(stands.signature)} fill="none" stroke="#35182f" strokeWidth="6" />
								</svg>
							)}
						</li>
					);
				})}
			</ul>
			<SignDialog client={client.id} name={client.name} kind={signing} onClose={() => setSigning(null)} />
			<Dialog open={ending !== null} onClose={() => setEnding(null)} title={w.withdrawThisConsent}>
				<p>{w.thisConsentWillNoLongerApply}</p>
				<ErrorMessage error={withdraw.error} />
				<div className="flex justify-end gap-3">
					<Button onClick={() => setEnding(null)}>{w.keepConsent}</Button>
					<Button variant="primary" disabled={withdraw.isPending} onClick={() => ending && withdraw.mutate(ending.id)}>
						{w.withdraw}
					</Button>
				</div>
			</Dialog>
		</section>
	);
}
