package treatment

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/guide"
	"softpalm/internal/craft/reaction"
	"softpalm/internal/studio"
	"softpalm/words"
)

// reactionStore keeps reactions and what follows from them.
type reactionStore interface {
	Store
	ClientVisits(ctx context.Context, client uuid.UUID) ([]studio.VisitLine, error) // newest first
	AddReaction(ctx context.Context, r *studio.Reaction, account uuid.UUID) error
	SaveReaction(ctx context.Context, r *studio.Reaction, account uuid.UUID) error
	LockReaction(ctx context.Context, id uuid.UUID) (*studio.Reaction, error)
	Reactions(ctx context.Context, client uuid.UUID) ([]studio.Reaction, error)  // newest first
	ReactionsTo(ctx context.Context, visit uuid.UUID) ([]studio.Reaction, error) // newest first
	SetReactionProducts(ctx context.Context, id uuid.UUID, p []studio.ReactionProduct) error
	// PlanFollowUps replaces the follow-ups that are still to come.
	PlanFollowUps(ctx context.Context, id uuid.UUID, due []time.Time) error
	SaveFollowUp(ctx context.Context, id uuid.UUID, f *studio.FollowUp, account uuid.UUID) error
	// LotsOnSkin are the lots that a visit used, by the key of their product.
	LotsOnSkin(ctx context.Context, visit uuid.UUID) (map[string][]studio.Lot, error)
	// OthersReacted are reactions of other clients to lots since a moment.
	OthersReacted(ctx context.Context, lots []uuid.UUID, client uuid.UUID, since, until time.Time) ([]reaction.Other, error)
	// OthersWith are the other clients who had a treatment or a patch test with one of some lots, by name.
	OthersWith(ctx context.Context, lots []uuid.UUID, client uuid.UUID) ([]ReachedClient, error)
}

// ReachedClient is another client who had the same lot.
type ReachedClient struct {
	ID    uuid.UUID `json:"id"`
	Name  string    `json:"name"`
	Phone string    `json:"phone"`
	// Day is the last one on which it was used.
	Day string `json:"day"`
}

// ReactionView is a reaction with the treatment it came after, and who else had the same lots.
type ReactionView struct {
	studio.Reaction
	Protocol string          `json:"protocol,omitempty"`
	Day      string          `json:"day,omitempty"`
	Others   []ReachedClient `json:"others"`
}

// NewReaction is a reaction as it is told.
type NewReaction struct {
	// ID is chosen by the caller, so that the same request sent twice opens one.
	ID    uuid.UUID  `json:"id" format:"uuid"`
	Visit *uuid.UUID `json:"visit,omitempty" format:"uuid"`
	// Noticed is a wall time at the studio, 2006-01-02T15:04; empty for now.
	Noticed   string                      `json:"noticed,omitempty" maxLength:"20"`
	NoticedBy string                      `json:"noticedBy" maxLength:"80"`
	Kind      string                      `json:"kind" maxLength:"30"`
	Zones     []contraindication.ZoneSide `json:"zones" maxItems:"60"`
	Grade     int                         `json:"grade" minimum:"0" maximum:"4"`
	Minute    *int                        `json:"minute,omitempty" minimum:"0" maximum:"600"`
	Step      string                      `json:"step,omitempty" maxLength:"200"`
	Done      string                      `json:"done" maxLength:"2000"`
}

// lookAhead is how far ahead of the server's clock a reaction may be noticed: the caller's clock may be fast.
const lookAhead = 5 * time.Minute

// wallTime reads a wall time at the studio, empty for now; a moment to come is refused.
func (s *Service) wallTime(st *studio.Studio, text, path string) (time.Time, error) {
	if text == "" {
		return s.Now(), nil
	}
	at, err := time.ParseInLocation("2006-01-02T15:04", text, st.Zone())
	switch {
	case err != nil:
		return at, studio.FaultAt(path, words.TimeIsNotATimeOfDay(text))
	case at.After(s.Now().Add(lookAhead)):
		return at, studio.FaultAt(path, words.ThisDayIsStillToCome())
	}
	return at, nil
}

func (n *NewReaction) check() error {
	n.NoticedBy, n.Done = strings.TrimSpace(n.NoticedBy), strings.TrimSpace(n.Done)
	switch {
	case !slices.Contains(reaction.Kinds, n.Kind):
		return studio.FaultAt("/kind", words.ChooseWhatWasSeen())
	case n.NoticedBy == "":
		return studio.FaultAt("/noticedBy", words.EnterWhoNoticedIt())
	}
	for i, z := range n.Zones {
		if _, ok := anatomy.Lookup(z.Zone); !ok {
			return studio.FaultAt(fmt.Sprintf("/zones/%d", i), words.ThereIsNoFieldVal("zone", z.Zone))
		}
	}
	return nil
}

