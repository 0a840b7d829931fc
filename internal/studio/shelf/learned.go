package shelf

import (
	"context"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/shelf"
	"softpalm/internal/craft/slip"
	"softpalm/internal/studio"
	"softpalm/words"
)

// Learned is what records teach of a product: its prior, how many records, the value.
type Learned struct {
	// Dose is the studio's factor on what is planned, 1 before any record; Own that of each practitioner.
	Dose    decimal.Decimal `json:"dose"`
	Records int             `json:"records"`
	Own     []OwnDose       `json:"own"`
	// Uses are the newest records, for a picture of planned against real, newest last.
	Uses []UseDot `json:"uses"`
	// OverPlan is what was used beyond the plan in the last 90 days, at the cost of its lots.
	OverPlan decimal.Decimal `json:"overPlan"`
	// Waste of the last three months in which anything was used or wasted, newest first.
	Waste []MonthWaste `json:"waste"`
	// PriorHalfLife is the form's figure in minutes, HalfLife the studio's own, from so many observations.
	PriorHalfLife float64           `json:"priorHalfLife"`
	HalfLife      float64           `json:"halfLife"`
	Observations  int               `json:"observations"`
	Calibrations  []CalibrationLine `json:"calibrations"`
}

// MonthWaste is what was wasted of a product in a month, by reason, against what treatments used.
type MonthWaste struct {
	Month   string          `json:"month"` // 2026-11
	Wasted  decimal.Decimal `json:"wasted"`
	Used    decimal.Decimal `json:"used"`
	Reasons []string        `json:"reasons"` // that which wasted most first
	// Percent of what was used, 0 where nothing was; Much says that it is enough to look into.
	Percent decimal.Decimal `json:"percent"`
	Much    bool            `json:"much"`
}

// OwnDose is the factor of one practitioner, from so many records of their own.
type OwnDose struct {
	Practitioner uuid.UUID       `json:"practitioner"`
	Name         string          `json:"name"`
	Factor       decimal.Decimal `json:"factor"`
	Records      int             `json:"records"`
}

// UseDot is one record: planned and really used. Asked says that it is so far off that it teaches nothing.
type UseDot struct {
	Practitioner uuid.UUID       `json:"practitioner"`
	Day          string          `json:"day"`
	Planned      decimal.Decimal `json:"planned"`
	Used         decimal.Decimal `json:"used"`
	How          string          `json:"how"`
	Asked        bool            `json:"asked"`
}

// learnStore is what is learned from.
type learnStore interface {
	measureStore
	Practitioners(ctx context.Context) ([]studio.Person, error)
	// UsesOf lists the newest uses of a product since what records teach was forgotten, oldest first.
	UsesOf(ctx context.Context, product uuid.UUID, limit int) ([]studio.ProductUse, error)
	OverPlan(ctx context.Context, product uuid.UUID, since string) (decimal.Decimal, error)
	// Wasted lists what was wasted of a product and used of it by month since a day, newest first.
	Wasted(ctx context.Context, product uuid.UUID, since, zone string) ([]MonthWaste, error)
	// Observations lists how long a product slid since that was forgotten, oldest first.
	Observations(ctx context.Context, product uuid.UUID) ([]shelf.Slid, error)
	SaveHalfLife(ctx context.Context, product uuid.UUID, minutes float64, from int) error
	ForgetLearned(ctx context.Context, product uuid.UUID, kind string, at time.Time, by uuid.UUID) error
}

// shownUses is how many records are shown.
const shownUses = 60

