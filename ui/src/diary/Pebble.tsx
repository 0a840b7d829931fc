import { useRef, useState } from "react";
import { late } from "../kit/late";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/diary";
import { outlookText, stateWords } from "../words/sentences";
import type { Line } from "./visits";

const PebbleCard = late(async () => (await import("./PebbleCard")).PebbleCard);

const shapes = ["52% 48% 55% 45% / 60% 55% 45% 40%", "46% 54% 48% 52% / 55% 62% 38% 45%", "55% 45% 45% 55% / 48% 58% 42% 52%"];

function pebbleTone(v: Line): string {
	if (v.state === "done" || v.state === "broken-off") return "bg-slate-pale text-slate border-slate/40";
	if (v.state === "no-show") return "bg-paper text-soft border-soft/50 line-through";
	if (v.state === "in-room") return "bg-ink text-paper border-ink";
	if (["not-here", "urgent", "not-before", "needs-letter", "ask-practitioner"].includes(v.checked || v.outlook || ""))
		return "bg-blush text-persimmon-deep border-persimmon";
	return "bg-kelp-pale text-ink border-kelp/60";
}

/** An appointment on a strip; its reset is the tail. Pressed, it says what it is and where it leads. */
export function Pebble({
	visit: v,
	left,
	width,
	reset,
	treats,
	height,
}: {
	visit: Line;
	left: number;
	width: number;
	reset: number;
	treats: boolean;
	height: number;
}) {
	const { at } = useSession();
	const [open, setOpen] = useState(false);
	const pressed = useRef<HTMLButtonElement>(null);
	const late = v.roomMinutes ?? 0;
	const shape = shapes[v.id.charCodeAt(v.id.length - 1) % shapes.length];
	return (
		<li>
			<div
				aria-hidden="true"
				className="absolute top-1/2 h-1 -translate-y-1/2 bg-rule"
				style={{ left: `${(left + width) * 100}%`, width: `${reset * 100}%` }}
			/>
			<button
				ref={pressed}
				type="button"
				className={`absolute top-[2px] truncate border px-1 text-center text-sm leading-none ${pebbleTone(v)}`}
				style={{ left: `${left * 100}%`, width: `${width * 100}%`, height: height - 4, borderRadius: shape }}
				aria-label={`${at.time(v.startsAt)} ${v.clientName}, ${v.protocolName}, ${stateWords[v.state]}${v.outlook && v.outlook !== "go-with-changes" ? `, ${outlookText(v)}` : ""}${late > 0 ? `, ${w.runsLate({ n: late })}` : ""}`}
				aria-haspopup="dialog"
				aria-expanded={open}
				onClick={() => setOpen(!open)}
			>
				<span className="num text-xs">{at.time(v.startsAt)}</span> {v.clientName.split(" ")[0]}
				{late > 0 && <span className="num ml-1 font-bold">+{late}</span>}
			</button>
			{open && <PebbleCard visit={v} treats={treats} at={pressed} onClose={() => setOpen(false)} />}
		</li>
	);
}
