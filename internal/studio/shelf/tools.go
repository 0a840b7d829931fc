package shelf

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/shelf"
	"softpalm/internal/studio"
	"softpalm/words"
)

// Piece is a piece of a tool as it stands.
type Piece struct {
	Tool   string           `json:"tool"`
	Number int              `json:"number"`
	State  shelf.PieceState `json:"state" enum:"ready,in use,to clean,in the bath,drying,chilling,put away,retired"`
	Since  time.Time        `json:"since"`
	Uses   int              `json:"uses"`
	Visit  *uuid.UUID       `json:"visit,omitempty"`
	Bath   *uuid.UUID       `json:"bath,omitempty"`
	// ContactEnds is when it has lain in the bath long enough, ReadyAt when it can be used again.
	ContactEnds *time.Time `json:"contactEnds,omitempty"`
	ReadyAt     *time.Time `json:"readyAt,omitempty"`
	// Next are the states it may come to; Worn says that it has served as often as expected.
	Next []shelf.PieceState `json:"next"`
	Worn bool               `json:"worn"`
}

// ToolLine is a tool with its pieces, and how the diary wants it today.
type ToolLine struct {
	Tool   protocol.Tool `json:"tool"`
	Pieces []Piece       `json:"pieces"`
	// CostPerUse is its price by its expected uses; 0 where they are not known.
	CostPerUse decimal.Decimal `json:"costPerUse"`
	// Wanted are today's appointments that take it, with the piece that serves, or when the first is ready.
	Wanted []ToolWanted `json:"wanted"`
}

// ToolWanted is an appointment that takes a tool.
type ToolWanted struct {
	Visit      uuid.UUID  `json:"visit"`
	Name       string     `json:"name"`
	At         time.Time  `json:"at"`
	Piece      int        `json:"piece"` // 0 where none is ready
	FirstReady *time.Time `json:"firstReady,omitempty"`
}

// ToolRoom is what is clean, and what is not.
type ToolRoom struct {
	Tools  []ToolLine  `json:"tools"`
	Baths  []Bath      `json:"baths"`
	Linen  []Linen     `json:"linen"`
	Cycles []HeatCycle `json:"cycles"`
}

// PieceRef names a piece.
type PieceRef struct {
	Tool   string `json:"tool" maxLength:"60"`
	Number int    `json:"number" minimum:"1" maximum:"1000"`
}

// toolStore is what tools, baths and linen are kept in.
type toolStore interface {
	forecastStore
	// Pieces lists the pieces that anything was written of; held, nobody else changes them meanwhile.
	Pieces(ctx context.Context, hold bool) ([]Piece, error)
	SavePiece(ctx context.Context, p *Piece) error
	LogPiece(ctx context.Context, p *Piece, cycle *uuid.UUID, note string, by *uuid.UUID, at time.Time) error
	PieceVisits(ctx context.Context, piece PieceRef, since time.Time) ([]string, error)
	ToolsOut(ctx context.Context, today string) ([]studio.ToolOut, error)
	AddToolOut(ctx context.Context, t *studio.ToolOut) error
	Baths(ctx context.Context) ([]Bath, error) // not discarded, newest first
	AddBath(ctx context.Context, b *Bath, by uuid.UUID) error
	DiscardBath(ctx context.Context, id uuid.UUID, at time.Time) error
	Linen(ctx context.Context) ([]Linen, error) // by kind
	SaveLinen(ctx context.Context, l *Linen) error
	HeatCycles(ctx context.Context) ([]HeatCycle, error) // newest first
	AddHeatCycle(ctx context.Context, id uuid.UUID, c *HeatCycle, by uuid.UUID) error
	LastGoodCycle(ctx context.Context, piece PieceRef) (time.Time, error)
}

// ToolRoom returns what is clean, and what is not.
func (s *Service) ToolRoom(ctx context.Context, a *studio.Actor) (*ToolRoom, error) {
	if err := a.May("get-pieces"); err != nil {
		return nil, err
	}
	out := &ToolRoom{}
	err := studio.In(ctx, s.Kernel, a, func(tx toolStore, st *studio.Studio) error {
		var r *toolsNow
		err := tx.Gather(
			func() (err error) {
				r, err = s.toolsNow(ctx, tx, st, false)
				return err
			},
			studio.Read(ctx, &out.Linen, tx.Linen),
			studio.Read(ctx, &out.Cycles, tx.HeatCycles),
		)
		if err != nil {
			return err
		}
		out.Tools, out.Baths = r.lines(), r.baths
		r.countLinen(out.Linen)
		return nil
	})
	return out, err
}