// LearnedOf returns what records teach of a product.
func (s *Service) LearnedOf(ctx context.Context, a *studio.Actor, product uuid.UUID) (*Learned, error) {
	if err := a.May("get-learned"); err != nil {
		return nil, err
	}
	out := &Learned{Own: []OwnDose{}, Uses: []UseDot{}}
	err := studio.In(ctx, s.Kernel, a, func(tx learnStore, st *studio.Studio) error {
		p, err := productOf(ctx, tx, product)
		if err != nil {
			return err
		}
		uses, err := tx.UsesOf(ctx, product, 400)
		if err != nil {
			return err
		}
		people, err := tx.Practitioners(ctx)
		if err != nil {
			return err
		}
		out.doses(uses, people)
		today, _ := time.Parse(time.DateOnly, s.Today(st))
		if out.OverPlan, err = tx.OverPlan(ctx, product, today.AddDate(0, 0, -90).Format(time.DateOnly)); err != nil {
			return err
		}
		if out.Waste, err = tx.Wasted(ctx, product, today.AddDate(0, -2, 1-today.Day()).Format(time.DateOnly), st.TimeZone); err != nil {
			return err
		}
		for i := range out.Waste {
			m := &out.Waste[i]
			m.Percent, m.Much = shelf.WasteShare(m.Wasted, m.Used)
		}
		out.PriorHalfLife = priorHalfLife(p)
		out.HalfLife, out.Observations = out.PriorHalfLife, p.LearnedFrom
		if p.LearnedHalfLife > 0 {
			out.HalfLife = p.LearnedHalfLife
		}
		if out.Calibrations, err = tx.Calibrations(ctx, product); err != nil {
			return err
		}
		for i := range out.Calibrations {
			c := &out.Calibrations[i]
			c.Due = c.ClosureChanged != "" || c.Day < today.AddDate(-1, 0, 0).Format(time.DateOnly)
		}
		return nil
	})
	return out, err
}

// doses works out the factors and lists the newest records.
func (l *Learned) doses(uses []studio.ProductUse, people []studio.Person) {
	var records []shelf.Dosed
	taught := map[uuid.UUID]int{}
	for i := range uses {
		u := &uses[i]
		d := shelf.Dosed{Practitioner: u.Practitioner.String(), Planned: u.Planned, Real: u.Used, How: u.How}
		records = append(records, d)
		if d.Teaches() {
			taught[u.Practitioner]++
		}
		if i >= len(uses)-shownUses {
			asked := u.How != shelf.AsPlanned && shelf.Doubtful(u.Planned, u.Used)
			l.Uses = append(l.Uses, UseDot{u.Practitioner, u.Day, u.Planned, u.Used, u.How, asked})
		}
	}
	factors := shelf.Factors(records)
	l.Dose, l.Records = factors.Studio, factors.Used
	for _, who := range people {
		if f, ok := factors.Practitioners[who.ID.String()]; ok {
			l.Own = append(l.Own, OwnDose{who.ID, who.Name, f, taught[who.ID]})
		}
	}
}

// priorHalfLife is the half-life before any record: the product's own figure, else its form's.
func priorHalfLife(p *studio.Product) float64 {
	if p.HalfLife > 0 {
		return p.HalfLife
	}
	return slip.HalfLife(p.Form)
}

// Learn works out the half-life of products anew, after a record spoke of them.
func (s *Service) Learn(ctx context.Context, within studio.Tx, products []uuid.UUID) error {
	tx := studio.As[learnStore](within)
	for _, id := range products {
		p, err := productOf(ctx, tx, id)
		if err != nil {
			return err
		}
		seen, err := tx.Observations(ctx, id)
		if err != nil {
			return err
		}
		minutes := 0.0
		if prior := priorHalfLife(p); prior > 0 && len(seen) > 0 {
			o := shelf.Observed{Prior: prior, Observations: seen}
			if minutes, err = o.HalfLife(); err != nil {
				return err
			}
		}
		if err := tx.SaveHalfLife(ctx, id, minutes, len(seen)); err != nil {
			return err
		}
	}
	return nil
}

// Forget starts over what records teach of a product: its doses or its half-life. The records stay.
func (s *Service) Forget(ctx context.Context, a *studio.Actor, product uuid.UUID, kind string) error {
	if err := a.May("forget-learned"); err != nil {
		return err
	}
	if kind != "dose" && kind != "half-life" {
		return studio.FaultAt("/kind", words.ChooseWhatToForget())
	}
	return studio.In(ctx, s.Kernel, a, func(tx learnStore, _ *studio.Studio) error {
		if err := tx.ForgetLearned(ctx, product, kind, s.Now(), a.Account); err != nil {
			return err
		}
		if kind == "half-life" {
			return tx.SaveHalfLife(ctx, product, 0, 0)
		}
		return nil
	})
}
