import { useEffect, useRef } from "react";

const focusable = (e: HTMLElement) => {
	if (e.tabIndex < 0 && !e.hasAttribute("tabindex")) e.setAttribute("tabindex", "-1");
	e.focus({ preventScroll: true });
};

/**
 * Keeps the keyboard where the act was. When what had the focus is gone (a button that did its work, a form that was
 * saved), the focus goes to what stood round it; when the page changes, to the new page.
 */
export function useKeptFocus(path: string) {
	useEffect(() => {
		let around: HTMLElement[] = [];
		const noted = (e: FocusEvent) => {
			around = [];
			for (let n = e.target instanceof HTMLElement ? e.target : null; n; n = n.parentElement) around.push(n);
		};
		const lost = new MutationObserver(() => {
			const had = around[0];
			if (!had || (had.isConnected && !had.matches(":disabled")) || (document.activeElement && document.activeElement !== document.body))
				return;
			const left = around.find((n) => n.isConnected && !n.matches(":disabled"));
			around = [];
			if (!left || left.closest("[data-radix-portal]")) return;
			const page = document.querySelector("main");
			focusable(page && left.contains(page) ? page : left);
		});
		document.addEventListener("focusin", noted);
		lost.observe(document.body, { childList: true, subtree: true, attributeFilter: ["disabled"] });
		return () => {
			document.removeEventListener("focusin", noted);
			lost.disconnect();
		};
	}, []);
	const first = useRef(true);
	useEffect(() => {
		if (first.current) {
			first.current = false;
			return;
		}
		// The page is loaded when it is first opened: it may come a moment later. Who has gone on meanwhile is left alone.
		let went = false;
		const goes = () => {
			went = true;
		};
		const acts = ["pointerdown", "keydown", "input"] as const;
		for (const act of acts) document.addEventListener(act, goes, true);
		const tries = [0, 50, 200, 600].map((ms) =>
			setTimeout(() => {
				const page = document.querySelector("main");
				if (!went && page && !page.contains(document.activeElement)) focusable(page);
			}, ms),
		);
		return () => {
			for (const act of acts) document.removeEventListener(act, goes, true);
			tries.forEach(clearTimeout);
		};
	}, [path]);
}
