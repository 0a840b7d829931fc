import { type ReactNode, Suspense, useState } from "react";

/** A menu that comes when its button is first pressed; until it is there, and before, the button stands for it. */
export function Later({ button, children }: { button: (press: () => void) => ReactNode; children: ReactNode }) {
	const [pressed, setPressed] = useState(false);
	const plain = button(() => setPressed(true));
	return pressed ? <Suspense fallback={plain}>{children}</Suspense> : plain;
}
