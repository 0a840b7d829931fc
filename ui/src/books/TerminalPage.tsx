import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../api/client";
import { terminalQuery } from "../api/queries";
import { money } from "../kit/format";
import { Button, ErrorMessage, Loading } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/books";

const plans = ["approved", "declined", "unknown-approved", "unknown-declined", "offline-settled", "offline-refused"] as const;

/** A stand-in for the card terminal, in a window of its own: what it will answer next, and what it was asked. */
export function TerminalPage() {
	const terminal = useQuery(terminalQuery);
	const cache = useQueryClient();
	const { currency = "EUR" } = useSession();
	const set = useMutation({
		mutationFn: (body: Schemas["TerminalSettings"]) => unwrap(api.PUT("/api/card-terminal", { body })),
		onSettled: () => cache.invalidateQueries({ queryKey: terminalQuery.queryKey }),
	});
	const t = terminal.data;
	if (!t) return <Loading of={w.standInTerminal} error={terminal.error} retry={() => terminal.refetch()} />;
	const settings: Schemas["TerminalSettings"] = { next: t.next, byCents: t.byCents, seconds: t.seconds, late: t.late };
	const first = t.charges[0];
	return (
		<main className="mx-auto grid max-w-sm gap-4 p-5">
			<h1 className="m-0 text-2xl">{w.standInTerminal}</h1>
			<p className="m-0 text-sm text-soft">{w.standInTerminalSays}</p>
			<output aria-label={w.theTerminalShows} className="grid h-28 place-content-center rounded-md bg-night px-3 text-center text-amber">
				{first ? (
					<>
						<span className="num text-4xl">{money(first.amount, currency)}</span>
						<span>{w.says[first.says || "waiting"]}</span>
					</>
				) : (
					<span className="text-xl">{w.ready}</span>
				)}
			</output>
			<section>
				<h2 className="m-0 mb-1 text-lg">{w.nextAnswers}</h2>
				<p className="m-0 mb-2 min-h-6 text-sm">{t.next.length === 0 ? w.itApproves : t.next.map((p) => w.plan[p]).join(", ")}</p>
				<div className="grid grid-cols-2 gap-2">
					{plans.map((p) => (
						<Button key={p} className="text-sm" onClick={() => set.mutate({ ...settings, next: [...t.next, p] })}>
							{w.plan[p]}
						</Button>
					))}
				</div>
				<Button variant="quiet" className="mt-1" disabled={t.next.length === 0} onClick={() => set.mutate({ ...settings, next: [] })}>
					{w.approveAll}
				</Button>
			</section>
			<label className="flex min-h-11 items-center gap-3">
				<input
					type="checkbox"
					className="h-5 w-5"
					checked={t.byCents}
					onChange={(e) => set.mutate({ ...settings, byCents: e.target.checked })}
				/>
				<span>{w.centsDecide}</span>
			</label>
			<ErrorMessage error={set.error} />
			{t.charges.length > 0 && (
				<section>
					<h2 className="m-0 mb-1 text-lg">{w.askedLately}</h2>
					<ul className="m-0 list-none p-0">
						{t.charges.map((c) => (
							<li key={c.key} className="num flex justify-between border-t border-rule py-1.5">
								<span>{money(c.amount, currency)}</span>
								<span className="text-soft">{w.says[c.says || "waiting"]}</span>
							</li>
						))}
					</ul>
				</section>
			)}
		</main>
	);
}
