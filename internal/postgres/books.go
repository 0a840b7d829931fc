package postgres

import (
	"context"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/money"
	"softpalm/internal/studio"
	"softpalm/internal/studio/books"
)

// zoneOf is the studio's time zone.
func (t *Tx) zoneOf(ctx context.Context) (*time.Location, error) {
	if t.zone == nil {
		st, err := t.Studio(ctx)
		if err != nil {
			return nil, err
		}
		t.zone = st.Zone()
	}
	return t.zone, nil
}

// AddLedgerEvent writes an event with its postings. One of a day that is closed is dated on the first open one.
func (t *Tx) AddLedgerEvent(ctx context.Context, e *studio.LedgerEvent) error {
	if e.Day == "" {
		zone, err := t.zoneOf(ctx)
		if err != nil {
			return err
		}
		e.Day = e.At.In(zone).Format(time.DateOnly)
	}
	err := t.exec(ctx, `insert into ledger_event (studio_id, id, kind, day, at, account_id, receipt_no, client_id, visit_id, counter_of, note)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, left($11, 500))`,
		t.studio, e.ID, e.Kind, e.Day, e.At, e.Account, e.ReceiptNo, e.Client, e.Visit, e.CounterOf, e.Note)
	if err != nil {
		return err
	}
	// One statement for all postings: most events have two or three.
	const columns = `insert into ledger_posting (studio_id, event_id, n, account, amount, tax_rate, taxable, practitioner_id,
		protocol_id, product_id, way) values `
	query, args := columns, []any{t.studio, e.ID}
	for i, p := range e.Postings {
		if i > 0 {
			query += ", "
		}
		query += "($1, $2, " + places(len(args), 9) + ")"
		var protocol, product any
		switch p.Account {
		case money.Treatments, money.SeriesOwed:
			protocol = idOrNone(p.Subject)
		default:
			product = idOrNone(p.Subject)
		}
		args = append(args, i+1, p.Account, p.Amount, nullable(p.Rate), nullable(p.Taxable), idOrNone(p.Practitioner), protocol, product,
			string(p.Way))
	}
	return t.exec(ctx, query, args...)
}

// LastClosed is the last day that was closed, empty before the first.
func (t *Tx) LastClosed(ctx context.Context) (day string, err error) {
	err = t.get(ctx, &day, "select coalesce(max(day)::text, '') from day_close where studio_id = $1", t.studio)
	return day, err
}

// FirstOpen is the first day after the last closed one on which money moved; empty where none did.
func (t *Tx) FirstOpen(ctx context.Context) (day string, err error) {
	err = t.get(ctx, &day, `select coalesce(least(
			(select min(day) from ledger_posting where studio_id = $1 and account = 'cash' and day > c.last),
			(select min(day) from ledger_posting where studio_id = $1 and account = 'card' and day > c.last))::text, '')
		from (select coalesce(max(day), '-infinity') as last from day_close where studio_id = $1) c`, t.studio)
	return day, err
}

// AloneInBooks keeps everybody else from writing to the ledger until the transaction ends.
func (t *Tx) AloneInBooks(ctx context.Context) error {
	return t.exec(ctx, "select pg_advisory_xact_lock(hashtextextended('books ' || $1, 0))", t.studio.String())
}

// TillDay is the cash of a day, and what stood in the till when it began.
func (t *Tx) TillDay(ctx context.Context, day string) (d books.TillDay, err error) {
	err = t.row(ctx, `select
			coalesce((select debit - credit from account_totals($2::date - 1) where account = 'cash'), 0),
			coalesce(sum(p.amount) filter (where p.amount > 0 and e.kind not in ('open', 'close-day')), 0),
			coalesce(sum(p.amount) filter (where p.amount > 0 and e.kind = 'open'), 0),
			coalesce(-sum(p.amount) filter (where p.amount < 0 and e.kind not in ('open', 'pay-tips', 'close-day')), 0),
			coalesce(-sum(p.amount) filter (where p.amount < 0 and e.kind in ('open', 'pay-tips')), 0)
		from ledger_posting p join ledger_event e on e.studio_id = p.studio_id and e.id = p.event_id
		where p.studio_id = $1 and p.account = 'cash' and p.day = $2`, t.studio, day).
		Scan(&d.Float, &d.Sales, &d.PaidIn, &d.Refunds, &d.PaidOut)
	return d, translate(err)
}

// AddDayClose closes a day, and keeps what it left on each account.
func (t *Tx) AddDayClose(ctx context.Context, c *books.DayClose) error {
	err := t.exec(ctx, `insert into account_total (studio_id, day, account, debit, credit)
		select $1, $2, account, debit, credit from account_totals($2)`, t.studio, c.Day)
	if err != nil {
		return err
	}
	return t.exec(ctx, `insert into day_close (studio_id, day, float, sales, paid_in, refunds, paid_out, expected, counted, difference,
			to_bank, count, cards, note, account_id, at)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15, $16)`,
		t.studio, c.Day, c.Float, c.Sales, c.PaidIn, c.Refunds, c.PaidOut, c.Expected, c.Counted, c.Difference, c.ToBank,
		document(c.Count), document(orEmpty(c.Cards)), c.Note, c.Account, c.At)
}

