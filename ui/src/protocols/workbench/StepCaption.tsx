import type { Schemas } from "../../api/client";
import { spellAt } from "../../face/spell";
import { clock } from "../../kit/format";
import * as w from "../../words/catalogue/workbench";
import { pressureWords } from "../../words/client";
import { doseText, sideWords } from "../../words/sentences";

type Props = { step: Schemas["Resolved"]; visit: Schemas["Occurrence"] | undefined; at: number; playing: boolean };

/**
 * What the picture above it shows, in words: stroke, side, hand or tool, pressure and count. It keeps room for two lines,
 * as the picture would jump from step to step.
 */
export function StepCaption({ step, visit, at, playing }: Props) {
	const now = playing && visit ? spellAt(visit, step, at) : null;
	const with_ = step.toolName ? [step.toolName, step.tool?.part].filter(Boolean).join(", ") : step.hand;
	return (
		<p
			className="m-0 flex min-h-13 flex-wrap content-center items-center justify-center gap-x-4 border-t border-rule px-2 text-sm 2xl:min-h-9"
			data-testid="caption"
		>
			<span className="font-serif text-base font-semibold">{step.name}</span>
			<span>{sideWords[now ? now.pass.side : step.sides]}</span>
			{with_ && <span>{with_}</span>}
			{step.path.length > 0 && (
				<span>
					{w.pressure} <b className="num">{step.pressure}</b> {pressureWords[step.pressure]}
				</span>
			)}
			<span className="num font-semibold">
				{now
					? now.counted
						? w.countOfTimes({ rep: now.rep, times: now.times })
						: clock(now.pass.start + now.pass.seconds - at)
					: doseText(step.dose)}
			</span>
		</p>
	);
}
