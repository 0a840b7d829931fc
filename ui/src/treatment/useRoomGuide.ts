import { useCallback, useEffect, useRef, useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { useAutosave } from "../kit/useAutosave";

type Progress = Schemas["Progress"];
type Evaluation = Schemas["Evaluation"];

/** Milliseconds between two moments that are shown: a circle of a second still looks round. */
const frame = 50;

/**
 * The room's place in the plan. It advances by itself, waits at the end of a
 * dose that is open, and is kept here and on the server, so that a reload lands
 * on the same step and moment.
 */
export function useRoomGuide(visitId: string, evaluation: Evaluation, stored: Progress, skew: number) {
	const nowMs = useCallback(() => Date.now() + skew, [skew]);
	const [progress, setProgress] = useState<Progress>(stored);
	const [at, setAt] = useState(() => positionOf(progress, nowMs()));
	const [waiting, setWaiting] = useState(false);
	const saver = useAutosave<Progress, unknown>({
		key: `place in ${visitId}`,
		send: (body) => unwrap(api.PUT("/api/visits/{id}/progress", { params: { path: { id: visitId } }, body })),
		onRestored: (found) => {
			if (new Date(found.since) <= new Date(stored.since)) return;
			setProgress(found);
			setAt(positionOf(found, nowMs()));
		},
	});
	const put = saver.put;
	const newest = useRef(progress);
	newest.current = progress;
	const total = evaluation.seconds;
	const index = Math.max(
		0,
		evaluation.visits.findIndex((v) => at < v.end - 0.001),
	);
	const ended = at >= total - 0.001;
	const visit = ended ? evaluation.visits.at(-1) : evaluation.visits[index];

	const go = useCallback(
		(position: number, running: boolean, skipped?: string[]) => {
			const next = {
				position: Math.max(0, Math.min(total, position)),
				running,
				since: new Date(nowMs()).toISOString(),
				skipped: skipped ?? newest.current.skipped,
			};
			newest.current = next;
			setWaiting(false);
			setProgress(next);
			setAt(next.position);
			put(next, 0);
		},
		[nowMs, put, total],
	);

	useEffect(() => {
		if (!progress.running) return;
		const begun = positionOf(progress, nowMs());
		// An open dose holds the plan at its end until the practitioner goes on.
		const from = evaluation.visits.findIndex((v) => progress.position < v.end - 0.001);
		const hold =
			evaluation.visits.slice(Math.max(0, from)).find((v) => evaluation.steps[v.step]!.open && v.end > progress.position + 0.5)?.end ??
			total;
		setAt(Math.min(begun, hold));
		const id = setInterval(() => {
			const t = positionOf(progress, nowMs());
			if (t >= hold - 0.01) {
				if (hold < total) setWaiting(true);
				setAt(hold - 0.01);
				if (hold >= total) go(total, false);
			} else setAt(t);
		}, frame);
		return () => clearInterval(id);
	}, [progress, evaluation, nowMs, total, go]);

	const starts = evaluation.visits;
	return {
		at,
		visit,
		index,
		ended,
		/** How often the step comes altogether. */
		rounds: visit ? starts.filter((v) => v.step === visit.step).length : 1,
		running: progress.running,
		begun: progress.running || progress.position > 0,
		waiting,
		sent: saver.state !== "not saved",
		skipped: progress.skipped,
		toggle: () => go(at, !progress.running),
		next: () => go(starts[index + 1] ? starts[index]!.end : total, progress.running || waiting),
		back: () => {
			const here = starts[index];
			// A moment into a step, back means its beginning; at the beginning, the step before.
			const to = here && at - here.start > 3 ? here : starts[Math.max(0, index - 1)];
			go(to ? to.start : 0, progress.running);
		},
		/** What is left of the plan goes undone, or all of it up to its closing, and is recorded as left out. */
		endHere: (toClosing: boolean) => {
			const closing = starts.findIndex((v, i) => i > index && ["close", "finish", "wake"].includes(evaluation.steps[v.step]!.phase));
			const until = toClosing && closing >= 0 ? closing : starts.length;
			const done = new Set(starts.filter((v, i) => i < index || v.end <= at || (i === index && at - v.start > 3)).map((v) => v.step));
			const undone = starts.slice(index, until).flatMap((v) => (done.has(v.step) ? [] : [evaluation.steps[v.step]!.id]));
			go(until < starts.length ? starts[until]!.start : total, until < starts.length && progress.running, [
				...new Set([...progress.skipped, ...undone]),
			]);
		},
		/** The closing that is still to come, in seconds; 0 where there is none. */
		closing: (() => {
			const i = starts.findIndex((v, n) => n > index && ["close", "finish", "wake"].includes(evaluation.steps[v.step]!.phase));
			return i < 0 ? 0 : total - starts[i]!.start;
		})(),
		skip: () => {
			const id = visit ? evaluation.steps[visit.step]!.id : "";
			go(starts[index + 1] ? starts[index]!.end : total, progress.running, [...new Set([...progress.skipped, id])]);
		},
	};
}

function positionOf(p: Progress, nowMs: number): number {
	return p.running ? p.position + Math.max(0, nowMs - new Date(p.since).getTime()) / 1000 : p.position;
}
