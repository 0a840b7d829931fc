import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useEffect, useRef, useState } from "react";
import type { Schemas } from "../api/client";
import { inboxQuery } from "../api/queries";
import { Button } from "../kit/kit";
import * as w from "../words/catalogue/diary";

type Item = Schemas["InboxItem"];

/** Tells, on whatever screen, that a client's answers have just come in. */
export function Arrivals() {
	const { data } = useQuery(inboxQuery);
	const cache = useQueryClient();
	const seen = useRef<Set<string> | null>(null);
	const [news, setNews] = useState<Item[]>([]);
	useEffect(() => {
		if (!data) return;
		const answers = data.filter((i) => i.kind === "answers");
		const before = seen.current;
		seen.current = new Set(answers.map((i) => i.id));
		const came = before ? answers.filter((i) => !before.has(i.id)) : []; // what waited already is in the inbox
		setNews((was) => [
			...was.filter((i) => seen.current?.has(i.id)), // reviewed meanwhile
			...came,
		]);
		for (const key of came.length > 0 ? [["day"], ...came.map((i) => ["client", i.client])] : [])
			cache.invalidateQueries({ queryKey: key });
	}, [data, cache]);
	return (
		<div role="status" aria-live="polite" className="no-print fixed right-5 bottom-5 z-40 grid max-w-sm gap-2">
			{news.map((i) => (
				<div key={i.id} className="rounded-md border border-ink bg-paper p-4">
					<p className="m-0 mb-2 font-semibold break-words">{w.answersArrived({ name: i.clientName })}</p>
					<div className="flex gap-3">
						<Link
							to="/people/$id"
							params={{ id: i.client }}
							className="inline-flex min-h-11 items-center rounded-sm bg-persimmon px-4 font-semibold text-white no-underline"
							onClick={() => setNews((was) => was.filter((x) => x !== i))}
						>
							{w.reviewNow}
						</Link>
						<Button variant="quiet" onClick={() => setNews((was) => was.filter((x) => x !== i))}>
							{w.dismiss}
						</Button>
					</div>
				</div>
			))}
		</div>
	);
}
