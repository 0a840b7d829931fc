import type { ReactNode } from "react";
import { late } from "./late";

export type DialogProps = { open: boolean; onClose: () => void; title: string; children: ReactNode };

/** Loads what dialogs are made of, for a page that must be able to ask without a network. */
export const loadDialogs = () => import("./DialogBox");

const DialogBox = late(async () => (await loadDialogs()).DialogBox);

/** For what must be decided before going on. What it is made of comes with the first one that is opened. */
export function Dialog({ open, ...of }: DialogProps) {
	return open ? <DialogBox {...of} /> : null;
}
