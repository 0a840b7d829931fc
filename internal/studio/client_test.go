package studio

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// Telephone numbers are found however they are written, and a name with a number in it is
// looked for as a name.
func TestDigitsOfASearch(t *testing.T) {
	for search, want := range map[string]string{
		"": "", "0177": "0177", "+351 (912) 34-56": "3519123456", "01": "", "912": "912", "Ada 912": "", "912.345/6": "9123456", "--": "", "٣٤٥": "",
	} {
		assert.Equal(t, want, (&ClientQuery{Search: search}).Digits(), "%q", search)
	}
}