// OpenReaction records a reaction of a client. What lay on the skin is read from the treatment; what follows for those
// products and lots, and when to ask again, is worked out by rule.
func (s *Service) OpenReaction(ctx context.Context, a *studio.Actor, client uuid.UUID, n NewReaction) (*ReactionView, error) {
	if err := a.May("open-reaction"); err != nil {
		return nil, err
	}
	if err := n.check(); err != nil {
		return nil, err
	}
	var out *ReactionView
	err := studio.In(ctx, s.Kernel, a, func(tx reactionStore, st *studio.Studio) error {
		if err := a.MayClient(ctx, tx, "open-reaction", client); err != nil {
			return err
		}
		if _, err := tx.Client(ctx, client); err != nil {
			return err
		}
		if was, err := tx.LockReaction(ctx, n.ID); err == nil { // sent twice
			out, err = s.reactionView(ctx, tx, st, was)
			return err
		} else if !errors.Is(err, studio.ErrNotFound) {
			return err
		}
		noticed, err := s.wallTime(st, n.Noticed, "/noticed")
		if err != nil {
			return err
		}
		r := &studio.Reaction{
			ID: n.ID, Client: client, Visit: n.Visit, NoticedAt: noticed, NoticedBy: n.NoticedBy, Kind: n.Kind, Zones: n.Zones,
			Grade: n.Grade, Minute: n.Minute, Step: n.Step, Done: n.Done, At: s.Now(),
		}
		if n.Grade == 0 { // expected: nothing is asked again
			at := s.Now()
			r.Outcome, r.ClosedAt = reaction.Settled, &at
		}
		if err := tx.AddReaction(ctx, r, a.Account); err != nil {
			return err
		}
		if err := s.follow(ctx, tx, st, a, r); err != nil {
			return err
		}
		if err := tx.PlanFollowUps(ctx, r.ID, dueTimes(r.NoticedAt.In(st.Zone()), r.Grade)); err != nil {
			return err
		}
		if err := s.Audit(ctx, tx, a, "record reaction", "client", client); err != nil {
			return err
		}
		opened, err := tx.LockReaction(ctx, r.ID)
		if err != nil {
			return err
		}
		out, err = s.reactionView(ctx, tx, st, opened)
		return err
	})
	return out, err
}

// dueTimes are when to ask again after a reaction that was noticed at a local time.
func dueTimes(noticed time.Time, grade int) []time.Time {
	f, err := (&reaction.Noticed{Grade: grade, Minute: noticed.Hour()*60 + noticed.Minute()}).FollowUps()
	if err != nil {
		return nil
	}
	out := make([]time.Time, len(f.Due))
	for i, due := range f.Due {
		out[i] = onDay(noticed, due)
	}
	return out
}

// onDay is the local time so many days later, at a minute of that day.
func onDay(from time.Time, due [2]int) time.Time {
	return time.Date(from.Year(), from.Month(), from.Day()+due[0], due[1]/60, due[1]%60, 0, 0, from.Location())
}

// follow works out what follows from a reaction for the products that lay on the skin, keeps it, and sets their lots
// aside where the rule says so.
func (s *Service) follow(ctx context.Context, tx reactionStore, st *studio.Studio, a *studio.Actor, r *studio.Reaction) error {
	products, err := s.onSkin(ctx, tx, r)
	if err != nil {
		return err
	}
	judged := reaction.Reacted{Grade: r.Grade, Regions: r.Regions()}
	if r.Outcome == reaction.Mistake {
		judged.Grade = 0
	}
	var lots []uuid.UUID
	for i := range products {
		p := &products[i]
		lying := reaction.Lying{Product: p.Product, Regions: p.Regions}
		if p.LotID != nil {
			lying.Lot, lots = p.LotID.String(), append(lots, *p.LotID)
		}
		judged.OnSkin = append(judged.OnSkin, lying)
	}
	since := r.NoticedAt.In(st.Zone()).AddDate(0, 0, -reaction.SameLotDays)
	since = time.Date(since.Year(), since.Month(), since.Day(), 0, 0, 0, 0, st.Zone())
	if judged.Others, err = tx.OthersReacted(ctx, lots, r.Client, since, r.NoticedAt); err != nil {
		return err
	}
	barred, err := judged.Blocking()
	if err != nil {
		return err
	}
	var aside []uuid.UUID
	for i := range products {
		p := &products[i]
		p.Bar = barred.Products[p.Product]
		if p.LotID != nil && slices.Contains(barred.Quarantine, p.LotID.String()) {
			p.SetAside, aside = true, append(aside, *p.LotID)
		}
	}
	if err := tx.SetReactionProducts(ctx, r.ID, products); err != nil {
		return err
	}
	return s.Shelf.SetAside(ctx, tx, a, aside, words.SetAsideAfterReaction(r.NoticedAt.In(st.Zone()).Format("2 January 2006")).Message)
}

