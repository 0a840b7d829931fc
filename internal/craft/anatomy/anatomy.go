// Package anatomy describes the body as a facial massage studio works it:
// named zones of skin, how much pressure each takes, where each lies in
// centimetres on an average adult head, and the routes lymph takes home.
//
// # Concepts
//
// A [Zone] is a named patch of skin (or, inside the mouth, of mucosa). It is
// midline, paired, or both. A [ZoneSide] is a zone on one side. Left and right
// are always the client's own.
//
// A [Point] is a place in space in centimetres. The origin is the lowest
// point of the chin; x grows to the client's left, y up, z forward. Pictures
// are projections of these points, so a distance measured in a front picture
// understates the way from cheek to ear; [Distance] does not.
//
// A route runs along directed edges from zone to zone ([Routes]) until it is home:
// at the terminus (collarbone-hollow) or the armpit.
//
// A studio may add zones of its own ([OwnZone]), as lists without a picture; they
// come with what a plan is judged against and are never added to [Zones].
//
// Everything else here is fixed and read-only. Facts are common practice of the
// trade unless a comment names a source.
package anatomy

import "math"

// Side is the side of the client's body. The zero value is Mid.
type Side uint8

// The sides. They index small arrays, so their order matters.
const (
	Mid Side = iota
	Left
	Right
)

// String returns "mid", "left" or "right".
func (s Side) String() string { return [...]string{"mid", "left", "right"}[s] }

// Other returns the opposite side; Mid stays Mid.
func (s Side) Other() Side { return [...]Side{Mid, Right, Left}[s] }

// Region is one of the areas over which slip and loads are kept.
type Region string

// The regions, from the top down.
const (
	Scalp    Region = "scalp"
	Upper    Region = "upper"
	Middle   Region = "mid"
	Lower    Region = "lower"
	SideFace Region = "side"
	Mouth    Region = "mouth"
	Neck     Region = "neck"
	Shoulder Region = "shoulder"
	Chest    Region = "chest"
	AddOn    Region = "add-on"
)

// Regions lists every region from the top down.
var Regions = [...]Region{Scalp, Upper, Middle, SideFace, Lower, Mouth, Neck, Shoulder, Chest, AddOn}

// Point is a position in centimetres: x to the client's left, y up from the
// lowest point of the chin, z forward.
type Point struct {
	X float64 `json:"x"`
	Y float64 `json:"y"`
	Z float64 `json:"z"`
}

// Distance returns the straight distance in centimetres, in three dimensions.
func Distance(a, b Point) float64 {
	return math.Sqrt((a.X-b.X)*(a.X-b.X) + (a.Y-b.Y)*(a.Y-b.Y) + (a.Z-b.Z)*(a.Z-b.Z))
}

// Zone is a named patch of skin.
type Zone struct {
	// Key is the stable name used in files: lower case, hyphenated.
	Key string `json:"key"`
	// Name is what a practitioner reads.
	Name string `json:"name"`
	// Midline and Paired say on which sides the zone exists; the hairline is both.
	Midline bool   `json:"midline"`
	Paired  bool   `json:"paired"`
	Region  Region `json:"region"`
	// Ceiling is the highest usual pressure (0-5) for sliding and kneading.
	Ceiling int `json:"ceiling"`
	// StillCeiling is the highest pressure for a still press or an anchored
	// stretch; equal to Ceiling where no exception is made.
	StillCeiling int `json:"stillCeiling"`
	// Absolute ceilings may not be passed for any reason.
	Absolute bool `json:"absolute"`
	// Delicate skin is harmed by dragging.
	Delicate bool `json:"delicate"`
	// Node is set where lymph nodes lie in the zone.
	Node NodeGroup `json:"node,omitempty"`
	// DrainsTo is the group that a zone of the studio's own empties into; empty for none.
	DrainsTo NodeGroup `json:"drainsTo,omitempty"`
	Note     string    `json:"note,omitempty"`
	// Centre is the zone's landmark on the client's left (or the midline).
	Centre Point `json:"centre"`
	// Outline is the border seen from the front, on the client's left; for a
	// midline zone the left half. Empty where the zone cannot be seen from
	// the front.
	Outline [][2]float64 `json:"outline,omitempty"`
	// Profile is the border seen from the side (z, y), Back from behind, Mouth
	// inside the open mouth; empty where the zone cannot be seen so.
	Profile [][2]float64 `json:"profile,omitempty"`
	Back    [][2]float64 `json:"back,omitempty"`
	Mouth   [][2]float64 `json:"mouth,omitempty"`
	// MidOutline is the left half of the midline part of a zone that is both.
	MidOutline [][2]float64 `json:"midOutline,omitempty"`
}

