package anatomy

import "slices"

// NodeGroup names a group of lymph nodes; empty where there is none.
type NodeGroup string

// The node groups, nearest the heart first within each route.
const (
	Terminus      NodeGroup = "terminus"
	Axillary      NodeGroup = "axillary"
	DeepCervical  NodeGroup = "deep-cervical"
	Preauricular  NodeGroup = "preauricular"
	Submandibular NodeGroup = "submandibular"
	Submental     NodeGroup = "submental"
	Mastoid       NodeGroup = "mastoid"
	Occipital     NodeGroup = "occipital"
)

// NodeGroups lists the groups in an order in which each can be opened:
// everything downstream of a group comes before it.
var NodeGroups = [...]NodeGroup{Terminus, Axillary, DeepCervical, Preauricular, Submandibular, Mastoid, Occipital, Submental}

// IsRouteEnd reports whether lymph that has reached the group is home.
func (g NodeGroup) IsRouteEnd() bool { return g == Terminus || g == Axillary }

// Rank returns the group's position in [NodeGroups], -1 for none.
func (g NodeGroup) Rank() int {
	for i, h := range NodeGroups {
		if h == g {
			return i
		}
	}
	return -1
}

// Bit is the group's bit in a set of groups; none for no group.
func (g NodeGroup) Bit() uint8 {
	if g == "" {
		return 0
	}
	return 1 << g.Rank()
}

// RouteEnds are the groups at which lymph is home, as a set of [NodeGroup.Bit].
var RouteEnds = Terminus.Bit() | Axillary.Bit()

// Next returns the group that g empties into, "" when g is home or no group.
func (g NodeGroup) Next() NodeGroup {
	switch g {
	case DeepCervical:
		return Terminus
	case Preauricular, Submandibular, Mastoid, Occipital:
		return DeepCervical
	case Submental:
		return Submandibular
	}
	return ""
}

// EntryZone returns the key of the zone at which a group is usually opened.
func (g NodeGroup) EntryZone() string {
	return map[NodeGroup]string{
		Terminus: "collarbone-hollow", Axillary: "armpit", DeepCervical: "side-neck", Preauricular: "front-of-ear",
		Submandibular: "under-jaw", Submental: "under-chin", Mastoid: "behind-ear", Occipital: "occiput",
	}[g]
}

// anatomical edges: from memory of Gray's Anatomy, lymphatic drainage of the
// head and neck. A group is named for the zone its nodes lie in.
var anatomical = map[string][]string{
	"front-of-ear": {
		"hairline",
		"forehead",
		"brow",
		"temple",
		"upper-eyelid",
		"outer-eye-corner",
		"orbital-rim",
		"upper-orbital-rim",
		"lower-eyelid",
		"cheekbone",
		"ear",
		"scalp-side",
		"crown",
		"jaw-angle",
		"ear-opening",
	},
	"under-jaw": {
		"forehead-centre",
		"glabella",
		"brow-base",
		"inner-eye-corner",
		"under-eye",
		"nose-bridge",
		"nose-side",
		"mid-cheek",
		"under-cheekbone",
		"nasolabial",
		"upper-lip",
		"lip-centre-upper",
		"mouth-corner",
		"lower-lip",
		"lower-cheek",
		"jawline",
		"under-chin",
		"mouth-cheek",
		"mouth-upper",
		"mouth-lower",
	},
	"under-chin":        {"chin", "lip-centre-lower"},
	"behind-ear":        {"ear", "crown"},
	"occiput":           {"skull-edge", "nape", "back-neck", "crown"},
	"below-ear":         {"front-of-ear", "under-jaw", "behind-ear", "occiput", "ear-lobe", "jaw-angle", "front-neck"},
	"side-neck":         {"below-ear", "front-neck", "under-jaw", "behind-ear", "occiput"},
	"collarbone-hollow": {"side-neck", "shoulder", "below-collarbone", "collarbone"},
	"armpit":            {"shoulder", "chest", "breastbone", "forearm", "upper-back"},
	"below-collarbone":  {"chest", "breastbone"},
	"forearm":           {"hand"},
}

