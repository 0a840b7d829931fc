import { useMutation } from "@tanstack/react-query";
import { DropdownMenu } from "radix-ui";
import { useState } from "react";
import { api, type Schemas, unwrap } from "../../api/client";
import { Dialog } from "../../kit/Dialog";
import { Choice, NumberField } from "../../kit/fields";
import { clock } from "../../kit/format";
import { Button, ErrorMessage } from "../../kit/kit";
import * as w from "../../words/catalogue/workbench";
import { findingText } from "../../words/findings";
import { commandWords, doseText, fieldWords, stepChangeText } from "../../words/sentences";
import type { Protocol } from "./useBench";

type Order = Schemas["CommandRequest"];
type Props = {
	protocol: Protocol;
	library: Schemas["LibraryView"];
	evaluation: Schemas["Evaluation"];
	names: { zone: (k: string) => string; step: (id: string) => string };
	apply: (p: Protocol, e: Schemas["Evaluation"]) => void;
};

/** Commands that change a whole plan, each shown before it is done; their menu is open at first. */
export function Commands({ protocol, library, evaluation, names, apply }: Props) {
	const [order, setOrder] = useState<Order | null>(null);
	const look = useMutation({ mutationFn: (o: Order) => unwrap(api.POST("/api/command", { body: { protocol, order: o } })) });
	const asks = order?.command === "fit-to" || order?.command === "shorten-to";
	function begin(command: Order["command"]) {
		const o: Order =
			command === "fit-to"
				? { command, seconds: protocol.minutes.handsOn * 60 }
				: command === "shorten-to"
					? { command, seconds: 600, concern: protocol.concerns?.[0] ?? "puffiness" }
					: { command };
		setOrder(o);
		look.reset();
		look.mutate(o);
	}
	function change(part: Partial<Order>) {
		if (!order) return;
		const o = { ...order, ...part };
		setOrder(o);
		look.mutate(o);
	}
	const out = look.data;
	const doses = (id: string) => {
		const was = evaluation.steps.find((s) => s.id === id);
		const now = out?.evaluation.steps.find((s) => s.id === id);
		return was && now ? <span className="num text-soft">{` (${doseText(was.dose)} → ${doseText(now.dose)})`}</span> : null;
	};
	const stroke = (key: string) => library.strokes.find((s) => s.key === key)?.name ?? key;
	const after = { zone: names.zone, step: (id: string) => out?.evaluation.steps.find((s) => s.id === id)?.name ?? names.step(id) };
	return (
		<>
			<DropdownMenu.Root modal={false} defaultOpen>
				<DropdownMenu.Trigger asChild>
					<Button>{w.rework}</Button>
				</DropdownMenu.Trigger>
				<DropdownMenu.Portal>
					<DropdownMenu.Content align="end" className="z-30 w-80 rounded-md border border-ink bg-paper p-2">
						{Object.entries(commandWords).map(([key, w]) => (
							<DropdownMenu.Item
								key={key}
								onSelect={() => begin(key as Order["command"])}
								className="cursor-default rounded-sm px-3 py-2 data-[highlighted]:bg-leaf"
							>
								<span className="block font-semibold">{w.name}</span>
								<span className="block text-sm text-soft">{w.says}</span>
							</DropdownMenu.Item>
						))}
					</DropdownMenu.Content>
				</DropdownMenu.Portal>
			</DropdownMenu.Root>
			<Dialog open={order !== null} onClose={() => setOrder(null)} title={order ? commandWords[order.command]!.name : ""}>
				{order && (
					<>
						<p className="mt-0">{commandWords[order.command]!.says}</p>
						{asks && (
							<div className="mb-3 grid grid-cols-2 gap-3">
								{order.command === "shorten-to" && (
									<Choice
										label={w.concern}
										value={order.concern ?? ""}
										options={Object.fromEntries(library.concerns.map((c) => [c.key, c.name]))}
										onChange={(v) => change({ concern: v })}
									/>
								)}
								<NumberField
									label={w.handsOnMin}
									value={(order.seconds ?? 0) / 60}
									least={1}
									most={480}
									required
									onChange={(v) => v && change({ seconds: v * 60 })}
								/>
							</div>
						)}
						<ErrorMessage error={look.error} />
						{out && (
							<div aria-live="polite">
								<p className="num m-0 font-serif text-xl font-semibold">
									{clock(evaluation.seconds)} → {clock(out.evaluation.seconds)}
								</p>
								{out.done.missBy !== 0 && (
									<p className="font-semibold text-persimmon-deep">
										{w.offTimeByMissBySMissBy({
											missBy: Math.abs(out.done.missBy),
											missBy2: out.done.missBy > 0 ? w.tooLong : w.tooShort,
											count:
												out.done.inTheWay.length > 0
													? w.stoppedByInTheWay({ inTheWay: out.done.inTheWay.map(after.step).slice(0, 6).join(", ") })
													: "",
										})}
									</p>
								)}
								<ul
									// biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must be reached by keyboard
									tabIndex={0}
									aria-label={w.whatChanges}
									className="mt-2 mb-2 max-h-64 list-none overflow-y-auto border-y border-rule p-0"
								>
									{out.done.comparison.steps.map((c) => (
										<li key={c.step} className="border-b border-rule py-1 text-sm last:border-0">
											{stepChangeText(c, stroke(c.stroke))}
											{c.fields.includes("dose") && doses(c.step)}
										</li>
									))}
									{out.done.comparison.fields.map((f) => (
										<li key={f} className="py-1 text-sm">
											{fieldWords[f] ?? f}
										</li>
									))}
									{out.done.comparison.steps.length + out.done.comparison.fields.length === 0 && (
										<li className="py-1">{w.noChangesNeeded}</li>
									)}
								</ul>
								{out.done.departures.length > 0 && (
									<p className="text-sm">{w.keptAsDeparturesDepartures({ departures: out.done.departures.map(after.step).join(", ") })}</p>
								)}
								{out.evaluation.findings
									.filter((f) => f.severity !== "note")
									.slice(0, 4)
									.map((f) => (
										<p key={f.id} className="m-0 text-sm text-persimmon-deep">
											▲ {findingText(f, after)}
										</p>
									))}
							</div>
						)}
						<div className="mt-4 flex justify-end gap-3">
							<Button onClick={() => setOrder(null)}>{w.cancel}</Button>
							<Button
								variant="primary"
								disabled={!out || look.isPending || Boolean(look.error)}
								onClick={() => {
									if (out?.done.protocol) apply(out.done.protocol, out.evaluation);
									setOrder(null);
								}}
							>
								{w.apply}
							</Button>
						</div>
					</>
				)}
			</Dialog>
		</>
	);
}
