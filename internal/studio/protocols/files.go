package protocols

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"reflect"
	"slices"
	"strings"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
	"softpalm/internal/problem"
	"softpalm/internal/studio"
	"softpalm/words"
)

// fileStore is what a protocol file is read into.
type fileStore interface {
	protocolStore
	AddStroke(ctx context.Context, s *stroke.Stroke) error
	AddTool(ctx context.Context, t *protocol.Tool) error
	AddProduct(ctx context.Context, p *studio.Product) error
	SaveZone(ctx context.Context, z *anatomy.OwnZone) error
}

// ProtocolFile is one protocol as a file, with everything it is made of that
// another studio may lack: strokes and zones of the studio's own, tools and products.
// Strokes of the trade's repertoire are named by key only.
type ProtocolFile struct {
	Format   string               `json:"format" enum:"soft-palm-protocol"`
	Version  int                  `json:"version" enum:"1"`
	Protocol protocol.Protocol    `json:"protocol"`
	Strokes  []stroke.Stroke      `json:"strokes,omitempty" maxItems:"200"`
	Tools    []protocol.Tool      `json:"tools,omitempty" maxItems:"100"`
	Products []studio.FileProduct `json:"products,omitempty" maxItems:"100"`
	Zones    []anatomy.OwnZone    `json:"zones,omitempty" maxItems:"24"`
}

// LibraryFile is strokes, tools and zones of the studio's own as a file.
type LibraryFile struct {
	Format  string            `json:"format" enum:"soft-palm-library"`
	Version int               `json:"version" enum:"1"`
	Strokes []stroke.Stroke   `json:"strokes,omitempty" maxItems:"2000"`
	Tools   []protocol.Tool   `json:"tools,omitempty" maxItems:"500"`
	Zones   []anatomy.OwnZone `json:"zones,omitempty" maxItems:"24"`
}

// ImportOutcome says what becomes of something in a file.
type ImportOutcome string

// The fates. What the studio has already is never changed by a file.
const (
	OutcomeNew     ImportOutcome = "new"      // added
	OutcomeSame    ImportOutcome = "same"     // there already, exactly so
	OutcomeKept    ImportOutcome = "kept"     // there already, otherwise: the studio's own is used
	OutcomeAddedAs ImportOutcome = "added-as" // a stroke there otherwise: added beside it under another key
)

// ImportedItem is one thing of a file and what becomes of it.
type ImportedItem struct {
	Kind    string        `json:"kind" enum:"protocol,stroke,tool,product,zone"`
	Key     string        `json:"key"`
	Name    string        `json:"name"`
	Outcome ImportOutcome `json:"fate" enum:"new,same,kept,added-as"`
	As      string        `json:"as,omitempty"`
}

// ImportResult is what bringing a file in adds, or would add.
type ImportResult struct {
	Items []ImportedItem `json:"things"`
	// Protocol is the new protocol, once it was brought in.
	Protocol   *uuid.UUID             `json:"protocol,omitempty"`
	Evaluation *evaluation.Evaluation `json:"evaluation,omitempty"`
}

// ProtocolToFile writes the actor's draft of a protocol (or the newest version,
// or for version above 0 that one) as a file.
func (s *Service) ProtocolToFile(ctx context.Context, a *studio.Actor, id uuid.UUID, version int) (*ProtocolFile, error) {
	f := &ProtocolFile{Format: "soft-palm-protocol", Version: 1}
	err := studio.In(ctx, s.Kernel, a, func(tx fileStore, _ *studio.Studio) error {
		lib, err := studio.ReadLibrary(ctx, tx)
		if err != nil {
			return err
		}
		p, err := readProtocol(ctx, tx, a, id, version)
		if err != nil {
			return err
		}
		f.Protocol = *p
		f.gather(lib)
		return nil
	})
	return f, err
}

// ProtocolExport is a protocol with all that its papers need.
type ProtocolExport struct {
	Protocol   *protocol.Protocol
	Evaluation *evaluation.Evaluation
	Context    *protocol.Context
	Studio     string
	Version    string
}

