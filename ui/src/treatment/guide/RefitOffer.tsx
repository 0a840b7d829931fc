import * as w from "../../words/catalogue/treatment";
import type { RoomGuide } from "../useRoomGuide";
import { Knuckle } from "./Knuckle";
import type { Offer } from "./refit";
import type { RoomSizes } from "./roomScreen";

const mostNamed = 3;

/** What goes so that the treatment ends on time: one press takes it, one lets the plan run over. Nobody is forced. */
export function RefitOffer({ r, offer, sizes }: { r: RoomGuide; offer: Offer; sizes: RoomSizes }) {
	const changes = r.planned.flatMap((s) => {
		const dose = offer.fit.doses[s.key];
		if (dose === undefined) return [];
		const name = s.step.short || s.step.name;
		return [dose === 0 ? w.isLeftOut({ name }) : w.doseInstead({ name, from: s.step.dose?.planned ?? 0, to: dose })];
	});
	const named = changes.slice(0, mostNamed).join(", ");
	const more = changes.length - mostNamed;
	const button = "rounded-md border-2 border-amber px-4 text-2xl font-semibold";
	return (
		<section aria-label={w.reFit} className="grid gap-2">
			<p className="m-0 font-bold" style={{ fontSize: sizes.arm * 1.3, lineHeight: 1.15 }}>
				{offer.minutes > 0
					? w.minutesShorter({ n: offer.minutes })
					: offer.minutes < 0
						? w.minutesLonger({ n: -offer.minutes })
						: w.onTimeAsItIs}
			</p>
			<p className="m-0 line-clamp-3" style={{ fontSize: sizes.arm, lineHeight: 1.2 }}>
				{changes.length === 0 ? w.nothingToChange : more > 0 ? w.andSoManyMore({ named, n: more }) : named}
				{offer.fit.missBy > 0 && ` ${w.stillOverBy({ n: Math.ceil(offer.fit.missBy / 60) })}`}
				{offer.beyond && ` ${w.askShorterOrAnotherDay}`}
			</p>
			<div className="flex" style={{ gap: sizes.gap }}>
				<Knuckle
					still={sizes.still}
					disabled={changes.length === 0}
					onPress={r.takeRefit}
					className={`${button} bg-amber text-night disabled:opacity-40`}
					style={{ minHeight: sizes.target }}
				>
					{w.takeIt}
				</Knuckle>
				<Knuckle still={sizes.still} onPress={r.declineRefit} className={button} style={{ minHeight: sizes.target }}>
					{w.asPlannedWord}
				</Knuckle>
			</div>
		</section>
	);
}
