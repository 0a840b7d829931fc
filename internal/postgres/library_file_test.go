package postgres_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/stroke"
	"softpalm/internal/studio"
	"softpalm/internal/studio/protocols"
)

// outcomes are what became of a file's things, by kind and key.
func outcomes(r *protocols.ImportResult) map[string]protocols.ImportOutcome {
	out := map[string]protocols.ImportOutcome{}
	for _, i := range r.Items {
		out[i.Kind+" "+i.Key] = i.Outcome
	}
	return out
}

// A library file adds what the studio does not have and changes nothing that it has: what is there otherwise stays, a stroke
// comes beside it under another key. It can be rehearsed, and brought in twice.
func TestALibraryFile(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	lib, err := w.svc.Protocols.Library(ctx, &w.owner)
	require.NoError(t, err)
	strokes := func() map[string]stroke.Stroke {
		lib, err := w.svc.Protocols.Library(ctx, &w.owner)
		require.NoError(t, err)
		out := map[string]stroke.Stroke{}
		for _, s := range lib.Strokes {
			out[s.Key] = s
		}
		return out
	}
	before := strokes()
	same := before["jaw-drain"]
	fresh, other := same, same
	fresh.Key, fresh.Name = "lantern-sweep", "Lantern sweep"
	other.Name = "Our own lift"
	tool, stranger := lib.Tools[0], lib.Tools[0]
	tool.Name += ", another"
	stranger.Key, stranger.Name = "quartz-comb", "Quartz comb"
	file := &protocols.LibraryFile{Format: "soft-palm-library", Version: 1, Strokes: []stroke.Stroke{same, fresh, other}}
	file.Tools = append(file.Tools, tool, stranger)

	rehearsed, err := w.svc.Protocols.ImportLibrary(ctx, &w.owner, file, true)
	require.NoError(t, err)
	assert.Equal(t, before, strokes(), "a rehearsal adds nothing")
	done, err := w.svc.Protocols.ImportLibrary(ctx, &w.owner, file, false)
	require.NoError(t, err)
	assert.Equal(t, outcomes(rehearsed), outcomes(done), "it becomes what was rehearsed")
	assert.Equal(t, map[string]protocols.ImportOutcome{
		"stroke jaw-drain": protocols.OutcomeAddedAs, "stroke lantern-sweep": protocols.OutcomeNew,
		"tool " + tool.Key: protocols.OutcomeKept, "tool quartz-comb": protocols.OutcomeNew,
	}, outcomes(done))
	after := strokes()
	assert.Equal(t, before["jaw-drain"], after["jaw-drain"], "the studio's own stays")
	assert.Equal(t, "Our own lift", after["jaw-drain-2"].Name)
	assert.Len(t, after, len(before)+2)

	again, err := w.svc.Protocols.ImportLibrary(ctx, &w.owner, &protocols.LibraryFile{Strokes: []stroke.Stroke{fresh}, Tools: file.Tools[1:]}, false)
	require.NoError(t, err)
	assert.Equal(t, map[string]protocols.ImportOutcome{"stroke lantern-sweep": protocols.OutcomeSame, "tool quartz-comb": protocols.OutcomeSame}, outcomes(again))
	assert.Equal(t, after, strokes())

	broken := fresh
	broken.Key, broken.Path = "nowhere-glide", []string{"no-such-zone"}
	_, err = w.svc.Protocols.ImportLibrary(ctx, &w.owner, &protocols.LibraryFile{Strokes: []stroke.Stroke{broken}}, false)
	assert.Contains(t, at(err), "/strokes/0/path")
	assert.Equal(t, after, strokes(), "nothing of a file with a fault is kept")
	_, err = w.svc.Protocols.ImportLibrary(ctx, &studio.Actor{Studio: w.owner.Studio, Role: studio.FrontDesk}, file, true)
	require.Error(t, err)
}
