package postgres_test

import (
	"context"
	"encoding/json"
	"math/rand/v2"
	"reflect"
	"strconv"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/stroke"
	"softpalm/internal/exchange"
	"softpalm/internal/postgres"
	"softpalm/internal/studio"
	"softpalm/internal/studio/house"
)

// anything fills a value from its type and the limits in its tags, so that a field that is added later is
// tried as well.
type anything struct{ r *rand.Rand }

func (a *anything) one(of ...string) string { return of[a.r.IntN(len(of))] }

func (a *anything) zone() string {
	if a.r.IntN(8) == 0 {
		return "own-calf"
	}
	return anatomy.Zones[a.r.IntN(anatomy.Count)].Key
}

func (a *anything) fill(v reflect.Value, tag reflect.StructTag, name string) {
	number := func(key string, or float64) float64 {
		if x, err := strconv.ParseFloat(tag.Get(key), 64); err == nil {
			return x
		}
		return or
	}
	switch v.Kind() {
	case reflect.Pointer:
		if a.r.IntN(3) > 0 {
			v.Set(reflect.New(v.Type().Elem()))
			a.fill(v.Elem(), tag, name)
		}
	case reflect.Struct:
		for i := range v.NumField() {
			f := v.Type().Field(i)
			if f.IsExported() {
				a.fill(v.Field(i), f.Tag, f.Name)
			}
		}
	case reflect.Slice:
		n := a.r.IntN(3)
		for range n {
			x := reflect.New(v.Type().Elem()).Elem()
			a.fill(x, tag, name)
			v.Set(reflect.Append(v, x))
		}
	case reflect.Map:
		v.Set(reflect.MakeMap(v.Type()))
		for range a.r.IntN(4) {
			v.SetMapIndex(reflect.ValueOf(a.one(stroke.Properties...)), reflect.ValueOf("words "+strconv.Itoa(a.r.IntN(9))))
		}
	case reflect.String:
		v.SetString(a.text(tag, name))
	case reflect.Bool:
		v.SetBool(a.r.IntN(2) == 0)
	case reflect.Int:
		least, most := number("minimum", 0), number("maximum", 9)
		v.SetInt(int64(least) + int64(a.r.IntN(int(most-least)+1)))
	case reflect.Float64:
		least, most := number("minimum", 0), min(number("maximum", 9), 60)
		v.SetFloat(float64(int(100*(least+(most-least)*a.r.Float64()))) / 100)
	}
}

func (a *anything) text(tag reflect.StructTag, name string) string {
	if of := tag.Get("enum"); of != "" {
		return a.one(strings.Split(of, ",")...)
	}
	switch name {
	case "Zone", "Towards", "ActsOn", "Landmark", "From", "To", "Zones":
		return a.zone()
	case "Hand", "HandChoice":
		return a.one(stroke.HandParts...)
	case "AlsoFamilies", "Families", "Family":
		return string(stroke.Families[a.r.IntN(len(stroke.Families))])
	case "Kinds":
		return a.one(protocol.ToolKinds...)
	case "Clears":
		return a.one(protocol.Clearable...)
	case "SkinTypes", "Unsuited", "For":
		return a.one(protocol.Skins...)
	case "Finding":
		return a.one("fit-under", "glide-thin:s1", "promise:jowls")
	case "Concerns":
		return protocol.Concerns[a.r.IntN(len(protocol.Concerns))].Key
	case "Amount":
		return strconv.Itoa(a.r.IntN(200)) + ".50"
	case "Currency":
		return "EUR"
	case "Key":
		return "key-" + strconv.Itoa(a.r.IntN(1000))
	}
	return a.one("sanft", "ça va", "日本", "a \"word\"", "plain words") + " " + strconv.Itoa(a.r.IntN(100))
}

// plan is a random plan that stands: what it names is there, and doses can be timed.
func (a *anything) plan(own string) protocol.Protocol {
	var p protocol.Protocol
	a.fill(reflect.ValueOf(&p).Elem(), "", "")
	p.Minutes.Treatment = max(p.Minutes.HandsOn, p.Minutes.Treatment)
	p.DefaultDose = stroke.Dose{Kind: stroke.Reps, Planned: 3}
	for len(p.Steps) < 3 {
		p.Steps = append(p.Steps, protocol.Step{})
		a.fill(reflect.ValueOf(&p.Steps[len(p.Steps)-1]).Elem(), "", "")
	}
	p.Rounds = nil
	trade := stroke.Trade()
	dose := func() *stroke.Dose {
		return &stroke.Dose{Kind: stroke.Clock, Planned: 5 + a.r.IntN(90), Said: "a while"}
	}
	for i := range p.Sections {
		s := &p.Sections[i]
		s.ID, s.DefaultDose = "sec-"+strconv.Itoa(i), dose()
		for k := range s.Tools {
			s.Tools[k] = "own-tool"
		}
	}
	for i := range p.Steps {
		s := &p.Steps[i]
		s.ID, s.Stroke, s.Round, s.Section, s.Dose = "s"+strconv.Itoa(i), trade[a.r.IntN(len(trade))].Key, "", "", dose()
		if a.r.IntN(2) == 0 {
			s.Stroke = own
		}
		s.MirrorOf, s.AlternateOf = "", ""
		if i > 0 {
			s.MirrorOf = "s0"
		}
		if s.Tool != nil {
			s.Tool.Key, s.Tool.Part = "own-tool", ""
		}
		for k := range s.Fingers {
			s.Fingers[k].Part = "index"
		}
		if s.Use != nil {
			s.Use.Product = "own-oil"
			for k := range s.Use.Choices {
				s.Use.Choices[k] = "own-oil"
			}
			s.Use.Amount.Measure = "mL"
		}
		for k := range s.Alternates {
			s.Alternates[k].Stroke, s.Alternates[k].Tool = "only-alternate", nil
		}
		if s.Rows != nil {
			s.Rows.Most = 0
		}
	}
	for i := range p.Variants {
		if p.Variants[i].Rules == nil {
			p.Variants[i].Rules = []protocol.VariantRule{}
		}
		for k := range p.Variants[i].Rules {
			r := &p.Variants[i].Rules[k]
			r.Stroke, r.Product, r.With, r.By = "only-variant", "own-oil", "only-variant", 50
			if r.Do == "swap-product" {
				r.With = "own-oil"
			}
		}
	}
	for i := range p.Cues {
		p.Cues[i].Every = 60
	}
	for i := range p.Aftercare {
		p.Aftercare[i].Product = "own-oil"
	}
	return p
}

