package studio

import (
	"crypto/rand"
	"crypto/sha256"
	"encoding/base64"
	"time"
)

func NewToken() string {
	b := make([]byte, 32)
	if _, err := rand.Read(b); err != nil {
		panic("studio: no randomness: " + err.Error())
	}
	return base64.RawURLEncoding.EncodeToString(b)
}

func HashToken(token string) []byte {
	h := sha256.Sum256([]byte(token))
	return h[:]
}

func Digest(s string) string {
	return base64.RawURLEncoding.EncodeToString(HashToken(s))
}

// Failed attempts in the window are counted. After ThrottleTries each further one has to
// wait, longer each time and at most throttleMost: a known address is slowed down for
// whoever guesses its password, and never locked out for its owner.
const (
	ThrottleTries  = 8
	ThrottleWindow = 10 * time.Minute
	throttleFirst  = 5 * time.Second
	throttleMost   = 5 * time.Minute
)

// ThrottleWait is how long to wait after n failed attempts, the last at a time, of which
// so many are free.
func ThrottleWait(n, free int, last, now time.Time) time.Duration {
	if n < free {
		return 0
	}
	wait := throttleMost
	if by := n - free; by < 6 { // 5 s doubled six times is more than the most
		wait = throttleFirst << by
	}
	return max(0, wait-now.Sub(last))
}

// ThrottledError says that an attempt came too soon after others that failed.
type ThrottledError struct{ Wait time.Duration }

func (e *ThrottledError) Error() string { return ErrThrottled.Error() }

// Is makes it an ErrThrottled.
func (e *ThrottledError) Is(target error) bool { return target == ErrThrottled }
