import type { Schemas } from "../api/client";
import * as w from "../words/catalogue/protocols";

// The chart runs from the chest to the crown.
const lowest = -16;
const highest = 23;
const width = 240;
const height = 44;

/** The way of the hands over a plan: height on the body over time, with lines at chin and hairline. */
export function Travel({ line }: { line: Schemas["MenuLine"] }) {
	const x = (at: number) => (line.seconds > 0 ? (at / line.seconds) * width : 0);
	const y = (cm: number) => height - ((Math.min(Math.max(cm, lowest), highest) - lowest) / (highest - lowest)) * height;
	const way = line.travel.map((p, i) => `${i === 0 ? "M" : "L"}${x(p.at).toFixed(1)} ${y(p.height).toFixed(1)}`).join("");
	return (
		<svg
			viewBox={`0 0 ${width} ${height}`}
			className="block h-11 w-full"
			preserveAspectRatio="none"
			role="img"
			aria-label={w.handsTravel({ minutes: Math.round(line.seconds / 60) })}
		>
			{[0, 17].map((cm) => (
				<line
					key={cm}
					x1={0}
					x2={width}
					y1={y(cm)}
					y2={y(cm)}
					className="stroke-rule"
					strokeDasharray="2 3"
					vectorEffect="non-scaling-stroke"
				/>
			))}
			<path d={way} fill="none" className="stroke-kelp" strokeWidth={1.2} vectorEffect="non-scaling-stroke" />
		</svg>
	);
}
