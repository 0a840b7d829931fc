package evaluation_test

import (
	"fmt"

	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/remedy"
	"softpalm/internal/craft/stroke"
)

// A plan that drains before it opens, what the evaluation says of it, and the
// first fix.
func Example() {
	ctx := &protocol.Context{Strokes: stroke.ByKey(stroke.Trade())}
	p := &protocol.Protocol{
		Name: "Neck and cheeks, dry", Setting: "self", Method: protocol.Method{Slip: "dry"},
		Minutes: protocol.Minutes{Treatment: 3, HandsOn: 3}, DefaultDose: stroke.Dose{Kind: stroke.Reps, Planned: 3},
		Steps: []protocol.Step{
			{ID: "a", Stroke: "still-cheek-drain", Phase: "work"},
			{ID: "b", Stroke: "still-neck-home", Phase: "close"},
		},
	}
	e := evaluation.Evaluate(p, ctx)
	fmt.Println(e.Steps[0].Seconds, e.Findings[0].Code, e.Findings[0].Fixes)
	q, err := remedy.Apply(p, ctx, e.Findings[0].ID, e.Findings[0].Fixes[0])
	if err != nil {
		fmt.Println(err)
		return
	}
	for _, r := range evaluation.Evaluate(q, ctx).Steps {
		fmt.Println(r.Phase, "-", r.Name)
	}
	// Output:
	// 29 drainage-no-open [open-all]
	// open - Collarbone pumps
	// open - Stationary stretches on the side of the neck
	// open - Fork round the ear
	// open - Under-jaw circles
	// work - Stationary cheek drainage
	// close - Stationary drainage from ear to terminus
}
