import { useQuery } from "@tanstack/react-query";
import { Link, useNavigate, useParams } from "@tanstack/react-router";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { ProblemError, type Schemas } from "../api/client";
import { libraryQuery, roomQuery } from "../api/queries";
import { useDrawings } from "../face/useDrawing";
import { loadDialogs } from "../kit/Dialog";
import { Loading } from "../kit/kit";
import { keepRoomOffline } from "../kit/offline";
import * as w from "../words/catalogue/treatment";
import { EndHere } from "./EndHere";
import { deviceName } from "./guide/device";
import { GuideScreen } from "./guide/GuideScreen";
import { LayOut } from "./guide/LayOut";
import { heldFor, meant, type Pedal } from "./guide/pedal";
import { RoomSettings } from "./guide/RoomSettings";
import { useRoomScreen } from "./guide/roomScreen";
import { beat } from "./guide/spells";
import { callsAfter, Tones, useGuideTones, usualLevel } from "./guide/useTones";
import { useVoice } from "./guide/useVoice";
import { RoomShortcuts } from "./RoomShortcuts";
import { Stopped } from "./Stopped";
import { type RoomGuide, useRoomGuide } from "./useRoomGuide";

/** The guide in the treatment room: dark, large, by one knuckle or a pedal. */
export function RoomGuidePage() {
	const { id } = useParams({ from: "/visits/$id/room" });
	const room = useQuery(roomQuery(id));
	const library = useQuery(libraryQuery);
	const [device, setDevice] = useState<string>();
	useEffect(() => {
		void deviceName().then(setDevice);
	}, []);
	if (room.error instanceof ProblemError && room.error.problem.code === "not-started")
		return (
			<main className="p-8">
				<p className="text-xl">{w.thisTreatmentHasNotBeenStarted}</p>
				<Link to="/visits/$id" params={{ id }} className="font-semibold underline">
					{w.doThePreTreatmentCheckFirst}
				</Link>
			</main>
		);
	if (!room.data || !library.data || !device)
		return <Loading of={w.theRoom} error={room.error ?? library.error} retry={() => room.refetch()} />;
	return <Guide id={id} device={device} room={room.data} library={library.data} />;
}

type Props = { id: string; device: string; room: Schemas["RoomGuideView"]; library: Schemas["LibraryView"] };

function Guide({ id, device, room, library }: Props) {
	const { screen, change, sizes, fits } = useRoomScreen();
	const r = useRoomGuide(id, device, room, screen.mode);
	const go = useNavigate();
	useDrawings(room.evaluation.steps);
	const [stopped, setStopped] = useState(false);
	const [leaving, setLeaving] = useState(false);
	const [sheet, setSheet] = useState(false);
	const [settings, setSettings] = useState(false);
	const stop = useCallback(() => {
		r.stop("tap");
		setStopped(true);
	}, [r.stop]);
	const record = () => go({ to: "/visits/$id/record", params: { id } });
	const zone = (k: string) => library.zones.find((z) => z.key === k)?.name ?? k;
	const letter = (side: string | undefined) => (side === "left" ? `${w.letterLeft} ` : side === "right" ? `${w.letterRight} ` : "");
	// A place left out on both sides is named once, without a side.
	const out = [...room.avoid, ...r.leftOut];
	const avoid = [...new Set(out.map((p) => p.zone))].map((key) => {
		const sides = new Set(out.filter((p) => p.zone === key).map((p) => p.side));
		return `${sides.size === 1 ? letter([...sides][0]) : ""}${zone(key).toLowerCase()}`;
	});
	useVoice(r, screen.voice, stopped);
	useRoomKeys(r, screen.pedal, stopped || leaving || sheet || settings, {
		stop,
		leave: () => setLeaving(true),
		help: () => setSheet(true),
		silence: () => change({ level: screen.level > 0 ? 0 : usualLevel }),
	});
	useWakeLock(r.running);
	const play = useGuideTones(useSounding(r, stopped), r.leads ? screen.level : 0, r.here.quiet);
	const begun = r.begun;
	useEffect(() => {
		// The record comes next, perhaps still without a network: its page is fetched beforehand.
		if (begun) void Promise.allSettled([import("./RecordPage"), loadDialogs()]).then(() => keepRoomOffline(id));
	}, [begun, id]);
	const common = (
		<>
			<Stopped
				open={stopped}
				text={room.emergency}
				address={room.address}
				onResume={() => {
					r.goOn("tap");
					setStopped(false);
				}}
				onEnd={() => {
					if (r.begun) r.endHere(false);
					void go({ to: "/visits/$id/record", params: { id }, search: { stopped: true } });
				}}
			/>
			<RoomShortcuts open={sheet} onClose={() => setSheet(false)} />
			<RoomSettings open={settings} screen={screen} fits={fits} onChange={change} onClose={() => setSettings(false)} />
		</>
	);
	if (!r.begun)
		return (
			<main className="night min-h-screen bg-night px-8 py-6 text-amber">
				{common}
				<LayOut room={room} r={r} sizes={sizes} avoid={avoid} zone={zone} fits={fits} onStop={stop} onSettings={() => setSettings(true)} />
			</main>
		);
	return (
		<main className="night h-screen overflow-hidden bg-night p-1 text-amber">
			{common}
			<EndHere
				open={leaving}
				closing={r.closing}
				onClose={() => setLeaving(false)}
				onClosing={() => {
					r.endHere(true);
					setLeaving(false);
				}}
				onEnd={() => {
					r.endHere(false);
					void record();
				}}
				onLeave={() => go({ to: "/" })}
			/>
			<Tones value={play}>
				<GuideScreen
					room={room}
					r={r}
					screen={screen}
					sizes={sizes}
					zones={library.zones}
					zone={zone}
					strokes={(key) => library.strokes.find((s) => s.key === key)?.name ?? key}
					avoid={avoid}
					onStop={stop}
					onLeave={() => setLeaving(true)}
					onRecord={record}
					onSettings={() => setSettings(true)}
				/>
			</Tones>
		</main>
	);
}

