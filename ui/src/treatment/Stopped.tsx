import { AlertDialog } from "radix-ui";
import * as w from "../words/catalogue/treatment";
import { Knuckle } from "./guide/Knuckle";

/** Going on and ending are held for so long, in milliseconds, so that neither happens by a slip. */
const holdFor = 2000;

/** What to do in an emergency, in the studio's words and large, while the plan stands still. */
export function Stopped({
	open,
	text,
	address,
	onResume,
	onEnd,
}: {
	open: boolean;
	text: string;
	address: string;
	onResume: () => void;
	onEnd: () => void;
}) {
	const button = "min-h-[88px] min-w-[200px] rounded-md border-2 border-amber-dim px-6 text-2xl font-semibold";
	return (
		<AlertDialog.Root open={open}>
			<AlertDialog.Portal>
				<AlertDialog.Content
					className="night fixed inset-0 z-50 flex flex-col justify-between gap-6 overflow-y-auto bg-night p-10 text-amber"
					onEscapeKeyDown={(e) => e.preventDefault()}
				>
					<div>
						<AlertDialog.Title className="m-0 mb-4 text-5xl">{w.stopped}</AlertDialog.Title>
						<AlertDialog.Description className="m-0 max-w-[40ch] text-4xl leading-snug whitespace-pre-line">{text}</AlertDialog.Description>
						{address && (
							<p className="mt-8 mb-0 text-2xl">
								{w.weAreAt} <span className="block text-4xl font-bold whitespace-pre-line">{address}</span>
							</p>
						)}
					</div>
					<div className="flex flex-wrap justify-between gap-4">
						<Knuckle still={70} hold={holdFor} className={button} onPress={onEnd}>
							{w.endAndRecord}
						</Knuckle>
						<p className="m-0 self-center text-xl">{w.holdForTwoSeconds}</p>
						<Knuckle still={70} hold={holdFor} className={button} onPress={onResume}>
							{w.resume}
						</Knuckle>
					</div>
				</AlertDialog.Content>
			</AlertDialog.Portal>
		</AlertDialog.Root>
	);
}
