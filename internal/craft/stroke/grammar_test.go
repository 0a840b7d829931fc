package stroke_test

import (
	"slices"
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/stroke"
)

// The grammar of the trade: name, family, relation, path, direction, intent, dose, tempo and glide of a
// stroke must not contradict each other. Each rule is common practice; docs/craft/grammar.md says them in
// words. A stroke of the shipped library that breaks one is wrong.
func TestTheLibraryKeepsTheGrammar(t *testing.T) {
	says := func(st *stroke.Stroke, words ...string) bool {
		text := strings.ToLower(st.Name + " " + st.Cue)
		return slices.ContainsFunc(words, func(w string) bool { return strings.Contains(text, w) })
	}
	still := func(st *stroke.Stroke) bool { // worked place by place
		return len(st.Parts) > 0 && !slices.ContainsFunc(st.Parts, func(p stroke.Part) bool { return p.Kind == stroke.Move })
	}
	rules := []struct {
		rule  string
		about func(*stroke.Stroke) bool
		holds func(*stroke.Stroke) bool
	}{
		{"a pick-up does not slide", func(s *stroke.Stroke) bool { return s.Family == "pick-up" }, func(s *stroke.Stroke) bool { return s.Relation == stroke.Carries }},
		{"kneading carries the skin or works on product", func(s *stroke.Stroke) bool { return s.Family == stroke.Petrissage }, func(s *stroke.Stroke) bool { return s.Relation == stroke.Carries || s.Glide == "any" }},
		{"a stretch does not slide", func(s *stroke.Stroke) bool { return s.Family == "stretch" }, func(s *stroke.Stroke) bool { return s.Relation == stroke.Carries }},
		{"a hold does not slide", func(s *stroke.Stroke) bool { return s.Family == "static hold" || s.Family == stroke.Rest }, func(s *stroke.Stroke) bool { return s.Relation == stroke.Still }},
		{"a pump does not slide", func(s *stroke.Stroke) bool { return s.Family == "pump" }, func(s *stroke.Stroke) bool { return s.Relation == stroke.Carries }},
		{"a glide slides", func(s *stroke.Stroke) bool {
			return slices.Contains([]stroke.Family{stroke.Effleurage, "feathering", "flick/whip", "tool glide"}, s.Family)
		}, func(s *stroke.Stroke) bool { return s.Relation == stroke.Slides }},
		{"what slides on the face with pressure says what slip it needs", func(s *stroke.Stroke) bool {
			return s.Relation == stroke.Slides && s.Tool == nil && (s.Intent == stroke.Drain || s.Intent == stroke.Lift)
		}, func(s *stroke.Stroke) bool { return s.Glide != "" && s.Glide != "any" }},
		{"what needs grip does not slide by hand", func(s *stroke.Stroke) bool { return s.Glide == stroke.GripGlide && s.Tool == nil }, func(s *stroke.Stroke) bool { return s.Relation == stroke.Carries }},
		{"a drain is a feather on the surface", func(s *stroke.Stroke) bool { return s.Intent == stroke.Drain }, func(s *stroke.Stroke) bool { return s.Pressure == 1 && s.Layer == "surface" }},
		{"a drain ends at or before a node, never runs back", func(s *stroke.Stroke) bool { return s.Intent == stroke.Drain && len(s.Path) > 1 }, func(s *stroke.Stroke) bool {
			for i := 1; i < len(s.Path); i++ {
				a, _ := anatomy.Lookup(s.Path[i-1])
				b, _ := anatomy.Lookup(s.Path[i])
				if anatomy.FlowDirection(a, b) == anatomy.Backward {
					return false
				}
			}
			last, _ := anatomy.Lookup(s.Path[len(s.Path)-1])
			return last.Zone().Node != "" || slices.Contains([]string{"temple", "ear-lobe"}, last.Zone().Key)
		}},
		{"a drain never aches", func(s *stroke.Stroke) bool { return s.Intent == stroke.Drain }, func(s *stroke.Stroke) bool {
			return !strings.Contains(s.Precaution, "pain goes above")
		}},
		{"circles have a sense", func(s *stroke.Stroke) bool {
			return strings.Contains(strings.ToLower(s.Name), "circle") && s.Family != stroke.Exercise && s.Family != stroke.CleansingCircle && s.Family != "compression"
		}, func(s *stroke.Stroke) bool { return s.CircleDirection != "" }},
		{"on two sides a circle is mirrored", func(s *stroke.Stroke) bool { return s.CircleDirection != "" && s.Sides == stroke.BothAtOnce }, func(s *stroke.Stroke) bool {
			return s.CircleDirection != "clockwise" && s.CircleDirection != "anticlockwise"
		}},
		{"a ring round the eye closes", func(s *stroke.Stroke) bool {
			return says(s, "round the eyes", "round the eye,") && s.Relation == stroke.Slides
		}, func(s *stroke.Stroke) bool { return s.Path[0] == s.Path[len(s.Path)-1] }},
		{"place by place names its places in the order of the path", func(s *stroke.Stroke) bool { return still(s) && s.Parts[0].Zone != "" }, func(s *stroke.Stroke) bool {
			var places []string
			for _, p := range s.Parts {
				if p.Zone != "" && (len(places) == 0 || places[len(places)-1] != p.Zone) {
					places = append(places, p.Zone)
				}
			}
			at := 0
			for _, z := range places {
				k := slices.Index(s.Path[at:], z)
				if k < 0 {
					return false
				}
				at += k
			}
			return true
		}},
		{"place by place does not slide", func(s *stroke.Stroke) bool { return still(s) && len(s.Path) > 1 && s.Parts[0].Zone != "" }, func(s *stroke.Stroke) bool { return s.Relation != stroke.Slides }},
		{"quick in words is quick in tempo", func(s *stroke.Stroke) bool { return says(s, "quick") }, func(s *stroke.Stroke) bool { return s.Tempo == "quick" }},
		{"breath in the dose is breath in the tempo", func(s *stroke.Stroke) bool { return s.Dose.Kind == stroke.Breaths }, func(s *stroke.Stroke) bool { return s.Tempo == "breath" || s.Tempo == "even" }},
		{"a tool or a hand works, except where nobody touches", func(s *stroke.Stroke) bool {
			return !slices.Contains([]string{"look-over", "mist-veil", "mask-rest"}, s.Key) && s.Family != stroke.Hygiene && s.Family != stroke.Exercise
		}, func(s *stroke.Stroke) bool { return (s.Hand != "") != (s.Tool != nil) || s.Family == "compression" }},
		{"what has no path rests or is the client's", func(s *stroke.Stroke) bool { return len(s.Path) == 0 }, func(s *stroke.Stroke) bool { return s.Relation == stroke.Still && s.Pressure == 0 }},
		{"stones are held taut at the start or glide into the shoulder", func(s *stroke.Stroke) bool { return strings.HasPrefix(s.Key, "stone-") }, func(s *stroke.Stroke) bool {
			return s.Anchor != nil && s.Anchor.Role == "holds-taut" || s.Path[len(s.Path)-1] == "shoulder"
		}},
		{"across a line says so", func(s *stroke.Stroke) bool {
			return says(s, "across the", "crossing", "zigzag friction") && s.Family == stroke.Friction
		}, func(s *stroke.Stroke) bool { return s.Direction == "across" }},
		{"a lift goes up or out", func(s *stroke.Stroke) bool {
			return s.Intent == stroke.Lift && len(s.Path) > 1 && s.Path[0] != s.Path[len(s.Path)-1]
		}, func(s *stroke.Stroke) bool {
			a, _ := anatomy.Lookup(s.Path[0])
			b, _ := anatomy.Lookup(s.Path[len(s.Path)-1])
			from, to := a.Zone().Centre, b.Zone().Centre
			return to.Y > from.Y-1 || to.X > from.X+1
		}},
		{"the client never has nothing to do in words", func(*stroke.Stroke) bool { return true }, func(s *stroke.Stroke) bool { return s.Client != "Nothing" }},
		{"every stroke has a cue, a caution and a short name", func(*stroke.Stroke) bool { return true }, func(s *stroke.Stroke) bool {
			return s.Cue != "" && s.Precaution != "" && s.Short != "" && utf8.RuneCountInString(s.Short) <= 24
		}},
	}
	for _, r := range rules {
		n := 0
		for _, st := range stroke.Trade() {
			if r.about(&st) {
				n++
				assert.True(t, r.holds(&st), "%s: %s", r.rule, st.Key)
			}
		}
		if r.rule != "a pick-up does not slide" {
			assert.Positive(t, n, "no stroke is asked: %s", r.rule)
		}
	}
}

