import { queryOptions } from "@tanstack/react-query";
import { api, unwrap } from "./client";

/** Who is signed in, and how far this device's clock is off the server's. */
export const sessionQuery = queryOptions({
	queryKey: ["session"],
	queryFn: async () => {
		const v = await unwrap(api.GET("/api/session"));
		return { ...v, skew: new Date(v.now).getTime() - Date.now() };
	},
	staleTime: Number.POSITIVE_INFINITY,
});

const key = "softpalm was inside";

/** Whether somebody was signed in here when a page was last opened, and this is a page for those who are. */
export function wasInside(): boolean {
	try {
		return !["/consultation", "/appointments", "/join"].includes(window.location.pathname) && localStorage.getItem(key) !== null;
	} catch {
		return false; // a browser that keeps nothing
	}
}

/** Notes for the next page whether somebody is signed in. */
export function noteInside(inside: boolean) {
	try {
		if (inside) localStorage.setItem(key, "yes");
		else localStorage.removeItem(key);
	} catch {
		// Then the next page fetches what it needs when it knows.
	}
}
