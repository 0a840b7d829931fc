import { useInfiniteQuery } from "@tanstack/react-query";
import { preChecksQuery } from "../api/queries";
import { dayWords } from "../kit/format";
import { Badge, Button, Loading } from "../kit/kit";
import * as w from "../words/catalogue/clients";
import { headlineWords } from "../words/sentences";

/** What came of a client's pre-treatment checks, newest first. */
export function PastChecks({ client }: { client: string }) {
	const list = useInfiniteQuery(preChecksQuery(client));
	if (!list.data) return <Loading of={w.preTreatmentChecks} error={list.error} retry={() => list.refetch()} />;
	const checks = list.data.pages.flatMap((p) => p.checks);
	if (checks.length === 0) return null;
	return (
		<>
			<h2 className="mt-8 text-2xl">{w.preTreatmentChecks}</h2>
			<ul className="m-0 list-none p-0">
				{checks.map((s) => (
					<li key={s.id} className="flex gap-4 border-b border-rule py-2">
						<span className="num w-28 shrink-0">{dayWords(s.day)}</span>
						<span className="w-40 shrink-0">
							<Badge tone={s.headline}>{headlineWords[s.headline]}</Badge>
						</span>
						<span className="text-sm">{s.titles.join("; ")}</span>
					</li>
				))}
			</ul>
			{list.hasNextPage && (
				<Button className="mt-3" disabled={list.isFetchingNextPage} onClick={() => list.fetchNextPage()}>
					{w.earlierChecks}
				</Button>
			)}
		</>
	);
}
