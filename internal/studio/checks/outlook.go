package checks

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/studio"
)

// outlook is what is to be expected of a visit still to come.
type outlook struct {
	known        []contraindication.Mark
	consultation studio.ConsultationState
	unsigned     []studio.ConsentKind
	headline     string
	notBefore    string
	patchFirst   []string
}

// Outlook fills in what is to be expected of visits still to come. A visit is judged once: again only when its client's
// file, the visit itself, its plan or the catalog is another.
func (s *Service) Outlook(
	ctx context.Context,
	within studio.Tx,
	st *studio.Studio,
	a *studio.Actor,
	visits []studio.VisitLine,
) error {
	tx := studio.As[snapshotStore](within)
	these := make([]*studio.VisitLine, len(visits))
	for i := range visits {
		these[i] = &visits[i]
	}
	if err := s.judge(ctx, tx, st, these); err != nil {
		return err
	}
	letters, err := tx.OpenLetters(ctx, clientsOf(these))
	if err != nil {
		return err
	}
	names := map[string]string{}
	for i := range visits {
		v := &visits[i]
		if v.Kind == studio.ForPatchTest && !a.NoHealth("get-day") {
			if err := nameProducts(ctx, tx, names, v); err != nil {
				return err
			}
		}
		v.LetterOpen = letters[v.Client] && v.Kind == studio.ForTreatment && v.StartsAt.After(s.Now())
		if a.NoHealth("get-day") {
			withoutHealth(v)
		}
	}
	return nil
}

// judge fills in what is to be expected of those of some visits that are still to come.
func (s *Service) judge(ctx context.Context, tx snapshotStore, st *studio.Studio, visits []*studio.VisitLine) error {
	today := s.Today(st)
	var coming []*studio.VisitLine
	for _, v := range visits {
		if v.StartsAt.In(st.Zone()).Format(time.DateOnly) >= today &&
			(v.State == studio.Booked || v.State == studio.Confirmed || v.State == studio.Arrived) {
			coming = append(coming, v)
		}
	}
	if len(coming) == 0 {
		return nil
	}
	memory, err := tx.Memory(ctx)
	if err != nil {
		return err
	}
	if memory == nil {
		return s.judgeAll(ctx, tx, st, coming, func(*studio.VisitLine) {})
	}
	keys := map[uuid.UUID]string{}
	if coming, err = recall(ctx, tx, st, memory, today, coming, keys); err != nil || len(coming) == 0 {
		return err
	}
	note := func(v *studio.VisitLine) {
		memory.Note(keys[v.ID], &outlook{v.Known, v.Consultation, v.Unsigned, v.Outlook, v.NotBefore, v.PatchFirst})
	}
	mine, err := memory.Once(together(coming, keys), func() error { return s.judgeAll(ctx, tx, st, coming, note) })
	if mine || err != nil {
		return err
	}
	if coming, err = recall(ctx, tx, st, memory, today, coming, keys); err != nil {
		return err
	}
	return s.judgeAll(ctx, tx, st, coming, note)
}

// together names visits that are judged at once, by the names under which they are remembered.
func together(visits []*studio.VisitLine, keys map[uuid.UUID]string) string {
	sum := sha256.New()
	for _, v := range visits {
		sum.Write([]byte(keys[v.ID]))
	}
	return hex.EncodeToString(sum.Sum(nil))
}

// judgeAll works out what is to be expected of each visit, and notes it.
func (s *Service) judgeAll(
	ctx context.Context, tx snapshotStore, st *studio.Studio, visits []*studio.VisitLine, note func(*studio.VisitLine),
) error {
	if len(visits) == 0 {
		return nil
	}
	known, err := s.loadClientSnapshots(ctx, tx, st, clientsOf(visits))
	if err != nil {
		return err
	}
	plans := planProducts{}
	for _, v := range visits {
		k := known[v.Client]
		if k == nil { // the client was erased meanwhile
			continue
		}
		if err := k.expect(ctx, tx, st, v, &plans); err != nil {
			return err
		}
		note(v)
	}
	return nil
}

