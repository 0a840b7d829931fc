package protocol_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// What a document may hold, tried on both sides of each limit (the project's format of
// protocol files).
func TestTheLimitsOfADocument(t *testing.T) {
	round := func(times, least, most int) func(*protocol.Protocol) {
		return func(p *protocol.Protocol) {
			p.Steps[0].Round, p.Rounds = "r", []protocol.Round{{ID: "r", Times: times, Min: least, Max: most}}
		}
	}
	for _, c := range []struct {
		name   string
		change func(*protocol.Protocol)
		path   string // of the only fault; empty for none
	}{
		{"as it is", func(*protocol.Protocol) {}, ""},
		{"hands on as long as sold", func(p *protocol.Protocol) { p.Minutes.HandsOn = p.Minutes.Treatment }, ""},
		{"hands on longer than sold", func(p *protocol.Protocol) { p.Minutes.HandsOn = p.Minutes.Treatment + 1 }, "/minutes/handsOn"},
		{"a cue every 15 seconds", func(p *protocol.Protocol) { p.Cues = []protocol.Cue{{Every: 15}} }, ""},
		{"a cue every 14 seconds", func(p *protocol.Protocol) { p.Cues = []protocol.Cue{{Every: 14}} }, "/cues/0/every"},
		{"a round once", round(1, 0, 0), ""},
		{"a round never", round(0, 0, 0), "/rounds/0/times"},
		{"a round 20 times", round(20, 0, 0), ""},
		{"a round 21 times", round(21, 0, 0), "/rounds/0/times"},
		{"at least as planned", round(3, 3, 0), ""},
		{"at least more than planned", round(3, 4, 0), "/rounds/0/min"},
		{"at most as planned", round(3, 0, 3), ""},
		{"at most less than planned", round(3, 0, 2), "/rounds/0/min"},
		{"at most 20", round(3, 0, 20), ""},
		{"at most 21", round(3, 0, 21), "/rounds/0/min"},
		{"at least less than none", round(3, -1, 0), "/rounds/0/min"},
		{"two rounds of a name", func(p *protocol.Protocol) {
			p.Steps[0].Round, p.Rounds = "r", []protocol.Round{{ID: "r", Times: 1}, {ID: "r", Times: 1}}
		}, "/rounds/1/id"},
		{"a pressure of 0", func(p *protocol.Protocol) { p.Steps[0].Pressure = crafttest.Ptr(0) }, ""},
		{"a pressure of 5", func(p *protocol.Protocol) { p.Steps[0].Pressure = crafttest.Ptr(5) }, ""},
		{"a pressure of 6", func(p *protocol.Protocol) { p.Steps[0].Pressure = crafttest.Ptr(6) }, "/steps/0/pressure"},
		{"a pressure below 0", func(p *protocol.Protocol) { p.Steps[0].Pressure = crafttest.Ptr(-1) }, "/steps/0/pressure"},
		{"a zone at 5", func(p *protocol.Protocol) {
			p.Steps[0].Path = []protocol.PathPoint{{Zone: "chin", Pressure: crafttest.Ptr(5)}}
		}, ""},
		{"a zone at 0", func(p *protocol.Protocol) {
			p.Steps[0].Path = []protocol.PathPoint{{Zone: "chin", Pressure: crafttest.Ptr(0)}}
		}, ""},
		{"a zone at 6", func(p *protocol.Protocol) {
			p.Steps[0].Path = []protocol.PathPoint{{Zone: "chin", Pressure: crafttest.Ptr(6)}}
		}, "/steps/0/path/0/pressure"},
		{"a zone below 0", func(p *protocol.Protocol) {
			p.Steps[0].Path = []protocol.PathPoint{{Zone: "chin", Pressure: crafttest.Ptr(-1)}}
		}, "/steps/0/path/0/pressure"},
		{"a zone that there is none of", func(p *protocol.Protocol) { p.Steps[0].Path = crafttest.Zones("moon") }, "/steps/0/path/0/zone"},
		{"a finger in a zone", func(p *protocol.Protocol) { p.Steps[0].Fingers = []stroke.Finger{{Part: "index", Zone: "chin"}} }, ""},
		{"a finger along the path", func(p *protocol.Protocol) { p.Steps[0].Fingers = []stroke.Finger{{Part: "index"}} }, ""},
		{"a finger on the moon", func(p *protocol.Protocol) { p.Steps[0].Fingers = []stroke.Finger{{Part: "index", Zone: "moon"}} }, "/steps/0/fingers/0/zone"},
		{"a hand part", func(p *protocol.Protocol) { p.Steps[0].Hand = stroke.HandParts[0] }, ""},
		{"a hand part that there is none of", func(p *protocol.Protocol) { p.Steps[0].Hand = "elbow of the cat" }, "/steps/0/hand"},
		{"a section that there is none of", func(p *protocol.Protocol) { p.Steps[0].Section = "s" }, "/steps/0/section"},
		{"a section", func(p *protocol.Protocol) { p.Steps[0].Section, p.Sections = "s", []protocol.Section{{ID: "s"}} }, ""},
		{"a section without a name", func(p *protocol.Protocol) { p.Sections = []protocol.Section{{}} }, "/sections/0/id"},
		{"two sections of a name", func(p *protocol.Protocol) { p.Sections = []protocol.Section{{ID: "s"}, {ID: "s"}} }, "/sections/1/id"},
		{"a round that there is none of", func(p *protocol.Protocol) { p.Steps[0].Round = "r" }, "/steps/0/round"},
		{"a round that is interrupted", func(p *protocol.Protocol) {
			p.Steps[0].Round, p.Steps[2].Round, p.Rounds = "r", "r", []protocol.Round{{ID: "r", Times: 1}}
		}, "/steps/2/round"},
		{"a round in a row", func(p *protocol.Protocol) {
			p.Steps[1].Round, p.Steps[2].Round, p.Rounds = "r", "r", []protocol.Round{{ID: "r", Times: 1}}
		}, ""},
		{"two steps of a name", func(p *protocol.Protocol) { p.Steps[1].ID = p.Steps[0].ID }, "/steps/1/id"},
		{"a phase that there is none of", func(p *protocol.Protocol) { p.Steps[1].Phase = "dessert" }, "/steps/1/phase"},
		{"a tool of the studio", func(p *protocol.Protocol) { p.Steps[0].Tool = &stroke.ToolPart{Key: "stone"} }, ""},
		{"a tool that it has not", func(p *protocol.Protocol) { p.Steps[0].Tool = &stroke.ToolPart{Key: "hammer"} }, "/steps/0/tool/key"},
	} {
		p := crafttest.Plan(10, crafttest.Do("effleurage"), crafttest.Do("press"), crafttest.Do("lift"))
		c.change(p)
		faults := p.Validate(crafttest.SmallStudio(), "")
		if c.path == "" {
			assert.Empty(t, faults, c.name)
			continue
		}
		if assert.Len(t, faults, 1, c.name) {
			assert.Equal(t, c.path, faults[0].Path, c.name)
		}
	}
}

