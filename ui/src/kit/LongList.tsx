import { defaultRangeExtractor, type Range, useVirtualizer, useWindowVirtualizer, type Virtualizer } from "@tanstack/react-virtual";
import { type ReactNode, type RefObject, useEffect, useLayoutEffect, useRef, useState } from "react";

/** So many rows are drawn all at once; of a longer list only those in sight are. */
const drawn = 100;

type LongListProps<T> = {
	rows: readonly T[];
	keyOf: (row: T) => string;
	/** About how high a row is, in pixels; what it really is gets measured. */
	height: number;
	row: (row: T) => ReactNode;
	/** The key of a row that stays drawn wherever the list is scrolled, because something is being typed in it. */
	keep?: string | undefined;
	/** What the list scrolls in, where that is not the page. */
	scroller?: RefObject<HTMLElement | null>;
	className?: string;
};

/** A list that may grow long. */
export function LongList<T>(of: LongListProps<T>) {
	if (of.rows.length > drawn) return of.scroller ? <InScroller {...of} scroller={of.scroller} /> : <OnPage {...of} />;
	return (
		<ul className={`m-0 list-none p-0 ${of.className ?? ""}`}>
			{of.rows.map((r) => (
				<li key={of.keyOf(r)}>{of.row(r)}</li>
			))}
		</ul>
	);
}

const beyond = 8; // rows drawn above and below those in sight, for who tabs or scrolls fast

/** What both ways of scrolling have in common. */
function common<T>({ rows, keyOf, height, keep }: LongListProps<T>, above: number) {
	const kept = keep === undefined ? -1 : rows.findIndex((r) => keyOf(r) === keep);
	return {
		count: rows.length,
		estimateSize: () => height,
		getItemKey: (i: number) => keyOf(rows[i]!),
		overscan: beyond,
		scrollMargin: above,
		rangeExtractor: (range: Range) => {
			const inSight = defaultRangeExtractor(range);
			return kept < 0 || inSight.includes(kept) ? inSight : [...inSight, kept].sort((a, b) => a - b);
		},
	};
}

function OnPage<T>(of: LongListProps<T>) {
	const list = useRef<HTMLUListElement>(null);
	const [above, setAbove] = useState(0);
	useLayoutEffect(() => {
		setAbove((list.current?.getBoundingClientRect().top ?? 0) + window.scrollY);
	}, []);
	const rows = useWindowVirtualizer<HTMLLIElement>(common(of, above));
	return <InSight of={of} list={list} rows={rows} above={above} />;
}

function InScroller<T>(of: LongListProps<T> & { scroller: RefObject<HTMLElement | null> }) {
	const list = useRef<HTMLUListElement>(null);
	const [above, setAbove] = useState(-1);
	const { scroller } = of;
	// What it scrolls in lies around it, and is known only once both are there.
	useEffect(() => {
		const box = scroller.current;
		if (box && list.current) setAbove(list.current.getBoundingClientRect().top - box.getBoundingClientRect().top + box.scrollTop);
	}, [scroller]);
	const rows = useVirtualizer<HTMLElement, HTMLLIElement>({ ...common(of, Math.max(0, above)), getScrollElement: () => scroller.current });
	return <InSight of={of} list={list} rows={rows} above={Math.max(0, above)} />;
}

function InSight<T, S extends Window | HTMLElement>({
	of,
	list,
	rows,
	above,
}: {
	of: LongListProps<T>;
	list: RefObject<HTMLUListElement | null>;
	rows: Virtualizer<S, HTMLLIElement>;
	above: number;
}) {
	return (
		<ul ref={list} className={`relative m-0 list-none p-0 ${of.className ?? ""}`} style={{ height: rows.getTotalSize() }}>
			{rows.getVirtualItems().map((v) => (
				<li
					key={v.key}
					ref={rows.measureElement}
					data-index={v.index}
					aria-setsize={of.rows.length}
					aria-posinset={v.index + 1}
					className="absolute top-0 left-0 w-full"
					style={{ transform: `translateY(${v.start - above}px)` }}
				>
					{of.row(of.rows[v.index]!)}
				</li>
			))}
		</ul>
	);
}
