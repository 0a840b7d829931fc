import { useMutation } from "@tanstack/react-query";
import { type KeyboardEvent, type PointerEvent, useEffect, useRef, useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { FaceArt } from "../face/FaceArt";
import { newId } from "../kit/format";
import { Button, ErrorMessage } from "../kit/kit";
import * as w from "../words/catalogue/treatment";

type Pixel = Schemas["Pixel"];
type View = Schemas["Photo"]["view"];

/** No side of a photo is longer than this as it is sent: enough for a face, and small enough to keep. */
const longest = 1600;
const quality = 0.9;

const asks = [w.markPupilLeft, w.markPupilRight, w.markGrey, w.markMouthLeft, w.markMouthRight] as const;
const needed = 3;

/** A photo as it is looked at before it is kept: drawn without camera data, with the places to mark. */
export function TakePhoto({
	client,
	view,
	file,
	onDone,
	onCancel,
}: {
	client: string;
	view: View;
	file: File;
	onDone: (all: Schemas["Photo"][]) => void;
	onCancel: () => void;
}) {
	const canvas = useRef<HTMLCanvasElement>(null);
	const [size, setSize] = useState<{ width: number; height: number }>();
	const [unreadable, setUnreadable] = useState(false);
	const [marks, setMarks] = useState<Pixel[]>([]);
	const [noTilt, setNoTilt] = useState(view !== "front");
	const [id] = useState(newId);
	useEffect(() => {
		let off = false;
		createImageBitmap(file).then(
			(picture) => {
				const c = canvas.current;
				if (off || !c) return;
				const by = Math.min(1, longest / Math.max(picture.width, picture.height));
				c.width = Math.round(picture.width * by);
				c.height = Math.round(picture.height * by);
				c.getContext("2d")?.drawImage(picture, 0, 0, c.width, c.height);
				setSize({ width: c.width, height: c.height });
			},
			() => setUnreadable(true),
		);
		return () => {
			off = true;
		};
	}, [file]);
	const save = useMutation({
		mutationFn: async () => {
			const [left, right, grey, mouthLeft, mouthRight] = marks;
			const blob = await new Promise<Blob | null>((done) => canvas.current?.toBlob(done, "image/jpeg", quality));
			if (!blob || !left || !right || !grey) throw new Error("a photo without its marks");
			return unwrap(
				api.POST("/api/clients/{id}/photos", {
					params: { path: { id: client } },
					body: {
						id,
						view,
						moment: "before",
						image: await base64(blob),
						pupils: [left, right],
						grey,
						...(mouthLeft && mouthRight ? { mouth: [mouthLeft, mouthRight] } : {}),
					},
				}),
			);
		},
		onSuccess: onDone,
	});
	const wanted = noTilt ? needed : asks.length;
	const all = marks.length >= wanted;
	const add = (p: Pixel) => {
		if (!all) setMarks((was) => [...was, p]);
	};
	const mark = (e: PointerEvent<HTMLCanvasElement>) => {
		if (!size) return;
		const box = e.currentTarget.getBoundingClientRect();
		add({
			x: Math.round(((e.clientX - box.left) / box.width) * size.width),
			y: Math.round(((e.clientY - box.top) / box.height) * size.height),
		});
	};
	// By keyboard a cross is moved over the picture, and Enter marks where it stands.
	const [cross, setCross] = useState<Pixel>();
	const move = (e: KeyboardEvent<HTMLCanvasElement>) => {
		const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key];
		if (!size || all || (!way && e.key !== "Enter")) return;
		e.preventDefault();
		const now = cross ?? { x: Math.round(size.width / 2), y: Math.round(size.height / 2) };
		if (!way) return add(now);
		const by = e.shiftKey ? 1 : Math.round(size.width / 72);
		setCross({
			x: Math.min(size.width - 1, Math.max(0, now.x + way[0]! * by)),
			y: Math.min(size.height - 1, Math.max(0, now.y + way[1]! * by)),
		});
	};
	return (
		<section aria-label={w.takePhoto} className="leaf grid gap-4 p-5 lg:grid-cols-[minmax(0,1fr)_280px]">
			<div className="relative mx-auto max-w-full">
				<canvas
					ref={canvas}
					className="block max-h-[560px] max-w-full cursor-crosshair"
					tabIndex={0}
					aria-label={w.markByArrows}
					onPointerUp={mark}
					onKeyDown={move}
				/>
				{size && (
					<svg viewBox={`0 0 ${size.width} ${size.height}`} className="pointer-events-none absolute inset-0 size-full" aria-hidden="true">
						{marks.length === 0 && <Outline view={view} {...size} />}
						{cross && !all && (
							<path
								d={`M${cross.x - size.width / 25} ${cross.y}H${cross.x + size.width / 25}M${cross.x} ${cross.y - size.width / 25}V${cross.y + size.width / 25}`}
								stroke="#36182f"
								strokeWidth={size.width / 300}
							/>
						)}
						{marks.map((p, i) => (
							<g key={`${p.x} ${p.y} ${i}`} stroke="#c8411b" strokeWidth={size.width / 400} fill="none">
								<circle cx={p.x} cy={p.y} r={size.width / 60} />
								<path
									d={`M${p.x - size.width / 40} ${p.y}H${p.x + size.width / 40}M${p.x} ${p.y - size.width / 40}V${p.y + size.width / 40}`}
								/>
							</g>
						))}
					</svg>
				)}
			</div>
			<div className="grid content-start gap-3">
				<p className="m-0 text-sm text-soft">{w.howToPhoto}</p>
				<p role="status" className="m-0 text-lg font-semibold">
					{unreadable ? w.cannotRead : all ? w.allMarked : asks[marks.length]}
				</p>
				<div className="flex flex-wrap gap-3">
					{!noTilt && marks.length === needed && <Button onClick={() => setNoTilt(true)}>{w.skipTilt}</Button>}
					{marks.length > 0 && (
						<Button
							onClick={() => {
								setMarks([]);
								setNoTilt(view !== "front");
							}}
						>
							{w.markAgain}
						</Button>
					)}
				</div>
				<ErrorMessage error={save.error} />
				<div className="flex flex-wrap gap-3">
					<Button variant="primary" disabled={!all || save.isPending} onClick={() => save.mutate()}>
						{w.keepPhoto}
					</Button>
					<Button onClick={onCancel}>{w.discardPhoto}</Button>
				</div>
			</div>
		</section>
	);
}

/** What the face is fitted into: the drawn face from the front, an oval with the line of the eyes for a half profile. */
function Outline({ view, width, height }: { view: View; width: number; height: number }) {
	if (view === "front")
		return (
			<svg viewBox="-8.6 -22.6 17.2 32" x={0} y={0} width={width} height={height} opacity={0.35} aria-hidden="true">
				<FaceArt view="front" />
			</svg>
		);
	const eyes = height * 0.43;
	return (
		<g stroke="#36182f" strokeWidth={width / 250} fill="none" opacity={0.5}>
			<ellipse cx={width / 2} cy={height * 0.48} rx={width * 0.27} ry={height * 0.36} />
			<line x1={width * 0.2} x2={width * 0.8} y1={eyes} y2={eyes} strokeDasharray={`${width / 60} ${width / 80}`} />
		</g>
	);
}

/** Bytes as the API wants them. */
async function base64(blob: Blob): Promise<string> {
	const bytes = new Uint8Array(await blob.arrayBuffer());
	let text = "";
	for (let i = 0; i < bytes.length; i += 0x8000) text += String.fromCharCode(...bytes.subarray(i, i + 0x8000));
	return btoa(text);
}
