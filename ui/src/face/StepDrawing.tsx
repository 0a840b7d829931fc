import { memo } from "react";
import type { Schemas } from "../api/client";
import { intentLook } from "./intents";
import { handAt } from "./moving";

type Drawing = Schemas["Drawing"];
type Trace = Schemas["Trace"];
type Tones = Record<string, string>;

/** The colours of a drawing's tones, by day and in the dark room. */
function tones(intent: string, night: boolean): Tones {
	const look = intentLook(intent);
	const ink = night ? look.night : look.colour;
	return {
		ink,
		tint: ink,
		paper: night ? "#17100f" : "#fffaf1",
		other: night ? "#c9b49c" : "#8a7480",
		text: night ? "#ffe2b0" : "#36182f",
	};
}

/** How much of the side that is not being worked stays visible. */
const idle = 0.25;
const second = 0.5;

/** One step as the core draws it; with a pass and a moment the hands move along. */
export function StepDrawing({
	drawing,
	intent,
	figure,
	night,
	upright,
	pass,
	local,
}: {
	drawing: Drawing;
	intent: string;
	figure: string;
	night: boolean;
	/** The picture stands on its head; numbers do not. */
	upright: boolean;
	pass?: Schemas["Occurrence"]["passes"][number] | undefined;
	/** Seconds since the pass began. */
	local?: number | undefined;
}) {
	const tone = tones(intent, night);
	const moving = pass !== undefined && local !== undefined;
	const flashes = Math.max(0, ...drawing.marks.map((m) => m.flash ?? 0));
	const lit = moving && flashes > 0 ? (Math.floor(local * (drawing.rate ?? 1)) % flashes) + 1 : 0;
	return (
		<g pointerEvents="none" strokeLinecap="round" strokeLinejoin="round">
			<Marks marks={drawing.marks} tone={tone} upright={upright} moving={moving} side={pass?.side ?? ""} lit={lit} />
			{moving &&
				drawing.tracks
					.filter((t) => pass.side === "both" || pass.side === "mid" || t.side === "mid" || t.side === pass.side)
					.map((t) => {
						const k = handAt(t, drawing.seconds > 0 ? local % drawing.seconds : 0, local);
						const grip =
							figure === "pinches" || figure === "knead"
								? `scale(1 ${(1 - 0.45 * k.press).toFixed(2)})`
								: `scale(${(1 + 0.16 * k.press).toFixed(2)})`;
						const there = 1 - 0.8 * k.lift;
						const accent = night ? "#ffe2b0" : "#c8411b";
						const glyph = t.other && drawing.otherHand.length > 0 ? drawing.otherHand : drawing.hand;
						return (
							<g
								key={`${t.side}${t.other}`}
								transform={`translate(${k.x.toFixed(2)} ${k.y.toFixed(2)}) rotate(${k.turn.toFixed(0)}) scale(${drawing.scale}) ${grip}`}
							>
								{glyph.map((m) => (
									<path
										key={m.d}
										d={m.d}
										fill={m.fill ? accent : "none"}
										fillOpacity={(0.3 + 0.25 * k.press) * there}
										strokeOpacity={there}
										stroke={t.other ? tone.other : accent}
										strokeWidth={0.14}
									/>
								))}
							</g>
						);
					})}
		</g>
	);
}

/** The still marks; drawn anew only when side or light changes, not with every moment. */
const Marks = memo(function Marks({
	marks,
	tone,
	upright,
	moving,
	side,
	lit,
}: {
	marks: readonly Trace[];
	tone: Tones;
	upright: boolean;
	moving: boolean;
	side: string;
	lit: number;
}) {
	const shown = (m: Trace) => {
		const fade = m.fade || 1;
		if (!m.side) return fade;
		if (side === "left" || side === "right") return m.side === side ? fade : fade * idle;
		return m.side === "right" ? fade * second : fade;
	};
	return (
		<>
			{marks.map((m, i) => {
				if (m.still && moving) return null;
				const key = `${i}${m.d ?? m.text}`;
				if (m.text)
					return (
						<text
							key={key}
							transform={`translate(${m.at[0]} ${m.at[1]})${upright ? " rotate(180)" : ""}`}
							textAnchor="middle"
							dominantBaseline="central"
							fontSize={m.size}
							fontWeight={700}
							fill={tone[m.fill ?? "text"]}
							fillOpacity={shown(m)}
						>
							{m.text}
						</text>
					);
				const on = lit > 0 && m.flash === lit;
				return (
					<path
						key={key}
						d={m.d}
						fill={m.fill ? (on ? "#c8411b" : tone[m.fill]) : "none"}
						fillOpacity={(m.fill === "tint" ? (on ? 0.4 : 0.16) : 1) * shown(m)}
						strokeOpacity={shown(m)}
						stroke={m.pen ? tone[m.pen] : "none"}
						strokeWidth={m.width}
						strokeDasharray={m.dash?.join(" ") || undefined}
					/>
				);
			})}
		</>
	);
}, sameMarks);

type MarksProps = { marks: readonly Trace[]; tone: Tones; upright: boolean; moving: boolean; side: string; lit: number };

function sameMarks(a: MarksProps, b: MarksProps): boolean {
	return (
		a.marks === b.marks &&
		a.tone.ink === b.tone.ink &&
		a.upright === b.upright &&
		a.moving === b.moving &&
		a.side === b.side &&
		a.lit === b.lit
	);
}
