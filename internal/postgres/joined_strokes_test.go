package postgres_test

import (
	"context"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/exchange"
)

// A stroke that was the same as another went: what is stored takes the other, and so does a file written
// before.
func TestAStrokeThatWentIsTheOther(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	file, err := exchange.ReadProtocolFile([]byte(strings.Replace(legs("jawline", ""), "shoulder-knead", "jaw-fork-glide", 1)))
	require.NoError(t, err)
	in, err := w.svc.Protocols.ImportProtocol(ctx, &w.owner, file, false)
	require.NoError(t, err)
	o, err := w.svc.Protocols.OpenProtocol(ctx, &w.owner, *in.Protocol)
	require.NoError(t, err)
	assert.Equal(t, "jaw-drain", o.Draft.Body.Steps[0].Stroke)

	w.asOwner(t, "protocol_draft", `update protocol_draft set body = replace(body::text, '"jaw-drain"', '"jaw-fork-glide"')::jsonb`)
	text, err := os.ReadFile("migrations/00039_one_jaw_glide.sql")
	require.NoError(t, err)
	up, _, _ := strings.Cut(string(text), "-- +goose Down")
	// What counts changes waits for the end of a transaction, and no table can be altered meanwhile.
	w.asOwner(t, "stroke", "set constraints all immediate;"+up)
	o, err = w.svc.Protocols.OpenProtocol(ctx, &w.owner, *in.Protocol)
	require.NoError(t, err)
	assert.Equal(t, "jaw-drain", o.Draft.Body.Steps[0].Stroke)
	list, err := w.plans(ctx)
	require.NoError(t, err)
	for i := range list {
		for _, s := range list[i].Body.Steps {
			assert.NotEqual(t, "jaw-fork-glide", s.Stroke)
		}
	}
}
