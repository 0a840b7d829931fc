package evaluation

import (
	"slices"

	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// NotFor is a skin that a stroke or a product, by name, is not for.
type NotFor struct {
	plain
	Skin    string `json:"skin"`
	What    string `json:"what" enum:"stroke,product"`
	Product string `json:"product,omitempty"`
}

// Scratching is the hand part whose nails would scratch.
type Scratching struct {
	plain
	Hand string `json:"hand"`
}

func (r *Resolved) kind(ctx *protocol.Context) string {
	if r.Tool == nil {
		return ""
	}
	return ctx.Tools[r.Tool.Key].Kind
}

func (e *Evaluation) checkSuitability(r *Resolved, p *protocol.Protocol, ctx *protocol.Context) {
	kind := r.kind(ctx)
	if ctx.SkinType != "" || len(ctx.SkinStates) > 0 {
		touches := func(zones []string) bool {
			return slices.ContainsFunc(r.Path, func(s Stop) bool { return slices.Contains(zones, s.Zone) })
		}
		if skin, ok := ctx.Bears(r.Families(), r.Intent, kind, touches); !ok && r.Source.Departure == "" {
			fixes := []Fix{LeaveStep}
			if len(r.Stroke.Alternates) > 0 {
				fixes = []Fix{UseAlternate, LeaveStep}
			}
			e.add(Unsuited, Warning, CommonPractice, &NotFor{Skin: skin, What: "stroke"}, fixes, r.ID)
		}
		if prod := ctx.ProductOf(r.Source.Use); prod != nil && r.Source.Departure == "" {
			for _, skin := range prod.Unsuited {
				if ctx.HasSkin(skin) {
					e.add(Unsuited, Warning, CommonPractice, &NotFor{Skin: skin, What: "product", Product: prod.Name}, nil, r.ID)
				}
			}
		}
	}
	if p.Method.Redness == "avoided" && r.Source.Departure == "" && r.Reddens(ctx) {
		e.add(Redness, Warning, MethodRule, &Nothing{}, []Fix{LeaveStep, SayDeparture}, r.ID)
	}
	if ctx.LongNails && r.Scratches() {
		fix := LeaveStep
		if r.nailsWay() {
			fix = UseAlternate
		}
		e.add(LongNails, Warning, CommonPractice, &Scratching{Hand: r.Hand}, []Fix{fix}, r.ID)
	}
}

// Reddens reports whether a step may leave redness (handbook, chapter 3, schools).
func (r *Resolved) Reddens(ctx *protocol.Context) bool {
	kind := r.kind(ctx)
	return r.has(stroke.Friction) || r.has(stroke.Tapotement) || kind == "cup" || kind == "mitt"
}

// Scratches reports whether long nails would scratch: the stroke names another
// way for them and is done with the bare hand as it is, or it is done at the
// ear's opening, or in the mouth, where nails also tear gloves (handbook,
// chapters 1 and 2; the mouth from memory).
func (r *Resolved) Scratches() bool {
	return r.Tool == nil && (r.nailsWay() || r.OnZone("ear-opening") || r.InMouth())
}

// nailsWay reports whether the stroke names another way for long nails, which the
// step does not take yet.
func (r *Resolved) nailsWay() bool {
	return r.Hand == r.Stroke.Hand &&
		slices.ContainsFunc(r.Stroke.Alternates, func(a stroke.Alternate) bool { return a.When == "long-nails" })
}

// Families are all the families of movement that a step belongs to, its own first.
func (r *Resolved) Families() []stroke.Family {
	return append([]stroke.Family{r.Family}, r.Further.AlsoFamilies...)
}

// has reports whether a step is of a family of movement, be it besides another.
func (r *Resolved) has(f stroke.Family) bool {
	return r.Family == f || slices.Contains(r.Further.AlsoFamilies, f)
}
