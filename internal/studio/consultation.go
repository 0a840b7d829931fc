package studio

import (
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/reaction"
	"softpalm/internal/craft/substance"
	"softpalm/words"
)

// ClientHistory is what a client says at a consultation besides the answers to the rules.
// Nothing in it has to be filled in.
type ClientHistory struct {
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

// Check reports what is wrong with the history.
func (a *ClientHistory) Check(today string) error {
	if a.BirthDate != "" && (!calendar.Day(a.BirthDate).Valid() || a.BirthDate > today || a.BirthDate < "1900-01-01") {
		return FaultAt("/history/birthDate", words.EnterDateBirthAsYearMonthDay())
	}
	if a.Bedtime != "" {
		if _, err := time.Parse("15:04", a.Bedtime); err != nil {
			return FaultAt("/history/bedtime", words.EnterUsualBedtimeAsHoursMinutesFor())
		}
	}
	for _, s := range a.SkinStates {
		if !slices.Contains(SkinStates, s) {
			return FaultAt("/history/skinStates", words.ThereIsNoSkinConditionS(s))
		}
	}
	for _, c := range a.Concerns {
		if !slices.ContainsFunc(protocol.Concerns, func(k protocol.Concern) bool { return k.Key == c }) {
			return FaultAt("/history/concerns", words.ThereIsNoConcernC(c))
		}
	}
	for _, m := range a.Medicines {
		if strings.TrimSpace(m) == "" || len(m) > 120 {
			return FaultAt("/history/medicines", words.MedicineHasNameAtMost120Characters())
		}
	}
	return nil
}

// ApplyTo brings birth date and skin, where they were given, onto the client's
// file; it reports whether anything changed.
func (a *ClientHistory) ApplyTo(c *Client) bool {
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

// MinutesToBed is how long after a moment the client usually goes to bed, in the
// studio's time; 0 where it is not known, or is later than any evening.
func (a *ClientHistory) MinutesToBed(after time.Time) float64 {
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

// Consultation is what a client answered, at the studio or by a private link. It
// counts once a practitioner has reviewed it, and never changes after that.
type Consultation struct {
	ID          uuid.UUID                          `json:"id"`
	Client      uuid.UUID                          `json:"client"`
	Answers     map[string]contraindication.Answer `json:"answers"`
	History     ClientHistory                      `json:"history"`
	PackVersion string                             `json:"packVersion"`
	CreatedAt   time.Time                          `json:"createdAt"`
	// Visit is the appointment until which the private link opens; nil where there is none.
	Visit *uuid.UUID `json:"-"`
	// Session is the session with which a tablet was handed over; the link opens in it only.
	Session *uuid.UUID `json:"-"`
	// LinkUntil is when the private link ends; absent where there is none.
	LinkUntil *time.Time `json:"linkUntil,omitempty"`
	// SentAt is when the client sent the answers in.
	SentAt     *time.Time `json:"sentAt,omitempty"`
	ReviewedAt *time.Time `json:"reviewedAt,omitempty"`
	ReviewedBy *uuid.UUID `json:"-"`
	// Day is the studio's day of the review.
	Day string `json:"day,omitempty"`
}

// ValidUntil is the last day the consultation holds.
func (c *Consultation) ValidUntil() string {
	t, err := time.Parse(time.DateOnly, c.Day)
	if err != nil {
		return ""
	}
	return calendar.AddMonths(t, contraindication.ConsultationMonths).Format(time.DateOnly)
}

// CurrentConsultation returns the newest reviewed consultation, nil where there is none
// that holds on the day.
func CurrentConsultation(list []Consultation, today string) *Consultation {
	for i := range list {
		if list[i].ReviewedAt != nil && list[i].Day <= today {
			if today < list[i].ValidUntil() {
				return &list[i]
			}
			return nil
		}
	}
	return nil
}

// Named is a key with what is read for it.
type Named struct {
	Key  string `json:"key"`
	Name string `json:"name"`
}

// PreCheck is a pre-treatment check as it was; never rewritten.
type PreCheck struct {
	ID          uuid.UUID                          `json:"id"`
	Client      uuid.UUID                          `json:"client"`
	Visit       *uuid.UUID                         `json:"visit,omitempty"`
	Day         string                             `json:"day"`
	Answers     map[string]contraindication.Answer `json:"answers"`
	History     ClientHistory                      `json:"history"`
	Result      contraindication.Result            `json:"result"`
	PackVersion string                             `json:"packVersion"`
	// Together are the rules that were answered no in one go, each of them asked.
	Together []string  `json:"together"`
	Account  uuid.UUID `json:"-"`
	At       time.Time `json:"at"`
}

// CheckLine is a pre-treatment check in a client's file: what came of it.
type CheckLine struct {
	ID       uuid.UUID                 `json:"id"`
	Day      string                    `json:"day"`
	Headline contraindication.Headline `json:"headline"`
	// Titles are what applied, each once.
	Titles []string                `json:"titles"`
	Result contraindication.Result `json:"-"`
}

// NewCheckLine tells what came of a check.
func NewCheckLine(id uuid.UUID, day string, result contraindication.Result) CheckLine {
	l := CheckLine{ID: id, Day: day, Headline: result.Headline, Titles: []string{}, Result: result}
	for _, o := range result.Outcomes {
		if !slices.Contains(l.Titles, o.Title) {
			l.Titles = append(l.Titles, o.Title)
		}
	}
	return l
}

// ClientFacts is what is known of a client for judging a day: the newest reviewed
// consultation and pre-treatment check (nil where there is none), answered letters and
// patch tests, newest first, and the keys of products used in closed records.
type ClientFacts struct {
	Client       Client
	Consultation *Consultation
	NewestCheck  *PreCheck
	Letters      []Letter
	PatchTests   []PatchTest
	Used         []string
	// Bars are what earlier reactions bar, newest first.
	Bars []reaction.Standing
	// SentIn is when the answers came that nobody has reviewed yet; nil where none did.
	SentIn *time.Time
	// Consented are the kinds of consent that are given and not withdrawn.
	Consented []ConsentKind
}
