package protocol

import (
	"encoding/json"
	"reflect"
	"slices"
	"strings"
)

// Changed is how a step of one version differs in another.
type Changed string

// The kinds of change. A moved step may be changed as well; then it counts as
// moved and lists its fields.
const (
	Added   Changed = "added"
	Removed Changed = "removed"
	Moved   Changed = "moved"
	Altered Changed = "altered"
)

// StepChange is one difference between two versions. From and To are positions
// counted from 1, 0 where the step is not there.
type StepChange struct {
	Step   string  `json:"step"`
	Stroke string  `json:"stroke"`
	Change Changed `json:"change" enum:"added,removed,moved,altered"`
	From   int     `json:"from"`
	To     int     `json:"to"`
	// Fields that differ, by their names in the protocol format.
	Fields []string `json:"fields"`
}

// Comparison is everything in which two versions differ: steps in the order of
// the newer one, with what was removed where it stood, and fields of the plan.
type Comparison struct {
	Steps  []StepChange `json:"steps"`
	Fields []string     `json:"fields"`
}

// Same reports that nothing differs.
func (c Comparison) Same() bool { return len(c.Steps)+len(c.Fields) == 0 }

// Compare compares two versions, step by step. Steps are recognised by id,
// or by stroke, sides and phase where the id is gone. Of the steps in both, the
// longest run that kept its order is unchanged; the others have moved.
func Compare(was, now *Protocol) Comparison {
	c := Comparison{Steps: []StepChange{}, Fields: planFields(was, now)}
	at := match(was, now) // position in was, by position in now; -1 for a new step
	stands := longestRising(at)
	kept := make([]bool, len(was.Steps))
	for _, i := range at {
		if i >= 0 {
			kept[i] = true
		}
	}
	gone := 0
	removedUpTo := func(limit int) {
		for ; gone < limit; gone++ {
			if !kept[gone] {
				s := &was.Steps[gone]
				c.Steps = append(
					c.Steps,
					StepChange{Step: s.ID, Stroke: s.Stroke, Change: Removed, From: gone + 1, Fields: []string{}},
				)
			}
		}
	}
	for j := range now.Steps {
		s := &now.Steps[j]
		i := at[j]
		if i < 0 {
			c.Steps = append(c.Steps, StepChange{Step: s.ID, Stroke: s.Stroke, Change: Added, To: j + 1, Fields: []string{}})
			continue
		}
		if stands[j] {
			removedUpTo(i)
		}
		fields := fieldsThatDiffer(&was.Steps[i], s)
		switch {
		case !stands[j]:
			c.Steps = append(
				c.Steps,
				StepChange{Step: s.ID, Stroke: s.Stroke, Change: Moved, From: i + 1, To: j + 1, Fields: fields},
			)
		case len(fields) > 0:
			c.Steps = append(
				c.Steps,
				StepChange{Step: s.ID, Stroke: s.Stroke, Change: Altered, From: i + 1, To: j + 1, Fields: fields},
			)
		}
	}
	removedUpTo(len(was.Steps))
	return c
}

func match(was, now *Protocol) []int {
	at := make([]int, len(now.Steps))
	used := make([]bool, len(was.Steps))
	byID := make(map[string]int, len(was.Steps))
	for i := range was.Steps {
		byID[was.Steps[i].ID] = i
	}
	for j := range now.Steps {
		at[j] = -1
		if i, ok := byID[now.Steps[j].ID]; ok {
			at[j], used[i] = i, true
		}
	}
	for j := range now.Steps {
		for i := range was.Steps {
			a, b := &was.Steps[i], &now.Steps[j]
			if at[j] < 0 && !used[i] && a.Stroke == b.Stroke && a.Sides == b.Sides && a.Phase == b.Phase {
				at[j], used[i] = i, true
			}
		}
	}
	return at
}

// longestRising marks the positions of a longest strictly rising run of at,
// those below 0 left out.
func longestRising(at []int) []bool {
	n := len(at)
	length, before := make([]int, n), make([]int, n)
	best := -1
	for j := range at {
		before[j] = -1
		if at[j] < 0 {
			continue
		}
		length[j] = 1
		for k := range j {
			if at[k] >= 0 && at[k] < at[j] && length[k]+1 > length[j] {
				length[j], before[j] = length[k]+1, k
			}
		}
		if best < 0 || length[j] > length[best] {
			best = j
		}
	}
	in := make([]bool, n)
	for j := best; j >= 0; j = before[j] {
		in[j] = true
	}
	return in
}

func fieldsThatDiffer(a, b any) []string {
	out := []string{}
	va, vb := reflect.ValueOf(a).Elem(), reflect.ValueOf(b).Elem()
	for i := range va.NumField() {
		if va.Type().Field(i).Anonymous { // written with the other fields
			out = append(out, fieldsThatDiffer(va.Field(i).Addr().Interface(), vb.Field(i).Addr().Interface())...)
			continue
		}
		name := strings.Split(va.Type().Field(i).Tag.Get("json"), ",")[0]
		if name == "" || name == "id" {
			continue
		}
		x, y := va.Field(i), vb.Field(i)
		if !reflect.DeepEqual(x.Interface(), y.Interface()) && !sameJSON(x.Interface(), y.Interface()) {
			out = append(out, name)
		}
	}
	return out
}

// sameJSON reports whether two values are written alike: an empty list is no
// difference from none.
func sameJSON(a, b any) bool {
	x, _ := json.Marshal(a)
	y, _ := json.Marshal(b)
	blank := func(s string) bool { return s == "null" || s == "[]" || s == "{}" }
	return string(x) == string(y) || blank(string(x)) && blank(string(y))
}

func planFields(was, now *Protocol) []string {
	return slices.DeleteFunc(fieldsThatDiffer(was, now), func(f string) bool { return f == "steps" })
}
