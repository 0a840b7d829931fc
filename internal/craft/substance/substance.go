// Package substance knows ingredients of cosmetics by their INCI name and
// medicines by their non-proprietary name, with the names that people use for
// them.
//
// The tables are from memory of common INCI lists and of the names that the
// World Health Organization gives medicines; the fragrance substances tagged
// "listed" are the 26 that Directive 2003/15/EC wants named (from memory). They
// help to find and to compare; what is printed on the pack counts.
package substance

import (
	_ "embed"
	"encoding/json"
	"slices"
	"sort"
	"strings"
	"sync"
	"unicode"
)

// Ingredient is an ingredient of cosmetics.
type Ingredient struct {
	INCI string `json:"inci"`
	// Names people use for it.
	Names []string `json:"names"`
	// Tags name the groups it belongs to, by the tags of products.
	Tags []string `json:"tags"`
}

// Tag names a group of products or ingredients that rules speak of.
type Tag struct {
	Tag  string `json:"tag"`
	Name string `json:"name"`
	// Allergen groups are offered where one searches for an allergy.
	Allergen bool `json:"allergen,omitempty"`
	// Names people use for it.
	Names []string `json:"names"`
	// Implies lists the tags that whatever carries this one carries as well.
	Implies []string `json:"implies,omitempty"`
}

// Medicine is a medicine with its class.
type Medicine struct {
	Name  string   `json:"name"`
	Names []string `json:"names"`
	Class string   `json:"class"`
}

//go:embed ingredients.json
var ingredientsFile []byte

//go:embed tags.json
var tagsFile []byte

//go:embed medicines.json
var medicinesFile []byte

type tables struct {
	ingredients []Ingredient
	tags        []Tag
	medicines   []Medicine
	byName      map[string]*Ingredient // by INCI and every other name that is one ingredient's alone
	byMedicine  map[string]*Medicine
	byTag       map[string]*Tag // by tag, name and every other name
}

var known = sync.OnceValue(func() *tables {
	t := &tables{byName: map[string]*Ingredient{}, byMedicine: map[string]*Medicine{}, byTag: map[string]*Tag{}}
	for _, f := range []struct {
		data []byte
		into any
	}{{ingredientsFile, &t.ingredients}, {tagsFile, &t.tags}, {medicinesFile, &t.medicines}} {
		if err := json.Unmarshal(f.data, f.into); err != nil {
			panic("substance: a shipped table is broken: " + err.Error())
		}
	}
	names := map[string]int{}
	for i := range t.ingredients {
		for _, n := range t.ingredients[i].Names {
			names[plain(n)]++
		}
	}
	for i := range t.ingredients {
		in := &t.ingredients[i]
		for _, n := range in.Names {
			if names[plain(n)] == 1 {
				t.byName[plain(n)] = in
			}
		}
	}
	for i := range t.ingredients { // the INCI name goes before another's synonym
		in := &t.ingredients[i]
		t.byName[plain(in.INCI)], t.byName[in.INCI] = in, in
	}
	for i := range t.medicines {
		t.byMedicine[plain(t.medicines[i].Name)] = &t.medicines[i]
	}
	for i := range t.tags {
		tag := &t.tags[i]
		for _, n := range append([]string{tag.Tag, tag.Name}, tag.Names...) {
			t.byTag[hyphened(n)] = tag
		}
	}
	return t
})

// hyphened is a name as tags are written: lower case, single hyphens for blanks.
func hyphened(s string) string {
	return strings.Join(
		strings.FieldsFunc(strings.ToLower(s), func(r rune) bool { return unicode.IsSpace(r) || r == '-' || r == '_' }),
		"-",
	)
}

// KnownTags lists the tags that rules speak of, in a fixed order. It is shared: do
// not change it.
func KnownTags() []Tag { return known().tags }

// CanonicalTag returns a tag as rules write it, for any of the names that people
// use for it; what is not known comes back in lower case with hyphens.
func CanonicalTag(s string) string {
	if t := known().byTag[s]; t != nil {
		return t.Tag
	}
	h := hyphened(s)
	if t := known().byTag[h]; t != nil {
		return t.Tag
	}
	return h
}

// AllTags lists the tags of something with tags as people write them and with
// ingredients: as rules write them, with those that they imply and those that the
// ingredients bring, each once.
func AllTags(tags, ingredients []string) []string {
	out := make([]string, 0, len(tags)+4)
	put := func(tag string) {
		if tag != "" && !slices.Contains(out, tag) {
			out = append(out, tag)
		}
	}
	for _, tag := range tags {
		tag = CanonicalTag(tag)
		put(tag)
		if t := known().byTag[tag]; t != nil {
			for _, also := range t.Implies {
				put(also)
			}
		}
	}
	for _, name := range ingredients {
		if in := ingredient(name); in != nil {
			for _, tag := range in.Tags {
				put(tag)
			}
		}
	}
	return out
}

