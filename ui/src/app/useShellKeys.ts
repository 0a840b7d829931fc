import { useNavigate } from "@tanstack/react-router";
import { useEffect } from "react";

type Keys = {
	/** The places in their order. */
	places: readonly string[];
	/** The page of the next client, undefined where there is none. */
	next: string | undefined;
	onSheet: () => void;
	onStrip: () => void;
};

/** The shortcuts of every screen but the treatment room. A page that has a sheet of its own shows that. */
export function useShellKeys({ places, next, onSheet, onStrip }: Keys) {
	const go = useNavigate();
	useEffect(() => {
		const key = (e: KeyboardEvent) => {
			const on = e.target instanceof HTMLElement ? e.target : document.body;
			const writing = on.isContentEditable || ["INPUT", "TEXTAREA", "SELECT"].includes(on.tagName);
			if (e.ctrlKey || e.metaKey || on.closest("[role=dialog]")) return;
			if (e.altKey) {
				const place = places[Number(e.key) - 1];
				if (place) void go({ to: place });
				else if (e.code === "KeyN" && next) void go({ to: "/visits/$id", params: { id: next } });
				else if (e.code === "KeyT") onStrip();
				else return;
				e.preventDefault();
				return;
			}
			if (e.key === "?" && !writing && !document.querySelector("[data-own-shortcuts]")) {
				e.preventDefault();
				onSheet();
			}
		};
		window.addEventListener("keydown", key);
		return () => window.removeEventListener("keydown", key);
	}, [places, next, onSheet, onStrip, go]);
}
