package protocol

// ToolKinds lists the kinds of tool; electrical tools are known by their cautions
// only (handbook, chapter 4).
var ToolKinds = []string{
	"stone",
	"twin-ball-roller",
	"cylinder-roller",
	"cold",
	"cup",
	"mitt",
	"brush",
	"spatula",
	"compress",
	"electrical",
}

// Tool is a tool of the studio. Kind is one of stone, twin-ball-roller,
// cylinder-roller, cold, cup, mitt, brush, spatula, compress.
type Tool struct {
	Key   string   `json:"key" maxLength:"60" pattern:"^[a-z0-9]+(-[a-z0-9]+)*$"`
	Name  string   `json:"name" minLength:"1" maxLength:"120"`
	Kind  string   `json:"kind" enum:"stone,twin-ball-roller,cylinder-roller,cold,cup,mitt,brush,spatula,compress"`
	Parts []string `json:"parts,omitempty" maxItems:"12"`
	// Care is how it is cleaned; ReadyAfter the minutes until it can be used again.
	Care       string `json:"care,omitempty" maxLength:"300"`
	ReadyAfter int    `json:"readyAfter" minimum:"0" maximum:"1440"`
	Pieces     int    `json:"pieces" minimum:"0" maximum:"100"`
	Fragile    bool   `json:"fragile,omitempty"`
	// SingleUse items are used once.
	SingleUse bool   `json:"porous,omitempty"`
	Material  string `json:"material,omitempty" maxLength:"60"`
	// Chill or warm minutes before use; weight in g.
	Chill  int     `json:"chill,omitempty" minimum:"0" maximum:"1440"`
	Weight float64 `json:"weight,omitempty" minimum:"0" maximum:"5000"`
	// Price of a piece, and for how many uses it is expected to last; what a use costs follows.
	Price        float64 `json:"price,omitempty" minimum:"0" maximum:"100000"`
	ExpectedUses int     `json:"expectedUses,omitempty" minimum:"0" maximum:"100000"`
}

// Cold reports whether the tool is used chilled.
func (t Tool) Cold() bool { return t.Kind == "cold" }

// Roller reports whether the tool rolls.
func (t Tool) Roller() bool { return t.Kind == "twin-ball-roller" || t.Kind == "cylinder-roller" }
