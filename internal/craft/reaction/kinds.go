package reaction

import (
	"slices"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/contraindication"
)

// Kinds of reaction, as a client or a practitioner would say them. None is a diagnosis.
var Kinds = []string{
	"redness", "itching", "burning", "swelling", "hives", "rash", "blisters", "breakout", "bruise", "soreness", "eyes", "dizziness", "other",
}

// How it is when it is asked again.
type Now string

// The answers to "how is it now". Gone closes the reaction, NotReached leaves the next time to ask open.
const (
	Better     Now = "better"
	Same       Now = "same"
	Worse      Now = "worse"
	Gone       Now = "gone"
	NotReached Now = "not-reached"
)

// Outcome is how a reaction was closed.
type Outcome string

// The outcomes. Mistake was never one: what it barred is free again.
const (
	Settled Outcome = "settled"
	Doctor  Outcome = "doctor"
	Mistake Outcome = "mistake"
)

// RegionsOf are the regions of zones, each once; zones nobody knows have none.
func RegionsOf(zones []contraindication.ZoneSide) []string {
	out := []string{}
	for _, z := range zones {
		if id, ok := anatomy.Lookup(z.Zone); ok && !slices.Contains(out, string(id.Zone().Region)) {
			out = append(out, string(id.Zone().Region))
		}
	}
	return out
}
