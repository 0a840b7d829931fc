import { useInfiniteQuery, useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { amountShown, money } from "../kit/format";
import { Button, ErrorMessage, Loading } from "../kit/kit";
import { LongList } from "../kit/LongList";
import { ReasonForm } from "../kit/ReasonForm";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/shelf";
import { movementKinds } from "../words/sentences";
import { wasteReasons } from "./PackForms";

type Movement = Schemas["MovementView"];

/** What a page of movements holds at most; fewer are the last. */
const pageSize = 40;

/** What came in and went out, newest first. Entries are taken back, never changed. */
export function Movements({ product, unit, currency }: { product: string; unit: string; currency: string }) {
	const { at, may } = useSession();
	const cache = useQueryClient();
	const list = useInfiniteQuery({
		queryKey: ["shelf", "movements", product],
		initialPageParam: undefined as string | undefined,
		queryFn: ({ pageParam }) =>
			unwrap(api.GET("/api/products/{id}/movements", { params: { path: { id: product }, query: pageParam ? { before: pageParam } : {} } })),
		getNextPageParam: (page: Movement[]) => (page.length < pageSize ? undefined : page.at(-1)?.at),
	});
	const [taking, setTaking] = useState<string | null>(null);
	const back = useMutation({
		mutationFn: (note: string) => unwrap(api.POST("/api/movements/{id}/counter", { params: { path: { id: taking! } }, body: { note } })),
		onSuccess: () => {
			cache.invalidateQueries({ queryKey: ["shelf"] });
			setTaking(null);
		},
	});
	if (!list.data) return <Loading of={w.history} error={list.error} retry={() => list.refetch()} />;
	const rows = list.data.pages.flat();
	if (rows.length === 0) return <p className="m-0">{w.nothingCameInYet}</p>;
	return (
		<>
			<LongList
				className="text-sm"
				rows={rows}
				keyOf={(m) => m.id}
				height={66}
				keep={taking ?? undefined}
				row={(m) => (
					<div className={`border-b border-dotted border-rule py-1.5 ${m.countered ? "text-soft line-through decoration-1" : ""}`}>
						<div className="flex justify-between gap-3">
							<span>
								<span className="font-semibold">{movementKinds[m.kind] ?? m.kind}</span> {at.date(m.at)}
							</span>
							<span className="num whitespace-nowrap">
								{Number(m.amount) > 0 ? "+" : "−"}
								{Math.abs(amountShown(m.amount))} {unit} · {money(String(Math.abs(Number(m.value))), currency)}
							</span>
						</div>
						<div className="flex justify-between gap-3 text-soft">
							<span>
								{[
									w.lotAndPack({ lot: m.lot, pack: m.pack }),
									m.client,
									m.by,
									m.reason in wasteReasons ? wasteReasons[m.reason as keyof typeof wasteReasons] : "",
									m.note,
									m.sure ? "" : w.likely,
								]
									.filter(Boolean)
									.join(" · ")}
							</span>
							{may("counter-movement") && !m.countered && !["counter", "make", "made", "receive"].includes(m.kind) && (
								<button type="button" className="min-h-8 whitespace-nowrap underline underline-offset-4" onClick={() => setTaking(m.id)}>
									{w.takeBack}
								</button>
							)}
						</div>
						{taking === m.id && (
							<>
								<ReasonForm
									label={w.whyIsItTakenBack}
									button={w.takeBack}
									onLeave={() => setTaking(null)}
									onReason={(r) => back.mutate(r)}
								/>
								<ErrorMessage error={back.error} />
							</>
						)}
					</div>
				)}
			/>
			{list.hasNextPage && (
				<Button className="mt-2" onClick={() => list.fetchNextPage()} disabled={list.isFetchingNextPage}>
					{w.olderEntries}
				</Button>
			)}
		</>
	);
}
