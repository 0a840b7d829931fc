package checks

import (
	"context"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/adjusting"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/fitting"
	"softpalm/internal/craft/guide"
	"softpalm/internal/craft/patch"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/reaction"
	"softpalm/internal/craft/slip"
	"softpalm/internal/studio"
	"softpalm/words"
)

// planStore is what a plan is worked out from.
type planStore interface {
	snapshotStore
	studio.LibraryStore
	Packs(ctx context.Context) ([]studio.Pack, error)                                  // that hold something
	Version(ctx context.Context, id uuid.UUID, number int) (*protocol.Protocol, error) // number 0: the newest
	// Pace is the pace of a practitioner: as planned, where nothing was learned.
	Pace(ctx context.Context, practitioner uuid.UUID) (studio.Pace, error)
	Visit(ctx context.Context, id uuid.UUID) (*studio.VisitLine, error)
	Visits(ctx context.Context, from, to time.Time) ([]studio.VisitLine, error) // by start
	ClientVisits(ctx context.Context, client uuid.UUID) ([]studio.VisitLine, error)
	Treatment(ctx context.Context, visit uuid.UUID) (*studio.Treatment, error)
	checkReader
	PreCheck(ctx context.Context, id uuid.UUID) (*studio.PreCheck, error)
	Consents(ctx context.Context, client uuid.UUID) ([]studio.Consent, error)       // newest first
	ClientNotes(ctx context.Context, client uuid.UUID) ([]studio.ClientNote, error) // oldest first
	// TakenProposals are what was taken over from the last treatment with a protocol, with when that was.
	TakenProposals(ctx context.Context, client, protocol uuid.UUID, before time.Time) ([]string, time.Time, error)
}

// planInputs is what a plan is adjusted with: the studio's library and shelf, and
// what is known of the client now.
type planInputs struct {
	lib      *studio.Library
	stock    map[string]float64
	client   *clientSnapshot
	standing []contraindication.Contraindication // of patch tests, reactions and policies
	pace     studio.Pace                         // of the practitioner, 1 where nobody is named
}

// context is the studio's library at the practitioner's pace.
func (w *planInputs) context() *protocol.Context {
	cx := w.lib.Context()
	cx.Pace = w.pace.Pace
	cx.StrokePace = make(map[string]float64, len(w.pace.Strokes))
	for key, own := range w.pace.Strokes {
		cx.StrokePace[key] = own.Pace
	}
	return cx
}

func (s *Service) loadPlanInputs(ctx context.Context, tx planStore, st *studio.Studio, client uuid.UUID) (*planInputs, error) {
	w := &planInputs{stock: map[string]float64{}}
	var err error
	if w.lib, err = studio.ReadLibrary(ctx, tx); err != nil {
		return nil, err
	}
	packs, err := tx.Packs(ctx)
	if err != nil {
		return nil, err
	}
	products := make([]*slip.Product, len(w.lib.Products))
	for i := range w.lib.Products {
		p := &w.lib.Products[i]
		products[i] = &p.Product
		left, _ := studio.UsableOf(packs, p.ID, s.Today(st)).Float64()
		w.stock[p.Key] = left / p.PerML(slip.Measure(p.Unit))
	}
	if w.client, err = s.loadClientSnapshot(ctx, tx, st, client); err != nil {
		return nil, err
	}
	w.standing = slices.Concat(
		patch.PatchOutcomes(w.client.patchNeeds(products, s.Now())),
		reaction.Outcomes(w.client.barred(s.Now())),
		contraindication.PolicyOutcomes(st.Own.Policies),
	)
	return w, nil
}

// outcomes are those of a pre-treatment check, with what patch tests, earlier reactions and the
// studio's policies ask now.
func (w *planInputs) outcomes(sc *studio.PreCheck) []contraindication.Contraindication {
	return append(slices.Clone(sc.Result.Outcomes), w.standing...)
}

// concerning leaves out what patch tests, reactions and policies ask of other plans: products that this one
// does not use, and work in the mouth that it does not have.
func concerning(
	outcomes []contraindication.Contraindication,
	p *protocol.Protocol,
	cx *protocol.Context,
) []contraindication.Contraindication {
	return slices.DeleteFunc(slices.Clone(outcomes), func(o contraindication.Contraindication) bool {
		if o.Rule == contraindication.NoMouth {
			return !slices.Contains(consentsFor(evaluation.Evaluate(p, cx)), studio.ConsentMouth)
		}
		return len(o.Outcome.Products) > 0 && !slices.ContainsFunc(p.Steps, func(s protocol.Step) bool {
			return s.Use != nil && slices.Contains(o.Outcome.Products, s.Use.Product)
		})
	})
}

