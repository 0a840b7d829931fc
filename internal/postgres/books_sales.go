package postgres

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/money"
	"softpalm/internal/studio"
	"softpalm/internal/studio/books"
)

// Prices lists all prices, by their first day, later ones of a day after earlier ones.
func (t *Tx) Prices(ctx context.Context) ([]books.DatedPrice, error) {
	return keptList(ctx, t, "prices", studio.InCatalog, func() ([]books.DatedPrice, error) {
		return list(ctx, t, func(r fields) (p books.DatedPrice, err error) {
			err = r.Scan(&p.ID, &p.Protocol, &p.Product, &p.Extra, &p.Grade, &p.Visits, &p.Minutes, &p.From, &p.Amount)
			return p, err
		}, `select id, protocol_id, product_id, extra, grade, visits, minutes, valid_from::text, amount from price
			where studio_id = $1 order by valid_from, at, id`, t.studio)
	})
}

// AddPrice adds a price; it is never overwritten.
func (t *Tx) AddPrice(ctx context.Context, p *books.DatedPrice, by uuid.UUID, at time.Time) error {
	var account any
	if by != uuid.Nil {
		account = by
	}
	return t.exec(ctx, `insert into price (studio_id, id, protocol_id, product_id, extra, grade, visits, minutes, valid_from, amount, account_id, at)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12)`,
		t.studio, p.ID, p.Protocol, p.Product, p.Extra, p.Grade, p.Visits, p.Minutes, p.From, p.Amount, account, at)
}

// Grades are the grades of practitioners.
func (t *Tx) Grades(ctx context.Context) (map[uuid.UUID]string, error) {
	type row struct {
		id    uuid.UUID
		grade string
	}
	rows, err := list(ctx, t, func(r fields) (x row, err error) {
		err = r.Scan(&x.id, &x.grade)
		return x, err
	}, "select id, grade from practitioner where studio_id = $1", t.studio)
	out := map[uuid.UUID]string{}
	for _, x := range rows {
		out[x.id] = x.grade
	}
	return out, err
}

// AddSale keeps a sale; false where one with its id is there.
func (t *Tx) AddSale(ctx context.Context, s *books.Sale, by uuid.UUID, at time.Time) (bool, error) {
	n, err := t.changed(ctx, `insert into sale (studio_id, id, client_id, visit_id, document, account_id, at)
		values ($1, $2, $3, $4, $5, $6, $7) on conflict do nothing`, t.studio, s.ID, s.Client, s.Visit, document(s), by, at)
	return n == 1, err
}

// LockSale returns a sale, held until the transaction ends, and its receipt if it has one.
func (t *Tx) LockSale(ctx context.Context, id uuid.UUID) (*books.Sale, *uuid.UUID, error) {
	var s books.Sale
	err := t.row(ctx, "select document from sale where studio_id = $1 and id = $2 for update", t.studio, id).
		Scan(doc[books.Sale]{&s})
	if err != nil {
		_, err = found(&s, err)
		return nil, nil, err
	}
	// After the lock, so that a receipt written meanwhile is seen.
	var receipt *uuid.UUID
	err = t.get(ctx, &receipt, "select (select id from receipt where studio_id = $1 and sale_id = $2)", t.studio, id)
	return &s, receipt, err
}

// SaveSale writes a sale as it was sent last.
func (t *Tx) SaveSale(ctx context.Context, s *books.Sale) error {
	return t.one(ctx, "update sale set document = $3, client_id = $4, visit_id = $5 where studio_id = $1 and id = $2",
		t.studio, s.ID, document(s), s.Client, s.Visit)
}

// OpenSales lists sales without a receipt that have a card payment which is not ended, the oldest first.
func (t *Tx) OpenSales(ctx context.Context, visit *uuid.UUID) ([]uuid.UUID, error) {
	return list(ctx, t, func(r fields) (id uuid.UUID, err error) {
		err = r.Scan(&id)
		return id, err
	}, `select s.id from card_payment c
			cross join lateral (select * from sale where studio_id = $1 and id = c.sale_id offset 0) s
		where c.studio_id = $1 and c.state in ('asked', 'unknown', 'cancelling', 'approved', 'stored')
			and ($2::uuid is null or s.visit_id = $2)
			and not exists (select from receipt r where r.studio_id = $1 and r.sale_id = s.id) order by s.at`, t.studio, visit)
}

