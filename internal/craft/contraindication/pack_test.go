package contraindication_test

import (
	"math/rand/v2"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/crafttest"
)

// ruleCase is a client with a single finding, as chapter 5 of the handbook tells
// of it, and what follows. Ago is the days since the day answered, ahead the days
// to a due date, age the client's in years (0 is 40, -1 not known). Want is the
// headline, the kinds of outcome that apply, in the order of their severity, and
// the days still to wait.
type ruleCase struct {
	rule  string
	ago   int
	ahead int
	age   int
	want  contraindication.Headline
	kinds string
	wait  int
	// grades and option are what a rule that is graded, or a wish, is answered with.
	grades map[string]int
	option string
}

const (
	goes    = contraindication.OKToTreat
	changed = contraindication.OKWithAdjustments
	letter  = contraindication.NeedsLetter
	later   = contraindication.NotBefore
	nothere = contraindication.DoNotTreat
	urgent  = contraindication.UrgentHelp
)

// Every rule of chapter 5 of the handbook (common practice where it names no
// source), each waiting time on its last day, and the day it is over.
var ruleCases = []ruleCase{
	// urgent: seek medical help
	{rule: "temple-pain-sight", age: 50, want: urgent, kinds: "urgent"},
	{rule: "temple-pain-sight", age: 49, want: nothere, kinds: "stop"},
	{rule: "temple-pain-sight", age: -1, want: urgent, kinds: "urgent"},
	{rule: "pregnancy-headache", want: urgent, kinds: "urgent"},
	{rule: "sudden-droop", want: urgent, kinds: "urgent"},
	{rule: "swollen-throat", want: urgent, kinds: "urgent"},
	{rule: "filler-blanching", want: urgent, kinds: "urgent"},
	// not here, or refer first
	{rule: "fever", ago: 0, want: later, kinds: "wait", wait: 2},
	{rule: "fever", ago: 1, want: later, kinds: "wait", wait: 1},
	{rule: "fever", ago: 2, want: goes},
	{rule: "vaccination-fever", ago: 1, want: later, kinds: "wait", wait: 1},
	{rule: "vaccination-fever", ago: 2, want: goes},
	{rule: "plain-cold", want: nothere, kinds: "stop"},
	{rule: "hay-fever", want: changed, kinds: "cap mind"},
	{rule: "cold-sore", want: nothere, kinds: "stop"},
	{rule: "new-lump", want: nothere, kinds: "stop"},
	{rule: "intoxicated", want: later, kinds: "wait", wait: 1},
	{rule: "autoimmune-flare", want: letter, kinds: "letter"},
	{rule: "numb-today", want: changed, kinds: "leave-out"},
	{rule: "tooth-abscess", want: nothere, kinds: "stop"},
	{rule: "jaw-lock", want: letter, kinds: "letter"},
	{rule: "cancer", want: letter, kinds: "letter exclude"},
	{rule: "nodes-removed", want: letter, kinds: "letter leave-out exclude"},
	{rule: "clot-heart-kidney", want: letter, kinds: "letter exclude"},
	{rule: "carotid", want: changed, kinds: "leave-out"}, // neck drainage only with a letter
	{rule: "surgery", ago: 41, want: later, kinds: "wait letter", wait: 1},
	{rule: "surgery", ago: 42, want: letter, kinds: "letter"},
	{rule: "surgery", ago: 43, want: letter, kinds: "letter"},
	{rule: "epilepsy-asthma", want: letter, kinds: "letter exclude"},
	{rule: "port", want: changed, kinds: "leave-out exclude"},
	{rule: "shunt", want: letter, kinds: "letter exclude"},
	{rule: "metal-plate", want: changed, kinds: "exclude"},
	// waiting times
	{rule: "relaxing-injection", ago: 2, want: later, kinds: "wait leave-out", wait: 1},
	{rule: "relaxing-injection", ago: 3, want: changed, kinds: "leave-out"},
	{rule: "relaxing-injection", ago: 13, want: changed, kinds: "leave-out"},
	{rule: "relaxing-injection", ago: 14, want: goes},
	{rule: "filler", ago: 0, want: changed, kinds: "leave-out"},
	{rule: "filler", ago: 27, want: changed, kinds: "leave-out"},
	{rule: "filler", ago: 28, want: goes},
	{rule: "fat-dissolving", ago: 27, want: changed, kinds: "leave-out"},
	{rule: "fat-dissolving", ago: 28, want: goes},
	{rule: "skin-booster", ago: 13, want: changed, kinds: "leave-out"},
	{rule: "skin-booster", ago: 14, want: goes},
	{rule: "collagen-stimulator", ago: 27, want: changed, kinds: "leave-out"},
	{rule: "collagen-stimulator", ago: 28, want: goes},
	{rule: "threads", ago: 41, want: later, kinds: "wait", wait: 1},
	{rule: "threads", ago: 42, want: goes},
	{rule: "deep-threads", ago: 89, want: later, kinds: "wait", wait: 1},
	{rule: "deep-threads", ago: 90, want: goes},
	{rule: "tightening-device", ago: 13, want: changed, kinds: "leave-out"},
	{rule: "tightening-device", ago: 14, want: goes},
	{rule: "laser", ago: 13, want: changed, kinds: "leave-out"},
	{rule: "laser", ago: 14, want: goes},
	{rule: "ablative-laser", ago: 41, want: later, kinds: "wait letter", wait: 1},
	{rule: "ablative-laser", ago: 42, want: letter, kinds: "letter"},
	{rule: "medium-peel", ago: 13, want: later, kinds: "wait", wait: 1},
	{rule: "medium-peel", ago: 14, want: goes},
	{rule: "peel", ago: 6, want: later, kinds: "wait", wait: 1},
	{rule: "peel", ago: 7, want: goes},
	{rule: "microneedling", ago: 6, want: later, kinds: "wait", wait: 1},
	{rule: "microneedling", ago: 7, want: goes},
	{rule: "waxing", ago: 1, want: changed, kinds: "leave-out"},
	{rule: "waxing", ago: 2, want: goes},
	{rule: "sunburn", ago: 6, want: later, kinds: "wait", wait: 1},
	{rule: "sunburn", ago: 7, want: goes},
	{rule: "tattooed-brows", ago: 27, want: changed, kinds: "leave-out"},
	{rule: "tattooed-brows", ago: 28, want: goes},
	{rule: "piercing", ago: 41, want: changed, kinds: "leave-out"},
	{rule: "piercing", ago: 42, want: goes},
	{rule: "isotretinoin", ago: 0, want: changed, kinds: "cap exclude"},
	{rule: "isotretinoin", ago: 179, want: changed, kinds: "cap exclude"},
	{rule: "isotretinoin", ago: 180, want: goes},
	{rule: "retinoid-prescription", ago: 6, want: changed, kinds: "exclude"},
	{rule: "retinoid-prescription", ago: 7, want: goes},
	{rule: "retinoid-cosmetic", ago: 2, want: changed, kinds: "exclude"},
	{rule: "retinoid-cosmetic", ago: 3, want: goes},
	{rule: "dental", ago: 2, want: changed, kinds: "leave-out"},
	{rule: "dental", ago: 3, want: goes},
	{rule: "extraction", ago: 13, want: changed, kinds: "leave-out"},
	{rule: "extraction", ago: 14, want: goes},
	// change the plan
	{rule: "pregnancy", ahead: 280 - 14*7 + 1, want: letter, kinds: "letter cap exclude mind"}, // 13 weeks and 6 days
	{rule: "pregnancy", ahead: 280 - 14*7, want: changed, kinds: "cap exclude mind"},
	{rule: "pregnancy", ahead: 280 - 20*7 + 1, want: changed, kinds: "cap exclude mind"},
	{rule: "pregnancy", ahead: 280 - 20*7, want: changed, kinds: "cap exclude mind mind"},
	{rule: "pregnancy", ahead: -21, want: changed, kinds: "cap exclude mind mind"},
	{rule: "pregnancy", ahead: -22, want: goes},
	{rule: "nursing", want: goes, kinds: "mind"},
	{rule: "sore-skin", want: changed, kinds: "leave-out"},
	{rule: "widespread-rash", want: later, kinds: "wait", wait: 1},
	{rule: "keloid", want: changed, kinds: "cap exclude"},
	{rule: "facial-palsy", want: letter, kinds: "letter cap"},
	{rule: "trigeminal", want: changed, kinds: "leave-out"},
	{rule: "acne-inflamed", want: changed, kinds: "leave-out exclude"},
	{rule: "cystic-acne", want: letter, kinds: "letter"},
	{rule: "rosacea", want: changed, kinds: "cap exclude mind"},
	{rule: "thyroid", want: changed, kinds: "leave-out"},
	{rule: "high-pressure-treated", want: changed, kinds: "cap mind"},
	{rule: "high-pressure-untreated", want: letter, kinds: "letter"},
	{rule: "blood-thinners", want: changed, kinds: "cap exclude"},
	{rule: "diabetes", want: changed, kinds: "exclude mind"},
	{rule: "known-glands", want: changed, kinds: "leave-out exclude"},
	{rule: "jaw-joint", want: changed, kinds: "cap exclude mind"},
	{rule: "mouth-trouble", want: changed, kinds: "leave-out"},
	{rule: "cold-urticaria", want: changed, kinds: "exclude"},
	{rule: "migraine", want: changed, kinds: "exclude mind"},
	{rule: "glaucoma", want: changed, kinds: "leave-out cap"},
	{rule: "sensitive", want: changed, kinds: "cap exclude mind"},
	{rule: "nut-allergy", want: changed, kinds: "exclude"},
	{rule: "bee-allergy", want: changed, kinds: "exclude"},
	{rule: "fragrance-allergy", want: changed, kinds: "exclude"},
	{rule: "lanolin-allergy", want: changed, kinds: "exclude"},
	{rule: "nickel-allergy", want: changed, kinds: "exclude mind"},
	{rule: "latex-allergy", want: changed, kinds: "exclude mind"},
	{rule: "lash-extensions", want: changed, kinds: "leave-out exclude mind"},
	{rule: "beard", want: changed, kinds: "exclude mind"},
	{rule: "lenses", want: goes, kinds: "mind"},
	{rule: "hearing-aid", want: goes, kinds: "mind"},
	{rule: "claustrophobia", want: changed, kinds: "exclude mind"},
	{rule: "dentures", want: goes, kinds: "mind"},
	{rule: "jewellery", want: goes, kinds: "mind"},
	// grades of the day and wishes
	{rule: "puffiness", grades: map[string]int{"left-eye": 1, "right-eye": 1}, want: goes},
	{rule: "puffiness", grades: map[string]int{"left-eye": 2, "right-eye": 1}, want: goes, kinds: "mind"},
	{rule: "puffiness", grades: map[string]int{"right-jaw": 2}, want: goes, kinds: "mind mind"},
	{rule: "puffiness", grades: map[string]int{"left-eye": 4, "right-eye": 4}, want: goes, kinds: "mind"},
	{rule: "redness", grades: map[string]int{"face": 1}, want: goes},
	{rule: "redness", grades: map[string]int{"face": 2}, want: changed, kinds: "cap exclude"},
	{rule: "redness", grades: map[string]int{"face": 3}, want: changed, kinds: "cap exclude"},
	{rule: "redness", grades: map[string]int{"face": 4}, want: later, kinds: "wait cap exclude", wait: 1},
	{rule: "pressure-wish", want: goes},
	{rule: "pressure-wish", option: "lighter", want: changed, kinds: "lighter"},
	{rule: "pressure-wish", option: "firmer", want: changed, kinds: "firmer"},
	{rule: "oil-wish", want: goes},
	{rule: "oil-wish", option: "no oil", want: changed, kinds: "exclude"},
	{rule: "event-soon", want: changed, kinds: "cap exclude mind"},
	{rule: "minor", age: 15, want: changed, kinds: "leave-out exclude mind mind"},
	{rule: "minor", age: 16, want: changed, kinds: "leave-out exclude mind"},
	{rule: "minor", age: 17, want: changed, kinds: "leave-out exclude mind"},
	{rule: "minor", age: 18, want: goes},
	{rule: "minor", age: -1, want: goes},
}

