import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useSearch } from "@tanstack/react-router";
import { useMemo, useRef, useState } from "react";
import { api, type Schemas, unwrap } from "../../api/client";
import { protocolsQuery } from "../../api/queries";
import { newId } from "../../kit/format";
import { Button, ErrorMessage, Field, Page } from "../../kit/kit";
import { useSession } from "../../kit/session";
import { Who } from "../../kit/Who";
import * as w from "../../words/catalogue/series";
import { Said } from "./Line";
import { andList, relaxed } from "./say";
import { usePaused } from "./usePaused";

type Guest = { client: string; protocol: string; with: string };
type Offer = Schemas["TogetherOffer"];
type Limit = Schemas["RelaxedLimit"];

/** Two clients who come together: one start, other hands, one room for both or two; booked both or neither. */
export function TogetherPage() {
	const { at } = useSession();
	const search = useSearch({ from: "/shell/book/together" });
	const all = useQuery(protocolsQuery);
	const protocols = useMemo(() => (all.data ?? []).filter((p) => p.version > 0), [all.data]);
	const first = protocols[0]?.id ?? "";
	const [guests, setGuests] = useState<Guest[]>([
		{ client: search.client ?? "", protocol: "", with: "" },
		{ client: "", protocol: "", with: "" },
	]);
	const [when, setWhen] = useState("");
	const [relax, setRelax] = useState<Limit[]>([]); // limits that give way
	const question = usePaused(
		useMemo(
			() => ({ when, relax: relax.map((l) => l.name), who: guests.map((g) => ({ ...g, protocol: g.protocol || first })) }),
			[when, relax, guests, first],
		),
		250,
	);
	const ready = first !== "" && question.who.every((g) => g.client !== "");
	const found = useQuery({
		queryKey: ["series", "together", question],
		queryFn: () => unwrap(api.POST("/api/together/find", { body: question })),
		enabled: ready,
		retry: false,
	});
	const cache = useQueryClient();
	const request = useRef("");
	const book = useMutation({
		mutationFn: (o: Offer) => {
			request.current ||= newId();
			return unwrap(
				api.POST("/api/together", {
					body: {
						id: request.current,
						...question,
						visits: o.visits.map((v) => ({ kind: v.kind, n: v.n, start: v.wall, practitioner: v.practitioner, room: v.room })),
					},
				}),
			);
		},
		onError: () => {
			request.current = "";
		},
		onSettled: () => {
			for (const key of ["free", "day", "client", "clients", "series", "week", "strips"]) cache.invalidateQueries({ queryKey: [key] });
		},
	});
	const change = (i: number, part: Partial<Guest>) => {
		setRelax([]);
		setGuests((was) => was.map((g, k) => (k === i ? { ...g, ...part } : g)));
	};
	return (
		<Page
			title={w.twoTogether}
			action={
				<Link to="/book" search={{}} className="inline-flex min-h-11 items-center font-semibold underline underline-offset-4">
					{w.oneAlone}
				</Link>
			}
			data-own-shortcuts
		>
			<div className="grid gap-x-8 gap-y-4 border-b border-rule pb-4 lg:grid-cols-3">
				{guests.map((g, i) => (
					// the place is what tells the two apart
					<fieldset key={i === 0 ? "first" : "second"} className="m-0 grid content-start gap-2 border-0 p-0">
						<legend className="sr-only">{i === 0 ? w.theFirst : w.theSecond}</legend>
						<Who atOnce client={g.client} onChange={(client) => change(i, { client })} />
						<Field label={w.what}>
							{(a) => (
								<select {...a} className="field" value={g.protocol || first} onChange={(e) => change(i, { protocol: e.target.value })}>
									{protocols.map((p) => (
										<option key={p.id} value={p.id}>
											{p.name}
										</option>
									))}
								</select>
							)}
						</Field>
						<Said
							label={w.withWhom}
							hint={w.withHint}
							value={g.with}
							heard={found.data?.with[i] ?? []}
							people={found.data?.people ?? []}
							onChange={(v) => change(i, { with: v })}
						/>
					</fieldset>
				))}
				<Said
					label={w.when}
					hint={w.whenHint}
					value={when}
					heard={found.data?.when ?? []}
					people={found.data?.people ?? []}
					onChange={(v) => {
						setRelax([]);
						setWhen(v);
					}}
				/>
			</div>
			<ErrorMessage error={found.error ?? book.error} />
			{!ready && <p className="mt-8 text-center text-lg text-soft">{w.chooseBoth}</p>}
			{book.data ? (
				<div role="status" className="mt-4 max-w-3xl border-l-4 border-kelp bg-kelp-pale p-4">
					<p className="num m-0 font-serif text-2xl font-semibold">
						{w.isBooked}: {book.data[0] && `${at.date(book.data[0].startsAt)}, ${at.time(book.data[0].startsAt)}`}
					</p>
					{book.data.map((v) => (
						<p key={v.id} className="m-0 mt-1">
							<Link to="/visits/$id" params={{ id: v.id }} className="font-semibold underline underline-offset-4">
								{v.clientName}
							</Link>
							, {v.protocolName}, {v.practitionerName}, {v.roomName}
						</p>
					))}
				</div>
			) : (
				<>
					{ready && (found.data?.patch.length ?? 0) > 0 && (
						<p className="mb-0 text-soft">{w.patchFirst({ names: andList(found.data?.patch ?? []) })}</p>
					)}
					{ready && relax.length > 0 && <p className="mb-0 text-soft">{w.relaxedNow({ limits: relaxed(relax) })}</p>}
					{ready && found.data?.offers.length === 0 && <NoTime answer={found.data} onRelax={setRelax} />}
					<ul aria-busy={found.isFetching} className="m-0 list-none p-0 aria-busy:opacity-50">
						{ready &&
							found.data?.offers.map((o, i) => (
								<li
									key={o.visits.at(-1)?.wall}
									className="flex flex-wrap items-center justify-between gap-x-6 gap-y-2 border-b border-rule py-4"
								>
									<div>
										<p className={`num m-0 font-serif font-semibold ${i === 0 ? "text-3xl" : "text-xl"}`}>
											{at.long(o.visits.at(-1)?.start ?? "")}, {at.time(o.visits.at(-1)?.start ?? "")}
										</p>
										{o.visits.map((v) => (
											<p key={`${v.kind}${v.n}`} className="num m-0">
												{found.data?.names[v.n - 1]}:{" "}
												{v.kind === "patch"
													? w.patchTestAt({ day: at.date(v.start), time: at.time(v.start), name: v.practitionerName })
													: `${v.protocolName}, ${v.practitionerName}, ${v.roomName}`}
											</p>
										))}
									</div>
									<Button
										variant={i === 0 ? "primary" : "plain"}
										disabled={book.isPending || found.isFetching}
										onClick={() => book.mutate(o)}
									>
										{w.bookBoth}
									</Button>
								</li>
							))}
					</ul>
				</>
			)}
		</Page>
	);
}

/** Where there is no time for both: what would have to give way, for each what it gives. */
function NoTime({ answer, onRelax }: { answer: Schemas["TogetherAnswer"]; onRelax: (limits: Limit[]) => void }) {
	const { at } = useSession();
	return (
		<div className="max-w-3xl">
			<p className="mt-4 mb-0 font-serif text-3xl font-semibold">{w.noTimeTogether}</p>
			<p className="mt-1">
				{answer.relax.length > 0 ? (answer.relax[0]!.limits.length > 1 ? w.toGiveWayTogether : w.toGiveWay) : w.noTimeEven}
			</p>
			<ul className="m-0 list-none p-0">
				{answer.relax.map((r) => (
					<li key={relaxed(r.limits)} className="flex items-center justify-between gap-4 border-b border-rule py-2">
						<span>
							<strong>{relaxed(r.limits)}</strong>
							<span className="num block">
								{at.long(r.visits.at(-1)?.start ?? "")}, {at.time(r.visits.at(-1)?.start ?? "")}
							</span>
						</span>
						<Button onClick={() => onRelax(r.limits)}>{w.useThis}</Button>
					</li>
				))}
			</ul>
		</div>
	);
}
