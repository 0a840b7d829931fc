package postgres_test

import (
	"context"
	"encoding/json"
	"log/slog"
	"math/rand/v2"
	"net/http"
	"net/url"
	"sort"
	"strings"
	"testing"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/exchange"
	"softpalm/internal/httpapi"
)

// maker makes values that fit a schema's shape, with contents nobody would send.
type maker struct {
	r    *rand.Rand
	reg  huma.Registry
	ids  []string // of things that are there
	keys []string
}

var odd = []string{"", " ", "x", "0", "-1", "today", "2026-02-30", "2026-11-24", "99999-01-01", "🖐", "a\u0000b", "'; drop table client; --", "<script>", "%00", "../../etc", "null", "NaN", "1e309", "12.345", "-0.01"}

func (m *maker) text() string {
	switch m.r.IntN(5) {
	case 0:
		return m.ids[m.r.IntN(len(m.ids))]
	case 1:
		return m.keys[m.r.IntN(len(m.keys))]
	case 2:
		return strings.Repeat("ä", m.r.IntN(400))
	}
	return odd[m.r.IntN(len(odd))]
}

func (m *maker) value(s *huma.Schema, deep int) any {
	if s == nil {
		return m.text()
	}
	if s.Ref != "" {
		s = m.reg.SchemaFromRef(s.Ref)
	}
	if deep > 6 {
		return nil
	}
	if len(s.Enum) > 0 && m.r.IntN(6) > 0 {
		return s.Enum[m.r.IntN(len(s.Enum))]
	}
	if m.r.IntN(200) == 0 { // another type altogether
		return []any{nil, true, -3.5, "x", []any{}, map[string]any{"x": 1}}[m.r.IntN(6)]
	}
	switch s.Type {
	case huma.TypeObject:
		out := map[string]any{}
		names := []string{}
		for name := range s.Properties {
			names = append(names, name)
		}
		sort.Strings(names)
		for _, name := range names {
			needed := false
			for _, r := range s.Required {
				needed = needed || r == name
			}
			if needed && m.r.IntN(100) > 0 || !needed && m.r.IntN(2) == 0 {
				out[name] = m.value(s.Properties[name], deep+1)
			}
		}
		if extra, ok := s.AdditionalProperties.(*huma.Schema); ok {
			for range m.r.IntN(3) {
				out[m.text()] = m.value(extra, deep+1)
			}
		}
		return out
	case huma.TypeArray:
		out := []any{}
		for range m.r.IntN(4) {
			out = append(out, m.value(s.Items, deep+1))
		}
		return out
	case huma.TypeBoolean:
		return m.r.IntN(2) == 0
	case huma.TypeInteger:
		return []int{0, 1, 2, 3, 5, 24, 60, -1, 1 << 31, 100000}[m.r.IntN(10)]
	case huma.TypeNumber:
		return []float64{0, 1, 2.5, -1, 1e9, 1e-9, 33.3}[m.r.IntN(7)]
	}
	return m.text()
}

