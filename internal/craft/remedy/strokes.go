package remedy

import (
	"maps"
	"slices"
	"strings"

	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
	"softpalm/words"
)

// libraryStroke returns the key of the first stroke, by key, that serves.
func (x *fixer) libraryStroke(serves func(*stroke.Stroke) bool) string {
	for _, k := range slices.Sorted(maps.Keys(x.ctx.Strokes)) {
		if serves(x.ctx.Strokes[k]) {
			return k
		}
	}
	return ""
}

// phaseStroke names the usual stroke of a phase of the studio.
func (x *fixer) phaseStroke(phase protocol.Phase) string {
	return x.libraryStroke(func(st *stroke.Stroke) bool {
		if phase == "cleanse" {
			return st.Tool == nil && st.Family == stroke.CleansingCircle
		}
		if st.Tool != nil || st.Family != stroke.Rest {
			return false
		}
		switch phase {
		case "settle":
			return st.Intent == stroke.Settle && st.Dose.Kind == stroke.Breaths
		case "look-over":
			return st.Intent == stroke.LookOver && len(st.Zones()) > 0
		case "wake":
			return st.Intent == stroke.Finish && len(st.Zones()) == 0
		}
		return false
	})
}

func (x *fixer) addPhase() error {
	phase := x.f.Values.(*evaluation.NoPhase).Phase
	key := x.phaseStroke(phase)
	if key == "" {
		return words.LibraryHasNoStrokeForPhaseName(phase)
	}
	at := len(x.q.Steps)
	rank := slices.Index(protocol.Phases, phase)
	for i := range x.q.Steps {
		if slices.Index(protocol.Phases, x.q.Steps[i].Phase) > rank {
			at = i
			break
		}
	}
	if phase == "wake" {
		at = len(x.q.Steps)
		for at > 0 && x.q.Steps[at-1].Phase == "reset" {
			at--
		}
	}
	x.q.Insert(at, protocol.Step{ID: x.q.NewID(key), Stroke: key, Phase: phase})
	return nil
}

// workZone adds the library stroke that works most of the promised zones with
// an intent that serves the concern.
func (x *fixer) workZone() error {
	promise := x.f.Values.(*evaluation.Unworked)
	missing := promise.Zones
	c := protocol.ConcernOf(promise.Concern)
	if c == nil {
		return words.ConcernStudiosOwnAddStrokeByHand()
	}
	at := len(x.q.Steps)
	for at > 0 && slices.Index(protocol.Phases, x.q.Steps[at-1].Phase) > slices.Index(protocol.Phases, protocol.Phase("work")) {
		at--
	}
	for len(missing) > 0 {
		st := bestFor(x.ctx, missing, c.Intents)
		if st == nil {
			return words.TheLibraryHasNoStrokeForMissing(strings.Join(missing, ", "))
		}
		x.q.Insert(at, protocol.Step{ID: x.q.NewID(st.Key), Stroke: st.Key, Phase: "work"})
		at++
		missing = slices.DeleteFunc(slices.Clone(missing), func(z string) bool { return slices.Contains(st.Zones(), z) })
	}
	return nil
}

// bestFor returns the hand stroke that works most of the zones with one of the
// intents; the earlier intent, then the key, decides between equals.
func bestFor(ctx *protocol.Context, zones []string, intents []stroke.Intent) *stroke.Stroke {
	var best *stroke.Stroke
	score := 0.0
	for _, k := range slices.Sorted(maps.Keys(ctx.Strokes)) {
		st := ctx.Strokes[k]
		in := slices.Index(intents, st.Intent)
		if in < 0 || st.Tool != nil || st.Glide == stroke.GripGlide {
			continue
		}
		if _, ok := ctx.Bears(st.AllFamilies(), st.Intent, "", func(zs []string) bool {
			return slices.ContainsFunc(st.Zones(), func(z string) bool { return slices.Contains(zs, z) })
		}); !ok {
			continue
		}
		n := 0
		for _, z := range zones {
			if slices.Contains(st.Zones(), z) {
				n++
			}
		}
		if s := float64(n) - 0.1*float64(in) - 0.01*float64(len(st.Zones())); n > 0 && s > score {
			best, score = st, s
		}
	}
	return best
}

// useAlternate takes the first alternate that serves: for long nails one meant
// for them, otherwise one that the skin tolerates.
func (x *fixer) useAlternate() error {
	r, s := x.resolved(), &x.q.Steps[x.at]
	for _, a := range r.Stroke.Alternates {
		if x.f.Code == evaluation.LongNails && a.When != "long-nails" ||
			x.f.Code != evaluation.LongNails && a.When == "long-nails" {
			continue
		}
		switch {
		case a.LeaveOut:
			x.q.Steps = append(x.q.Steps[:x.at], x.q.Steps[x.at+1:]...)
			return nil
		case a.Hand != "":
			s.Hand = a.Hand
			return nil
		case a.Tool != nil && x.ctx.Tools[a.Tool.Key].Name != "":
			s.Tool = a.Tool
			return nil
		case a.Stroke != "":
			st := x.ctx.Strokes[a.Stroke]
			if st == nil {
				continue
			}
			*s = protocol.SubstituteStroke(s, st)
			if _, bad := findingOf(x.q, x.ctx, x.f); !bad {
				return nil
			}
		}
	}
	return words.StrokeHasNoOtherWayDoingThat()
}

// findingOf looks for a finding of the same id in the plan.
func findingOf(p *protocol.Protocol, ctx *protocol.Context, f *evaluation.Finding) (*evaluation.Finding, bool) {
	e := evaluation.Evaluate(p, ctx)
	for i := range e.Findings {
		if e.Findings[i].ID == f.ID {
			return &e.Findings[i], true
		}
	}
	return nil, false
}

// insertHygiene puts a hygiene step before the step, before its round where it
// is in one.
func (x *fixer) insertHygiene(key string) error {
	if x.ctx.Strokes[key] == nil {
		return words.TheLibraryHasNoStrokeKey(key)
	}
	x.q.Insert(x.at, protocol.Step{ID: x.q.NewID(key), Stroke: key, Phase: x.q.Steps[x.at].Phase, Round: x.q.Steps[x.at].Round})
	return nil
}
