package evaluation

import "softpalm/internal/craft/protocol"

// Avoided is a zone to avoid today that the step works.
type Avoided struct {
	AtZone
	OnSide
}

func (a *Avoided) apart() string { return a.Side }

// excluded reports a zone that is left out today.
func (e *Evaluation) excluded(r *Resolved, zone string, ctx *protocol.Context) {
	for _, x := range ctx.Excluded {
		if x.Zone.Zone().Key == zone && r.meets(x) {
			e.add(ExcludedZone, Stopping, CommonPractice, &Avoided{AtZone{zone}, OnSide{x.Side.String()}}, []Fix{LeaveZone}, r.ID)
		}
	}
}
