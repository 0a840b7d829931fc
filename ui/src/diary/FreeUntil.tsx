import { useNow, useSession } from "../kit/session";
import * as w from "../words/catalogue/diary";

/** Until when an appointment can be cancelled or moved for nothing, or that this time is over. */
export function FreeUntil({ until }: { until: string }) {
	const { at } = useSession();
	const now = useNow(30_000);
	const words = new Date(until) > now ? w.freeUntil : w.wasFreeUntil;
	return <span className="num block text-sm text-soft">{words({ day: at.date(until), time: at.time(until) })}</span>;
}
