package evaluation

// Payload is what a check found: a struct of its own, which reaches JSON as the
// values of a finding and is written into its sentence.
type Payload interface {
	// apart distinguishes the findings of one step, such as a side or a concern; empty where
	// one finding of a kind is enough for a step.
	apart() string
	// Place is the zone and the lymph node the finding speaks of, each empty where
	// it speaks of none.
	Place() (zone, node string)
}

// sided payloads are found on one side; found on both, they become one without a side.
type sided interface {
	Payload
	side() string
	clearSide()
}

// Nothing is the payload of a check that has nothing to add to its code.
type Nothing struct{}

func (Nothing) apart() string              { return "" }
func (Nothing) Place() (zone, node string) { return "", "" }

// plain is embedded by payloads without a place of their own.
type plain struct{}

func (plain) apart() string              { return "" }
func (plain) Place() (zone, node string) { return "", "" }

// AtZone is embedded by payloads that speak of one zone.
type AtZone struct {
	Zone string `json:"zone"`
}

func (*AtZone) apart() string                { return "" }
func (z *AtZone) Place() (zone, node string) { return z.Zone, "" }

// OnSide is embedded by payloads found on one side. Side is empty where left and
// right say the same.
type OnSide struct {
	Side string `json:"side,omitempty"`
}

func (s *OnSide) apart() string { return s.Side }
func (s *OnSide) side() string  { return s.Side }
func (s *OnSide) clearSide()    { s.Side = "" }

// Payloads has an empty payload for every code: what its findings carry.
var Payloads = map[Code]func() Payload{
	PressureCeiling:  payload[AboveLimit],
	PressureAbsolute: payload[AboveLimit],
	PressureNeck:     payload[AboveLimit],
	PressureDrain:    payload[AboveLimit],
	ToolOnThroat:     payload[AtZone],
	ExcludedZone:     payload[Avoided],
	StrokeMissing:    payload[Gone],
	ProductMissing:   payload[Gone],
	DrainOrder:       payload[TooEarly],
	DrainClosed:      payload[NotOpen],
	DrainBarred:      payload[Blocked],
	DrainLeft:        payload[Undrained],
	NoOpening:        payload[Nothing],
	NoClosing:        payload[Nothing],
	NotCleared:       payload[SetLeft],
	ClosingOther:     payload[Order],
	DrainAway:        payload[Leads],
	LiftDown:         payload[Leads],
	NeckUp:           payload[Leads],
	EyeInward:        payload[Leads],
	GlideThin:        payload[SlipBelow],
	GlideUnknown:     payload[SlipBelow],
	GlideWet:         payload[SlipAbove],
	GlideSlick:       payload[SlipAbove],
	DryDrag:          payload[AtZone],
	AmountOver:       payload[AmountAbove],
	SidesUnequal:     payload[SideSeconds],
	SidesMethod:      payload[SidesWorked],
	MirrorOther:      payload[Mirror],
	FitOver:          payload[OffTime],
	FitUnder:         payload[OffTime],
	PressureDrop:     payload[Lighter],
	PhaseMissing:     payload[NoPhase],
	NoTime:           payload[Untimed],
	ColdLong:         payload[TooLong],
	ColdStill:        payload[Nothing],
	ColdDry:          payload[Nothing],
	Promise:          payload[Unworked],
	FlowBreaks:       payload[Breaks],
	EyeLoad:          payload[Slid],
	Unsuited:         payload[NotFor],
	Redness:          payload[Nothing],
	LongNails:        payload[Scratching],
	TooOften:         payload[Again],
	LateDrain:        payload[BeforeBed],
	NoGloves:         payload[Nothing],
	NotWashed:        payload[Touched],
	GlovesKept:       payload[Nothing],
	ToolBusy:         payload[ToolInUse],
	PorousTwice:      payload[ToolInUse],
	HandsTired:       payload[TooLong],
	HandsDay:         payload[TooLong],
	NotSaid:          payload[NotStated],
	EventRough:       payload[Rough],
	HairToEyes:       payload[AtZone],
	NoTissues:        payload[Nothing],
	SpeedDrag:        payload[Moving],
	SpeedSoothe:      payload[Moving],
}

func payload[P any, T interface {
	*P
	Payload
}]() Payload {
	return T(new(P))
}
