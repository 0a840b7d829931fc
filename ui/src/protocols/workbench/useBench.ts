import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type SyntheticEvent, useCallback, useEffect, useRef, useState, useSyncExternalStore } from "react";
import { flushSync } from "react-dom";
import { api, ProblemError, type Schemas, unwrap } from "../../api/client";
import { canRetry } from "../../kit/useAutosave";
import { waitingAt } from "../../kit/waiting";
import { Engine, type Protocol } from "./engine";

export type { Evaluation, Protocol, Step } from "./engine";

/** The field that an input event writes to as one types; null for a choice made by a click. */
function typedInto(e: Pick<Event, "target">): HTMLTextAreaElement | HTMLInputElement | null {
	const el = e.target;
	if (el instanceof HTMLTextAreaElement) return el;
	return el instanceof HTMLInputElement && !/radio|checkbox|range|file/.test(el.type) ? el : null;
}

/** Brings back the text that was written into a field, where drawing it anew has put the one before in its place. */
function bringBack(field: HTMLTextAreaElement | HTMLInputElement, text: string) {
	if (field.value === text) return;
	// Not by the property that React has put over it: React would take the text for its own, and pass no change on.
	Object.getOwnPropertyDescriptor(Object.getPrototypeOf(field), "value")?.set?.call(field, text);
}

/** A protocol on the workbench: its engine, joined to the screen and to the server. */
export function useBench(opened: Schemas["OpenedView"]) {
	const [engine] = useState(
		() =>
			new Engine(opened, {
				save: (body) => unwrap(api.PUT("/api/protocols/{id}/draft", { params: { path: { id: opened.id } }, body })),
				fix: (body) => unwrap(api.POST("/api/protocols/{id}/draft/fix", { params: { path: { id: opened.id } }, body })),
				evaluate: (protocol) => unwrap(api.POST("/api/evaluate", { body: { protocol } })),
				staleDraft: (e) => (e instanceof ProblemError && e.problem.code === "stale-draft" ? e.problem.current : undefined),
				canRetry,
				waiting: waitingAt(`draft of ${opened.id}`),
			}),
	);
	const bench = useSyncExternalStore(engine.subscribe, engine.view);
	// An edit is drawn a moment after it is sent. What is pressed meanwhile must not be
	// worked out from the protocol as it was before.
	useEffect(() => {
		const first = (e: Event) => {
			if (!engine.tellsLater()) return;
			const into = e.type === "input" ? typedInto(e) : null;
			const text = into?.value;
			flushSync(engine.tell);
			if (into && text !== undefined) bringBack(into, text);
		};
		const events = ["pointerdown", "keydown", "input", "change", "click"] as const;
		for (const e of events) window.addEventListener(e, first, { capture: true });
		return () => {
			for (const e of events) window.removeEventListener(e, first, { capture: true });
		};
	}, [engine]);
	const cache = useQueryClient();

	const unsaved = bench.draftState !== "saved";
	useEffect(() => {
		if (!unsaved) return;
		const ask = (e: BeforeUnloadEvent) => e.preventDefault();
		window.addEventListener("beforeunload", ask);
		return () => window.removeEventListener("beforeunload", ask);
	}, [unsaved]);
	useEffect(() => {
		void engine.restore();
		return () => void engine.flush(); // another page is opened
	}, [engine]);

	// Which field is being typed into: its edits are one undo step.
	const field = useRef<HTMLElement | null>(null);
	const typing = {
		onInputCapture: (e: SyntheticEvent) => {
			field.current = typedInto(e.nativeEvent);
			setTimeout(() => {
				field.current = null;
			});
		},
		onBlurCapture: engine.endTyping,
	};
	const edit = useCallback((to: Protocol) => engine.edit(to, field.current, field.current?.dataset.showsItself !== undefined), [engine]);

	const fix = useMutation({ mutationFn: engine.fix });
	const publish = useMutation({
		mutationFn: async () => {
			await engine.flush();
			return unwrap(api.POST("/api/protocols/{id}/versions", { params: { path: { id: opened.id } } }));
		},
		onSuccess: (v) => {
			engine.published(v.number);
			for (const key of ["protocols", "protocol"]) cache.invalidateQueries({ queryKey: [key], refetchType: "none" });
		},
	});
	return {
		...bench,
		edit,
		typing,
		undo: bench.canUndo ? engine.undo : undefined,
		redo: bench.canRedo ? engine.redo : undefined,
		replace: engine.replace,
		settle: engine.settle,
		fix,
		publish,
	};
}
