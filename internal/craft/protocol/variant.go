package protocol

import (
	"fmt"

	"softpalm/internal/craft/stroke"
	"softpalm/internal/problem"
	"softpalm/words"
)

// Variant changes a plan by rule for some skin types or states, so that an edit
// of the plan reaches every variant of it. See package adjusting.
type Variant struct {
	Key  string `json:"key" maxLength:"60" pattern:"^[a-z0-9]+(-[a-z0-9]+)*$"`
	Name string `json:"name" minLength:"1" maxLength:"120"`
	// For lists the skin types and states it is meant for.
	For   []string      `json:"for,omitempty" maxItems:"12"`
	Rules []VariantRule `json:"rules" maxItems:"40"`
}

// VariantRule is one change of a variant. Do says which; the other fields are
// its object, and empty Zones mean everywhere.
//
//	lighter       pressure By levels lower; a feather stays a feather
//	cap           pressure at most By
//	leave-out     strokes of Families, tools of Kinds, or Stroke itself: an
//	              alternate that keeps the rules takes their place, else nothing
//	replace       Stroke by With
//	swap-product  products that carry Tags, or Product itself, by With or the
//	              nearest on the shelf
//	amount        product in hundredths of the base: By 80 is a fifth less
//	re-apply      product again wherever slip would get too thin
//	slower        tempo in hundredths: By 120 takes a fifth longer
//	hands-on      hands-on time of By minutes
type VariantRule struct {
	Do       string          `json:"do" enum:"lighter,cap,leave-out,replace,swap-product,amount,re-apply,slower,hands-on"`
	By       int             `json:"by,omitempty" minimum:"0" maximum:"480"`
	Zones    []string        `json:"zones,omitempty" maxItems:"40"`
	Families []stroke.Family `json:"families,omitempty" maxItems:"26"`
	Kinds    []string        `json:"kinds,omitempty" maxItems:"12"`
	Tags     []string        `json:"tags,omitempty" maxItems:"20"`
	Stroke   string          `json:"stroke,omitempty" maxLength:"60"`
	Product  string          `json:"product,omitempty" maxLength:"60"`
	With     string          `json:"with,omitempty" maxLength:"60"`
	Why      string          `json:"why,omitempty" maxLength:"300"`
}

func (p *Protocol) validateVariants(ctx *Context, at string) []problem.Fault {
	var ps []problem.Fault
	for i, v := range p.Variants {
		for j, r := range v.Rules {
			here := fmt.Sprintf("%s/variants/%d/rules/%d", at, i, j)
			ps = append(ps, stroke.ValidatePath(r.Zones, here+"/zones")...)
			if r.Stroke != "" && ctx.Strokes[r.Stroke] == nil {
				ps = append(ps, problem.Fault{Path: here + "/stroke", Sentence: words.TheLibraryHasNoStrokeStroke(r.Stroke)})
			}
			if r.Do == "replace" && ctx.Strokes[r.With] == nil {
				ps = append(ps, problem.Fault{Path: here + "/with", Sentence: words.TheLibraryHasNoStrokeWith(r.With)})
			}
			if (r.Do == "amount" || r.Do == "slower" || r.Do == "hands-on") && r.By <= 0 {
				ps = append(ps, problem.Fault{Path: here + "/by", Sentence: words.EnterByHowMuch()})
			}
		}
	}
	return ps
}