// plain is a name in lower case, without what is in brackets, with single
// blanks.
func plain(s string) string {
	for {
		from := strings.IndexByte(s, '(')
		to := strings.IndexByte(s, ')')
		if from < 0 || to < from {
			break
		}
		s = s[:from] + " " + s[to+1:]
	}
	return strings.Join(strings.Fields(strings.ToLower(s)), " ")
}

// ingredient finds one by any of its names; nil where it is not known. A name
// written as the table has it is found at once.
func ingredient(name string) *Ingredient {
	t := known()
	if in := t.byName[name]; in != nil {
		return in
	}
	return t.byName[plain(name)]
}

// Canonical returns the INCI name of an ingredient as a pack or a person writes
// it, in lower case; what is not known comes back as it was, in lower case.
func Canonical(name string) string {
	if in := ingredient(name); in != nil {
		return plain(in.INCI)
	}
	return plain(name)
}

// Class returns the class of a medicine, "" where it is not known.
func Class(medicine string) string {
	if m := known().byMedicine[plain(medicine)]; m != nil {
		return m.Class
	}
	return ""
}

// Allergy is what a client must not come into contact with. Kind says what Key
// is: the INCI name of an ingredient, a group's tag, or a person's own words
// that the tables do not know.
type Allergy struct {
	Kind string `json:"kind" enum:"ingredient,group,words"`
	Key  string `json:"key" minLength:"1" maxLength:"120"`
	// Name is what is shown and printed.
	Name string `json:"name" minLength:"1" maxLength:"120"`
}

// In reports whether a product with a name, ingredients and the tags it carries
// (see [AllTags]) holds what the allergy is to. Words that the tables do not know are looked for in the
// product's name, its ingredients and their other names.
func (a *Allergy) In(name string, ingredients, tags []string) bool {
	switch a.Kind {
	case "group":
		return slices.Contains(tags, CanonicalTag(a.Key))
	case "ingredient":
		key := Canonical(a.Key)
		return slices.ContainsFunc(ingredients, func(in string) bool { return Canonical(in) == key })
	}
	word := plain(a.Key)
	if word == "" {
		return false
	}
	if strings.Contains(plain(name), word) {
		return true
	}
	return slices.ContainsFunc(ingredients, func(in string) bool {
		if strings.Contains(strings.ToLower(in), word) {
			return true
		}
		row := ingredient(in)
		return row != nil && slices.ContainsFunc(row.Names, func(n string) bool { return strings.Contains(plain(n), word) })
	})
}

// Hit is something a search found. Key goes into an [Allergy] of the same kind,
// or is a medicine's name.
type Hit struct {
	Kind string `json:"kind" enum:"ingredient,group,medicine"`
	Key  string `json:"key"`
	Name string `json:"name"`
	// Also is the other name that the search met, or the first one of an ingredient.
	Also string `json:"also,omitempty"`
}

// Most hits a search gives.
const most = 8

// leastLetters is how much has to be typed before a search gives anything.
const leastLetters = 2

// Allergens finds groups and ingredients by any of their names: those that begin
// with the text first, then those that hold it, groups before single ones.
func Allergens(text string) []Hit {
	var found search
	found.word = plain(text)
	for _, t := range known().tags {
		if t.Allergen {
			found.look(Hit{Kind: "group", Key: t.Tag, Name: t.Name}, t.Names)
		}
	}
	for i := range known().ingredients {
		in := &known().ingredients[i]
		found.look(Hit{Kind: "ingredient", Key: in.INCI, Name: in.INCI}, in.Names)
	}
	return found.best()
}

// Medicines finds medicines by any of their names.
func Medicines(text string) []Hit {
	var found search
	found.word = plain(text)
	for i := range known().medicines {
		m := &known().medicines[i]
		found.look(Hit{Kind: "medicine", Key: m.Name, Name: m.Name}, m.Names)
	}
	return found.best()
}

type search struct {
	word string
	hits []Hit
	far  []int // how far off each hit is
}

func (s *search) look(h Hit, names []string) {
	if len([]rune(s.word)) < leastLetters {
		return
	}
	best := distance(plain(h.Name), s.word)
	if len(names) > 0 && h.Kind == "ingredient" {
		h.Also = names[0]
	}
	for i := len(names) - 1; i >= 0; i-- {
		if d := distance(plain(names[i]), s.word); d <= best && d < far {
			best, h.Also = d, names[i]
		}
	}
	if best < far {
		s.hits, s.far = append(s.hits, h), append(s.far, best)
	}
}

const far = 4

// distance is 0 for the name itself, 1 where it begins with the word, 2 where
// one of its words does, 3 where it holds it.
func distance(name, word string) int {
	switch {
	case name == word:
		return 0
	case strings.HasPrefix(name, word):
		return 1
	case strings.Contains(name, " "+word):
		return 2
	case strings.Contains(name, word):
		return 3
	}
	return far
}

func (s *search) best() []Hit {
	order := make([]int, len(s.hits))
	for i := range order {
		order[i] = i
	}
	sort.SliceStable(order, func(a, b int) bool { return s.far[order[a]] < s.far[order[b]] })
	out := []Hit{}
	for _, i := range order[:min(len(order), most)] {
		out = append(out, s.hits[i])
	}
	return out
}