func TestEveryRuleOfThePack(t *testing.T) {
	pack := contraindication.Trade()
	tested := map[string]bool{}
	for _, c := range ruleCases {
		tested[c.rule] = true
		day := crafttest.Today.Plus(-c.ago)
		if c.rule == "pregnancy" {
			day = crafttest.Today.Plus(c.ahead)
		}
		who := contraindication.ClientProfile{Born: "1986-11-24"}
		if c.age > 0 { // has the birthday today: the first day of that age
			who.Born = calendar.Day(yearsBefore(string(crafttest.Today), c.age))
		} else if c.age < 0 {
			who.Born = ""
		}
		answers := map[string]contraindication.Answer{}
		if c.rule != "minor" {
			a := crafttest.Yes(day, contraindication.ZoneSide{Zone: "cheekbone", Side: "left"})
			a.Grades, a.Option = c.grades, c.option
			answers[c.rule] = a
		}
		got := pack.Evaluate(answers, who, crafttest.Today)
		var kinds []string
		for _, o := range got.Outcomes {
			kinds = append(kinds, string(o.Kind))
			assert.Equal(t, c.rule, o.Rule)
		}
		assert.Equal(t, c.want, got.Headline, "%+v", c)
		assert.Equal(t, c.kinds, strings.Join(kinds, " "), "%+v", c)
		want := calendar.Day("")
		if c.wait > 0 {
			want = crafttest.Today.Plus(c.wait)
		}
		assert.Equal(t, want, got.NotBefore, "%+v", c)
	}
	for _, r := range pack.Rules {
		assert.True(t, tested[r.ID], "%s has no case", r.ID)
	}
}

