import { Link } from "@tanstack/react-router";
import { useSession } from "../../kit/session";
import * as w from "../../words/catalogue/series";

/** From the client just treated to the next visit: one press proposes it. */
export function SameAgainLink({ visit }: { visit: string }) {
	const { may } = useSession();
	if (!may("same-again") || !may("hold-series")) return null;
	return (
		<Link
			to="/book"
			search={{ again: visit }}
			className="inline-flex min-h-11 items-center rounded-sm border border-persimmon bg-persimmon px-4 font-semibold text-white no-underline"
		>
			{w.sameAgain}
		</Link>
	);
}