// Whatever is sent by somebody who may, nothing breaks: no answer is a fault of the
// server, every refusal has its code and sentence, and the studio can still be
// read afterwards. The draws are the same in every run.
func TestNoRequestBreaksTheServer(t *testing.T) {
	slog.SetDefault(slog.New(slog.DiscardHandler))
	w := newWorld(t)
	ctx := context.Background()
	api := httpapi.NewAPI(http.NewServeMux(), httpapi.Config{Rooms: w.svc, Ready: w.db.Ready, Files: exchange.Files{}})
	m := &maker{r: rand.New(rand.NewPCG(7, 7)), reg: api.OpenAPI().Components.Schemas, ids: []string{uuid.Nil.String(), uuid.NewString()}, keys: []string{"calm-oil", "cheek-scoop", "peel", "fever", "stone-plate", "chin", "both", "left"}}
	day, err := w.svc.Diary.Day(ctx, &w.owner, "")
	require.NoError(t, err)
	for _, v := range day.Visits {
		m.ids = append(m.ids, v.ID.String(), v.Client.String(), v.Protocol.String(), v.Practitioner.String(), v.Room.String())
	}
	lib, err := w.svc.Protocols.Library(ctx, &w.owner)
	require.NoError(t, err)
	for _, p := range lib.Products {
		m.ids, m.keys = append(m.ids, p.ID.String()), append(m.keys, p.Key)
	}
	shelf, err := w.svc.Shelf.Shelf(ctx, &w.owner)
	require.NoError(t, err)
	for _, l := range shelf {
		for _, pack := range l.Packs {
			m.ids = append(m.ids, pack.ID.String(), pack.LotID.String())
		}
	}
	for _, name := range []string{"Mirela", "Greta", "Rafael"} { // with letters, consents and patch tests
		f, err := w.file(ctx, &w.owner, w.client(t, name))
		require.NoError(t, err)
		for _, c := range f.Consultations {
			m.ids = append(m.ids, c.ID.String())
		}
		for _, l := range f.Letters {
			m.ids = append(m.ids, l.ID.String())
		}
		for _, p := range f.PatchTests {
			m.ids = append(m.ids, p.ID.String())
		}
	}

	call := w.signedIn(t, "owner@demo.example", "demo palms 1")
	// These end or lock the session that everything else is tried with.
	apart := map[string]bool{"sign-out": true, "sign-in": true, "hand-over": true, "unlock-tablet": true, "set-pin": true}
	type door struct {
		path string
		op   *huma.Operation
	}
	var doors []door
	for path, item := range api.OpenAPI().Paths {
		for _, op := range []*huma.Operation{item.Get, item.Post, item.Put, item.Delete, item.Patch} {
			if op != nil && !apart[op.OperationID] {
				doors = append(doors, door{path, op})
			}
		}
	}
	sort.Slice(doors, func(i, j int) bool { return doors[i].op.OperationID < doors[j].op.OperationID })
	fine, refused := 0, 0
	for _, d := range doors {
		for n := range 25 {
			path := braces.ReplaceAllStringFunc(d.path, func(string) string {
				if n%4 == 3 {
					return url.PathEscape(strings.ReplaceAll(m.text(), "\u0000", "")) + "x"
				}
				return m.ids[m.r.IntN(len(m.ids))]
			})
			query := url.Values{}
			for _, p := range d.op.Parameters {
				if p.In == "query" && (p.Required || m.r.IntN(2) == 0) {
					text := []rune(m.text())
					query.Set(p.Name, string(text[:min(len(text), 60)]))
				}
			}
			if len(query) > 0 {
				path += "?" + query.Encode()
			}
			if len(path) > 3000 {
				continue // the server refuses a longer head before the application sees it (431)
			}
			body := ""
			if d.op.RequestBody != nil {
				switch c := d.op.RequestBody.Content["application/json"]; {
				case n == 0:
					body = []string{"", "{", "[]", "null", `"x"`, strings.Repeat("[", 5000)}[m.r.IntN(6)]
				case c == nil:
					body = m.text()
				default:
					b, err := json.Marshal(m.value(c.Schema, 0))
					require.NoError(t, err)
					body = string(b)
				}
			}
			res, out := call(d.op.Method, path, body)
			if res.StatusCode < 400 {
				fine++
				continue
			}
			refused++
			if !assert.Less(t, res.StatusCode, 500, "%s %s %.600s: %.300s", d.op.Method, path, body, out) {
				continue
			}
			var p httpapi.Problem
			if assert.NoError(t, json.Unmarshal([]byte(out), &p), "%s %s: %.200s", d.op.Method, path, out) {
				assert.NotEmpty(t, p.Code, "%s %s: %.200s", d.op.Method, path, out)
				assert.NotEmpty(t, p.Detail, "%s %s: %.200s", d.op.Method, path, out)
			}
		}
	}
	t.Logf("%d operations: %d answered, %d refused", len(doors), fine, refused)
	assert.Greater(t, fine, 100)
	assert.Greater(t, refused, 300)
	_, err = w.svc.Diary.Day(ctx, &w.owner, "")
	require.NoError(t, err)
	_, err = w.svc.Shelf.Shelf(ctx, &w.owner)
	require.NoError(t, err)
	for _, name := range []string{"Mirela", "Greta"} {
		list, _, err := w.svc.Clients.Clients(ctx, &w.owner, name, "")
		require.NoError(t, err)
		for _, c := range list {
			_, err := w.svc.Clients.ExportClient(ctx, &w.owner, c.ID)
			require.NoError(t, err, "a file can still be read")
		}
	}
}
