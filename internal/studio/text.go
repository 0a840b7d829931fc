package studio

import (
	"errors"
	"fmt"
	"regexp"
	"strings"

	"softpalm/words"
)

var notKey = regexp.MustCompile(`[^a-z0-9]+`)

// keyOf makes a key of a name: lower case, hyphenated.
func keyOf(name string) string {
	key := strings.Trim(notKey.ReplaceAllString(strings.ToLower(name), "-"), "-")
	if len(key) > 50 {
		key = strings.TrimRight(key[:50], "-")
	}
	return key
}

// FreeKey returns a key made from a name that nothing has yet.
func FreeKey(name, fallback string, taken func(string) bool) string {
	stem := keyOf(name)
	if stem == "" {
		stem = fallback
	}
	key := stem
	for n := 2; taken(key); n++ {
		key = fmt.Sprintf("%s-%d", stem, n)
	}
	return key
}

// SentenceOf is the sentence of an error of the craft, for the person who asked.
func SentenceOf(err error) words.Sentence {
	var s words.Sentence
	if errors.As(err, &s) {
		return s
	}
	return words.ThisCouldNotBeDoneNothingWas()
}