// DayCloses lists the days closed last, newest first.
func (t *Tx) DayCloses(ctx context.Context, limit int) ([]books.DayClose, error) {
	return list(ctx, t, func(r fields) (c books.DayClose, err error) {
		err = r.Scan(&c.Day, &c.Float, &c.Sales, &c.PaidIn, &c.Refunds, &c.PaidOut, &c.Expected, &c.Counted, &c.Difference, &c.ToBank,
			doc[map[string]int]{&c.Count}, doc[[]books.CardPayment]{&c.Cards}, &c.Note, &c.Account, &c.At)
		return c, err
	}, `select day::text, float, sales, paid_in, refunds, paid_out, expected, counted, difference, to_bank, count, cards, note, account_id, at
		from day_close where studio_id = $1 order by day_close.day desc`+atMost(limit), t.studio)
}

// Balances are what the accounts hold up to a day, all of it where none is named.
func (t *Tx) Balances(ctx context.Context, to string) (money.Postings, error) {
	type row struct {
		account money.Account
		amount  decimal.Decimal
	}
	rows, err := list(ctx, t, func(r fields) (x row, err error) {
		err = r.Scan(&x.account, &x.amount)
		return x, err
	}, "select account, debit - credit from account_totals($1) where debit <> credit", day(to))
	out := money.Postings{}
	for _, x := range rows {
		out[x.account] = x.amount
	}
	return out, err
}

// Turnover sums the debits and credits of each account in some days.
func (t *Tx) Turnover(ctx context.Context, from, to string) (map[money.Account][2]decimal.Decimal, error) {
	type row struct {
		account       money.Account
		debit, credit decimal.Decimal
	}
	rows, err := list(ctx, t, func(r fields) (x row, err error) {
		err = r.Scan(&x.account, &x.debit, &x.credit)
		return x, err
	}, `select account, b.debit - coalesce(a.debit, 0), b.credit - coalesce(a.credit, 0)
		from account_totals($2) b left join account_totals($1::date - 1) a using (account)
		where b.debit <> coalesce(a.debit, 0) or b.credit <> coalesce(a.credit, 0)`, from, to)
	out := map[money.Account][2]decimal.Decimal{}
	for _, x := range rows {
		out[x.account] = [2]decimal.Decimal{x.debit, x.credit}
	}
	return out, err
}

// TipsOwed are the tips owed to practitioners.
func (t *Tx) TipsOwed(ctx context.Context) (map[uuid.UUID]decimal.Decimal, error) {
	type row struct {
		who    uuid.UUID
		amount decimal.Decimal
	}
	rows, err := list(ctx, t, func(r fields) (x row, err error) {
		err = r.Scan(&x.who, &x.amount)
		return x, err
	}, `select practitioner_id, -sum(amount) from ledger_posting
		where studio_id = $1 and account = 'tips-owed' and practitioner_id is not null group by practitioner_id`, t.studio)
	out := map[uuid.UUID]decimal.Decimal{}
	for _, x := range rows {
		out[x.who] = x.amount
	}
	return out, err
}

// EventThere reports whether an event is there.
func (t *Tx) EventThere(ctx context.Context, id uuid.UUID) (there bool, err error) {
	err = t.get(ctx, &there, "select exists (select from ledger_event where studio_id = $1 and id = $2)", t.studio, id)
	return there, err
}

// LedgerRows lists the postings of some days in order. A note of a refund may name a client and is left out.
func (t *Tx) LedgerRows(ctx context.Context, from, to string) ([]books.LedgerRow, error) {
	return list(ctx, t, func(r fields) (x books.LedgerRow, err error) {
		var rate, taxable decimal.NullDecimal
		err = r.Scan(&x.Date, &x.No, &x.Event, &x.Receipt, &x.Account, &x.Amount, &rate, &taxable, &x.Practitioner, &x.Subject, &x.ClientNo, &x.Way,
			&x.CounterOf, &x.Note)
		if rate.Valid {
			x.Rate = &rate.Decimal
		}
		if taxable.Valid {
			x.Taxable = &taxable.Decimal
		}
		return x, err
	}, `select e.day::text, e.no, e.kind, e.receipt_no, p.account, p.amount, p.tax_rate, p.taxable, coalesce(h.name, ''),
			coalesce(v.name, g.name, ''), coalesce(right(e.client_id::text, 8), ''), p.way, c.no,
			case when e.kind in ('open', 'close-day', 'pay-tips') then e.note else '' end
		from ledger_event e
		left join lateral (select no from ledger_event where studio_id = $1 and id = e.counter_of offset 0) c on true
		join ledger_posting p on p.studio_id = $1 and p.event_id = e.id
		left join practitioner h on h.studio_id = $1 and h.id = p.practitioner_id
		left join lateral (select name from protocol_version where studio_id = $1 and protocol_id = p.protocol_id
			order by number desc limit 1) v on true
		left join product g on g.studio_id = $1 and g.id = p.product_id
		where e.studio_id = $1 and e.day between $2 and $3 order by e.day, e.no, p.n`, t.studio, from, to)
}

// places are numbered places for arguments after the first so many.
func places(after, n int) string {
	out := ""
	for i := range n {
		if i > 0 {
			out += ", "
		}
		out += "$" + decimal.NewFromInt(int64(after+i+1)).String()
	}
	return out
}

func idOrNone(text string) any {
	id, err := uuid.Parse(text)
	if err != nil {
		return nil
	}
	return id
}

func nullable(d *decimal.Decimal) any {
	if d == nil {
		return nil
	}
	return *d
}