func TestShortNamesTellStrokesApart(t *testing.T) {
	seen := map[string]string{}
	for _, st := range stroke.Trade() {
		assert.Empty(t, seen[st.Short], "%s and %s", st.Key, seen[st.Short])
		seen[st.Short] = st.Key
	}
}

// A stroke can last its usual minute (common practice: about a minute a technique), except at the eye,
// and where places, points and exercises set their own measure.
func TestAStrokeCanLastItsMinute(t *testing.T) {
	for _, st := range stroke.Trade() {
		eye := slices.Contains(st.Path, "orbital-rim") || slices.Contains(st.Path, "under-eye")
		work := slices.Contains([]stroke.Intent{stroke.Drain, stroke.Lift, stroke.Release, stroke.Soothe, "stimulate"}, st.Intent)
		if eye || !work || slices.Contains([]stroke.Family{"static hold", stroke.Exercise, stroke.Rest, "passive movement"}, st.Family) {
			continue
		}
		if st.Dose.Kind != stroke.Reps && st.Dose.Kind != stroke.Clock {
			continue
		}
		_, most, _ := st.Dose.Range()
		assert.GreaterOrEqual(t, st.Dose.With(most).SideSeconds(stroke.RepSeconds(st.Parts)), 58.0, st.Key)
	}
}