/** What the tones follow: spell, side and count, as they are shown. */
function useSounding(r: RoomGuide, stopped: boolean) {
	const spell = r.ended ? null : (r.spell?.key ?? null);
	const side = r.run?.side ?? "";
	const d = r.spell?.step.dose;
	const rep = r.spell ? beat(r.spell) : 0;
	const into = r.spell && r.run ? r.at - r.run.start : 0;
	const times = d?.kind === "reps" || d?.kind === "counts" ? (d.planned ?? 0) : 0;
	const count = times > 0 && rep > 0 && into >= 0 ? Math.min(times, Math.floor(into / rep) + 1) : 0;
	const { running } = r;
	const open = r.spell?.step.open === true;
	const waiting = r.waiting && !open;
	const calls = r.spell && open ? callsAfter(r.t - r.spell.visit.lead - r.spell.step.most) : 0;
	return useMemo(
		() => ({ spell, side, count, last: count > 0 && count === times, waiting, calls, running, stopped }),
		[spell, side, count, times, waiting, calls, running, stopped],
	);
}

/** The keys of the room, which a pedal may send too. A key that is held is pressed once. */
function useRoomKeys(
	r: RoomGuide,
	pedal: Pedal,
	off: boolean,
	more: { stop: () => void; leave: () => void; help: () => void; silence: () => void },
) {
	const down = useRef<number | null>(null);
	useEffect(() => {
		function key(ev: KeyboardEvent) {
			if (ev.defaultPrevented || ev.repeat || ev.ctrlKey || ev.altKey || ev.metaKey || off) return;
			const on = !r.begun && ev.target instanceof HTMLElement && ["BUTTON", "INPUT", "A", "SELECT"].includes(ev.target.tagName);
			const act: Record<string, (() => void) | undefined> = {
				ArrowRight: () => r.next("key"),
				PageDown: () => r.next("key"),
				ArrowLeft: () => r.back("key"),
				PageUp: () => r.back("key"),
				ArrowUp: () => r.stay("key"),
				ArrowDown: () => r.less("key"),
				" ": on ? undefined : () => (r.begun ? r.toggle("key") : r.start("key")),
				s: () => r.skip("key"),
				t: () => r.tender("key"),
				a: () => r.product("key"),
				r: () => r.redness("key"),
				z: r.undo,
				q: () => r.quiet(!r.here.quiet),
				l: r.askForTime,
				c: r.cueNow,
				m: more.silence,
				x: more.stop,
				Escape: more.stop,
				e: r.begun ? more.leave : undefined,
				"?": more.help,
			};
			const only = r.begun ? act : { " ": act[" "], x: more.stop, Escape: more.stop, "?": more.help, PageDown: act[" "] };
			const pressed = meant(pedal, ev.key);
			const what = only[pressed.length === 1 ? pressed.toLowerCase() : pressed];
			if (!what) return;
			ev.preventDefault();
			if (pedal.one && r.begun && pressed === "PageDown") down.current = ev.timeStamp;
			else what();
		}
		// A button that has the focus is pressed when Space is let go: here Space only pauses.
		const up = (ev: KeyboardEvent) => {
			if (ev.key === " " && r.begun && !off) ev.preventDefault();
			if (down.current === null || meant(pedal, ev.key) !== "PageDown") return;
			// With one pedal a short press is Next, a long one pauses.
			if (ev.timeStamp - down.current >= heldFor) r.toggle("pedal");
			else r.next("pedal");
			down.current = null;
		};
		window.addEventListener("keydown", key);
		window.addEventListener("keyup", up);
		return () => {
			window.removeEventListener("keydown", key);
			window.removeEventListener("keyup", up);
		};
	}, [r, pedal, off, more]);
}

/** The screen does not sleep while the plan runs, where the browser can keep it awake; asked for again whenever the page is seen again. */
function useWakeLock(running: boolean) {
	useEffect(() => {
		if (!running || !("wakeLock" in navigator)) return;
		let lock: WakeLockSentinel | undefined;
		const ask = () => {
			if (document.visibilityState === "visible")
				navigator.wakeLock.request("screen").then(
					(l) => {
						lock = l;
					},
					() => {},
				);
		};
		ask();
		document.addEventListener("visibilitychange", ask);
		return () => {
			document.removeEventListener("visibilitychange", ask);
			void lock?.release();
		};
	}, [running]);
}
