package shelf

import (
	"context"
	"slices"
	"strings"

	"github.com/shopspring/decimal"

	"softpalm/internal/craft/shelf"
	"softpalm/internal/studio"
	"softpalm/words"
)

// Linen is a kind of linen and where its pieces are.
type Linen struct {
	Kind     string          `json:"kind" minLength:"1" maxLength:"60"`
	Clean    int             `json:"clean" minimum:"0" maximum:"10000"`
	InUse    int             `json:"inUse" minimum:"0" maximum:"10000"`
	ToWash   int             `json:"toWash" minimum:"0" maximum:"10000"`
	Washing  int             `json:"washing" minimum:"0" maximum:"10000"`
	PerVisit int             `json:"perVisit" minimum:"0" maximum:"50"`
	Charge   decimal.Decimal `json:"charge"`
	// Wanted is how many the studio should have, by the fullest day of the coming week; Short how many clean
	// ones are missing for what is still to come today.
	Wanted int `json:"wanted"`
	Short  int `json:"short"`
}

// countLinen fills in how much of each kind of linen is wanted, and how much is short today.
func (r *toolsNow) countLinen(list []Linen) {
	most, left := 0, 0
	for _, n := range r.week {
		most = max(most, n)
	}
	for i := range r.visits {
		if v := &r.visits[i]; !v.State.Given() && v.State != studio.InRoom {
			left++
		}
	}
	for i := range list {
		l := &list[i]
		l.Wanted = shelf.LinenWanted(l.PerVisit, most)
		l.Short = max(0, l.PerVisit*left-l.Clean)
	}
}

// SaveLinen writes a kind of linen: how many pieces there are and where.
func (s *Service) SaveLinen(ctx context.Context, a *studio.Actor, l Linen) error {
	if err := a.May("save-linen"); err != nil {
		return err
	}
	if l.Kind = strings.TrimSpace(l.Kind); l.Kind == "" {
		return studio.FaultAt("/kind", words.NameTheLinen())
	}
	if err := studio.CheckMoney("/charge", l.Charge); err != nil {
		return err
	}
	return studio.In(ctx, s.Kernel, a, func(tx toolStore, _ *studio.Studio) error { return tx.SaveLinen(ctx, &l) })
}

// linenMoves are the ways of linen, from one place to the next.
var linenMoves = map[string]func(l *Linen, n int) bool{
	"use": func(l *Linen, n int) bool {
		l.Clean, l.InUse = l.Clean-n, l.InUse+n
		return l.Clean >= 0
	},
	"hamper": func(l *Linen, n int) bool {
		l.InUse, l.ToWash = l.InUse-n, l.ToWash+n
		return l.InUse >= 0
	},
	"wash": func(l *Linen, n int) bool {
		l.ToWash, l.Washing = l.ToWash-n, l.Washing+n
		return l.ToWash >= 0
	},
	"clean": func(l *Linen, n int) bool {
		l.Washing, l.Clean = l.Washing-n, l.Clean+n
		return l.Washing >= 0
	},
}

// MoveLinen moves pieces of linen on: into use, into the hamper, into the wash, back clean. All that are
// there where no number is given.
func (s *Service) MoveLinen(ctx context.Context, a *studio.Actor, kind, how string, n int) error {
	if err := a.May("move-linen"); err != nil {
		return err
	}
	move := linenMoves[how]
	if move == nil {
		return studio.FaultAt("/how", words.SayHowMuch())
	}
	return studio.In(ctx, s.Kernel, a, func(tx toolStore, _ *studio.Studio) error {
		list, err := tx.Linen(ctx)
		if err != nil {
			return err
		}
		i := slices.IndexFunc(list, func(l Linen) bool { return l.Kind == kind })
		if i < 0 {
			return studio.ErrNotFound
		}
		l := &list[i]
		if n <= 0 {
			n = map[string]int{"use": l.PerVisit, "hamper": l.InUse, "wash": l.ToWash, "clean": l.Washing}[how]
		}
		if !move(l, n) {
			return studio.FaultAt("/pieces", words.ThereAreNotSoManyPieces(n))
		}
		return tx.SaveLinen(ctx, l)
	})
}

// useLinen takes what a visit uses from the clean linen, as far as it is there.
func useLinen(ctx context.Context, tx toolStore, how string) error {
	list, err := tx.Linen(ctx)
	if err != nil {
		return err
	}
	for i := range list {
		l := &list[i]
		n := l.PerVisit
		if how == "use" {
			n = min(n, l.Clean)
		} else {
			n = min(n, l.InUse)
		}
		if n == 0 || !linenMoves[how](l, n) {
			continue
		}
		if err := tx.SaveLinen(ctx, l); err != nil {
			return err
		}
	}
	return nil
}