// toolsNow is how the tools stand at a moment.
type toolsNow struct {
	*toolDay
	now    time.Time
	tools  []protocol.Tool
	pieces []Piece
	baths  []Bath
	out    []studio.ToolOut
}

// toolDay is what the diary wants of the tools. It is kept: whoever uses it changes nothing in it.
type toolDay struct {
	visits []studio.VisitLine // today's that take time
	takes  map[uuid.UUID][]string
	week   map[string]int // appointments a day, of the coming seven days
}

func (s *Service) toolsNow(ctx context.Context, tx toolStore, st *studio.Studio, hold bool) (*toolsNow, error) {
	r := &toolsNow{now: s.Now()}
	today := s.Today(st)
	if err := tx.Gather(
		studio.Changed(ctx, tx),
		func() error {
			lib, err := studio.ReadLibrary(ctx, tx)
			if err != nil {
				return err
			}
			r.tools = lib.Tools
			key := fmt.Sprintf("tools wanted on %s by settings %d", today, st.Changes)
			from := []studio.Area{studio.InCatalog, studio.InPlans, studio.InDiary, studio.InFiles}
			r.toolDay, err = studio.Keep(ctx, tx, key, from, func() (*toolDay, error) { return wantedTools(ctx, tx, st, today) })
			return err
		},
		studio.ReadOf(ctx, &r.pieces, tx.Pieces, hold),
		studio.Read(ctx, &r.baths, tx.Baths),
		studio.ReadOf(ctx, &r.out, tx.ToolsOut, today),
	); err != nil {
		return nil, err
	}
	for i := range r.baths {
		r.baths[i].Good = r.baths[i].core().Good(r.now)
	}
	r.complete()
	return r, nil
}

// wantedTools is what the diary wants of the tools on a day and in the six after it.
func wantedTools(ctx context.Context, tx toolStore, st *studio.Studio, today string) (*toolDay, error) {
	d := &toolDay{takes: map[uuid.UUID][]string{}, week: map[string]int{}}
	from, err := time.ParseInLocation(time.DateOnly, today, st.Zone())
	if err != nil {
		return nil, err
	}
	visits, err := tx.Visits(ctx, from, from.AddDate(0, 0, 7))
	if err != nil {
		return nil, err
	}
	for i := range visits {
		v := &visits[i]
		if !v.State.TakesTime() || v.Kind != studio.ForTreatment {
			continue
		}
		day := v.StartsAt.In(st.Zone()).Format(time.DateOnly)
		d.week[day]++
		if day != today {
			continue
		}
		d.visits = append(d.visits, *v)
		for _, part := range append([]plan{{v.Protocol, v.Version}}, also(v)...) {
			tools, err := toolsOfPlan(ctx, tx, part)
			if err != nil {
				return nil, err
			}
			d.takes[v.ID] = append(d.takes[v.ID], tools...)
		}
	}
	return d, nil
}

func also(v *studio.VisitLine) (out []plan) {
	for _, x := range v.Also {
		out = append(out, plan{x.Protocol, x.Version})
	}
	return out
}

// toolsOfPlan are the tools that a version of a protocol takes.
func toolsOfPlan(ctx context.Context, tx toolStore, p plan) ([]string, error) {
	key, from := fmt.Sprintf("tools of %s/%d", p.protocol, p.version), []studio.Area{studio.InCatalog, studio.InPlans}
	return studio.Keep(ctx, tx, key, from, func() ([]string, error) {
		lib, err := studio.ReadLibrary(ctx, tx)
		if err != nil {
			return nil, err
		}
		body, err := tx.Version(ctx, p.protocol, p.version)
		if err != nil {
			return nil, err
		}
		return toolsOf(body, lib.Context()), nil
	})
}

// toolsOf are the tools that a plan takes, each once; single-use ones have no pieces to clean.
func toolsOf(p *protocol.Protocol, cx *protocol.Context) (out []string) {
	for i := range p.Steps {
		key := ""
		if t := p.Steps[i].Tool; t != nil {
			key = t.Key
		} else if st, ok := cx.Strokes[p.Steps[i].Stroke]; ok && st.Tool != nil && p.Steps[i].Hand == "" {
			key = st.Tool.Key
		}
		if tool, ok := cx.Tools[key]; ok && !tool.SingleUse && !slices.Contains(out, key) {
			out = append(out, key)
		}
	}
	return out
}