// Of the steps in both versions the longest run that kept its order stands: no more are
// said to have moved than must (checked by trying every run).
func TestNoMoreStepsHaveMovedThanMust(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		was := crafttest.Plan(10)
		n := rapid.IntRange(1, 7).Draw(t, "steps")
		for i := range n {
			was.Steps = append(was.Steps, protocol.Step{ID: string(rune('a' + i)), Stroke: "press", Phase: "work"})
		}
		now := was.Clone()
		now.Steps = nil
		for _, i := range rapid.Permutation([]int{0, 1, 2, 3, 4, 5, 6}[:n]).Draw(t, "order") {
			if rapid.IntRange(0, 4).Draw(t, "stays") > 0 {
				now.Steps = append(now.Steps, was.Steps[i])
			}
		}
		longest := 0
		for run := range 1 << len(now.Steps) {
			last, length := "", 0
			for j := range now.Steps {
				if run&(1<<j) == 0 {
					continue
				}
				if length++; now.Steps[j].ID <= last {
					length = -100
				}
				last = now.Steps[j].ID
			}
			longest = max(longest, length)
		}
		moved, removed := 0, 0
		for _, c := range protocol.Compare(was, now).Steps {
			switch c.Change {
			case protocol.Moved:
				moved++
				if was.Steps[c.From-1].ID != c.Step || now.Steps[c.To-1].ID != c.Step {
					t.Fatalf("%+v stands elsewhere", c)
				}
			case protocol.Removed:
				removed++
				if was.Steps[c.From-1].ID != c.Step || c.To != 0 {
					t.Fatalf("%+v stood elsewhere", c)
				}
			default:
				t.Fatalf("%+v", c)
			}
		}
		if moved != len(now.Steps)-longest || removed != n-len(now.Steps) {
			t.Fatalf("%d moved of %d, %d removed; the longest run is %d", moved, len(now.Steps), removed, longest)
		}
	})
}

// Every concern is found by its key, and no other is.
func TestConcernsAreFoundByKey(t *testing.T) {
	seen := []string{}
	for _, key := range []string{"jowls", "puffiness", "clenching", "eye-lines"} {
		c := protocol.ConcernOf(key)
		if assert.NotNil(t, c, key) {
			assert.Equal(t, key, c.Key)
			assert.False(t, slices.Contains(seen, c.Name))
			seen = append(seen, c.Name)
		}
	}
	assert.Nil(t, protocol.ConcernOf("immortality"))
	assert.Nil(t, protocol.ConcernOf(""))
}
