import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api, unwrap } from "../api/client";
import { StepDrawing } from "../face/StepDrawing";
import { Loading } from "../kit/kit";
import * as w from "../words/catalogue/protocols";
import { figureWords } from "../words/sentences";

/** What of a sample's plane is shown. */
const box = "-5 -2.5 10 5";

/** The figures in which strokes are drawn, each with a sample; the one of the chosen stroke is marked. The one pointed at moves. */
export function FigureLegend({ now }: { now: string | undefined }) {
	const list = useQuery({
		queryKey: ["figures"],
		queryFn: () => unwrap(api.GET("/api/figures")),
		staleTime: Number.POSITIVE_INFINITY,
	});
	const [pointed, setPointed] = useState<string | null>(null);
	const at = useClock(pointed !== null);
	if (!list.data) return <Loading of={w.howStrokesAreDrawn} error={list.error} retry={() => list.refetch()} />;
	return (
		<section aria-label={w.howStrokesAreDrawn} className="min-h-0 overflow-y-auto pr-1">
			<h2 className="m-0 text-xl leading-tight">{w.howStrokesAreDrawn}</h2>
			<p className="my-1 text-sm text-soft">{w.legendText}</p>
			<ul className="m-0 grid list-none grid-cols-2 gap-1 p-0">
				{list.data.map((s) => (
					<li
						key={s.figure}
						className={`rounded-sm border p-1 ${s.figure === now ? "border-ink bg-blush" : "border-rule"}`}
						onPointerEnter={() => setPointed(s.figure)}
						onPointerLeave={() => setPointed(null)}
					>
						<svg viewBox={box} className="block w-full" aria-hidden="true">
							<StepDrawing
								drawing={s.drawing}
								intent="release"
								figure={s.figure}
								night={false}
								upright={false}
								{...(pointed === s.figure ? { pass: wholeTime, local: at } : {})}
							/>
						</svg>
						<span className="block text-xs leading-tight first-letter:uppercase">{figureWords[s.figure]}</span>
					</li>
				))}
			</ul>
		</section>
	);
}

const wholeTime = { start: 0, seconds: Number.POSITIVE_INFINITY, side: "both" } as const;

/** Seconds since it began to run. */
function useClock(running: boolean): number {
	const [at, setAt] = useState(0);
	useEffect(() => {
		if (!running || window.matchMedia("(prefers-reduced-motion: reduce)").matches) return setAt(0);
		const start = performance.now();
		let frame = requestAnimationFrame(function next(t) {
			setAt((t - start) / 1000);
			frame = requestAnimationFrame(next);
		});
		return () => cancelAnimationFrame(frame);
	}, [running]);
	return at;
}
