import "@fontsource-variable/alegreya/wght.css";
import "@fontsource-variable/atkinson-hyperlegible-next/wght.css";
import "./styles.css";
import { QueryClient, QueryClientProvider, useQuery, useQueryClient } from "@tanstack/react-query";
import { createRootRoute, createRoute, createRouter, Outlet, RouterProvider } from "@tanstack/react-router";
import { setNonce } from "get-nonce";
import { StrictMode, useEffect } from "react";
import { createRoot } from "react-dom/client";
import { ProblemError, setSession } from "./api/client";
import { sessionQuery } from "./api/queries";
import { AuditPage } from "./pages/AuditPage";
import { ClientPage } from "./pages/ClientPage";
import { DayPage } from "./pages/DayPage";
import { DiaryPage } from "./pages/DiaryPage";
import { ImportPage } from "./pages/ImportPage";
import { LinkPage } from "./pages/LinkPage";
import { NewProtocolPage } from "./pages/NewProtocolPage";
import { PeoplePage } from "./pages/PeoplePage";
import { ProtocolPage } from "./pages/ProtocolPage";
import { ProtocolsPage } from "./pages/ProtocolsPage";
import { RecordPage } from "./pages/RecordPage";
import { RoomPage } from "./pages/RoomPage";
import { RulesPage } from "./pages/RulesPage";
import { ShelfPage } from "./pages/ShelfPage";
import { SignInPage } from "./pages/SignInPage";
import { StrokesPage } from "./pages/StrokesPage";
import { VariantsPage } from "./pages/VariantsPage";
import { VersionsPage } from "./pages/VersionsPage";
import { VisitPage } from "./pages/VisitPage";
import { ZonesPage } from "./pages/ZonesPage";
import { Waiting } from "./parts/kit";
import { Shell } from "./parts/Shell";
import { SessionProvider } from "./parts/session";
import { HandedOver } from "./parts/Tablet";

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

/** Lets nobody past the door who is not signed in. */
function Door() {
	const session = useQuery(sessionQuery);
	const client = useQueryClient();
	const csrf = session.data?.csrf ?? "";
	setSession(csrf, () => client.invalidateQueries({ queryKey: sessionQuery.queryKey }));
	useEffect(() => {
		document.title = session.data?.studioName ? `Soft Palm · ${session.data.studioName}` : "Soft Palm";
	}, [session.data?.studioName]);
	if (!session.data) return <Waiting of="Soft Palm" error={session.error} retry={() => session.refetch()} />;
	if (session.data.locked) return <HandedOver />;
	if (!session.data.signedIn) return <SignInPage demo={session.data.demo ?? []} />;
	return (
		<SessionProvider session={session.data}>
			<Outlet />
		</SessionProvider>
	);
}

function Nowhere() {
	return (
		<main className="p-8">
			<h1>Nothing here</h1>
			<p>
				This address leads nowhere. <a href="/">Back to the day</a>
			</p>
		</main>
	);
}

type DiarySearch = { move?: string | undefined; client?: string | undefined; protocol?: string | undefined; from?: string | undefined };
const text = (v: unknown) => (typeof v === "string" && v ? v : undefined);

/** A client's private link needs no account and leads nowhere else. */
function Root() {
	return window.location.pathname === "/consultation" ? <LinkPage /> : <Door />;
}

const root = createRootRoute({ component: Root, notFoundComponent: Nowhere });
const shell = createRoute({ getParentRoute: () => root, id: "shell", component: Shell });
const tree = root.addChildren([
	shell.addChildren([
		createRoute({ getParentRoute: () => shell, path: "/", component: DayPage }),
		createRoute({ getParentRoute: () => shell, path: "/people", component: PeoplePage }),
		createRoute({ getParentRoute: () => shell, path: "/people/$id", component: ClientPage }),
		createRoute({ getParentRoute: () => shell, path: "/protocols", component: ProtocolsPage }),
		createRoute({ getParentRoute: () => shell, path: "/protocols/new", component: NewProtocolPage }),
		createRoute({ getParentRoute: () => shell, path: "/protocols/$id", component: ProtocolPage }),
		createRoute({ getParentRoute: () => shell, path: "/protocols/$id/variants", component: VariantsPage }),
		createRoute({ getParentRoute: () => shell, path: "/protocols/$id/versions", component: VersionsPage }),
		createRoute({ getParentRoute: () => shell, path: "/library", component: StrokesPage }),
		createRoute({ getParentRoute: () => shell, path: "/library/zones", component: ZonesPage }),
		createRoute({
			getParentRoute: () => shell,
			path: "/diary",
			component: DiaryPage,
			validateSearch: (s: Record<string, unknown>): DiarySearch => ({
				move: text(s.move),
				client: text(s.client),
				protocol: text(s.protocol),
				from: text(s.from),
			}),
		}),
		createRoute({ getParentRoute: () => shell, path: "/shelf", component: ShelfPage }),
		createRoute({ getParentRoute: () => shell, path: "/visits/$id", component: VisitPage }),
		createRoute({ getParentRoute: () => shell, path: "/visits/$id/record", component: RecordPage }),
		createRoute({ getParentRoute: () => shell, path: "/rules", component: RulesPage }),
		createRoute({ getParentRoute: () => shell, path: "/audit", component: AuditPage }),
		createRoute({ getParentRoute: () => shell, path: "/import", component: ImportPage }),
	]),
	createRoute({ getParentRoute: () => root, path: "/visits/$id/room", component: RoomPage }),
]);

const router = createRouter({ routeTree: tree, defaultPreload: false });

declare module "@tanstack/react-router" {
	interface Register {
		router: typeof router;
	}
}

createRoot(document.getElementById("root")!).render(
	<StrictMode>
		<QueryClientProvider client={cache}>
			<RouterProvider router={router} />
		</QueryClientProvider>
	</StrictMode>,
);
