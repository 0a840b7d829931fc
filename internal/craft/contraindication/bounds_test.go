package contraindication

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/slip"
	"softpalm/words"
)

// A studio may make a rule stricter without a word; each way of asking for less is one for
// which a reason is given (the project's handbook, chapter 5).
func TestEveryWayOfLoosening(t *testing.T) {
	strict := func() Outcome {
		return Outcome{Kind: Exclude, Days: 10, FromAge: 3, UnderAge: 60, FromWeek: 4, BeforeWeek: 30, FromGrade: 2, Uneven: 2,
			Zones: []string{"chin"}, Families: []string{"friction"}, Intents: []string{"lift"}, Tools: []string{"cup"}, Tags: []string{"acid"}, Forms: []string{"oil"}, Products: []string{"p"}}
	}
	for name, c := range map[string]struct {
		change func(*Outcome)
		looser bool
	}{
		"the same":              {func(*Outcome) {}, false},
		"a day longer":          {func(o *Outcome) { o.Days = 11 }, false},
		"a day shorter":         {func(o *Outcome) { o.Days = 9 }, true},
		"for ever":              {func(o *Outcome) { o.Days = 0 }, false},
		"from a younger age":    {func(o *Outcome) { o.FromAge = 2 }, false},
		"from an older age":     {func(o *Outcome) { o.FromAge = 4 }, true},
		"to an older age":       {func(o *Outcome) { o.UnderAge = 61 }, false},
		"to a younger age":      {func(o *Outcome) { o.UnderAge = 59 }, true},
		"at any age from there": {func(o *Outcome) { o.UnderAge = 0 }, false},
		"from an earlier week":  {func(o *Outcome) { o.FromWeek = 3 }, false},
		"from a later week":     {func(o *Outcome) { o.FromWeek = 5 }, true},
		"to a later week":       {func(o *Outcome) { o.BeforeWeek = 31 }, false},
		"to an earlier week":    {func(o *Outcome) { o.BeforeWeek = 29 }, true},
		"to the last week":      {func(o *Outcome) { o.BeforeWeek = 0 }, false},
		"from a lower grade":    {func(o *Outcome) { o.FromGrade = 1 }, false},
		"from a higher grade":   {func(o *Outcome) { o.FromGrade = 3 }, true},
		"less uneven":           {func(o *Outcome) { o.Uneven = 1 }, false},
		"more uneven":           {func(o *Outcome) { o.Uneven = 3 }, true},
		"another option":        {func(o *Outcome) { o.Option = "cold" }, true},
		"another zone too":      {func(o *Outcome) { o.Zones = append(o.Zones, "temple") }, false},
		"another zone":          {func(o *Outcome) { o.Zones = []string{"temple"} }, true},
		"everywhere":            {func(o *Outcome) { o.Zones = nil }, false},
		"where the client says": {func(o *Outcome) { o.Zones, o.FromAnswer = nil, true }, true},
		"no family":             {func(o *Outcome) { o.Families = nil }, true},
		"no intent":             {func(o *Outcome) { o.Intents = nil }, true},
		"no tool":               {func(o *Outcome) { o.Tools = nil }, true},
		"no ingredient":         {func(o *Outcome) { o.Tags = nil }, true},
		"no form":               {func(o *Outcome) { o.Forms = nil }, true},
		"no product":            {func(o *Outcome) { o.Products = nil }, true},
		"another tool too":      {func(o *Outcome) { o.Tools = append(o.Tools, "stone") }, false},
		"until a letter":        {func(o *Outcome) { o.UntilLetter = true }, true},
		"only a word":           {func(o *Outcome) { o.Kind = Precaution }, true},
		"never":                 {func(o *Outcome) { *o = Outcome{Kind: Stop} }, false},
		"never, for some":       {func(o *Outcome) { *o = Outcome{Kind: Stop, FromAge: 1} }, true},
		"never, for a while":    {func(o *Outcome) { *o = Outcome{Kind: Stop, Days: 400} }, true},
		"an urgent sign":        {func(o *Outcome) { *o = Outcome{Kind: Urgent} }, false},
	} {
		now := strict()
		c.change(&now)
		assert.Equal(t, c.looser, Loosens(&Rule{Outcomes: []Outcome{strict()}}, &Rule{Outcomes: []Outcome{now}}), name)
	}
	limit := func(pressure int, zones ...string) *Rule {
		return &Rule{Outcomes: []Outcome{{Kind: Cap, Pressure: pressure, Zones: zones}}}
	}
	assert.False(t, Loosens(limit(2, "chin"), limit(2, "chin")))
	assert.False(t, Loosens(limit(2, "chin"), limit(1, "chin")))
	assert.True(t, Loosens(limit(2, "chin"), limit(3, "chin")))
	assert.True(t, Loosens(limit(2), limit(2, "chin")), "everywhere, and now in one place")
	assert.False(t, Loosens(limit(2, "chin"), limit(2)))
	near := func(n bool) *Rule {
		return &Rule{Outcomes: []Outcome{{Kind: LeaveOut, Zones: []string{"chin"}, Neighbours: n}}}
	}
	assert.True(t, Loosens(near(true), near(false)))
	assert.False(t, Loosens(near(false), near(true)))
	assert.True(t, Loosens(limit(2), nil))
	assert.True(t, Loosens(&Rule{Question: "a", AnswerType: "yes-no"}, &Rule{Question: "b", AnswerType: Date}))
	assert.False(t, Loosens(&Rule{Question: "a", AnswerType: "yes-no"}, &Rule{Question: "b", AnswerType: "yes-no"}), "said better")
	assert.False(t, Loosens(&Rule{Question: "a", AnswerType: "yes-no"}, &Rule{Question: "a", AnswerType: Date}), "asked more exactly")
}

