package exchange

import (
	"fmt"
	"strconv"
	"strings"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/evaluation"
	"softpalm/words"
)

// furtherText is what a step says besides its movement, on paper: each property with its name, those that
// were not said left out.
func furtherText(r *evaluation.Resolved) string {
	var out []string
	say := func(property, value string) {
		if value == "" {
			return
		}
		if word := words.FurtherWords[value]; word != "" {
			value = word
		}
		out = append(out, words.FurtherFields[property]+": "+value)
	}
	number := func(property string, n int) {
		if n > 0 {
			say(property, strconv.Itoa(n))
		}
	}
	f := &r.Further
	if r.Direction != "along" {
		say("direction", r.Direction)
	}
	say("towards", placeName(f.Towards))
	say("crease", f.Crease)
	if r.Tempo == "slow" {
		say("tempo", r.Tempo)
	}
	say("whichHand", f.WhichHand)
	say("handChoice", strings.Join(f.HandChoice, ", "))
	for _, family := range f.AlsoFamilies {
		say("alsoFamilies", string(family))
	}
	say("actsOn", placeNames(f.ActsOn))
	if f.PressureMost != nil {
		say("pressureMost", strconv.Itoa(*f.PressureMost))
	}
	say("pressureAs", f.PressureAs)
	if rows := f.Rows; rows != nil {
		say("rows.from", placeName(rows.From))
		say("rows.to", placeName(rows.To))
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
		say("resistance.towards", placeName(against.Towards))
	}
	if score := f.Score; score != nil {
		say("score.what", score.What)
		say("score.zone", placeName(score.Zone))
		say("score.when", score.When)
	}
	say("condition", f.Condition)
	say("find", r.Find)
	for i := range r.Source.Path {
		at := &r.Source.Path[i]
		where := placeName(at.Zone)
		if at.Part != "" {
			out = append(out, where+": "+words.FurtherWords[at.Part])
		}
		if at.CM > 0 {
			out = append(out, fmt.Sprintf("%s: %g cm, %s %s", where, at.CM, strings.ToLower(words.FurtherFields["landmark"]), placeName(at.Landmark)))
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

func placeName(key string) string {
	if id, ok := anatomy.Lookup(key); ok {
		return id.Zone().Name
	}
	if area := words.Areas[key]; area != "" {
		return area
	}
	return key
}

func placeNames(keys []string) string {
	list := make([]string, len(keys))
	for i, k := range keys {
		list[i] = placeName(k)
	}
	return strings.Join(list, ", ")
}
