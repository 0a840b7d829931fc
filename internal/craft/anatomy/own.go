package anatomy

import (
	"strings"

	"softpalm/internal/problem"
	"softpalm/words"
)

// OwnZone is a zone that a studio added: a body add-on as the built-in ones are, worked by name and
// without a picture. Rules of screening name built-in zones only; what they ask everywhere holds here too.
type OwnZone struct {
	// Key begins with "own-"; it is made from the name.
	Key  string `json:"key"  pattern:"^own-[a-z0-9]+(-[a-z0-9]+)*$" maxLength:"60"`
	Name string `json:"name" minLength:"1"                          maxLength:"40"`
	// Paired zones exist left and right; the others are on the midline.
	Paired bool `json:"paired"`
	// Ceiling is the highest usual pressure, level 1 to 5.
	Ceiling int `json:"ceiling" minimum:"1" maximum:"5"`
	// DrainsTo is the group of lymph nodes it empties into; empty for none.
	DrainsTo NodeGroup `json:"drainsTo,omitempty" enum:"terminus,axillary,deep-cervical,preauricular,submandibular,submental,mastoid,occipital,"`
	Note     string    `json:"note,omitempty" maxLength:"200"`
}

const (
	// OwnMost is how many zones a studio may add.
	OwnMost = 24
	// Slots is the length of a table by zone: the built-in ones, the studio's own, and one that the
	// studio no longer has.
	Slots = Count + OwnMost + 1
	// OwnPrefix begins the key of every zone of a studio's own.
	OwnPrefix = "own-"
)

// IsOwn reports whether a key is one of a studio's own zone.
func IsOwn(key string) bool { return strings.HasPrefix(key, OwnPrefix) }

// ownCentre stands for the place of zones without a picture: no way is measured to them.
var ownCentre = at(0, -60, 0)

// Placed reports whether it is known where the zone lies, as of all but a studio's own.
func (id ID) Placed() bool { return id.zone != nil && id.index < Count }

// Own makes IDs of a studio's own zones, by key. Those beyond [OwnMost] are left out.
func Own(zones []OwnZone) map[string]ID {
	out := make(map[string]ID, len(zones))
	for i := range zones[:min(len(zones), OwnMost)] {
		out[zones[i].Key] = ID{Count + i, zones[i].zone()}
	}
	return out
}

// WithOwn lists the built-in zones and then a studio's own.
func WithOwn(own []OwnZone) []Zone {
	out := make([]Zone, 0, Count+len(own))
	out = append(out, Zones[:]...)
	for i := range own {
		out = append(out, *own[i].zone())
	}
	return out
}

func (o *OwnZone) zone() *Zone {
	return &Zone{
		Key:          o.Key,
		Name:         o.Name,
		Midline:      !o.Paired,
		Paired:       o.Paired,
		Region:       AddOn,
		Ceiling:      o.Ceiling,
		StillCeiling: o.Ceiling,
		DrainsTo:     o.DrainsTo,
		Note:         o.Note,
		Centre:       ownCentre,
	}
}

// Missing stands for a zone that the studio no longer has: it is named by its key and takes what body
// add-ons take.
func Missing(key string) ID {
	o := OwnZone{Key: key, Name: key, Ceiling: 3}
	return ID{Slots - 1, o.zone()}
}

// Validate reports what a studio's own zone lacks. at is the JSON pointer of the zone.
func (o *OwnZone) Validate(at string) []problem.Fault {
	var out []problem.Fault
	bad := func(field string, sentence words.Sentence) {
		out = append(out, problem.Fault{Path: at + field, Sentence: sentence})
	}
	if !IsOwn(o.Key) {
		bad("/key", words.KeyOfOwnZone(o.Key))
	}
	if strings.TrimSpace(o.Name) == "" {
		bad("/name", words.NameTheZone())
	}
	if o.Ceiling < 1 || o.Ceiling > 5 {
		bad("/ceiling", words.CeilingOfZone())
	}
	if o.DrainsTo != "" && o.DrainsTo.Rank() < 0 {
		bad("/drainsTo", words.ThereIsNoNodeGroup(string(o.DrainsTo)))
	}
	return out
}
