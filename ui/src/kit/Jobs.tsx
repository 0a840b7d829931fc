import { Link, type LinkProps } from "@tanstack/react-router";
import { type Operation, useSession } from "./session";

export type Job = readonly [to: NonNullable<LinkProps["to"]>, name: string, operation: Operation];

/** The jobs of a place, those that the account may do. */
export function Jobs({ label, jobs }: { label: string; jobs: readonly Job[] }) {
	const { may } = useSession();
	return (
		<nav aria-label={label} className="no-print flex flex-wrap gap-x-5">
			{jobs
				.filter(([, , operation]) => may(operation))
				.map(([to, name]) => (
					<Link
						key={to}
						to={to}
						activeOptions={{ exact: true, includeSearch: false }}
						className="inline-flex min-h-11 items-center border-b-2 border-transparent font-semibold no-underline aria-[current=page]:border-ink"
					>
						{name}
					</Link>
				))}
		</nav>
	);
}
