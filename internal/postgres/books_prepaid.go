package postgres

import (
	"context"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/studio/books"
)

// AddVoucher keeps an amount voucher.
func (t *Tx) AddVoucher(ctx context.Context, v *books.Voucher) error {
	return t.exec(ctx, `insert into voucher (studio_id, id, number, amount, remaining, good_until, giver, receipt_id, sold_on)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9)`, t.studio, v.ID, v.Number, v.Amount, v.Left, day(v.Until), v.Giver, v.Receipt, v.SoldOn)
}

const voucherColumns = `select id, number, amount, remaining, coalesce(good_until::text, ''), giver, receipt_id, sold_on::text, lapsed
	from voucher where studio_id = $1`

func scanVoucher(r fields) (v books.Voucher, err error) {
	err = r.Scan(&v.ID, &v.Number, &v.Amount, &v.Left, &v.Until, &v.Giver, &v.Receipt, &v.SoldOn, &v.Lapsed)
	return v, err
}

// Voucher returns one by its number, held until the transaction ends where lock is set.
func (t *Tx) Voucher(ctx context.Context, number string, lock bool) (*books.Voucher, error) {
	query := voucherColumns + " and number = $2"
	if lock {
		query += " for update"
	}
	v, err := scanVoucher(t.row(ctx, query, t.studio, number))
	return found(&v, err)
}

// UseVoucher takes an amount off a voucher, or puts one back that is below zero.
func (t *Tx) UseVoucher(ctx context.Context, number string, amount decimal.Decimal) error {
	return t.one(ctx, "update voucher set remaining = remaining - $3 where studio_id = $1 and number = $2", t.studio, number, amount)
}

// LapseVoucher leaves nothing of a voucher.
func (t *Tx) LapseVoucher(ctx context.Context, number string) error {
	return t.one(ctx, "update voucher set remaining = 0, lapsed = true where studio_id = $1 and number = $2", t.studio, number)
}

// Vouchers lists amount vouchers, the newest first.
func (t *Tx) Vouchers(ctx context.Context) ([]books.Voucher, error) {
	return list(ctx, t, scanVoucher,
		voucherColumns+" order by sold_on desc, id desc limit 500", t.studio)
}

// AddDeposit keeps a deposit.
func (t *Tx) AddDeposit(ctx context.Context, d *books.Deposit) error {
	return t.exec(ctx, `insert into deposit (studio_id, id, visit_id, client_id, gross, tax, tax_rate, state, receipt_id)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9)`, t.studio, d.ID, d.Visit, d.Client, d.Gross, d.Tax, nullable(d.Rate), d.State, d.Receipt)
}

const depositColumns = `select d.id, d.visit_id, d.client_id, d.gross, d.tax, d.tax_rate, d.state, d.receipt_id, r.year, r.running
	from deposit d join receipt r on r.studio_id = d.studio_id and r.id = d.receipt_id where d.studio_id = $1`

func scanDeposit(r fields) (d books.Deposit, err error) {
	var rate decimal.NullDecimal
	var year, running int
	err = r.Scan(&d.ID, &d.Visit, &d.Client, &d.Gross, &d.Tax, &rate, &d.State, &d.Receipt, &year, &running)
	d.Number = books.NumberOfReceipt(year, running)
	if rate.Valid {
		d.Rate = &rate.Decimal
	}
	return d, err
}

// Deposit returns a deposit, held until the transaction ends where lock is set.
func (t *Tx) Deposit(ctx context.Context, id uuid.UUID, lock bool) (*books.Deposit, error) {
	query := depositColumns + " and d.id = $2"
	if lock {
		query += " for update of d"
	}
	d, err := scanDeposit(t.row(ctx, query, t.studio, id))
	return found(&d, err)
}

// DepositsOf lists the deposits of a visit, the oldest first.
func (t *Tx) DepositsOf(ctx context.Context, visit uuid.UUID) ([]books.Deposit, error) {
	return list(ctx, t, scanDeposit,
		depositColumns+" and d.visit_id = $2 order by r.year, r.running", t.studio, visit)
}

// SetDeposit says what became of a deposit.
func (t *Tx) SetDeposit(ctx context.Context, id uuid.UUID, state books.DepositState) error {
	return t.one(ctx, "update deposit set state = $3 where studio_id = $1 and id = $2 and state = 'held'", t.studio, id, state)
}

