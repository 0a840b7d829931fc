import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import type { Schemas } from "../api/client";
import { inboxQuery } from "../api/queries";
import { Loading } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/diary";

type Item = Schemas["InboxItem"];

/** What waits for somebody at the studio: answers, patch tests, records, letters. */
export function Inbox() {
	const { at, practitioner } = useSession();
	const { data, error, refetch } = useQuery(inboxQuery);
	if (!data) return <Loading of={w.inbox} error={error} retry={() => refetch()} />;
	const text = (i: Item) => {
		const day = at.date(i.at);
		switch (i.kind) {
			case "answers":
				return w.answersCameIn;
			case "letter":
				return w.letterWaiting({ day });
			case "letter-todo":
				return w.letterToAsk({ day });
			case "patch-test":
				return w.patchToRead({ what: i.what });
		}
		return w.recordToSign({ what: i.what, day });
	};
	const list = [...data].filter((i) => i.kind !== "record" || !practitioner || !i.practitioner || i.practitioner === practitioner);
	return (
		<section aria-labelledby="inbox">
			<h2 id="inbox" className="mt-0 mb-1 text-xl">
				{w.inbox}
			</h2>
			{list.length === 0 && <p className="m-0 text-soft">{w.inboxEmpty}</p>}
			<ul className="m-0 list-none p-0">
				{list.map((i) => (
					<li key={`${i.kind}${i.id}`} className="border-t border-rule">
						<Link
							to={i.kind === "record" ? "/visits/$id/record" : "/people/$id"}
							params={{ id: i.kind === "record" ? i.id : i.client }}
							className="block min-h-11 py-1.5 text-ink no-underline hover:bg-leaf"
						>
							<span className="block truncate font-semibold underline decoration-rule underline-offset-4" title={i.clientName}>
								{i.clientName}
							</span>
							<span className="block text-sm">{text(i)}</span>
						</Link>
					</li>
				))}
			</ul>
		</section>
	);
}
