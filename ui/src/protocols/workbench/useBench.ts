import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useReducer, useRef, useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../../api/client";

export type Protocol = Schemas["Protocol"];
export type Step = Schemas["Step"];
export type Evaluation = Schemas["Evaluation"];

type History = { past: Protocol[]; now: Protocol; future: Protocol[] };
type Act = { do: "edit"; to: Protocol } | { do: "undo" } | { do: "redo" } | { do: "set"; to: Protocol };

function history(h: History, a: Act): History {
	switch (a.do) {
		case "edit":
			return { past: [...h.past.slice(-199), h.now], now: a.to, future: [] };
		case "undo": {
			const to = h.past.at(-1);
			return to ? { past: h.past.slice(0, -1), now: to, future: [h.now, ...h.future] } : h;
		}
		case "redo": {
			const to = h.future[0];
			return to ? { past: [...h.past, h.now], now: to, future: h.future.slice(1) } : h;
		}
		case "set":
			return { past: [], now: a.to, future: [] };
	}
}

/**
 * A protocol on the workbench: every edit is undoable, judged by the core at
 * once and kept as a draft a moment later.
 */
export function useBench(opened: Schemas["OpenedView"]) {
	const [h, act] = useReducer(history, { past: [], now: opened.protocol, future: [] });
	const [evaluation, setEvaluation] = useState<Evaluation>(opened.evaluation);
	const [fault, setFault] = useState<unknown>(null);
	const [draftState, setDraftState] = useState<"saved" | "waiting" | "saving" | "not saved">("saved");
	const [stale, setStale] = useState<Schemas["Draft"] | null>(null);
	const [drafted, setDrafted] = useState(opened.hasDraft);
	const revision = useRef(opened.revision);
	const basedOn = useRef(opened.basedOn);
	const saved = useRef(opened.protocol);
	const cache = useQueryClient();
	const asked = useRef(0);
	const judged = useRef(opened.protocol);

	// Judge every edit at once; an answer that has been overtaken is dropped.
	useEffect(() => {
		if (h.now === judged.current) return;
		const mine = ++asked.current;
		const gone = new AbortController();
		unwrap(api.POST("/api/evaluate", { body: { protocol: h.now }, signal: gone.signal }))
			.then((e) => {
				if (mine === asked.current) {
					judged.current = h.now;
					setEvaluation(e);
					setFault(null);
				}
			})
			.catch((e) => mine === asked.current && !gone.signal.aborted && setFault(e));
		return () => gone.abort();
	}, [h.now]);

	const keep = useCallback(
		async (p: Protocol) => {
			setDraftState("saving");
			try {
				const v = await unwrap(
					api.PUT("/api/protocols/{id}/draft", {
						params: { path: { id: opened.id } },
						body: { revision: revision.current, basedOn: basedOn.current, protocol: p },
					}),
				);
				revision.current = v.number;
				saved.current = p;
				setDraftState("saved");
				setDrafted(true);
			} catch (e) {
				setDraftState("not saved");
				if (e instanceof ProblemError && e.problem.code === "stale-draft" && e.problem.current) setStale(e.problem.current);
				else setFault(e);
			}
		},
		[opened.id],
	);

	// Keep a draft shortly after the last edit, one write at a time.
	useEffect(() => {
		if (h.now === saved.current || stale || draftState === "saving") return;
		setDraftState((k) => (k === "saved" ? "waiting" : k));
		const id = setTimeout(() => keep(h.now), 600);
		return () => clearTimeout(id);
	}, [h.now, draftState, keep, stale]);

	const unsaved = h.now !== saved.current;
	useEffect(() => {
		if (!unsaved) return;
		const ask = (e: BeforeUnloadEvent) => e.preventDefault();
		window.addEventListener("beforeunload", ask);
		return () => window.removeEventListener("beforeunload", ask);
	}, [unsaved]);

	const edit = useCallback((to: Protocol) => act({ do: "edit", to }), []);
	/** Takes a protocol that the core has changed and judged already. */
	const takeWhole = useCallback(
		(p: Protocol, e: Evaluation) => {
			judged.current = p;
			asked.current++;
			setEvaluation(e);
			edit(p);
		},
		[edit],
	);
	const fix = useMutation({
		mutationFn: (f: { finding: string; fix: string }) => unwrap(api.POST("/api/fix", { body: { protocol: h.now, ...f } })),
		onSuccess: (v) => takeWhole(v.protocol, v.evaluation),
	});
	const publish = useMutation({
		mutationFn: async () => {
			if (h.now !== saved.current) await keep(h.now);
			return unwrap(api.POST("/api/protocols/{id}/versions", { params: { path: { id: opened.id } } }));
		},
		onSuccess: (v) => {
			revision.current = 0;
			basedOn.current = v.number;
			setDrafted(false);
			for (const key of ["protocols", "protocol"]) cache.invalidateQueries({ queryKey: [key], refetchType: "none" });
		},
	});

	/** Settles a draft that was changed in another window. */
	function settle(mine: boolean) {
		if (!stale) return;
		revision.current = stale.revision;
		basedOn.current = stale.revision === 0 ? basedOn.current : stale.basedOn;
		if (!mine) {
			saved.current = stale.body;
			act({ do: "set", to: stale.body });
			setDraftState("saved");
		} else setDraftState("waiting");
		setStale(null);
	}

	return {
		protocol: h.now,
		evaluation,
		fault,
		draftState,
		stale,
		settle,
		drafted: drafted || unsaved,
		edit,
		undo: h.past.length > 0 ? () => act({ do: "undo" }) : undefined,
		redo: h.future.length > 0 ? () => act({ do: "redo" }) : undefined,
		fix,
		take: takeWhole,
		publish,
	};
}

/** Steps as they stand once their values are spelled out from the core's answer. */
export function withStep(p: Protocol, id: string, part: Partial<Step>): Protocol {
	return { ...p, steps: p.steps.map((s) => (s.id === id ? clean({ ...s, ...part }) : s)) };
}

// An undefined field means: the stroke's own.
export function clean(s: Step): Step {
	return Object.fromEntries(Object.entries(s).filter(([, v]) => v !== undefined)) as Step;
}