// PaidVisits lists how the visits that begin between two moments were paid, those alone that were.
func (t *Tx) PaidVisits(ctx context.Context, from, to time.Time) ([]books.VisitPaid, error) {
	return list(ctx, t, func(r fields) (p books.VisitPaid, err error) {
		err = r.Scan(&p.Visit, &p.How)
		return p, err
	}, `select v.id, h.how from visit v cross join lateral (select case
			when exists (select from receipt r where r.studio_id = $1 and r.visit_id = v.id and r.kind = 'sale') then 'paid'
			when exists (select from series_share s where s.studio_id = $1 and s.visit_id = v.id and s.receipt_id is null) then 'series'
			when exists (select from fee_waived f where f.studio_id = $1 and f.visit_id = v.id) then 'waived' end as how) h
		where v.studio_id = $1 and v.starts_at >= $2 and v.starts_at < $3 and h.how is not null order by v.starts_at, v.id`, t.studio, from, to)
}

// VisitBookedAt is when a visit was booked.
func (t *Tx) VisitBookedAt(ctx context.Context, visit uuid.UUID) (at time.Time, err error) {
	err = t.get(ctx, &at, "select created_at from visit where studio_id = $1 and id = $2", t.studio, visit)
	return at, err
}

// FeeWaived is why a visit's fee was waived, empty where it was not.
func (t *Tx) FeeWaived(ctx context.Context, visit uuid.UUID) (reason string, err error) {
	err = t.get(ctx, &reason, "select coalesce((select reason from fee_waived where studio_id = $1 and visit_id = $2), '')", t.studio, visit)
	return reason, err
}

// WaiveFee waives a visit's fee; once is enough.
func (t *Tx) WaiveFee(ctx context.Context, visit uuid.UUID, reason string, by uuid.UUID, at time.Time) error {
	return t.exec(ctx, `insert into fee_waived (studio_id, visit_id, reason, account_id, at) values ($1, $2, $3, $4, $5)
		on conflict do nothing`, t.studio, visit, reason, by, at)
}

// AddCard keeps a card payment before the terminal is asked.
func (t *Tx) AddCard(ctx context.Context, c *books.CardPayment) error {
	return t.exec(ctx, `insert into card_payment (studio_id, id, sale_id, amount, state, asked_at, changed_at)
		values ($1, $2, $3, $4, $5, $6, $7)`, t.studio, c.ID, c.Sale, c.Amount, c.State, c.AskedAt, c.ChangedAt)
}

const cardColumns = `select c.id, c.sale_id, c.amount, c.state, c.reason, c.asked_at, c.changed_at, coalesce(c.day::text, ''),
		coalesce((select year || '-' || lpad(running::text, 6, '0') from receipt r where r.studio_id = c.studio_id and r.sale_id = c.sale_id), '')
	from card_payment c where c.studio_id = $1`

func scanCard(r fields) (c books.CardPayment, err error) {
	err = r.Scan(&c.ID, &c.Sale, &c.Amount, &c.State, &c.Reason, &c.AskedAt, &c.ChangedAt, &c.Day, &c.Receipt)
	return c, err
}

// LiveCard is the payment of a sale that is asked, unknown, cancelling, approved or stored.
func (t *Tx) LiveCard(ctx context.Context, sale uuid.UUID) (*books.CardPayment, error) {
	c, err := scanCard(t.row(ctx, cardColumns+` and c.sale_id = $2
		and c.state in ('asked', 'unknown', 'cancelling', 'approved', 'stored')`, t.studio, sale))
	return found(&c, err)
}

// LastCard is the newest payment of a sale.
func (t *Tx) LastCard(ctx context.Context, sale uuid.UUID) (*books.CardPayment, error) {
	c, err := scanCard(t.row(ctx, cardColumns+" and c.sale_id = $2 order by c.id desc limit 1", t.studio, sale))
	return found(&c, err)
}

// SetCard moves a card payment on.
func (t *Tx) SetCard(ctx context.Context, id uuid.UUID, state money.CardState, reason string, at time.Time) error {
	return t.one(ctx, "update card_payment set state = $3, reason = $4, changed_at = $5 where studio_id = $1 and id = $2",
		t.studio, id, state, reason, at)
}

// CountCard says on which day a payment is counted.
func (t *Tx) CountCard(ctx context.Context, id uuid.UUID, day string) error {
	return t.one(ctx, "update card_payment set day = $3 where studio_id = $1 and id = $2", t.studio, id, day)
}

// Cards lists payments that wait for something, and those counted on a day, oldest first.
func (t *Tx) Cards(ctx context.Context, on string) ([]books.CardPayment, error) {
	return list(ctx, t, scanCard,
		cardColumns+` and (c.state in ('asked', 'unknown', 'cancelling', 'stored') or c.day = $2::date) order by c.asked_at, c.id`, t.studio, day(on))
}

