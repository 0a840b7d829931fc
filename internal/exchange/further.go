package exchange

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/words"
)

// furtherText is what a step says besides its movement, on paper: each property with its name, those that
// were not said left out.
func furtherText(r *evaluation.Resolved, ctx *protocol.Context) string {
	var out []string
	say := func(property, value string) {
		if value == "" {
			return
		}
		out = append(out, words.FurtherFields[property]+": "+wordFor(value))
	}
	number := func(property string, n int) {
		if n > 0 {
			say(property, strconv.Itoa(n))
		}
	}
	f := r.Further
	if r.Direction != "along" {
		say("direction", r.Direction)
	}
	say("towards", placeName(f.Towards, ctx))
	say("crease", f.Crease)
	if r.Tempo == "slow" {
		say("tempo", r.Tempo)
	}
	say("whichHand", f.WhichHand)
	say("handChoice", strings.Join(f.HandChoice, ", "))
	for _, family := range f.AlsoFamilies {
		say("alsoFamilies", string(family))
	}
	say("actsOn", placeNames(f.ActsOn, ctx))
	if f.PressureMost != nil {
		say("pressureMost", strconv.Itoa(*f.PressureMost))
	}
	say("pressureAs", f.PressureAs)
	if rows := f.Rows; rows != nil {
		say("rows.from", placeName(rows.From, ctx))
		say("rows.to", placeName(rows.To, ctx))
		number("rows.least", rows.Least)
		number("rows.most", rows.Most)
		if rows.UntilCovered {
			out = append(out, words.FurtherFields["rows.untilCovered"])
		}
	}
	number("tenderSeconds", f.TenderSeconds)
	say("works", strings.Join(f.Works, ", "))
	if against := f.Resistance; against != nil {
		say("resistance.by", against.By)
		say("resistance.direction", against.Direction)
		say("resistance.towards", placeName(against.Towards, ctx))
	}
	if score := f.Score; score != nil {
		say("score.what", score.What)
		say("score.zone", placeName(score.Zone, ctx))
		say("score.when", score.When)
	}
	say("condition", f.Condition)
	say("find", r.Find)
	say("offPicture", placeNames(offPicture(r), ctx))
	for i := range r.Source.Path {
		at := &r.Source.Path[i]
		where := placeName(at.Zone, ctx)
		if at.Part != "" {
			out = append(out, where+": "+words.FurtherWords[at.Part])
		}
		if at.CM > 0 {
			out = append(out, fmt.Sprintf("%s: %g cm, %s %s", where, at.CM, strings.ToLower(words.FurtherFields["landmark"]), placeName(at.Landmark, ctx)))
		}
	}
	for _, a := range r.Source.Alternates {
		what := a.Does
		if what == "" {
			what = a.Hand
		}
		if a.LeaveOut {
			what = words.FurtherFields["leaveOut"]
		}
		out = append(out, strings.TrimSpace(words.FurtherWords[a.When]+" "+a.Condition)+": "+what)
	}
	return strings.Join(out, ". ")
}

// offPicture lists the zones of a path that no picture shows: body add-ons and those of the studio's own.
func offPicture(r *evaluation.Resolved) (out []string) {
	for i := range r.Path {
		z := r.Path[i].ZoneID().Zone()
		if !slices.ContainsFunc(anatomy.Views[:], z.Seen) && !slices.Contains(out, z.Key) {
			out = append(out, z.Key)
		}
	}
	return out
}

// wordFor is how a word of the format is said on paper; a studio's own word is said as it is.
func wordFor(value string) string {
	if word := words.FurtherWords[value]; word != "" {
		return word
	}
	return value
}

// planText is what a plan says of itself as a whole.
func planText(p *protocol.Protocol) string {
	var out []string
	say := func(property, value string) {
		if value != "" {
			out = append(out, words.FurtherFields[property]+": "+value)
		}
	}
	list := func(values []string) string {
		said := make([]string, len(values))
		for i, v := range values {
			said[i] = wordFor(v)
		}
		return strings.Join(said, ", ")
	}
	say("preconditions", list(p.Preconditions))
	if h := p.HowOften; h != nil {
		say("howOften.least", counted(h.Least))
		say("howOften.most", counted(h.Most))
		say("howOften.per", wordFor(h.Per))
		say("howOften.days", counted(h.Days))
		say("howOften.then", h.Then)
	}
	say("trigger", p.Trigger)
	say("sittingsADay", counted(p.SittingsADay))
	say("timesOfDay", list(p.TimesOfDay))
	say("minutes.target", counted(p.Minutes.Target))
	if p.Excerpt {
		out = append(out, words.FurtherFields["excerpt"])
	}
	return strings.Join(out, ". ")
}

// aftercareText are the lines of advice for afterwards.
func aftercareText(p *protocol.Protocol, ctx *protocol.Context) (out []string) {
	for _, a := range p.Aftercare {
		line := a.Advice
		if prod := ctx.Products[a.Product]; prod != nil {
			line += " " + prod.Name + "."
		}
		if a.When != "" {
			line += " " + wordFor(a.When) + "."
		}
		if a.Days > 0 {
			line += " " + words.FurtherFields["days"] + ": " + counted(a.Days) + "."
		}
		out = append(out, line)
	}
	return out
}

func counted(n int) string {
	if n == 0 {
		return ""
	}
	return strconv.Itoa(n)
}

func placeName(key string, ctx *protocol.Context) string {
	if id, ok := ctx.Zone(key); ok {
		return id.Zone().Name
	}
	if area := words.Areas[key]; area != "" {
		return area
	}
	return key
}

func placeNames(keys []string, ctx *protocol.Context) string {
	list := make([]string, len(keys))
	for i, k := range keys {
		list[i] = placeName(k, ctx)
	}
	return strings.Join(list, ", ")
}
