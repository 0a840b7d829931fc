package httpapi

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"slices"

	lru "github.com/hashicorp/golang-lru/v2"

	"softpalm/internal/quickjson"
)

// Changes are what is different between two answers of the same kind.
type Changes struct {
	// Set are fields that are new or say something else, Gone those that are no longer there.
	Set  map[string]json.RawMessage `json:"set,omitempty"`
	Gone []string                   `json:"gone,omitempty"`
	// Rows are fields that are lists of objects, told row by row.
	Rows map[string][]Row `json:"rows,omitempty"`
}

// Row is a row of a list: the one that was at Was, with these fields set and those gone; or, where Was is -1, a new one.
type Row struct {
	Was  int                        `json:"was"`
	Set  map[string]json.RawMessage `json:"set,omitempty"`
	Gone []string                   `json:"gone,omitempty"`
}

type fields = map[string]json.RawMessage

// mostTold is how many answers are remembered: a few for each who is at the workbench.
const mostTold = 32

// told remembers answers by the sum of what they say, so that the next one need only tell what has changed.
type told struct{ kept *lru.Cache[string, fields] }

func newTold() *told {
	kept, err := lru.New[string, fields](mostTold)
	if err != nil {
		panic("httpapi: " + err.Error()) // mostTold is a constant
	}
	return &told{kept}
}

// since remembers an answer and returns its sum, and what has changed since the one of the sum known; nil where that one
// is not remembered.
func (t *told) since(known string, value any) (sum string, changes *Changes, err error) {
	var data bytes.Buffer
	if err := quickjson.Write(&data, value); err != nil {
		return "", nil, err
	}
	all := sha256.Sum256(data.Bytes())
	sum = hex.EncodeToString(all[:16])
	var now fields
	if err := quickjson.Read(data.Bytes(), &now); err != nil {
		return "", nil, err
	}
	if before, ok := t.kept.Get(known); ok {
		changes = changed(before, now)
	}
	t.kept.Add(sum, now)
	return sum, changes, nil
}

// changed compares two answers field by field, and lists of objects row by row.
func changed(before, now fields) *Changes {
	var c Changes
	set, gone := compare(before, now)
	c.Gone = gone
	for name, value := range set {
		was, is := objects(before[name]), objects(value)
		if was == nil || is == nil {
			put(&c.Set, name, value)
			continue
		}
		if c.Rows == nil {
			c.Rows = map[string][]Row{}
		}
		c.Rows[name] = rows(was, is)
	}
	return &c
}

// compare returns the fields that are new or say something else, and the names of those that are gone.
func compare(before, now fields) (set fields, gone []string) {
	for name, value := range now {
		if was, ok := before[name]; !ok || !bytes.Equal(was, value) {
			put(&set, name, value)
		}
	}
	for name := range before {
		if _, ok := now[name]; !ok {
			gone = append(gone, name)
		}
	}
	slices.Sort(gone)
	return set, gone
}

func put(set *map[string]json.RawMessage, name string, value json.RawMessage) {
	if *set == nil {
		*set = fields{}
	}
	(*set)[name] = value
}

// objects reads a list of objects; nil where it is something else, or empty.
func objects(list json.RawMessage) []fields {
	var out []fields
	if len(list) == 0 || list[0] != '[' || quickjson.Read(list, &out) != nil || len(out) == 0 || slices.ContainsFunc(out, func(f fields) bool { return f == nil }) {
		return nil
	}
	return out
}

// rows tells each row by the one before that is most like it: of the same id, else at the same place from the front or
// from the back.
func rows(before, now []fields) []Row {
	byID := make(map[string]int, len(before))
	for i, f := range before {
		if id, ok := f["id"]; ok {
			byID[string(id)] = i
		}
	}
	out := make([]Row, len(now))
	for i, f := range now {
		candidates := []int{i, i + len(before) - len(now)}
		if at, ok := byID[string(f["id"])]; ok {
			candidates = []int{at}
		}
		best := Row{Was: -1, Set: f}
		for _, at := range candidates {
			if at < 0 || at >= len(before) {
				continue
			}
			if set, gone := compare(before[at], f); len(set)+len(gone) < len(best.Set)+len(best.Gone) {
				best = Row{at, set, gone}
			}
		}
		out[i] = best
	}
	return out
}
