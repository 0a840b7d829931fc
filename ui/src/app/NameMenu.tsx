import { Link } from "@tanstack/react-router";
import { DropdownMenu } from "radix-ui";
import type { ReactNode } from "react";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/app";
import { roleWords } from "../words/sentences";

const pages = [
	["/account", w.yourAccount, "list-sessions"],
	["/team", w.team, "list-people"],
	["/settings", w.settings, "get-settings"],
	["/rules", w.studioRules, "get-questions"],
	["/messages", w.messages, "list-messages"],
	["/audit", w.auditLog, "audit-log"],
	["/import", w.importAFile, "import-studio"],
] as const;

export type NameActs = { onShortcuts: () => void; onPin: () => void; onSignOut: () => void };

/** The menu under the name of whoever is signed in, opened; name is what is pressed, of that class. */
export function NameMenu({ name: pressed, className, onShortcuts, onPin, onSignOut }: NameActs & { name: ReactNode; className: string }) {
	const session = useSession();
	return (
		<DropdownMenu.Root modal={false} defaultOpen>
			<DropdownMenu.Trigger className={className}>{pressed}</DropdownMenu.Trigger>
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
						onSelect={onShortcuts}
						className="min-h-11 cursor-default rounded-sm px-3 py-2.5 font-semibold data-[highlighted]:bg-leaf"
					>
						{w.shortcuts}
					</DropdownMenu.Item>
					<DropdownMenu.Item
						onSelect={onPin}
						className="min-h-11 cursor-default rounded-sm px-3 py-2.5 font-semibold data-[highlighted]:bg-leaf"
					>
						{w.tabletPIN}
					</DropdownMenu.Item>
					<DropdownMenu.Item
						onSelect={onSignOut}
						className="min-h-11 cursor-default rounded-sm px-3 py-2.5 font-semibold data-[highlighted]:bg-leaf"
					>
						{w.signOut}
					</DropdownMenu.Item>
				</DropdownMenu.Content>
			</DropdownMenu.Portal>
		</DropdownMenu.Root>
	);
}
