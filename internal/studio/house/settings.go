package house

import (
	"context"
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strings"
	"time"

	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
	"softpalm/words"
)

// settingsStore keeps the studio's settings.
type settingsStore interface {
	studio.Tx
	// LockStudio returns the studio and holds it until the transaction ends.
	LockStudio(ctx context.Context) (*studio.Studio, error)
	// SaveSettings writes the studio's settings as the next revision.
	SaveSettings(ctx context.Context, st *studio.Studio) error
	Gateway(ctx context.Context) (*studio.Gateway, error)
	SaveGateway(ctx context.Context, g *studio.Gateway) error
	Accounts(ctx context.Context) ([]studio.Account, error)                     // by name
	Visits(ctx context.Context, from, to time.Time) ([]studio.VisitLine, error) // by start
}

// Basics are what a studio is called, and where and when it works.
type Basics struct {
	Name     string `json:"name" maxLength:"120"`
	Address  string `json:"address" maxLength:"500"`
	TimeZone string `json:"timeZone" maxLength:"60"`
	Currency string `json:"currency" maxLength:"3"`
	studio.Tax
	studio.Costs
	// Open are the hours in which clients can be booked.
	Open series.Week `json:"open"`
}

// Settings are what an owner decides about the studio.
type Settings struct {
	Basics
	// Closures are days on which the studio is closed beside its hours.
	Closures []series.Closure `json:"closures" maxItems:"100"`
	// OwnersNeedFactor says that owners sign in with a second factor only.
	OwnersNeedFactor bool `json:"ownersNeedFactor"`
	// Emergency is what the treatment room shows in an emergency. This and the consent
	// texts are the standard ones where they are empty.
	Emergency string `json:"emergency" maxLength:"1000"`
	// Policies are shown to clients who open a private link.
	Policies string `json:"policies" maxLength:"4000"`
	// The texts that clients sign, by what each is for.
	ConsentTreatment string `json:"consentTreatment" maxLength:"4000"`
	ConsentPhotos    string `json:"consentPhotos" maxLength:"4000"`
	ConsentMouth     string `json:"consentMouth" maxLength:"4000"`
	// TypedSignatures says that a consent may be signed by typing one's name.
	TypedSignatures bool `json:"typedSignatures"`
	studio.Retention
	studio.Gateway
	studio.DiaryRules
	studio.BookRules
}

// SettingsView are the settings at a revision.
type SettingsView struct {
	Settings
	Revision int `json:"revision"`
	// MailPasswordKept says that there is a password for the mail server.
	MailPasswordKept bool `json:"mailPasswordKept"`
	// Closed is how many appointments to come lie on days on which the studio is closed.
	Closed int `json:"closed"`
}

var currencyForm = regexp.MustCompile(`^[A-Z]{3}$`)

// check returns what is wrong with the basics.
func (n *Basics) check() error {
	n.Name, n.Address, n.Currency = strings.TrimSpace(n.Name), strings.TrimSpace(n.Address), strings.ToUpper(strings.TrimSpace(n.Currency))
	if n.Name == "" {
		return studio.FaultAt("/name", words.EnterTheNameOfTheStudio())
	}
	if _, err := time.LoadLocation(n.TimeZone); err != nil || n.TimeZone == "" || n.TimeZone == "Local" {
		return studio.FaultAt("/timeZone", words.ThereIsNoTimeZoneTimeZone(n.TimeZone))
	}
	if !currencyForm.MatchString(n.Currency) {
		return studio.FaultAt("/currency", words.ACurrencyHasThreeLetters())
	}
	if err := errors.Join(n.Tax.Check(), n.Costs.Check()); err != nil {
		return err
	}
	return checkWeek("/open", n.Open)
}

// check returns what is wrong with the settings.
func (n *Settings) check() error {
	for i := range n.Closures {
		c, at := &n.Closures[i], fmt.Sprintf("/closures/%d", i)
		c.Reason = strings.TrimSpace(c.Reason)
		if err := errors.Join(studio.CheckDay(at+"/from", c.From), studio.CheckDay(at+"/to", c.To)); err != nil {
			return err
		}
		if c.Reason == "" {
			return studio.FaultAt(at+"/reason", words.SayWhyTheStudioIsClosed())
		}
		if c.To < c.From {
			return studio.FaultAt(at+"/to", words.TheLastDayIsNotBeforeTheFirst())
		}
	}
	slices.SortFunc(n.Closures, func(a, b series.Closure) int { return strings.Compare(a.From, b.From) })
	return errors.Join(n.Basics.check(), n.DiaryRules.Check(), n.BookRules.Check())
}

