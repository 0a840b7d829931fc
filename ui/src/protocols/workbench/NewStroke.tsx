import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../../api/client";
import { libraryQuery } from "../../api/queries";
import { Dialog } from "../../kit/Dialog";
import { Choice, TextField } from "../../kit/fields";
import { Button, ErrorMessage } from "../../kit/kit";
import * as w from "../../words/catalogue/workbench";
import { intentWords, pressureWords } from "../../words/client";
import { familyWords, sideWords } from "../../words/sentences";
import { DoseEditor, PartsEditor } from "./DoseEditor";
import { StrokeFurther } from "./StrokeFurther";
import { zoneNames } from "./specs";

type Stroke = Schemas["Stroke"];

/** A stroke of the studio's own: from a drawn path, or from one that is there. */
export function NewStroke({
	library,
	path,
	from,
	onClose,
	onMade,
}: {
	library: Schemas["LibraryView"];
	path?: string[];
	from?: Stroke;
	onClose: () => void;
	onMade: (s: Stroke) => void;
}) {
	const own = from ? library.own.includes(from.key) : false;
	const [s, setS] = useState<Stroke>(
		from
			? { ...from, name: own ? from.name : w.fromStudioVersion({ from: from.name }) }
			: {
					key: "new",
					name: "",
					family: "effleurage",
					intent: "soothe",
					layer: "skin",
					hand: "finger pads",
					pressure: 1,
					profile: "even",
					relation: "slides",
					glide: "slide",
					sides: "both",
					tempo: "even",
					path: path ?? [],
					dose: { kind: "reps", planned: 3, min: 2, max: 6 },
					parts: [{ kind: "move", seconds: 4 }],
				},
	);
	const [was, setWas] = useState(own ? from : undefined);
	const cache = useQueryClient();
	const save = useMutation({
		mutationFn: () =>
			own
				? unwrap(api.PUT("/api/strokes/{key}", { params: { path: { key: s.key } }, body: { stroke: s, ...(was ? { was } : {}) } }))
				: unwrap(api.POST("/api/strokes", { body: { ...s, key: "new" } })),
		onSuccess: async (made) => {
			await cache.invalidateQueries({ queryKey: libraryQuery.queryKey });
			onMade(made);
		},
		onError: (e) => {
			if (e instanceof ProblemError && e.problem.stroke) setWas(e.problem.stroke);
		},
	});
	const theirs = save.error instanceof ProblemError ? save.error.problem.stroke : undefined;
	const put = (part: Partial<Stroke>) =>
		setS(Object.fromEntries(Object.entries({ ...s, ...part }).filter(([, v]) => v !== undefined)) as Stroke);
	const zone = (k: string) => library.zones.find((z) => z.key === k)?.name ?? k;
	return (
		<Dialog open onClose={onClose} title={own ? w.editStroke : w.newStroke}>
			<form
				className="grid gap-3"
				onSubmit={(e: FormEvent) => {
					e.preventDefault();
					save.mutate();
				}}
			>
				<TextField label={w.name} value={s.name} most={120} onChange={(v) => put({ name: v ?? "" })} />
				<div className="grid grid-cols-2 gap-3">
					<Choice label={w.intent} value={s.intent} options={intentWords} onChange={(v) => put({ intent: v as Stroke["intent"] })} />
					<Choice
						label={w.strokeFamily}
						value={s.family}
						options={Object.fromEntries(familyWords.map((f) => [f, f]))}
						onChange={(v) => put({ family: v as Stroke["family"] })}
					/>
					<Choice
						label={w.hand}
						value={s.hand ?? ""}
						options={{ "": w.notStated2, ...Object.fromEntries(library.handParts.map((h) => [h, h])) }}
						onChange={(v) => put({ hand: v || undefined })}
					/>
					<Choice
						label={w.tool}
						value={s.tool?.key ?? ""}
						options={{ "": w.byHand, ...Object.fromEntries(library.tools.map((t) => [t.key, t.name])) }}
						onChange={(v) => put({ tool: v ? { key: v } : undefined })}
					/>
					<Choice
						label={w.pressure}
						value={`${s.pressure}`}
						options={Object.fromEntries(pressureWords.map((w, n) => [`${n}`, `${n} ${w}`]))}
						onChange={(v) => put({ pressure: Number(v) })}
					/>
					<Choice label={w.sides} value={s.sides} options={sideWords} onChange={(v) => put({ sides: v as Stroke["sides"] })} />
					<Choice
						label={w.theSkin}
						value={s.relation ?? "slides"}
						options={{ slides: w.theHandSlidesOverIt, carries: w.isCarriedAlong, still: w.staysStill }}
						onChange={(v) => put({ relation: v as "slides" })}
					/>
					<Choice
						label={w.productItNeeds}
						value={s.glide ?? "any"}
						options={{
							any: w.anyOrNone,
							slide: w.enoughToSlide,
							stone: w.plentyForAStone,
							knead: w.someToKnead,
							grip: w.littleOrNoneToGrip,
						}}
						onChange={(v) => put({ glide: v as "slide" })}
					/>
				</div>
				<DoseEditor dose={s.dose} inherits={false} onChange={(d) => put({ dose: d })} />
				{s.dose.kind === "reps" && (
					<PartsEditor zones={zoneNames(library)} parts={s.parts ?? []} own={false} onChange={(parts) => put({ parts })} />
				)}
				<TextField label={w.howItIsDone} value={s.cue} most={300} onChange={(v) => put({ cue: v })} />
				<TextField label={w.precautions} value={s.caution} most={300} onChange={(v) => put({ caution: v })} />
				<TextField label={w.whatTheClientDoes} value={s.client} most={200} onChange={(v) => put({ client: v })} />
				<StrokeFurther stroke={s} library={library} put={put} />
				<label className="flex min-h-11 items-center gap-2">
					<input
						type="checkbox"
						className="size-5 accent-persimmon"
						checked={Boolean(s.homeSafe)}
						onChange={(e) => put({ homeSafe: e.target.checked || undefined })}
					/>
					{w.mayBeTaughtAsHomeCare}
				</label>
				<ErrorMessage error={save.error} />
				{theirs && (
					<p className="m-0 border-l-4 border-persimmon pl-3">
						{w.savedMeanwhileAs({ name: theirs.name, path: (theirs.path ?? []).map(zone).join(" → ") })} {w.saveAgainToReplaceIt}
					</p>
				)}
				<div className="flex justify-end gap-3">
					<Button onClick={onClose}>{w.cancel}</Button>
					<Button variant="primary" type="submit" disabled={!s.name.trim() || save.isPending}>
						{w.saveStroke}
					</Button>
				</div>
			</form>
		</Dialog>
	);
}
