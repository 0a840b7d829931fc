package studio

import (
	"context"
	"slices"
	"strconv"
	"strings"

	"github.com/google/uuid"

	"softpalm/internal/craft/adjusting"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/patch"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/slip"
)

// Wanted is what the practitioner asks of a visit's plan besides what the door
// check asks.
type Wanted struct {
	Overrules []Overrule `json:"overrules" maxItems:"200"`
	// Instead names, by the key of a product that may not be used, the one to take.
	Instead map[string]string `json:"instead,omitempty"`
	// AnySkin leaves out what the protocol itself changes for the client's skin.
	AnySkin bool `json:"anySkin,omitempty"`
	// Hands is the practitioner's own side.
	Hands adjusting.Hands `json:"hands,omitempty"`
}

// none reports whether nothing is asked.
func (w *Wanted) none() bool {
	return len(w.Overrules)+len(w.Instead) == 0 && !w.AnySkin && w.Hands == adjusting.Hands{}
}

// Plan is a visit's plan for today, and what it still needs.
type Plan struct {
	adjusting.Tailored
	Screening *Screening
	// Outcomes are those of the check, and of patch tests as they stand now.
	Outcomes []contraindication.Applied
	// Before is the plan as published, for the same skin, without today's cautions.
	Before *evaluation.Evaluation
	// Missing are the consents without which it cannot start.
	Missing []ConsentKind
	// Overrulable are the rules whose demands may be set aside with a reason, as a
	// whole; TakeBack the changes that may be taken back one by one.
	Overrulable []string
	TakeBack    []string
	// Stock is how many mL of each product may be used today, by key.
	Stock map[string]float64
	// ForSkin are the names of the protocol's variants for the client's skin, taken
	// or not.
	ForSkin []string
	// Minds are the things that practitioners see to on their own side.
	Minds []string
}

// workplace is what a plan is tailored with: the studio's library and shelf, and
// what is known of the client now.
type workplace struct {
	lib   *Library
	stock map[string]float64
	told  *told
	more  []contraindication.Applied // of patch tests and policies
}

func (s *Service) workplace(ctx context.Context, tx Tx, st *Studio, client uuid.UUID) (*workplace, error) {
	w := &workplace{stock: map[string]float64{}}
	var err error
	if w.lib, err = readLibrary(ctx, tx); err != nil {
		return nil, err
	}
	lots, err := tx.Lots(ctx)
	if err != nil {
		return nil, err
	}
	products := make([]*slip.Product, len(w.lib.Products))
	for i := range w.lib.Products {
		p := &w.lib.Products[i]
		products[i] = &p.Product
		for _, l := range lotsOf(lots, p.ID) {
			if l.Usable(s.today(st)) {
				left, _ := l.Left.Float64()
				w.stock[p.Key] += left / p.PerML(slip.Measure(p.Unit))
			}
		}
	}
	if w.told, err = s.told(ctx, tx, st, client); err != nil {
		return nil, err
	}
	w.more = append(patch.PatchOutcomes(w.told.patchNeeds(products, s.Now())), contraindication.PolicyOutcomes(st.Own.Policies)...)
	return w, nil
}

// outcomes are those of a door check, with what patch tests and the studio's
// policies ask now.
func (w *workplace) outcomes(sc *Screening) []contraindication.Applied {
	return append(slices.Clone(sc.Result.Outcomes), w.more...)
}

// tailor fits a version of a protocol to the client today.
func (w *workplace) tailor(ctx context.Context, tx Tx, id uuid.UUID, version int, sc *Screening, want *Wanted, toBed float64) (*Plan, error) {
	p, err := tx.Version(ctx, id, version)
	if err != nil {
		return nil, err
	}
	cx := w.lib.context()
	cx.SkinType, cx.SkinStates, cx.ToBed = w.told.client.SkinType, w.told.client.SkinStates, toBed
	cx.LongNails = want.Hands.LongNails
	if ps := p.Validate(cx, ""); len(ps) > 0 {
		return nil, &StateError{"protocol-outdated", "This version uses a stroke, tool or product that is no longer there. Open the protocol and publish a new version."}
	}
	outcomes := w.outcomes(sc)
	whole := []string{}
	steps := map[string][]string{}
	for _, o := range want.Overrules {
		if o.Step == "" {
			whole = append(whole, o.Rule)
		} else {
			id := stepOf(p, o.Step)
			steps[id] = append(steps[id], o.Rule)
		}
	}
	c := contraindication.Merge(contraindication.Overruled(outcomes, whole))
	c.OnShelf(w.stock)
	for of, take := range want.Instead {
		c.Instead(of, take)
	}
	out := &Plan{Screening: sc, Overrulable: []string{}, TakeBack: []string{}, ForSkin: []string{}, Stock: w.stock}
	variants := adjusting.VariantsForSkin(p, cx.SkinType, cx.SkinStates)
	for _, v := range variants {
		out.ForSkin = append(out.ForSkin, v.Name)
	}
	if want.AnySkin {
		variants = nil
	}
	for step, rules := range steps {
		without := contraindication.Merge(contraindication.Overruled(outcomes, append(rules, whole...)))
		adjusting.ConstrainByVariants(without, variants)
		c.Waive(step, without)
	}
	told := slices.DeleteFunc(slices.Clone(outcomes), func(o contraindication.Applied) bool { // of patch tests and policies only what concerns this plan
		if o.Rule == contraindication.NoMouth {
			return !slices.Contains(consentsFor(evaluation.Evaluate(p, cx)), ConsentMouth)
		}
		return len(o.Outcome.Products) > 0 && !slices.ContainsFunc(p.Steps, func(s protocol.Step) bool { return s.Use != nil && slices.Contains(o.Outcome.Products, s.Use.Product) })
	})
	out.Tailored, out.Outcomes = adjusting.TailorForSkin(p, cx, c, variants, p.Minutes.HandsOn), told
	for _, o := range told {
		if !slices.Contains(out.Overrulable, o.Rule) && contraindication.MayOverrule(outcomes, o.Rule) {
			out.Overrulable = append(out.Overrulable, o.Rule)
		}
	}
	for i := range out.Changes {
		if adjusting.MayOverruleChange(outcomes, &out.Changes[i]) {
			out.TakeBack = append(out.TakeBack, out.Changes[i].ID)
		}
	}
	return out, nil
}

