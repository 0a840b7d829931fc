import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useEffect, useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { money } from "../kit/format";
import { ErrorMessage, Loading } from "../kit/kit";
import * as w from "../words/catalogue/workbench";

type Question = { price?: string; percent?: string; perMinute?: string };
type Margin = Schemas["Margin"];

const termNames: Record<string, string> = {
	products: w.costProducts,
	disposables: w.costDisposables,
	tools: w.costTools,
	laundry: w.costLaundry,
	time: w.costTime,
	room: w.costRoom,
	card: w.costCard,
};

/** What a treatment costs term by term and leaves, and what another price would: change one figure, and the other two follow. Nothing is saved. */
export function PriceQuestion({ id, currency, onPrice }: { id: string; currency: string; onPrice?: (price: string) => void }) {
	const [asked, setAsked] = useState<Question>({});
	const { data, error } = useQuery({
		queryKey: ["margin", id, asked],
		queryFn: () => unwrap(api.GET("/api/protocols/{id}/margin", { params: { path: { id }, query: asked } })),
		gcTime: 0,
		retry: false,
	});
	// While an answer is under way, and where there is none, the figures before it stay.
	const [shown, setShown] = useState<Margin>();
	useEffect(() => {
		if (!data) return;
		setShown(data);
		if (data.reached) onPrice?.(data.price);
	}, [data, onPrice]);
	if (!shown) return error ? <ErrorMessage error={error} /> : <Loading of={w.theCosts} />;
	return <Figures data={shown} answered={data === shown && shown.reached} error={error} currency={currency} asked={asked} ask={setAsked} />;
}

type FiguresProps = {
	data: Margin;
	/** Whether the figures are those that were asked for: what was typed gives way to them. */
	answered: boolean;
	error: unknown;
	currency: string;
	asked: Question;
	ask: (q: Question) => void;
};

function Figures({ data, answered, error, currency, asked, ask }: FiguresProps) {
	const cash = (amount: string) => money(amount, currency);
	const unsaid = data.unsaid.map((x) => (termNames[x] ?? x).toLowerCase());
	const figure = (field: keyof Question, label: string) => (
		<Figure label={label} value={answered ? data[field] : (asked[field] ?? data[field])} ask={(v) => ask({ [field]: v })} />
	);
	return (
		<>
			<div className="mb-2 grid grid-cols-3 gap-3">
				{figure("price", w.priceInCurrency({ currency }))}
				{figure("percent", w.marginInPerCent)}
				{figure("perMinute", w.marginAMinute)}
			</div>
			<ErrorMessage error={error} />
			<p className="mt-0 mb-4 text-sm text-soft" aria-live="polite">
				{!data.reached ? w.noPriceLeavesThat : data.lost ? w.visitsYouMayLose({ percent: data.lost }) : w.changeOneTheOthersFollow}
			</p>
			<dl className="m-0 mb-3">
				{data.gross !== data.price && <Line name={w.clientPays}>{cash(data.gross)}</Line>}
				<Line name={w.withoutTax}>{cash(data.net)}</Line>
				{data.terms.map((t) => (
					<Line key={t.name} name={termNames[t.name] ?? t.name} minor>
						{data.unsaid.includes(t.name) ? "–" : cash(t.amount)}
					</Line>
				))}
				<Line name={w.costInAll}>{cash(data.cost)}</Line>
				<Line name={w.leftOfIt}>
					{w.marginPerMinute({ margin: cash(data.margin), perMinute: cash(data.perMinute), minutes: data.minutes })}
				</Line>
			</dl>
			{data.unknown.length > 0 && <p className="text-sm text-persimmon-deep">{w.costNotKnownOf({ names: data.unknown.join(", ") })}</p>}
			{unsaid.length > 0 && <p className="text-sm text-persimmon-deep">{w.notInTheSettings({ names: unsaid.join(", ") })}</p>}
			<p className="mb-0 text-sm text-soft">{w.nothingIsSavedHere}</p>
		</>
	);
}

/** One of the three figures: what is entered is asked when it is left, or with Enter. */
function Figure({ label, value, ask }: { label: string; value: string; ask: (v: string) => void }) {
	const [typed, setTyped] = useState<string>();
	const send = () => {
		const wanted = typed?.trim().replace(",", ".");
		if (wanted && wanted !== value) ask(wanted);
		setTyped(undefined);
	};
	return (
		<label className="text-sm font-semibold">
			{label}
			<input
				className="field num mt-1 font-serif text-2xl font-semibold"
				inputMode="decimal"
				maxLength={12}
				value={typed ?? value}
				onChange={(ev) => setTyped(ev.target.value)}
				onBlur={send}
				onKeyDown={(ev) => ev.key === "Enter" && send()}
			/>
		</label>
	);
}

function Line({ name, minor, children }: { name: string; minor?: boolean; children: ReactNode }) {
	return (
		<div className={`flex items-baseline justify-between gap-4 border-b border-rule py-1 ${minor ? "pl-4 text-sm" : ""}`}>
			<dt className="first-letter:uppercase">{name}</dt>
			<dd className={`num m-0 text-right ${minor ? "" : "font-semibold"}`}>{children}</dd>
		</div>
	);
}
