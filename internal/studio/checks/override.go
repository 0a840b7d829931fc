package checks

import (
	"context"

	"github.com/google/uuid"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/studio"
)

// missingConsents lists the consents a plan needs and the client has not given.
func missingConsents(
	ctx context.Context,
	tx planStore,
	client uuid.UUID,
	plan *evaluation.Evaluation,
) ([]studio.ConsentKind, error) {
	given, err := tx.Consents(ctx, client)
	if err != nil {
		return nil, err
	}
	out := []studio.ConsentKind{}
	for _, kind := range consentsFor(plan) {
		have := false
		for _, c := range given {
			have = have || (c.Kind == kind && c.WithdrawnAt == nil)
		}
		if !have {
			out = append(out, kind)
		}
	}
	return out, nil
}

// consentsFor lists the consents a plan needs: for the treatment, and where it
// goes inside the mouth, for that.
func consentsFor(plan *evaluation.Evaluation) []studio.ConsentKind {
	for i := range plan.Steps {
		for _, stop := range plan.Steps[i].Path {
			if id, ok := anatomy.Lookup(stop.Zone); ok && id.Zone().Region == anatomy.Mouth {
				return []studio.ConsentKind{studio.ConsentTreatment, studio.ConsentMouth}
			}
		}
	}
	return []studio.ConsentKind{studio.ConsentTreatment}
}