// Whatever a plan says comes back from a file into an empty studio as it was, with all that it names
// anywhere; a second time everything is the same. Random plans, field by field from the types.
func TestRandomPlansComeBackFromAFile(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	empty := emptyWorld(t)
	_, err := empty.svc.House.CreateStudio(ctx, &house.Bundle{
		Format: "softpalm-studio", Version: 1, Rooms: []house.BundleRoom{{Key: "a", Name: "A"}},
		Studio:   bundle(t).Studio,
		Accounts: []house.BundleAccount{{Email: "o@demo.example", Name: "O", Role: studio.Owner, Password: "demo palms 9"}},
	}, false)
	require.NoError(t, err)
	in, err := empty.svc.House.SignIn(ctx, house.Credentials{Email: "o@demo.example", Password: "demo palms 9"}, "test")
	require.NoError(t, err)
	owner := in.Actor
	require.NoError(t, w.db.InStudio(ctx, w.owner.Studio, func(within studio.Tx) error {
		tx := within.(*postgres.Tx)
		for _, key := range []string{"random-own", "only-alternate", "only-variant"} {
			if err := tx.AddStroke(ctx, &stroke.Stroke{
				Key: key, Manner: stroke.Manner{Name: key, Family: stroke.Effleurage, Intent: stroke.Soothe}, Sides: stroke.BothAtOnce, Path: []string{"whole-face"},
				Dose: stroke.Dose{Kind: stroke.Clock, Planned: 30}, Further: stroke.Further{WhichHand: "either"},
			}); err != nil {
				return err
			}
		}
		if err := tx.AddTool(ctx, &protocol.Tool{Key: "own-tool", Name: "Own tool", Kind: "stone", Pieces: 1}); err != nil {
			return err
		}
		if err := tx.SaveZone(ctx, &anatomy.OwnZone{Key: "own-calf", Name: "Calves", Paired: true, Ceiling: 4, DrainsTo: "axillary"}); err != nil {
			return err
		}
		p := studio.Product{ID: studio.NewID(), Unit: "mL", PackSize: decimal.NewFromInt(100)}
		p.Product.Key, p.Product.Name, p.Product.Form, p.Product.FullDose = "own-oil", "Own oil", "oil", 4
		p.Usual()
		return tx.AddProduct(ctx, &p)
	}))
	for seed := range uint64(25) {
		a := &anything{rand.New(rand.NewPCG(seed, 14))}
		p := a.plan("random-own")
		p.Key = "random-" + strconv.Itoa(int(seed))
		id := uuid.New()
		require.NoError(t, w.db.InStudio(ctx, w.owner.Studio, func(within studio.Tx) error {
			tx := within.(*postgres.Tx)
			if err := tx.AddProtocol(ctx, id, p.Key, w.svc.Now()); err != nil {
				return err
			}
			_, err := tx.SaveDraft(ctx, w.owner.Account, &studio.Draft{Protocol: id, Revision: 1, Body: p}, w.svc.Now())
			return err
		}))
		f, err := w.svc.Protocols.ProtocolToFile(ctx, &w.owner, id, 0)
		require.NoError(t, err)
		text, err := exchange.Write(f)
		require.NoError(t, err)
		read, err := exchange.ReadProtocolFile(text)
		require.NoError(t, err, "seed %d", seed)
		for again, fate := range []string{"new", "same"} {
			got, err := empty.svc.Protocols.ImportProtocol(ctx, &owner, read, false)
			require.NoError(t, err, "seed %d", seed)
			item := got.Items[len(got.Items)-1]
			assert.Equal(t, fate, string(item.Outcome), "seed %d: %v", seed, item)
			if again > 0 {
				for _, x := range got.Items {
					assert.Equal(t, "same", string(x.Outcome), "seed %d: %v", seed, x)
				}
				continue
			}
			open, err := empty.svc.Protocols.ProtocolToFile(ctx, &owner, *got.Protocol, 0)
			require.NoError(t, err)
			was, _ := json.Marshal(p)
			now, _ := json.Marshal(open.Protocol)
			require.JSONEq(t, string(was), string(now), "seed %d", seed)
			assert.Equal(t, len(f.Strokes), len(open.Strokes), "all that it names comes with it")
			assert.Equal(t, f.Zones, open.Zones)
		}
	}
}
