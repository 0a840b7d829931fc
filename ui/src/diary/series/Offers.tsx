import * as w from "../../words/catalogue/series";
import { compromises, moreText, type Offer, sentence } from "./say";

/** What was given up for a series, and what that costs. */
export function Given({ offer, wished }: { offer: Offer; wished: boolean }) {
	const lines = compromises(offer, wished);
	if (lines.length === 0) return <p className="m-0 mt-1 text-kelp">{w.nothingGivenUp}</p>;
	return (
		<ul className="m-0 mt-1 list-none p-0">
			{lines.slice(0, 4).map((l) => (
				<li key={l}>{l}.</li>
			))}
			{lines.length > 4 && (
				<li>
					<details>
						<summary className="min-h-6 cursor-pointer text-soft">{w.andMore({ n: lines.length - 4 })}</summary>
						<ul className="m-0 list-none p-0">
							{lines.slice(4).map((l) => (
								<li key={l}>{l}.</li>
							))}
						</ul>
					</details>
				</li>
			)}
		</ul>
	);
}

/** What somebody has to look at before a series is booked: before an event, after a pause, and what comes too often. */
export function ToLookAt({ offer }: { offer: Pick<Offer, "cautions"> }) {
	if (!offer.cautions.length) return null;
	const text = (c: Offer["cautions"][number]) =>
		({
			untried: () => w.cautionUntried({ n: c.n, products: (c.names ?? []).join(", ") }),
			redden: () => w.cautionRedden({ n: c.n }),
			gentle: () => w.cautionGentle({ n: c.n }),
			deep: () => w.cautionOften({ n: c.n }),
			mouth: () => w.cautionMouth({ n: c.n }),
			mitt: () => w.cautionMitt({ n: c.n }),
		})[c.kind]();
	return (
		<ul className="mt-2 mb-0 list-none border-l-4 border-persimmon bg-blush px-4 py-2 pl-4">
			{offer.cautions.map((c) => (
				<li key={`${c.n}${c.kind}`}>{text(c)}</li>
			))}
		</ul>
	);
}

/** The other ways, each as a sentence with what it costs more. */
export function Alternatives({
	offers,
	chosen,
	own,
	stopped,
	onChoose,
}: {
	stopped: boolean;
	offers: readonly Offer[];
	chosen: number;
	own: Offer | null;
	onChoose: (i: number) => void;
}) {
	return (
		<ul className="m-0 mt-2 list-none p-0">
			{offers.map((o, i) =>
				i === chosen ? null : (
					<li key={`${o.cost}${o.visits[0]?.wall}${o.visits[0]?.practitioner}`} className="border-t border-rule">
						<button
							type="button"
							className="grid min-h-11 w-full grid-cols-[24px_minmax(0,1fr)_auto] items-baseline gap-2 py-1.5 text-left hover:bg-leaf"
							onClick={() => onChoose(i)}
						>
							<span className="num font-semibold">{i + 1}</span>
							<span>
								{sentence(o.visits)}.<span className="num block text-sm text-soft">{moreFor(o, offers[chosen] ?? offers[0])}</span>
							</span>
							<span className="num text-sm text-soft">{i === 0 ? w.best : o.more === 0 ? w.asGood : moreText(o.more)}</span>
						</button>
					</li>
				),
			)}
			{!own && offers.length < 3 && offers.length > 0 && (
				<li className="border-t border-rule py-1.5 text-sm text-soft">{stopped ? w.othersStopped : w.noAlternative}</li>
			)}
		</ul>
	);
}

/** For which terms a series costs more or less than another. */
function moreFor(o: Offer, than: Offer | undefined): string {
	const terms: Record<string, string> = w.terms;
	return Object.entries(o.terms)
		.map(([term, points]) => [terms[term], Number(points) - Number(than?.terms[term as keyof Offer["terms"]] ?? 0)] as const)
		.filter(([name, n]) => name && n !== 0)
		.map(([name, n]) => w.termBy({ name, by: n > 0 ? `+${n}` : `−${-n}` }))
		.join(", ");
}