// ExportProtocol opens a protocol for its papers: the actor's draft for version 0.
func (s *Service) ExportProtocol(ctx context.Context, a *studio.Actor, id uuid.UUID, version int) (*ProtocolExport, error) {
	var h ProtocolExport
	err := studio.In(ctx, s.Kernel, a, func(tx fileStore, st *studio.Studio) error {
		lib, err := studio.ReadLibrary(ctx, tx)
		if err != nil {
			return err
		}
		if h.Protocol, err = readProtocol(ctx, tx, a, id, version); err != nil {
			return err
		}
		h.Context, h.Studio, h.Version = lib.Context(), st.Name, fmt.Sprintf("version %d", version)
		if version == 0 {
			if _, err := tx.Draft(ctx, id, a.Account); err == nil {
				h.Version = "draft"
			} else if n, err := tx.NewestVersion(ctx, id); err == nil {
				h.Version = fmt.Sprintf("version %d", n)
			}
		}
		if ps := h.Protocol.Validate(h.Context, ""); len(ps) > 0 {
			return &studio.InputError{Problems: ps}
		}
		h.Evaluation = evaluation.Evaluate(h.Protocol, h.Context)
		return nil
	})
	return &h, err
}

// readProtocol returns a version, or for number 0 the actor's draft, or the
// newest version where there is none.
func readProtocol(ctx context.Context, tx protocolStore, a *studio.Actor, id uuid.UUID, number int) (*protocol.Protocol, error) {
	if number == 0 {
		d, err := tx.Draft(ctx, id, a.Account)
		if err == nil {
			return &d.Body, nil
		}
		if !errors.Is(err, studio.ErrNotFound) {
			return nil, err
		}
	}
	return tx.Version(ctx, id, number)
}

// gather puts in what the protocol is made of, wherever it is named: in steps, alternates, sections and
// variants, and in the strokes themselves.
func (f *ProtocolFile) gather(lib *studio.Library) {
	c := lib.Context()
	if f.Protocol.Steps == nil {
		f.Protocol.Steps = []protocol.Step{}
	}
	f.Protocol.Variants = slices.Clone(f.Protocol.Variants)
	for i := range f.Protocol.Variants {
		if f.Protocol.Variants[i].Rules == nil {
			f.Protocol.Variants[i].Rules = []protocol.VariantRule{}
		}
	}
	trade := stroke.ByKey(stroke.Trade())
	var strokes, tools, products, zones []string
	want := func(list *[]string, key string) {
		if key != "" && !slices.Contains(*list, key) {
			*list = append(*list, key)
		}
	}
	f.Protocol.References(func(kind protocol.RefKind, key *string, _ string) {
		switch kind {
		case protocol.RefStroke:
			want(&strokes, *key)
		case protocol.RefTool:
			want(&tools, *key)
		case protocol.RefProduct:
			want(&products, *key)
		case protocol.RefZone:
			want(&zones, *key)
		}
	})
	for i := 0; i < len(strokes); i++ {
		st := c.Strokes[strokes[i]]
		if st == nil {
			continue
		}
		if st.Tool != nil {
			want(&tools, st.Tool.Key)
		}
		for k := range st.Alternates {
			want(&strokes, st.Alternates[k].Stroke)
			if t := st.Alternates[k].Tool; t != nil {
				want(&tools, t.Key)
			}
		}
		if !alike(trade[st.Key], st) {
			st.Places(func(key *string, _ string) { want(&zones, *key) }, "")
			f.Strokes = append(f.Strokes, *st)
		}
	}
	for _, key := range tools {
		if t, ok := c.Tools[key]; ok {
			f.Tools = append(f.Tools, t)
		}
	}
	for i := range lib.Zones {
		if slices.Contains(zones, lib.Zones[i].Key) {
			f.Zones = append(f.Zones, lib.Zones[i])
		}
	}
	for _, key := range products {
		if p := c.Products[key]; p != nil {
			f.Products = append(f.Products, studio.NewFileProduct(p))
		}
	}
}

