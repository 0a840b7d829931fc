package shelf_test

import (
	"testing"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	craft "softpalm/internal/craft/shelf"
	"softpalm/internal/studio"
	"softpalm/internal/studio/shelf"
)

func dec(s string) decimal.Decimal { return decimal.RequireFromString(s) }

func ptr(s string) *decimal.Decimal {
	d := dec(s)
	return &d
}

// at is where an input is at fault, or what else went wrong.
func at(t *testing.T, err error) string {
	t.Helper()
	var input *studio.InputError
	require.ErrorAs(t, err, &input)
	return input.Problems[0].Path
}

// Drops of an essential oil in a carrier (handbook, chapter 4: 30 mL at 1 % with 20 drops to the mL take 6 drops, rounded
// down; a face 0.5 to 1 %, none or 0.5 % at most where care is needed; a dermal maximum holds them down).
func TestBlend(t *testing.T) {
	owner := &studio.Actor{Role: studio.Owner}
	for _, c := range []struct {
		name  string
		blend shelf.Blending
		drops int64
		mind  string
	}{
		{"the handbook's", shelf.Blending{CarrierML: dec("30"), Percent: dec("1"), DropsPerML: dec("20")}, 6, ""},
		{"half of it", shelf.Blending{CarrierML: dec("30"), Percent: dec("0.5"), DropsPerML: dec("20")}, 3, ""},
		{"rounded down", shelf.Blending{CarrierML: dec("12"), Percent: dec("0.7"), DropsPerML: dec("20")}, 1, ""},
		{"no whole drop", shelf.Blending{CarrierML: dec("4"), Percent: dec("1"), DropsPerML: dec("20")}, 0, "Too little carrier"},
		{"too strong for a face", shelf.Blending{CarrierML: dec("30"), Percent: dec("2"), DropsPerML: dec("20")}, 12, "half to one per cent"},
		{"with care", shelf.Blending{CarrierML: dec("30"), Percent: dec("1"), DropsPerML: dec("20"), Careful: true}, 6, "half a per cent at most"},
		{"a dermal maximum", shelf.Blending{CarrierML: dec("100"), Percent: dec("1"), DropsPerML: dec("20"), DermalMax: ptr("0.4")}, 8, "maximum"},
	} {
		t.Run(c.name, func(t *testing.T) {
			got, err := (&shelf.Service{}).Blend(owner, &c.blend)
			require.NoError(t, err)
			assert.Equal(t, c.drops, got.Drops)
			if c.mind == "" {
				assert.Empty(t, got.Mind)
			}
			assert.Contains(t, got.Mind, c.mind)
		})
	}
}

// What cannot be worked out says which figure is wrong; a client's tablet works nothing out.
func TestBlendRefuses(t *testing.T) {
	owner := &studio.Actor{Role: studio.Owner}
	good := shelf.Blending{CarrierML: dec("30"), Percent: dec("1"), DropsPerML: dec("20")}
	for where, change := range map[string]func(*shelf.Blending){
		"/carrierML":  func(b *shelf.Blending) { b.CarrierML = dec("0") },
		"/percent":    func(b *shelf.Blending) { b.Percent = dec("-1") },
		"/dropsPerML": func(b *shelf.Blending) { b.DropsPerML = dec("1001") },
		"/dermalMax":  func(b *shelf.Blending) { b.DermalMax = ptr("100") },
	} {
		bad := good
		change(&bad)
		_, err := (&shelf.Service{}).Blend(owner, &bad)
		assert.Equal(t, where, at(t, err))
	}
	_, err := (&shelf.Service{}).Blend(&studio.Actor{}, &good)
	assert.Error(t, err)
}

// A weaker solution (handbook, chapter 4, Dilution: from 70 % to 30 %, 100 mL: 42.9 and 57.1).
func TestDilute(t *testing.T) {
	owner := &studio.Actor{Role: studio.Owner}
	parts, err := (&shelf.Service{}).Dilute(owner, &craft.Dilution{Have: dec("70"), Want: dec("30"), Total: dec("100")})
	require.NoError(t, err)
	assert.Equal(t, []string{"42.9", "57.1"}, []string{parts.Concentrate.String(), parts.Water.String()})
	for where, d := range map[string]craft.Dilution{
		"/have":  {Have: dec("101"), Want: dec("30"), Total: dec("100")},
		"/want":  {Have: dec("30"), Want: dec("70"), Total: dec("100")},
		"/total": {Have: dec("70"), Want: dec("30"), Total: dec("0")},
	} {
		_, err := (&shelf.Service{}).Dilute(owner, &d)
		assert.Equal(t, where, at(t, err))
	}
}
