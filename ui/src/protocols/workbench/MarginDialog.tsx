import { PriceQuestion } from "../../books";
import { Dialog } from "../../kit/Dialog";
import * as w from "../../words/catalogue/workbench";

type Props = { id: string; name: string; currency: string; onClose: () => void };

/** What a treatment costs and leaves, asked from the workbench. */
export function MarginDialog({ id, name, currency, onClose }: Props) {
	return (
		<Dialog open onClose={onClose} title={w.costAndPriceOf({ name })}>
			<PriceQuestion id={id} currency={currency} />
		</Dialog>
	);
}