// overridden are the rules that are overridden for the whole plan, and those for a step, by step.
func overridden(p *protocol.Protocol, overrides []studio.Override) (whole []string, steps map[string][]string) {
	whole, steps = []string{}, map[string][]string{}
	for _, o := range overrides {
		if o.Step == "" {
			whole = append(whole, o.Rule)
		} else {
			id := stepOf(p, o.Step)
			steps[id] = append(steps[id], o.Rule)
		}
	}
	return whole, steps
}

// adjust fits a version of a protocol to the client today.
func (w *planInputs) adjust(
	ctx context.Context,
	tx planStore,
	id uuid.UUID,
	version int,
	sc *studio.PreCheck,
	want *studio.PlanOptions,
	toBed float64,
) (*studio.Plan, error) {
	p, err := tx.Version(ctx, id, version)
	if err != nil {
		return nil, err
	}
	cx := w.context()
	cx.SkinType, cx.SkinStates, cx.ToBed = w.client.client.SkinType, w.client.client.SkinStates, toBed
	cx.LongNails = want.Practitioner.LongNails
	if ps := p.Validate(cx, ""); len(ps) > 0 {
		return nil, &studio.StateError{Code: "protocol-outdated", Sentence: words.ThisVersionUsesStrokeToolOrProduct()}
	}
	p, fitted := fittedTo(p, cx, want.HandsOn)
	outcomes := w.outcomes(sc)
	whole, steps := overridden(p, want.Overrides)
	c := contraindication.Merge(contraindication.WithoutOverridden(outcomes, whole))
	c.OnShelf(w.stock)
	for of, take := range want.Instead {
		c.Prefer(of, take)
	}
	out := &studio.Plan{
		PreCheck:               sc,
		Fitted:                 fitted,
		OverridableRules:       []string{},
		OverridableAdjustments: []string{},
		SkinVariants:           []string{},
		Stock:                  w.stock,
	}
	variants := adjusting.VariantsForSkin(p, cx.SkinType, cx.SkinStates)
	for _, v := range variants {
		out.SkinVariants = append(out.SkinVariants, v.Name)
	}
	if want.SkipSkinVariants {
		variants = nil
	}
	skinOff := map[string]bool{}
	for _, step := range want.SkinOffSteps {
		id := stepOf(p, step)
		skinOff[id] = true
		c.LeaveSkinOut(id)
		if _, decided := steps[id]; !decided {
			steps[id] = nil
		}
	}
	for step, rules := range steps {
		without := contraindication.Merge(contraindication.WithoutOverridden(outcomes, append(rules, whole...)))
		if !skinOff[step] {
			adjusting.ConstrainByVariants(without, variants)
		}
		c.Waive(step, without)
	}
	told := concerning(outcomes, p, cx)
	out.AdjustedPlan, out.Outcomes = adjusting.AdjustForSkin(p, cx, c, variants, p.Minutes.HandsOn), told
	for _, o := range told {
		if !slices.Contains(out.OverridableRules, o.Rule) && contraindication.MayOverride(outcomes, o.Rule) {
			out.OverridableRules = append(out.OverridableRules, o.Rule)
		}
	}
	for i := range out.Adjustments {
		if ch := &out.Adjustments[i]; len(steps[stepOf(p, ch.Step)]) > 0 {
			ch.AskAgain()
		}
		if adjusting.MayOverrideAdjustment(outcomes, &out.Adjustments[i]) {
			out.OverridableAdjustments = append(out.OverridableAdjustments, out.Adjustments[i].ID)
		}
	}
	return out, nil
}

// fittedTo brings a protocol to fewer minutes of hands-on time, as its client came late: the sold end
// stays.
func fittedTo(p *protocol.Protocol, cx *protocol.Context, handsOn int) (*protocol.Protocol, *studio.FittedPlan) {
	if handsOn <= 0 || handsOn >= p.Minutes.HandsOn {
		return p, nil
	}
	q := p.Clone()
	q.Minutes.Treatment -= p.Minutes.HandsOn - handsOn
	q.Minutes.HandsOn = handsOn
	f := fitting.Fit(q, cx, handsOn*60)
	out := &studio.FittedPlan{Minutes: handsOn, Shorter: len(f.Changed) + len(f.Rounds), LeftOut: []string{}, OverBy: max(f.MissBy, 0)}
	for _, id := range f.Dropped {
		r := evaluation.Resolve(q, q.Index(id), cx)
		out.LeftOut = append(out.LeftOut, r.Name)
	}
	return f.Protocol, out
}

