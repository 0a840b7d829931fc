import { useEffect, useState } from "react";
import { money } from "../kit/format";
import { Button, ErrorMessage } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/books";
import type { useSale } from "./useSale";

/** Where a card payment stands, in words, so that nobody presses twice. */
export function CardState({ s }: { s: ReturnType<typeof useSale> }) {
	const { currency = "EUR" } = useSession();
	const card = s.going?.card;
	const [seconds, setSeconds] = useState(card?.seconds ?? 0);
	useEffect(() => setSeconds(card?.seconds ?? 0), [card?.seconds]);
	useEffect(() => {
		const id = setInterval(() => setSeconds((n) => n + 1), 1000);
		return () => clearInterval(id);
	}, []);
	if (!card)
		return s.going ? (
			<Button onClick={s.otherWay}>{w.chooseAWay}</Button>
		) : (
			<>
				<p role="status" className="m-0 text-soft">
					{w.lookingUpThePayment}
				</p>
				<ErrorMessage error={s.failed} />
			</>
		);
	const amount = money(card.amount, currency);
	return (
		<div role="status" aria-live="polite">
			<p className="m-0 text-sm font-semibold text-soft">{w.byCard}</p>
			<p className="num m-0 mb-3 font-serif text-5xl font-bold">{amount}</p>
			{card.state === "asked" && (
				<>
					<p className="num m-0 mb-4 rounded-sm bg-slate-pale px-4 py-4 text-center text-xl font-semibold text-slate">
						{w.askingTheTerminal({ seconds })}
					</p>
					<Button onClick={() => s.cancel.mutate(s.going!.sale)} disabled={s.cancel.isPending}>
						{w.cancelTheCard}
					</Button>
				</>
			)}
			{card.state === "unknown" && (
				<>
					<p className="m-0 mb-2 rounded-sm bg-blush px-4 py-4 text-center text-xl font-semibold text-persimmon-deep">
						{w.noAnswerYet({ seconds })}
					</p>
					<p className="m-0 mb-4 text-sm">{w.nothingIsChargedTwice}</p>
					<div className="flex flex-wrap gap-3">
						<Button variant="primary" onClick={() => s.ask()}>
							{w.askAgain}
						</Button>
						<Button onClick={() => s.cancel.mutate(s.going!.sale)} disabled={s.cancel.isPending}>
							{w.cashInstead}
						</Button>
					</div>
					<p className="mt-2 mb-0 text-sm text-soft">{w.cashInsteadSays}</p>
				</>
			)}
			{card.state === "cancelling" && (
				<>
					<p className="m-0 mb-2 rounded-sm bg-slate-pale px-4 py-4 text-center text-xl font-semibold text-slate">
						{w.beingCancelled({ seconds })}
					</p>
					<p className="m-0 text-sm">{w.beingCancelledSays}</p>
				</>
			)}
			{(card.state === "declined" || card.state === "reversed") && (
				<>
					<p className="m-0 mb-4 rounded-sm bg-blush px-4 py-4 text-center text-xl font-semibold text-persimmon-deep">
						{card.state === "reversed" ? w.reversed : w.declined({ reason: card.reason ?? "" })}
					</p>
					<Button variant="primary" onClick={s.otherWay}>
						{w.chooseAnotherWay}
					</Button>
				</>
			)}
			<ErrorMessage error={s.failed} />
		</div>
	);
}
