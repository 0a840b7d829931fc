package house

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Passwords are hashed with argon2id, 19 MiB, 2 passes, 1 lane, each with a salt of its own
// (OWASP Password Storage Cheat Sheet, from memory).
func TestPasswordsAreHashedWithArgon2id(t *testing.T) {
	a, err := HashPassword("soft palms at ten")
	require.NoError(t, err)
	b, err := HashPassword("soft palms at ten")
	require.NoError(t, err)
	assert.Contains(t, a, "$argon2id$v=19$m=19456,t=2,p=1$")
	assert.NotEqual(t, a, b)
}

// Passwords that stand high in published lists of leaked ones are refused however they are
// spelled or lengthened, and so are the person's own words; four unrelated words are not
// (NIST SP 800-63B, 5.1.1.2; the examples from memory).
func TestAPasswordThatIsGuessedEarlyIsRefused(t *testing.T) {
	own := []string{"Maud Ellery", "maud@studio.example", "Rowan Street Face Studio"}
	for _, easy := range []string{
		"password1234", "Passw0rd!2026", "123456789012", "qwertyuiop123", "1q2w3e4r5t6y", "iloveyou2026!", "aaaaaaaaaaaaa",
		"abcabcabcabc", "letmeinletmein", "trustno1trustno1", "softpalm2026", "maudellery12", "maud@studio.example", "Maud Ellery 1",
		"rowanstreet1", "football12345",
	} {
		assert.True(t, tooEasy(easy, own...), easy)
	}
	for _, good := range []string{"a quiet new morning", "seven warm stones", "correcthorsebatterystaple", "Tz9#kQ2!vLp0", "дождь идёт с утра"} {
		assert.False(t, tooEasy(good, own...), good)
	}
	start := time.Now()
	tooEasy(strings.Repeat("pa5$w0rd1", 22), own...)
	assert.Less(t, time.Since(start), time.Second, "a long one is not estimated whole")
}
