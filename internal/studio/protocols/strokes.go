package protocols

import (
	"context"
	"errors"
	"reflect"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
	"softpalm/internal/problem"
	"softpalm/internal/studio"
	"softpalm/words"
)

// strokeStore keeps the studio's own strokes and its tools.
type strokeStore interface {
	studio.LibraryStore
	// LockStudio returns the studio and holds it until the transaction ends.
	LockStudio(ctx context.Context) (*studio.Studio, error)
	SaveStroke(ctx context.Context, s *stroke.Stroke) error // over one of the same key
	DropStroke(ctx context.Context, key string) error
	// StrokeUsers names the protocols that use a stroke: in an account's draft, in the
	// newest version, or in one that a visit not over yet is booked with.
	StrokeUsers(ctx context.Context, key string) ([]string, error)
	AddTool(ctx context.Context, t *protocol.Tool) error
}

// SaveStroke keeps a stroke of the studio's own. One without a key is new and
// gets a key from its name; one with the key of a trade stroke takes its place in
// this studio. was is the stroke as it was on the screen, nil for a new one: one that was
// changed meanwhile answers a [*studio.ChangedError] with what is there.
func (s *Service) SaveStroke(ctx context.Context, a *studio.Actor, st stroke.Stroke, was *stroke.Stroke) (*stroke.Stroke, error) {
	if err := a.May("change-stroke"); err != nil {
		return nil, err
	}
	err := studio.In(ctx, s.Kernel, a, func(tx strokeStore, _ *studio.Studio) error {
		if _, err := tx.LockStudio(ctx); err != nil { // of two at once, the second sees what the first saved
			return err
		}
		lib, err := studio.ReadLibrary(ctx, tx)
		if err != nil {
			return err
		}
		c := lib.Context()
		if now := c.Strokes[st.Key]; was != nil && now != nil && !reflect.DeepEqual(now, was) {
			return &studio.ChangedError{Other: now}
		}
		if st.Key == "" {
			st.Key = studio.FreeKey(st.Name, "stroke", func(k string) bool { return c.Strokes[k] != nil })
		}
		if st.Tool != nil && c.Tools[st.Tool.Key].Name == "" {
			return studio.FaultAt("/tool/key", words.TheStudioHasNoToolTool(st.Tool.Key))
		}
		if ps := append(st.Validate(""), unknownZones(&st, c, "")...); len(ps) > 0 {
			return &studio.InputError{Problems: ps}
		}
		return tx.SaveStroke(ctx, &st)
	})
	return &st, err
}

// unknownZones reports the zones of a stroke that should be of the studio's own and are not there.
func unknownZones(st *stroke.Stroke, c *protocol.Context, at string) (out []problem.Fault) {
	st.Places(func(key *string, path string) {
		if _, ok := c.Zone(*key); !ok && anatomy.IsOwn(*key) {
			out = append(out, problem.Fault{Path: path, Sentence: words.TheStudioHasNoZone(*key)})
		}
	}, at)
	return out
}

// DropStroke removes a stroke of the studio's own that no protocol and no booked
// visit uses; where it stood in for a trade stroke, that one is back.
func (s *Service) DropStroke(ctx context.Context, a *studio.Actor, key string) error {
	if err := a.May("drop-stroke"); err != nil {
		return err
	}
	return studio.In(ctx, s.Kernel, a, func(tx strokeStore, _ *studio.Studio) error {
		if stroke.ByKey(stroke.Trade())[key] == nil {
			users, err := tx.StrokeUsers(ctx, key)
			if err != nil {
				return err
			}
			if len(users) > 0 {
				return &studio.StateError{Code: "stroke-in-use", Sentence: words.ProtocolUsersUsesThisStrokeInDraft(users[0])}
			}
		}
		return tx.DropStroke(ctx, key)
	})
}

// AddTool adds a tool under a key made from its name.
func (s *Service) AddTool(ctx context.Context, a *studio.Actor, t protocol.Tool) (*protocol.Tool, error) {
	if err := a.May("add-tool"); err != nil {
		return nil, err
	}
	err := studio.In(ctx, s.Kernel, a, func(tx strokeStore, _ *studio.Studio) error {
		lib, err := studio.ReadLibrary(ctx, tx)
		if err != nil {
			return err
		}
		c := lib.Context()
		if t.Key == "" {
			t.Key = studio.FreeKey(t.Name, "tool", func(k string) bool { return c.Tools[k].Name != "" })
		}
		if err := tx.AddTool(ctx, &t); errors.Is(err, studio.ErrExists) {
			return studio.FaultAt("/key", words.ThereToolWithKeyKeyAlready(t.Key))
		} else if err != nil {
			return err
		}
		return nil
	})
	return &t, err
}