// LibraryToFile writes the studio's own strokes and its tools as a file.
func (s *Service) LibraryToFile(ctx context.Context, a *studio.Actor) (*LibraryFile, error) {
	f := &LibraryFile{Format: "soft-palm-library", Version: 1}
	err := studio.In(ctx, s.Kernel, a, func(tx fileStore, _ *studio.Studio) (err error) {
		if f.Strokes, err = tx.Strokes(ctx); err != nil {
			return err
		}
		if f.Tools, err = tx.Tools(ctx); err != nil {
			return err
		}
		f.Zones, err = tx.OwnZones(ctx)
		return err
	})
	return f, err
}

// ImportProtocol adds a protocol file to the studio as the actor's draft, with
// what it needs. Everything is added or nothing; dry only reports what would be.
func (s *Service) ImportProtocol(ctx context.Context, a *studio.Actor, f *ProtocolFile, dry bool) (*ImportResult, error) {
	return s.importFile(ctx, a, dry, func(b *importing) error {
		if err := b.parts(f.Strokes, f.Tools, f.Products, f.Zones); err != nil {
			return err
		}
		return b.protocol(f.Protocol)
	})
}

// ImportLibrary adds the strokes, tools and zones of a library file to the studio.
func (s *Service) ImportLibrary(ctx context.Context, a *studio.Actor, f *LibraryFile, dry bool) (*ImportResult, error) {
	return s.importFile(ctx, a, dry, func(b *importing) error { return b.parts(f.Strokes, f.Tools, nil, f.Zones) })
}

func (s *Service) importFile(ctx context.Context, a *studio.Actor, dry bool, fn func(*importing) error) (*ImportResult, error) {
	if err := a.May("import-file"); err != nil {
		return nil, err
	}
	var out *ImportResult
	err := studio.In(ctx, s.Kernel, a, func(tx fileStore, _ *studio.Studio) error {
		lib, err := studio.ReadLibrary(ctx, tx)
		if err != nil {
			return err
		}
		b := &importing{
			ctx:     ctx,
			s:       s,
			tx:      tx,
			a:       a,
			lib:     lib.Context(),
			zones:   lib.Zones,
			renamed: stroke.Joined(lib.Context().Strokes),
			out:     ImportResult{Items: []ImportedItem{}},
		}
		if err := fn(b); err != nil {
			return err
		}
		out = &b.out
		if dry {
			return studio.ErrRehearsal
		}
		return nil
	})
	if errors.Is(err, studio.ErrRehearsal) {
		out.Protocol, err = nil, nil
	}
	return out, err
}

type importing struct {
	ctx     context.Context
	s       *Service
	tx      fileStore
	a       *studio.Actor
	lib     *protocol.Context
	zones   []anatomy.OwnZone
	renamed map[string]string // strokes that are there under another key
	out     ImportResult
}

func (b *importing) tell(kind, key, name string, fate ImportOutcome, as string) {
	b.out.Items = append(b.out.Items, ImportedItem{
		Kind:    kind,
		Key:     key,
		Name:    name,
		Outcome: fate,
		As:      as,
	})
}

// addZones adds zones of another studio to this one's own.
func (b *importing) addZones(zones []anatomy.OwnZone) error {
	for i := range zones {
		z := &zones[i]
		if ps := z.Validate(fmt.Sprintf("/zones/%d", i)); len(ps) > 0 {
			return &studio.InputError{Problems: ps}
		}
		at := slices.IndexFunc(b.zones, func(own anatomy.OwnZone) bool { return own.Key == z.Key })
		switch {
		case at >= 0 && b.zones[at] == *z:
			b.tell("zone", z.Key, z.Name, OutcomeSame, "")
		case at >= 0:
			b.tell("zone", z.Key, z.Name, OutcomeKept, "")
		case len(b.zones) >= anatomy.OwnMost:
			return studio.FaultAt(fmt.Sprintf("/zones/%d", i), words.TooManyOwnZones(anatomy.OwnMost))
		default:
			b.zones = append(b.zones, *z)
			b.tell("zone", z.Key, z.Name, OutcomeNew, "")
			if err := b.tx.SaveZone(b.ctx, z); err != nil {
				return err
			}
		}
	}
	b.lib.Zones = anatomy.Own(b.zones)
	return nil
}

