import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Link, Navigate, Outlet, useLocation } from "@tanstack/react-router";
import { DropdownMenu } from "radix-ui";
import { useCallback, useState } from "react";
import { api, unwrap } from "../api/client";
import { sessionQuery } from "../api/queries";
import { Arrivals } from "../diary/Arrivals";
import { DayStrip, useNextVisit } from "../diary/DayStrip";
import { ChoosePin } from "../house";
import { forgetRoom } from "../kit/offline";
import { everywhere, ShortcutSheet } from "../kit/ShortcutSheet";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/app";
import { roleWords } from "../words/sentences";
import { FindClient } from "./FindClient";
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

const pages = [
	["/account", w.yourAccount, "list-sessions"],
	["/team", w.team, "list-people"],
	["/settings", w.settings, "get-settings"],
	["/rules", w.studioRules, "get-questions"],
	["/messages", w.messages, "list-messages"],
	["/audit", w.auditLog, "audit-log"],
	["/import", w.importAFile, "import-studio"],
] as const;

/** Screens that are a picture themselves: the strip folds to a line there, and the page gets the height. */
const isPicture = (path: string) =>
	(/^\/protocols\/[^/]+$/.test(path) && path !== "/protocols/new") || path === "/book" || path.startsWith("/series/");

/** Pages that show the day themselves. */
const ownDay = new Set(["/diary", "/away"]);

const sheet = [everywhere];

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
					<DropdownMenu.Root modal={false}>
						<DropdownMenu.Trigger className="min-h-11 text-sm text-soft">
							{session.studioName} · <span className="font-semibold text-ink">{session.name}</span> ▾
						</DropdownMenu.Trigger>
						<DropdownMenu.Portal>
							<DropdownMenu.Content align="end" className="z-30 min-w-56 rounded-md border border-ink bg-paper p-2">
								<p className="m-0 px-3 py-1 text-sm text-soft">{roleWords[session.role ?? ""]}</p>
								{pages
									.filter(([, , operation]) => session.may(operation))
									.map(([to, name]) => (
										<DropdownMenu.Item key={to} asChild>
											<Link to={to} className="block min-h-11 rounded-sm px-3 py-2.5 font-semibold data-[highlighted]:bg-leaf">
												{name}
											</Link>
										</DropdownMenu.Item>
									))}
								<DropdownMenu.Item
									onSelect={() => setAsking(true)}
									className="min-h-11 cursor-default rounded-sm px-3 py-2.5 font-semibold data-[highlighted]:bg-leaf"
								>
									{w.shortcuts}
								</DropdownMenu.Item>
								<DropdownMenu.Item
									onSelect={() => setChoosing(true)}
									className="min-h-11 cursor-default rounded-sm px-3 py-2.5 font-semibold data-[highlighted]:bg-leaf"
								>
									{w.tabletPIN}
								</DropdownMenu.Item>
								<DropdownMenu.Item
									onSelect={() => out.mutate()}
									className="min-h-11 cursor-default rounded-sm px-3 py-2.5 font-semibold data-[highlighted]:bg-leaf"
								>
									{w.signOut}
								</DropdownMenu.Item>
							</DropdownMenu.Content>
						</DropdownMenu.Portal>
					</DropdownMenu.Root>
				</div>
			</header>
			{session.may("get-inbox") && <Arrivals />}
			<ShortcutSheet open={asking} onClose={() => setAsking(false)} sheet={sheet} />
			<ChoosePin open={choosing} onClose={() => setChoosing(false)} onDone={() => setChoosing(false)} />
			{path === "/" && !session.may("get-day") ? <Navigate to="/protocols" replace /> : <Outlet />}
		</div>
	);
}
