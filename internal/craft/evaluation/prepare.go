package evaluation

import (
	"cmp"
	"slices"
	"time"

	"softpalm/internal/craft/protocol"
)

// DayTreatment is one treatment of a day that is prepared for.
type DayTreatment struct {
	Start, End time.Time
	SetUp      []SetUpItem
}

// DayNeeds is what a day of treatments takes altogether.
type DayNeeds struct {
	Products []ProductNeed `json:"products"`
	Tools    []ToolNeed    `json:"tools"`
	Towels   int           `json:"towels"`
	Bowls    int           `json:"bowls"`
	Gloves   int           `json:"gloves"`
	// Temper are the tools to chill or to warm, by the time to begin.
	Temper []Tempering `json:"temper"`
}

// ProductNeed is how much of a product a day takes, in mL, and for how many treatments.
type ProductNeed struct {
	Key        string  `json:"key"`
	Name       string  `json:"name"`
	ML         float64 `json:"ml"`
	Treatments int     `json:"treatments"`
}

// ToolNeed is how a tool is used through a day.
type ToolNeed struct {
	Key   string   `json:"key"`
	Name  string   `json:"name"`
	Parts []string `json:"parts"`
	// Uses counts pieces through the day, AtOnce the most that are in use or being cleaned at
	// one time; Short says that there are fewer of them.
	Uses   int  `json:"uses"`
	AtOnce int  `json:"atOnce"`
	Pieces int  `json:"pieces"`
	Short  bool `json:"short"`
}

// Tempering is a tool that is chilled or warmed before a treatment.
type Tempering struct {
	Key  string    `json:"key"`
	Name string    `json:"name"`
	How  string    `json:"how" enum:"chill,warm"`
	At   time.Time `json:"at"`
	For  time.Time `json:"for"`
}

// warmMinutes is how long a compress without minutes of its own is warmed (common practice).
const warmMinutes = 10

// PrepareDay adds up what is laid out for the treatments of a day. Products come by
// amount, the most first, tools by name.
func PrepareDay(list []DayTreatment, tools map[string]protocol.Tool) *DayNeeds {
	out := &DayNeeds{Products: []ProductNeed{}, Tools: []ToolNeed{}, Temper: []Tempering{}}
	taken := map[string][]span{}
	for i := range list {
		for k := range list[i].SetUp {
			out.add(&list[i], &list[i].SetUp[k], tools, taken)
		}
	}
	for i := range out.Tools {
		n := &out.Tools[i]
		n.AtOnce, n.Pieces = mostAtOnce(taken[n.Key]), tools[n.Key].Pieces
		n.Short = !tools[n.Key].SingleUse && n.Pieces > 0 && n.AtOnce > n.Pieces
	}
	for i := range out.Products {
		out.Products[i].ML = round2(out.Products[i].ML)
	}
	slices.SortStableFunc(out.Products, func(a, b ProductNeed) int { return cmp.Compare(b.ML, a.ML) })
	slices.SortStableFunc(out.Tools, func(a, b ToolNeed) int { return cmp.Compare(a.Name, b.Name) })
	slices.SortStableFunc(out.Temper, func(a, b Tempering) int { return a.At.Compare(b.At) })
	return out
}

// add counts one thing that is laid out for one treatment.
func (n *DayNeeds) add(t *DayTreatment, item *SetUpItem, tools map[string]protocol.Tool, taken map[string][]span) {
	switch item.Kind {
	case "towel":
		n.Towels += item.Count
	case "bowl":
		n.Bowls += item.Count
	case "gloves":
		n.Gloves += item.Count
	case "product":
		i := slices.IndexFunc(n.Products, func(p ProductNeed) bool { return p.Key == item.Key })
		if i < 0 {
			i, n.Products = len(n.Products), append(n.Products, ProductNeed{Key: item.Key, Name: item.Name})
		}
		n.Products[i].ML += item.ML
		n.Products[i].Treatments++
	case "tool":
		tool := tools[item.Key]
		i := slices.IndexFunc(n.Tools, func(p ToolNeed) bool { return p.Key == item.Key })
		if i < 0 {
			i, n.Tools = len(n.Tools), append(n.Tools, ToolNeed{Key: item.Key, Name: item.Name, Parts: []string{}})
		}
		n.Tools[i].Uses += item.Count
		for _, part := range item.Parts {
			if !slices.Contains(n.Tools[i].Parts, part) {
				n.Tools[i].Parts = append(n.Tools[i].Parts, part)
			}
		}
		for range item.Count {
			taken[item.Key] = append(taken[item.Key], span{t.Start, t.End.Add(time.Duration(tool.ReadyAfter) * time.Minute)})
		}
		how, minutes := "chill", tool.Chill
		if tool.Kind == "compress" {
			how, minutes = "warm", cmp.Or(tool.Chill, warmMinutes)
		} else if minutes > 0 && !tool.Cold() {
			how = "warm"
		}
		if minutes > 0 {
			at := t.Start.Add(-time.Duration(minutes) * time.Minute)
			n.Temper = append(n.Temper, Tempering{Key: item.Key, Name: item.Name, How: how, At: at, For: t.Start})
		}
	}
}

// span is a time from its start until before its end.
type span struct{ from, to time.Time }

// mostAtOnce is how many spans lie over one moment at most.
func mostAtOnce(list []span) int {
	most := 0
	for _, s := range list { // the most lie over one that has just begun
		n := 0
		for _, o := range list {
			if !o.from.After(s.from) && o.to.After(s.from) {
				n++
			}
		}
		most = max(most, n)
	}
	return most
}
