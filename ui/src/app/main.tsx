import "@fontsource-variable/alegreya/wght.css";
import "@fontsource-variable/atkinson-hyperlegible-next/wght.css";
import "../styles.css";
import { QueryClientProvider } from "@tanstack/react-query";
import { setNonce } from "get-nonce";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { cache } from "../api/cache";
import { sessionQuery, wasInside } from "../api/session";

// Dialogs keep the page behind them still with a style of their own, which the policy allows by this page's nonce.
setNonce(document.querySelector<HTMLMetaElement>('meta[name="style-nonce"]')?.content ?? "");

// A client's private link needs no account and leads nowhere else: a phone loads its page and nothing of the studio's.
// So does the link with which somebody chooses a password.
const page =
	{
		"/consultation": async () => (await import("../checks/LinkPage")).LinkPage,
		"/appointments": async () => (await import("../portal/AppointmentsPage")).AppointmentsPage,
		"/join": async () => (await import("../house/JoinPage")).JoinPage,
	}[window.location.pathname] ?? (async () => (await import("./Studio")).Studio);

// What every page asks first, and what whoever was signed in last will need, is fetched before anything is drawn.
void cache.prefetchQuery(sessionQuery);
if (wasInside()) void import("./Inside");

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