func yearsBefore(day string, n int) string {
	y, _ := strconv.Atoi(day[:4]) // today is a valid day
	return strconv.Itoa(y-n) + day[4:]
}

// Ages by the calendar: the day before a birthday is a year younger; a birthday
// on 29 February comes on 1 March where there is no 29th (common practice).
func TestAge(t *testing.T) {
	for _, c := range []struct {
		born, day calendar.Day
		want      int
	}{
		{"2010-11-25", "2026-11-24", 15}, {"2010-11-24", "2026-11-24", 16},
		{"2008-02-29", "2026-02-28", 17}, {"2008-02-29", "2026-03-01", 18}, {"2008-02-29", "2028-02-29", 20},
		{"", "2026-11-24", -1},
	} {
		who := contraindication.ClientProfile{Born: c.born}
		assert.Equal(t, c.want, who.Age(c.day), "%s on %s", c.born, c.day)
	}
}

// A doctor's written yes lifts the letter through its last day, and nothing
// else: what the rule leaves out stays out (handbook, chapter 5).
func TestALetterIsAnswered(t *testing.T) {
	pack := contraindication.Trade()
	answers := map[string]contraindication.Answer{"clot-heart-kidney": crafttest.Yes(""), "cold-sore": {}}
	who := contraindication.ClientProfile{Letters: []contraindication.LetterConsent{{Rule: "clot-heart-kidney", Until: crafttest.Today}}}
	got := pack.Evaluate(answers, who, crafttest.Today)
	assert.Equal(t, contraindication.OKWithAdjustments, got.Headline)
	require.Len(t, got.Outcomes, 2)
	assert.Equal(t, []string{"drain", "open"}, got.Outcomes[0].Outcome.Intents)
	assert.True(t, got.Outcomes[1].Allowed)
	assert.Equal(t, contraindication.NeedsLetter, pack.Evaluate(answers, who, crafttest.Today.Plus(1)).Headline)
	neck := map[string]contraindication.Answer{"carotid": crafttest.Yes("")}
	assert.Len(t, contraindication.Merge(pack.Evaluate(neck, who, crafttest.Today).Outcomes).Excluded(), 4, "the neck, without a letter")
	who.Letters[0].Rule = "carotid"
	got = pack.Evaluate(neck, who, crafttest.Today)
	assert.Equal(t, contraindication.OKToTreat, got.Headline)
	assert.True(t, got.Outcomes[0].Allowed)
	assert.Empty(t, contraindication.Merge(got.Outcomes).Excluded(), "with one the neck is worked")
	who.Letters[0].Rule = "cancer"
	assert.Equal(t, contraindication.NeedsLetter, pack.Evaluate(answers, who, crafttest.Today).Headline)
}

