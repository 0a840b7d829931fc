package substance_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"softpalm/internal/craft/substance"
)

func names(hits []substance.Hit) []string {
	out := []string{}
	for _, h := range hits {
		out = append(out, h.Name)
	}
	return out
}

// The same thing by its INCI name, as packs print it, and by what people call it
// (names from memory of common INCI lists).
func TestCanonical(t *testing.T) {
	for _, same := range [][]string{
		{"Prunus Amygdalus Dulcis Oil", "PRUNUS AMYGDALUS DULCIS (SWEET ALMOND) OIL", "sweet almond oil", " Almond "},
		{"Cera Alba", "Cera Alba (Beeswax)", "beeswax"},
		{"Lanolin", "wool wax", "Adeps Lanae"},
		{"Benzophenone-3", "oxybenzone"},
	} {
		for _, n := range same {
			assert.Equal(t, substance.Canonical(same[0]), substance.Canonical(n), n)
		}
	}
	assert.Equal(t, "something else", substance.Canonical("Something  Else"))
	assert.Equal(t, "parabens", substance.Canonical("Parabens"), "a name of several is none of them")
}

// The 26 substances of Directive 2003/15/EC (from memory) are there and count as
// fragrance.
func TestListedFragrances(t *testing.T) {
	for _, n := range []string{"Linalool", "Limonene", "Citral", "Geraniol", "Eugenol", "Coumarin", "Farnesol", "Cinnamal", "Evernia Prunastri Extract", "Alpha-Isomethyl Ionone"} {
		assert.Contains(t, substance.Tags([]string{n}), "listed", n)
		assert.Contains(t, substance.Tags([]string{n}), "fragrance", n)
	}
	assert.Equal(t, []string{"nut-oil", "retinoid", "active"}, substance.Tags([]string{"Aqua", "Juglans Regia (Walnut) Seed Oil", "Corylus Avellana Seed Oil", "Retinol"}))
}

func TestSearch(t *testing.T) {
	assert.Equal(t, "Nuts and nut oils", substance.Allergens("nut")[0].Name)
	assert.Equal(t, "Prunus Amygdalus Dulcis Oil", substance.Allergens("almond")[0].Name)
	assert.Equal(t, "almond", substance.Allergens("almo")[0].Also)
	assert.Equal(t, "lavender", substance.Allergens("lavan")[0].Also, "what people call it stands beside it")
	assert.Contains(t, names(substance.Allergens("paraben")), "Methylparaben")
	assert.Contains(t, names(substance.Allergens("ragweed")), "Plants of the daisy family")
	assert.Empty(t, substance.Allergens("a"), "one letter is too little")
	assert.Empty(t, substance.Allergens("xyzzy"))
	assert.LessOrEqual(t, len(substance.Allergens("oil")), 8)
	assert.Equal(t, []string{"warfarin"}, names(substance.Medicines("warf")))
	assert.Equal(t, "acetylsalicylic acid", substance.Medicines("aspirin")[0].Key)
	assert.Equal(t, "anticoagulant", substance.Class("Warfarin"))
	assert.Empty(t, substance.Class("sugar"))
}

func TestWordsOfTheirOwn(t *testing.T) {
	a := substance.Allergy{Kind: "words", Key: "Sunflower", Name: "Sunflower"}
	assert.True(t, a.In("Seed oil", []string{"Helianthus Annuus Seed Oil"}, nil), "by another name of the ingredient")
	assert.True(t, a.In("Sunflower balm", nil, nil), "by the product's name")
	assert.False(t, a.In("Seed oil", []string{"Vitis Vinifera Seed Oil"}, nil))
	group := substance.Allergy{Kind: "group", Key: "bee-product", Name: "Bee products"}
	assert.True(t, group.In("Balm", []string{"Cera Alba"}, nil))
	assert.True(t, group.In("Balm", nil, []string{"bee-product"}))
	assert.False(t, group.In("Balm", []string{"Petrolatum"}, nil))
}