// practice edges: ways hands take besides the anatomical ones (common
// practice). Each chain runs towards the ear and down to the terminus.
var practice = [][]string{
	{"forehead-centre", "forehead", "temple", "front-of-ear"},
	{"hairline", "temple"},
	{"glabella", "brow-base", "brow", "temple"},
	{"inner-eye-corner", "upper-eyelid", "outer-eye-corner", "temple"},
	{"inner-eye-corner", "lower-eyelid", "outer-eye-corner"},
	{"inner-eye-corner", "under-eye", "outer-eye-corner"},
	{"inner-eye-corner", "orbital-rim", "outer-eye-corner"},
	{"inner-eye-corner", "orbital-rim", "temple"},
	{"inner-eye-corner", "upper-orbital-rim", "outer-eye-corner"},
	{"brow-base", "upper-orbital-rim", "temple"},
	{"under-eye", "temple"},
	{"under-eye", "orbital-rim", "cheekbone"},
	{"nose-bridge", "nose-side", "mid-cheek", "cheekbone", "front-of-ear"},
	{"nose-side", "nasolabial", "lower-cheek"},
	{"mid-cheek", "under-cheekbone", "front-of-ear"},
	{"lip-centre-upper", "upper-lip", "mouth-corner", "lower-cheek", "front-of-ear"},
	{"nasolabial", "mouth-corner"},
	{"lip-centre-lower", "lower-lip", "mouth-corner"},
	{"lower-cheek", "jaw-angle"},
	{"chin", "jawline", "jaw-angle", "ear-lobe"},
	{"under-chin", "under-jaw", "below-ear"},
	{"front-of-ear", "below-ear", "side-neck", "collarbone-hollow"},
	{"front-of-ear", "side-neck"},
	{"ear", "front-of-ear"},
	{"behind-ear", "side-neck"},
	{"occiput", "back-neck", "collarbone-hollow"},
	{"skull-edge", "back-neck"},
	{"nape", "back-neck"},
	{"breastbone", "collarbone", "collarbone-hollow"},
	{"breastbone", "below-collarbone", "armpit"},
	{"shoulder", "collarbone-hollow"},
	{"scalp-side", "temple"},
}

// Route is one directed edge of the lymph graph.
type Route struct {
	From string `json:"from"`
	To   string `json:"to"`
	// Practice marks a way that hands take besides the anatomical ones.
	Practice bool `json:"practice,omitempty"`
}

// Routes lists every edge, the anatomical ones first, by zone.
func Routes() []Route {
	var out []Route
	known := map[[2]string]bool{}
	for from := range downstream {
		for _, to := range downstream[from] {
			r := Route{From: Zones[from].Key, To: to.zone.Key}
			known[[2]string{r.From, r.To}] = true
			out = append(out, r)
		}
	}
	for _, chain := range practice {
		for i := 0; i+1 < len(chain); i++ {
			if e := [2]string{chain[i], chain[i+1]}; !known[e] {
				known[e] = true
				out = append(out, Route{chain[i], chain[i+1], true})
			}
		}
	}
	return out
}

var (
	downstream [][]ID // anatomical edges, by zone
	ways       [][]ID // with those of practice
	reach      [][]bool
	nodesOf    [][]NodeGroup
)

func init() {
	n := len(Zones)
	downstream = make([][]ID, n)
	reach = make([][]bool, n)
	all := make([][]ID, n)
	for i := range reach {
		reach[i] = make([]bool, n)
	}
	for to, froms := range anatomical {
		for _, from := range froms {
			f, t := mustLookup(from), mustLookup(to)
			downstream[f.index] = append(downstream[f.index], t)
			all[f.index] = append(all[f.index], t)
		}
	}
	for _, chain := range practice {
		for i := 0; i+1 < len(chain); i++ {
			f, t := mustLookup(chain[i]), mustLookup(chain[i+1])
			all[f.index] = append(all[f.index], t)
		}
	}
	nodesOf = make([][]NodeGroup, n)
	for i := range all { // the edges come from a map: in a fixed order from here on
		slices.SortFunc(downstream[i], byIndex)
		slices.SortFunc(all[i], byIndex)
	}
	ways = all
	for i := range nodesOf {
		nodesOf[i] = findNodes(At(i))
	}
	for i := range all {
		todo := []ID{At(i)}
		for len(todo) > 0 {
			at := todo[len(todo)-1]
			todo = todo[:len(todo)-1]
			for _, to := range all[at.index] {
				if !reach[i][to.index] {
					reach[i][to.index] = true
					todo = append(todo, to)
				}
			}
		}
	}
}

