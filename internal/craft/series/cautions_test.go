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
		{N: 1, Day: "2027-05-28", Ideal: 7, Reddens: true, Products: []string{"oil"}},
		{N: 2, Day: "2027-06-04", Ideal: 7, Products: []string{"oil"}}, // 8 days before: tried by then
		{N: 3, Day: "2027-06-11", Ideal: 7, Reddens: true, Products: []string{"oil", "mask"}},
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