// recall fills in what is remembered of visits, and returns the others. keys are set to the names under which what is to
// be expected of each visit is remembered: they say all that it depends on.
func recall(
	ctx context.Context,
	tx snapshotStore,
	st *studio.Studio,
	memory *studio.Remembered,
	today string,
	visits []*studio.VisitLine,
	keys map[uuid.UUID]string,
) ([]*studio.VisitLine, error) {
	changes, err := tx.ClientChanges(ctx, clientsOf(visits))
	if err != nil {
		return nil, err
	}
	of := fmt.Sprintf("on %s by settings %d, %s", today, st.Changes, memory.State([]studio.Area{studio.InCatalog, studio.InPlans}))
	var others []*studio.VisitLine
	for _, v := range visits {
		keys[v.ID] = fmt.Sprintf("outlook of %s of %s/%d %s/%d %v %s %d %q %s",
			v.ID, v.Client, changes[v.Client], v.Protocol, v.Version, v.Also, v.Kind, v.StartsAt.Unix(), v.Checked, of)
		o, ok := memory.Noted(keys[v.ID]).(*outlook)
		if !ok {
			others = append(others, v)
			continue
		}
		v.Known, v.Consultation, v.Unsigned = o.known, o.consultation, o.unsigned
		v.Outlook, v.NotBefore, v.PatchFirst = o.headline, o.notBefore, slices.Clone(o.patchFirst)
	}
	return others, nil
}

// clientsOf lists the clients of visits, each once.
func clientsOf(visits []*studio.VisitLine) []uuid.UUID {
	seen := map[uuid.UUID]bool{}
	var out []uuid.UUID
	for _, v := range visits {
		if !seen[v.Client] {
			seen[v.Client] = true
			out = append(out, v.Client)
		}
	}
	return out
}

// expect fills in what is to be expected of one visit that is still to come.
func (t *clientSnapshot) expect(
	ctx context.Context,
	tx snapshotStore,
	st *studio.Studio,
	v *studio.VisitLine,
	plans *planProducts,
) error {
	pack, day := st.Pack(), v.StartsAt.In(st.Zone()).Format(time.DateOnly)
	res, answers := t.judgedDay(pack, day)
	v.Known, v.Consultation = pack.Marks(res, answers), t.state
	if v.Kind == studio.ForTreatment {
		v.Unsigned = t.unsigned()
	}
	if v.Checked != "" {
		return nil
	}
	if res.Headline != contraindication.OKToTreat && v.Kind == studio.ForTreatment {
		v.Outlook, v.NotBefore = string(res.Headline), string(res.NotBefore)
	}
	products, err := plans.of(ctx, tx, v)
	if err != nil {
		return err
	}
	v.PatchFirst = nil
	untested := t.needsTest(products, v.StartsAt)
	for _, p := range products {
		if slices.Contains(untested, p.Key) {
			v.PatchFirst = append(v.PatchFirst, p.Name)
		}
	}
	return nil
}

// nameProducts says what a patch-test visit is for. names are those known so far.
func nameProducts(ctx context.Context, tx snapshotStore, names map[string]string, v *studio.VisitLine) error {
	if len(names) == 0 {
		products, err := tx.Products(ctx)
		if err != nil {
			return err
		}
		for _, p := range products {
			names[p.Key] = p.Name
		}
	}
	list := make([]string, len(v.Products))
	for i, key := range v.Products {
		list[i] = names[key]
	}
	v.ProtocolName += ": " + strings.Join(list, ", ")
	return nil
}

// What those may know of a day who see no health: that it can be booked, that it is too
// early, or that the practitioner has to be asked.
const (
	canBeBooked     = "can-be-booked"
	askPractitioner = "ask-practitioner"
)

// withoutHealth leaves of what is to be expected of a visit only whether it can be.
func withoutHealth(v *studio.VisitLine) {
	word := func(headline string) string {
		switch contraindication.Headline(headline) {
		case "":
			return ""
		case contraindication.OKToTreat, contraindication.OKWithAdjustments:
			return canBeBooked
		case contraindication.NotBefore:
			return headline
		}
		return askPractitioner
	}
	v.Checked, v.Outlook = word(v.Checked), word(v.Outlook)
	v.Known, v.Consultation, v.Unsigned = nil, "", nil
	if len(v.PatchFirst) > 0 {
		v.Outlook, v.PatchFirst = askPractitioner, nil
	}
	if v.Kind == studio.ForPatchTest {
		v.Products = []string{}
	}
}
