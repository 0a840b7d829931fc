import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../api/client";
import { ChoosePin } from "../house";
import { Dialog } from "../kit/Dialog";
import { dayWords } from "../kit/format";
import { Button, ErrorMessage } from "../kit/kit";
import { useSession } from "../kit/session";

/** Where a client's consultation stands, and the next thing to do about it. */
export function ConsultationPanel({ file, onReview }: { file: Schemas["ClientFileView"]; onReview: (c: Schemas["Consultation"]) => void }) {
	const { at, now, treats } = useSession();
	const [handing, setHanding] = useState(false);
	const [choosing, setChoosing] = useState(false);
	const [copied, setCopied] = useState(false);
	const cache = useQueryClient();
	const link = useMutation({
		mutationFn: () => unwrap(api.POST("/api/clients/{id}/link", { params: { path: { id: file.client.id } } })),
		onSuccess: () => cache.invalidateQueries({ queryKey: ["client", file.client.id] }),
	});
	/** This session is locked to the consultation until the PIN is entered. */
	const handOver = useMutation({
		mutationFn: () => unwrap(api.POST("/api/clients/{id}/hand-over", { params: { path: { id: file.client.id } } })),
		onSuccess: ({ token }) => window.location.replace(`/consultation#${token}`),
		onError: (e) => {
			setHanding(false);
			if (e instanceof ProblemError && e.problem.code === "no-pin") setChoosing(true);
		},
	});
	const waiting = file.consultations.find((c) => c.sentAt && !c.reviewedAt);
	const unsure = Object.values(waiting?.answers ?? {}).filter((a) => a.unsure).length;
	const open = file.consultations.find((c) => !c.sentAt && !c.reviewedAt && c.linkUntil && new Date(c.linkUntil) > now());
	const address = link.data ? `${window.location.origin}/consultation#${link.data.token}` : "";
	return (
		<section aria-label="Consultation" className="mb-6">
			<h2 className="mt-0 mb-1 text-2xl">Consultation</h2>
			<p className="m-0">
				{file.holdsUntil
					? `Valid until ${dayWords(file.holdsUntil)}.`
					: treats
						? "No current consultation. Its questions will be part of the next check."
						: ""}
				{open && !waiting && ` Private link valid until ${at.date(open.linkUntil ?? "")}, ${at.time(open.linkUntil ?? "")}.`}
				{waiting &&
					` The client sent answers on ${at.date(waiting.sentAt ?? "")}. Review them before they are used.${unsure > 0 ? ` ${unsure === 1 ? "1 answer is" : `${unsure} answers are`} “not sure”.` : ""}`}
			</p>
			<div className="mt-2 flex flex-wrap gap-3">
				{waiting && treats && (
					<Button variant="primary" onClick={() => onReview(waiting)}>
						Review the answers
					</Button>
				)}
				<Button disabled={handOver.isPending} onClick={() => setHanding(true)}>
					Give tablet to client
				</Button>
				<Button disabled={link.isPending} onClick={() => link.mutate()}>
					Create private link
				</Button>
				{treats && (
					<a
						className="inline-flex min-h-11 items-center font-semibold underline underline-offset-4"
						href={`/api/clients/${file.client.id}/summary`}
						target="_blank"
						rel="noreferrer"
					>
						Print a summary
					</a>
				)}
			</div>
			<ErrorMessage error={link.error ?? (choosing ? null : handOver.error)} />
			<ChoosePin
				open={choosing}
				onClose={() => setChoosing(false)}
				onDone={() => {
					setChoosing(false);
					handOver.mutate();
				}}
			/>
			<Dialog open={handing} onClose={() => setHanding(false)} title="Give tablet to client?">
				<p className="mt-0">Only {file.client.name}’s consultation can be seen until you enter your PIN.</p>
				<div className="flex justify-end gap-3">
					<Button onClick={() => setHanding(false)}>Not now</Button>
					<Button variant="primary" disabled={handOver.isPending} onClick={() => handOver.mutate()}>
						Give tablet to client
					</Button>
				</div>
			</Dialog>
			<Dialog
				open={Boolean(link.data)}
				onClose={() => {
					link.reset();
					setCopied(false);
				}}
				title="Private link"
			>
				<p className="mt-0">
					Send this link only to {file.client.name} . It opens the consultation until{" "}
					<span className="num">{link.data && `${at.date(link.data.until)}, ${at.time(link.data.until)}`}</span> and needs no password. Copy
					it now; it can’t be shown again.
				</p>
				<input className="field num" readOnly aria-label="Private link" value={address} onFocus={(e) => e.target.select()} />
				<div className="mt-4 flex justify-end gap-3">
					<Button variant="primary" onClick={() => navigator.clipboard.writeText(address).then(() => setCopied(true))}>
						{copied ? "Copied" : "Copy link"}
					</Button>
				</div>
			</Dialog>
		</section>
	);
}