// AddSoldSeries keeps a series with its shares.
func (t *Tx) AddSoldSeries(ctx context.Context, s *books.SoldSeries) error {
	err := t.exec(ctx, `insert into sold_series (studio_id, id, client_id, number, giver, name, rate, receipt_id, sold_on, months, frozen, state, good_until,
			tax_when_given)
		values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14)`,
		t.studio, s.ID, s.Client, s.Number, s.Giver, s.Name, nullable(s.Rate), s.Receipt, s.SoldOn, s.Months, document(orEmpty(s.Frozen)), s.State,
		day(s.LastDay()), s.TaxWhenGiven)
	if err != nil {
		return err
	}
	for i := range s.Shares {
		sh := &s.Shares[i]
		err := t.exec(ctx, `insert into series_share (studio_id, series_id, n, protocol_id, gross, net, single, extras)
			values ($1, $2, $3, $4, $5, $6, $7, $8)`, t.studio, s.ID, sh.N, sh.Protocol, sh.Gross, sh.Net, sh.Single, texts(sh.Extras))
		if err != nil {
			return err
		}
	}
	return nil
}

const soldSeriesColumns = `select s.id, s.client_id, s.number, s.giver, s.name, s.rate, s.receipt_id, s.sold_on::text, s.months, s.frozen, s.state,
		s.tax_when_given,
		coalesce(s.reminded::text, ''),
		coalesce((select d.amount - d.settled from debt d where d.studio_id = s.studio_id and d.receipt_id = s.receipt_id), 0),
		(select coalesce(json_agg(json_build_object('n', h.n, 'protocol', h.protocol_id, 'gross', h.gross, 'net', h.net, 'single', h.single,
			'visit', h.visit_id, 'givenOn', coalesce(h.given_on::text, ''), 'practitioner', h.practitioner_id,
			'extras', h.extras, 'receipt', h.receipt_id) order by h.n), '[]')
			from series_share h where h.studio_id = s.studio_id and h.series_id = s.id)
	from sold_series s where s.studio_id = $1`

func scanSoldSeries(r fields) (s books.SoldSeries, err error) {
	var rate decimal.NullDecimal
	err = r.Scan(&s.ID, &s.Client, &s.Number, &s.Giver, &s.Name, &rate, &s.Receipt, &s.SoldOn, &s.Months, doc[[][2]calendar.Day]{&s.Frozen},
		&s.State, &s.TaxWhenGiven, &s.Reminded, &s.Unpaid, doc[[]books.SeriesShare]{&s.Shares})
	if rate.Valid {
		s.Rate = &rate.Decimal
	}
	return s, err
}

// LockSoldSeries returns a series, held until the transaction ends.
func (t *Tx) LockSoldSeries(ctx context.Context, id uuid.UUID) (*books.SoldSeries, error) {
	if err := t.exec(ctx, "select id from sold_series where studio_id = $1 and id = $2 for update", t.studio, id); err != nil {
		return nil, err
	}
	s, err := scanSoldSeries(t.row(ctx, soldSeriesColumns+" and s.id = $2", t.studio, id))
	return found(&s, err)
}

// SoldSeriesOf lists a client's series, the oldest first; all open ones where no client is named.
func (t *Tx) SoldSeriesOf(ctx context.Context, client *uuid.UUID) ([]books.SoldSeries, error) {
	return list(ctx, t, scanSoldSeries,
		soldSeriesColumns+" and (s.client_id = $2 or $2::uuid is null and s.state = 'open') order by s.sold_on, s.id", t.studio, client)
}

// SeriesNumbered returns the treatment voucher of a number.
func (t *Tx) SeriesNumbered(ctx context.Context, number string) (*books.SoldSeries, error) {
	s, err := scanSoldSeries(t.row(ctx, soldSeriesColumns+" and s.number = $2", t.studio, number))
	return found(&s, err)
}

// GiveShare says at which visit a share was given, and which receipt it paid a part of if any.
func (t *Tx) GiveShare(ctx context.Context, series uuid.UUID, sh *books.SeriesShare) error {
	return t.one(ctx, `update series_share set visit_id = $4, given_on = $5, practitioner_id = $6, receipt_id = $7
		where studio_id = $1 and series_id = $2 and n = $3 and given_on is null`,
		t.studio, series, sh.N, sh.Visit, day(sh.GivenOn), sh.Practitioner, sh.Receipt)
}

// TakeShareBack says that a share was not given after all.
func (t *Tx) TakeShareBack(ctx context.Context, series uuid.UUID, n int) error {
	return t.one(ctx, `update series_share set visit_id = null, given_on = null, practitioner_id = null, receipt_id = null
		where studio_id = $1 and series_id = $2 and n = $3`, t.studio, series, n)
}

// RemindSeries notes when a series' client was reminded that it ends.
func (t *Tx) RemindSeries(ctx context.Context, id uuid.UUID, on string) error {
	return t.one(ctx, "update sold_series set reminded = $3 where studio_id = $1 and id = $2", t.studio, id, on)
}

// SaveSoldSeries writes whose a series is, when it rests and how it stands.
func (t *Tx) SaveSoldSeries(ctx context.Context, s *books.SoldSeries) error {
	return t.one(ctx, "update sold_series set client_id = $3, frozen = $4, state = $5, good_until = $6 where studio_id = $1 and id = $2",
		t.studio, s.ID, s.Client, document(orEmpty(s.Frozen)), s.State, day(s.LastDay()))
}
