import { useQuery } from "@tanstack/react-query";
import { createRootRoute, createRoute, createRouter, lazyRouteComponent, Outlet, RouterProvider } from "@tanstack/react-router";
import { cache } from "../api/cache";
import { sendOnce } from "../api/once";
import { dayQuery, expectProtocol, libraryQuery } from "../api/queries";
import { sessionQuery } from "../api/session";
import { inZone } from "../kit/format";
import { Button, ErrorMessage } from "../kit/kit";
import { SessionProvider } from "../kit/session";
import * as w from "../words/catalogue/app";
import { Shell } from "./Shell";

sendOnce();

const SecondFactor = lazyRouteComponent(() => import("../house/SecondFactor"), "SecondFactor");
const FirstStudioPage = lazyRouteComponent(() => import("../house/FirstStudioPage"), "FirstStudioPage");

/** What is inside for whoever is signed in; a first visit makes the studio. */
function Room() {
	const session = useQuery(sessionQuery);
	if (!session.data) return null;
	if (session.data.empty) return <FirstStudioPage />;
	return <SessionProvider session={session.data}>{session.data.needsFactor ? <NeedsFactor /> : <Outlet />}</SessionProvider>;
}

/** An owner who has yet to set a second factor does that first. */
function NeedsFactor() {
	return (
		<main className="mx-auto grid min-h-screen max-w-xl content-center gap-4 p-6">
			<h1 className="m-0 text-4xl">{w.setUpYourSecondFactor}</h1>
			<p className="m-0">{w.ownersOfThisStudioSignInWithOne}</p>
			<SecondFactor />
		</main>
	);
}

function Nowhere() {
	return (
		<main className="grid min-h-screen place-content-center p-8 text-center">
			<h1 className="m-0 text-5xl">{w.pageNotFound}</h1>
			<p className="text-lg">{w.thisAddressLeadsNowhere}</p>
			<p>
				<a
					href="/"
					className="inline-flex min-h-11 items-center rounded-sm border border-persimmon bg-persimmon px-4 font-semibold text-white no-underline"
				>
					{w.backToToday}
				</a>
			</p>
		</main>
	);
}

type DiarySearch = { move?: string | undefined; client?: string | undefined; protocol?: string | undefined; from?: string | undefined };
type PaySearch = { visit?: string | undefined; client?: string | undefined; owed?: string | undefined };
type BookSearch = { client?: string | undefined; protocol?: string | undefined; again?: string | undefined };
const text = (v: unknown) => (typeof v === "string" && v ? v : undefined);