// The neighbours of an injected place rest with it; the filler's do not; a port
// leaves out its own side only (handbook, chapter 5).
func TestPlacesOfAnAnswer(t *testing.T) {
	pack := contraindication.Trade()
	at := func(rule string) []anatomy.ZoneSide {
		a := map[string]contraindication.Answer{rule: crafttest.Yes(crafttest.Today.Plus(-5), contraindication.ZoneSide{Zone: "brow", Side: "left"})}
		return contraindication.Merge(pack.Evaluate(a, contraindication.ClientProfile{}, crafttest.Today).Outcomes).Excluded()
	}
	brow, _ := anatomy.Lookup("brow")
	hollow, _ := anatomy.Lookup("collarbone-hollow")
	assert.Equal(t, []anatomy.ZoneSide{{Zone: brow, Side: anatomy.Left}}, at("filler"))
	near := at("relaxing-injection")
	assert.Contains(t, near, anatomy.ZoneSide{Zone: brow, Side: anatomy.Left})
	assert.Greater(t, len(near), 1)
	for _, p := range near {
		assert.NotEqual(t, anatomy.Right, p.Side)
		assert.LessOrEqual(t, anatomy.Distance(p.At(), anatomy.ZoneSide{Zone: brow, Side: anatomy.Left}.At()), anatomy.NeighbourCM)
	}
	port := at("port")
	assert.Contains(t, port, anatomy.ZoneSide{Zone: hollow, Side: anatomy.Left})
	assert.NotContains(t, port, anatomy.ZoneSide{Zone: hollow, Side: anatomy.Right})
}

