package studio

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"softpalm/internal/craft/calendar"
)

// How long a file is kept. The ages and years are common practice of insurers, the ends
// of leap years by the Gregorian calendar.
func TestRetention(t *testing.T) {
	r := Retention{KeepYears: 10, KeepMinorsTo: 25}
	for _, c := range []struct{ last, born, past calendar.Day }{
		{"2016-11-24", "", "2026-11-24"},
		{"2016-11-24", "1980-05-01", "2026-11-24"},
		{"2016-11-24", "2001-11-25", "2026-11-25"}, // 14 then: to the 25th birthday, a day after the ten years
		{"2016-11-24", "2004-03-02", "2029-03-02"},
		{"2016-11-24", "1998-11-24", "2026-11-24"}, // 18 on that day
		{"2016-11-24", "1998-11-25", "2026-11-24"}, // 17 still, and 25 before the ten years are over
		{"2016-02-29", "", "2026-03-01"},
		{"2016-11-24", "not told", "2026-11-24"},
	} {
		assert.Equal(t, c.past, r.Past(c.last, c.born), "last %s, born %s", c.last, c.born)
	}
	assert.Equal(t, calendar.Day("2041-03-02"), Retention{KeepYears: 1, KeepMinorsTo: 37}.Past("2016-11-24", "2004-03-02"))
}

// A text of one's own takes the place of the standard one, with a version of its own
// each time it is changed; emptied, or the same, it is the standard one again.
func TestOwnTexts(t *testing.T) {
	st := &Studio{}
	of := func(kind ConsentKind) ConsentText {
		for _, c := range st.ConsentTexts() {
			if c.Kind == kind {
				return c
			}
		}
		t.Fatal(kind)
		return ConsentText{}
	}
	standard := of(ConsentPhotos)
	st.SetConsentText(ConsentPhotos, standard.Body+"\n", "2026-11-24.2")
	assert.Equal(t, standard, of(ConsentPhotos), "unchanged")
	st.SetConsentText(ConsentPhotos, " Two photos, seen by nobody else. ", "2026-11-24.2")
	assert.Equal(t, ConsentText{ConsentPhotos, "2026-11-24.2", standard.Title, "Two photos, seen by nobody else."}, of(ConsentPhotos))
	st.SetConsentText(ConsentPhotos, "Two photos, seen by nobody else.", "2026-11-24.3")
	assert.Equal(t, "2026-11-24.2", of(ConsentPhotos).Version, "saved again, not changed")
	assert.Equal(t, StandardConsentTexts[0], of(ConsentTreatment))
	st.SetConsentText(ConsentPhotos, "", "2026-11-24.4")
	assert.Equal(t, standard, of(ConsentPhotos))
	assert.Empty(t, st.Texts.Consents)
	st.SetEmergencyText("Ring the bell in the hall.")
	assert.Equal(t, "Ring the bell in the hall.", st.EmergencyText())
	usual := (&Studio{}).EmergencyText()
	st.SetEmergencyText(usual)
	assert.Empty(t, st.Texts.Emergency)
	assert.Contains(t, usual, "112", "the emergency number in Europe: Directive (EU) 2018/1972, art. 109")
}
