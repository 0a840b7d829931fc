// Package drafting suggests the first draft of a protocol from a short question:
// which concerns, how many minutes, for which skin, with which tools and products.
// [Draft] answers with a complete protocol that is fitted to its time; notes may remain.
package drafting

import (
	"cmp"
	"maps"
	"slices"
	"strings"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/fitting"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/remedy"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
	"softpalm/words"
)

// Question is what a first draft is composed from. Tools and Products are what
// is available, by key; Minutes is hands-on time.
type Question struct {
	SkinType   string          `json:"skinType,omitempty" enum:"dry,normal,combination,oily,"`
	SkinStates []string        `json:"skinStates,omitempty" maxItems:"7"`
	Concerns   []string        `json:"concerns,omitempty" maxItems:"6"`
	Minutes    int             `json:"minutes" minimum:"5" maximum:"120"`
	Tools      []string        `json:"tools,omitempty" maxItems:"40"`
	Products   []string        `json:"products,omitempty" maxItems:"100"`
	Method     protocol.Method `json:"school"`
}

// NoDraft is a plain reason why no plan can be composed.
type NoDraft struct {
	// Code is one of no-slip, no-stroke, too-short, too-long, not-passing.
	Code  string
	Zones []string
	Steps []string
}

func (n *NoDraft) Error() string { return n.sentence().Message }

// Unwrap is the sentence that says what is in the way and what to do.
func (n *NoDraft) Unwrap() error { return n.sentence() }

func (n *NoDraft) sentence() words.Sentence {
	switch n.Code {
	case "no-slip":
		return words.DraftNoSlip()
	case "no-stroke":
		return words.DraftNoStroke(strings.Join(n.Zones, ", "))
	case "too-short":
		return words.DraftTooShort()
	case "too-long":
		return words.DraftTooLong()
	}
	return words.DraftNotPassing(strings.Join(n.Steps, ", "))
}

// Draft composes a first plan from the library: the zones of every concern
// worked with strokes the skin tolerates, opened and closed as the method asks, with
// a product that slides long enough, fitted to its minutes, and passing its own
// checks without a warning. The error is a [*NoDraft].
func Draft(q Question, ctx *protocol.Context) (*protocol.Protocol, error) {
	d := newDrafting(q, ctx)
	if err := d.choose(); err != nil {
		return nil, err
	}
	// Work is added from the best on until the slot is full, then fitted; what
	// cannot be made to pass is left out.
	var err error
	for range 40 {
		p := d.compose()
		f := fitting.Fit(p, d.ctx, q.Minutes*60)
		if f.MissBy > 0 {
			if !d.less() {
				return nil, &NoDraft{Code: "too-short"}
			}
			continue
		}
		if f.MissBy < 0 {
			if !d.more() {
				return nil, &NoDraft{Code: "too-long"}
			}
			continue
		}
		var done *protocol.Protocol
		var offending []string
		if done, offending = d.polish(f.Protocol); done != nil {
			return done, nil
		}
		err = &NoDraft{Code: "not-passing", Steps: offending}
		if !d.without(offending) && !d.less() {
			break
		}
	}
	if err == nil {
		err = &NoDraft{Code: "too-short"}
	}
	return nil, err
}

type candidate struct {
	st    *stroke.Stroke
	score float64
	must  bool // the only one chosen for a promised zone
}

type drafting struct {
	q        Question
	ctx      *protocol.Context
	slip     *slip.Product
	chosen   []candidate
	waiting  []candidate
	stretch  int // how often doses were given a wider range
	barred   map[string]bool
	redden   bool
	concerns []*protocol.Concern
}

