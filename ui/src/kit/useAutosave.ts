import { useEffect, useRef, useState, useSyncExternalStore } from "react";
import { ProblemError } from "../api/client";
import { Autosave } from "./autosave";
import { waitingAt } from "./waiting";

/** Whether the same request can succeed later: the network or the server was gone. */
export const canRetry = (e: unknown) => e instanceof ProblemError && (e.problem.status < 400 || e.problem.status >= 500);

type Options<T, A> = {
	/** Where the browser keeps what is not sent, such as "record of …". */
	key: string;
	send: (value: T) => Promise<A>;
	onSaved?: (answer: A, sent: T, newest: boolean) => void;
	/** Whether what a reload found unsent may be brought back yet. */
	ready?: boolean;
	/** Gets what a reload found unsent; it is being sent. */
	onRestored?: (value: T) => void;
};

/** Saves as one types, on a screen. Leaving the screen sends what waits; the network's return sends it again. */
export function useAutosave<T, A>(options: Options<T, A>) {
	const now = useRef(options);
	now.current = options;
	const [saver] = useState(
		() =>
			new Autosave<T, A>({
				send: (v) => now.current.send(v),
				onSaved: (...a) => now.current.onSaved?.(...a),
				canRetry,
				waiting: waitingAt<T>(options.key),
			}),
	);
	const view = useSyncExternalStore(saver.subscribe, saver.view);
	const ready = options.ready ?? true;
	useEffect(() => {
		if (ready) void saver.restore().then((found) => found !== undefined && now.current.onRestored?.(found));
	}, [saver, ready]);
	useEffect(() => {
		const online = () => void saver.flush();
		window.addEventListener("online", online);
		return () => {
			window.removeEventListener("online", online);
			void saver.flush();
		};
	}, [saver]);
	return { ...view, put: saver.put, flush: saver.flush, forget: saver.forget };
}
