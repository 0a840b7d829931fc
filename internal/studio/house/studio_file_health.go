package house

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/patch"
	"softpalm/internal/studio"
	"softpalm/words"
)

// healthStore adds what a studio kept of a client's health.
type healthStore interface {
	studio.Tx
	AddConsent(ctx context.Context, c *studio.Consent) error
	AddConsultation(ctx context.Context, c *studio.Consultation) error
	AddLetter(ctx context.Context, l *studio.Letter) error
	AnswerLetter(ctx context.Context, l *studio.Letter) error
	AddPatchTest(ctx context.Context, p *studio.PatchTest, product, account uuid.UUID) error
	AddReading(ctx context.Context, patch uuid.UUID, r patch.Reading, account uuid.UUID) error
	AddPreCheck(ctx context.Context, s *studio.PreCheck) error
}

// BundleHealth is what a studio kept of a client's health before: it comes in as
// it was, judged by the rules in force on its day.
type BundleHealth struct {
	Consultation *BundleConsultation `json:"consultation,omitempty"`
	Checks       []BundleCheck       `json:"checks,omitempty" maxItems:"500"`
	Consents     []BundleConsent     `json:"consents,omitempty" maxItems:"50"`
	Letters      []BundleLetter      `json:"letters,omitempty" maxItems:"50"`
	PatchTests   []BundlePatchTest   `json:"patchTests,omitempty" maxItems:"50"`
}

// BundleAnswer is a yes to a rule, a grade or a preference; what is not there was a no.
type BundleAnswer struct {
	Day    string                      `json:"day,omitempty" maxLength:"12"`
	Zones  []contraindication.ZoneSide `json:"zones,omitempty" maxItems:"60"`
	Grades map[string]int              `json:"grades,omitempty"`
	Option string                      `json:"option,omitempty" maxLength:"40"`
}

// BundleConsultation is a reviewed consultation.
type BundleConsultation struct {
	Day     string                  `json:"day" maxLength:"12"`
	Answers map[string]BundleAnswer `json:"answers,omitempty"`
	History studio.ClientHistory    `json:"about,omitempty"`
}

// BundleCheck is a pre-treatment check.
type BundleCheck struct {
	Day     string                  `json:"day" maxLength:"12"`
	Answers map[string]BundleAnswer `json:"answers,omitempty"`
}

// BundleConsent is a consent to the text in force, as signed.
type BundleConsent struct {
	Kind      studio.ConsentKind `json:"kind" enum:"treatment,photos,mouth"`
	Day       string             `json:"day" maxLength:"12"`
	Signer    string             `json:"signer" minLength:"1" maxLength:"120"`
	Guardian  bool               `json:"guardian,omitempty"`
	Signature [][]int            `json:"signature" maxItems:"500"`
}

// BundleLetter is a letter to a doctor with its answer, if one came.
type BundleLetter struct {
	Day      string   `json:"day" maxLength:"12"`
	Rules    []string `json:"rules" minItems:"1" maxItems:"20"`
	Protocol string   `json:"protocol,omitempty" maxLength:"120"`
	Question string   `json:"question" minLength:"1" maxLength:"2000"`
	Answer   string   `json:"answer,omitempty" enum:"yes,no,"`
	Until    string   `json:"until,omitempty" maxLength:"12"`
	Note     string   `json:"note,omitempty" maxLength:"2000"`
}

// BundlePatchTest is a patch test with its readings.
type BundlePatchTest struct {
	Product  string                      `json:"product" maxLength:"60"`
	Lot      string                      `json:"lot" maxLength:"60"`
	Place    string                      `json:"place" minLength:"1" maxLength:"80"`
	Day      string                      `json:"day" maxLength:"12"`
	Months   int                         `json:"months" minimum:"1" maximum:"36"`
	Readings map[string]patch.PatchGrade `json:"readings,omitempty"`
}

// The hours of the day at which what came from a file is taken to have happened.
const (
	fileMorning = 9 * time.Hour
	fileNoon    = 12 * time.Hour
)

