import type { Schemas } from "../api/client";
import { dayWords } from "../kit/format";
import * as w from "../words/catalogue/shelf";

type Line = Schemas["ShelfLineView"];
type Pack = Schemas["PackView"];

/** Outlines on a ground line at y 96, 60 wide: what a product of each form stands in. */
const shapes: Record<string, { outline: string; top: number; neck: string }> = {
	dropper: {
		outline: "M22 30H38V38C46 41 50 45 50 52V92Q50 96 46 96H14Q10 96 10 92V52C10 45 14 41 22 38Z",
		top: 46,
		neck: "M24 14H36V30H24ZM27 6H33V14H27Z",
	},
	pump: {
		outline: "M12 40Q12 36 16 36H44Q48 36 48 40V92Q48 96 44 96H16Q12 96 12 92Z",
		top: 44,
		neck: "M26 22H34V36H26ZM16 12H38V17H34V22H26V17H16Z",
	},
	jar: { outline: "M6 58H54V92Q54 96 50 96H10Q6 96 6 92Z", top: 62, neck: "M4 44H56V58H4Z" },
	tube: { outline: "M14 24H46L42 88H18Z", top: 32, neck: "M20 88H40V96H20Z" },
	box: { outline: "M6 40H54V96H6Z", top: 46, neck: "M6 40L16 32H44L54 40Z" },
};

const standsIn: Record<string, keyof typeof shapes> = {
	oil: "dropper",
	"scent-oil": "dropper",
	"watery-serum": "dropper",
	"moisturising-serum": "dropper",
	mist: "pump",
	water: "pump",
	"cleansing-milk": "pump",
	"massage-cream": "pump",
	balm: "jar",
	mask: "jar",
	"day-cream": "tube",
	"sun-cream": "tube",
	disposable: "box",
};

/** The pack that is being used: the open one that goes first, else the next sealed one. */
export function inUse(l: Line): Pack | undefined {
	const usable = l.packs.filter((p) => p.side === "cabin" && p.usable && Number(p.left) > 0);
	return usable.find((p) => p.opened) ?? usable[0];
}

const monthOf = (day: string) => dayWords(day).split(" ").slice(1).join(" ").replace(/ 20/, " ");

/** A product as it stands on the shelf: filled to what is left in the pack in use, its last day on the neck, sealed packs beside it, and leaning out where it runs out before the next delivery. */
export function Bottle({ line: l, today, chosen, onChoose }: { line: Line; today: string; chosen: boolean; onChoose: () => void }) {
	const pack = inUse(l);
	const shape = shapes[standsIn[l.product.form] ?? "dropper"]!;
	const part = pack ? Math.max(0, Math.min(1, Number(pack.left) / Number(pack.size))) : 0;
	const level = 96 - (96 - shape.top) * part;
	const sealed = l.packs.filter((p) => p.side === "cabin" && p.usable && !p.opened && p.id !== pack?.id).length;
	const leans = l.leans;
	const calls = l.asks !== "";
	const id = `clip-${l.product.id}`;
	return (
		<button
			type="button"
			aria-pressed={chosen}
			aria-label={[l.product.name, says(l), lineWords(l, pack)].join(", ")}
			onClick={onChoose}
			className={`grid w-[104px] justify-items-center rounded-sm px-1 pt-2 pb-1 text-left hover:bg-leaf ${chosen ? "bg-leaf outline-2 outline-ink" : ""}`}
		>
			<svg viewBox="0 0 78 100" width={78} height={100} aria-hidden="true" className="overflow-visible">
				<defs>
					<clipPath id={id}>
						<path d={shape.outline} />
					</clipPath>
				</defs>
				<g transform={leans ? "rotate(9 34 96)" : undefined}>
					<path d={shape.neck} fill="var(--color-rule)" stroke="var(--color-ink)" strokeWidth={1.4} strokeLinejoin="round" />
					<path d={shape.outline} fill="var(--color-leaf)" />
					<rect
						x={0}
						width={60}
						y={level}
						height={100 - level}
						fill={calls ? "var(--color-persimmon)" : "var(--color-kelp)"}
						opacity={0.82}
						clipPath={`url(#${id})`}
					/>
					<path d={shape.outline} fill="none" stroke="var(--color-ink)" strokeWidth={1.6} strokeLinejoin="round" />
					{pack?.goodUntil && (
						<g>
							<rect x={5} y={shape.top + 14} width={50} height={15} fill="var(--color-paper)" stroke="var(--color-ink)" strokeWidth={0.8} />
							<text x={30} y={shape.top + 25} textAnchor="middle" fontSize={11} fill="var(--color-ink)">
								{monthOf(pack.goodUntil)}
							</text>
						</g>
					)}
				</g>
				{Array.from({ length: Math.min(sealed, 5) }, (_, i) => (
					<rect
						// Packs that are alike have no other name.
						key={i}
						x={62 + (i > 2 ? 8 : 0)}
						y={84 - (i % 3) * 13}
						width={7}
						height={12}
						fill="var(--color-kelp-pale)"
						stroke="var(--color-ink)"
						strokeWidth={1}
					/>
				))}
				{sealed > 5 && (
					<text x={70} y={44} textAnchor="middle" fontSize={11} fill="var(--color-ink)">
						+{sealed - 5}
					</text>
				)}
			</svg>
			<DateLine line={l} pack={pack} today={today} />
			<span className="line-clamp-2 min-h-10 w-full text-center text-sm leading-5 font-semibold">{l.product.name}</span>
			<span className={`num w-full truncate text-center text-xs ${calls ? "font-semibold text-persimmon-deep" : "text-soft"}`}>
				{says(l)}
			</span>
		</button>
	);
}

