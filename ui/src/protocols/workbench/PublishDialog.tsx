import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { api, unwrap } from "../../api/client";
import { Dialog } from "../../kit/Dialog";
import { NumberField } from "../../kit/fields";
import { money } from "../../kit/format";
import { Button, ErrorMessage, Loading } from "../../kit/kit";
import * as w from "../../words/catalogue/workbench";
import type { Protocol } from "./useBench";

type Props = {
	id: string;
	protocol: Protocol;
	/** Whether what is on the screen is saved: it is judged as it is saved. */
	saved: boolean;
	edit: (p: Protocol) => void;
	onPublish: () => void;
	onClose: () => void;
};

/** What publishing means: what it costs and brings, what is missing, and what becomes of appointments. */
export function PublishDialog({ id, protocol: p, saved, edit, onPublish, onClose }: Props) {
	const { data, error } = useQuery({
		queryKey: ["publishing", id, p.price, p.minutes, saved],
		queryFn: () => unwrap(api.GET("/api/protocols/{id}/publishing", { params: { path: { id } } })),
		enabled: saved,
		placeholderData: (old) => old,
		gcTime: 0,
	});
	const [asked] = useState({ price: Number(p.price.amount) === 0, minutes: p.minutes.sold <= p.minutes.handsOn });
	const cash = (amount: string) => money(amount, p.price.currency);
	return (
		<Dialog open onClose={onClose} title={w.publishName({ name: p.name })}>
			<ErrorMessage error={error} />
			{!data ? (
				!error && <Loading of={w.whatPublishingMeans} />
			) : (
				<>
					{(asked.price || asked.minutes) && (
						<div className="mb-4 grid gap-3 border-l-4 border-persimmon pl-4 sm:grid-cols-2">
							{asked.price && (
								<label className="text-sm font-semibold">
									{w.priceInCurrency({ currency: p.price.currency })}
									<input
										className="field num mt-1 font-normal"
										inputMode="decimal"
										defaultValue={Number(p.price.amount) > 0 ? p.price.amount : ""}
										onBlur={(ev) =>
											/^\d{1,7}(\.\d{1,2})?$/.test(ev.target.value) && edit({ ...p, price: { ...p.price, amount: ev.target.value } })
										}
									/>
									<span className="font-normal text-soft">{w.thereIsNoPriceYet}</span>
								</label>
							)}
							{asked.minutes && (
								<div>
									<NumberField
										label={w.treatmentMin}
										value={p.minutes.sold}
										least={1}
										most={480}
										required
										onChange={(v) => v && edit({ ...p, minutes: { ...p.minutes, sold: v } })}
									/>
									<NumberField
										label={w.handsOnMin}
										value={p.minutes.handsOn}
										least={1}
										most={480}
										required
										onChange={(v) => v && edit({ ...p, minutes: { ...p.minutes, handsOn: v } })}
									/>
									<p className="m-0 text-sm text-soft">{w.treatmentIsNoLongerThanHandsOn}</p>
								</div>
							)}
						</div>
					)}
					<dl className="m-0 mb-4">
						<Line name={w.clientPays}>{cash(data.gross)}</Line>
						{data.net !== data.gross && <Line name={w.withoutTax}>{cash(data.net)}</Line>}
						<Line name={w.productsCost}>
							{cash(data.cost)}
							{data.unknown.length > 0 && (
								<span className="block text-sm text-persimmon-deep">{w.costNotKnownOf({ names: data.unknown.join(", ") })}</span>
							)}
						</Line>
						<Line name={w.leftOfIt}>
							{w.marginPerMinute({ margin: cash(data.margin), perMinute: cash(data.perMinute), minutes: data.minutes })}
						</Line>
					</dl>
					<p className="text-sm text-soft">{w.knownSoFarWithoutRoomAndPay}</p>
					<p className="mb-4">
						{data.booked > 0
							? w.bookedKeepTheirVersion({ n: data.booked, number: data.number })
							: w.newBookingsUse({ number: data.number })}
					</p>
				</>
			)}
			<div className="flex justify-end gap-3">
				<Button onClick={onClose}>{w.notYet}</Button>
				<Button variant="primary" disabled={!data || !saved} onClick={onPublish}>
					{data ? w.publishVersion({ number: data.number }) : w.publish}
				</Button>
			</div>
		</Dialog>
	);
}

function Line({ name, children }: { name: string; children: ReactNode }) {
	return (
		<div className="flex items-baseline justify-between gap-4 border-b border-rule py-1">
			<dt>{name}</dt>
			<dd className="num m-0 text-right font-semibold">{children}</dd>
		</div>
	);
}
