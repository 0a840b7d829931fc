import "@fontsource-variable/alegreya/wght.css";
import "@fontsource-variable/atkinson-hyperlegible-next/wght.css";
import "../styles.css";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { setNonce } from "get-nonce";
import { lazy, StrictMode, Suspense } from "react";
import { createRoot } from "react-dom/client";
import { ProblemError } from "../api/client";
import { sessionQuery, wasInside } from "../api/session";

// Dialogs keep the page behind them still with a style of their own, which the policy allows by this page's nonce.
setNonce(document.querySelector<HTMLMetaElement>('meta[name="style-nonce"]')?.content ?? "");

const cache = new QueryClient({
	defaultOptions: {
		queries: {
			retry: (n, e) => n < 2 && !(e instanceof ProblemError && e.problem.status >= 400 && e.problem.status < 500),
			staleTime: 5_000,
		},
	},
});

// A client's private link needs no account and leads nowhere else: a phone loads its page and nothing of the studio's.
// So does the link with which somebody chooses a password.
const Page =
	window.location.pathname === "/consultation"
		? lazy(async () => ({ default: (await import("../checks/LinkPage")).LinkPage }))
		: window.location.pathname === "/appointments"
			? lazy(async () => ({ default: (await import("../portal/AppointmentsPage")).AppointmentsPage }))
			: window.location.pathname === "/join"
				? lazy(async () => ({ default: (await import("../house/JoinPage")).JoinPage }))
				: lazy(async () => ({ default: (await import("./Studio")).Studio }));

// What every page asks first, and what whoever was signed in last will need, is fetched before anything is drawn.
void cache.prefetchQuery(sessionQuery);
if (wasInside()) void import("./Inside");

createRoot(document.getElementById("root")!).render(
	<StrictMode>
		<QueryClientProvider client={cache}>
			<Suspense fallback={null}>
				<Page />
			</Suspense>
		</QueryClientProvider>
	</StrictMode>,
);