const root = createRootRoute({ component: Room, notFoundComponent: Nowhere });
const shell = createRoute({ getParentRoute: () => root, id: "shell", component: Shell });
const tree = root.addChildren([
	shell.addChildren([
		createRoute({ getParentRoute: () => shell, path: "/", component: lazyRouteComponent(() => import("../diary/DayPage"), "DayPage") }),
		createRoute({
			getParentRoute: () => shell,
			path: "/people",
			validateSearch: (s: Record<string, unknown>): { add?: string } => (typeof s.add === "string" ? { add: s.add } : {}),
			component: lazyRouteComponent(() => import("../clients/ClientsPage"), "ClientsPage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/people/$id",
			component: lazyRouteComponent(() => import("../clients/ClientPage"), "ClientPage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/people/$id/progress",
			component: lazyRouteComponent(() => import("../treatment/ProgressPage"), "ProgressPage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/people/$id/photos",
			component: lazyRouteComponent(() => import("../treatment/PhotosPage"), "PhotosPage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/people/contacts",
			component: lazyRouteComponent(() => import("../clients/ContactsPage"), "ContactsPage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/book/together",
			validateSearch: (s: Record<string, unknown>): { client?: string | undefined } => ({ client: text(s.client) }),
			component: lazyRouteComponent(() => import("../diary/series/TogetherPage"), "TogetherPage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/protocols",
			component: lazyRouteComponent(() => import("../protocols/ProtocolsPage"), "ProtocolsPage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/protocols/new",
			component: lazyRouteComponent(() => import("../protocols/NewProtocolPage"), "NewProtocolPage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/protocols/$id",
			loader: ({ params }) => {
				expectProtocol(params.id);
				void cache.prefetchQuery(libraryQuery);
			},
			component: lazyRouteComponent(() => import("../protocols/ProtocolPage"), "ProtocolPage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/protocols/$id/variants",
			component: lazyRouteComponent(() => import("../protocols/VariantsPage"), "VariantsPage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/protocols/$id/versions",
			component: lazyRouteComponent(() => import("../protocols/VersionsPage"), "VersionsPage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/library",
			component: lazyRouteComponent(() => import("../protocols/StrokesPage"), "StrokesPage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/library/zones",
			component: lazyRouteComponent(() => import("../protocols/ZonesPage"), "ZonesPage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/diary",
			component: lazyRouteComponent(() => import("../diary/DiaryPage"), "DiaryPage"),
			validateSearch: (s: Record<string, unknown>): DiarySearch => ({
				move: text(s.move),
				client: text(s.client),
				protocol: text(s.protocol),
				from: text(s.from),
			}),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/book",
			component: lazyRouteComponent(() => import("../diary/series/BookPage"), "BookPage"),
			validateSearch: (s: Record<string, unknown>): BookSearch => ({
				client: text(s.client),
				protocol: text(s.protocol),
				again: text(s.again),
			}),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/series/$id",
			component: lazyRouteComponent(() => import("../diary/series/SeriesPage"), "SeriesPage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/walk-in",
			component: lazyRouteComponent(() => import("../diary/WalkInPage"), "WalkInPage"),
			validateSearch: (s: Record<string, unknown>): { client?: string | undefined } => ({ client: text(s.client) }),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/shifts",
			component: lazyRouteComponent(() => import("../diary/roster/RosterPage"), "RosterPage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/away",
			component: lazyRouteComponent(() => import("../diary/waiting/AwayPage"), "AwayPage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/week",
			component: lazyRouteComponent(() => import("../diary/WeekPage"), "WeekPage"),
			validateSearch: (s: Record<string, unknown>): { from?: string } => {
				const from = text(s.from);
				return from ? { from } : {};
			},
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/shelf",
			component: lazyRouteComponent(() => import("../shelf/ShelfPage"), "ShelfPage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/shelf/today",
			component: lazyRouteComponent(() => import("../shelf/TodayPage"), "TodayPage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/shelf/tools",
			component: lazyRouteComponent(() => import("../shelf/ToolsPage"), "ToolsPage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/shelf/receive",
			component: lazyRouteComponent(() => import("../shelf/ReceivePage"), "ReceivePage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/shelf/order",
			component: lazyRouteComponent(() => import("../shelf/OrderPage"), "OrderPage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/shelf/count",
			component: lazyRouteComponent(() => import("../shelf/CountPage"), "CountPage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/shelf/mix",
			component: lazyRouteComponent(() => import("../shelf/MixPage"), "MixPage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/shelf/figures",
			component: lazyRouteComponent(() => import("../shelf/FiguresPage"), "FiguresPage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/shelf/recall",
			component: lazyRouteComponent(() => import("../shelf/RecallPage"), "RecallPage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/books",
			validateSearch: (s: Record<string, unknown>): PaySearch => ({ visit: text(s.visit), client: text(s.client), owed: text(s.owed) }),
			component: lazyRouteComponent(() => import("../books/PayPage"), "PayPage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/books/receipts",
			component: lazyRouteComponent(() => import("../books/ReceiptsPage"), "ReceiptsPage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/books/close",
			component: lazyRouteComponent(() => import("../books/ClosePage"), "ClosePage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/books/vouchers",
			component: lazyRouteComponent(() => import("../books/VouchersPage"), "VouchersPage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/books/prices",
			component: lazyRouteComponent(() => import("../books/PricesPage"), "PricesPage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/books/questions",
			validateSearch: (s: Record<string, unknown>): { day?: string | undefined } => ({ day: text(s.day) }),
			component: lazyRouteComponent(() => import("../books/BooksPage"), "BooksPage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/books/month",
			component: lazyRouteComponent(() => import("../books/MonthPage"), "MonthPage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/visits/$id",
			component: lazyRouteComponent(() => import("../diary/VisitPage"), "VisitPage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/visits/$id/record",
			validateSearch: (s: Record<string, unknown>): { stopped?: boolean } => (s.stopped ? { stopped: true } : {}),
			component: lazyRouteComponent(() => import("../treatment/RecordPage"), "RecordPage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/rules",
			component: lazyRouteComponent(() => import("../checks/RulesPage"), "RulesPage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/audit",
			component: lazyRouteComponent(() => import("../house/AuditPage"), "AuditPage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/team",
			component: lazyRouteComponent(() => import("../house/TeamPage"), "TeamPage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/settings",
			component: lazyRouteComponent(() => import("../house/SettingsPage"), "SettingsPage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/account",
			component: lazyRouteComponent(() => import("../house/AccountPage"), "AccountPage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/messages",
			component: lazyRouteComponent(() => import("../portal/MessagesPage"), "MessagesPage"),
		}),
		createRoute({
			getParentRoute: () => shell,
			path: "/import",
			component: lazyRouteComponent(() => import("../house/ImportPage"), "ImportPage"),
		}),
	]),
	createRoute({
		getParentRoute: () => root,
		path: "/terminal",
		component: lazyRouteComponent(() => import("../books/TerminalPage"), "TerminalPage"),
	}),
	createRoute({
		getParentRoute: () => root,
		path: "/scale",
		component: lazyRouteComponent(() => import("../shelf/ScalePage"), "ScalePage"),
	}),
	createRoute({
		getParentRoute: () => root,
		path: "/people/$id/measure",
		validateSearch: (s: Record<string, unknown>): { visit?: string | undefined; after?: boolean; room?: boolean } => ({
			visit: text(s.visit),
			...(s.after === true ? { after: true } : {}),
			...(s.room === true ? { room: true } : {}),
		}),
		component: lazyRouteComponent(() => import("../treatment/MeasurePage"), "MeasurePage"),
	}),
	createRoute({
		getParentRoute: () => root,
		path: "/visits/$id/room",
		component: lazyRouteComponent(() => import("../treatment/RoomGuidePage"), "RoomGuidePage"),
	}),
]);

/** A screen that failed says so, and what to do; the rest of the studio stays where it is. */
function Failed({ error }: { error: unknown }) {
	return (
		<main className="mx-auto max-w-[700px] p-6">
			<ErrorMessage error={error} />
			<Button variant="primary" onClick={() => window.location.reload()}>
				{w.reloadPage}
			</Button>
		</main>
	);
}

const router = createRouter({ routeTree: tree, defaultPreload: false, defaultErrorComponent: Failed });

// The page of this address is fetched while the door still asks who is there, and the day that every screen shows as soon
// as it is known.
export const ready = router.load();
void cache.fetchQuery(sessionQuery).then((s) => {
	if (s.may?.["get-day"]) void cache.prefetchQuery(dayQuery(inZone(s.timeZone ?? "UTC").day(new Date(Date.now() + s.skew))));
});

declare module "@tanstack/react-router" {
	interface Register {
		router: typeof router;
	}
}

/** The studio's screens; each page is loaded when it is first opened. */
export function Inside() {
	return <RouterProvider router={router} />;
}
