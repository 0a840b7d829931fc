import { useNavigate } from "@tanstack/react-router";
import type { Schemas } from "../../api/client";
import * as w from "../../words/catalogue/treatment";
import type { RoomGuide } from "../useRoomGuide";
import { Knuckle } from "./Knuckle";
import type { RoomSizes } from "./roomScreen";

const measures = [
	["puffiness", w.puffiness],
	["redness", w.rednessGrade],
	["tension", w.tension],
] as const;
const most = 4;

/** Left and right side by side, a grade each with steppers: "mirror, sit level, light on". */
export function Grades({ r, room, sizes }: { r: RoomGuide; room: Schemas["RoomGuideView"]; sizes: RoomSizes }) {
	const step = "rounded-md border-2 border-amber-dim text-3xl font-semibold";
	const side = sizes.target;
	return (
		<div>
			<p className="m-0 text-amber-dim" style={{ fontSize: sizes.arm }}>
				{w.mirrorSitLevelLightOn}
			</p>
			<table className="num mt-1 w-full border-collapse" style={{ fontSize: sizes.arm * 1.15 }}>
				<thead>
					<tr>
						<th />
						<th>{w.letterLeft}</th>
						<th>{w.letterRight}</th>
					</tr>
				</thead>
				<tbody>
					{measures.map(([measure, name]) => (
						<tr key={measure}>
							<th className="text-left font-semibold">{name}</th>
							{(["left", "right"] as const).map((s) => {
								const value = r.grades[`${measure}/${s}/1`];
								return (
									<td key={s} className="py-1">
										<span className="flex items-center justify-end gap-1">
											<Knuckle
												still={sizes.still}
												aria-label={w.gradeLess({ name, side: s })}
												onPress={() => r.grade(measure, s, Math.max(0, (value ?? 1) - 1))}
												className={step}
												style={{ minWidth: side, minHeight: side }}
											>
												−
											</Knuckle>
											<span
												className="inline-block w-10 text-center font-serif font-semibold"
												style={{ fontSize: sizes.read * 0.7, lineHeight: 1 }}
											>
												{value ?? "–"}
												{room.lastGrades[`${measure}/${s}`] !== undefined && (
													<span className="block font-sans text-sm font-normal text-amber-dim">
														{w.lastTime({ value: room.lastGrades[`${measure}/${s}`] })}
													</span>
												)}
											</span>
											<Knuckle
												still={sizes.still}
												aria-label={w.gradeMore({ name, side: s })}
												onPress={() => r.grade(measure, s, Math.min(most, (value ?? -1) + 1))}
												className={step}
												style={{ minWidth: side, minHeight: side }}
											>
												+
											</Knuckle>
										</span>
									</td>
								);
							})}
						</tr>
					))}
				</tbody>
			</table>
		</div>
	);
}

/** The way to the lengths while grades are entered; the guide pauses for it. */
export function MeasureLengths({ r, room, sizes }: { r: RoomGuide; room: Schemas["RoomGuideView"]; sizes: RoomSizes }) {
	const go = useNavigate();
	return (
		<Knuckle
			still={sizes.still}
			className="w-full rounded-md border-2 border-amber-dim px-3 text-xl font-semibold"
			style={{ minHeight: sizes.target }}
			onPress={() => {
				if (r.running) r.toggle("tap");
				void go({
					to: "/people/$id/measure",
					params: { id: room.visit.client },
					search: { visit: room.visit.id, room: true, ...(r.spell?.step.phase === "compare" ? { after: true } : {}) },
				});
			}}
		>
			{w.measureLengths}
		</Knuckle>
	);
}
