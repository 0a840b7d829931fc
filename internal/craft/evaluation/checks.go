package evaluation

import (
	"math"

	"softpalm/internal/craft/protocol"
)

func (e *Evaluation) add(code Code, sev Severity, basis Basis, found Payload, fixes []Fix, steps ...string) {
	id := string(code)
	if len(steps) > 0 {
		id += ":" + steps[len(steps)-1]
	}
	if of := found.apart(); of != "" {
		id += ":" + of
	}
	for i := range e.Findings {
		f := &e.Findings[i]
		if f.ID != id {
			continue
		}
		// one of a kind a step is enough: the worst
		if sev.graver(f.Severity) || sev == f.Severity && isWorse(found, f.Values) {
			f.Severity, f.Values, f.Basis, f.Fixes = sev, found, basis, fixes
		}
		return
	}
	if steps == nil {
		steps = []string{}
	}
	if fixes == nil {
		fixes = []Fix{}
	}
	e.Findings = append(
		e.Findings,
		Finding{ID: id, Code: code, Severity: sev, Steps: steps, Values: found, Basis: basis, Fixes: fixes},
	)
}

func isWorse(a, b Payload) bool {
	w, ok := a.(interface{ worse(than Payload) bool })
	return ok && w.worse(b)
}

// findings runs every check that applies. A collection has no order, so only
// what a stroke is in itself is judged.
func (e *Evaluation) findings(p *protocol.Protocol, ctx *protocol.Context) {
	defer func() { e.putAside(p) }()
	e.Findings = make([]Finding, 0, 16)
	e.NotStated = []Unsaid{}
	for i := range e.Steps {
		r := &e.Steps[i]
		e.checkThere(r, ctx)
		e.checkPressure(r, ctx)
		e.checkDirection(r, p.Method)
		e.checkSpeed(r)
		e.checkSuitability(r, p, ctx)
		e.gaps(r)
		e.checkTimed(r, p, ctx)
		e.checkEvent(r, p, ctx)
	}
	e.load()
	e.hygiene(p, ctx)
	e.tiring(ctx)
	if p.Collection {
		sortFindings(e.Findings)
		return
	}
	e.announcements(p)
	e.followFluid(p, ctx)
	e.balance()
	e.mirrors(p)
	e.closingOrder(p)
	e.layOutTissues(p)
	if p.OneFlow() {
		e.fit()
		if len(e.Steps) > 0 && p.OnClient() {
			e.phases(p, ctx)
		}
	}
	e.promises(p)
	e.flow()
	e.habits(ctx)
	sortFindings(e.Findings)
}

// followFluid follows what flows through the visits: lymph, and product on the skin.
func (e *Evaluation) followFluid(p *protocol.Protocol, ctx *protocol.Context) {
	e.drainage(p, ctx)
	e.followSlip(p, ctx)
}

// putAside marks the findings that the plan dismisses: notes as they are,
// warnings with their reason, nothing that stops.
func (e *Evaluation) putAside(p *protocol.Protocol) {
	for _, d := range p.Dismissed {
		f := e.Find(d.Finding)
		if f != nil && (f.Severity == Note || f.Severity == Warning && d.Why != "") {
			f.Dismissed, f.Why = true, d.Why
		}
	}
}

// sortFindings puts the gravest first and keeps the order otherwise.
func sortFindings(fs []Finding) {
	for i := 1; i < len(fs); i++ {
		for j := i; j > 0 && fs[j].Severity.graver(fs[j-1].Severity); j-- {
			fs[j], fs[j-1] = fs[j-1], fs[j]
		}
	}
}

func round2(x float64) float64 { return math.Round(x*100) / 100 }
