package contraindication

import (
	"slices"
	"sort"
	"strings"
	"unicode"
	"unicode/utf8"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/calendar"
	"softpalm/words"
)

// Mark is one thing to know of a client before touching the face, in a few words:
// "filler (upper lip)", "no nuts", "contact lenses".
type Mark struct {
	Rule string `json:"rule"`
	Text string `json:"text"`
	// Kind is the strictest outcome of the rule.
	Kind Kind `json:"kind"`
	// Until is the first day without it, where it ends by itself.
	Until calendar.Day `json:"until,omitempty"`
	// Places are those the rule is about, to be shown on a face.
	Places []MarkedPlace `json:"places,omitempty"`
}

// MarkedPlace is a place on the face and what a rule asks there.
type MarkedPlace struct {
	ZoneSide
	// Kind is leave-out, cap or mind.
	Kind Kind `json:"kind"`
}

// namedZones is how many places a mark names; more are counted.
const namedZones = 2

// Marks says what a result is about, one mark a rule: what keeps the client away first,
// then allergies, then what is left out, limited and done without, then the rest, each in
// the order of the pack. Answers are those that were judged.
func (p *Pack) Marks(res Result, answers map[string]Answer) []Mark {
	out := []Mark{}
	order := map[string]int{}
	at := map[string]int{}
	for i := range res.Outcomes {
		o := &res.Outcomes[i]
		k, seen := at[o.Rule]
		if !seen {
			k = len(out)
			at[o.Rule] = k
			out = append(out, Mark{Rule: o.Rule, Text: p.markText(o, answers[o.Rule]), Kind: o.Kind, Until: o.Until})
			order[o.Rule] = weight(o)
		}
		m := &out[k]
		if w := weight(o); w < order[o.Rule] {
			m.Kind, order[o.Rule] = o.Kind, w
		}
		if o.Until > m.Until {
			m.Until = o.Until
		}
		for _, place := range o.Places {
			if kind, shown := placeKind[o.Kind]; shown {
				m.Places = append(m.Places, MarkedPlace{place, kind})
			}
		}
		if kind, shown := placeKind[o.Kind]; shown && len(o.Places) == 0 && o.Kind == Precaution {
			for _, z := range o.Outcome.Zones {
				m.Places = append(m.Places, MarkedPlace{ZoneSide{Zone: z, Side: "both"}, kind})
			}
		}
	}
	sort.SliceStable(out, func(i, j int) bool { return order[out[i].Rule] < order[out[j].Rule] })
	return slices.CompactFunc(out, func(a, b Mark) bool { return a.Text == b.Text })
}

// placeKind is how an outcome is shown on a face; what is not in it has no place there.
var placeKind = map[Kind]Kind{Wait: LeaveOut, Stop: LeaveOut, Letter: LeaveOut, LeaveOut: LeaveOut, Cap: Cap, Exclude: Cap, Precaution: Precaution}

// weight orders marks, the heaviest first.
func weight(o *Contraindication) int {
	switch {
	case o.Allowed:
		return 9
	case rank[o.Kind.headline()] > rank[OKWithAdjustments]:
		return -rank[o.Kind.headline()]
	case o.Outcome.Allergy != nil || strings.HasSuffix(o.Rule, "-allergy"):
		return 1
	}
	return 2 + slices.Index([]Kind{LeaveOut, Cap, Exclude, Precaution, Lighter, Firmer}, o.Kind)
}

// markText is a rule in a few words, with the places of its answer.
func (p *Pack) markText(o *Contraindication, a Answer) string {
	text := lowerFirst(o.Title)
	if o.Outcome.Allergy != nil {
		return words.BriefNoSubstance(lowerFirst(o.Outcome.Allergy.Name))
	}
	if i := slices.IndexFunc(p.Rules, func(r Rule) bool { return r.ID == o.Rule }); i >= 0 && p.Rules[i].Short != "" {
		text = p.Rules[i].Short
	}
	if a.Option != "" {
		text = a.Option + " " + text
	}
	names := zoneNames(a.Zones)
	switch n := len(names); {
	case n == 0:
		return text
	case n > namedZones:
		return words.BriefInManyPlaces(text, n)
	}
	return words.BriefAtPlaces(text, strings.Join(names, ", "))
}

// zoneNames names each zone once, with its side where it is one side only.
func zoneNames(list []ZoneSide) []string {
	var names []string
	sides := map[string]map[string]bool{}
	var order []string
	for _, z := range list {
		if sides[z.Zone] == nil {
			sides[z.Zone] = map[string]bool{}
			order = append(order, z.Zone)
		}
		sides[z.Zone][z.Side] = true
	}
	for _, key := range order {
		id, ok := anatomy.Lookup(key)
		if !ok {
			continue
		}
		name := lowerFirst(id.Zone().Name)
		if s := sides[key]; id.Zone().Paired && len(s) == 1 && (s["left"] || s["right"]) {
			for side := range s {
				name = words.BriefZoneOnSide(side, name)
			}
		}
		names = append(names, name)
	}
	return names
}

// lowerFirst is a name inside a line; one that begins with two capitals stays.
func lowerFirst(s string) string {
	r, n := utf8.DecodeRuneInString(s)
	next, _ := utf8.DecodeRuneInString(s[n:])
	if unicode.IsUpper(next) {
		return s
	}
	return string(unicode.ToLower(r)) + s[n:]
}

// NotAmong lists the marks whose rule is not among others.
func NotAmong(list, others []Mark) []Mark {
	out := []Mark{}
	for _, m := range list {
		if !slices.ContainsFunc(others, func(o Mark) bool { return o.Rule == m.Rule }) {
			out = append(out, m)
		}
	}
	return out
}

// OfTheDay reports whether a rule is asked anew every day, so that its answer says nothing
// about another day.
func (p *Pack) OfTheDay(rule string) bool {
	i := slices.IndexFunc(p.Rules, func(r Rule) bool { return r.ID == rule })
	return i >= 0 && p.Rules[i].Stage == PreTreatment
}