// put writes the settings into a studio; version names the consent texts that they change.
func (n *Settings) put(st *studio.Studio, version string) {
	st.Name, st.Address, st.TimeZone, st.Currency, st.Tax, st.Open = n.Basics.Name, n.Address, n.TimeZone, n.Currency, n.Tax, n.Open
	st.Costs = n.Costs
	st.Closures, st.OwnersNeedFactor, st.Retention = n.Closures, n.OwnersNeedFactor, n.Retention
	st.Diary, st.Books = n.DiaryRules, n.BookRules
	st.SetEmergencyText(n.Emergency)
	st.Texts.Policies, st.Texts.TypedSignatures = strings.TrimSpace(n.Policies), n.TypedSignatures
	st.SetConsentText(studio.ConsentTreatment, n.ConsentTreatment, version)
	st.SetConsentText(studio.ConsentPhotos, n.ConsentPhotos, version)
	st.SetConsentText(studio.ConsentMouth, n.ConsentMouth, version)
}

// settingsOf are the settings as they are shown: without the mail server's password.
func settingsOf(st *studio.Studio, g *studio.Gateway) SettingsView {
	v := SettingsView{Revision: st.Revision, MailPasswordKept: g.Password != ""}
	v.Gateway, v.DiaryRules, v.BookRules = *g, st.Diary, st.Books
	v.Password = ""
	v.Basics = Basics{st.Name, st.Address, st.TimeZone, st.Currency, st.Tax, st.Costs, st.Open}
	v.Closures, v.OwnersNeedFactor, v.Retention = st.Closures, st.OwnersNeedFactor, st.Retention
	if v.Closures == nil {
		v.Closures = []series.Closure{}
	}
	v.Emergency, v.Policies, v.TypedSignatures = st.EmergencyText(), st.Texts.Policies, st.Texts.TypedSignatures
	for _, t := range st.ConsentTexts() {
		switch t.Kind {
		case studio.ConsentTreatment:
			v.ConsentTreatment = t.Body
		case studio.ConsentPhotos:
			v.ConsentPhotos = t.Body
		case studio.ConsentMouth:
			v.ConsentMouth = t.Body
		}
	}
	return v
}

// withClosed counts the appointments to come that lie on days on which the studio is closed.
func (s *Service) withClosed(ctx context.Context, tx settingsStore, st *studio.Studio, v *SettingsView) error {
	if len(st.Closures) == 0 {
		return nil
	}
	visits, err := tx.Visits(ctx, s.Now(), s.Now().Add(studio.BookingAhead))
	if err != nil {
		return err
	}
	for i := range visits {
		day := visits[i].StartsAt.In(st.Zone()).Format(time.DateOnly)
		if visits[i].State.TakesTime() && series.ClosedOn(st.Closures, day) != nil {
			v.Closed++
		}
	}
	return nil
}

// Settings returns the studio's settings.
func (s *Service) Settings(ctx context.Context, a *studio.Actor) (*SettingsView, error) {
	if err := a.May("get-settings"); err != nil {
		return nil, err
	}
	var out SettingsView
	err := studio.In(ctx, s.Kernel, a, func(tx settingsStore, st *studio.Studio) error {
		g, err := tx.Gateway(ctx)
		if err != nil {
			return err
		}
		out = settingsOf(st, g)
		return s.withClosed(ctx, tx, st, &out)
	})
	return &out, err
}

// ChangeSettings changes the settings at a revision. Who asks owners for a second factor
// has set one first, so that nobody is locked out by it.
func (s *Service) ChangeSettings(ctx context.Context, a *studio.Actor, revision int, n Settings) (*SettingsView, error) {
	if err := a.May("change-settings"); err != nil {
		return nil, err
	}
	if err := n.check(); err != nil {
		return nil, err
	}
	var out SettingsView
	zone := n.TimeZone
	err := studio.In(ctx, s.Kernel, a, func(tx settingsStore, _ *studio.Studio) error {
		st, err := tx.LockStudio(ctx)
		if err != nil {
			return err
		}
		g, err := tx.Gateway(ctx)
		if err != nil {
			return err
		}
		if st.Revision != revision {
			now := settingsOf(st, g)
			return &studio.ChangedError{Other: &now}
		}
		if n.OwnersNeedFactor && !st.OwnersNeedFactor {
			if err := hasFactor(ctx, tx, a); err != nil {
				return err
			}
		}
		if err := n.Gateway.After(g); err != nil {
			return err
		}
		zone = st.TimeZone
		n.put(st, fmt.Sprintf("%s.%d", s.Today(st), revision+1))
		if err := errors.Join(tx.SaveSettings(ctx, st), tx.SaveGateway(ctx, &n.Gateway)); err != nil {
			return err
		}
		st.Revision++
		out = settingsOf(st, &n.Gateway)
		if err := s.withClosed(ctx, tx, st, &out); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "change", "settings", st.ID)
	})
	if err == nil && zone != n.TimeZone {
		err = s.Diary.KeepWallTimes(ctx, a.Studio)
	}
	return &out, err
}

func hasFactor(ctx context.Context, tx settingsStore, a *studio.Actor) error {
	list, err := tx.Accounts(ctx)
	if err != nil {
		return err
	}
	for i := range list {
		if list[i].ID == a.Account && list[i].FactorSecret != "" {
			return nil
		}
	}
	return studio.FaultAt("/ownersNeedFactor", words.SetUpYourOwnSecondFactorFirst())
}