func newDrafting(q Question, ctx *protocol.Context) *drafting {
	inner := *ctx
	inner.SkinType, inner.SkinStates = q.SkinType, q.SkinStates
	d := &drafting{q: q, ctx: &inner, barred: map[string]bool{}}
	for _, key := range q.Concerns {
		if c := protocol.ConcernOf(key); c != nil {
			d.concerns = append(d.concerns, c)
		}
	}
	d.redden = q.Method.Redness != "avoided" && !slices.Contains(q.Concerns, "event-tomorrow")
	if !d.redden {
		d.q.Method.Redness = "avoided"
	}
	return d
}

// suits reports whether a stroke may be in the plan at all.
func (d *drafting) suits(st *stroke.Stroke) bool {
	switch st.Intent {
	case stroke.Drain, stroke.Lift, stroke.Release, stroke.Soothe, stroke.Tone, stroke.Stimulate:
	default:
		return false
	}
	if len(st.Zones()) == 0 && st.Intent != stroke.Tone || d.barred[st.Key] ||
		d.q.Method.DrainageOrUsual() == "none" && st.Intent == stroke.Drain {
		return false
	}
	if d.q.Method.DrainageOrUsual() == "whole" && st.Intent != stroke.Drain {
		return false
	}
	kind := ""
	if st.Tool != nil {
		if !slices.Contains(d.q.Tools, st.Tool.Key) || d.ctx.Tools[st.Tool.Key].Name == "" {
			return false
		}
		kind = d.ctx.Tools[st.Tool.Key].Kind
	}
	for _, z := range st.Zones() {
		id, ok := anatomy.Lookup(z)
		if !ok || id.Zone().Region == anatomy.Mouth || id.Zone().Region == anatomy.AddOn {
			return false // inside the mouth is its own consent, not a first draft
		}
	}
	rubs := slices.Contains(st.AllFamilies(), stroke.Friction) || slices.Contains(st.AllFamilies(), stroke.Tapotement)
	if !d.redden && (rubs || kind == "cup" || kind == "mitt") {
		return false
	}
	dry := d.q.Method.Slip == "dry"
	delicate := slices.ContainsFunc(st.Zones(), func(z string) bool { id, _ := anatomy.Lookup(z); return id.Zone().Delicate })
	if dry && (st.Glide == stroke.StoneGlide || st.Relation == stroke.Slides && delicate) {
		return false
	}
	_, ok := d.ctx.Bears(st.AllFamilies(), st.Intent, kind, func(zones []string) bool {
		return slices.ContainsFunc(st.Zones(), func(z string) bool { return slices.Contains(zones, z) })
	})
	return ok
}

// score is how well a stroke serves the concerns, earlier ones counting more.
func (d *drafting) score(st *stroke.Stroke) float64 {
	score := 0.0
	for rank, c := range d.concerns {
		in := slices.Index(c.Intents, st.Intent)
		n := 0
		for _, z := range c.Zones {
			if slices.Contains(st.Zones(), z) {
				n++
			}
		}
		if n > 0 && in >= 0 {
			score += (1 + 0.3*float64(n-1)) * (1 - 0.25*float64(in)) / (1 + 0.5*float64(rank))
		} else if n > 0 {
			score += 0.2
		}
	}
	switch st.Intent {
	case stroke.Soothe, stroke.Drain:
		score += 0.15
	case stroke.Lift:
		score += 0.1
	case stroke.Tone:
		score -= 0.1
	}
	if st.Tool != nil {
		score += 0.3 // what was laid out is meant to be used
	}
	return score
}

