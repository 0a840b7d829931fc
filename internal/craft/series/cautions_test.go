package series

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// Before an event nothing untried in the last 14 days and nothing that reddens within 24 hours; a
// pause of more than three times the ideal gap begins gently (handbook, chapters 5 and 6).
func TestWhatToLookAtInASeries(t *testing.T) {
	assert.Equal(t, []Caution{
		{N: 3, Kind: Untried, Products: []string{"mask"}},
		{N: 3, Kind: Redden},
	}, Cautions([]CautionVisit{
		{N: 1, Day: "2027-05-28", Ideal: 7, Work: Work{Reddens: true}, Products: []string{"oil"}},
		{N: 2, Day: "2027-06-04", Ideal: 7, Products: []string{"oil"}}, // 8 days before: tried by then
		{N: 3, Day: "2027-06-11", Ideal: 7, Work: Work{Reddens: true}, Products: []string{"oil", "mask"}},
	}, "2027-06-12"))
	assert.Equal(t, []Caution{{N: 1, Kind: Untried, Products: []string{"oil"}}}, Cautions([]CautionVisit{{N: 1, Day: "2027-05-30", Products: []string{"oil"}}}, "2027-06-12"))
	assert.Empty(t, Cautions([]CautionVisit{{N: 1, Day: "2027-05-29", Products: []string{"oil"}}}, "2027-06-12"), "14 days before is early enough")
	pause := []CautionVisit{{N: 1, Day: "2027-01-04", Deep: true}, {N: 2, Day: "2027-01-26", Ideal: 7, Deep: true}}
	assert.Equal(t, []Caution{{N: 2, Kind: Gentle}}, Cautions(pause, ""))
	pause[1].Day = "2027-01-25"
	assert.Empty(t, Cautions(pause, ""), "21 days are three times seven, and no more")
	pause[1].Day, pause[1].Deep = "2027-03-01", false
	assert.Empty(t, Cautions(pause, ""), "it is gentle already")
}

// How often work may be done (handbook, chapter 6, What is sold): deep work two or three times a
// week at most, mouth work not two days running, the scrub mitt about weekly.
func TestWhatComesTooOften(t *testing.T) {
	days := func(v CautionVisit, on ...string) (out []CautionVisit) {
		for i, d := range on {
			v.N, v.Day = i+1, d
			out = append(out, v)
		}
		return out
	}
	deep := CautionVisit{Deep: true}
	assert.Equal(t, []Caution{{N: 4, Kind: DeepOften}}, Cautions(days(deep, "2027-01-04", "2027-01-06", "2027-01-08", "2027-01-10"), ""))
	assert.Empty(t, Cautions(days(deep, "2027-01-04", "2027-01-06", "2027-01-08", "2027-01-11"), ""), "the first is a week past")
	mouth := CautionVisit{Work: Work{Mouth: true}}
	assert.Equal(t, []Caution{{N: 2, Kind: MouthOften}}, Cautions(days(mouth, "2027-02-28", "2027-03-01"), ""))
	assert.Empty(t, Cautions(days(mouth, "2027-02-28", "2027-03-02"), ""))
	mitt := CautionVisit{Work: Work{Mitt: true}}
	assert.Equal(t, []Caution{{N: 2, Kind: MittOften}}, Cautions(days(mitt, "2027-01-04", "2027-01-10"), ""))
	assert.Empty(t, Cautions(days(mitt, "2027-01-04", "2027-01-11"), ""))
}

// What a treatment does is read from its steps; two in one visit do both.
func TestWorkOfTwoTreatments(t *testing.T) {
	assert.Equal(t, Work{Reddens: true, Mitt: true, Mouth: true}, Work{Reddens: true, Mitt: true}.With(Work{Mouth: true}))
}
