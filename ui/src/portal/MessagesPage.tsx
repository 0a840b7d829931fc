import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { Button, ErrorMessage, Loading, Page } from "../kit/kit";
import { useSession } from "../kit/session";
import * as names from "../words/catalogue/names";
import * as w from "../words/catalogue/portal";

const soon = 5000; // the server looks for messages to send as often

/** What goes to clients and colleagues, newest first: sent by the mail server, or passed on by the owner. */
export function MessagesPage() {
	const list = useQuery({
		queryKey: ["messages"],
		queryFn: () => unwrap(api.GET("/api/messages")),
		refetchInterval: (q) => (q.state.data?.messages.some((m) => m.state === "waiting") ? soon : false),
	});
	if (!list.data) return <Loading of={w.theMessages} error={list.error} retry={() => list.refetch()} />;
	const mailed = list.data.gateway === "mail";
	return (
		<Page title={w.messages}>
			<p className="mt-0 mb-6 max-w-[72ch] text-sm text-soft">
				{mailed ? w.messagesAreSentByYourMailServer : w.noGatewayIsConnectedSoPassOn}{" "}
				{!mailed && <Link to="/settings">{w.setUpAMailServer}</Link>}
			</p>
			{list.data.messages.length === 0 && <p>{w.noMessagesYet}</p>}
			<ul className="m-0 grid list-none gap-4 p-0">
				{list.data.messages.map((m) => (
					<OneMessage key={m.id} message={m} />
				))}
			</ul>
		</Page>
	);
}

function OneMessage({ message: m }: { message: Schemas["Message"] }) {
	const { at } = useSession();
	const cache = useQueryClient();
	const [copied, setCopied] = useState(false);
	const send = useMutation({
		mutationFn: () => unwrap(api.POST("/api/messages/{id}/send", { params: { path: { id: m.id } } })),
		onSettled: () => cache.invalidateQueries({ queryKey: ["messages"] }),
	});
	const when = (moment: string) => `${at.date(moment)}, ${at.time(moment)}`;
	return (
		<li className="grid gap-x-8 gap-y-2 border-b border-rule pb-4 lg:grid-cols-[260px_minmax(0,1fr)_auto]">
			<div>
				<p className="m-0">
					<span className="block text-sm text-soft">{names.messageKinds[m.kind]}</span>
					<span className="block font-semibold">{m.name}</span>
					<span className="block break-words">{m.to}</span>
					<span className="num block text-sm text-soft">{when(m.at)}</span>
				</p>
				{m.state === "sent" && m.sentAt && <p className="num mt-2 mb-0 text-sm">{w.sentWhen({ when: when(m.sentAt) })}</p>}
				{m.state === "waiting" && (
					<p className="num mt-2 mb-0 text-sm font-semibold">
						{m.failure && m.nextTry ? w.willBeTriedAgainAt({ time: at.time(m.nextTry) }) : w.waitingToBeSent}
					</p>
				)}
				{m.state === "failed" && <p className="mt-2 mb-0 text-sm font-semibold text-persimmon-deep">{w.notSent}</p>}
				{m.failure && m.state !== "sent" && <p className="mt-1 mb-0 text-sm break-words">{m.failure}</p>}
			</div>
			<p className="m-0 max-w-[72ch] break-words whitespace-pre-line">{m.body || w.theLinkInThisMessageHasEnded}</p>
			<div className="grid content-start gap-2">
				{m.canSend && (
					<Button disabled={send.isPending} onClick={() => send.mutate()}>
						{m.state === "failed" ? w.tryAgain : w.sendNow}
					</Button>
				)}
				{m.body && (
					<Button onClick={() => navigator.clipboard.writeText(m.body).then(() => setCopied(true))}>
						{copied ? w.copied : w.copyMessage}
					</Button>
				)}
				<ErrorMessage error={send.error} />
			</div>
		</li>
	);
}