// complete adds the pieces that nothing was written of yet: they are ready.
func (r *toolsNow) complete() {
	for _, t := range r.tools {
		if t.SingleUse {
			continue
		}
		for n := 1; n <= t.Pieces; n++ {
			if !slices.ContainsFunc(r.pieces, func(p Piece) bool { return p.Tool == t.Key && p.Number == n }) {
				r.pieces = append(r.pieces, Piece{Tool: t.Key, Number: n, State: shelf.PieceReady})
			}
		}
	}
	for i := range r.pieces {
		p := &r.pieces[i]
		p.Next = p.State.NextStates()
		if p.Next == nil {
			p.Next = []shelf.PieceState{}
		}
		k := slices.IndexFunc(r.tools, func(t protocol.Tool) bool { return t.Key == p.Tool })
		if k < 0 {
			continue
		}
		t := &r.tools[k]
		p.Worn = t.ExpectedUses > 0 && p.Uses >= t.ExpectedUses
		core := r.core(p)
		if p.State == shelf.PieceInBath {
			ends := core.ContactEnds()
			p.ContactEnds = &ends
		}
		if ready := core.ReadyAt(r.now, r.busyUntil(p), time.Duration(t.ReadyAfter)*time.Minute, time.Duration(t.Chill)*time.Minute); !ready.IsZero() {
			p.ReadyAt = &ready
		}
	}
	slices.SortFunc(r.pieces, func(a, b Piece) int {
		if c := strings.Compare(a.Tool, b.Tool); c != 0 {
			return c
		}
		return a.Number - b.Number
	})
}

func (r *toolsNow) core(p *Piece) *shelf.Piece {
	core := &shelf.Piece{State: p.State, Since: p.Since}
	if p.Bath != nil {
		if i := slices.IndexFunc(r.baths, func(b Bath) bool { return b.ID == *p.Bath }); i >= 0 {
			core.Bath = r.baths[i].core()
		}
	}
	return core
}

// busyUntil is when hands-on time ends for a piece in use.
func (r *toolsNow) busyUntil(p *Piece) time.Time {
	for i := range r.visits {
		if p.Visit != nil && r.visits[i].ID == *p.Visit {
			return r.visits[i].EndsAt
		}
	}
	return r.now
}

// lines are the tools with their pieces, and which piece serves which of today's appointments.
func (r *toolsNow) lines() []ToolLine {
	out := []ToolLine{}
	for _, t := range r.tools {
		if t.SingleUse {
			continue
		}
		l := ToolLine{Tool: t, Pieces: []Piece{}, Wanted: []ToolWanted{}}
		for _, p := range r.pieces {
			if p.Tool == t.Key {
				l.Pieces = append(l.Pieces, p)
			}
		}
		if t.ExpectedUses > 0 {
			l.CostPerUse = decimal.NewFromFloat(t.Price).DivRound(decimal.NewFromInt(int64(t.ExpectedUses)), 2)
		}
		r.serve(&l)
		out = append(out, l)
	}
	return out
}

// serve gives each of today's appointments to come the piece that has been ready longest.
func (r *toolsNow) serve(l *ToolLine) {
	ready := []time.Time{}
	number := []int{}
	for _, p := range l.Pieces {
		if p.ReadyAt != nil {
			ready, number = append(ready, *p.ReadyAt), append(number, p.Number)
		}
	}
	for i := range r.visits {
		v := &r.visits[i]
		if v.State.Given() || v.State == studio.InRoom || !slices.Contains(r.takes[v.ID], l.Tool.Key) {
			continue
		}
		w := ToolWanted{Visit: v.ID, Name: v.ClientName, At: v.StartsAt}
		best := -1
		for k := range ready {
			if best < 0 || ready[k].Before(ready[best]) {
				best = k
			}
		}
		switch {
		case best >= 0 && !ready[best].After(v.StartsAt):
			w.Piece = number[best]
			ready[best] = v.EndsAt.Add(time.Duration(l.Tool.ReadyAfter+l.Tool.Chill) * time.Minute)
		case best >= 0:
			first := ready[best]
			w.FirstReady = &first
		}
		l.Wanted = append(l.Wanted, w)
	}
}

