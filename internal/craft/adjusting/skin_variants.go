package adjusting

import (
	"slices"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
)

// StandardVariants lists the variants that ship with the application (handbook, variants
// by skin type; common practice). A protocol's own variant of the same key takes
// its place.
func StandardVariants() []protocol.Variant {
	onCheeks := []string{"cheekbone", "under-cheekbone", "mid-cheek", "lower-cheek", "nasolabial", "nose-bridge", "nose-side"}
	families := func(f ...stroke.Family) []stroke.Family { return f }
	return []protocol.Variant{
		{Key: "sensitive", Name: "Sensitive", For: []string{"sensitive"}, Rules: []protocol.VariantRule{
			{Do: "lighter", By: 1, Why: "Lighter pressure, one level down throughout."},
			{
				Do:       "leave-out",
				Families: families(stroke.Friction, stroke.Tapotement),
				Why:      "No friction and no tapping on sensitive skin.",
			},
			{Do: "swap-product", Tags: []string{"fragrance", "essential-oil"}, Why: "Fragrance-free."},
		}},
		{Key: "oily", Name: "Oily", For: []string{"oily"}, Rules: []protocol.VariantRule{
			{Do: "swap-product", Tags: []string{"clogging"}, Why: "A lighter product."},
			{Do: "amount", By: 85, Why: "Less product: slip lasts longer on oily skin."},
		}},
		{Key: "dry", Name: "Dry", For: []string{"dry"}, Rules: []protocol.VariantRule{
			{Do: "amount", By: 110, Why: "More slip."},
			{Do: "re-apply", Why: "Dry skin absorbs product quickly, so re-apply it in time."},
		}},
		{Key: "dehydrated", Name: "Dehydrated", For: []string{"dehydrated"}, Rules: []protocol.VariantRule{
			{Do: "amount", By: 110, Why: "The skin absorbs product sooner."},
			{Do: "re-apply", Why: "Re-apply product before slip runs low."},
		}},
		{Key: "acne-prone", Name: "Acne-prone", For: []string{"acne-prone"}, Rules: []protocol.VariantRule{
			{
				Do:       "leave-out",
				Families: families(stroke.ToolRoll, stroke.SkinRolling, stroke.Tapotement),
				Kinds:    []string{"twin-ball-roller", "cylinder-roller", "mitt"},
				Why:      "No rolling, and no tapping on lesions.",
			},
			{Do: "swap-product", Tags: []string{"clogging"}, Why: "A product that does not clog."},
		}},
		{
			Key:  "rosacea",
			Name: "Rosacea and couperose",
			For:  []string{"rosacea-prone", "couperose"},
			Rules: []protocol.VariantRule{
				{
					Do:       "leave-out",
					Families: families(stroke.Friction, stroke.Tapotement),
					Kinds:    []string{"cold", "cup", "stone", "mitt"},
					Zones:    onCheeks,
					Why:      "No ice, friction, cups or stones on cheeks and nose.",
				},
				{Do: "leave-out", Stroke: "warm-compress", Why: "No heat on cheeks and nose."},
				{Do: "cap", By: 1, Zones: onCheeks, Why: "Feather-light on cheeks and nose."},
			},
		},
		{Key: "mature", Name: "Mature", For: []string{"mature"}, Rules: []protocol.VariantRule{
			{Do: "slower", By: 120, Why: "Slower, and hold the skin."},
		}},
		{Key: "pigmentation", Name: "Pigmentation-prone", For: []string{"pigmentation-prone"}, Rules: []protocol.VariantRule{
			{
				Do:       "leave-out",
				Families: families(stroke.Friction),
				Kinds:    []string{"cup", "mitt"},
				Why:      "Nothing that leaves redness.",
			},
		}},
	}
}

// VariantsOf lists the variants of a protocol: its own, then the standard ones it does
// not replace.
func VariantsOf(p *protocol.Protocol) []protocol.Variant {
	out := append([]protocol.Variant{}, p.Variants...)
	for _, v := range StandardVariants() {
		own := false
		for i := range p.Variants {
			own = own || p.Variants[i].Key == v.Key
		}
		if !own {
			out = append(out, v)
		}
	}
	return out
}

// VariantsForSkin lists the variants of a protocol that are meant for a skin.
func VariantsForSkin(p *protocol.Protocol, skinType string, states []string) []protocol.Variant {
	return slices.DeleteFunc(VariantsOf(p), func(v protocol.Variant) bool {
		return !slices.ContainsFunc(v.For, func(skin string) bool { return skin == skinType || slices.Contains(states, skin) })
	})
}

// ForSkin is a protocol as its variants make it for the client's skin, without anything that today's check
// says: what is prepared and counted before that.
func ForSkin(p *protocol.Protocol, ctx *protocol.Context) *protocol.Protocol {
	variants := VariantsForSkin(p, ctx.SkinType, ctx.SkinStates)
	if len(variants) == 0 {
		return p
	}
	if a := AdjustForSkin(p, ctx, contraindication.Merge(nil), variants, p.Minutes.HandsOn); !a.Refused {
		return a.Protocol
	}
	return p
}
