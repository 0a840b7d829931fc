package protocol_test

import (
	"fmt"

	"softpalm/internal/craft/film"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// A plan that drains before it opens, what the evaluation says of it, and the
// first way out.
func Example() {
	ctx := &protocol.Context{Strokes: stroke.ByKey(stroke.Trade())}
	p := &protocol.Protocol{
		Name: "Neck and cheeks, dry", Setting: "self", School: protocol.School{Slip: "dry"},
		Minutes: protocol.Minutes{Sold: 3, HandsOn: 3}, DefaultDose: stroke.Dose{Kind: stroke.Reps, Planned: 3},
		Steps: []protocol.Step{
			{ID: "a", Stroke: "still-cheek-drain", Phase: "work"},
			{ID: "b", Stroke: "still-neck-home", Phase: "close"},
		},
	}
	e := protocol.Evaluate(p, ctx)
	fmt.Println(e.Steps[0].Seconds, e.Findings[0].Code, e.Findings[0].Fixes)
	q, err := protocol.Apply(p, ctx, e.Findings[0].ID, e.Findings[0].Fixes[0])
	if err != nil {
		fmt.Println(err)
		return
	}
	for _, r := range protocol.Evaluate(q, ctx).Steps {
		fmt.Println(r.Phase, "-", r.Name)
	}
	// Output:
	// 20 drainage-no-open [open-all]
	// open - Collarbone pumps
	// open - Side-neck stretches without sliding
	// open - Fork round the ear
	// open - Under-jaw circles
	// work - Cheek drain without sliding
	// close - Ear to hollow without sliding
}

// Five passes of four seconds may be cut to three: the plan is fitted to twenty
// seconds with the least change.
func ExampleFit() {
	ctx := &protocol.Context{Strokes: stroke.ByKey(stroke.Trade())}
	p := &protocol.Protocol{DefaultDose: stroke.Dose{Kind: stroke.Reps, Planned: 3}, Steps: []protocol.Step{
		{ID: "a", Stroke: "cheek-drain", Phase: "work", Weight: 2},
		{ID: "b", Stroke: "cheek-palms", Phase: "work"},
	}}
	f := protocol.Fit(p, ctx, 40)
	fmt.Println(f.MissBy, f.Changed, f.Protocol.Steps[1].Dose.Planned)
	// Output: 0 [b] 5
}

// A first plan from a question.
func ExampleDraft() {
	ctx := &protocol.Context{Strokes: stroke.ByKey(stroke.Trade()), Products: map[string]*film.Product{
		"oil": {Key: "oil", Name: "Oil", Form: film.Oil, FullDose: 4, RangeMax: 5, DropsPerML: 30},
	}}
	p, err := protocol.Draft(protocol.Question{SkinType: "normal", Concerns: []string{"puffiness"}, Minutes: 20, Products: []string{"oil"}}, ctx)
	if err != nil {
		fmt.Println(err)
		return
	}
	e := protocol.Evaluate(p, ctx)
	fmt.Println(p.Name, e.Worst() == protocol.Stopping || e.Worst() == protocol.Warning, e.Seconds <= 1200 && e.Seconds >= 1185)
	// Output: Puffiness false true
}
