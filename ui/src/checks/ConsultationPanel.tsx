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
					? `Holds until ${dayWords(file.holdsUntil)}.`
					: treats
						? "None holds: its questions are asked at the door too."
						: ""}
				{open && !waiting && ` A link is open until ${at.date(open.linkUntil ?? "")}, ${at.time(open.linkUntil ?? "")}.`}
				{waiting &&
					` The client sent answers in on ${at.date(waiting.sentAt ?? "")}; they count once reviewed.${unsure > 0 ? ` The client was not sure of ${unsure}.` : ""}`}
			</p>
			<div className="mt-2 flex flex-wrap gap-3">
				{waiting && treats && (
					<Button variant="primary" onClick={() => onReview(waiting)}>
						Review the answers
					</Button>
				)}
				<Button disabled={handOver.isPending} onClick={() => setHanding(true)}>
					Hand over the tablet
				</Button>
				<Button disabled={link.isPending} onClick={() => link.mutate()}>
					New private link
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
			<Dialog open={handing} onClose={() => setHanding(false)} title="Hand over the tablet?">
				<p className="mt-0">It shows {file.client.name}’s consultation and nothing else, whatever is pressed, until you enter your PIN.</p>
				<div className="flex justify-end gap-3">
					<Button onClick={() => setHanding(false)}>Not now</Button>
					<Button variant="primary" disabled={handOver.isPending} onClick={() => handOver.mutate()}>
						Hand it over
					</Button>
				</div>
			</Dialog>
			<Dialog
				open={Boolean(link.data)}
				onClose={() => {
					link.reset();
					setCopied(false);
				}}
				title="A private link for this client"
			>
				<p className="mt-0">
					Send it to {file.client.name} alone. It opens the consultation until{" "}
					<span className="num">{link.data && `${at.date(link.data.until)}, ${at.time(link.data.until)}`}</span>, needs no account, and
					shows nothing else. It cannot be shown again.
				</p>
				<input className="field num" readOnly aria-label="Private link" value={address} onFocus={(e) => e.target.select()} />
				<div className="mt-4 flex justify-end gap-3">
					<Button variant="primary" onClick={() => navigator.clipboard.writeText(address).then(() => setCopied(true))}>
						{copied ? "Copied" : "Copy the link"}
					</Button>
				</div>
			</Dialog>
		</section>
	);
}
