import { type ReactNode, useDeferredValue } from "react";

/** A large page drawn in small pieces when it is opened, so that the screen answers meanwhile; first is shown until it is there. */
export function Gradually({ first, children }: { first: ReactNode; children: ReactNode }) {
	return useDeferredValue(true, false) ? children : first;
}
