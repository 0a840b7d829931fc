// Package remedy changes protocols: one-click fixes of findings ([Apply]) and the
// commands of the workbench ([RunCommand]), such as closing in reverse order or one
// whole side, then the other. A fix evaluates its own outcome and refuses when its
// finding would stay or the same problem would appear elsewhere
// (docs/decisions/0006).
package remedy

import (
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/fitting"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
	"softpalm/words"
)

// Apply returns the protocol changed by a fix for a finding of its own
// evaluation. The finding is gone from the result (a step may have the same fault
// at another zone, which is shown next) and none of its kind is new there. Where a fix
// cannot bring that about, or has nothing left to do, the error is a [words.Sentence]
// that says so. p is not changed.
func Apply(p *protocol.Protocol, ctx *protocol.Context, findingID string, fix evaluation.Fix) (*protocol.Protocol, error) {
	q, _, err := ApplyEvaluated(p, ctx, evaluation.Evaluate(p, ctx), findingID, fix)
	return q, err
}

// ApplyEvaluated is [Apply] to a protocol that is already evaluated; it returns the evaluation of the result as well.
func ApplyEvaluated(
	p *protocol.Protocol,
	ctx *protocol.Context,
	e *evaluation.Evaluation,
	findingID string,
	fix evaluation.Fix,
) (*protocol.Protocol, *evaluation.Evaluation, error) {
	had := make(map[string]bool, len(e.Findings))
	for i := range e.Findings {
		had[e.Findings[i].ID] = true
	}
	q := p
	for range 3 { // taking its own product off a step may leave that of the step before
		next, err := ApplyTo(q, ctx, e, findingID, fix)
		if err != nil {
			return nil, nil, err
		}
		was := e.Find(findingID)
		q, e = next, evaluation.Evaluate(next, ctx)
		again := false
		for i := range e.Findings {
			f := &e.Findings[i]
			if f.Code == was.Code && !had[f.ID] {
				return nil, nil, words.ThisFixWouldCauseSameProblemElsewhere()
			}
			again = again || f.ID == findingID && samePlace(f, was)
		}
		if !again {
			return q, e, nil
		}
	}
	return nil, nil, words.ThisFixNotEnoughHereChooseAnother()
}

// samePlace reports whether two findings speak of the same zone and node.
func samePlace(f, g *evaluation.Finding) bool {
	zone, node := f.Values.Place()
	otherZone, otherNode := g.Values.Place()
	return zone == otherZone && node == otherNode
}

// ApplyTo does once what a fix does to a protocol that is already evaluated,
// without looking at the outcome.
func ApplyTo(
	p *protocol.Protocol,
	ctx *protocol.Context,
	e *evaluation.Evaluation,
	findingID string,
	fix evaluation.Fix,
) (*protocol.Protocol, error) {
	f := e.Find(findingID)
	if f == nil || !offers(f, fix) {
		return nil, words.ProtocolHasChangedFindingIDNoLongerHas(findingID)
	}
	q := p.Clone()
	at := -1
	if len(f.Steps) > 0 {
		at = q.Index(f.Steps[len(f.Steps)-1])
	}
	x := fixer{q, ctx, e, f, at}
	if err := x.do(fix); err != nil {
		return nil, err
	}
	return q, nil
}

func (x *fixer) do(fix evaluation.Fix) error {
	q, at := x.q, x.at
	switch fix {
	case evaluation.LowerPressure:
		return x.lowerPressure()
	case evaluation.TakeTurns:
		q.Steps[at].Sides = stroke.InTurns
	case evaluation.LeaveZone:
		return x.leaveZone()
	case evaluation.DropTool:
		q.Steps[at].Tool, q.Steps[at].Hand = nil, "flat palm"
	case evaluation.ReversePath:
		return x.reversePath()
	case evaluation.MoveBefore:
		return x.moveBefore()
	case evaluation.OpenFirst:
		return x.openFirst()
	case evaluation.OpenAll:
		return x.openAll()
	case evaluation.CarryHome:
		return x.drainToTerminus()
	case evaluation.AddProduct:
		return x.addProduct()
	case evaluation.Blot:
		return x.blot()
	case evaluation.LessProduct:
		return x.lessProduct()
	case evaluation.MirrorStep:
		return x.mirrorStep()
	case evaluation.AnnounceDrop:
		q.Steps[at].Announce = true
	case evaluation.LeaveStep:
		q.Steps = append(q.Steps[:at], q.Steps[at+1:]...)
	case evaluation.ClearSet:
		return x.clearSet()
	case evaluation.ReverseOpen:
		return reverseOpening(q, x.ctx)
	case evaluation.CopyMirror:
		copyMirror(q, at, q.Index(q.Steps[at].MirrorOf))
	case evaluation.SayDeparture:
		q.Steps[at].Departure = "as the practitioner prefers"
	case evaluation.DropProduct:
		q.Steps[at].Use = nil
	case evaluation.AddPhase:
		return x.addPhase()
	case evaluation.StateTime:
		d := stroke.Dose{Kind: stroke.Clock, Planned: x.resolved().Dose.Planned, Min: x.resolved().Least, Max: x.resolved().Most}
		q.Steps[at].Dose = &d
	case evaluation.MistFirst:
		return x.mistFirst()
	case evaluation.ShorterCold:
		return x.shorterCold()
	case evaluation.WorkZone:
		return x.workZone()
	case evaluation.Smoother:
		return x.smoother()
	case evaluation.LessLoad:
		return x.lessLoad()
	case evaluation.UseAlternate:
		return x.useAlternate()
	case evaluation.WearGloves:
		q.Steps[at].Gloves = ""
		return x.wearGloves()
	case evaluation.WashHands:
		return x.insertHygiene("wash-hands")
	case evaluation.ShakeOut:
		return x.insertHygiene("shake-out")
	case evaluation.FitSlot:
		fitted := fitting.Fit(q, x.ctx, q.Minutes.HandsOnTotal())
		if fitted.MissBy != 0 {
			return words.NoChoiceDosesFitsSlotNearestPlan(max(fitted.MissBy, -fitted.MissBy))
		}
		*q = *fitted.Protocol
	}
	return nil
}

func offers(f *evaluation.Finding, fix evaluation.Fix) bool {
	for _, g := range f.Fixes {
		if g == fix {
			return true
		}
	}
	return false
}

type fixer struct {
	q   *protocol.Protocol
	ctx *protocol.Context
	e   *evaluation.Evaluation
	f   *evaluation.Finding
	at  int
}

func (x *fixer) resolved() *evaluation.Resolved { return &x.e.Steps[x.at] }

// path returns the step's path spelled out, ready to be changed.
func (x *fixer) path() []protocol.PathPoint { return x.resolved().Spelled() }

func (x *fixer) smoother() error {
	q := smootherOrder(x.q, x.ctx)
	if q == nil {
		return words.NoOrderThatKeepsOtherRulesFlows()
	}
	for _, f := range evaluation.Evaluate(q, x.ctx).Findings {
		if f.Code == evaluation.FlowBreaks {
			return words.SmoothestOrderThatKeepsOtherRulesStill()
		}
	}
	*x.q = *q
	return nil
}

// wearGloves takes gloves off after the mouth, on the step that kept them.
func (x *fixer) wearGloves() error {
	for i := x.at; i >= 0; i-- {
		if x.q.Steps[i].Gloves == "keep" {
			x.q.Steps[i].Gloves = ""
		}
	}
	return nil
}
