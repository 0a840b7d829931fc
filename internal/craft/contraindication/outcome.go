package contraindication

import (
	"encoding/json"
	"slices"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/substance"
)

func sides(pl ZoneSide) []anatomy.ZoneSide {
	id, ok := anatomy.Lookup(pl.Zone)
	if !ok {
		return nil
	}
	z := id.Zone()
	var out []anatomy.ZoneSide
	if z.Midline {
		out = append(out, anatomy.ZoneSide{Zone: id, Side: anatomy.Mid})
	}
	if z.Paired && pl.Side != "right" {
		out = append(out, anatomy.ZoneSide{Zone: id, Side: anatomy.Left})
	}
	if z.Paired && pl.Side != "left" {
		out = append(out, anatomy.ZoneSide{Zone: id, Side: anatomy.Right})
	}
	return out
}

// Headline is the answer in a word.
type Headline string

// The headlines, mildest first.
const (
	OKToTreat         Headline = "go"
	OKWithAdjustments Headline = "go-with-changes"
	NeedsLetter       Headline = "needs-letter"
	NotBefore         Headline = "not-before"
	DoNotTreat        Headline = "not-here"
	UrgentHelp        Headline = "urgent"
)

// Treatable reports whether a treatment may be given under the headline.
func (h Headline) Treatable() bool { return h == OKToTreat || h == OKWithAdjustments }

var rank = map[Headline]int{OKToTreat: 0, OKWithAdjustments: 1, NeedsLetter: 2, NotBefore: 3, DoNotTreat: 4, UrgentHelp: 5}

// Outcome is what follows from a yes.
type Outcome struct {
	Kind Kind `json:"kind" enum:"urgent,stop,wait,letter,leave-out,cap,exclude,mind,lighter,firmer"`
	// Days the outcome holds after the day asked for; 0 holds as long as the yes.
	Days int `json:"days,omitempty" minimum:"0" maximum:"3650"`
	// Zones to leave out, to cap or to keep an exclusion to; empty with a cap or
	// an exclusion means everywhere. FromAnswer takes them from the answer, or,
	// where zones are named too, takes the named ones on the sides of the answer.
	// Neighbours adds the places within [anatomy.NeighbourCM].
	Zones      []string `json:"zones,omitempty"`
	FromAnswer bool     `json:"fromAnswer,omitempty"`
	Neighbours bool     `json:"neighbours,omitempty"`
	// UntilLetter lifts the outcome for a client with a doctor's written yes to the
	// rule, which is asked for without keeping the client away.
	UntilLetter bool `json:"untilLetter,omitempty"`
	// The outcome is for clients from an age on, or under one, in whole years. A
	// client whose birth date is not known counts as old enough, unless the rule
	// asks nothing.
	FromAge  int `json:"fromAge,omitempty" minimum:"0" maximum:"120"`
	UnderAge int `json:"underAge,omitempty" minimum:"0" maximum:"120"`
	// The outcome is for weeks of pregnancy completed, from one on or before one.
	FromWeek   int `json:"fromWeek,omitempty" minimum:"0" maximum:"42"`
	BeforeWeek int `json:"beforeWeek,omitempty" minimum:"0" maximum:"42"`
	// The outcome is for a highest grade from one on, or for grades that differ
	// between left and right by so much; or for one of the rule's options.
	FromGrade int    `json:"fromGrade,omitempty" minimum:"0" maximum:"4"`
	Uneven    int    `json:"uneven,omitempty" minimum:"0" maximum:"4"`
	Option    string `json:"option,omitempty" maxLength:"40"`
	// Pressure of a cap, 0 to 5.
	Pressure int `json:"pressure,omitempty" minimum:"0" maximum:"5"`
	// What an exclusion takes away: stroke families, intents, kinds of tool,
	// ingredient tags, product forms, single products, what an allergy is to.
	Families []string           `json:"families,omitempty"`
	Intents  []string           `json:"intents,omitempty"`
	Tools    []string           `json:"tools,omitempty"`
	Tags     []string           `json:"tags,omitempty"`
	Forms    []string           `json:"forms,omitempty"`
	Products []string           `json:"products,omitempty"`
	Allergy  *substance.Allergy `json:"allergy,omitempty"`
	// Instruction is what to do, for a precaution and as an addition to others.
	Instruction string `json:"does,omitempty"`
}

// UnmarshalJSON reads an outcome. One for the bone round the eye holds for the bone above it too, which
// was the same zone once.
func (o *Outcome) UnmarshalJSON(data []byte) error {
	type fields Outcome // without this method
	if err := json.Unmarshal(data, (*fields)(o)); err != nil {
		return err
	}
	if slices.Contains(o.Zones, "orbital-rim") && !slices.Contains(o.Zones, "upper-orbital-rim") {
		o.Zones = append(o.Zones, "upper-orbital-rim")
	}
	return nil
}

// AsksLetter reports whether a doctor's written yes lifts the outcome.
func (o *Outcome) AsksLetter() bool { return o.Kind == Letter || o.UntilLetter }

// places are those an outcome is for, given those of the answer.
func (o *Outcome) places(answered []ZoneSide) []ZoneSide {
	var out []ZoneSide
	switch {
	case o.FromAnswer && len(o.Zones) > 0:
		for _, side := range []string{"left", "right", "both"} {
			if slices.ContainsFunc(
				answered,
				func(p ZoneSide) bool { return p.Side == side || (p.Side == "" && side == "both") },
			) {
				for _, z := range o.Zones {
					out = append(out, ZoneSide{Zone: z, Side: side})
				}
			}
		}
	case o.FromAnswer:
		out = slices.Clone(answered)
	default:
		for _, z := range o.Zones {
			out = append(out, ZoneSide{Zone: z, Side: "both"})
		}
	}
	if o.Neighbours {
		seen := map[anatomy.ZoneSide]bool{}
		for _, pl := range out {
			for _, p := range sides(pl) {
				seen[p] = true
			}
		}
		for _, pl := range slices.Clone(out) {
			for _, p := range sides(pl) {
				for _, n := range anatomy.Near(p) {
					if !seen[n] {
						seen[n] = true
						out = append(out, ZoneSide{Zone: n.Zone.Zone().Key, Side: [...]string{"both", "left", "right"}[n.Side]})
					}
				}
			}
		}
	}
	return out
}
