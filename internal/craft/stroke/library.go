package stroke

import (
	"bytes"
	_ "embed"
	"encoding/json"
	"fmt"
	"maps"
	"sync"
)

//go:embed trade-strokes.json
var tradeStrokes []byte

// Trade returns the classic studio repertoire that ships with the application,
// in the order in which it is worked. It is common practice of the trade. The
// returned slice is shared: do not change it.
var Trade = sync.OnceValue(func() []Stroke {
	dec := json.NewDecoder(bytes.NewReader(tradeStrokes))
	dec.DisallowUnknownFields()
	var list []Stroke
	if err := dec.Decode(&list); err != nil {
		panic("stroke: the shipped library is broken: " + err.Error())
	}
	seen := map[string]bool{}
	for i := range list {
		if ps := list[i].Validate("/" + list[i].Key); len(ps) > 0 || seen[list[i].Key] {
			panic(fmt.Sprintf("stroke: the shipped library is broken: %q %v", list[i].Key, ps))
		}
		seen[list[i].Key] = true
	}
	return list
})

// joined are strokes of the trade that were the same as another and went.
var joined = map[string]string{"jaw-fork-glide": "jaw-drain"}

// Joined maps strokes that the trade no longer has to those that took their place, for files written
// before; a library that has one of that name keeps it.
func Joined(library map[string]*Stroke) map[string]string {
	out := maps.Clone(joined)
	maps.DeleteFunc(out, func(key, _ string) bool { return library[key] != nil })
	return out
}

// ByKey makes a library of lists of strokes; a later one takes the place of an
// earlier one of the same key.
func ByKey(lists ...[]Stroke) map[string]*Stroke {
	n := 0
	for _, l := range lists {
		n += len(l)
	}
	m := make(map[string]*Stroke, n)
	for _, l := range lists {
		for i := range l {
			m[l[i].Key] = &l[i]
		}
	}
	return m
}
