import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import type { Schemas } from "../api/client";
import { roomQuery } from "../api/queries";
import { TravelChart } from "../chart/TravelChart";
import { Loading } from "../kit/kit";
import * as w from "../words/catalogue/treatment";

/** The travel chart of the plan, with the line of what was really done over it. */
export function RealChart({ visit, account }: { visit: string; account: NonNullable<Schemas["RecordView"]["account"]> }) {
	const [open, setOpen] = useState(false);
	const room = useQuery({ ...roomQuery(visit), enabled: open });
	const real = useMemo(
		() =>
			account.spells
				.filter((s) => s.begun && s.real > 0)
				.map((s) => ({ from: s.realStart, to: s.realStart + s.real, step: s.spell.split("/")[0] ?? "" }))
				.sort((p, q) => p.from - q.from),
		[account],
	);
	const [at, setAt] = useState(0);
	return (
		<details className="mt-8" onToggle={(e) => setOpen(e.currentTarget.open)}>
			<summary className="min-h-11 cursor-pointer py-2 font-serif text-2xl font-semibold">{w.realOverPlanned}</summary>
			<p className="mt-0 text-sm text-soft">{w.realLineSays}</p>
			{open &&
				(room.data ? (
					<TravelChart evaluation={room.data.evaluation} at={at} onSeek={setAt} height={260} tracks={false} real={real} />
				) : (
					<Loading of={w.theRoom} error={room.error} retry={() => room.refetch()} />
				))}
		</details>
	);
}