// What the door asks is asked every visit, what the consultation asks is not.
func TestStages(t *testing.T) {
	pack := contraindication.Trade()
	door, home := pack.RulesAt(contraindication.PreTreatment), pack.RulesAt(contraindication.Consultation)
	both := 0
	for _, r := range pack.Rules {
		if r.Stage == contraindication.Both {
			both++
		}
	}
	assert.Len(t, pack.Rules, len(door)+len(home)-both+1) // the age asks nothing
	none := map[string]contraindication.Answer{}
	assert.Len(t, pack.Check(none, crafttest.Today, contraindication.PreTreatment), len(door))
	assert.Len(t, pack.Check(none, crafttest.Today, contraindication.Consultation), len(home))
	due := map[string]contraindication.Answer{"pregnancy": crafttest.Yes(crafttest.Today.Plus(281))}
	msgs := pack.Check(due, crafttest.Today, contraindication.Consultation)
	assert.Condition(t, func() bool {
		for _, m := range msgs {
			if m.Path == "/answers/pregnancy/day" {
				return true
			}
		}
		return false
	})
}

// A studio may lengthen a wait; less than the trade's needs a written reason; the
// shipped pack stays as it is (handbook, chapter 5).
func TestAmendments(t *testing.T) {
	pack := contraindication.Trade()
	assert.Empty(t, pack.CheckAmendment(contraindication.Amendment{Rule: "peel", Days: 10}))
	assert.Equal(t, "/reason", pack.CheckAmendment(contraindication.Amendment{Rule: "peel", Days: 6, Reason: "shorter"})[0].Path)
	assert.Empty(t, pack.CheckAmendment(contraindication.Amendment{Rule: "peel", Days: 6, Reason: "The peel we use is very mild."}))
	assert.Equal(t, "/days", pack.CheckAmendment(contraindication.Amendment{Rule: "peel", Days: 0})[0].Path)
	assert.Equal(t, "/rule", pack.CheckAmendment(contraindication.Amendment{Rule: "cold-sore", Days: 9})[0].Path)

	own := pack.WithWaitingPeriods([]contraindication.Amendment{{Rule: "peel", Days: 10}, {Rule: "relaxing-injection", Days: 21}})
	judge := func(p *contraindication.Pack, rule string, ago int) contraindication.Headline {
		return p.Evaluate(map[string]contraindication.Answer{rule: crafttest.Yes(crafttest.Today.Plus(-ago), contraindication.ZoneSide{Zone: "brow", Side: "left"})}, contraindication.ClientProfile{}, crafttest.Today).Headline
	}
	assert.Equal(t, contraindication.NotBefore, judge(own, "peel", 9))
	assert.Equal(t, contraindication.OKToTreat, judge(own, "peel", 10))
	assert.Equal(t, contraindication.OKToTreat, judge(pack, "peel", 7), "the shipped pack is untouched")
	assert.Equal(t, contraindication.NotBefore, judge(own, "relaxing-injection", 2), "the shorter wait of the rule stays")
	assert.Equal(t, contraindication.OKWithAdjustments, judge(own, "relaxing-injection", 20))
	assert.Equal(t, contraindication.OKToTreat, judge(own, "relaxing-injection", 21))
	assert.NotEqual(t, pack.Version, own.Version)
	assert.NotEmpty(t, own.Lists)
	assert.Equal(t, pack.Lists, own.Lists, "what is ticked off on one list still is")
}