// Front reports whether the zone can be seen in the front view.
func (z *Zone) Front() bool { return len(z.Outline) > 0 }

// ID names a zone: its place in tables by zone, and its description. The zero value names none.
type ID struct {
	index int
	zone  *Zone
}

// Index is the zone's place in a table of [Slots] entries.
func (id ID) Index() int { return id.index }

var index = func() map[string]ID {
	m := make(map[string]ID, len(Zones))
	for i := range Zones {
		m[Zones[i].Key] = ID{i, &Zones[i]}
	}
	return m
}()

// At returns the i-th of [Zones].
func At(i int) ID { return ID{i, &Zones[i]} }

// Lookup returns the zone with that key, if it is one of [Zones].
func Lookup(key string) (ID, bool) {
	id, ok := index[key]
	return id, ok
}

// Areas are names that stand for their zones, in the order in which hands reach them. The whole face
// leaves out eyes and lips, which nothing is spread over unless it is said.
var Areas = map[string][]string{
	"whole-face":          {"chin", "jawline", "lower-cheek", "mid-cheek", "nose-side", "cheekbone", "temple", "forehead", "forehead-centre"},
	"face-neck-decollete": {"chest", "collarbone", "side-neck", "chin", "jawline", "lower-cheek", "mid-cheek", "nose-side", "cheekbone", "temple", "forehead", "forehead-centre"},
}

// Area returns the zones that a key stands for: those of an area, else the zone itself.
func Area(key string) []string {
	if zones := Areas[key]; zones != nil {
		return zones
	}
	return []string{key}
}

// Zone returns the zone's description; nil for the zero value.
func (id ID) Zone() *Zone { return id.zone }

// On returns the side on which a hand working side s meets the zone: Mid for a
// zone that has only a midline.
func (id ID) On(s Side) Side {
	if !id.zone.Paired {
		return Mid
	}
	return s
}

// ZoneSide is a zone on one side.
type ZoneSide struct {
	Zone ID
	Side Side
}

// At returns the landmark of the place in centimetres.
func (p ZoneSide) At() Point {
	c := p.Zone.zone.Centre
	switch p.Side {
	case Right:
		c.X = -c.X
	case Mid:
		c.X = 0
	}
	return c
}

// To is the way to another place in centimetres, landmark to landmark; 0 where one of them is a zone of
// a studio's own, of which it is not known where it lies.
func (p ZoneSide) To(q ZoneSide) float64 {
	if !p.Zone.Placed() || !q.Zone.Placed() {
		return 0
	}
	return Distance(p.At(), q.At())
}

// NeighbourCM is how near, landmark to landmark, a place is a neighbour: about
// two fingers' breadth (common practice).
const NeighbourCM = 3.0

// Near lists the other places within [NeighbourCM] of a place, on its own side
// or the midline, in the order of the zones.
func Near(p ZoneSide) []ZoneSide {
	var out []ZoneSide
	at := p.At()
	for i := range Zones {
		id, z := At(i), &Zones[i]
		if id == p.Zone {
			continue
		}
		var side Side
		switch {
		case z.Paired && p.Side != Mid:
			side = p.Side
		case z.Midline:
			side = Mid
		default:
			for _, s := range []Side{Left, Right} {
				if q := (ZoneSide{id, s}); Distance(q.At(), at) <= NeighbourCM {
					out = append(out, q)
				}
			}
			continue
		}
		if q := (ZoneSide{id, side}); Distance(q.At(), at) <= NeighbourCM {
			out = append(out, q)
		}
	}
	return out
}
