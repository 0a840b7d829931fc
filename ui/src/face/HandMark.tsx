/** How a hand part or a kind of tool looks on the face map, in picture centimetres, pointing along the path. */
export function HandMark({
	hand,
	tool,
	colour,
	pulse,
}: {
	hand?: string | undefined;
	tool?: string | undefined;
	colour: string;
	pulse: number;
}) {
	const line = { fill: colour, fillOpacity: 0.32 + 0.3 * pulse, stroke: colour, strokeWidth: 0.14 };
	const grow = 1 + 0.14 * pulse;
	return (
		<g transform={`scale(${grow})`} strokeLinecap="round" strokeLinejoin="round">
			{tool ? <ToolShape kind={tool} line={line} /> : <HandShape hand={hand ?? ""} line={line} />}
		</g>
	);
}

type Line = { fill: string; fillOpacity: number; stroke: string; strokeWidth: number };

// Pads of n fingers side by side, across the way they move.
function Pads({ n, line, size = 1 }: { n: number; line: Line; size?: number }) {
	return (
		<>
			{Array.from({ length: n }, (_, i) => (
				<ellipse key={`${n}-${i}`} cx={0} cy={(i - (n - 1) / 2) * 0.62 * size} rx={0.52 * size} ry={0.3 * size} {...line} />
			))}
		</>
	);
}

function HandShape({ hand, line }: { hand: string; line: Line }) {
	switch (hand) {
		case "index":
		case "ring finger":
			return <Pads n={1} line={line} />;
		case "middle over index":
			return (
				<>
					<ellipse rx={0.6} ry={0.34} {...line} />
					<ellipse cx={-0.22} cy={-0.12} rx={0.5} ry={0.26} {...line} />
				</>
			);
		case "index + middle":
			return <Pads n={2} line={line} />;
		case "thumb":
			return <ellipse rx={0.74} ry={0.46} {...line} />;
		case "thumb + index pinch":
		case "thumb and index C":
		case "L of thumb and index":
			return (
				<>
					<ellipse cx={0.1} cy={-0.62} rx={0.5} ry={0.28} transform="rotate(18)" {...line} />
					<ellipse cx={0.1} cy={0.62} rx={0.58} ry={0.34} transform="rotate(-18)" {...line} />
				</>
			);
		case "two fingers + thumb":
			return (
				<>
					<ellipse cx={0.1} cy={0.66} rx={0.58} ry={0.34} {...line} />
					<ellipse cx={0} cy={-0.42} rx={0.5} ry={0.26} {...line} />
					<ellipse cx={0} cy={-0.96} rx={0.5} ry={0.26} {...line} />
				</>
			);
		case "knuckle of one finger":
		case "bent index hook":
			return <path d="M-0.9 -0.3H0.2C0.8 -0.3 0.8 0.5 0.2 0.5H-0.2V0.1H-0.9Z" {...line} />;
		case "fist knuckles":
			return (
				<>
					{[-1.05, -0.35, 0.35, 1.05].map((y) => (
						<rect key={y} x={-0.35} y={y - 0.3} width={0.7} height={0.6} rx={0.22} {...line} />
					))}
				</>
			);
		case "flat palm":
		case "cupped palm":
		case "heel of hand":
		case "edge of hand":
		case "backs of fingers":
			return (
				<path
					d="M-1.3 -0.75C-0.9 -1.05 -0.2 -1.05 0.3 -1L1.35 -0.95C1.65 -0.9 1.65 -0.55 1.35 -0.5L1.55 -0.42C1.85 -0.35 1.85 0 1.55 0.02L1.5 0.08C1.8 0.15 1.75 0.5 1.45 0.5L1.2 0.56C1.45 0.62 1.4 0.95 1.1 0.95L0.2 0.98C-0.4 1.02 -0.9 1 -1.3 0.75C-1.55 0.4 -1.55 -0.4 -1.3 -0.75Z"
					{...line}
				/>
			);
		case "interlaced hands":
		case "joined palms":
			return (
				<>
					<ellipse cx={-0.3} cy={-0.3} rx={1.2} ry={0.6} transform="rotate(14)" {...line} />
					<ellipse cx={-0.3} cy={0.3} rx={1.2} ry={0.6} transform="rotate(-14)" {...line} />
				</>
			);
		case "two-finger V":
		case "web of hand":
			return <path d="M-0.9 0L0.9 -0.95C1.25 -1.05 1.35 -0.65 1.05 -0.5L0.1 0L1.05 0.5C1.35 0.65 1.25 1.05 0.9 0.95Z" {...line} />;
	}
	return <Pads n={hand === "all fingers" ? 4 : 3} line={line} />;
}

function ToolShape({ kind, line }: { kind: string; line: Line }) {
	switch (kind) {
		case "stone":
			return (
				<path
					d="M0.5 -1.5C1 -0.6 1 0.6 0.5 1.5C0 1.9 -0.9 1.7 -1.2 1.1C-0.6 0.7 -0.6 -0.7 -1.2 -1.1C-0.9 -1.7 0 -1.9 0.5 -1.5Z"
					{...line}
				/>
			);
		case "twin-ball-roller":
			return (
				<>
					<circle cx={0.3} cy={-0.7} r={0.6} {...line} />
					<circle cx={0.3} cy={0.7} r={0.6} {...line} />
					<path d="M-0.2 -0.35L-0.9 0L-0.2 0.35M-0.9 0H-2.2" {...line} fill="none" strokeWidth={0.22} />
				</>
			);
		case "cylinder-roller":
			return (
				<>
					<rect x={-0.4} y={-1} width={0.8} height={2} rx={0.35} {...line} />
					<path d="M-0.4 0H-2" {...line} fill="none" strokeWidth={0.22} />
				</>
			);
		case "cold":
			return (
				<>
					<circle r={0.8} {...line} />
					<path d="M0 -0.45V0.45M-0.39 -0.22L0.39 0.22M-0.39 0.22L0.39 -0.22" {...line} fill="none" strokeWidth={0.1} />
					<path d="M-0.8 0H-2" {...line} fill="none" strokeWidth={0.22} />
				</>
			);
		case "cup":
			return (
				<>
					<circle r={0.85} {...line} />
					<circle r={0.4} {...line} fill="none" />
				</>
			);
		case "brush":
			return <path d="M0.8 -0.5V0.5L0 0.3V-0.3ZM0 0H-1.9" {...line} />;
	}
	return <rect x={-1} y={-1} width={2} height={2} rx={0.4} strokeDasharray="0.3 0.2" {...line} />;
}
