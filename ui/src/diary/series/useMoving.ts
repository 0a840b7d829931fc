import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { type KeyboardEvent, useEffect, useRef, useState } from "react";
import type { Schemas } from "../../api/client";
import { dayOf, type Offered, timeOf } from "./say";

export type Spot = { start: string; practitioner: string };

/** What moving a visit asks of the server: where it could be, how the rest is laid then, and why it cannot be. */
export type Asking = {
	key: readonly unknown[];
	times: (n: number) => Promise<Offered[]>;
	lay: (n: number, at: Spot) => Promise<Schemas["SeriesAnswer"]>;
	why: (n: number, at: Spot) => Promise<Schemas["WhyNot"]>;
};

const minutes = (v: Offered) => Number(timeOf(v.wall).slice(0, 2)) * 60 + Number(timeOf(v.wall).slice(3));

/** The time nearest in hour and hands on the next day that has one, in a direction. */
function sideways(times: readonly Offered[], at: Offered, step: 1 | -1): Offered | undefined {
	const days = [...new Set(times.map((t) => dayOf(t.wall)))].sort();
	const next = step > 0 ? days.find((d) => d > dayOf(at.wall)) : days.filter((d) => d < dayOf(at.wall)).at(-1);
	const there = times.filter((t) => dayOf(t.wall) === next);
	const cost = (t: Offered) => Math.abs(minutes(t) - minutes(at)) + (t.practitioner === at.practitioner ? 0 : 5);
	return there.sort((a, b) => cost(a) - cost(b))[0];
}

/** The next time of the day, up to later ones. */
function upwards(times: readonly Offered[], at: Offered, step: 1 | -1): Offered | undefined {
	const there = times.filter((t) => dayOf(t.wall) === dayOf(at.wall));
	const i = there.findIndex((t) => t.wall === at.wall && t.practitioner === at.practitioner);
	return there[i + step] ?? (i < 0 ? there[0] : undefined);
}

/** Moving one visit of a series by arrow keys, with what follows from each step. */
export function useMoving(ask: Asking, visits: readonly Offered[]) {
	const [moving, setMoving] = useState<{ n: number; at: Offered } | null>(null);
	const n = moving?.n ?? 0;
	const stands = visits.find((v) => v.kind === "treatment" && v.n === n);
	const away = moving !== null && (stands?.wall !== moving.at.wall || stands.practitioner !== moving.at.practitioner);
	const spot = moving ? { start: moving.at.wall, practitioner: moving.at.practitioner } : { start: "", practitioner: "" };
	const times = useQuery({
		queryKey: ["series times", ...ask.key, n],
		queryFn: () => ask.times(n),
		enabled: moving !== null,
		staleTime: 10_000,
	});
	const laid = useQuery({
		queryKey: ["series laid", ...ask.key, n, spot],
		queryFn: () => ask.lay(n, spot),
		enabled: away,
		placeholderData: keepPreviousData,
		staleTime: 10_000,
	});
	const none = away && !laid.isPlaceholderData && laid.data?.status === "none";
	const why = useQuery({ queryKey: ["series why", ...ask.key, n, spot], queryFn: () => ask.why(n, spot), enabled: none });
	const begin = (on: number) => {
		const v = visits.find((x) => x.kind === "treatment" && x.n === on);
		early.current = [];
		if (v) setMoving({ n: on, at: v });
	};
	const go = (to: Offered | undefined) => moving && to && setMoving({ ...moving, at: to });
	const list = times.data ?? [];
	const early = useRef<string[]>([]); // arrow keys pressed before the times had come
	const step = (key: string, at: Offered) =>
		({
			ArrowRight: () => sideways([...list], at, 1),
			ArrowLeft: () => sideways([...list], at, -1),
			ArrowUp: () => upwards(list, at, 1),
			ArrowDown: () => upwards(list, at, -1),
		})[key];
	/** Takes the arrow keys while a visit is moved. */
	const onKey = (e: KeyboardEvent | globalThis.KeyboardEvent): boolean => {
		const to = moving && step(e.key, moving.at);
		if (!to) return false;
		if (times.data) go(to());
		else early.current.push(e.key);
		return true;
	};
	useEffect(() => {
		if (!moving || !times.data || early.current.length === 0) return;
		const keys = early.current;
		early.current = [];
		setMoving({ ...moving, at: keys.reduce((at, k) => step(k, at)?.() ?? at, moving.at) });
	});
	const answer = away && laid.data && !laid.isPlaceholderData ? laid.data : undefined;
	return {
		moving,
		begin,
		stop: () => setMoving(null),
		go,
		times: list,
		pending: moving !== null && (times.isPending || (away && (laid.isPending || laid.isPlaceholderData))),
		/** The series laid round the moved visit, where there is one. */
		best: answer?.best,
		answer,
		why: none ? why.data : undefined,
		error: times.error ?? laid.error,
		onKey,
	};
}