func (im *importer) at(day string, hour time.Duration) (time.Time, string, bool) {
	text, ok := bundleDay(day, im.now.In(im.st.Zone()))
	if !ok {
		return time.Time{}, "", false
	}
	t, err := time.ParseInLocation(time.DateOnly, text, im.st.Zone())
	return t.Add(hour), text, err == nil
}

// answers are those of a file with a no to every other rule of a stage.
func (im *importer) answers(
	list map[string]BundleAnswer,
	stage contraindication.Stage,
	at string,
) map[string]contraindication.Answer {
	out := map[string]contraindication.Answer{}
	pack := im.st.Pack()
	for _, r := range pack.RulesAt(stage) {
		out[r.ID] = contraindication.Answer{}
	}
	for id, a := range list {
		i := slices.IndexFunc(pack.Rules, func(r contraindication.Rule) bool { return r.ID == id })
		if i < 0 {
			im.fault(at+"/"+id, words.ThereIsNoRuleId(id))
			continue
		}
		day := ""
		if a.Day != "" {
			var ok bool
			if _, day, ok = im.at(a.Day, 0); !ok {
				im.fault(at+"/"+id+"/day", words.DayIsNotADay(a.Day))
			}
		}
		out[id] = contraindication.Answer{
			Yes:    a.Option == "" && len(a.Grades) == 0,
			Day:    calendar.Day(day),
			Zones:  a.Zones,
			Grades: a.Grades,
			Option: a.Option,
		}
	}
	return out
}

func (im *importer) addHealth(ctx context.Context, b *Bundle) error {
	for i, bc := range b.Clients {
		if bc.Health == nil {
			continue
		}
		at := fmt.Sprintf("/clients/%d/health", i)
		if err := im.addHealthOf(ctx, im.clients[bc.Key], bc.Health, at); err != nil {
			return err
		}
	}
	return nil
}

func (im *importer) addHealthOf(ctx context.Context, client uuid.UUID, h *BundleHealth, at string) error {
	for i, c := range h.Consents {
		here := fmt.Sprintf("%s/consents/%d", at, i)
		when, _, ok := im.at(c.Day, fileMorning)
		if !ok {
			im.fault(here+"/day", words.DayIsNotADay(c.Day))
			continue
		}
		row := &studio.Consent{
			ID:        studio.NewID(),
			Client:    client,
			Kind:      c.Kind,
			Signer:    c.Signer,
			Guardian:  c.Guardian,
			Signature: c.Signature,
			SignedAt:  when,
		}
		for _, t := range im.st.ConsentTexts() {
			if t.Kind == c.Kind {
				row.Version, row.Body = t.Version, t.Body
			}
		}
		var bad *studio.InputError
		if err := studio.CheckSignature(c.Signature); errors.As(err, &bad) {
			im.fault(here+bad.Problems[0].Path, bad.Problems[0].Sentence)
			continue
		}
		if err := im.tx.AddConsent(ctx, row); err != nil {
			return err
		}
	}
	for i, l := range h.Letters {
		here := fmt.Sprintf("%s/letters/%d", at, i)
		when, _, ok := im.at(l.Day, fileNoon)
		_, until, ok2 := im.at(l.Until, 0)
		if !ok || l.Answer == "yes" && !ok2 {
			im.fault(here+"/day", words.LetterNeedsItsDayYesLastDay())
			continue
		}
		row := &studio.Letter{
			ID:        studio.NewID(),
			Client:    client,
			Rules:     l.Rules,
			Protocol:  l.Protocol,
			Question:  l.Question,
			WrittenAt: when,
		}
		if err := im.tx.AddLetter(ctx, row); err != nil {
			return err
		}
		if l.Answer != "" {
			row.Answer, row.Note, row.AnsweredAt = l.Answer, l.Note, &when
			if l.Answer == "yes" {
				row.Until = until
			}
			if err := im.tx.AnswerLetter(ctx, row); err != nil {
				return err
			}
		}
	}
	if err := im.addChecks(ctx, client, h, at); err != nil {
		return err
	}
	for i, p := range h.PatchTests {
		if err := im.addPatchTest(ctx, client, &p, fmt.Sprintf("%s/patchTests/%d", at, i)); err != nil {
			return err
		}
	}
	return nil
}