// addTools adds tools that the studio does not have.
func (b *importing) addTools(tools []protocol.Tool) error {
	for i := range tools {
		t := &tools[i]
		switch there, ok := b.lib.Tools[t.Key]; {
		case ok && alike(there, *t):
			b.tell("tool", t.Key, t.Name, OutcomeSame, "")
		case ok:
			b.tell("tool", t.Key, t.Name, OutcomeKept, "")
		default:
			b.lib.Tools[t.Key] = *t
			b.tell("tool", t.Key, t.Name, OutcomeNew, "")
			if err := b.tx.AddTool(b.ctx, t); err != nil {
				return err
			}
		}
	}
	return nil
}

// addProducts adds products that the shelf does not have.
func (b *importing) addProducts(products []studio.FileProduct) error {
	for i := range products {
		f := &products[i]
		if there := b.lib.Products[f.Key]; there != nil {
			fate := OutcomeKept
			if alike(studio.NewFileProduct(there), *f) {
				fate = OutcomeSame
			}
			b.tell("product", f.Key, f.Name, fate, "")
			continue
		}
		// A pack of 100 until the shelf says otherwise; no price, no stock.
		p := studio.Product{ID: studio.NewID(), Product: f.Core(), Unit: "mL", PackSize: decimal.NewFromInt(100)}
		p.Usual()
		b.lib.Products[f.Key] = &p.Product
		b.tell("product", f.Key, f.Name, OutcomeNew, "")
		if err := b.tx.AddProduct(b.ctx, &p); err != nil {
			return err
		}
	}
	return nil
}

// parts adds zones, tools, products and strokes, in the order in which they need each
// other.
func (b *importing) parts(
	strokes []stroke.Stroke, tools []protocol.Tool, products []studio.FileProduct, zones []anatomy.OwnZone,
) error {
	if err := b.addZones(zones); err != nil {
		return err
	}
	if err := b.addTools(tools); err != nil {
		return err
	}
	if err := b.addProducts(products); err != nil {
		return err
	}
	var faults []problem.Fault
	var added []*stroke.Stroke
	for i := range strokes {
		st := strokes[i]
		there := b.lib.Strokes[st.Key]
		switch {
		case there == nil:
			delete(b.renamed, st.Key)
			b.tell("stroke", st.Key, st.Name, OutcomeNew, "")
		case alike(there, &st):
			b.tell("stroke", st.Key, st.Name, OutcomeSame, "")
			continue
		default:
			was := st.Key
			for n := 2; b.lib.Strokes[st.Key] != nil; n++ {
				st.Key = fmt.Sprintf("%s-%d", was, n)
			}
			b.renamed[was] = st.Key
			b.tell("stroke", was, st.Name, OutcomeAddedAs, st.Key)
		}
		at := fmt.Sprintf("/strokes/%d", i)
		if st.Tool != nil && b.lib.Tools[st.Tool.Key].Name == "" {
			faults = append(faults, problem.Fault{Path: at + "/tool/key", Sentence: words.ThereIsNoToolTool(st.Tool.Key)})
		}
		faults = append(append(faults, st.Validate(at)...), unknownZones(&st, b.lib, at)...)
		b.lib.Strokes[st.Key] = &st
		added = append(added, &st)
	}
	if len(faults) > 0 {
		return &studio.InputError{Problems: faults}
	}
	for _, st := range added {
		for k := range st.Alternates {
			if as := b.renamed[st.Alternates[k].Stroke]; as != "" {
				st.Alternates[k].Stroke = as
			}
		}
		if err := b.tx.AddStroke(b.ctx, st); err != nil {
			return err
		}
	}
	return nil
}

