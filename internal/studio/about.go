package studio

import (
	"slices"
	"strings"
	"time"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/substance"
)

// About is what a client tells at a consultation besides the answers to the rules.
// Nothing in it has to be filled in.
type About struct {
	BirthDate  string   `json:"birthDate,omitempty" maxLength:"10"`
	SkinType   string   `json:"skinType,omitempty" enum:"dry,normal,combination,oily,"`
	SkinStates []string `json:"skinStates,omitempty" maxItems:"7"`
	// Concerns by key, those that matter most first.
	Concerns  []string            `json:"concerns,omitempty" maxItems:"10"`
	Medicines []string            `json:"medicines,omitempty" maxItems:"40"`
	Allergies []substance.Allergy `json:"allergies,omitempty" maxItems:"40"`
	// HomeProducts are the client's own words.
	HomeProducts string `json:"homeProducts,omitempty" maxLength:"1000"`
	Sleep        string `json:"sleep,omitempty" enum:"well,so-so,badly,"`
	// Bedtime is the usual one, 22:30.
	Bedtime string `json:"bedtime,omitempty" maxLength:"5"`
}

// check reports what is wrong with what was told.
func (a *About) check(today string) error {
	if a.BirthDate != "" && (!calendar.Day(a.BirthDate).Valid() || a.BirthDate > today || a.BirthDate < "1900-01-01") {
		return faultAt("/about/birthDate", "Write the birth date as year-month-day, not later than today.")
	}
	if a.Bedtime != "" {
		if _, err := time.Parse("15:04", a.Bedtime); err != nil {
			return faultAt("/about/bedtime", "Write the usual bedtime as hour and minute, such as 22:30.")
		}
	}
	for _, s := range a.SkinStates {
		if !slices.Contains(skinStates, s) {
			return faultAt("/about/skinStates", "There is no skin state %q.", s)
		}
	}
	for _, c := range a.Concerns {
		if !slices.ContainsFunc(protocol.Concerns, func(k protocol.Concern) bool { return k.Key == c }) {
			return faultAt("/about/concerns", "There is no concern %q.", c)
		}
	}
	for _, m := range a.Medicines {
		if strings.TrimSpace(m) == "" || len(m) > 120 {
			return faultAt("/about/medicines", "A medicine has a name of at most 120 characters.")
		}
	}
	return nil
}

// ontoClient brings birth date and skin, where they were told, onto the client's
// file; it reports whether anything changed.
func (a *About) ontoClient(c *Client) bool {
	was := *c
	if a.BirthDate != "" {
		c.BirthDate = a.BirthDate
	}
	if a.SkinType != "" {
		c.SkinType = a.SkinType
		c.SkinStates = slices.Clone(a.SkinStates)
		if c.SkinStates == nil {
			c.SkinStates = []string{}
		}
	}
	return c.BirthDate != was.BirthDate || c.SkinType != was.SkinType || !slices.Equal(c.SkinStates, was.SkinStates)
}

// minutesToBed is how long after a moment the client usually goes to bed, in the
// studio's time; 0 where it is not known, or is later than any evening.
func (a *About) minutesToBed(after time.Time) float64 {
	bed, err := time.Parse("15:04", a.Bedtime)
	if err != nil {
		return 0
	}
	at := time.Date(after.Year(), after.Month(), after.Day(), bed.Hour(), bed.Minute(), 0, 0, after.Location())
	if at.Before(after) {
		at = at.AddDate(0, 0, 1)
	}
	return at.Sub(after).Minutes()
}