// stepOf is the step of the published plan that a step of a tailored one comes
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

// PlanFor previews the plan of a visit: its version tailored to today's door
// check, as if some of it were overruled.
func (s *Service) PlanFor(ctx context.Context, a *Actor, visit uuid.UUID, want Wanted) (*Plan, error) {
	if err := a.may(Owner, Practitioner); err != nil {
		return nil, err
	}
	var out *Plan
	err := s.in(ctx, a, func(tx Tx, st *Studio) error {
		v, err := tx.Visit(ctx, visit)
		if err != nil {
			return err
		}
		if out, err = s.planFor(ctx, tx, st, v, &want); err != nil || !want.none() {
			return err // the same look goes on
		}
		return s.audit(ctx, tx, a, "look", "client", v.Client)
	})
	return out, err
}

func (s *Service) planFor(ctx context.Context, tx Tx, st *Studio, v *VisitLine, want *Wanted) (*Plan, error) {
	if v.Kind != ForTreatment {
		return nil, &StateError{"no-treatment", "This visit is for a patch test; there is no treatment to plan."}
	}
	sc, err := todaysScreening(ctx, tx, v.Client, s.today(st))
	if err != nil {
		return nil, noDoorCheck(err)
	}
	w, err := s.workplace(ctx, tx, st, v.Client)
	if err != nil {
		return nil, err
	}
	about := w.told.about()
	p, err := w.tailor(ctx, tx, v.Protocol, v.Version, sc, want, about.minutesToBed(v.EndsAt.In(st.Zone())))
	if err != nil {
		return nil, err
	}
	published, err := tx.Version(ctx, v.Protocol, v.Version)
	if err != nil {
		return nil, err
	}
	cx := w.lib.context()
	cx.SkinType, cx.SkinStates = w.told.client.SkinType, w.told.client.SkinStates
	p.Before = evaluation.EvaluateWhole(published, cx)
	cx.Excluded = contraindication.Merge(p.Outcomes).Excluded()
	cx.ToBed, cx.LongNails = about.minutesToBed(v.EndsAt.In(st.Zone())), want.Hands.LongNails
	if err := s.around(ctx, tx, st, v, cx); err != nil {
		return nil, err
	}
	p.Evaluation = evaluation.EvaluateWhole(p.Protocol, cx)
	p.Minds = want.Hands.Minds(p.Evaluation)
	p.Missing, err = missingConsents(ctx, tx, v.Client, p.Evaluation)
	return p, err
}

// planProducts remembers the shelf and the products of the protocol versions it
// was asked for. The zero value remembers nothing yet.
type planProducts struct {
	shelf []Product
	known map[string][]*slip.Product
}

// of lists the products a visit's plan uses, by name; none for a patch test.
func (m *planProducts) of(ctx context.Context, tx Tx, v *VisitLine) ([]*slip.Product, error) {
	if v.Kind != ForTreatment {
		return nil, nil
	}
	version := v.Protocol.String() + "/" + strconv.Itoa(v.Version)
	if list, ok := m.known[version]; ok {
		return list, nil
	}
	var err error
	if m.known == nil {
		m.known = map[string][]*slip.Product{}
		if m.shelf, err = tx.Products(ctx); err != nil {
			return nil, err
		}
	}
	keys, err := tx.VersionProducts(ctx, v.Protocol, v.Version)
	if err != nil {
		return nil, err
	}
	list := []*slip.Product{}
	for k := range m.shelf {
		if slices.Contains(keys, m.shelf[k].Key) {
			list = append(list, &m.shelf[k].Product)
		}
	}
	m.known[version] = list
	return list, nil
}