/** What the bottle says under its name: what today asks for, else for how many treatments it lasts. */
function says(l: Line): string {
	if (l.asks === "short") return w.shortFrom({ day: shortDay(l.runOut ?? "") });
	if (l.asks !== "") return asked[l.asks];
	if (l.treatments < 0) return `${Number(l.left)} ${l.product.unit}`;
	return w.forTreatments({ treatments: l.treatments });
}

const asked = { clear: w.packToClear, reorder: w.reorder, "tester-past": w.testerPastItsDay, "last-day": w.lastDayToday } as const;

/** A day without its year: 24 Nov. */
export const shortDay = (day: string) => dayWords(day).split(" ").slice(0, 2).join(" ");

const days = (from: string, to: string) => Math.round((Date.parse(to) - Date.parse(from)) / 86_400_000);

/** The weeks ahead as a line with three marks: a triangle where it runs out, a notch where the pack in use goes off, a dot where the next delivery can be. */
function DateLine({ line: l, pack, today }: { line: Line; pack: Pack | undefined; today: string }) {
	const x = (day: string) => 4 + 88 * Math.max(0, Math.min(1, days(today, day) / l.days));
	const inView = (day: string | undefined): day is string => Boolean(day) && days(today, day!) <= l.days;
	const wanted = Number(l.demand) > 0;
	return (
		<svg viewBox="0 0 96 16" width={96} height={16} aria-hidden="true">
			<line x1={4} x2={92} y1={11} y2={11} stroke="var(--color-rule)" strokeWidth={2} />
			{wanted && inView(l.reorder.delivery) && <circle cx={x(l.reorder.delivery)} cy={11} r={3.2} fill="var(--color-slate)" />}
			{inView(pack?.goodUntil || undefined) && <path d={`M${x(pack!.goodUntil)} 5V15`} stroke="var(--color-ink)" strokeWidth={2} />}
			{inView(l.runOut) && <path d={`M${x(l.runOut)} 12L${x(l.runOut) - 5} 3H${x(l.runOut) + 5}Z`} fill="var(--color-persimmon)" />}
		</svg>
	);
}

function lineWords(l: Line, pack: Pack | undefined): string {
	return [
		l.runOut ? w.runsOutOn({ day: shortDay(l.runOut) }) : w.lastsForWeeks({ weeks: l.days / 7 }),
		pack?.goodUntil ? w.goodUntilDay({ day: dayWords(pack.goodUntil) }) : "",
		w.deliveryOn({ day: shortDay(l.reorder.delivery) }),
	]
		.filter(Boolean)
		.join("; ");
}