// choose picks the product, then strokes so that every promised zone is worked,
// then keeps the others by score.
func (d *drafting) choose() error {
	if d.q.Method.Slip != "dry" {
		if d.slip = d.slipProduct(); d.slip == nil {
			return &NoDraft{Code: "no-slip"}
		}
	}
	var all []candidate
	for _, k := range slices.Sorted(maps.Keys(d.ctx.Strokes)) {
		if st := d.ctx.Strokes[k]; d.suits(st) {
			all = append(all, candidate{st: st, score: d.score(st)})
		}
	}
	slices.SortStableFunc(all, func(a, b candidate) int { return cmp.Compare(b.score, a.score) })
	var missing []string
	for _, c := range d.concerns {
		for _, z := range c.Zones {
			covered := slices.ContainsFunc(d.chosen, func(x candidate) bool { return slices.Contains(x.st.Zones(), z) })
			if covered {
				continue
			}
			best := -1
			for i := range all {
				if slices.Contains(all[i].st.Zones(), z) && !all[i].must && d.layable(all[i].st) &&
					(best < 0 || slices.Contains(c.Intents, all[i].st.Intent) && !slices.Contains(c.Intents, all[best].st.Intent)) {
					best = i
				}
			}
			if best < 0 {
				missing = append(missing, z)
				continue
			}
			all[best].must = true
			d.chosen = append(d.chosen, all[best])
		}
	}
	if len(missing) > 0 {
		return &NoDraft{Code: "no-stroke", Zones: missing}
	}
	for _, c := range all {
		if !c.must {
			d.waiting = append(d.waiting, c)
		}
	}
	target := float64(d.q.Minutes*60) * 0.92
	for evaluation.EvaluateTimeline(d.compose(), d.ctx).Seconds < target && d.take() {
	}
	if len(d.chosen) == 0 && !d.more() {
		return &NoDraft{Code: "no-stroke", Zones: []string{}}
	}
	return nil
}

// more takes another stroke; where none is left, doses get a wider range, twice.
func (d *drafting) more() bool {
	if d.take() {
		return true
	}
	d.stretch++
	return d.stretch <= 2
}

// take adds the best waiting stroke that is no copy of one that is in.
func (d *drafting) take() bool {
	for i, c := range d.waiting {
		twin := func(x candidate) bool {
			return x.st.Intent == c.st.Intent && slices.Equal(x.st.Zones(), c.st.Zones())
		}
		if slices.ContainsFunc(d.chosen, twin) && len(d.waiting) > i+1 || !d.layable(c.st) {
			continue
		}
		d.waiting = slices.Delete(d.waiting, i, i+1)
		d.chosen = append(d.chosen, c)
		return true
	}
	return false
}

// layable reports whether a stroke's tool is in the plan already, or there is room
// for another: every tool is laid out, picked up and cleaned.
func (d *drafting) layable(st *stroke.Stroke) bool {
	if st.Tool == nil {
		return true
	}
	var tools []string
	for _, c := range d.chosen {
		if c.st.Tool != nil && !slices.Contains(tools, c.st.Tool.Key) {
			tools = append(tools, c.st.Tool.Key)
		}
	}
	most := 1
	switch {
	case d.q.Minutes > 30:
		most = 3
	case d.q.Minutes > 15:
		most = 2
	}
	return len(tools) < most || slices.Contains(tools, st.Tool.Key)
}

// less takes out the least stroke that no promise rests on.
func (d *drafting) less() bool {
	for i := len(d.chosen) - 1; i >= 0; i-- {
		if !d.chosen[i].must {
			d.chosen = slices.Delete(d.chosen, i, i+1)
			return true
		}
	}
	return false
}

// without leaves strokes out for good and chooses again.
func (d *drafting) without(steps []string) bool {
	changed := false
	for _, key := range steps {
		if !d.barred[key] && slices.ContainsFunc(d.chosen, func(c candidate) bool { return c.st.Key == key }) {
			d.barred[key], changed = true, true
		}
	}
	if !changed {
		return false
	}
	d.chosen, d.waiting = nil, nil
	return d.choose() == nil
}

// slipForms in the order of preference.
var slipForms = []slip.Form{slip.Oil, slip.MassageCream, slip.MoistSerum, slip.Balm, slip.Milk, slip.DayCream}

