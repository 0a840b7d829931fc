import type { Schemas } from "../../api/client";
import { clock } from "../../kit/format";
import * as w from "../../words/catalogue/treatment";
import { figureWords, phaseWords } from "../../words/sentences";
import type { RoomGuide } from "../useRoomGuide";
import { Knuckle } from "./Knuckle";
import type { RoomSizes } from "./roomScreen";

type Step = Schemas["Resolved"];

const relations: Record<string, string> = { slides: w.slides, carries: w.carries, still: w.staysStill };
const whens: Record<string, string> = {
	"too-strong": w.tooStrong,
	"long-nails": w.longNails,
	"no-tool": w.noTool,
	stalled: w.stalled,
	beard: w.beard,
	lashes: w.lashes,
};

/** What a colleague would say of a step besides: the way in words, how it moves, pressure on the way, how the place is found, when it is done well, and what to do instead. Read at arm's length, in the place of the map. */
export function Details({
	r,
	room,
	step,
	sizes,
	zone,
	strokes,
}: {
	r: RoomGuide;
	room: Schemas["RoomGuideView"];
	step: Step;
	sizes: RoomSizes;
	zone: (k: string) => string;
	strokes: (key: string) => string;
}) {
	const way = step.path.map((p) => zone(p.zone).toLowerCase());
	const pressures = step.path.map((p) => p.pressure);
	const soon = room.evaluation.reapply.find((x) => x.at >= r.position - 1);
	const phaseLeft = r.spells.filter((s) => s.index >= r.index && s.step.phase === step.phase).reduce((sum, s) => sum + s.seconds, 0) - r.t;
	const lines: [string, boolean][] = [
		[way.join(" → "), true],
		[
			step.path.length > 0
				? w.movesAs({ figure: figureWords[step.figure] ?? step.figure, relation: relations[step.relation] ?? step.relation })
				: "",
			false,
		],
		[new Set(pressures).size > 1 ? w.pressureAlong({ list: step.path.map((p, i) => `${p.pressure} ${way[i]}`).join(", ") }) : "", false],
		[
			soon
				? soon.at - r.position < 20
					? w.addNow({ product: soon.product })
					: w.addSoon({ product: soon.product, time: clock(soon.at - r.position) })
				: "",
			true,
		],
		[step.find ? w.foundBy({ how: step.find }) : "", false],
		[step.sign ? w.wellDone({ sign: step.sign }) : "", false],
		[step.caution ?? "", true],
		...room.clientNotes.filter((n) => n.steps.includes(step.id)).map((n): [string, boolean] => [n.body, true]),
		[step.client ? w.clientClient({ client: step.client }) : "", false],
		[step.cue ?? "", false],
		[step.note ?? "", false],
		[step.why ? w.whyHere({ why: step.why }) : "", false],
		[w.phaseEnds({ phase: phaseWords[step.phase] ?? step.phase, time: clock(Math.max(0, phaseLeft)) }), false],
	];
	return (
		<section aria-label={w.details} className="h-full overflow-y-auto" style={{ fontSize: sizes.arm * 0.92, lineHeight: 1.2 }}>
			{lines
				.filter(([text]) => text)
				.map(([text, strong]) => (
					<p key={text} className={`m-0 mb-1 first-letter:uppercase ${strong ? "font-bold" : "text-amber-dim"}`}>
						{text}
					</p>
				))}
			{(step.alternates ?? []).map((a) => {
				const name = a.leaveOut ? w.leaveStepOut : [a.stroke ? strokes(a.stroke) : "", a.hand, a.does].filter(Boolean).join(", ");
				const when = a.condition || whens[a.when ?? ""] || w.otherwise;
				return (
					<Knuckle
						key={`${when} ${name}`}
						still={sizes.still}
						className="mt-1 w-full rounded-md border-2 border-amber-dim px-3 text-left font-semibold"
						style={{ minHeight: sizes.target * 0.75 }}
						onPress={() => (a.leaveOut ? r.skip("tap") : r.instead(name))}
					>
						<span className="block font-normal text-amber-dim">{w.insteadOf({ when })}</span>
						{w.doInstead({ name })}
					</Knuckle>
				);
			})}
		</section>
	);
}
