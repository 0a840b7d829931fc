package contraindication

import "slices"

// The rules under which patch tests speak.
const (
	PatchFirst    = "patch-test"
	PatchReaction = "patch-reaction"
)

// MayOverride reports whether a practitioner may set aside what a rule asks of a
// plan, with a reason: lighter pressure, a preference, strokes or tools not to use, a
// patch test that is missing. Urgent signs, waits, letters, places left out,
// ingredients and a reaction cannot be overridden.
func MayOverride(outcomes []Contraindication, rule string) bool {
	any := false
	for i, o := range outcomes {
		if o.Rule != rule {
			continue
		}
		how := o.Kind.effect().override(&outcomes[i].Outcome)
		if o.Rule == PatchFirst && how == refuses {
			how = allows
		}
		switch {
		case how == allows:
			any = true
		case how == refuses || o.Allowed:
			return false
		}
	}
	return any
}

// WithoutOverridden returns the outcomes without those of the rules set aside.
func WithoutOverridden(outcomes []Contraindication, rules []string) []Contraindication {
	out := make([]Contraindication, 0, len(outcomes))
	for _, o := range outcomes {
		if !slices.Contains(rules, o.Rule) || o.Kind.effect().override(&o.Outcome) == ignores {
			out = append(out, o)
		}
	}
	return out
}