// stepOf is the step of the published plan that a step of a adjusted one comes
// from: one whose sides were parted carries its side behind its id.
func stepOf(p *protocol.Protocol, id string) string {
	if p.Index(id) < 0 {
		for _, side := range []string{"-left", "-right"} {
			if stem, ok := strings.CutSuffix(id, side); ok && p.Index(stem) >= 0 {
				return stem
			}
		}
	}
	return id
}

// PlanFor previews the plan of a visit: its version adjusted to today's pre-treatment
// check, as if some of it were overridden.
func (s *Service) PlanFor(ctx context.Context, a *studio.Actor, visit uuid.UUID, want studio.PlanOptions) (*studio.Plan, error) {
	if err := a.May("get-plan"); err != nil {
		return nil, err
	}
	var out *studio.Plan
	err := studio.In(ctx, s.Kernel, a, func(tx planStore, st *studio.Studio) error {
		v, err := tx.Visit(ctx, visit)
		if err != nil {
			return err
		}
		if err := a.MayVisit("get-plan", &v.Visit); err != nil {
			return err
		}
		if out, err = s.Prepare(ctx, tx, st, v, &want); err != nil || !want.None() {
			return err // the same look goes on
		}
		return s.Audit(ctx, tx, a, "look", "client", v.Client)
	})
	return out, err
}

// Prepare works out a visit's plan inside a transaction.
func (s *Service) Prepare(
	ctx context.Context,
	within studio.Tx,
	st *studio.Studio,
	v *studio.VisitLine,
	want *studio.PlanOptions,
) (*studio.Plan, error) {
	tx := studio.As[planStore](within)
	if v.Kind != studio.ForTreatment {
		return nil, &studio.StateError{Code: "no-treatment", Sentence: words.ThisAppointmentForPatchTestSoThere()}
	}
	sc, err := todaysPreCheck(ctx, tx, v.Client, s.Today(st))
	if err != nil {
		return nil, noPreCheck(err)
	}
	w, err := s.loadPlanInputs(ctx, tx, st, v.Client)
	if err != nil {
		return nil, err
	}
	if w.pace, err = tx.Pace(ctx, v.Practitioner); err != nil {
		return nil, err
	}
	about := w.client.history()
	p, err := w.adjust(ctx, tx, v.Protocol, v.Version, sc, want, about.MinutesToBed(v.EndsAt.In(st.Zone())))
	if err != nil {
		return nil, err
	}
	published, err := tx.Version(ctx, v.Protocol, v.Version)
	if err != nil {
		return nil, err
	}
	p.Pace = w.pace
	cx := w.context()
	cx.SkinType, cx.SkinStates = w.client.client.SkinType, w.client.client.SkinStates
	p.AsPublished = evaluation.EvaluateWithSetUp(published, cx)
	cx.Excluded = contraindication.Merge(p.Outcomes).Excluded()
	cx.ToBed, cx.LongNails = about.MinutesToBed(v.EndsAt.In(st.Zone())), want.Practitioner.LongNails
	if err := s.loadPlanContext(ctx, tx, st, v, cx); err != nil {
		return nil, err
	}
	p.Evaluation = evaluation.EvaluateWithSetUp(p.Protocol, cx)
	p.ToRefit = fitting.StepsToRefit(p.Protocol, cx, p.Evaluation, guide.SpellKey)
	p.SkinType, p.SkinStates = cx.SkinType, cx.SkinStates
	p.Amounts, p.Demands = studio.AmountsOf(p.Evaluation, p.Protocol.Key, w.lib.Products), studio.DemandsOf(p.Evaluation, cx)
	p.PractitionerNotes = want.Practitioner.PractitionerNotes(p.Evaluation)
	taken, at, err := tx.TakenProposals(ctx, v.Client, v.Protocol, v.StartsAt)
	if err != nil {
		return nil, err
	}
	for _, text := range taken {
		p.PractitionerNotes = append(p.PractitionerNotes, words.BriefForNextTime(at.In(st.Zone()).Format("2 Jan"), text))
	}
	notes, err := tx.ClientNotes(ctx, v.Client)
	if err != nil {
		return nil, err
	}
	p.ClientNotes = studio.NotesAt(notes, p.Evaluation)
	p.MissingConsents, err = missingConsents(ctx, tx, v.Client, p.Evaluation)
	return p, err
}