// onSkin lists what lay on the skin at the treatment of a reaction: by its record once that is locked, before by its
// plan and what the room's log says was added.
func (s *Service) onSkin(ctx context.Context, tx reactionStore, r *studio.Reaction) ([]studio.ReactionProduct, error) {
	if r.Visit == nil {
		return nil, nil
	}
	v, err := tx.Visit(ctx, *r.Visit)
	if err != nil {
		return nil, err
	}
	if v.Client != r.Client {
		return nil, studio.FaultAt("/visit", words.ThatVisitBelongsToAnotherClient())
	}
	t, err := tx.Treatment(ctx, v.ID)
	if errors.Is(err, studio.ErrNotFound) {
		return nil, nil
	} else if err != nil {
		return nil, err
	}
	var regions map[string][]string
	var keys []string
	if t.Evaluation != nil {
		events, err := tx.RoomEvents(ctx, v.ID)
		if err != nil {
			return nil, err
		}
		regions = guide.PutOn(t.Evaluation, &guide.Log{Arrived: events})
		for key := range regions {
			keys = append(keys, key)
		}
	}
	if t.FinishedAt != nil {
		keys = nil
		for i := range t.Record.Uses {
			if u := &t.Record.Uses[i]; u.Used.IsPositive() && u.Unit != studio.Pieces {
				keys = append(keys, u.Product)
			}
		}
	}
	lots, err := tx.LotsOnSkin(ctx, v.ID)
	if err != nil {
		return nil, err
	}
	all, err := tx.Products(ctx)
	if err != nil {
		return nil, err
	}
	var out []studio.ReactionProduct
	for i := range all {
		p := &all[i]
		if !slices.Contains(keys, p.Key) {
			continue
		}
		one := studio.ReactionProduct{ID: p.ID, Product: p.Key, Name: p.Name, Regions: regions[p.Key]}
		for _, l := range lots[p.Key] {
			with := one
			with.LotID, with.Lot = &l.ID, l.Number
			out = append(out, with)
		}
		if len(lots[p.Key]) == 0 {
			out = append(out, one)
		}
	}
	return out, nil
}

// lotsKnown works the reactions to a visit out anew once its record says which lots lay on the skin.
func (s *Service) lotsKnown(ctx context.Context, within studio.Tx, st *studio.Studio, a *studio.Actor, visit uuid.UUID) error {
	tx := studio.As[reactionStore](within)
	list, err := tx.ReactionsTo(ctx, visit)
	if err != nil {
		return err
	}
	for i := range list {
		if err := s.follow(ctx, tx, st, a, &list[i]); err != nil {
			return err
		}
	}
	return nil
}

// Reactions lists the reactions of a client, newest first.
func (s *Service) Reactions(ctx context.Context, a *studio.Actor, client uuid.UUID) ([]ReactionView, error) {
	if err := a.May("list-reactions"); err != nil {
		return nil, err
	}
	out := []ReactionView{}
	err := studio.In(ctx, s.Kernel, a, func(tx reactionStore, st *studio.Studio) error {
		if err := a.MayClient(ctx, tx, "list-reactions", client); err != nil {
			return err
		}
		if _, err := tx.Client(ctx, client); err != nil {
			return err
		}
		list, err := tx.Reactions(ctx, client)
		if err != nil {
			return err
		}
		for i := range list {
			v, err := s.reactionView(ctx, tx, st, &list[i])
			if err != nil {
				return err
			}
			out = append(out, *v)
		}
		return s.Audit(ctx, tx, a, "look", "client", client)
	})
	return out, err
}

// reactionView adds the treatment and who else had the same lots.
func (s *Service) reactionView(ctx context.Context, tx reactionStore, st *studio.Studio, r *studio.Reaction) (*ReactionView, error) {
	out := &ReactionView{Reaction: *r, Others: []ReachedClient{}}
	if r.Visit != nil {
		v, err := tx.Visit(ctx, *r.Visit)
		if err != nil {
			return nil, err
		}
		out.Protocol, out.Day = v.ProtocolName, v.StartsAt.In(st.Zone()).Format(time.DateOnly)
	}
	var lots []uuid.UUID
	for i := range r.Products {
		if p := &r.Products[i]; p.LotID != nil && p.Bar != reaction.Free {
			lots = append(lots, *p.LotID)
		}
	}
	if len(lots) == 0 || r.Outcome == reaction.Mistake {
		return out, nil
	}
	var err error
	out.Others, err = tx.OthersWith(ctx, lots, r.Client)
	return out, err
}