// addChecks brings in the consultation and the pre-treatment checks, each judged on its day.
func (im *importer) addChecks(ctx context.Context, client uuid.UUID, h *BundleHealth, at string) error {
	pack := im.st.Pack()
	if c := h.Consultation; c != nil {
		when, day, ok := im.at(c.Day, fileMorning)
		if !ok {
			im.fault(at+"/consultation/day", words.DayIsNotADay(c.Day))
			return nil
		}
		var bad *studio.InputError
		if err := c.History.Check(day); errors.As(err, &bad) {
			im.fault(at+"/consultation"+bad.Problems[0].Path, bad.Problems[0].Sentence)
		}
		row := &studio.Consultation{
			ID:          studio.NewID(),
			Client:      client,
			Answers:     im.answers(c.Answers, contraindication.Consultation, at+"/consultation/answers"),
			History:     c.History,
			PackVersion: pack.Version,
			CreatedAt:   when,
			ReviewedAt:  &when,
			ReviewedBy:  &uuid.Nil,
			Day:         day,
		}
		for _, p := range pack.Check(row.Answers, calendar.Day(day), contraindication.Consultation) {
			im.fault(at+"/consultation"+p.Path, p.Sentence)
		}
		if len(im.faults) > 0 {
			return nil
		}
		if err := im.tx.AddConsultation(ctx, row); err != nil {
			return err
		}
	}
	for i, c := range h.Checks {
		here := fmt.Sprintf("%s/checks/%d", at, i)
		when, day, ok := im.at(c.Day, fileMorning)
		if !ok {
			im.fault(here+"/day", words.DayIsNotADay(c.Day))
			continue
		}
		door := im.answers(c.Answers, contraindication.PreTreatment, here+"/answers")
		for _, p := range pack.Check(door, calendar.Day(day), contraindication.PreTreatment) {
			im.fault(here+p.Path, p.Sentence)
		}
		row, err := im.s.Checks.JudgePreCheck(ctx, im.tx, im.st, client, calendar.Day(day), door)
		if err != nil {
			return err
		}
		row.At = when
		if err := im.tx.AddPreCheck(ctx, row); err != nil {
			return err
		}
	}
	return nil
}

func (im *importer) addPatchTest(ctx context.Context, client uuid.UUID, p *BundlePatchTest, at string) error {
	when, _, ok := im.at(p.Day, fileMorning)
	i := slices.IndexFunc(im.lib.Products, func(x studio.Product) bool { return x.Key == p.Product })
	if !ok || i < 0 {
		im.fault(at, words.PatchTestNeedsItsDayProductShelf())
		return nil
	}
	row := &studio.PatchTest{
		ID:        studio.NewID(),
		Client:    client,
		Lot:       p.Lot,
		Place:     p.Place,
		PatchTest: patch.PatchTest{Product: p.Product, Applied: when, Months: p.Months},
	}
	if err := im.tx.AddPatchTest(ctx, row, im.lib.Products[i].ID, uuid.Nil); err != nil {
		return err
	}
	for _, r := range []struct {
		key   string
		hours int
	}{{"24", 24}, {"48", 48}} {
		if grade, ok := p.Readings[r.key]; ok {
			if !slices.Contains(patch.PatchGrades, grade) {
				im.fault(at+"/readings/"+r.key, words.ThereIsNoGradeGrade(grade))
				continue
			}
			if err := im.tx.AddReading(
				ctx,
				row.ID,
				patch.Reading{Hours: r.hours, Grade: grade, At: when.Add(time.Duration(r.hours) * time.Hour)},
				uuid.Nil,
			); err != nil {
				return err
			}
		}
	}
	return nil
}