// MovePiece brings a piece to a state. One taken out of the bath too early, or out of a bath past its time,
// is to clean again.
func (s *Service) MovePiece(ctx context.Context, a *studio.Actor, ref PieceRef, to shelf.PieceState, note string) (*Piece, error) {
	if err := a.May("move-piece"); err != nil {
		return nil, err
	}
	var out *Piece
	err := studio.In(ctx, s.Kernel, a, func(tx toolStore, st *studio.Studio) error {
		r, err := s.toolsNow(ctx, tx, st, true)
		if err != nil {
			return err
		}
		i := slices.IndexFunc(r.pieces, func(p Piece) bool { return p.Tool == ref.Tool && p.Number == ref.Number })
		if i < 0 {
			return studio.ErrNotFound
		}
		p := &r.pieces[i]
		if note = strings.TrimSpace(note); to == shelf.PieceRetired && note == "" {
			return studio.FaultAt("/note", words.SayWhyThePieceIsRetired())
		}
		if to == shelf.PieceInBath {
			k := slices.IndexFunc(r.baths, func(b Bath) bool { return b.Good })
			if k < 0 {
				return &studio.StateError{Code: "no-bath", Sentence: words.MakeABathFirst()}
			}
			p.Bath = &r.baths[k].ID
		}
		state, moved := r.core(p).Move(to, s.Now())
		if !moved {
			return &studio.StateError{Code: "piece-state", Sentence: words.ThePieceIsStateNow(string(p.State))}
		}
		if to == shelf.PieceRetired {
			gone := &studio.ToolOut{ID: studio.NewID(), Tool: p.Tool, Pieces: 1, From: s.Today(st), Reason: "retired", Note: note}
			if err := tx.AddToolOut(ctx, gone); err != nil {
				return err
			}
		}
		out, err = s.setPiece(ctx, tx, p, state, note, a)
		return err
	})
	return out, err
}

// setPiece writes a piece's new state and its line in the log.
func (s *Service) setPiece(ctx context.Context, tx toolStore, p *Piece, state shelf.PieceState, note string, a *studio.Actor) (*Piece, error) {
	p.State, p.Since, p.Next = state, s.Now(), state.NextStates()
	if err := tx.LogPiece(ctx, p, nil, note, &a.Account, p.Since); err != nil { // with the bath it comes out of
		return nil, err
	}
	if state != shelf.PieceInBath {
		p.Bath = nil
	}
	if state != shelf.PieceInUse && state != shelf.PieceToClean {
		p.Visit = nil
	}
	return p, tx.SavePiece(ctx, p)
}

// UseTools takes a ready piece of each tool into a treatment that begins, and its linen.
func (s *Service) UseTools(ctx context.Context, within studio.Tx, st *studio.Studio, a *studio.Actor, visit uuid.UUID, tools []string) error {
	tx := studio.As[toolStore](within)
	r, err := s.toolsNow(ctx, tx, st, true)
	if err != nil {
		return err
	}
	for _, tool := range tools {
		i := slices.IndexFunc(r.pieces, func(p Piece) bool {
			return p.Tool == tool && (p.State == shelf.PieceReady || p.State == shelf.PieceChill)
		})
		if i < 0 {
			continue // the room takes what it has; the log says nothing that is not so
		}
		p := &r.pieces[i]
		p.Uses, p.Visit = p.Uses+1, &visit
		if _, err := s.setPiece(ctx, tx, p, shelf.PieceInUse, "", a); err != nil {
			return err
		}
	}
	return useLinen(ctx, tx, "use")
}

// ReturnTools says that what a treatment used is to be cleaned, and puts its linen into the hamper.
func (s *Service) ReturnTools(ctx context.Context, within studio.Tx, a *studio.Actor, visit uuid.UUID) error {
	tx := studio.As[toolStore](within)
	pieces, err := tx.Pieces(ctx, true)
	if err != nil {
		return err
	}
	for i := range pieces {
		p := &pieces[i]
		if p.State == shelf.PieceInUse && p.Visit != nil && *p.Visit == visit {
			if _, err := s.setPiece(ctx, tx, p, shelf.PieceToClean, "", a); err != nil {
				return err
			}
		}
	}
	return useLinen(ctx, tx, "hamper")
}
