import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { Button, Loading, Page } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/portal";

/** What would have been sent, newest first: no gateway is connected, so the owner passes it on. */
export function MessagesPage() {
	const list = useQuery({ queryKey: ["messages"], queryFn: () => unwrap(api.GET("/api/messages")) });
	if (!list.data) return <Loading of={w.theMessages} error={list.error} retry={() => list.refetch()} />;
	return (
		<Page title={w.messages}>
			<p className="mt-0 mb-6 max-w-[72ch] text-sm text-soft">{w.noGatewayIsConnectedSoPassOn}</p>
			{list.data.length === 0 && <p>{w.noMessagesYet}</p>}
			<ul className="m-0 grid list-none gap-4 p-0">
				{list.data.map((m) => (
					<OneMessage key={m.id} message={m} />
				))}
			</ul>
		</Page>
	);
}

function OneMessage({ message: m }: { message: Schemas["Message"] }) {
	const { at } = useSession();
	const [copied, setCopied] = useState(false);
	return (
		<li className="grid gap-x-8 gap-y-2 border-b border-rule pb-4 lg:grid-cols-[260px_minmax(0,1fr)_auto]">
			<p className="m-0">
				<span className="block font-semibold">{m.name}</span>
				<span className="block break-words">{m.to}</span>
				<span className="num block text-sm text-soft">
					{at.date(m.at)}, {at.time(m.at)}
				</span>
			</p>
			<p className="m-0 max-w-[72ch] break-words whitespace-pre-line">{m.body || w.theLinkInThisMessageHasEnded}</p>
			{m.body && (
				<Button className="self-start" onClick={() => navigator.clipboard.writeText(m.body).then(() => setCopied(true))}>
					{copied ? w.copied : w.copyMessage}
				</Button>
			)}
		</li>
	);
}
