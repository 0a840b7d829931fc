import { Dialog as RadixDialog } from "radix-ui";
import type { DialogProps } from "./Dialog";

/** A dialog that is open: it takes the keyboard and keeps the page behind it still. */
export function DialogBox({ onClose, title, children }: Omit<DialogProps, "open">) {
	return (
		<RadixDialog.Root open onOpenChange={(o) => !o && onClose()}>
			<RadixDialog.Portal>
				<RadixDialog.Overlay className="fixed inset-0 z-40 bg-ink/40" />
				<RadixDialog.Content
					aria-describedby={undefined}
					className="fixed top-1/2 left-1/2 z-50 max-h-[90vh] w-[min(560px,94vw)] -translate-x-1/2 -translate-y-1/2 overflow-auto rounded-md border border-ink bg-paper p-6"
				>
					<RadixDialog.Title className="mt-0 mb-3 text-2xl">{title}</RadixDialog.Title>
					{children}
				</RadixDialog.Content>
			</RadixDialog.Portal>
		</RadixDialog.Root>
	);
}
