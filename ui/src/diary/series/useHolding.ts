import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../../api/client";
import { newId } from "../../kit/format";
import type { Asked } from "./Line";
import { questionOf } from "./question";
import type { Offer } from "./say";

type View = Schemas["SeriesView"];

/** Holds the series that is offered, books it, sends it to its client or lets it go. */
export function useHolding(asked: Asked, relax: string[], offer: Offer | undefined, setOwn: (o: Offer | null) => void) {
	const [held, setHeld] = useState<View | null>(null);
	const [booked, setBooked] = useState<View | null>(null);
	const [sent, setSent] = useState<View | null>(null);
	const request = useRef("");
	const cache = useQueryClient();
	const refresh = () => {
		for (const key of ["free", "day", "client", "clients", "series", "holds", "week"]) cache.invalidateQueries({ queryKey: [key] });
	};
	const act = { onSettled: refresh };
	const path = (id: string) => ({ params: { path: { id } } });
	const hold = useMutation({
		mutationFn: async (o: Offer) => {
			request.current = newId();
			const visits = o.visits.map((v) => ({ kind: v.kind, n: v.n, start: v.wall, practitioner: v.practitioner, room: v.room }));
			return unwrap(api.POST("/api/series", { body: { id: request.current, ...questionOf(asked), relax, visits } }));
		},
		onSuccess: (v, o) => {
			setOwn(o); // what is held is busy now: the finder would answer something else
			setHeld(v);
		},
		onError: () => {
			setOwn(null);
			refresh();
		},
	});
	const book = useMutation({
		mutationFn: async () => {
			const id = held?.id ?? (offer ? (await hold.mutateAsync(offer)).id : "");
			return unwrap(api.POST("/api/series/{id}/book", path(id)));
		},
		onSuccess: (v) => {
			setBooked(v);
			setHeld(null);
		},
		...act,
	});
	const release = useMutation({
		mutationFn: (id: string) => unwrap(api.POST("/api/series/{id}/release", path(id))),
		onSuccess: () => {
			setHeld(null);
			setOwn(null);
		},
		...act,
	});
	const renew = useMutation({
		mutationFn: (id: string) => unwrap(api.POST("/api/series/{id}/renew", path(id))),
		onSuccess: setHeld,
	});
	const send = useMutation({
		mutationFn: (id: string) => unwrap(api.POST("/api/series/{id}/send", path(id))),
		onSuccess: (v) => {
			setSent(v);
			setHeld(null);
		},
		...act,
	});
	const begin = () => {
		setBooked(null);
		setSent(null);
		for (const m of [hold, book, send]) m.reset();
		if (held) release.mutate(held.id);
	};
	const failed = [hold.error, book.error].find((e) => e instanceof ProblemError && e.problem.code === "series-taken") as
		| ProblemError
		| undefined;
	const error = failed ? undefined : (hold.error ?? book.error ?? release.error ?? renew.error ?? send.error);
	/** Over says that the question is answered: booked, or sent to the client. */
	return { held, booked, sent, over: Boolean(booked || sent), hold, book, release, renew, send, begin, failed, error, refresh };
}
