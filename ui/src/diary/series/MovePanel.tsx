import { Button, ErrorMessage } from "../../kit/kit";
import * as w from "../../words/catalogue/series";
import { limitText, moreText, shortDay, timeOf } from "./say";
import type { useMoving } from "./useMoving";

/** What follows from where a visit is moved to, and the two ways out. */
export function MovePanel({
	cost,
	move,
	onAccept,
	accept,
	busy,
}: {
	/** What the series costs as it stands, where that is known. */
	cost?: number | undefined;
	move: ReturnType<typeof useMoving>;
	onAccept: () => void;
	accept: string;
	busy?: boolean;
}) {
	const { moving, best, why } = move;
	if (!moving) return null;
	const changes = best && (best.changed === 0 ? w.changesNone : best.changed === 1 ? w.changesOne : w.changesMany({ n: best.changed }));
	return (
		<div className="border-l-4 border-persimmon bg-leaf p-3" role="status">
			<p className="num m-0 font-serif text-lg font-semibold">
				{w.movingN({ n: moving.n })}: {shortDay(moving.at.wall.slice(0, 10))}, {timeOf(moving.at.wall)}, {moving.at.practitionerName}
			</p>
			<p className="mt-1 mb-2 text-sm text-soft">{w.movingHint}</p>
			{best && (
				<p className="m-0 mb-2">
					{changes} {cost === undefined ? "" : best.cost > cost ? `${moreText(best.cost - cost)}.` : w.costsNoMore}
				</p>
			)}
			{why && <p className="m-0 mb-2">{why.limit ? w.cannotBeThere({ reason: limitText(why.limit, why.name) }) : w.restCannotFollow}</p>}
			{!move.pending && move.times.length === 0 && <p className="m-0 mb-2">{w.noTimesNear}</p>}
			<ErrorMessage error={move.error} />
			<div className="flex flex-wrap gap-2">
				<Button variant="primary" disabled={!best || busy} onClick={onAccept}>
					{accept}
				</Button>
				<Button variant="quiet" onClick={move.stop}>
					{w.leaveIt}
				</Button>
			</div>
		</div>
	);
}
