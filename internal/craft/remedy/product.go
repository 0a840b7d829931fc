package remedy

import (
	"maps"
	"math"
	"slices"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
	"softpalm/words"
)

// addProduct re-applies, before the step, the product last used, in the dose
// that brings every region on the path back to full slip, at most.
func (x *fixer) addProduct() error {
	var prod *slip.Product
	if found, ok := x.f.Values.(*evaluation.SlipBelow); ok {
		prod = x.ctx.Products[found.Product]
	}
	if prod == nil {
		return words.PlanUsesNoProductThatSlidesChoose()
	}
	r := x.resolved()
	spread := ""
	for _, k := range slices.Sorted(maps.Keys(x.ctx.Strokes)) {
		if st := x.ctx.Strokes[k]; st.Intent == stroke.Spread {
			spread = k
			break
		}
	}
	if spread == "" {
		return words.TheLibraryHasNoSpreadingStroke()
	}
	part := 0.0
	for _, reg := range anatomy.Regions {
		if r.Regions&(1<<slip.RegionIndex(reg)) != 0 {
			part += slip.ShareOf(reg)
		}
	}
	mL := 0.6 * prod.FullDose * part
	amount := slip.Amount{Value: math.Round(100*max(mL, slip.ML.Smallest())) / 100, Measure: slip.ML}
	if prod.DropsPerML > 0 {
		amount = slip.Amount{Value: max(1, float64(int(mL*prod.DropsPerML+0.999))), Measure: slip.Drops}
	}
	phase := r.Phase
	if phase == "finish" || phase == "wake" {
		phase = "apply"
	}
	x.q.Insert(x.at, protocol.Step{
		ID: x.q.NewID(spread), Stroke: spread, Phase: phase, Path: x.path(), Sides: stroke.BothAtOnce,
		Use: &protocol.Use{Product: prod.Key, Amount: amount},
	})
	if round := x.q.Steps[x.at+1].Round; round != "" {
		// Inside a round the product would be applied every time: put it before the round.
		first := x.at + 1
		for first > 1 && x.q.Steps[first-2].Round == round {
			x.q.Steps[first-1], x.q.Steps[first-2] = x.q.Steps[first-2], x.q.Steps[first-1]
			first--
		}
	}
	return nil
}

// blot takes product off before the step, or leaves out the product that the
// step itself puts on.
func (x *fixer) blot() error {
	r := x.resolved()
	if r.Source.Use != nil {
		x.q.Steps[x.at].Use = nil
		return nil
	}
	for _, k := range slices.Sorted(maps.Keys(x.ctx.Strokes)) {
		st := x.ctx.Strokes[k]
		if st.Intent != stroke.Cleanse || st.Relation != stroke.Still {
			continue
		}
		x.q.Insert(
			x.at,
			protocol.Step{
				ID:     x.q.NewID(st.Key),
				Stroke: st.Key,
				Phase:  r.Phase,
				Path:   x.path(),
				Sides:  stroke.BothAtOnce,
				Remove: "wipe",
			},
		)
		return nil
	}
	return words.TheLibraryHasNoStrokeForBlotting()
}

func (x *fixer) lessProduct() error {
	prodKey := x.q.Steps[x.at].Use.Product
	prod := x.ctx.Products[prodKey]
	total := 0.0
	for _, pl := range x.e.Products {
		if pl.Product == prodKey {
			total = pl.ML
		}
	}
	for i := range x.q.Steps {
		if u := x.q.Steps[i].Use; u != nil && u.Product == prodKey {
			less := *u
			grain := u.Amount.Measure.Smallest()
			less.Amount.Value = max(grain, math.Floor(u.Amount.Value*prod.RangeMax/total/grain+1e-9)*grain)
			x.q.Steps[i].Use = &less
		}
	}
	return nil
}

func (x *fixer) mistFirst() error {
	product := ""
	for _, k := range slices.Sorted(maps.Keys(x.ctx.Products)) {
		if x.ctx.Products[k].Form == slip.Mist && !slices.ContainsFunc(x.ctx.Products[k].Unsuited, x.ctx.HasSkin) {
			product = k
			break
		}
	}
	key := x.libraryStroke(func(st *stroke.Stroke) bool {
		return st.Intent == stroke.Spread && st.Relation == stroke.Still && len(st.Path) > 0
	})
	if product == "" || key == "" {
		return words.ThereIsNoMistOnTheShelf()
	}
	first := x.at
	for first > 0 && x.q.Steps[first].Round != "" && x.q.Steps[first-1].Round == x.q.Steps[first].Round {
		first--
	}
	prod := x.ctx.Products[product]
	x.q.Insert(
		first,
		protocol.Step{
			ID:     x.q.NewID(key),
			Stroke: key,
			Phase:  x.q.Steps[x.at].Phase,
			Use:    &protocol.Use{Product: product, Amount: slip.Amount{Value: max(prod.RangeMin, 0.5), Measure: slip.ML}},
		},
	)
	return nil
}
