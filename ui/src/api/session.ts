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
