import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Link, Navigate, Outlet, useLocation } from "@tanstack/react-router";
import { useCallback, useState } from "react";
import { api, unwrap } from "../api/client";
import { sessionQuery } from "../api/session";
import { Arrivals } from "../diary/Arrivals";
import { DayStrip, useNextVisit } from "../diary/DayStrip";
import { late } from "../kit/late";
import { forgetRoom } from "../kit/offline";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/app";
import { FindClient } from "./FindClient";
import { NameButton } from "./NameButton";
import { useKeptFocus } from "./useKeptFocus";
import { useShellKeys } from "./useShellKeys";

const places = [
	["/", w.day, "get-day"],
	["/people", w.clients, "list-clients"],
	["/protocols", w.protocols, "list-protocols"],
	["/diary", w.diary, "get-day"],
	["/shelf", w.shelf, "get-shelf"],
	["/books", w.till, "pay-sale"],
] as const;

/** Screens that are a picture themselves: the strip folds to a line there, and the page gets the height. */
const isPicture = (path: string) =>
	(/^\/protocols\/[^/]+$/.test(path) && path !== "/protocols/new") || path === "/book" || path.startsWith("/series/");

/** Pages that show the day themselves. */
const ownDay = new Set(["/diary", "/away"]);

// What is seldom opened comes when it is.
const ChoosePin = late(async () => (await import("../house/ChoosePin")).ChoosePin);
const Shortcuts = late(async () => (await import("../kit/ShortcutSheet")).ShortcutsEverywhere);

/** The day strip, the six places, and the page. */
export function Shell() {
	const session = useSession();
	const path = useLocation({ select: (l) => l.pathname });
	const cache = useQueryClient();
	const [choosing, setChoosing] = useState(false);
	const [asking, setAsking] = useState(false); // for the shortcuts
	const picture = isPicture(path);
	const [unfolded, setUnfolded] = useState<Record<string, boolean>>({});
	const moving = useLocation({ select: (l) => "move" in l.search && Boolean(l.search.move) });
	const kind = picture || (ownDay.has(path) && !moving) ? "picture" : "page";
	const folded = !(unfolded[kind] ?? kind === "page");
	const fold = useCallback(() => setUnfolded((was) => ({ ...was, [kind]: folded })), [kind, folded]);
	const open = places.filter(([, , operation]) => session.may(operation));
	useKeptFocus(path);
	useShellKeys({ places: open.map(([to]) => to), next: useNextVisit(), onSheet: useCallback(() => setAsking(true), []), onStrip: fold });
	const out = useMutation({
		mutationFn: async () => {
			await forgetRoom();
			return unwrap(api.POST("/api/sign-out"));
		},
		onSuccess: () => {
			cache.clear();
			cache.invalidateQueries({ queryKey: sessionQuery.queryKey });
			window.location.assign("/");
		},
	});
	return (
		<div className={`flex flex-col ${picture ? "h-screen min-h-[720px]" : "min-h-screen"}`}>
			<button
				type="button"
				className="sr-only z-40 rounded-sm bg-ink px-4 py-3 font-semibold text-white focus:not-sr-only focus:absolute focus:top-2 focus:left-2"
				onClick={() => {
					const page = document.querySelector("main");
					page?.setAttribute("tabindex", "-1");
					page?.focus();
				}}
			>
				{w.skipToThePage}
			</button>
			<header>
				{session.may("get-day") && <DayStrip folded={folded} onFold={fold} />}
				<div className="no-print flex items-end justify-between gap-6 border-b border-ink px-5">
					<nav aria-label={w.mainMenu}>
						<ul className="m-0 flex list-none gap-6 p-0">
							{open.map(([to, name]) => (
								<li key={to}>
									<Link
										to={to}
										activeOptions={{ exact: to === "/" }}
										className="inline-flex min-h-11 items-center border-b-4 border-transparent font-serif text-lg text-ink no-underline hover:border-rule data-[status=active]:border-persimmon data-[status=active]:font-bold"
									>
										{name}
									</Link>
								</li>
							))}
						</ul>
					</nav>
					{session.may("list-clients") && <FindClient />}
					<NameButton onShortcuts={() => setAsking(true)} onPin={() => setChoosing(true)} onSignOut={() => out.mutate()} />
				</div>
			</header>
			{session.may("get-inbox") && <Arrivals />}
			{asking && <Shortcuts onClose={() => setAsking(false)} />}
			{choosing && <ChoosePin open onClose={() => setChoosing(false)} onDone={() => setChoosing(false)} />}
			{path === "/" && !session.may("get-day") ? <Navigate to="/protocols" replace /> : <Outlet />}
		</div>
	);
}
