package httpapi

import (
	"encoding/json"
	"maps"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// become is an answer after changes to the one before, as the screens work it out (ui/src/api/changes.ts).
func become(t require.TestingT, before fields, c *Changes) fields {
	now := applied(before, c.Set, c.Gone)
	for name, list := range c.Rows {
		var was, is []fields
		require.NoError(t, json.Unmarshal(before[name], &was))
		for _, r := range list {
			row := fields{}
			if r.Was >= 0 {
				row = was[r.Was]
			}
			is = append(is, applied(row, r.Set, r.Gone))
		}
		data, err := json.Marshal(is)
		require.NoError(t, err)
		now[name] = data
	}
	return now
}

func applied(before, set fields, gone []string) fields {
	now := maps.Clone(before)
	maps.Copy(now, set)
	for _, name := range gone {
		delete(now, name)
	}
	return now
}

// Whatever an answer was and has become: what was before with the changes says the same as the whole new one.
func TestChangesLeadToTheNewAnswer(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		value := rapid.SampledFrom([]any{1, 2.5, "a", "b", nil, true, []any{}, []any{1, 2}, map[string]any{"x": 1}})
		row := rapid.MapOfN(rapid.SampledFrom([]string{"id", "start", "seconds", "note"}), value, 1, 4)
		field := rapid.OneOf(value, rapid.Map(rapid.SliceOfN(row, 0, 5), func(l []map[string]any) any { return l }))
		whole := rapid.MapOfN(rapid.SampledFrom([]string{"steps", "visits", "seconds", "cost"}), field, 0, 4)
		remembers := newTold()
		before, now := whole.Draw(t, "before"), whole.Draw(t, "now")
		known, nothing, err := remembers.since("", before)
		require.NoError(t, err)
		require.Nil(t, nothing, "nobody knows anything yet")
		sum, changes, err := remembers.since(known, now)
		require.NoError(t, err)
		require.NotNil(t, changes)
		was, err := json.Marshal(before)
		require.NoError(t, err)
		var old fields
		require.NoError(t, json.Unmarshal(was, &old))
		got, err := json.Marshal(become(t, old, changes))
		require.NoError(t, err)
		want, err := json.Marshal(now)
		require.NoError(t, err)
		require.JSONEq(t, string(want), string(got))
		again, none, err := remembers.since(sum, now)
		require.NoError(t, err)
		require.Equal(t, sum, again, "what says the same has the same sum")
		require.Empty(t, none.Set)
		require.Empty(t, none.Gone)
	})
}

// A row that was moved along by one before it is told by what is another in it.
func TestAMovedRowIsToldByWhatIsAnotherInIt(t *testing.T) {
	remembers := newTold()
	type row map[string]any
	before := map[string]any{"visits": []row{{"step": 0, "start": 0, "side": "left"}, {"step": 1, "start": 9, "side": "both"}}}
	now := map[string]any{"visits": []row{{"step": 0, "start": 0, "side": "left"}, {"step": 1, "start": 9, "hands": "clean"}, {"step": 2, "start": 14, "side": "both"}}}
	known, _, err := remembers.since("", before)
	require.NoError(t, err)
	_, changes, err := remembers.since(known, now)
	require.NoError(t, err)
	list := changes.Rows["visits"]
	require.Len(t, list, 3)
	assert.Equal(t, Row{Was: 0}, list[0])
	assert.Equal(t, Row{Was: 1, Set: fields{"step": json.RawMessage("2"), "start": json.RawMessage("14")}}, list[2])
}
