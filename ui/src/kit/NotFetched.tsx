import { createPortal } from "react-dom";
import * as w from "../words/catalogue/kit";
import { Button } from "./kit";

/** Says over the page that a part of it, a dialog or a menu, could not be fetched. */
export function NotFetched({ again }: { again: () => void }) {
	return createPortal(
		<div
			role="alert"
			className="no-print fixed bottom-5 left-1/2 z-50 flex w-[min(600px,94vw)] -translate-x-1/2 items-center gap-4 rounded-md border border-ink bg-paper px-4 py-3"
		>
			<p className="m-0 grow">{w.thisCouldNotBeFetched}</p>
			<Button variant="primary" className="shrink-0" onClick={again}>
				{w.tryAgain}
			</Button>
		</div>,
		document.body,
	);
}