// AddReceipt gives a receipt the next number and a day that does not go back, and keeps it.
func (t *Tx) AddReceipt(ctx context.Context, r *books.Receipt) error {
	err := t.row(ctx, "select year, running, day::text from next_receipt($1)", r.Day).Scan(&r.Year, &r.Running, &r.Day)
	if err != nil {
		return translate(err)
	}
	r.Number = books.NumberOfReceipt(r.Year, r.Running)
	return t.exec(ctx, `insert into receipt (studio_id, id, year, running, day, at, kind, account_id, client_id, visit_id, sale_id, counter_of,
			total, document)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14)`,
		t.studio, r.ID, r.Year, r.Running, r.Day, r.At, r.Kind, r.Account, r.Client, r.Visit, r.Sale, r.Counter, r.Total, document(r.Paper))
}

const receiptColumns = `select r.id, r.year, r.running, r.day::text, r.at, r.kind, r.account_id, r.client_id, r.visit_id, r.sale_id, r.counter_of,
		r.total, r.document, coalesce((select json_agg(g.line order by g.line) from line_given_back g
			where g.studio_id = r.studio_id and g.receipt_id = r.id), '[]'),
		(select d.amount - d.settled from debt d where d.studio_id = r.studio_id and d.receipt_id = r.id and d.settled < d.amount)
	from receipt r where r.studio_id = $1`

func scanReceipt(from fields) (r books.Receipt, err error) {
	var owed decimal.NullDecimal
	err = from.Scan(&r.ID, &r.Year, &r.Running, &r.Day, &r.At, &r.Kind, &r.Account, &r.Client, &r.Visit, &r.Sale, &r.Counter, &r.Total,
		doc[books.ReceiptPaper]{&r.Paper}, doc[[]int]{&r.GivenBack}, &owed)
	r.Number = books.NumberOfReceipt(r.Year, r.Running)
	if owed.Valid {
		r.Owed = &owed.Decimal
	}
	return r, err
}

// Receipt returns a receipt.
func (t *Tx) Receipt(ctx context.Context, id uuid.UUID) (*books.Receipt, error) {
	r, err := scanReceipt(t.row(ctx, receiptColumns+" and r.id = $2", t.studio, id))
	return found(&r, err)
}

// LockReceipt returns a receipt and lets nobody else give anything of it back until the transaction ends.
func (t *Tx) LockReceipt(ctx context.Context, id uuid.UUID) (*books.Receipt, error) {
	if err := t.exec(ctx, "select pg_advisory_xact_lock(hashtextextended('receipt ' || $1, 0))", id.String()); err != nil {
		return nil, err
	}
	return t.Receipt(ctx, id)
}

// ReceiptOfVisit is the number of the receipt that a visit's treatment or fee was paid with and that was not given back.
func (t *Tx) ReceiptOfVisit(ctx context.Context, visit uuid.UUID) (number string, err error) {
	var r struct{ Year, Running int }
	err = t.row(ctx, `select r.year, r.running from receipt r
		cross join lateral jsonb_array_elements(r.document->'lines') with ordinality l (line, n)
		where r.studio_id = $1 and r.visit_id = $2 and r.kind = 'sale' and l.line->>'kind' in ('treatment', 'fee')
			and not exists (select from line_given_back g where g.studio_id = $1 and g.receipt_id = r.id and g.line = l.n - 1)
		limit 1`, t.studio, visit).Scan(&r.Year, &r.Running)
	if err != nil {
		_, err = found(&r, err)
		return "", err
	}
	return books.NumberOfReceipt(r.Year, r.Running), nil
}

// VisitReceipts lists the receipts of a visit, newest first.
func (t *Tx) VisitReceipts(ctx context.Context, visit uuid.UUID) ([]books.Receipt, error) {
	return list(ctx, t, scanReceipt,
		receiptColumns+" and r.visit_id = $2 order by r.year desc, r.running desc", t.studio, visit)
}

// ReceiptLines lists receipts of some days, newest first.
func (t *Tx) ReceiptLines(ctx context.Context, q books.ReceiptQuery, limit int) ([]books.ReceiptLine, error) {
	year, running := 9999, 0
	if q.Before != "" {
		if _, err := fmt.Sscanf(q.Before, "%d-%d", &year, &running); err != nil {
			return []books.ReceiptLine{}, nil // no receipt has such a number, and none is before it
		}
	}
	return list(ctx, t, func(row fields) (r books.ReceiptLine, err error) {
		var year int
		var owed decimal.NullDecimal
		err = row.Scan(&r.ID, &year, &r.Running, &r.Day, &r.Kind, &r.Total, &r.Currency, doc[[]string]{&r.Names}, doc[[]money.Way]{&r.Ways}, &owed)
		r.Number = books.NumberOfReceipt(year, r.Running)
		if owed.Valid {
			r.Owed = &owed.Decimal
		}
		return r, err
	}, `select r.id, r.year, r.running, r.day::text, r.kind, r.total, coalesce(r.currency, ''), r.names, r.ways,
			(select d.amount - d.settled from debt d where d.studio_id = r.studio_id and d.receipt_id = r.id and d.settled < d.amount)
		from receipt r where r.studio_id = $1 and r.day >= (select coalesce($2::date, '-infinity')) and (r.day, r.year, r.running) < (
			(select least(coalesce($3::date, 'infinity'), max(day)) from receipt where studio_id = $1 and year = $4 and running = $5), $4, $5)
		order by r.day desc, r.year desc, r.running desc`+atMost(limit),
		t.studio, day(q.From), day(q.To), year, running)
}

