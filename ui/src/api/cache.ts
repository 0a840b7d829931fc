import { QueryClient } from "@tanstack/react-query";
import { ProblemError } from "./client";

/** What was asked of the server, shared by all screens of a page. */
export const cache = new QueryClient({
	defaultOptions: {
		queries: {
			retry: (n, e) => n < 2 && !(e instanceof ProblemError && e.problem.status >= 400 && e.problem.status < 500),
			staleTime: 5_000,
		},
	},
});