func (d *drafting) slipProduct() *slip.Product {
	var best *slip.Product
	rank := 0
	for _, k := range slices.Sorted(slices.Values(d.q.Products)) {
		p := d.ctx.Products[k]
		if p == nil || !d.may(p) {
			continue
		}
		r := slices.Index(slipForms, p.Form)
		if r < 0 || p.Form == slip.Milk {
			continue
		}
		if d.ctx.SkinType == "oily" && p.Form == slip.MoistSerum {
			r = -1
		}
		if p.HasTag("essential-oil", "fragrance") {
			r += 10
		}
		if p.HasTag("nut-oil", "bee-product", "lanolin") {
			r += 3 // kept for clients who are known to bear it
		}
		if best == nil || r < rank {
			best, rank = p, r
		}
	}
	return best
}

// may reports whether a product suits the skin.
func (d *drafting) may(p *slip.Product) bool {
	if slices.ContainsFunc(p.Unsuited, d.ctx.HasSkin) {
		return false
	}
	if d.ctx.HasSkin("sensitive") && p.HasTag("fragrance", "essential-oil") {
		return false
	}
	return !d.ctx.HasSkin("acne-prone") || !p.HasTag("clogging")
}

func (d *drafting) productOf(form slip.Form) *slip.Product {
	for _, k := range slices.Sorted(slices.Values(d.q.Products)) {
		if p := d.ctx.Products[k]; p != nil && p.Form == form && d.may(p) {
			return p
		}
	}
	return nil
}

// amount doses a share of a full dose in the measure the hand uses.
func amount(p *slip.Product, share float64) slip.Amount {
	mL := p.FullDose * share
	switch {
	case p.DropsPerML > 0 && mL*p.DropsPerML <= 40:
		return slip.Amount{Value: max(1, float64(int(mL*p.DropsPerML+0.5))), Measure: slip.Drops}
	case p.MLPerPump > 0 && mL >= p.MLPerPump:
		return slip.Amount{Value: float64(int(2*mL/p.MLPerPump+0.5)) / 2, Measure: slip.Pumps}
	}
	return slip.Amount{Value: max(0.1, float64(int(mL*10+0.5))/10), Measure: slip.ML}
}

// workOrder sorts work: the neck, chest and shoulders first, then from the
// forehead down; within a region what frees a muscle before what lifts, and what
// drains last; hands before tools, tools together.
func workOrder(a, b candidate) int {
	tool := func(c candidate) string {
		if c.st.Tool == nil {
			return ""
		}
		return c.st.Tool.Key
	}
	return cmp.Or(
		cmp.Compare(tool(a), tool(b)),
		cmp.Compare(regionRank(a.st), regionRank(b.st)),
		cmp.Compare(intentRank(a.st.Intent), intentRank(b.st.Intent)),
		cmp.Compare(a.st.Key, b.st.Key),
	)
}

func regionRank(st *stroke.Stroke) int {
	if len(st.Zones()) == 0 {
		return 9
	}
	id, _ := anatomy.Lookup(st.Zones()[0])
	switch id.Zone().Region {
	case anatomy.Shoulder, anatomy.Chest:
		return 0
	case anatomy.Scalp:
		return 1
	case anatomy.Upper:
		return 2
	case anatomy.Middle:
		if evaluation.EyeZone(st.Zones()[0]) {
			return 3
		}
		return 4
	case anatomy.Lower:
		return 5
	case anatomy.SideFace:
		return 6
	}
	return 7
}

func intentRank(in stroke.Intent) int {
	return slices.Index(
		[]stroke.Intent{stroke.Soothe, stroke.Stimulate, stroke.Release, stroke.Lift, stroke.Tone, stroke.Drain},
		in,
	)
}

func (d *drafting) name() string {
	if len(d.concerns) == 0 {
		return "New protocol"
	}
	var names []string
	for _, c := range d.concerns {
		names = append(names, c.Name)
	}
	return strings.Join(names, ", ")
}