// A rule that could change nothing of what a studio gives need not be asked.
func TestWhatARuleCouldChange(t *testing.T) {
	s := &Scope{families: map[string]bool{"friction": true}, intents: map[string]bool{"lift": true}, tools: map[string]bool{"cup": true}, forms: map[string]bool{"oil": true}, tags: map[string]bool{"acid": true},
		products: []*slip.Product{{Key: "p", Name: "P"}}}
	for i := range s.pressure {
		s.pressure[i] = -1
	}
	chin, ok := anatomy.Lookup("chin")
	require.True(t, ok)
	most := chin.Zone().Ceiling // a client who wishes a firmer hand gets no more
	s.pressure[chin.Index()] = most
	for name, c := range map[string]struct {
		o       Outcome
		matters bool
	}{
		"a family given": {Outcome{Kind: Exclude, Families: []string{"friction"}}, true}, "a family not given": {Outcome{Kind: Exclude, Families: []string{"kneading"}}, false},
		"an intent given": {Outcome{Kind: Exclude, Intents: []string{"lift"}}, true}, "an intent not given": {Outcome{Kind: Exclude, Intents: []string{"drain"}}, false},
		"a tool used": {Outcome{Kind: Exclude, Tools: []string{"cup"}}, true}, "a tool not used": {Outcome{Kind: Exclude, Tools: []string{"stone"}}, false},
		"a form on the shelf": {Outcome{Kind: Exclude, Forms: []string{"oil"}}, true}, "a form not there": {Outcome{Kind: Exclude, Forms: []string{"mask"}}, false},
		"an ingredient": {Outcome{Kind: Exclude, Tags: []string{"acid"}}, true}, "an ingredient not there": {Outcome{Kind: Exclude, Tags: []string{"latex"}}, false},
		"a product": {Outcome{Kind: Exclude, Products: []string{"p"}}, true}, "a product not there": {Outcome{Kind: Exclude, Products: []string{"q"}}, false},
		"less than is pressed there": {Outcome{Kind: Cap, Pressure: most - 1, Zones: []string{"chin"}}, true}, "as much as is pressed": {Outcome{Kind: Cap, Pressure: most, Zones: []string{"chin"}}, false},
		"a place not touched": {Outcome{Kind: Cap, Pressure: 0, Zones: []string{"temple"}}, false}, "less anywhere": {Outcome{Kind: Cap, Pressure: most - 1}, true}, "as much anywhere": {Outcome{Kind: Cap, Pressure: most}, false},
		"where the client says": {Outcome{Kind: Cap, Pressure: most - 1, FromAnswer: true, Zones: []string{"temple"}}, true},
		"a zone left out":       {Outcome{Kind: LeaveOut, Zones: []string{"chin"}}, true}, "another left out": {Outcome{Kind: LeaveOut, Zones: []string{"temple"}}, false},
		"left out where said": {Outcome{Kind: LeaveOut, FromAnswer: true}, true}, "left out there where said": {Outcome{Kind: LeaveOut, FromAnswer: true, Zones: []string{"temple"}}, false},
	} {
		assert.Equal(t, c.matters, c.o.Kind.effect().canMatter(s, &c.o), name)
	}
	s.pressure[chin.Index()] = 0
	assert.True(t, leaveOut{}.canMatter(s, &Outcome{Zones: []string{"chin"}}), "a touch without pressure is one")
	s.drained[chin.Index()], s.pressure[chin.Index()] = true, -1
	assert.True(t, leaveOut{}.canMatter(s, &Outcome{Zones: []string{"chin"}}), "what drains through it")
}