func byIndex(a, b ID) int { return a.index - b.index }

func mustLookup(key string) ID {
	id, ok := index[key]
	if !ok {
		panic("anatomy: no zone " + key)
	}
	return id
}

// Leads reports whether some route, anatomical or of practice, runs from a to b. A studio's own zone
// leads to the entry zone of its node group, and on from there; nothing leads to it.
func Leads(a, b ID) bool {
	if b.index >= Count {
		return false
	}
	if a.index >= Count {
		entry, ok := index[a.zone.DrainsTo.EntryZone()]
		return ok && (entry == b || reach[entry.index][b.index])
	}
	return reach[a.index][b.index]
}

// mostDetour is how many zones a way round is long at most.
const mostDetour = 4

// PathToNodes returns the zones after from on the shortest way, by anatomical routes and
// those of practice, over free zones to one that is a goal; empty where from is
// one itself, nil where there is no way of at most four zones.
func PathToNodes(from ID, free, goal func(ID) bool) []ID {
	type end struct {
		at  ID
		way []ID
	}
	seen := map[ID]bool{from: true}
	for todo := []end{{from, []ID{}}}; len(todo) > 0; todo = todo[1:] {
		now := todo[0]
		if goal(now.at) {
			return now.way
		}
		if len(now.way) == mostDetour {
			continue
		}
		for _, to := range waysFrom(now.at) {
			if !seen[to] && free(to) {
				seen[to] = true
				todo = append(todo, end{to, append(append([]ID{}, now.way...), to)})
			}
		}
	}
	return nil
}

// waysFrom lists the zones next on a route; from a studio's own zone the entry zone of its node group.
func waysFrom(id ID) []ID {
	if id.index < Count {
		return ways[id.index]
	}
	if entry, ok := index[id.zone.DrainsTo.EntryZone()]; ok {
		return []ID{entry}
	}
	return nil
}

// Way says how a hand moving from one zone to the next runs against the routes.
type Way int

// The ways. Level is sideways, within a zone, or where no route joins the two.
const (
	Level Way = iota
	Forward
	Backward
)

// FlowDirection returns how moving from a to b runs: Forward along the routes,
// Backward up them, Level otherwise. Moves between the node groups of the head
// (under the chin, under the jaw, round the ear, back of the head) and to and
// fro under the jaw are no fault and count as Level when they run backward.
func FlowDirection(a, b ID) Way {
	switch {
	case a == b:
		return Level
	case Leads(a, b):
		return Forward
	case !Leads(b, a):
		return Level
	case headNode(a) && headNode(b):
		return Level
	}
	return Backward
}

func headNode(id ID) bool {
	g := id.zone.Node
	return g != "" && !g.IsRouteEnd() && id.zone.Key != "side-neck"
}

// NodesOf returns the node groups the zone empties into first: its own group
// if it holds nodes, else those its anatomical edges lead to. A studio's own zone
// names its group.
func NodesOf(id ID) []NodeGroup {
	switch {
	case id.index < Count:
		return nodesOf[id.index]
	case id.zone.DrainsTo != "":
		return []NodeGroup{id.zone.DrainsTo}
	}
	return nil
}

func findNodes(id ID) []NodeGroup {
	if g := id.zone.Node; g != "" {
		return []NodeGroup{g}
	}
	var out []NodeGroup
	for _, to := range downstream[id.index] {
		for _, g := range findNodes(to) {
			seen := false
			for _, h := range out {
				seen = seen || g == h
			}
			if !seen {
				out = append(out, g)
			}
		}
	}
	return out
}
