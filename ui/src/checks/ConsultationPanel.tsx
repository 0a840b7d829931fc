import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../api/client";
import { ChoosePin } from "../house";
import { Dialog } from "../kit/Dialog";
import { dayWords } from "../kit/format";
import { Button, ErrorMessage } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/checks";

/** The state of a client's consultation, and what to do next. */
export function ConsultationPanel({ file, onReview }: { file: Schemas["ClientFileView"]; onReview: (c: Schemas["Consultation"]) => void }) {
	const { at, now, treats } = useSession();
	const [handing, setHanding] = useState(false);
	const [choosing, setChoosing] = useState(false);
	const [copied, setCopied] = useState<"link" | "message" | "">("");
	const cache = useQueryClient();
	const link = useMutation({
		mutationFn: (send: boolean) =>
			unwrap(api.POST("/api/clients/{id}/link", { params: { path: { id: file.client.id }, query: { send } } })),
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
	const withdraw = useMutation({
		mutationFn: () => unwrap(api.POST("/api/clients/{id}/link/withdrawal", { params: { path: { id: file.client.id } } })),
		onSuccess: () => {
			link.reset();
			cache.invalidateQueries({ queryKey: ["client", file.client.id] });
		},
	});
	const waiting = file.consultations.find((c) => c.sentAt && !c.reviewedAt);
	const unsure = Object.values(waiting?.answers ?? {}).filter((a) => a.unsure).length;
	const open = file.consultations.find((c) => !c.sentAt && !c.reviewedAt && c.linkUntil && new Date(c.linkUntil) > now());
	const copy = (what: "link" | "message", text: string) => navigator.clipboard.writeText(text).then(() => setCopied(what));
	const address = link.data ? `${window.location.origin}/consultation#${link.data.token}` : "";
	return (
		<section aria-label={w.consultation} className="mb-6">
			<h2 className="mt-0 mb-1 text-2xl">{w.consultation}</h2>
			<p className="m-0">
				{file.validUntil
					? w.validUntilDay({ validUntil: dayWords(file.validUntil) })
					: treats
						? w.noCurrentConsultationItsQuestionsWill
						: ""}
				{open &&
					!waiting &&
					w.privateLinkValidUntilLinkUntilLinkUntil({
						linkUntil: at.date(open.linkUntil ?? ""),
						linkUntil2: at.time(open.linkUntil ?? ""),
					})}
				{waiting &&
					w.clientSentAnswersOnSentAtReview({
						sentAt: at.date(waiting.sentAt ?? ""),
						unsure: unsure > 0 ? w.unsureNotSure({ unsure: unsure === 1 ? "1 answer is" : w.unsureAnswersAre({ unsure }) }) : "",
					})}
			</p>
			<div className="mt-2 flex flex-wrap gap-3">
				{waiting && treats && (
					<Button variant="primary" onClick={() => onReview(waiting)}>
						{w.reviewTheAnswers}
					</Button>
				)}
				<Button disabled={handOver.isPending} onClick={() => setHanding(true)}>
					{w.giveTabletToClient}
				</Button>
				<Button disabled={link.isPending} onClick={() => link.mutate(!treats)}>
					{treats ? w.createPrivateLink : w.sendPrivateLink}
				</Button>
				{(open || (!treats && link.data)) && (
					<Button disabled={withdraw.isPending} onClick={() => withdraw.mutate()}>
						{w.withdrawLink}
					</Button>
				)}
				{treats && (
					<a
						className="inline-flex min-h-11 items-center font-semibold underline underline-offset-4"
						href={`/api/clients/${file.client.id}/summary`}
						target="_blank"
						rel="noreferrer"
					>
						{w.printASummary}
					</a>
				)}
			</div>
			{link.data?.sentTo && !link.data.token && (
				<p role="status" className="mt-2 mb-0">
					{(link.data.mailed ? w.theMessageToSentToIsOnItsWay : w.theMessageToSentToIsReady)({ sentTo: link.data.sentTo })}
				</p>
			)}
			{withdraw.isSuccess && !link.data && (
				<p role="status" className="mt-2 mb-0">
					{w.theLinkHasEnded}
				</p>
			)}
			<ErrorMessage error={link.error ?? withdraw.error ?? (choosing ? null : handOver.error)} />
			<ChoosePin
				open={choosing}
				onClose={() => setChoosing(false)}
				onDone={() => {
					setChoosing(false);
					handOver.mutate();
				}}
			/>
			<Dialog open={handing} onClose={() => setHanding(false)} title={w.giveTabletToClient2}>
				<p className="mt-0">{w.onlyNameSConsultationCanSeen({ name: file.client.name })}</p>
				<div className="flex justify-end gap-3">
					<Button onClick={() => setHanding(false)}>{w.notNow}</Button>
					<Button variant="primary" disabled={handOver.isPending} onClick={() => handOver.mutate()}>
						{w.giveTabletToClient}
					</Button>
				</div>
			</Dialog>
			<Dialog
				open={Boolean(link.data?.token)}
				onClose={() => {
					link.reset();
					setCopied("");
				}}
				title={w.privateLink}
			>
				<p className="mt-0">
					{w.sendThisLinkOnlyNameOpens({ name: file.client.name })}{" "}
					<span className="num">{link.data && `${at.date(link.data.until)}, ${at.time(link.data.until)}`}</span>
					{link.data?.for === link.data?.until && `, ${w.whenTheAppointmentBegins}`}. {w.needsNoPasswordCopyNowCant}
				</p>
				<input className="field num" readOnly aria-label={w.privateLink} value={address} onFocus={(e) => e.target.select()} />
				<label className="mt-3 block text-sm font-semibold">
					{w.theMessage}
					<textarea className="field min-h-40 font-normal" readOnly value={link.data?.message ?? ""} onFocus={(e) => e.target.select()} />
				</label>
				<ErrorMessage error={link.error} />
				{link.data?.sentTo && (
					<p role="status" className="mb-0 font-semibold">
						{(link.data.mailed ? w.theMessageToSentToIsOnItsWay : w.theMessageToSentToIsReady)({ sentTo: link.data.sentTo })}
					</p>
				)}
				<div className="mt-4 flex flex-wrap justify-end gap-3">
					<Button onClick={() => copy("link", address)}>{copied === "link" ? w.copied : w.copyLink}</Button>
					<Button onClick={() => copy("message", link.data?.message ?? "")}>{copied === "message" ? w.copied : w.copyMessage}</Button>
					{!link.data?.sentTo && (file.client.email || file.client.phone) && (
						<Button variant="primary" disabled={link.isPending} onClick={() => link.mutate(true)}>
							{w.sendTo({ address: file.client.email || file.client.phone })}
						</Button>
					)}
				</div>
			</Dialog>
		</section>
	);
}
