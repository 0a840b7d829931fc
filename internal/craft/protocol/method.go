package protocol

import "softpalm/internal/craft/stroke"

// Method holds the questions on which schools of the trade differ. An empty
// answer takes the first listed value, or sets no rule where that is said.
type Method struct {
	Drainage string `json:"drainage,omitempty" enum:"open-and-close,only-open,only-close,middle,whole,none,"`
	Opening  string `json:"opening,omitempty" enum:"nearest-first,feather-sweep,kneaded,"`
	// Closing in reverse lists its differences from the opening; empty lists none.
	Closing string `json:"closing,omitempty" enum:"reverse,chin-sweep,forehead-sweep,"`
	// Clearing: one run down the neck at the end, or after each set.
	Clearing string `json:"clearing,omitempty" enum:"at-end,after-set,"`
	// Sides of the whole plan; empty sets no rule.
	Sides string `json:"sides,omitempty" enum:"both,each-step,whole-side,"`
	// Nape of the neck: down, up, or as the client prefers.
	Nape string `json:"nape,omitempty" enum:"preference,down,up,"`
	// Eye: outward above and inward below on the bone, or always outward; empty
	// allows either.
	Eye string `json:"eye,omitempty" enum:"outward,in-below,"`
	// Slip: full, little for gripping rollers and fascia, or dry throughout.
	Slip string `json:"slip,omitempty" enum:"full,little,dry,"`
	// Dose: in threes, a minute each, or until it lets go.
	Dose string `json:"dose,omitempty" enum:"threes,minute,until,"`
	// Discomfort that release work may cause; DiscomfortLimit on a scale of 10
	// at which to stop, 0 counting as 6.
	Discomfort      string `json:"discomfort,omitempty" enum:"comfort,bearable,"`
	DiscomfortLimit int    `json:"discomfortLimit,omitempty" minimum:"0" maximum:"10"`
	// Redness afterwards; empty sets no rule.
	Redness string `json:"redness,omitempty" enum:"expected,avoided,"`
}

// ExpectedRedness is the highest grade of redness, of 4, that is expected at the end (common practice): none where the
// method avoids it, clear redness where it expects it, else a faint pink.
func (s Method) ExpectedRedness() int {
	switch s.Redness {
	case "avoided":
		return 0
	case "expected":
		return 2
	}
	return 1
}

func (s Method) DrainageOrUsual() string {
	if s.Drainage == "" {
		return "open-and-close"
	}
	return s.Drainage
}

func (s Method) Opens() bool {
	return s.DrainageOrUsual() == "open-and-close" || s.Drainage == "only-open" || s.Drainage == "whole"
}
func (s Method) Closes() bool {
	return s.DrainageOrUsual() == "open-and-close" || s.Drainage == "only-close" || s.Drainage == "whole"
}
func (s Method) ChecksOrder() bool {
	return s.Opens() && (s.Opening == "" || s.Opening == "nearest-first")
}

// DefaultDose is the dose that the method gives an inherited dose.
func (s Method) DefaultDose() stroke.Dose {
	switch s.Dose {
	case "minute":
		return stroke.Dose{Kind: stroke.Clock, Planned: 60, Min: 30, Max: 90}
	case "until":
		return stroke.Dose{Kind: stroke.Until, Planned: 40, Min: 15, Max: 90, Sign: "it lets go"}
	}
	return stroke.Dose{Kind: stroke.Reps, Planned: 3, Min: 3, Max: 4}
}
