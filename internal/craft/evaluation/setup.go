package evaluation

import (
	"slices"

	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/slip"
)

// SetUpItem is one thing to lay out before a treatment. Kind says what it is:
//
//	product   Name, measured out: ML, and in drops or presses where dosed so
//	tool      Name, its Parts in use, Count pieces; Fragile asks for a towel under it
//	bowl      Count bowls, for what is measured or damp
//	towel     Count fresh towels, one of them under each fragile tool
//	gloves    Count pairs
//	tissues, water   always, on a client
//	other     what the plan lists besides; Name
//	hands   always, on a client: washed, rings off, nails short; Key is "long-nails"
//	        where they are not
type SetUpItem struct {
	Kind string `json:"kind" enum:"product,tool,bowl,towel,gloves,tissues,water,hands,other"`
	Key  string `json:"key,omitempty"`
	Name string `json:"name,omitempty"`
	// ML is the plan's own figure, in mL to 0.01.
	ML float64 `json:"ml,omitempty"`
	// Portions of a product in the order in which they are taken, as the hand takes them; Total is set
	// where there are several.
	Portions []slip.HandAmount `json:"portions,omitempty"`
	Total    *slip.HandAmount  `json:"total,omitempty"`
	Parts    []string          `json:"parts,omitempty"`
	Count    int               `json:"count,omitempty"`
	Fragile  bool              `json:"fragile,omitempty"`
	// Optional product may be left off.
	Optional bool `json:"optional,omitempty"`
}

// portions are what a plan takes of a product, in order. What is poured out at the start has to last: it
// is rounded up.
func (e *Evaluation) portions(prod *slip.Product, ctx *protocol.Context) (out []slip.HandAmount) {
	for vi := range e.Occurrences {
		u := e.Steps[e.Occurrences[vi].Step].Source.Use
		if ctx.ProductOf(u) != prod {
			continue
		}
		if mL, ok := u.Amount.In(prod); ok {
			out = append(out, prod.ByHand(mL, len(out) == 0 && (prod.Form == slip.Oil || prod.Form == slip.Mask)))
		}
	}
	return out
}

// SetUp lists what is laid out for a plan: measured products, tools with the
// parts in use, bowls, towels, gloves, tissues, water, and the practitioner's own
// hands (common practice).
func SetUp(p *protocol.Protocol, ctx *protocol.Context, e *Evaluation) []SetUpItem {
	var out []SetUpItem
	bowls := 0
	for i := range e.Products {
		pl := &e.Products[i]
		item := SetUpItem{Kind: "product", Key: pl.Product, Name: pl.Name, ML: round2(pl.ML), Optional: pl.Optional}
		item.Portions = e.portions(ctx.Products[pl.Product], ctx)
		if len(item.Portions) > 1 {
			total := ctx.Products[pl.Product].ByHand(pl.ML, false)
			item.Total = &total
		}
		out = append(out, item)
		if f := ctx.Products[pl.Product].Form; f == slip.Mask || f == slip.Milk {
			bowls++
		}
	}
	towels := 1
	for _, key := range e.Tools {
		tool := ctx.Tools[key]
		item := SetUpItem{Kind: "tool", Key: key, Name: tool.Name, Count: 1, Fragile: tool.Fragile}
		for i := range e.Steps {
			r := &e.Steps[i]
			if r.Tool == nil || r.Tool.Key != key {
				continue
			}
			if r.Tool.Part != "" && !slices.Contains(item.Parts, r.Tool.Part) {
				item.Parts = append(item.Parts, r.Tool.Part)
			}
			if tool.Kind == "compress" {
				item.Count++
			}
		}
		if tool.Kind == "compress" {
			item.Count--
			bowls++
		}
		if tool.Fragile {
			towels++
		}
		out = append(out, item)
	}
	if bowls > 0 {
		out = append(out, SetUpItem{Kind: "bowl", Count: bowls})
	}
	out = append(out, SetUpItem{Kind: "towel", Count: towels})
	gloves := 0
	for vi := range e.Occurrences {
		if e.Occurrences[vi].Gloves && (vi == 0 || !e.Occurrences[vi-1].Gloves) {
			gloves++
		}
	}
	if gloves > 0 {
		out = append(out, SetUpItem{Kind: "gloves", Count: gloves})
	}
	for _, what := range p.LayOut {
		if what != protocol.Tissues || !p.OnClient() {
			out = append(out, SetUpItem{Kind: "other", Key: what, Name: what})
		}
	}
	if p.OnClient() {
		hands := SetUpItem{Kind: "hands"}
		if ctx.LongNails {
			hands.Key = "long-nails"
		}
		out = append(out, SetUpItem{Kind: "tissues"}, SetUpItem{Kind: "water"}, hands)
	}
	return out
}