// protocol adds the protocol as the actor's draft; its key and name give way to
// what is there.
func (b *importing) protocol(p protocol.Protocol) error {
	p = *p.Renamed(b.renamed)
	if ps := append(p.Validate(b.lib, "/protocol"), unknownFindings(&p)...); len(ps) > 0 {
		return &studio.InputError{Problems: ps}
	}
	list, err := b.tx.Protocols(b.ctx, b.a.Account)
	if err != nil {
		return err
	}
	if same, err := b.sameProtocol(&p, list); err != nil || same != nil {
		b.out.Protocol = same
		return err
	}
	was := p.Key
	taken := func(key string) bool {
		return slices.ContainsFunc(list, func(l studio.ProtocolLine) bool { return l.Key == key })
	}
	if p.Key == "" {
		p.Key, was = "protocol", "protocol"
	}
	for n := 2; taken(p.Key); n++ {
		p.Key = fmt.Sprintf("%s-%d", strings.TrimSuffix(was, "-"), n)
	}
	if p.Key == was {
		b.tell("protocol", was, p.Name, OutcomeNew, "")
	} else {
		b.tell("protocol", was, p.Name, OutcomeAddedAs, p.Key)
	}
	b.out.Evaluation = evaluation.Evaluate(&p, b.lib)
	id := studio.NewID()
	if err := b.tx.AddProtocol(b.ctx, id, p.Key, b.s.Now()); err != nil {
		return err
	}
	if _, err := b.tx.SaveDraft(b.ctx, b.a.Account, &studio.Draft{Protocol: id, Revision: 1, Body: p}, b.s.Now()); err != nil {
		return err
	}
	b.out.Protocol = &id
	return nil
}

// unknownFindings reports findings that a plan puts aside and that no check knows.
func unknownFindings(p *protocol.Protocol) []problem.Fault {
	var ps []problem.Fault
	for i, d := range p.Dismissed {
		code, _, _ := strings.Cut(d.Finding, ":")
		if _, known := evaluation.Payloads[evaluation.Code(code)]; !known {
			ps = append(ps, problem.Fault{Path: fmt.Sprintf("/protocol/dismissed/%d/finding", i), Sentence: words.ThereIsNoFinding(code)})
		}
	}
	return ps
}

// sameProtocol is the protocol of the studio that a file holds exactly so, as the actor's draft or as its
// newest version; nil where there is none.
func (b *importing) sameProtocol(p *protocol.Protocol, list []studio.ProtocolLine) (*uuid.UUID, error) {
	i := slices.IndexFunc(list, func(l studio.ProtocolLine) bool { return l.Key == p.Key })
	if i < 0 {
		return nil, nil
	}
	there, err := readProtocol(b.ctx, b.tx, b.a, list[i].ID, 0)
	if err != nil || !alike(there, p) {
		return nil, err
	}
	b.tell("protocol", p.Key, p.Name, OutcomeSame, "")
	b.out.Evaluation = evaluation.Evaluate(p, b.lib)
	return &list[i].ID, nil
}

// alike reports whether two things are written in the same way: a missing list is an empty one.
func alike(a, b any) bool {
	x, err := plainly(a)
	y, err2 := plainly(b)
	return err == nil && err2 == nil && reflect.DeepEqual(x, y)
}

// plainly is a value as it is written, without what says nothing.
func plainly(v any) (any, error) {
	data, err := json.Marshal(v)
	if err != nil {
		return nil, err
	}
	var out any
	err = json.Unmarshal(data, &out)
	return withoutEmpty(out), err
}

func withoutEmpty(v any) any {
	switch x := v.(type) {
	case map[string]any:
		for k := range x {
			if x[k] = withoutEmpty(x[k]); x[k] == nil {
				delete(x, k)
			}
		}
		if len(x) == 0 {
			return nil
		}
	case []any:
		if len(x) == 0 {
			return nil
		}
		for i := range x {
			x[i] = withoutEmpty(x[i])
		}
	}
	return v
}
