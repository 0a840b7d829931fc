import { Link, useNavigate } from "@tanstack/react-router";
import { Popover } from "radix-ui";
import type { RefObject } from "react";
import { Badge } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/diary";
import { stateWords } from "../words/sentences";
import { VisitMarks } from "./VisitMarks";
import { isExpected, type Line } from "./visits";

type Props = { visit: Line; treats: boolean; at: RefObject<HTMLButtonElement | null>; onClose: () => void };

/** What an appointment on a strip is and where it leads, beside the pebble that was pressed. */
export function PebbleCard({ visit: v, treats, at: pebble, onClose }: Props) {
	const { at, may } = useSession();
	const go = useNavigate();
	const late = v.roomMinutes ?? 0;
	return (
		<Popover.Root open onOpenChange={(o) => !o && onClose()}>
			<Popover.Anchor virtualRef={pebble as RefObject<HTMLButtonElement>} />
			<Popover.Portal>
				<Popover.Content
					sideOffset={4}
					collisionPadding={12}
					className="z-30 w-80 rounded-md border border-ink bg-paper p-4"
					onCloseAutoFocus={(e) => {
						e.preventDefault();
						pebble.current?.focus();
					}}
					onInteractOutside={(e) => {
						if (pebble.current?.contains(e.target as Node)) e.preventDefault(); // it closes by being pressed
					}}
				>
					<p className="m-0 font-serif text-xl font-semibold">{v.clientName}</p>
					<p className="num mt-1 mb-2 text-sm">
						{w.startsAtToEndsAtRoomNamePractitionerName({
							startsAt: at.time(v.startsAt),
							endsAt: at.time(v.endsAt),
							roomName: v.roomName,
							practitionerName: v.practitionerName,
						})}
						<br />
						{v.protocolName}
					</p>
					<p className="mt-0 mb-3 flex flex-wrap gap-2">
						<Badge tone="plain">{stateWords[v.state]}</Badge>
						{late > 0 && <Badge tone="not-before">{w.runsLate({ n: late })}</Badge>}
						<VisitMarks visit={v} todo />
					</p>
					<div className="flex flex-wrap gap-x-4 gap-y-1">
						<Popover.Close asChild>
							<button
								type="button"
								className="min-h-11 rounded-sm bg-persimmon px-4 font-semibold text-white"
								onClick={() => go({ to: "/visits/$id", params: { id: v.id } })}
							>
								{w.visit}
							</button>
						</Popover.Close>
						<StripLink to="/people/$id" id={v.client}>
							{w.client}
						</StripLink>
						{isExpected(v) && v.kind === "treatment" && may("move-visit") && (
							<Popover.Close asChild>
								<Link
									to="/diary"
									search={{ client: v.client, protocol: v.protocol, from: undefined, move: v.id }}
									className="inline-flex min-h-11 items-center px-2 font-semibold underline underline-offset-4"
								>
									{w.moveAppointment}
								</Link>
							</Popover.Close>
						)}
						{treats && v.state === "in-room" && (
							<StripLink to="/visits/$id/room" id={v.id}>
								{w.room}
							</StripLink>
						)}
						{treats && v.kind === "treatment" && (v.state === "in-room" || v.state === "done" || v.state === "broken-off") && (
							<StripLink to="/visits/$id/record" id={v.id}>
								{w.record}
							</StripLink>
						)}
					</div>
				</Popover.Content>
			</Popover.Portal>
		</Popover.Root>
	);
}

function StripLink({ to, id, children }: { to: "/people/$id" | "/visits/$id/room" | "/visits/$id/record"; id: string; children: string }) {
	return (
		<Popover.Close asChild>
			<Link to={to} params={{ id }} className="inline-flex min-h-11 items-center px-2 font-semibold underline underline-offset-4">
				{children}
			</Link>
		</Popover.Close>
	);
}
