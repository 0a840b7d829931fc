package anatomy_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"softpalm/internal/craft/anatomy"
)

// What a studio's own zone is and is not is the handbook's, chapter 1: a list without a picture, each with
// a ceiling and a lymph group or none.

func calf() anatomy.OwnZone {
	return anatomy.OwnZone{Key: "own-calf", Name: "Calves", Paired: true, Ceiling: 4}
}

func TestAnOwnZoneIsAnAddOnWithoutAPicture(t *testing.T) {
	id := anatomy.Own([]anatomy.OwnZone{calf()})["own-calf"]
	z := id.Zone()
	assert.Equal(t, anatomy.AddOn, z.Region)
	assert.Equal(t, 4, z.Ceiling)
	assert.Equal(t, 4, z.StillCeiling, "no exception is made for a still press")
	assert.Equal(t, anatomy.Right, id.On(anatomy.Right))
	for _, v := range anatomy.Views {
		assert.False(t, z.Seen(v))
	}
	assert.False(t, id.Placed())
	face, _ := anatomy.Lookup("chin")
	assert.Zero(t, anatomy.ZoneSide{Zone: id}.To(anatomy.ZoneSide{Zone: face}), "no way is measured")
	_, builtIn := anatomy.Lookup("own-calf")
	assert.False(t, builtIn)
	assert.Len(t, anatomy.WithOwn([]anatomy.OwnZone{calf()}), anatomy.Count+1)
}

func TestAnOwnZoneDrainsThroughItsGroup(t *testing.T) {
	arm, calf := calf(), calf()
	arm.Key, arm.DrainsTo = "own-arm", anatomy.Axillary
	own := anatomy.Own([]anatomy.OwnZone{arm, calf})
	armpit, _ := anatomy.Lookup("armpit")
	hollow, _ := anatomy.Lookup("collarbone-hollow")
	chin, _ := anatomy.Lookup("chin")
	assert.Equal(t, []anatomy.NodeGroup{anatomy.Axillary}, anatomy.NodesOf(own["own-arm"]))
	assert.True(t, anatomy.Leads(own["own-arm"], armpit))
	assert.False(t, anatomy.Leads(own["own-arm"], hollow), "the armpit is home")
	assert.False(t, anatomy.Leads(chin, own["own-arm"]))
	assert.Empty(t, anatomy.NodesOf(own["own-calf"]))
	assert.False(t, anatomy.Leads(own["own-calf"], armpit))
	assert.Equal(t, anatomy.Forward, anatomy.FlowDirection(own["own-arm"], armpit))
	assert.Equal(t, anatomy.Backward, anatomy.FlowDirection(armpit, own["own-arm"]))
	any := func(anatomy.ID) bool { return true }
	way := anatomy.PathToNodes(own["own-arm"], any, func(id anatomy.ID) bool { return id == armpit })
	assert.Equal(t, []anatomy.ID{armpit}, way)
	assert.Nil(t, anatomy.PathToNodes(own["own-calf"], any, func(id anatomy.ID) bool { return id == armpit }))
}

func TestOwnZonesKeepToTheirTable(t *testing.T) {
	var many []anatomy.OwnZone
	for i := range anatomy.OwnMost + 3 {
		z := calf()
		z.Key = fmt.Sprintf("own-%d", i)
		many = append(many, z)
	}
	own := anatomy.Own(many)
	assert.Len(t, own, anatomy.OwnMost)
	seen := map[int]bool{anatomy.Missing("own-gone").Index(): true}
	for key, id := range own {
		assert.False(t, seen[id.Index()], key)
		assert.GreaterOrEqual(t, id.Index(), anatomy.Count)
		assert.Less(t, id.Index(), anatomy.Slots)
		seen[id.Index()] = true
	}
	assert.Equal(t, "own-gone", anatomy.Missing("own-gone").Zone().Key)
}

func TestAnOwnZoneIsCompleteOrRefused(t *testing.T) {
	good := calf()
	assert.Empty(t, good.Validate(""))
	for field, spoil := range map[string]func(*anatomy.OwnZone){
		"/key":      func(z *anatomy.OwnZone) { z.Key = "calf" },
		"/name":     func(z *anatomy.OwnZone) { z.Name = "  " },
		"/ceiling":  func(z *anatomy.OwnZone) { z.Ceiling = 6 },
		"/drainsTo": func(z *anatomy.OwnZone) { z.DrainsTo = "popliteal" },
	} {
		bad := calf()
		spoil(&bad)
		ps := bad.Validate("/zones/0")
		if assert.Len(t, ps, 1, field) {
			assert.Equal(t, "/zones/0"+field, ps[0].Path)
		}
	}
}
