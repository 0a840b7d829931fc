import { AlertDialog } from "radix-ui";
import { clock } from "../kit/format";
import * as w from "../words/catalogue/treatment";

type Props = {
	open: boolean;
	/** Seconds of the closing that is still to come; 0 where there is none. */
	closing: number;
	onClose: () => void;
	onClosing: () => void;
	onEnd: () => void;
	onLeave: () => void;
};

/** Ending before the plan does, or leaving the guide while it goes on. */
export function EndHere({ open, closing, onClose, onClosing, onEnd, onLeave }: Props) {
	const button = "min-h-[88px] w-full rounded-md border-2 border-amber-dim px-6 text-left text-2xl font-semibold";
	return (
		<AlertDialog.Root open={open} onOpenChange={(o) => !o && onClose()}>
			<AlertDialog.Portal>
				<AlertDialog.Content className="night fixed inset-0 z-50 overflow-y-auto bg-night p-10 text-amber">
					<AlertDialog.Title className="m-0 mb-2 text-5xl">{w.endOrLeave}</AlertDialog.Title>
					<AlertDialog.Description className="m-0 mb-6 text-2xl">{w.whatIsLeftIsRecorded}</AlertDialog.Description>
					<div className="grid max-w-3xl gap-4">
						{closing > 0 && (
							<button type="button" className={`${button} bg-amber text-night`} onClick={onClosing}>
								{w.goToTheClosing}
								<span className="block text-lg font-normal">{w.closingTakes({ time: clock(closing) })}</span>
							</button>
						)}
						<button type="button" className={button} onClick={onEnd}>
							{w.endHere}
							<span className="block text-lg font-normal">{w.endHereAndRecord}</span>
						</button>
						<button type="button" className={button} onClick={onLeave}>
							{w.leaveTheGuide}
							<span className="block text-lg font-normal">{w.theGuideGoesOn}</span>
						</button>
						<AlertDialog.Cancel className={button}>{w.backToTheTreatment}</AlertDialog.Cancel>
					</div>
				</AlertDialog.Content>
			</AlertDialog.Portal>
		</AlertDialog.Root>
	);
}
