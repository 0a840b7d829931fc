import "@fontsource-variable/alegreya/wght.css";
import "@fontsource-variable/atkinson-hyperlegible-next/wght.css";
import "../styles.css";
import { QueryClientProvider } from "@tanstack/react-query";
import { setNonce } from "get-nonce";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { cache } from "../api/cache";
import { sessionQuery } from "../api/session";

/** What the server tells in the page itself. */
const told = (name: string) => document.querySelector<HTMLMetaElement>(`meta[name="${name}"]`)?.content ?? "";

// Dialogs keep the page behind them still with a style of their own, which the policy allows by this page's nonce.
setNonce(told("style-nonce"));

// A client's private link needs no account and leads nowhere else: a phone loads its page and nothing of the studio's.
// So does the link with which somebody chooses a password.
const open = {
	"/consultation": async () => (await import("../checks/LinkPage")).LinkPage,
	"/appointments": async () => (await import("../portal/AppointmentsPage")).AppointmentsPage,
	"/join": async () => (await import("../house/JoinPage")).JoinPage,
}[window.location.pathname];
const page = open ?? (async () => (await import("./Studio")).Studio);

// The first formatters of times and money are made beside the page, so that it need not wait for them (decision 65).
new Worker(new URL("./formatters.ts", import.meta.url), { type: "module" });

// Who is there is asked before anything is drawn. Where somebody seems to be signed in, what is inside starts at once.
void cache.prefetchQuery(sessionQuery);
if (told("inside") && !open) void import("./Inside");

// The page is there before anything is drawn: what React shows in place of a page stands for a third of a second at least.
void page().then((Page) =>
	createRoot(document.getElementById("root")!).render(
		<StrictMode>
			<QueryClientProvider client={cache}>
				<Page />
			</QueryClientProvider>
		</StrictMode>,
	),
);
