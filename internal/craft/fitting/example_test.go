package fitting_test

import (
	"fmt"

	"softpalm/internal/craft/fitting"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// Five passes of four seconds may be cut to three: the plan is fitted to twenty
// seconds with the least change.
func ExampleFit() {
	ctx := &protocol.Context{Strokes: stroke.ByKey(stroke.Trade())}
	p := &protocol.Protocol{DefaultDose: stroke.Dose{Kind: stroke.Reps, Planned: 3}, Steps: []protocol.Step{
		{ID: "a", Stroke: "cheek-drain", Phase: "work", Weight: 2},
		{ID: "b", Stroke: "cheek-palms", Phase: "work"},
	}}
	f := fitting.Fit(p, ctx, 40)
	fmt.Println(f.MissBy, f.Changed, f.Protocol.Steps[1].Dose.Planned)
	// Output: 0 [b] 5
}
