package studio

import (
	"fmt"
	"regexp"
	"strings"
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

func Sentence(err error) string {
	m := err.Error()
	return string(append([]rune{upper(m)}, []rune(m)[1:]...)) + "."
}

func upper(s string) rune {
	r := []rune(s)[0]
	if r >= 'a' && r <= 'z' {
		r -= 'a' - 'A'
	}
	return r
}
