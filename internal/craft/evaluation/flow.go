package evaluation

// Breaks is how often the hands leave the face, change tools and jump.
type Breaks struct {
	plain
	Left  int `json:"left"`
	Tools int `json:"tools"`
	Jumps int `json:"jumps"`
}

// Flow limits in a plan: one break of each kind in so many minutes (a studio's
// starting values; common practice is "as few as the work allows").
const (
	LiftsPerMinute = 1.0 / 2.5
	ToolsPerMinute = 1.0 / 4
	JumpsPerMinute = 1.0 / 3
)

func (e *Evaluation) flow() {
	minutes := max(e.Seconds/60, 10)
	if float64(e.TimesLifted) <= minutes*LiftsPerMinute+1 && float64(e.ToolChanges) <= minutes*ToolsPerMinute+1 &&
		float64(e.Jumps) <= minutes*JumpsPerMinute+1 {
		return
	}
	e.add(FlowBreaks, Note, StudioLimit, &Breaks{Left: e.TimesLifted, Tools: e.ToolChanges, Jumps: e.Jumps}, []Fix{Smoother})
}
