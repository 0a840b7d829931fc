import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, unwrap } from "../api/client";
import { Button, ErrorMessage } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/portal";

/** The private address of a practitioner's or a client's calendar: made anew with two presses, shown once, revoked with one. */
export function CalendarAddress({ practitioner = "", client = "" }: { practitioner?: string; client?: string }) {
	const { at, may } = useSession();
	const cache = useQueryClient();
	const query = { practitioner, client };
	const state = useQuery({
		queryKey: ["calendar address", query],
		queryFn: () => unwrap(api.GET("/api/calendar-address", { params: { query } })),
		enabled: may("get-calendar-address"),
	});
	const refresh = () => cache.invalidateQueries({ queryKey: ["calendar address"] });
	const renew = useMutation({
		mutationFn: () => unwrap(api.POST("/api/calendar-address", { params: { query } })),
		onSettled: refresh,
	});
	const end = useMutation({
		mutationFn: () => unwrap(api.DELETE("/api/calendar-address", { params: { query } })),
		onSuccess: () => renew.reset(),
		onSettled: refresh,
	});
	if (!state.data) return null;
	return (
		<section aria-label={w.calendarAddress} className="mt-6">
			<h2 className="mt-0 mb-1 text-2xl">{w.calendarAddress}</h2>
			<p className="m-0 mb-2 text-sm text-soft">{client ? w.calendarOfClient : w.calendarOfPractitioner}</p>
			{state.data.since && !renew.data && <p className="num m-0 mb-2">{w.addressSince({ day: at.date(state.data.since) })}</p>}
			{renew.data && (
				<label className="block text-sm font-semibold">
					{w.addressShownOnce}
					<input className="field num mt-1 font-normal" readOnly value={renew.data.address} onFocus={(e) => e.target.select()} />
				</label>
			)}
			<div className="mt-2 flex flex-wrap gap-2">
				<Button disabled={renew.isPending} onClick={() => renew.mutate()}>
					{state.data.since ? w.makeAddressAnew : w.makeAddress}
				</Button>
				{state.data.since && (
					<Button variant="quiet" disabled={end.isPending} onClick={() => end.mutate()}>
						{w.revokeAddress}
					</Button>
				)}
			</div>
			<ErrorMessage error={renew.error ?? end.error} />
		</section>
	);
}
