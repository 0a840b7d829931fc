import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useEffect, useRef, useState } from "react";
import type { Schemas } from "../api/client";
import { libraryQuery, reactionsQuery } from "../api/queries";
import { dayWords } from "../kit/format";
import { Badge, Button, Loading } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/treatment";
import { reactionGradeWords, reactionKindWords, reactionNowWords, reactionOutcomeWords, theZone } from "../words/sentences";
import { CloseReaction, FollowUpForm } from "./FollowUpForm";
import { ReactionForm } from "./ReactionForm";

type Reaction = Schemas["ReactionView"];

const barWords: Record<string, string> = {
	free: w.barFree,
	ask: w.barAsk,
	"blocked-until-patch": w.barPatch,
	blocked: w.barBlocked,
};

/** A client's reactions: what was noticed, what follows for the products, and when to ask again. */
export function Reactions({ client }: { client: string }) {
	const { may } = useSession();
	const list = useQuery(reactionsQuery(client));
	const [opening, setOpening] = useState(false);
	const cache = useQueryClient();
	const here = useRef<HTMLElement>(null);
	const changed = () => {
		for (const key of [["reactions", client], ["client", client], ["inbox"], ["shelf"], ["plan"], ["visit"]])
			cache.invalidateQueries({ queryKey: key });
	};
	const there = Boolean(list.data);
	useEffect(() => {
		if (there && window.location.hash === "#reactions") here.current?.scrollIntoView({ block: "start" });
	}, [there]);
	if (!list.data) return <Loading of={w.reactions} error={list.error} retry={() => list.refetch()} />;
	return (
		<section ref={here} id="reactions" aria-label={w.reactions} className="mt-8 scroll-mt-28">
			<div className="flex items-center justify-between gap-3">
				<h2 className="m-0 text-2xl">{w.reactions}</h2>
				{may("open-reaction") && !opening && <Button onClick={() => setOpening(true)}>{w.recordReaction}</Button>}
			</div>
			{opening && (
				<ReactionForm
					client={client}
					onCancel={() => setOpening(false)}
					onSaved={() => {
						setOpening(false);
						changed();
					}}
				/>
			)}
			{list.data.length === 0 && !opening && <p className="mt-1 text-sm text-soft">{w.noReactionsYet}</p>}
			{list.data.map((r) => (
				<One key={r.id} reaction={r} onChanged={changed} />
			))}
		</section>
	);
}

