import { Fragment, type KeyboardEvent } from "react";
import type { Schemas } from "../../api/client";
import { money } from "../../kit/format";
import { Button, Field } from "../../kit/kit";
import { Who } from "../../kit/Who";
import * as w from "../../words/catalogue/series";
import { askedText } from "../../words/sentences";
import { heardText, without } from "./say";

/** The line in the order in which people say things: who, what, how often, when, with whom. */
export type Asked = {
	client: string;
	/** Protocols in order: for some visits, each with those that follow in the same visit. */
	what: { protocol: string; visits: number; also: string[] }[];
	often: string;
	when: string;
	with: string;
	review: boolean;
	/** Lines of the rhythm that were changed by hand. */
	gaps: Schemas["SeriesItem"][];
};

type Protocol = Schemas["ProtocolListView"];

/** A typed field with small pieces beneath that say what was understood; a piece can be taken out. */
export function Said({
	label,
	hint,
	value,
	heard,
	people,
	onChange,
	onEnter,
}: {
	label: string;
	hint: string;
	value: string;
	heard: readonly Schemas["Heard"][];
	people: readonly string[];
	onChange: (v: string) => void;
	onEnter?: () => void;
}) {
	const enter = (e: KeyboardEvent) => {
		if (e.key === "Enter") {
			e.preventDefault();
			onEnter?.();
		}
	};
	return (
		<div className="min-w-0">
			<Field label={label}>
				{(a) => (
					<input
						{...a}
						className="field"
						maxLength={200}
						placeholder={hint}
						title={hint}
						value={value}
						onChange={(e) => onChange(e.target.value)}
						onKeyDown={enter}
					/>
				)}
			</Field>
			<p className="m-0 mt-1 flex flex-wrap gap-1" aria-live="polite">
				{heard.map((h) => {
					const text = heardText(h, value, people);
					return (
						<button
							key={`${h.from}${h.to}`}
							type="button"
							className={`num min-h-6 rounded-sm px-1.5 text-left text-sm ${h.as === "unread" ? "bg-blush text-persimmon-deep" : "bg-slate-pale text-slate"}`}
							aria-label={w.removePiece({ text })}
							onClick={() => onChange(without(value, h))}
						>
							{text} <span aria-hidden="true">×</span>
						</button>
					);
				})}
			</p>
		</div>
	);
}