// Products and strokes: which may be used after all with a reason, and which rule is given
// as the reason where several say the same.
func TestReasonsOfConstraints(t *testing.T) {
	for name, c := range map[string]struct {
		o    Outcome
		want override
	}{
		"a family": {Outcome{Families: []string{"friction"}}, allows}, "an ingredient": {Outcome{Tags: []string{"acid"}}, refuses}, "a product": {Outcome{Products: []string{"p"}}, refuses},
		"both": {Outcome{Tags: []string{"acid"}, Products: []string{"p"}}, refuses}, "a form": {Outcome{Forms: []string{"oil"}}, allows},
	} {
		assert.Equal(t, c.want, exclude{}.override(&c.o), name)
	}
	for name, c := range map[string]struct {
		o     Outcome
		fault bool
	}{"nothing": {Outcome{}, true}, "a family": {Outcome{Families: []string{"x"}}, false}, "an intent": {Outcome{Intents: []string{"x"}}, false}, "a tool": {Outcome{Tools: []string{"x"}}, false}, "an ingredient": {Outcome{Tags: []string{"x"}}, false}, "a form": {Outcome{Forms: []string{"x"}}, false}, "a product": {Outcome{Products: []string{"x"}}, false},
		"a family and a tool": {Outcome{Families: []string{"x"}, Tools: []string{"y"}}, false}} {
		found := false
		exclude{}.faults(&c.o, nil, func(string, words.Sentence) { found = true })
		assert.Equal(t, c.fault, found, name)
	}
	of := func(list ...Contraindication) *Constraints { return Merge(list) }
	ex := func(rule string, o Outcome) Contraindication {
		return Contraindication{Rule: rule, Kind: Exclude, Outcome: o}
	}
	c := of(ex("first", Outcome{Forms: []string{"oil"}}), ex("second", Outcome{Forms: []string{"oil"}, Products: []string{"p"}, Tags: []string{"acid"}}), ex("third", Outcome{Products: []string{"p"}, Tags: []string{"acid"}}))
	assert.Equal(t, "first", c.ProductRule(&slip.Product{Key: "q", Form: slip.Oil}))
	assert.Equal(t, "second", c.ProductRule(&slip.Product{Key: "p", Form: slip.Oil}))
	assert.Equal(t, "second", c.ProductRule(&slip.Product{Key: "r", Form: slip.Mask, Tags: []string{"acid"}}))
	assert.Empty(t, c.ProductRule(&slip.Product{Key: "r", Form: slip.Mask}))
	assert.Empty(t, c.ProductRule(nil))
	c.ExcludeProduct("x", "", "y", "a")
	c.ExcludeProduct("x", "", "z", "b")
	assert.Equal(t, "a", c.ProductRule(&slip.Product{Key: "x"}))
	assert.Equal(t, "y", c.Preferred("x"))
	for name, o := range map[string]Outcome{"family": {Families: []string{"friction"}}, "intent": {Intents: []string{"lift"}}, "tool": {Tools: []string{"cup"}}} {
		assert.Len(t, of(ex("r", o)).exclusion, 1, name)
	}
	assert.Empty(t, of(ex("r", Outcome{Products: []string{"p"}})).exclusion)

	limit := func(rule string, pressure int, zones ...string) Contraindication {
		o := Contraindication{Rule: rule, Kind: Cap, Outcome: Outcome{Pressure: pressure}}
		for _, z := range zones {
			o.Places = append(o.Places, ZoneSide{Zone: z})
		}
		return o
	}
	c = of(limit("everywhere", 3), limit("chin", 2, "chin"), limit("later", 2, "chin"), limit("looser", 4, "chin"))
	chin, _ := anatomy.Lookup("chin")
	temple, _ := anatomy.Lookup("temple")
	for _, x := range []struct {
		id     anatomy.ID
		wanted int
		want   int
		rule   string
	}{{chin, 5, 2, "chin"}, {chin, 3, 2, "chin"}, {chin, 2, 2, ""}, {chin, 0, 0, ""}, {temple, 5, 3, "everywhere"}, {temple, 3, 3, ""}} {
		got, rule := c.Limit(x.id, x.wanted)
		assert.Equal(t, x.want, got, "%+v", x)
		assert.Equal(t, x.rule, rule, "%+v", x)
	}
}

// A due date lies at most forty weeks ahead, and not long past (common practice).
func TestTheBoundsOfADueDate(t *testing.T) {
	const today = calendar.Day("2026-11-24")
	pack := &Pack{Rules: []Rule{{ID: "due", AnswerType: DueDate, Question: "When?", Stage: Consultation}}}
	for days, ok := range map[int]bool{0: true, pregnancyDays: true, pregnancyDays + 1: false, -overdueDays: true, -overdueDays - 1: false} {
		faults := pack.Check(map[string]Answer{"due": {Yes: true, Day: today.Plus(days)}}, today, Consultation)
		assert.Equal(t, ok, len(faults) == 0, "%d days: %v", days, faults)
	}
}

// Of the two sides the larger difference counts, whichever side is worse.
func TestHowUnevenAnAnswerIs(t *testing.T) {
	for _, c := range []struct {
		grades        map[string]int
		worst, uneven int
	}{
		{nil, 0, 0}, {map[string]int{"left-jaw": 3, "right-jaw": 1}, 3, 2}, {map[string]int{"left-jaw": 1, "right-jaw": 4}, 4, 3}, {map[string]int{"right-jaw": 2}, 2, 2},
		{map[string]int{"left-jaw": 2, "right-jaw": 2, "nape": 4}, 4, 0}, {map[string]int{"left-jaw": 1}, 1, 1},
	} {
		worst, uneven := (&Answer{Grades: c.grades}).worst()
		assert.Equal(t, []int{c.worst, c.uneven}, []int{worst, uneven}, "%v", c.grades)
	}
}