function One({ reaction: r, onChanged }: { reaction: Reaction; onChanged: () => void }) {
	const { at, may } = useSession();
	const library = useQuery(libraryQuery);
	const [doing, setDoing] = useState<"" | "ask" | "close">("");
	const next = r.closedAt ? undefined : r.followUps.find((f) => !f.doneAt);
	const asked = r.followUps.filter((f) => f.doneAt);
	const zones = r.zones.map((p) =>
		theZone(library.data?.zones.find((z) => z.key === p.zone)?.name ?? p.zone, p.side === "both" ? "" : (p.side ?? "")),
	);
	const done = () => {
		setDoing("");
		onChanged();
	};
	const barred = r.products.filter((p) => p.bar !== "free");
	return (
		<article className="border-b border-rule py-3">
			<div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
				<span className="num w-28 text-sm">{at.date(r.noticedAt)}</span>
				<span className="font-serif text-xl font-semibold">{reactionKindWords[r.kind] ?? r.kind}</span>
				<Badge tone={r.grade >= 2 ? "not-here" : r.grade === 1 ? "not-before" : "plain"}>{w.gradeOf({ n: r.grade })}</Badge>
				<span className="text-sm text-soft">{reactionGradeWords[r.grade]}</span>
				<span className="ml-auto flex flex-wrap items-center gap-3">
					{may("print-reaction") && (
						<a
							className="inline-flex min-h-11 items-center underline decoration-rule underline-offset-4"
							href={`/api/reactions/${r.id}/paper`}
							target="_blank"
							rel="noreferrer"
						>
							{w.reportPdf}
						</a>
					)}
					{!r.closedAt && !doing && may("close-reaction") && <Button onClick={() => setDoing("close")}>{w.closeReaction}</Button>}
					{next && !doing && may("answer-follow-up") && (
						<Button variant="primary" onClick={() => setDoing("ask")}>
							{w.askNow}
						</Button>
					)}
				</span>
			</div>
			<p className="m-0 ml-32 text-sm">
				{[
					w.noticedAtBy({
						day: `${at.date(r.noticedAt)}, ${at.time(r.noticedAt)}`,
						by: r.noticedBy.toLowerCase() === w.theClient.toLowerCase() ? w.theClient.toLowerCase() : r.noticedBy,
					}),
					r.protocol ? w.afterProtocol({ protocol: r.protocol }) : "",
					zones.join(", "),
					r.done,
				]
					.filter(Boolean)
					.join(" · ")}
			</p>
			{barred.length > 0 && (
				<ul className="m-0 mt-2 ml-32 list-none p-0 text-sm" aria-label={w.whatFollows}>
					{barred.map((p) => (
						<li key={`${p.product}${p.lotId}`} className="flex flex-wrap gap-x-3">
							<span className="font-semibold">{p.name}</span>
							<span>{barWords[p.bar]}</span>
							{p.lot && (
								<span className={p.setAside ? "font-semibold text-persimmon-deep" : "text-soft"}>
									{p.setAside ? w.lotSetAside({ lot: p.lot }) : w.lotIs({ lot: p.lot })}
								</span>
							)}
						</li>
					))}
				</ul>
			)}
			{asked.length > 0 && (
				<ul className="m-0 mt-2 ml-32 list-none p-0 text-sm">
					{asked.map((f) => (
						<li key={f.n}>
							<span className="num">
								{w.askedOn({
									day: `${at.date(f.doneAt ?? "")}, ${at.time(f.doneAt ?? "")}`,
									now: [
										(reactionNowWords[f.now ?? ""] ?? "").toLowerCase(),
										f.grade === undefined ? "" : w.gradeOf({ n: f.grade }).toLowerCase(),
									]
										.filter(Boolean)
										.join(", "),
								})}
							</span>
							{f.note && <span className="text-soft"> · {f.note}</span>}
						</li>
					))}
				</ul>
			)}
			{next && !doing && (
				<p className="num m-0 mt-2 ml-32 text-sm font-semibold">
					{w.nextFollowUp({ day: at.date(next.dueAt), time: at.time(next.dueAt) })}
				</p>
			)}
			{r.closedAt && (
				<p className="num m-0 mt-2 ml-32 text-sm text-soft">
					{w.closedAs({ day: at.date(r.closedAt), outcome: (reactionOutcomeWords[r.outcome ?? ""] ?? "").toLowerCase() })}
					{r.note && ` · ${r.note}`}
				</p>
			)}
			{r.others.length > 0 && !r.closedAt && (
				<details className="mt-2 ml-32 text-sm">
					<summary className="min-h-11 cursor-pointer py-2 font-semibold">
						{w.othersWithLot} ({r.others.length})
					</summary>
					<ul className="m-0 list-none p-0">
						{r.others.map((o) => (
							<li key={o.id}>
								<Link
									to="/people/$id"
									params={{ id: o.id }}
									className="inline-flex min-h-8 items-center underline decoration-rule underline-offset-4"
								>
									{o.name}
								</Link>{" "}
								<span className="num text-soft">
									{o.phone} · {w.lastOn({ day: dayWords(o.day) })}
								</span>
							</li>
						))}
					</ul>
				</details>
			)}
			{doing === "ask" && next && <FollowUpForm reaction={r.id} n={next.n} onSaved={done} onCancel={() => setDoing("")} />}
			{doing === "close" && <CloseReaction reaction={r.id} onSaved={done} onCancel={() => setDoing("")} />}
		</article>
	);
}
