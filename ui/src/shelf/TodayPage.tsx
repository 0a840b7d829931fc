import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { dayListsQuery } from "../api/queries";
import { Button, ErrorMessage, Loading, Page } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/shelf";
import { dayItems } from "../words/sentences";
import { ShelfNav } from "./ShelfNav";

type Item = Schemas["DayItem"];

/** Opening and closing the day on one page: ticks, and in words only what is not well. */
export function TodayPage() {
	const lists = useQuery(dayListsQuery);
	if (!lists.data) return <Loading of={w.openAndClose} error={lists.error} retry={() => lists.refetch()} />;
	return (
		<Page title={w.openAndClose} action={<ShelfNav />}>
			<div className="mb-3 flex flex-wrap justify-end gap-4">
				<a
					className="inline-flex min-h-11 items-center underline underline-offset-4"
					href="/api/day-setup"
					target="_blank"
					rel="noreferrer"
				>
					{w.printTheSetUpList}
				</a>
				<Button className="no-print" onClick={() => window.print()}>
					{w.printTheLists}
				</Button>
			</div>
			<div className="grid gap-10 lg:grid-cols-2">
				<List name={w.opening} list="opening" items={lists.data.opening} />
				<List name={w.endOfDay} list="closing" items={lists.data.closing} />
			</div>
		</Page>
	);
}

function List({ name, list, items }: { name: string; list: "opening" | "closing"; items: Item[] }) {
	const cache = useQueryClient();
	const { at, may } = useSession();
	const [values, setValues] = useState<Record<string, string>>({});
	const tick = useMutation({
		mutationFn: (keys: string[]) =>
			unwrap(
				api.POST("/api/day-lists/{list}", {
					params: { path: { list } },
					body: { items: keys.map((key) => ({ key, ...(values[key] ? { value: values[key] } : {}) })) },
				}),
			),
		onSuccess: () => cache.invalidateQueries({ queryKey: dayListsQuery.queryKey }),
	});
	const open = items.filter((i) => !i.at);
	const ready = open.filter((i) => i.exceptions.length === 0 && (!i.asks || values[i.key]));
	const can = may("tick-day");
	return (
		<section aria-label={name}>
			<div className="flex items-center justify-between gap-4 border-b border-ink pb-1">
				<h2 className="m-0 text-2xl">{name}</h2>
				{can && open.length > 0 && (
					<Button
						variant={list === "opening" ? "primary" : "plain"}
						disabled={ready.length === 0 || tick.isPending}
						onClick={() => tick.mutate(ready.map((i) => i.key))}
					>
						{ready.length === open.length ? w.allIsWell : w.tickWhatIsWell({ n: ready.length })}
					</Button>
				)}
				{open.length === 0 && <span className="font-semibold text-kelp">{w.allDone}</span>}
			</div>
			<ErrorMessage error={tick.error} />
			<ul className="m-0 list-none p-0">
				{items.map((i) => (
					<li key={i.key} className="grid grid-cols-[44px_minmax(0,1fr)_auto] items-start gap-x-3 border-b border-rule py-1">
						<label className="grid min-h-11 place-content-center">
							<input
								type="checkbox"
								className="size-6 accent-kelp"
								aria-label={dayItems[i.key]}
								checked={Boolean(i.at)}
								disabled={!can || Boolean(i.at) || tick.isPending || (i.asks && !values[i.key])}
								onChange={() => tick.mutate([i.key])}
							/>
						</label>
						<div className="self-center">
							<p className={`m-0 ${i.at ? "text-soft" : "font-semibold"}`}>{dayItems[i.key]}</p>
							{!i.at &&
								i.exceptions.map((e) => (
									<p key={e} className="num m-0 text-sm text-persimmon-deep">
										{e}
									</p>
								))}
							{i.at && (
								<p className="num m-0 text-sm text-soft">
									{[i.value && w.degrees({ value: i.value }), i.by, at.time(i.at)].filter(Boolean).join(" · ")}
								</p>
							)}
						</div>
						<div className="no-print flex items-center gap-2">
							{i.asks && !i.at && (
								<input
									className="field num w-20 text-right"
									inputMode="decimal"
									aria-label={w.temperatureOf({ of: dayItems[i.key] ?? "" })}
									placeholder="°C"
									value={values[i.key] ?? ""}
									onChange={(e) => setValues({ ...values, [i.key]: e.target.value })}
									onKeyDown={(e) => e.key === "Enter" && values[i.key] && tick.mutate([i.key])}
								/>
							)}
							{!i.at && i.exceptions.length > 0 && i.leads && i.leads !== "/shelf/today" && (
								<Link to={i.leads as "/shelf"} className="inline-flex min-h-11 items-center underline underline-offset-4">
									{w.goThere}
								</Link>
							)}
						</div>
					</li>
				))}
			</ul>
		</section>
	);
}
