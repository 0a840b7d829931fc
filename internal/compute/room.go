package compute

import (
	"softpalm/internal/craft/fitting"
	"softpalm/internal/craft/guide"
	"softpalm/internal/craft/measuring"
	"softpalm/internal/craft/pace"
	"softpalm/internal/craft/reaction"
	"softpalm/internal/craft/suggestion"
)

// roomTopics are those of the room and its records (handbook, chapter 7).
var roomTopics = map[string]topic{
	"measuring":         of((*measuring.Readings).Judge),
	"wilson":            of((*measuring.Counted).Share),
	"pace":              of((*pace.Treatments).Learn),
	"pace-ratios":       of((*pace.Ratios).Estimate),
	"slip-observations": of((*guide.Slippings).Observe),
	"lateness":          of(simple(func(p guide.Place) guide.Lateness { return p.Lateness() })),
	"refit":             of((*fitting.Remainder).Refit),
	"event-merge":       of(simple(func(l guide.Log) guide.State { return l.Merge() })),
	"follow-up":         of((*reaction.Noticed).FollowUps),
	"blocking":          of((*reaction.Reacted).Blocking),
	"suggestions":       of((*suggestion.Past).Suggest),
}