// opening lists opening strokes, nearest the heart first, for every node group
// that the drains of the plan run into.
func (d *drafting) opening(work []candidate) []string {
	if d.q.Method.Opening == "feather-sweep" {
		return []string{"feather-sweep"}
	}
	need := map[anatomy.NodeGroup]bool{anatomy.Terminus: true, anatomy.DeepCervical: true}
	for _, c := range work {
		if c.st.Intent == stroke.Drain && len(c.st.Zones()) > 0 {
			last, _ := anatomy.Lookup(c.st.Zones()[len(c.st.Zones())-1])
			for _, g := range anatomy.NodesOf(last) {
				for ; g != ""; g = g.Next() {
					need[g] = true
				}
			}
		}
	}
	need[anatomy.Preauricular] = true // the closing sweep passes the ear
	var keys []string
	for _, g := range anatomy.NodeGroups {
		if !need[g] {
			continue
		}
		if st := remedy.Opener(d.ctx, g); st != nil && !slices.Contains(keys, st.Key) {
			keys = append(keys, st.Key)
		}
	}
	return keys
}

// closing puts the drainage route: a sweep as the method has it, then, where it asks
// for that, the opening in reverse.
func (d *drafting) closing(put func(protocol.Phase, string, *protocol.Use) *protocol.Step, opened []string) {
	still := d.slip == nil
	switch {
	case still:
		put("close", "still-neck-home", nil)
	case d.q.Method.Closing == "chin-sweep":
		put("close", "jaw-drain", nil)
		put("close", "lobe-to-hollow", nil)
		put("close", "neck-drain", nil)
	default:
		put("close", "feather-sweep", nil)
		put("close", "lobe-to-hollow", nil)
	}
	if d.q.Method.Closing == "reverse" || d.q.Method.Closing == "" && d.q.Minutes >= 25 {
		for i := len(opened) - 1; i >= 0; i-- {
			if d.ctx.Strokes[opened[i]].Intent == stroke.Open {
				put("close", opened[i], nil)
			}
		}
	}
}

// polish takes the fixes that findings offer until none is left but such notes
// as only inform; it fits again in between. It returns nil and the strokes in the
// way where a finding stays.
func (d *drafting) polish(p *protocol.Protocol) (*protocol.Protocol, []string) {
	tries := map[string]int{}
	var e *evaluation.Evaluation
	for range 40 {
		e = evaluation.Evaluate(p, d.ctx)
		next := -1
		for i := range e.Findings {
			if f := &e.Findings[i]; tries[f.ID] < 4 && !tellsOnly(f) && len(f.Fixes) > 0 {
				next = i
				break
			}
		}
		if next < 0 {
			break
		}
		f := e.Findings[next]
		tries[f.ID]++
		for _, fix := range f.Fixes[min(tries[f.ID]-1, len(f.Fixes)-1):] {
			if q, err := remedy.Apply(p, d.ctx, f.ID, fix); err == nil && q.Validate(d.ctx, "") == nil {
				p = q
				break
			}
		}
	}
	var offending []string
	for _, f := range e.Findings {
		if f.Severity == evaluation.Note || tellsOnly(&f) {
			continue
		}
		for _, id := range f.Steps {
			if i := p.Index(id); i >= 0 {
				offending = append(offending, p.Steps[i].Stroke)
			}
		}
		if len(f.Steps) == 0 {
			offending = append(offending, string(f.Code))
		}
	}
	if len(offending) > 0 {
		return nil, offending
	}
	return p, nil
}

// tellsOnly marks findings that a draft may leave standing.
func tellsOnly(f *evaluation.Finding) bool {
	switch f.Code {
	case evaluation.SpeedSoothe,
		evaluation.HandsDay,
		evaluation.HandsTired,
		evaluation.LateDrain,
		evaluation.FlowBreaks,
		evaluation.ClosingOther,
		evaluation.SidesMethod,
		evaluation.GlideSlick,
		evaluation.GlideUnknown:
		return f.Severity == evaluation.Note
	}
	return false
}
