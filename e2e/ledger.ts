/**
 * A second reader of the accountant's files, in other code than the application's: it adds the postings up in whole
 * cents and says what it finds. It knows nothing of sales; only that debits and credits of an event are equal, that
 * accounts open where they closed, and that a tax is its rate of what it is on (common practice of double entry).
 */
export function readCSV(text: string): Record<string, string>[] {
	const rows: string[][] = [[]];
	let cell = "";
	let quoted = false;
	for (let i = 0; i < text.length; i++) {
		const c = text[i]!;
		if (quoted) {
			if (c === '"' && text[i + 1] === '"') cell += text[++i];
			else if (c === '"') quoted = false;
			else cell += c;
		} else if (c === '"') quoted = true;
		else if (c === "," || c === "\n") {
			rows.at(-1)!.push(cell.replace(/\r$/, ""));
			cell = "";
			if (c === "\n") rows.push([]);
		} else cell += c;
	}
	const [head, ...body] = rows;
	return body.filter((r) => r.length === head!.length).map((r) => Object.fromEntries(head!.map((h, i) => [h, r[i]!])));
}

const cents = (s: string) => (s === "" ? 0n : BigInt(Math.round(Number(s) * 100)));

export type Found = { events: number; problems: string[]; turnover: Record<string, [bigint, bigint]> };

/** Adds up a month's postings. */
export function addUp(ledger: Record<string, string>[]): Found {
	const events: Record<string, bigint> = {};
	const turnover: Found["turnover"] = {};
	const taxes: Record<string, { tax: bigint; net: bigint; rate: number }> = {};
	const problems: string[] = [];
	for (const r of ledger) {
		if ((r.debit === "") === (r.credit === "")) problems.push(`event ${r.event_no}: one of debit and credit is empty`);
		const debit = cents(r.debit!);
		const credit = cents(r.credit!);
		events[r.event_no!] = (events[r.event_no!] ?? 0n) + debit - credit;
		const t = (turnover[r.account!] ??= [0n, 0n]);
		t[0] += debit;
		t[1] += credit;
		if (r.account === "output-tax" && r.tax_rate && r.event === "receipt") {
			// What a deposit or a treatment of a voucher takes off was rounded when that was sold.
			const of = (taxes[`${r.receipt_no} ${r.tax_rate}${r.debit ? " off" : ""}`] ??= { tax: 0n, net: 0n, rate: Number(r.tax_rate) });
			of.tax += credit - debit;
			of.net += cents(r.taxable!);
		}
	}
	for (const [no, sum] of Object.entries(events)) if (sum !== 0n) problems.push(`event ${no} adds up to ${sum}`);
	for (const [what, t] of Object.entries(taxes))
		if (Math.abs(Number(t.tax) - (Number(t.net + t.tax) * t.rate) / (100 + t.rate)) > 0.5001) problems.push(`the tax of ${what} is ${t.tax} on ${t.net}`);
	return { events: Object.keys(events).length, problems, turnover };
}

/** Compares what was added up with the accounts of the month. */
export function compare(found: Found, accounts: Record<string, string>[], before?: Record<string, string>[]): string[] {
	const problems = [...found.problems];
	let closing = 0n;
	for (const a of accounts) {
		const [debit, credit] = found.turnover[a.account!] ?? [0n, 0n];
		if (cents(a.debits!) !== debit || cents(a.credits!) !== credit) problems.push(`${a.account}: ${a.debits} and ${a.credits} are not ${debit} and ${credit}`);
		if (cents(a.opening!) + debit - credit !== cents(a.closing!)) problems.push(`${a.account} does not close at ${a.closing}`);
		const was = before?.find((b) => b.account === a.account)?.closing ?? "0";
		if (before && cents(was) !== cents(a.opening!)) problems.push(`${a.account} opens at ${a.opening} and closed at ${was}`);
		closing += cents(a.closing!);
	}
	if (closing !== 0n) problems.push(`all accounts together are ${closing}`);
	return problems;
}