// Whatever a client tells, the strictest single finding is the headline, the
// latest wait the first day, and nothing that one finding asks is lost beside
// others (handbook, chapter 5: zones together, the lowest cap, the latest date).
func TestCombinationsKeepTheStrictest(t *testing.T) {
	pack := contraindication.Trade()
	order := []contraindication.Headline{goes, changed, letter, later, nothere, urgent}
	rnd := rand.New(rand.NewPCG(5, 24))
	for range 400 {
		// Of age: the rule for minors would join every answer; the cases above hold it.
		answers, who := map[string]contraindication.Answer{}, contraindication.ClientProfile{Born: calendar.Day(yearsBefore(string(crafttest.Today), 18+rnd.IntN(60)))}
		for _, r := range pack.Rules {
			if r.AnswerType != contraindication.Nothing && rnd.IntN(12) == 0 {
				day := crafttest.Today.Plus(-rnd.IntN(60))
				if r.AnswerType == contraindication.DueDate {
					day = crafttest.Today.Plus(rnd.IntN(280))
				}
				answers[r.ID] = crafttest.Yes(day, contraindication.ZoneSide{Zone: []string{"chin", "cheekbone", "temple"}[rnd.IntN(3)], Side: []string{"left", "right", "both"}[rnd.IntN(3)]})
			}
		}
		all := pack.Evaluate(answers, who, crafttest.Today)
		strictest, latest, count := 0, calendar.Day(""), 0
		excluded := map[anatomy.ZoneSide]bool{}
		for _, p := range contraindication.Merge(all.Outcomes).Excluded() {
			excluded[p] = true
		}
		single := func(id string, a map[string]contraindication.Answer) {
			one := pack.Evaluate(a, who, crafttest.Today)
			strictest = max(strictest, slices.Index(order, one.Headline))
			latest = max(latest, one.NotBefore)
			count += len(one.Outcomes)
			for _, p := range contraindication.Merge(one.Outcomes).Excluded() {
				assert.True(t, excluded[p], "%s leaves out %v, all together do not", id, p)
			}
		}
		for id, a := range answers {
			single(id, map[string]contraindication.Answer{id: a})
		}
		assert.Equal(t, order[strictest], all.Headline)
		assert.Equal(t, latest, all.NotBefore)
		assert.Len(t, all.Outcomes, count)
		assert.Equal(t, pack.Evaluate(answers, who, crafttest.Today), all, "the same answers give the same result")
	}
}

// What a studio may decide on: a plain cold with a gentle plan, and no letter in
// the first third of a pregnancy (handbook, chapter 5: studio policy); everything
// else stays, and so does the shipped pack.
func TestPolicies(t *testing.T) {
	pack := contraindication.Trade()
	own := pack.WithPolicies([]string{"plain-cold", "pregnancy"})
	cold := map[string]contraindication.Answer{"plain-cold": crafttest.Yes("")}
	early := map[string]contraindication.Answer{"pregnancy": crafttest.Yes(crafttest.Today.Plus(280 - 7*8))}
	assert.Equal(t, nothere, pack.Evaluate(cold, contraindication.ClientProfile{}, crafttest.Today).Headline)
	assert.Equal(t, changed, own.Evaluate(cold, contraindication.ClientProfile{}, crafttest.Today).Headline)
	assert.Equal(t, letter, pack.Evaluate(early, contraindication.ClientProfile{}, crafttest.Today).Headline)
	got := own.Evaluate(early, contraindication.ClientProfile{}, crafttest.Today)
	assert.Equal(t, changed, got.Headline)
	shoulders := contraindication.Merge(got.Outcomes)
	assert.NotNil(t, shoulders)
	assert.Contains(t, func() (kinds []contraindication.Kind) {
		for _, o := range got.Outcomes {
			kinds = append(kinds, o.Kind)
		}
		return kinds
	}(), contraindication.Cap, "the shoulders stay at most light")
	assert.Same(t, pack, pack.WithPolicies(nil))
	assert.Empty(t, contraindication.PolicyOutcomes([]string{"plain-cold"}))
	mouth := contraindication.PolicyOutcomes([]string{contraindication.NoMouth})
	assert.Len(t, contraindication.Merge(mouth).Excluded(), 6)
	assert.False(t, contraindication.MayOverride(mouth, contraindication.NoMouth))
}

