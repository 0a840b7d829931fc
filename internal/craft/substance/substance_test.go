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
		assert.Contains(t, substance.AllTags(nil, []string{n}), "listed", n)
		assert.Contains(t, substance.AllTags(nil, []string{n}), "fragrance", n)
	}
	assert.Equal(t, []string{"nut-oil", "retinoid", "active"}, substance.AllTags(nil, []string{"Aqua", "Juglans Regia (Walnut) Seed Oil", "Corylus Avellana Seed Oil", "Retinol"}))
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
	assert.True(t, group.In("Balm", nil, substance.AllTags(nil, []string{"Cera Alba"})))
	assert.True(t, group.In("Balm", nil, substance.AllTags([]string{"Beeswax"}, nil)))
	assert.False(t, group.In("Balm", nil, substance.AllTags(nil, []string{"Petrolatum"})))
}

// A tag is the same however it is written on the shelf, and carries what it
// implies: an acid exfoliates, an essential oil is fragrance (common practice).
func TestTags(t *testing.T) {
	for tag, ways := range map[string][]string{
		"nut-oil":       {"nut-oil", "Nut oil", "NUT OILS", " nuts ", "nut_oil", "Nuts and nut oils"},
		"exfoliant":     {"exfoliant", "Exfoliating", "scrub"},
		"bee-product":   {"honey", "Bee product", "bee products"},
		"clogging":      {"comedogenic", "May clog pores"},
		"our-own-group": {"our own group", "Our-Own group"},
	} {
		for _, w := range ways {
			assert.Equal(t, tag, substance.CanonicalTag(w), w)
		}
	}
	assert.Equal(t, []string{"acid", "exfoliant", "active"}, substance.AllTags([]string{"AHA"}, nil))
	assert.Equal(t, []string{"salicylic", "acid", "exfoliant", "active"}, substance.AllTags([]string{"BHA", "acid"}, nil))
	assert.Equal(t, []string{"essential-oil", "fragrance"}, substance.AllTags([]string{"Essential oils"}, nil))
	assert.Equal(t, []string{"nut-oil"}, substance.AllTags([]string{"", "nuts"}, []string{"Juglans Regia Seed Oil"}), "each once, nothing of an empty one")
	known := substance.KnownTags()
	for i := range known {
		assert.Equal(t, known[i].Tag, substance.CanonicalTag(known[i].Name))
		for _, also := range known[i].Implies {
			assert.Equal(t, also, substance.CanonicalTag(also), "%s implies a tag that is known", known[i].Tag)
			for _, further := range substance.AllTags([]string{also}, nil) {
				assert.Contains(t, known[i].Implies, further, "what %s implies is listed with it", known[i].Tag)
			}
		}
	}
}
