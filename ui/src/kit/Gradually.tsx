import { type ReactNode, startTransition, useEffect, useState } from "react";

/**
 * A large part of a page drawn in small pieces once what stands beside it is on the screen, so that the screen answers
 * meanwhile; first is shown until it is there. One may stand inside another.
 */
export function Gradually({ first, children }: { first: ReactNode; children: ReactNode }) {
	const [come, setCome] = useState(false);
	useEffect(() => startTransition(() => setCome(true)), []);
	return come ? children : first;
}
