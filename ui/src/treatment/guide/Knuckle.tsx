import { type ButtonHTMLAttributes, type PointerEvent, useEffect, useRef, useState } from "react";

type Props = Omit<ButtonHTMLAttributes<HTMLButtonElement>, "onClick"> & {
	onPress: () => void;
	/** A contact that moves further than this, in pixels, is none. */
	still: number;
	/** Milliseconds it is held before it acts; 0 acts on release. */
	hold?: number;
};

/** How many contacts are on the screen: a palm that rests on it presses nothing. */
let contacts = 0;
if (typeof window !== "undefined") {
	window.addEventListener("pointerdown", () => void contacts++, true);
	const lifted = () => {
		contacts = Math.max(0, contacts - 1);
	};
	for (const up of ["pointerup", "pointercancel"]) window.addEventListener(up, lifted, true);
}

/** A target for a knuckle: it acts on release inside, once, and not where two contacts or a slip across it are seen. */
export function Knuckle({ onPress, still, hold = 0, children, className = "", ...rest }: Props) {
	const down = useRef<{ x: number; y: number; many: boolean } | null>(null);
	const [held, setHeld] = useState(false);
	const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
	const act = useRef(onPress);
	act.current = onPress;
	const letGo = () => {
		clearTimeout(timer.current);
		setHeld(false);
	};
	useEffect(() => () => clearTimeout(timer.current), []);
	const start = () => {
		if (hold === 0 || held) return;
		setHeld(true);
		timer.current = setTimeout(() => {
			setHeld(false);
			act.current();
		}, hold);
	};
	const ignored = (e: { clientX: number; clientY: number }) =>
		down.current !== null && (down.current.many || Math.hypot(e.clientX - down.current.x, e.clientY - down.current.y) > still);
	return (
		<button
			type="button"
			{...rest}
			className={`relative overflow-hidden ${className}`}
			onPointerDown={(e: PointerEvent) => {
				down.current = { x: e.clientX, y: e.clientY, many: contacts > 1 };
				if (!down.current.many) start();
			}}
			onPointerUp={letGo}
			onPointerLeave={letGo}
			onKeyDown={(e) => {
				if (hold > 0 && (e.key === "Enter" || e.key === " ")) {
					e.preventDefault();
					if (!e.repeat) start();
				}
			}}
			onKeyUp={letGo}
			onClick={(e) => {
				if (hold === 0 && !ignored(e)) onPress();
				down.current = null;
			}}
		>
			{hold > 0 && (
				<span
					aria-hidden="true"
					className="absolute inset-y-0 left-0 bg-amber-dim/50"
					style={{ width: held ? "100%" : 0, transition: held ? `width ${hold}ms linear` : "none" }}
				/>
			)}
			<span className="relative">{children}</span>
		</button>
	);
}