/** The line of fields. */
export function Line({
	asked,
	protocols,
	people,
	answer,
	onChange,
	onEnter,
}: {
	asked: Asked;
	protocols: readonly Protocol[];
	people: readonly string[];
	answer: Schemas["SeriesAnswer"] | undefined;
	onChange: (part: Partial<Asked>) => void;
	onEnter: () => void;
}) {
	const several = asked.what.length > 1;
	const change = (i: number, part: Partial<Asked["what"][number]>) =>
		onChange({ what: asked.what.map((x, k) => (k === i ? { ...x, ...part } : x)) });
	return (
		<section aria-label={w.bookAppointments} className="grid gap-3 border-b border-rule pb-3 lg:grid-cols-[1fr_1.3fr_1.1fr_1.6fr_1fr]">
			<Who atOnce client={asked.client} onChange={(client) => onChange({ client })} />
			<div className="min-w-0">
				{asked.what.map((x, i) => {
					const p = protocols.find((o) => o.id === x.protocol);
					return (
						<Fragment key={`${i}${x.protocol}`}>
							<div className="mb-1 flex items-end gap-1">
								<div className="min-w-0 flex-1">
									<Field label={i === 0 ? w.what : w.addProtocol}>
										{(a) => (
											<select {...a} className="field" value={x.protocol} onChange={(e) => change(i, { protocol: e.target.value })}>
												{protocols.map((o) => (
													<option key={o.id} value={o.id}>
														{o.name}
													</option>
												))}
											</select>
										)}
									</Field>
								</div>
								{several && (
									<>
										{i < asked.what.length - 1 && (
											<input
												className="field num w-14!"
												inputMode="numeric"
												aria-label={w.visitsOf({ name: p?.name })}
												value={x.visits || ""}
												onChange={(e) => change(i, { visits: Number(e.target.value.replace(/\D/g, "").slice(0, 2)) })}
											/>
										)}
										<button
											type="button"
											className="min-h-11 min-w-8 text-soft"
											aria-label={w.removeProtocol({ name: p?.name })}
											onClick={() => onChange({ what: asked.what.filter((_, k) => k !== i) })}
										>
											×
										</button>
									</>
								)}
							</div>
							{x.also.map((id, k) => (
								<Following
									// two of one kind in one visit are told apart by their place
									key={`${k}${id}`}
									protocol={id}
									protocols={protocols}
									onChange={(to) => change(i, { also: x.also.flatMap((o, n) => (n !== k ? [o] : to ? [to] : [])) })}
								/>
							))}
						</Fragment>
					);
				})}
				<p className="m-0 flex flex-wrap items-center justify-between gap-x-2 text-sm text-soft">
					<span>{askedOf(protocols, asked, answer)}</span>
					{(asked.what.at(-1)?.also.length ?? 0) < 3 && (
						<Button
							variant="quiet"
							className="px-0! text-sm font-normal!"
							onClick={() => change(asked.what.length - 1, { also: [...(asked.what.at(-1)?.also ?? []), protocols[0]?.id ?? ""] })}
						>
							{w.addToThisVisit}
						</Button>
					)}
					{asked.what.length < 4 && (
						<Button
							variant="quiet"
							className="px-0! text-sm font-normal!"
							onClick={() =>
								onChange({
									what: [
										...asked.what.map((x) => ({ ...x, visits: x.visits || 2 })),
										{ protocol: protocols[0]?.id ?? "", visits: 0, also: [] },
									],
								})
							}
						>
							{w.addProtocol}
						</Button>
					)}
				</p>
			</div>
			<div className="min-w-0">
				<Said
					label={w.howOften}
					hint={w.howOftenHint}
					value={asked.often}
					heard={answer?.often ?? []}
					people={people}
					onChange={(often) => onChange({ often })}
					onEnter={onEnter}
				/>
				{(answer?.items.length ?? 0) > 1 && (
					<label className="flex min-h-6 items-center gap-2 text-sm text-soft">
						<input
							type="checkbox"
							className="h-4 w-4 accent-[#c8411b]"
							checked={asked.review}
							onChange={(e) => onChange({ review: e.target.checked })}
						/>
						{w.reviewPromised}
					</label>
				)}
			</div>
			<Said
				label={w.when}
				hint={w.whenHint}
				value={asked.when}
				heard={answer?.when ?? []}
				people={people}
				onChange={(when) => onChange({ when })}
				onEnter={onEnter}
			/>
			<Said
				label={w.withWhom}
				hint={w.withHint}
				value={asked.with}
				heard={answer?.with ?? []}
				people={people}
				onChange={(v) => onChange({ with: v })}
				onEnter={onEnter}
			/>
		</section>
	);
}

/** A protocol that follows in the same visit. */
function Following({
	protocol,
	protocols,
	onChange,
}: {
	protocol: string;
	protocols: readonly Protocol[];
	onChange: (id: string) => void;
}) {
	return (
		<div className="mb-1 flex items-end gap-1 pl-4">
			<div className="min-w-0 flex-1">
				<Field label={w.inTheSameVisit}>
					{(a) => (
						<select {...a} className="field" value={protocol} onChange={(e) => onChange(e.target.value)}>
							{protocols.map((o) => (
								<option key={o.id} value={o.id}>
									{o.name}
								</option>
							))}
						</select>
					)}
				</Field>
			</div>
			<button
				type="button"
				className="min-h-11 min-w-8 text-soft"
				aria-label={w.removeProtocol({ name: protocols.find((o) => o.id === protocol)?.name })}
				onClick={() => onChange("")}
			>
				×
			</button>
		</div>
	);
}

const askedOf = (protocols: readonly Protocol[], asked: Asked, answer: Schemas["SeriesAnswer"] | undefined) => {
	const one = answer?.items[0];
	if (asked.what.length === 1 && asked.what[0]?.also.length && one?.also?.length)
		return w.soldTogether({ sold: one.minutes, price: money(one.price, protocols[0]?.currency ?? "") });
	const p = protocols.find((o) => o.id === asked.what[0]?.protocol);
	return p && asked.what.length === 1 && !asked.what[0]?.also.length ? w.soldAndPrice({ sold: p.sold, price: askedText(p) }) : "";
};
