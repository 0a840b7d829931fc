package drafting_test

import (
	"fmt"

	"softpalm/internal/craft/drafting"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
)

// A first plan from a question.
func ExampleDraft() {
	ctx := &protocol.Context{Strokes: stroke.ByKey(stroke.Trade()), Products: map[string]*slip.Product{
		"oil": {Key: "oil", Name: "Oil", Form: slip.Oil, FullDose: 4, RangeMax: 5, DropsPerML: 30},
	}}
	p, err := drafting.Draft(drafting.Question{SkinType: "normal", Concerns: []string{"puffiness"}, Minutes: 20, Products: []string{"oil"}}, ctx)
	if err != nil {
		fmt.Println(err)
		return
	}
	e := evaluation.Evaluate(p, ctx)
	fmt.Println(p.Name, e.Worst() == evaluation.Stopping || e.Worst() == evaluation.Warning, e.Seconds <= 1200 && e.Seconds >= 1185)
	// Output: Puffiness false true
}
