import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import type { Schemas } from "../api/client";
import { inboxQuery } from "../api/queries";
import { Loading } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/diary";
import { reactionKindWords } from "../words/sentences";

type Item = Schemas["InboxItem"];

/** What waits for somebody at the studio: answers, patch tests, records, letters. */
export function Inbox() {
	const { at } = useSession();
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
			case "follow-up":
				return w.followUpOf({ what: (reactionKindWords[i.what ?? ""] ?? "").toLowerCase(), day: `${day}, ${at.time(i.at)}` });
			case "series-ends":
				return w.seriesEnds({ what: i.what, day });
			case "second":
				return w.secondToSign({ what: i.what, day });
		}
		return i.overdue ? w.overdueRecord({ what: i.what, day }) : w.recordToSign({ what: i.what, day });
	};
	const ofARecord = (i: Item) => i.kind === "record" || i.kind === "second";
	return (
		<section aria-labelledby="inbox">
			<h2 id="inbox" className="mt-0 mb-1 text-xl">
				{w.inbox}
			</h2>
			{data.length === 0 && <p className="m-0 text-soft">{w.inboxEmpty}</p>}
			<ul className="m-0 list-none p-0">
				{data.map((i) => (
					<li key={`${i.kind}${i.id}`} className="border-t border-rule">
						<Link
							to={ofARecord(i) ? "/visits/$id/record" : "/people/$id"}
							params={{ id: ofARecord(i) ? i.id : i.client }}
							{...(i.kind === "follow-up" ? { hash: "reactions" } : {})}
							className="block min-h-11 py-1.5 text-ink no-underline hover:bg-leaf"
						>
							<span className="block truncate font-semibold underline decoration-rule underline-offset-4" title={i.clientName}>
								{i.clientName}
							</span>
							<span className={`block text-sm ${i.overdue ? "font-semibold text-persimmon-deep" : ""}`}>{text(i)}</span>
						</Link>
					</li>
				))}
			</ul>
		</section>
	);
}
