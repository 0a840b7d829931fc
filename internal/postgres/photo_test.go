package postgres_test

import (
	"bytes"
	"context"
	"encoding/base64"
	"image"
	"image/color"
	"image/jpeg"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/measuring"
	"softpalm/internal/studio"
	"softpalm/internal/studio/treatment"
)

// drawn is a JPEG of one grey.
func drawn(wide, high int, grey uint8) []byte {
	p := image.NewGray(image.Rect(0, 0, wide, high))
	for i := range p.Pix {
		p.Pix[i] = grey
	}
	p.SetGray(0, 0, color.Gray{Y: grey})
	var out bytes.Buffer
	_ = jpeg.Encode(&out, p, nil)
	return out.Bytes()
}

// picture is the same in base64.
func picture(wide, high int, grey uint8) string {
	return base64.StdEncoding.EncodeToString(drawn(wide, high, grey))
}

func taken(grey uint8, apart float64) treatment.NewPhoto {
	return treatment.NewPhoto{
		ID: uuid.New(), View: "front", Moment: studio.Before, Image: drawn(400, 300, grey),
		Pupils: [2]measuring.Pixel{{X: 100, Y: 100}, {X: 100 + apart, Y: 100}}, Grey: measuring.Pixel{X: 50, Y: 250},
	}
}

// photographed takes a photo of a client who agreed to it.
func (w *world) photographed(t *testing.T, client uuid.UUID) uuid.UUID {
	t.Helper()
	ctx := context.Background()
	_, err := w.svc.Clients.SignConsent(ctx, &w.owner, client, studio.ConsentPhotos, "A. Client", false, signature)
	require.NoError(t, err)
	n := taken(128, 100)
	_, err = w.svc.Treatment.AddPhoto(ctx, &w.owner, client, n)
	require.NoError(t, err)
	return n.ID
}

// A photo needs its own consent, loses place and camera data, is compared only with what is like it, and goes with the
// consent (handbook, chapter 7, Photos; Exif 2.32 marks its data with "Exif" in an APP1 segment, from memory).
func TestPhotos(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	client := w.first(t).Client
	_, err := w.svc.Treatment.AddPhoto(ctx, &w.owner, client, taken(128, 100))
	var state *studio.StateError
	require.ErrorAs(t, err, &state)
	assert.Equal(t, "no-consent", state.Code)
	first := w.photographed(t, client)

	// The same photo with a place in it: an APP1 segment after the start of the picture.
	place := []byte("Exif\x00\x00GPS 38.7 N 9.1 W")
	w.now = w.now.Add(time.Minute)
	told := taken(130, 101)
	told.Image = append([]byte{0xFF, 0xD8, 0xFF, 0xE1, 0, byte(len(place) + 2)}, append(place, told.Image[2:]...)...)
	mouth := [2]measuring.Pixel{{X: 110, Y: 200}, {X: 190, Y: 205}}
	told.Mouth = &mouth
	for range 2 {
		list, err := w.svc.Treatment.AddPhoto(ctx, &w.owner, client, told)
		require.NoError(t, err)
		require.Len(t, list, 2, "sent twice it is there once")
		assert.Empty(t, list[1].Unlike)
	}
	kept, err := w.svc.Treatment.Photo(ctx, &w.owner, told.ID)
	require.NoError(t, err)
	assert.NotContains(t, string(kept.Image), "Exif")
	assert.NotContains(t, string(kept.Image), "GPS")
	_, err = jpeg.Decode(bytes.NewReader(kept.Image))
	require.NoError(t, err)
	p, err := w.svc.Treatment.Progress(ctx, &w.owner, client)
	require.NoError(t, err)
	require.Len(t, p.Measures, 1, "the tilt of the mouth is measured on it")
	assert.InDelta(t, 3.6, p.Measures[0].All[0].Readings[0], 0.05)

	w.now = w.now.Add(time.Minute)
	list, err := w.svc.Treatment.AddPhoto(ctx, &w.owner, client, taken(90, 120))
	require.NoError(t, err)
	assert.Equal(t, []measuring.Unlike{measuring.UnlikeSize, measuring.UnlikeLight}, list[2].Unlike)

	for path, spoil := range map[string]func(*treatment.NewPhoto){
		"/image":  func(n *treatment.NewPhoto) { n.Image = []byte("<svg/>") },
		"/pupils": func(n *treatment.NewPhoto) { n.Pupils[0].X = 5000 },
		"/grey":   func(n *treatment.NewPhoto) { n.Grey.Y = -1 },
	} {
		n := taken(128, 100)
		spoil(&n)
		_, err := w.svc.Treatment.AddPhoto(ctx, &w.owner, client, n)
		var input *studio.InputError
		require.ErrorAs(t, err, &input, path)
		assert.Equal(t, path, input.Problems[0].Path)
	}
	require.NoError(t, w.svc.Treatment.RemovePhoto(ctx, &w.owner, first))
	_, err = w.svc.Treatment.Photo(ctx, &w.owner, first)
	require.ErrorIs(t, err, studio.ErrNotFound)
	file, err := w.file(ctx, &w.owner, client)
	require.NoError(t, err)
	for _, c := range file.Consents {
		if c.Kind == studio.ConsentPhotos {
			require.NoError(t, w.svc.Clients.WithdrawConsent(ctx, &w.owner, c.ID))
		}
	}
	assert.Zero(t, w.count(t, "select count(*) from photo"), "with the consent the photos go")
}
