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

// Throttle: this many failed attempts in the window block further attempts until it passes.
const (
	ThrottleTries  = 8
	ThrottleWindow = 10 * time.Minute
)
