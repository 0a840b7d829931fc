package quickjson_test

import (
	"bytes"
	"encoding/json"
	"math"
	"os"
	"reflect"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/stroke"
	"softpalm/internal/exchange"
	"softpalm/internal/quickjson"
)

// awkward has what JSON libraries differ in.
type awkward struct {
	embedded
	*Pointed
	Zero     time.Time         `json:"zero,omitzero"`
	Empty    []string          `json:"empty,omitempty"`
	None     []string          `json:"none"`
	Map      map[string]int    `json:"map"`
	ByNumber map[int]string    `json:"byNumber"`
	Any      any               `json:"any"`
	Raw      json.RawMessage   `json:"raw"`
	Sum      decimal.Decimal   `json:"sum"`
	Maybe    *decimal.Decimal  `json:"maybe,omitempty"`
	ID       uuid.UUID         `json:"id"`
	At       time.Time         `json:"at"`
	Text     string            `json:"text"`
	Float    float64           `json:"float"`
	Small    float64           `json:"small"`
	Keyed    map[uuid.UUID]int `json:"keyed"`
	Bytes    []byte            `json:"bytes"`
	Shadowed string            `json:"shadowed"`
}

type embedded struct {
	Inner    string `json:"inner"`
	Shadowed int    `json:"shadowed"`
}

// Pointed is embedded by reference.
type Pointed struct {
	Deep []*embedded `json:"deep"`
}

// What is written and read is what the standard library writes and reads, byte for byte and field for field: of the demo's
// studio, the trade's strokes and rules, an evaluation, and of what libraries differ in.
func TestTheSameAsTheStandardLibrary(t *testing.T) {
	data, err := os.ReadFile("../../demo/studio.json")
	require.NoError(t, err)
	bundle, err := exchange.ReadBundle(data)
	require.NoError(t, err)
	third := decimal.RequireFromString("0.3333")
	odd := awkward{
		embedded: embedded{"<b> & \u2028", 2}, Pointed: &Pointed{[]*embedded{{Inner: "x"}, nil}},
		Map: map[string]int{"b": 2, "a": 1, "é": 3}, ByNumber: map[int]string{10: "x", 9: "y"}, Any: []any{nil, 1.5, "x", map[string]any{"k": true}},
		Raw: json.RawMessage(`{ "a" : [1, 2] }`), Sum: decimal.RequireFromString("12.50"), Maybe: &third,
		ID: uuid.MustParse("0e5e8b6e-4a39-4b43-9d7c-08d30c3c9f33"), At: time.Date(2026, 11, 24, 9, 5, 0, 120_000_000, time.FixedZone("", 3600)),
		Text: "Grüße, \"quoted\" \\ \t \x01 \xff", Float: 1e21, Small: math.SmallestNonzeroFloat64,
		Keyed: map[uuid.UUID]int{uuid.Max: 1, uuid.Nil: 2}, Bytes: []byte("soft palm"), Shadowed: "outer",
	}
	values := []any{
		bundle, evaluation.Evaluate(crafttest.Sixty(), crafttest.SmallStudio()), crafttest.Sixty(), stroke.Trade(), contraindication.Trade(), odd, &odd,
		nil, []any(nil), map[string]any{}, "text", 3, true,
	}
	for i := range bundle.Protocols {
		values = append(values, &bundle.Protocols[i])
	}
	for _, value := range values {
		var quick, plain bytes.Buffer
		standard := json.NewEncoder(&plain)
		standard.SetEscapeHTML(false)
		require.NoError(t, standard.Encode(value))
		require.NoError(t, quickjson.Write(&quick, value))
		require.Equal(t, plain.String(), quick.String(), "%T", value)
		if value == nil {
			continue
		}
		a, b := reflect.New(reflect.TypeOf(value)), reflect.New(reflect.TypeOf(value))
		require.NoError(t, json.Unmarshal(plain.Bytes(), a.Interface()))
		require.NoError(t, quickjson.Read(plain.Bytes(), b.Interface()))
		assert.Equal(t, a.Interface(), b.Interface(), "%T", value)
	}
	for _, bad := range []string{"", "{", `{"text":3}`, "[1]", `{"id":"x"}`} {
		var a, b awkward
		assert.Equal(t, json.Unmarshal([]byte(bad), &a) == nil, quickjson.Read([]byte(bad), &b) == nil, bad)
	}
}
