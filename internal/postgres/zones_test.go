package postgres_test

import (
	"context"
	"fmt"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/stroke"
	"softpalm/internal/exchange"
	"softpalm/internal/studio"
)

func calves() anatomy.OwnZone {
	return anatomy.OwnZone{Name: "Calves", Paired: true, Ceiling: 3}
}

// A zone of the studio's own is added, worked, and removed once nothing works it.
func TestAStudioAddsAZone(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	z, err := w.svc.Protocols.SaveZone(ctx, &w.owner, calves(), nil)
	require.NoError(t, err)
	assert.Equal(t, "own-calves", z.Key)

	_, err = w.svc.Protocols.SaveZone(ctx, &w.owner, calves(), nil)
	assert.ErrorContains(t, err, "There is a zone “Calves” already")
	face := calves()
	face.Name = " chin"
	_, err = w.svc.Protocols.SaveZone(ctx, &w.owner, face, nil)
	assert.ErrorContains(t, err, "There is a zone", "built-in names are taken")

	was := *z
	z.Ceiling = 4
	_, err = w.svc.Protocols.SaveZone(ctx, &w.owner, *z, &was)
	require.NoError(t, err)
	var changed *studio.ChangedError
	_, err = w.svc.Protocols.SaveZone(ctx, &w.owner, *z, &was)
	assert.ErrorAs(t, err, &changed, "a colleague changed it meanwhile")

	st := stroke.Stroke{Manner: stroke.Manner{Name: "Calf glide", Family: stroke.Effleurage, Intent: stroke.Soothe}, Sides: stroke.InTurns, Pressure: 2,
		Path: []string{"own-calves", "knee"}, Dose: stroke.Dose{Kind: stroke.Clock, Planned: 60}}
	unknown := st
	unknown.Path = []string{"own-toes"}
	_, err = w.svc.Protocols.SaveStroke(ctx, &w.owner, unknown, nil)
	assert.ErrorContains(t, err, "The studio has no zone of its own “own-toes”")
	glide, err := w.svc.Protocols.SaveStroke(ctx, &w.owner, st, nil)
	require.NoError(t, err)
	inUse := func(by string) {
		var state *studio.StateError
		require.ErrorAs(t, w.svc.Protocols.DropZone(ctx, &w.owner, "own-calves"), &state)
		assert.Contains(t, state.Sentence.Message, "“"+by+"” works this zone")
	}
	inUse("Calf glide")
	require.NoError(t, w.svc.Protocols.DropStroke(ctx, &w.owner, glide.Key))

	file, err := exchange.ReadProtocolFile([]byte(legs("own-calves", "")))
	require.NoError(t, err)
	in, err := w.svc.Protocols.ImportProtocol(ctx, &w.owner, file, false)
	require.NoError(t, err)
	assert.Equal(t, "own-calves", in.Evaluation.Loads[0].Zone)
	inUse("Legs")
	w.asOwner(t, "protocol_draft", "update protocol_draft set body = jsonb_set(body, '{steps,0,path,0,zone}', '\"knee\"') where body ->> 'key' = 'legs'")
	require.NoError(t, w.svc.Protocols.DropZone(ctx, &w.owner, "own-calves"))
	assert.ErrorIs(t, w.svc.Protocols.DropZone(ctx, &w.owner, "own-calves"), studio.ErrNotFound)
}

// Two who add zones at the same moment: nobody gets the other's key, and the table of zones is not overrun.
func TestZonesAddedAtOnce(t *testing.T) {
	w := aloneWorld(t)
	var wait sync.WaitGroup
	keys := make([]string, anatomy.OwnMost+6)
	for i := range keys {
		wait.Add(1)
		go func() {
			defer wait.Done()
			z := calves()
			z.Name = fmt.Sprintf("Zone %d!", i%3) + string(rune('a'+i))
			if saved, err := w.svc.Protocols.SaveZone(context.Background(), &w.owner, z, nil); err == nil {
				keys[i] = saved.Key
			}
		}()
	}
	wait.Wait()
	seen, n := map[string]bool{}, 0
	for _, k := range keys {
		if k != "" {
			assert.False(t, seen[k], k)
			seen[k] = true
			n++
		}
	}
	assert.Equal(t, anatomy.OwnMost, n)
}

// legs is a file of a plan that works one zone.
func legs(zone, more string) string {
	return `{"format":"soft-palm-protocol","version":1,"protocol":{"key":"legs","name":"Legs","school":{"drainage":"none"},"minutes":{"sold":30,"handsOn":20,"reset":0},
		"price":{"amount":"0.00","currency":"EUR"},"defaultDose":{"kind":"clock","planned":60},
		"steps":[{"id":"a","stroke":"shoulder-knead","phase":"work","path":[{"zone":"` + zone + `"}]}]}` + more + `}`
}

// A file brings the zones that its plan names; a fault in one is told with its place.
func TestAFileBringsItsZones(t *testing.T) {
	w := newWorld(t)
	call := w.signedIn(t, "owner@demo.example", "demo palms 1")
	send := func(zone, zones, want string, status int) {
		res, body := call("POST", "/api/import?dry=true", legs(zone, zones))
		assert.Equal(t, status, res.StatusCode, body)
		assert.Contains(t, body, want)
	}
	calf := `,"zones":[{"key":"own-calf","name":"Calves","paired":true,"ceiling":3}]`
	send("own-calf", "", "The studio has no zone of its own", 422)
	send("own-calf", strings.Replace(calf, "own-calf", "calf", 1), "/zones/0/key", 422)
	send("own-calf", strings.Replace(calf, ":3", ":7", 1), "/zones/0/ceiling", 422)
	send("own-calf", calf, `"kind":"zone"`, 200)
	send("calf", calf, "/protocol/steps/0/path/0/zone", 422)
}
