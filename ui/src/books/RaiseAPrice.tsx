import { useQuery } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import { priceListQuery } from "../api/queries";
import { Button, Field, Loading } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/books";
import { NewPrice } from "./NewPrice";
import { PriceQuestion } from "./PriceQuestion";

/** What another price of a protocol would leave; setting it is a step of its own. */
export function RaiseAPrice({ currency }: { currency: string }) {
	const { may } = useSession();
	const list = useQuery(priceListQuery);
	const [chosen, setChosen] = useState("");
	const [price, setPrice] = useState("");
	const [setting, setSetting] = useState(false);
	const follow = useCallback((p: string) => setPrice(p), []);
	if (!list.data) return <Loading of={w.prices} error={list.error} retry={() => list.refetch()} />;
	const id = chosen || list.data.treatments[0]?.protocol;
	if (!id) return null;
	return (
		<>
			<Field label={w.whatIfIRaise}>
				{(a) => (
					<select
						{...a}
						className="field mb-3"
						value={id}
						onChange={(e) => {
							setChosen(e.target.value);
							setSetting(false);
						}}
					>
						{list.data.treatments.map((t) => (
							<option key={t.protocol} value={t.protocol}>
								{t.name}
							</option>
						))}
					</select>
				)}
			</Field>
			<PriceQuestion key={id} id={id} currency={currency} onPrice={follow} />
			{may("add-price") &&
				(setting ? (
					<NewPrice key={price} of={{ protocol: id, visits: 1 }} price={price} done={() => setSetting(false)} />
				) : (
					<Button className="mt-3" onClick={() => setSetting(true)}>
						{w.setANewPrice}
					</Button>
				))}
		</>
	);
}