// A rule of the studio's own is checked like any other, and what asks for less
// than before is known: fewer days, fewer places, a higher cap, a milder kind, a
// smaller group of clients.
func TestOwnRules(t *testing.T) {
	rule := func(o ...contraindication.Outcome) *contraindication.Rule {
		return &contraindication.Rule{ID: "own/x", Title: "X", Group: "Health", Stage: contraindication.PreTreatment, Question: "X?", AnswerType: contraindication.DateAndZones, Outcomes: o, Why: "w", Basis: "own"}
	}
	wait := contraindication.Outcome{Kind: contraindication.Wait, Days: 7}
	assert.Empty(t, contraindication.CheckOwn(rule(wait)))
	foreign := rule(wait)
	foreign.ID = "peel"
	assert.NotEmpty(t, contraindication.CheckOwn(foreign), "it may not take a shipped rule's place")
	assert.NotEmpty(t, contraindication.CheckOwn(rule()))
	assert.NotEmpty(t, contraindication.CheckOwn(rule(contraindication.Outcome{Kind: contraindication.Wait})))
	with := contraindication.Trade().WithRules([]contraindication.Rule{*rule(wait)})
	res := with.Evaluate(map[string]contraindication.Answer{"own/x": crafttest.Yes(crafttest.Today.Plus(-6))}, contraindication.ClientProfile{}, crafttest.Today)
	assert.Equal(t, crafttest.Today.Plus(1), res.NotBefore)

	cap2 := contraindication.Outcome{Kind: contraindication.Cap, Pressure: 2, Zones: []string{"chin", "jawline"}}
	without := contraindication.Outcome{Kind: contraindication.Exclude, Families: []string{"friction"}, Tools: []string{"cup"}}
	for name, c := range map[string]struct {
		was, now contraindication.Outcome
		less     bool
	}{
		"the same":              {wait, wait, false},
		"more days":             {wait, contraindication.Outcome{Kind: contraindication.Wait, Days: 8}, false},
		"fewer days":            {wait, contraindication.Outcome{Kind: contraindication.Wait, Days: 6}, true},
		"never instead of days": {wait, contraindication.Outcome{Kind: contraindication.Stop}, false},
		"days instead of never": {contraindication.Outcome{Kind: contraindication.Stop}, wait, true},
		"a lower cap":           {cap2, contraindication.Outcome{Kind: contraindication.Cap, Pressure: 1, Zones: cap2.Zones}, false},
		"a higher cap":          {cap2, contraindication.Outcome{Kind: contraindication.Cap, Pressure: 3, Zones: cap2.Zones}, true},
		"a cap everywhere":      {cap2, contraindication.Outcome{Kind: contraindication.Cap, Pressure: 2}, false},
		"a cap on fewer places": {cap2, contraindication.Outcome{Kind: contraindication.Cap, Pressure: 2, Zones: []string{"chin"}}, true},
		"a tool less":           {without, contraindication.Outcome{Kind: contraindication.Exclude, Families: []string{"friction"}}, true},
		"a family more":         {without, contraindication.Outcome{Kind: contraindication.Exclude, Families: []string{"friction", "tapotement"}, Tools: []string{"cup"}}, false},
		"only for the old":      {cap2, contraindication.Outcome{Kind: contraindication.Cap, Pressure: 2, Zones: cap2.Zones, FromAge: 60}, true},
		"for a while only":      {cap2, contraindication.Outcome{Kind: contraindication.Cap, Pressure: 2, Zones: cap2.Zones, Days: 30}, true},
		"no neighbours":         {contraindication.Outcome{Kind: contraindication.LeaveOut, FromAnswer: true, Neighbours: true}, contraindication.Outcome{Kind: contraindication.LeaveOut, FromAnswer: true}, true},
		"keep in mind only":     {wait, contraindication.Outcome{Kind: contraindication.Precaution, Instruction: "careful"}, true},
	} {
		assert.Equal(t, c.less, contraindication.Loosens(rule(c.was), rule(c.now)), name)
	}
	assert.False(t, contraindication.Loosens(rule(cap2), rule(wait, cap2)), "one more outcome")
	assert.True(t, contraindication.Loosens(rule(wait, cap2), rule(wait)), "one less")
	assert.True(t, contraindication.Loosens(rule(wait), nil), "gone")
}
