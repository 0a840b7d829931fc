package shelf

import (
	"fmt"
	"time"

	"github.com/shopspring/decimal"

	"softpalm/internal/craft/calendar"
)

// Pack is one container of a lot.
type Pack struct {
	Lot string `json:"lot"`
	// Number of the pack within its lot; 0 counts as 1.
	Number int `json:"pack,omitempty"`
	// Expiry is a day (2006-01-02) or a month (2006-01), meaning its last day; nil for none.
	Expiry *string `json:"expiry"`
	// Opened is the day on which it was opened; nil for a sealed pack.
	Opened *string `json:"opened"`
	// MonthsOpen is how long it keeps once opened; 0 sets no limit.
	MonthsOpen int             `json:"months_open"`
	Left       decimal.Decimal `json:"left"`
	Blocked    bool            `json:"blocked,omitempty"`
}

const monthLayout = "2006-01"

// GoodUntil is the pack's last day of use: the earlier of its expiry and opening + months after opening,
// by the calendar; "" for no limit. Source: Regulation (EC) 1223/2009 art. 19 (from memory).
func (p *Pack) GoodUntil() (string, error) {
	last := ""
	if p.Expiry != nil {
		day, err := lastDay(*p.Expiry)
		if err != nil {
			return "", err
		}
		last = day
	}
	if p.Opened == nil || p.MonthsOpen == 0 {
		return last, nil
	}
	opened, err := time.Parse(dayLayout, *p.Opened)
	if err != nil {
		return "", fmt.Errorf("%q is no day", *p.Opened)
	}
	if open := calendar.AddMonths(opened, p.MonthsOpen).Format(dayLayout); last == "" || open < last {
		last = open
	}
	return last, nil
}

// Until is [Pack.GoodUntil] for a pack whose days were checked when it was received.
func (p *Pack) Until() string {
	until, err := p.GoodUntil()
	if err != nil && p.Expiry != nil {
		return *p.Expiry
	}
	return until
}

// Good reports whether a day is within the pack's last day of use.
func (p *Pack) Good(today string) bool {
	until := p.Until()
	return until == "" || today <= until
}

// Usable reports whether the pack may be used on a day: something is left, it is still good, and nobody
// blocked it.
func (p *Pack) Usable(today string) bool {
	return p.Left.IsPositive() && !p.Blocked && p.Good(today)
}

// tillDays is below how many days left the till says how long a pack is still good (handbook, chapter 4, Retail).
const tillDays = 60

// FewDays is how many days after today a pack is still good, where they are few enough to say so when it is
// sold; nil where there are more, or no last day.
func FewDays(until, today string) *int {
	if until == "" {
		return nil
	}
	n := calendar.Day(until).Since(calendar.Day(today))
	if n < 0 || n >= tillDays {
		return nil
	}
	return &n
}

// lastDay is a day as it stands, and a month's last day.
func lastDay(s string) (string, error) {
	if t, err := time.Parse(monthLayout, s); err == nil {
		return t.AddDate(0, 1, -1).Format(dayLayout), nil
	}
	if _, err := time.Parse(dayLayout, s); err != nil {
		return "", fmt.Errorf("%q is neither a day nor a month", s)
	}
	return s, nil
}

// Keeps is a recipe's own rule of how long its mix is good.
type Keeps struct {
	Days   *int `json:"days,omitempty"`
	Months *int `json:"months,omitempty"`
}

// Mix is a batch with its parts as they stand after mixing: a part opened for it counts as opened that day.
type Mix struct {
	Made  string `json:"made"`
	Parts []Pack `json:"parts"`
	Keeps *Keeps `json:"keeps"`
}

// GoodUntil is a mix's last day of use: the earliest of its parts' and of the day it was made + the
// recipe's own rule; "" for no limit (handbook, chapter 4, Mixing).
func (m *Mix) GoodUntil() (string, error) {
	made, err := time.Parse(dayLayout, m.Made)
	if err != nil {
		return "", fmt.Errorf("%q is no day", m.Made)
	}
	last := ""
	if m.Keeps != nil && m.Keeps.Days != nil {
		last = made.AddDate(0, 0, *m.Keeps.Days).Format(dayLayout)
	}
	if m.Keeps != nil && m.Keeps.Months != nil {
		last = earlier(last, calendar.AddMonths(made, *m.Keeps.Months).Format(dayLayout))
	}
	for i := range m.Parts {
		part, err := m.Parts[i].GoodUntil()
		if err != nil {
			return "", err
		}
		last = earlier(last, part)
	}
	return last, nil
}

// earlier of two last days; "" sets no limit.
func earlier(a, b string) string {
	if a == "" || b != "" && b < a {
		return b
	}
	return a
}
