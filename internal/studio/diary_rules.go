package studio

import (
	"time"

	"softpalm/internal/craft/messages"
	"softpalm/internal/craft/series"
	"softpalm/words"
)

// DiaryRules are the limits, times and weights of the diary as a studio sets them.
type DiaryRules struct {
	// FreeHours is until how long before an appointment cancelling or moving it is free.
	FreeHours int `json:"freeHours" minimum:"0" maximum:"336"`
	// HoldMinutes is how long a series is held at the desk, LinkHoldMinutes where a client answers
	// by link, MostHolds how many one person at the desk holds at a time.
	HoldMinutes     int `json:"holdMinutes" minimum:"1" maximum:"60"`
	LinkHoldMinutes int `json:"linkHoldMinutes" minimum:"5" maximum:"1440"`
	MostHolds       int `json:"mostHolds" minimum:"1" maximum:"20"`
	// LateFrom is from when an appointment ends late.
	LateFrom string `json:"lateFrom" maxLength:"5"`
	// DepositAfter is after how many missed appointments in twelve months a deposit is asked for.
	DepositAfter int `json:"depositAfter" minimum:"1" maximum:"20"`
	// Missed says whether a missed visit of a series counts as used.
	Missed MissedRule `json:"missed" enum:"first-back,back,used"`
	// When clients are written to, and when not.
	QuietFrom        string `json:"quietFrom" maxLength:"5"`
	QuietTo          string `json:"quietTo" maxLength:"5"`
	PrepareDays      int    `json:"prepareDays" minimum:"1" maximum:"60"`
	AnythingNewHours int    `json:"anythingNewHours" minimum:"2" maximum:"336"`
	ReminderHours    int    `json:"reminderHours" minimum:"2" maximum:"336"`
	ShortHours       int    `json:"shortHours" minimum:"1" maximum:"24"`
	NextDayAt        string `json:"nextDayAt" maxLength:"5"`
	// The finder's points.
	DiaryPoints
}

// DiaryPoints are what the finder counts, in whole points.
type DiaryPoints struct {
	PointsStart   int `json:"pointsStart" minimum:"0" maximum:"1000"`
	PointsChange  int `json:"pointsChange" minimum:"0" maximum:"1000"`
	PointsPrefer  int `json:"pointsPrefer" minimum:"0" maximum:"1000"`
	PointsWeekday int `json:"pointsWeekday" minimum:"0" maximum:"1000"`
	PointsTime    int `json:"pointsTime" minimum:"0" maximum:"1000"`
	PointsRather  int `json:"pointsRather" minimum:"0" maximum:"1000"`
	PointsLate    int `json:"pointsLate" minimum:"0" maximum:"1000"`
	PointsSliver  int `json:"pointsSliver" minimum:"0" maximum:"1000"`
}

// UsualDiaryRules are those of the handbook (chapter 6), with which a studio begins.
func UsualDiaryRules() DiaryRules {
	return DiaryRules{
		FreeHours: 24, HoldMinutes: 10, LinkHoldMinutes: 30, MostHolds: 2, LateFrom: "18:00", DepositAfter: 2, Missed: MissedFirstBack,
		QuietFrom: "20:30", QuietTo: "08:00", PrepareDays: 7, AnythingNewHours: 72, ReminderHours: 48, ShortHours: 3, NextDayAt: "10:00",
		DiaryPoints: DiaryPoints{2, 10, 6, 5, 1, 6, 2, 1},
	}
}

// Check returns what is wrong with the rules.
func (r *DiaryRules) Check() error {
	for _, f := range []struct{ path, text string }{
		{"/lateFrom", r.LateFrom}, {"/quietFrom", r.QuietFrom}, {"/quietTo", r.QuietTo}, {"/nextDayAt", r.NextDayAt},
	} {
		if _, ok := minuteOfDay(f.text); !ok {
			return FaultAt(f.path, words.EnterATimeLikeHalfPastEight())
		}
	}
	t := r.timing()
	if t.QuietFrom <= t.QuietTo {
		return FaultAt("/quietFrom", words.TheQuietHoursBeginInTheEvening())
	}
	if t.NextDayAt < t.QuietTo || t.NextDayAt >= t.QuietFrom {
		return FaultAt("/nextDayAt", words.ThisLiesInTheQuietHours())
	}
	return nil
}

func minuteOfDay(text string) (int, bool) {
	t, err := time.Parse("15:04", text)
	return t.Hour()*60 + t.Minute(), err == nil
}

func (r *DiaryRules) timing() messages.Timing {
	t := messages.Usual()
	t.QuietFrom, _ = minuteOfDay(r.QuietFrom)
	t.QuietTo, _ = minuteOfDay(r.QuietTo)
	t.NextDayAt, _ = minuteOfDay(r.NextDayAt)
	t.PrepareDays, t.AnythingNewHours, t.ReminderHours, t.ShortHours = r.PrepareDays, r.AnythingNewHours, r.ReminderHours, r.ShortHours
	return t
}

// Timing is when the studio's messages are due.
func (s *Studio) Timing() messages.Timing { return s.Diary.timing() }

// FreeUntil is until when cancelling or moving a visit is free.
func (s *Studio) FreeUntil(v *Visit) time.Time {
	return v.StartsAt.Add(-time.Duration(s.Diary.FreeHours) * time.Hour)
}

// Hold is how long the desk holds a series; HoldByLink how long one waits for a client's answer.
func (s *Studio) Hold() time.Duration { return time.Duration(s.Diary.HoldMinutes) * time.Minute }

// HoldByLink is how long a series waits for the answer of a client by link.
func (s *Studio) HoldByLink() time.Duration {
	return time.Duration(s.Diary.LinkHoldMinutes) * time.Minute
}

// Weights are the points as the finder takes them.
func (p *DiaryPoints) Weights() *series.Weights {
	return &series.Weights{
		Start: &p.PointsStart, Change: &p.PointsChange, Prefer: &p.PointsPrefer, Weekday: &p.PointsWeekday, Time: &p.PointsTime,
		Rather: &p.PointsRather, Late: &p.PointsLate, Sliver: &p.PointsSliver,
	}
}