// GiveLineBack says that a line was given back; the same line twice is refused.
func (t *Tx) GiveLineBack(ctx context.Context, receipt uuid.UUID, line int, by uuid.UUID) error {
	return t.exec(ctx, "insert into line_given_back (studio_id, receipt_id, line, by_receipt) values ($1, $2, $3, $4)", t.studio, receipt, line, by)
}

// AddDebt keeps what a client owes of a receipt, together with what they owe of it already.
func (t *Tx) AddDebt(ctx context.Context, d *books.Debt) error {
	return t.exec(ctx, `insert into debt as b (studio_id, receipt_id, client_id, amount, due_on) values ($1, $2, $3, $4, $5)
		on conflict (studio_id, receipt_id) do update set amount = b.amount + excluded.amount`, t.studio, d.Receipt, d.Client, d.Amount, d.Due)
}

// LockDebt returns what a client owes of a receipt, held until the transaction ends.
func (t *Tx) LockDebt(ctx context.Context, receipt uuid.UUID) (*books.Debt, error) {
	var d books.Debt
	var year, running int
	err := t.row(ctx, `select d.receipt_id, d.client_id, d.amount, d.settled, d.due_on::text, r.year, r.running
		from debt d join receipt r on r.studio_id = d.studio_id and r.id = d.receipt_id
		where d.studio_id = $1 and d.receipt_id = $2 for update of d`, t.studio, receipt).
		Scan(&d.Receipt, &d.Client, &d.Amount, &d.Settled, &d.Due, &year, &running)
	d.Number = books.NumberOfReceipt(year, running)
	return found(&d, err)
}

// SettleDebt takes an amount off what a client owes of a receipt.
func (t *Tx) SettleDebt(ctx context.Context, receipt uuid.UUID, amount decimal.Decimal) error {
	return t.one(ctx, "update debt set settled = settled + $3 where studio_id = $1 and receipt_id = $2", t.studio, receipt, amount)
}

// Packages lists all packages, by their first day, later ones of a day after earlier ones.
func (t *Tx) Packages(ctx context.Context) ([]books.Package, error) {
	return keptList(ctx, t, "packages", studio.InCatalog, func() ([]books.Package, error) {
		return list(ctx, t, func(r fields) (p books.Package, err error) {
			err = r.Scan(&p.ID, &p.Name, doc[[]books.PackagePart]{&p.Parts}, &p.From, &p.Amount)
			return p, err
		}, "select id, name, parts, valid_from::text, amount from package where studio_id = $1 order by valid_from, at, id", t.studio)
	})
}

// AddPackage adds a package; it is never overwritten.
func (t *Tx) AddPackage(ctx context.Context, p *books.Package, by uuid.UUID, at time.Time) error {
	return t.exec(ctx, `insert into package (studio_id, id, name, parts, valid_from, amount, account_id, at)
		values ($1, $2, $3, $4, $5, $6, $7, $8)`, t.studio, p.ID, p.Name, document(orEmpty(p.Parts)), p.From, p.Amount, by, at)
}

// AddCardBack keeps what the terminal gave back.
func (t *Tx) AddCardBack(ctx context.Context, c *books.CardBack) error {
	return t.exec(ctx, "insert into card_refund (studio_id, id, receipt_id, amount, day, at) values ($1, $2, $3, $4, $5, $6)",
		t.studio, c.ID, c.Receipt, c.Amount, c.Day, c.At)
}

// CountedCards are the payments that count on a day, and what was given back on it below zero, by key; those of the keys
// named too.
func (t *Tx) CountedCards(ctx context.Context, day string, keys []uuid.UUID) (map[uuid.UUID]decimal.Decimal, error) {
	type row struct {
		key    uuid.UUID
		amount decimal.Decimal
	}
	rows, err := list(ctx, t, func(r fields) (x row, err error) {
		err = r.Scan(&x.key, &x.amount)
		return x, err
	}, `select id, amount from card_payment where studio_id = $1 and state in ('approved', 'stored') and day is not null
			and (day = $2 or id = any($3::uuid[]))
		union all
		select id, -amount from card_refund where studio_id = $1 and (day = $2 or id = any($3::uuid[]))`, t.studio, day, ids(keys))
	out := map[uuid.UUID]decimal.Decimal{}
	for _, x := range rows {
		out[x.key] = x.amount
	}
	return out, err
}
