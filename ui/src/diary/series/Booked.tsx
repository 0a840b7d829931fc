import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import type { Schemas } from "../../api/client";
import { visitQuery } from "../../api/queries";
import { PatchFirst } from "../../checks";
import { Badge, Button } from "../../kit/kit";
import { useSession } from "../../kit/session";
import * as w from "../../words/catalogue/series";
import { outlookText } from "../../words/sentences";
import { FreeUntil } from "../FreeUntil";

type View = Schemas["SeriesView"];

/** What was just booked: for a single visit with what is to be expected of it. */
export function Booked({ view, onAnother }: { view: View; onAnother: () => void }) {
	const { at } = useSession();
	const first = view.treatments[0]?.visit;
	const single = view.treatments.length === 1 ? first : undefined;
	const visit = useQuery({ ...visitQuery(single?.id ?? ""), enabled: Boolean(single) });
	return (
		<div className="grid max-w-3xl gap-3">
			<div role="status" className="border-l-4 border-kelp bg-kelp-pale p-4">
				<p className="num m-0 font-serif text-2xl font-semibold">
					{w.isBooked}: {first && `${at.date(first.startsAt)}, ${at.time(first.startsAt)}`}
				</p>
				<p className="m-0 mt-1">
					{view.clientName}, {single ? `${single.practitionerName}, ${single.roomName}` : w.visits({ n: view.treatments.length })}
				</p>
				{visit.data?.freeUntil && <FreeUntil until={visit.data.freeUntil} />}
				{visit.data?.outlook && (
					<p className="mt-1 mb-0">
						<Badge tone={visit.data.outlook}>{outlookText(visit.data)}</Badge>
					</p>
				)}
				<div className="mt-2 flex flex-wrap gap-4">
					{single ? (
						<Link
							to="/visits/$id"
							params={{ id: single.id }}
							className="inline-flex min-h-11 items-center font-semibold underline underline-offset-4"
						>
							{w.openAppointment}
						</Link>
					) : (
						<Link
							to="/series/$id"
							params={{ id: view.id }}
							className="inline-flex min-h-11 items-center font-semibold underline underline-offset-4"
						>
							{w.openSeries}
						</Link>
					)}
					<Button variant="quiet" onClick={onAnother}>
						{w.bookAnother}
					</Button>
				</div>
			</div>
			{visit.data && <PatchFirst visit={visit.data} />}
		</div>
	);
}
