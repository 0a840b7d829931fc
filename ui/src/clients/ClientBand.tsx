import type { ReactNode } from "react";
import type { Schemas } from "../api/client";
import { KnownPlaces, KnownText } from "../face/Known";
import { dayWords } from "../kit/format";
import * as w from "../words/catalogue/clients";

type Props = { client: Schemas["Client"]; brief: Schemas["Brief"] | undefined; more: ReactNode; action: ReactNode };

/** Who the client is and what to look out for: it stays in sight while the file scrolls. */
export function ClientBand({ client: c, brief, more, action }: Props) {
	const known = brief?.known ?? [];
	return (
		<div className="sticky top-0 z-10 border-b border-ink bg-paper">
			<section aria-label={w.about({ name: c.name })} className="mx-auto flex w-full max-w-[1240px] items-center gap-5 px-5 py-2">
				<KnownPlaces marks={known} className="h-20 shrink-0" />
				<div className="min-w-0 flex-1">
					<h1 className="m-0 truncate text-[1.7rem] leading-tight" title={c.name}>
						{c.name}
					</h1>
					<p className="m-0 flex flex-wrap gap-x-4 text-sm">
						{c.phone && (
							<a href={`tel:${c.phone.replace(/[^\d+]/g, "")}`} className="num font-semibold text-ink">
								{c.phone}
							</a>
						)}
						{c.birthDate && <span className="num text-soft">{dayWords(c.birthDate)}</span>}
						{more}
					</p>
					{brief && <LookOut brief={brief} />}
				</div>
				<div className="flex shrink-0 flex-col justify-end gap-2 xl:flex-row xl:gap-3">{action}</div>
			</section>
		</div>
	);
}

/** What to look out for; that there is nothing, or that nobody has asked. */
function LookOut({ brief }: { brief: Schemas["Brief"] }) {
	const medicines = brief.medicines ?? [];
	return (
		<p className="m-0 line-clamp-3 leading-snug">
			{brief.known.length > 0 ? (
				<span className="font-semibold">
					<KnownText marks={brief.known} most={8} />
				</span>
			) : brief.consultation === "current" ? (
				<span className="text-kelp">{w.nothingToLookOut}</span>
			) : (
				<span className="text-soft">{w.notAsked}</span>
			)}
			{medicines.length > 0 && <span className="text-soft"> · {w.takes({ names: medicines.join(", ") })}</span>}
		</p>
	);
}
