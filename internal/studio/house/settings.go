package house

import (
	"context"
	"regexp"
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
	Accounts(ctx context.Context) ([]studio.Account, error) // by name
}

// Settings are what an owner decides about the studio.
type Settings struct {
	Name     string `json:"name" maxLength:"120"`
	Address  string `json:"address" maxLength:"500"`
	TimeZone string `json:"timeZone" maxLength:"60"`
	Currency string `json:"currency" maxLength:"3"`
	// Open are the hours in which clients can be booked.
	Open series.Week `json:"open"`
	// OwnersNeedFactor says that owners sign in with a second factor only.
	OwnersNeedFactor bool `json:"ownersNeedFactor"`
}

// SettingsView are the settings at a revision.
type SettingsView struct {
	Settings
	Revision int `json:"revision"`
}

var currencyForm = regexp.MustCompile(`^[A-Z]{3}$`)

// check returns what is wrong with the settings.
func (n *Settings) check() error {
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
	return checkWeek("/open", n.Open)
}

func settingsOf(st *studio.Studio) SettingsView {
	return SettingsView{Settings{st.Name, st.Address, st.TimeZone, st.Currency, st.Open, st.OwnersNeedFactor}, st.Revision}
}

// Settings returns the studio's settings.
func (s *Service) Settings(ctx context.Context, a *studio.Actor) (*SettingsView, error) {
	if err := a.May("get-settings"); err != nil {
		return nil, err
	}
	var out SettingsView
	err := studio.In(ctx, s.Kernel, a, func(_ settingsStore, st *studio.Studio) error {
		out = settingsOf(st)
		return nil
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
	err := studio.In(ctx, s.Kernel, a, func(tx settingsStore, _ *studio.Studio) error {
		st, err := tx.LockStudio(ctx)
		if err != nil {
			return err
		}
		if st.Revision != revision {
			now := settingsOf(st)
			return &studio.ChangedError{Other: &now}
		}
		if n.OwnersNeedFactor && !st.OwnersNeedFactor {
			if err := hasFactor(ctx, tx, a); err != nil {
				return err
			}
		}
		st.Name, st.Address, st.TimeZone, st.Currency = n.Name, n.Address, n.TimeZone, n.Currency
		st.Open, st.OwnersNeedFactor = n.Open, n.OwnersNeedFactor
		if err := tx.SaveSettings(ctx, st); err != nil {
			return err
		}
		st.Revision++
		out = settingsOf(st)
		return s.Audit(ctx, tx, a, "change", "settings", st.ID)
	})
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
