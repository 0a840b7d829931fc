import { api, unwrap } from "../../api/client";
import { waitingAt, waitingKeys } from "../../kit/waiting";
import type { Kept } from "./roomLog";

const most = 100;

/** Sends what a room left unsent in this browser, as after a lid that was closed at the end of a treatment. */
export async function sendWhatRoomsLeft() {
	for (const key of await waitingKeys("room ")) {
		const visit = key.split(" ")[1];
		const place = waitingAt<Kept>(key);
		const kept = await place.find();
		if (!visit || !kept) continue;
		try {
			let left = kept.unsent;
			while (left.length > 0) {
				const heard = await unwrap(
					api.POST("/api/visits/{id}/events", { params: { path: { id: visit } }, body: { events: left.slice(0, most) } }),
				);
				const upTo = heard.standing.seq[kept.device] ?? 0;
				const rest = left.filter((e) => e.seq > upTo);
				if (rest.length === left.length) break; // a gap: it waits for what comes before
				left = rest;
			}
			if (left.length === 0) await place.drop();
		} catch {
			// It waits for the next time.
		}
	}
}
