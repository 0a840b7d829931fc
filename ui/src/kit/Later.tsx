import { type ReactNode, useState } from "react";

/** A menu that comes when its button is first pressed; until it is there, and before, the button stands for it. */
export function Later({
	button,
	children: menu,
}: {
	button: (press: () => void) => ReactNode;
	children: (plain: () => ReactNode) => ReactNode;
}) {
	const [pressed, setPressed] = useState(false);
	const plain = () => button(() => setPressed(true));
	return pressed ? menu(plain) : plain();
}
