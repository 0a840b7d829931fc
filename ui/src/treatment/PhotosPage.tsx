import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useParams } from "@tanstack/react-router";
import { useRef, useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { clientConsentsQuery, clientQuery, photosQuery } from "../api/queries";
import { Dialog } from "../kit/Dialog";
import { Button, ErrorMessage, Loading, Page } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/treatment";
import { TakePhoto } from "./TakePhoto";

type Photo = Schemas["Photo"];
type View = Photo["view"];

const views: Record<View, string> = { front: w.viewFront, left: w.viewLeft, right: w.viewRight };
const unlike: Record<string, string> = { size: w.unlikeSize, roll: w.unlikeRoll, light: w.unlikeLight };

const source = (p: Photo) => `/api/photos/${p.id}`;

/** A client's photos, view by view: each may stand beside the first one only where it was taken like it. */
export function PhotosPage() {
	const { id } = useParams({ from: "/shell/people/$id/photos" });
	const { may } = useSession();
	const client = useQuery(clientQuery(id));
	const consents = useQuery(clientConsentsQuery(id));
	const photos = useQuery(photosQuery(id));
	const cache = useQueryClient();
	const [view, setView] = useState<View>("front");
	const [file, setFile] = useState<File>();
	const choose = useRef<HTMLInputElement>(null);
	if (!client.data || !consents.data || !photos.data)
		return <Loading of={w.thePhotos} error={client.error ?? consents.error ?? photos.error} retry={() => photos.refetch()} />;
	const agreed = consents.data.some((c) => c.kind === "photos" && !c.withdrawnAt);
	return (
		<Page
			title={w.photosOf({ name: client.data.client.name })}
			action={
				<span className="flex items-center gap-6">
					<Link
						to="/people/$id/progress"
						params={{ id }}
						className="inline-flex min-h-11 items-center font-semibold underline decoration-rule underline-offset-4"
					>
						{w.openProgressBack}
					</Link>
					{agreed && may("add-photo") && !file && (
						<>
							<select className="field w-auto!" aria-label={w.photos} value={view} onChange={(e) => setView(e.target.value as View)}>
								{Object.entries(views).map(([key, name]) => (
									<option key={key} value={key}>
										{name}
									</option>
								))}
							</select>
							<input
								ref={choose}
								type="file"
								accept="image/jpeg,image/png"
								capture="environment"
								className="sr-only"
								aria-label={w.takePhoto}
								onChange={(e) => {
									setFile(e.target.files?.[0]);
									e.target.value = "";
								}}
							/>
							<Button variant="primary" onClick={() => choose.current?.click()}>
								{w.takePhoto}
							</Button>
						</>
					)}
				</span>
			}
		>
			{!agreed && (
				<p className="mt-0 text-lg">
					{w.photoNeedsConsent}{" "}
					<Link to="/people/$id" params={{ id }} className="font-semibold underline">
						{w.backToClient}
					</Link>
				</p>
			)}
			{file && (
				<TakePhoto
					client={id}
					view={view}
					file={file}
					onDone={(all) => {
						cache.setQueryData(["photos", id], all);
						void cache.invalidateQueries({ queryKey: ["progress", id] });
						setFile(undefined);
					}}
					onCancel={() => setFile(undefined)}
				/>
			)}
			{photos.data.length === 0 && agreed && !file && <p className="mt-0 text-lg">{w.noPhotosYet}</p>}
			{(Object.keys(views) as View[]).map((v) => {
				const of = photos.data.filter((p) => p.view === v);
				return of.length > 0 && <OneView key={v} client={id} name={views[v]} photos={of} />;
			})}
		</Page>
	);
}

/** The photos of one view, and two of them beside each other. */
function OneView({ client, name, photos }: { client: string; name: string; photos: Photo[] }) {
	const { at } = useSession();
	const [chosen, setChosen] = useState<string>();
	const first = photos[0]!;
	const with_ = photos.find((p) => p.id === chosen);
	return (
		<section aria-label={name} className="mt-6">
			<h2 className="mb-2 text-2xl">{name}</h2>
			<ul className="m-0 flex list-none flex-wrap gap-4 p-0">
				{photos.map((p) => (
					<li key={p.id} className="w-44">
						<img
							src={source(p)}
							alt={w.photoAlt({ view: name, day: at.date(p.at) })}
							width={p.width}
							height={p.height}
							className="block h-44 w-44 border border-rule object-cover"
						/>
						<p className="num m-0 text-sm">
							{at.date(p.at)}
							{p === first && <span className="text-soft"> · {w.firstPhoto}</span>}
						</p>
						{p !== first &&
							(p.unlike.length === 0 ? (
								<Button
									className="w-full px-2! text-sm"
									aria-pressed={chosen === p.id}
									onClick={() => setChosen(chosen === p.id ? undefined : p.id)}
								>
									{w.compareWith}
								</Button>
							) : (
								<p className="m-0 text-sm font-semibold">{w.notComparable({ why: p.unlike.map((u) => unlike[u]).join(", ") })}</p>
							))}
						<RemovePhoto client={client} photo={p} />
					</li>
				))}
			</ul>
			{with_ && <Beside first={first} second={with_} name={name} />}
		</section>
	);
}

/** Two photos beside each other, or one over the other with a slider between them. Nothing is smoothed. */
function Beside({ first, second, name }: { first: Photo; second: Photo; name: string }) {
	const { at } = useSession();
	const [slide, setSlide] = useState(false);
	const [place, setPlace] = useState(50);
	const caption = (p: Photo) => w.photoFrom({ view: name, day: at.date(p.at) });
	return (
		<div className="mt-4">
			<div className="mb-2 flex gap-2">
				<Button aria-pressed={!slide} className={slide ? "" : "border-ink bg-white"} onClick={() => setSlide(false)}>
					{w.sideBySide}
				</Button>
				<Button aria-pressed={slide} className={slide ? "border-ink bg-white" : ""} onClick={() => setSlide(true)}>
					{w.slider}
				</Button>
			</div>
			{slide ? (
				<figure className="m-0 max-w-[560px]">
					<div className="relative">
						<img src={source(first)} alt={caption(first)} className="block w-full" />
						<img
							src={source(second)}
							alt={caption(second)}
							className="absolute inset-0 block size-full"
							style={{ clipPath: `inset(0 0 0 ${place}%)` }}
						/>
						<span className="absolute inset-y-0 w-0.5 bg-persimmon" style={{ left: `${place}%` }} aria-hidden="true" />
					</div>
					<input
						type="range"
						min={0}
						max={100}
						value={place}
						aria-label={w.sliderPlace}
						className="mt-2 w-full accent-persimmon"
						onChange={(e) => setPlace(Number(e.target.value))}
					/>
					<figcaption className="num flex justify-between text-sm">
						<span>{caption(first)}</span>
						<span>{caption(second)}</span>
					</figcaption>
				</figure>
			) : (
				<div className="grid max-w-[980px] gap-4 sm:grid-cols-2">
					{[first, second].map((p) => (
						<figure key={p.id} className="m-0">
							<img src={source(p)} alt={caption(p)} className="block w-full" />
							<figcaption className="num text-sm">{caption(p)}</figcaption>
						</figure>
					))}
				</div>
			)}
		</div>
	);
}

function RemovePhoto({ client, photo }: { client: string; photo: Photo }) {
	const { may } = useSession();
	const cache = useQueryClient();
	const [asking, setAsking] = useState(false);
	const remove = useMutation({
		mutationFn: () => unwrap(api.DELETE("/api/photos/{id}", { params: { path: { id: photo.id } } })),
		onSuccess: () => {
			setAsking(false);
			void cache.invalidateQueries({ queryKey: ["photos", client] });
		},
	});
	if (!may("remove-photo")) return null;
	return (
		<>
			<Button variant="quiet" className="px-0! text-sm" onClick={() => setAsking(true)}>
				{w.deletePhoto}
			</Button>
			<Dialog open={asking} onClose={() => setAsking(false)} title={w.deletePhotoNow}>
				<p>{w.deletePhotoSays}</p>
				<ErrorMessage error={remove.error} />
				<div className="flex justify-end gap-3">
					<Button autoFocus onClick={() => setAsking(false)}>
						{w.keepIt}
					</Button>
					<Button variant="primary" disabled={remove.isPending} onClick={() => remove.mutate()}>
						{w.deletePhoto}
					</Button>
				</div>
			</Dialog>
		</>
	);
}
