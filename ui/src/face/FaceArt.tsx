/**
 * The drawing under the zones: head, neck and shoulders from the front in the
 * core's centimetres (origin at the chin, y down here). Eyes closed and hair
 * wrapped, as on the couch; of no particular sex or age.
 */
export function FaceArt({ night = false }: { night?: boolean }) {
	const line = night ? "#d8b98d" : "#36182f";
	const skin = night ? "#33251e" : "#fbf4e8";
	const cloth = night ? "#2a1f1b" : "#ecdfc9";
	const shade = night ? "#f2b35c" : "#b98a6b";
	const half = (
		<>
			<path d="M5.45 -3.3C5.55 -0.6 5.35 2.6 5.8 5.2C6.1 6.5 7 6.9 9.6 7.25C13 7.7 16.4 8.3 18.1 10.3C19 11.4 19.3 13.6 19.4 16.6" />
			<path d="M6.95 -14.6C7.05 -13 6.95 -12 6.92 -11.2" />
			<path
				d="M6.95 -10.9C7.25 -11.7 8.15 -11.5 8.2 -10.4C8.25 -9.3 7.95 -8.6 7.75 -7.9C7.6 -7.3 7.55 -6.6 7.2 -6.1C6.95 -5.75 6.6 -5.85 6.5 -6.3"
				fill={skin}
			/>
			<path d="M7.25 -10.3C7.6 -10.5 7.75 -10.1 7.65 -9.5C7.55 -8.9 7.25 -8.7 7.2 -8.1" strokeWidth={0.07} opacity={0.7} />
			<path d="M6.92 -11.2C6.9 -10 6.7 -8.4 6.4 -6.6C6.15 -5.2 5.7 -4.1 5.1 -3.15C4.3 -2 3.2 -0.85 2.1 -0.25C1.4 0.08 0.7 0.15 0 0.15" />
			{/* brow, one tapering shape */}
			<path
				d="M1.15 -12.75C2 -13.4 3.2 -13.75 4.1 -13.65C4.7 -13.55 5.1 -13.2 5.35 -12.75C4.9 -13.05 4.4 -13.2 3.9 -13.22C3 -13.25 2 -12.95 1.25 -12.45Z"
				fill={line}
				stroke="none"
				opacity={night ? 0.75 : 0.82}
			/>
			{/* closed lid */}
			<path d="M1.55 -10.98C2.1 -10.55 2.7 -10.4 3.2 -10.45C3.8 -10.5 4.25 -10.8 4.62 -11.2" strokeWidth={0.17} />
			<path
				d="M2.2 -10.5L2.05 -10.2M2.75 -10.38L2.68 -10.05M3.3 -10.4L3.38 -10.06M3.85 -10.6L4.02 -10.28M4.3 -10.9L4.55 -10.62"
				strokeWidth={0.09}
			/>
			<path d="M1.75 -11.5C2.4 -12.1 3.6 -12.25 4.6 -11.65" strokeWidth={0.07} opacity={0.55} />
			<path d="M2 -9.75C2.8 -9.35 3.8 -9.4 4.5 -9.85" strokeWidth={0.05} opacity={0.35} />
			{/* nose */}
			<path d="M0.85 -11.6C0.72 -10.6 0.7 -9.8 0.85 -9" strokeWidth={0.06} opacity={0.45} />
			<path d="M1.15 -8.35C1.75 -8.15 1.95 -7.4 1.55 -6.95C1.3 -6.75 1.05 -6.85 0.85 -7" />
			<path d="M0.85 -7C0.6 -6.72 0.3 -6.6 0 -6.6" />
			{/* mouth */}
			<path d="M0 -5.15C0.3 -5.42 0.55 -5.5 0.8 -5.38C1.45 -5.1 2.1 -4.8 2.6 -4.55" strokeWidth={0.09} />
			<path d="M0 -4.6C0.9 -4.72 1.8 -4.66 2.62 -4.55" strokeWidth={0.14} />
			<path d="M2.62 -4.55C2 -3.95 1.1 -3.65 0 -3.65" strokeWidth={0.09} />
			<path d="M0.9 -2.75C0.6 -2.6 0.3 -2.55 0 -2.55" strokeWidth={0.06} opacity={0.5} />
			<path d="M1.9 -7.2C2.5 -6.7 2.95 -6 3.1 -5.2" strokeWidth={0.05} opacity={0.35} />
			{/* neck and collarbone */}
			<path d="M5 -0.9C4.5 2 3.4 5.4 1.6 8.6" strokeWidth={0.06} opacity={0.45} />
			<path d="M1.35 9C3 9.6 5.4 9.55 8 9.05C11 8.5 13.6 8.6 15.6 9.3" strokeWidth={0.1} opacity={0.75} />
			<path d="M1.5 10.1C3.4 10.5 5.8 10.4 8.2 10.05" strokeWidth={0.05} opacity={0.4} />
			<path d="M0.95 8.5C0.75 9.1 0.4 9.35 0 9.35" strokeWidth={0.07} opacity={0.6} />
			<path d="M13.2 15.9C13.3 14.7 13.6 13.4 14.3 12.4" strokeWidth={0.06} opacity={0.5} />
		</>
	);
	const bust =
		"M-19.4 16.6C-19.3 13.6 -19 11.4 -18.1 10.3C-16.4 8.3 -13 7.7 -9.6 7.25C-7 6.9 -6.1 6.5 -5.8 5.2C-5.35 2.6 -5.55 -0.6 -5.45 -3.3L5.45 -3.3C5.55 -0.6 5.35 2.6 5.8 5.2C6.1 6.5 7 6.9 9.6 7.25C13 7.7 16.4 8.3 18.1 10.3C19 11.4 19.3 13.6 19.4 16.6Z";
	const face =
		"M-6.95 -14.6C-7.05 -13 -6.95 -12 -6.92 -11.2C-6.9 -10 -6.7 -8.4 -6.4 -6.6C-6.15 -5.2 -5.7 -4.1 -5.1 -3.15C-4.3 -2 -3.2 -0.85 -2.1 -0.25C-1.4 0.08 -0.7 0.15 0 0.15C0.7 0.15 1.4 0.08 2.1 -0.25C3.2 -0.85 4.3 -2 5.1 -3.15C5.7 -4.1 6.15 -5.2 6.4 -6.6C6.7 -8.4 6.9 -10 6.92 -11.2C6.95 -12 7.05 -13 6.95 -14.6C6.6 -17 4 -18.8 0 -18.8C-4 -18.8 -6.6 -17 -6.95 -14.6Z";
	return (
		<g fill="none" stroke={line} strokeWidth={0.12} strokeLinecap="round" strokeLinejoin="round" aria-hidden="true" pointerEvents="none">
			<path d={bust} fill={skin} stroke="none" />
			<path d="M-5.3 -3.4C-3.2 0.6 3.2 0.6 5.3 -3.4L5.35 -1.8C3 1.9 -3 1.9 -5.35 -1.8Z" fill={shade} stroke="none" opacity={0.16} />
			<path d={face} fill={skin} stroke="none" />
			<ellipse cx={4.3} cy={-8} rx={1.8} ry={1.3} fill={shade} stroke="none" opacity={0.12} />
			<ellipse cx={-4.3} cy={-8} rx={1.8} ry={1.3} fill={shade} stroke="none" opacity={0.12} />
			<path
				d="M-2.62 -4.55C-2.1 -4.8 -1.45 -5.1 -0.8 -5.38C-0.55 -5.5 -0.3 -5.42 0 -5.15C0.3 -5.42 0.55 -5.5 0.8 -5.38C1.45 -5.1 2.1 -4.8 2.62 -4.55C2 -3.95 1.1 -3.65 0 -3.65C-1.1 -3.65 -2 -3.95 -2.62 -4.55Z"
				fill={shade}
				stroke="none"
				opacity={0.28}
			/>
			{half}
			<g transform="scale(-1 1)">{half}</g>
			{/* the wrap */}
			<path
				d="M-7.05 -14.2C-6.3 -17.2 -3.6 -18.55 0 -18.55C3.6 -18.55 6.3 -17.2 7.05 -14.2C7.9 -15.6 8.1 -17.4 7.5 -19.2C6.4 -22.3 3.6 -23.6 0 -23.6C-3.6 -23.6 -6.4 -22.3 -7.5 -19.2C-8.1 -17.4 -7.9 -15.6 -7.05 -14.2Z"
				fill={cloth}
			/>
			<g strokeWidth={0.06} opacity={0.55}>
				<path d="M-6.9 -15.6C-5.4 -19 -2.6 -20.4 0.4 -20.6" />
				<path d="M6.9 -15.6C5.6 -18.6 3.2 -20 1.2 -20.5" />
				<path d="M-7.4 -17.2C-6 -20.6 -3 -21.9 0.2 -21.9" />
				<path d="M7.5 -17.4C6.4 -20 4 -21.5 1.4 -21.8" />
				<path
					d="M-0.2 -20.1C0.4 -19.6 1.2 -19.7 1.7 -20.3C2.1 -20.9 1.8 -21.9 1.1 -22.3C0.5 -22.5 -0.2 -22 -0.4 -21.3C-0.5 -20.9 -0.5 -20.4 -0.2 -20.1Z"
					fill={cloth}
					opacity={1}
				/>
			</g>
			{/* the sheet */}
			<path d="M-19.3 15.2C-13 14.2 -6 16.1 0 15.6C6 15.1 12.6 14.3 19.3 15.4L19.4 17.4L-19.4 17.4Z" fill={cloth} strokeWidth={0.08} />
		</g>
	);
}
