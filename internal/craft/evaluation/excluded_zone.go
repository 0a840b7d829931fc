package evaluation

import "softpalm/internal/craft/protocol"

// excluded reports a zone that is left out today.
func (e *Evaluation) excluded(r *Resolved, zone string, ctx *protocol.Context) {
	for _, x := range ctx.Excluded {
		if x.Zone.Zone().Key == zone && r.meets(x) {
			e.add(ExcludedZone, Stopping, CommonPractice, values{"zone": zone, "side": x.Side.String()}, []Fix{LeaveZone}, r.ID)
		}
	}
}
