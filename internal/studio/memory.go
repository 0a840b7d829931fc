package studio

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"
	lru "github.com/hashicorp/golang-lru/v2"
	"golang.org/x/sync/singleflight"
)

// Area is a part of a studio's data whose changes are counted.
type Area int

// The areas, in the order of [Changes].
const (
	InCatalog    Area = iota // products, tools, strokes, zones, mixes, people, rooms, prices
	InPlans                  // protocols, their versions and drafts
	InStock                  // packs, deliveries, orders
	InDiary                  // appointments, series, who works when
	InFiles                  // what is known of clients
	InRecords                // what treatments used
	InTreatments             // treatments under way and given
	areas
)

// Changes is how often each area of a studio has changed.
type Changes [areas]int64

// Memory keeps what was worked out from the data of studios until the data is another. What it keeps is shared by all who
// ask, and changed by nobody. It is safe for concurrent use.
type Memory struct {
	kept   *lru.Cache[string, memo]
	notes  *lru.Cache[string, any]
	flight singleflight.Group
	// Seen, where it is set, is told of every value when it is kept: tests look whether it is the same in the end.
	Seen func(key string, value any)
}

// memo is a kept value with the state of the data that it was worked out from.
type memo struct {
	of    string
	value any
}

// How much is kept at most, of all studios together.
const (
	mostKept  = 400
	mostNotes = 20_000
)

// NewMemory returns an empty memory.
func NewMemory() *Memory {
	kept, err := lru.New[string, memo](mostKept)
	if err != nil {
		panic(err)
	}
	notes, err := lru.New[string, any](mostNotes)
	if err != nil {
		panic(err)
	}
	return &Memory{kept: kept, notes: notes}
}

// Remembered is a memory as one transaction may use it.
type Remembered struct {
	*Memory
	Studio  uuid.UUID
	Changes Changes
	// Gathered is set below [Tx.Gather]. There nobody waits for another request to finish its work: that request might itself
	// be waiting for something that this one holds.
	Gathered bool
}

// Keep answers what work found in a studio before, as long as none of the areas that it is found in has changed since.
// The key says what was found, with all that it depends on besides: the account, the day, the changes of the settings. A
// transaction that has written works it out by itself: it sees what nobody else does yet.
func Keep[T any](ctx context.Context, tx Tx, key string, from []Area, work func() (T, error)) (T, error) {
	m, err := tx.Memory(ctx)
	if err != nil {
		var none T
		return none, err
	}
	if m == nil {
		return work()
	}
	of := m.State(from)
	key = m.Studio.String() + " " + key
	if known, ok := m.kept.Get(key); ok && known.of == of {
		return as[T](known.value), nil
	}
	value, err, shared := m.alone(key+" "+of, func() (any, error) { return work() })
	if err != nil {
		if shared { // another request's work failed, or was abandoned: that says nothing of this one
			return work()
		}
		var none T
		return none, err
	}
	m.kept.Add(key, memo{of, value})
	if m.Seen != nil {
		m.Seen(key+" "+of, value)
	}
	return as[T](value), nil
}

// alone does some work once for all who want it at the same moment.
func (m *Remembered) alone(key string, work func() (any, error)) (value any, err error, shared bool) { //nolint:revive // as singleflight does
	if m.Gathered {
		value, err = work()
		return value, err, false
	}
	return m.flight.Do(key, work)
}

// as is a kept value as its own type: a key names values of one type only.
func as[T any](value any) T {
	v, ok := value.(T)
	if !ok {
		panic(fmt.Sprintf("studio: what is kept is a %T", value))
	}
	return v
}

// State is how often some areas have changed.
func (m *Remembered) State(from []Area) string {
	var s strings.Builder
	for _, area := range slices.Sorted(slices.Values(from)) {
		fmt.Fprintf(&s, "%d:%d ", area, m.Changes[area])
	}
	return s.String()
}

// Note keeps something small whose key says all that it depends on, so that it is never out of date.
func (m *Remembered) Note(key string, value any) { m.notes.Add(m.Studio.String()+" "+key, value) }

// Noted answers what [Remembered.Note] kept; nil where it is not kept, or not any more.
func (m *Remembered) Noted(key string) any {
	value, _ := m.notes.Get(m.Studio.String() + " " + key)
	return value
}

// Once has one of the requests that want the same thing at the same moment do the work. Mine says that this request did
// it; the others wait until it is done, and then find what it noted, or nothing where it failed.
func (m *Remembered) Once(key string, work func() error) (mine bool, err error) {
	_, err, _ = m.alone("once "+m.Studio.String()+" "+key, func() (any, error) {
		mine = true
		return nil, work()
	})
	if !mine {
		err = nil
	}
	return mine, err
}
