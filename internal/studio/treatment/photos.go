package treatment

import (
	"bytes"
	"context"
	"errors"
	"image"
	"image/color"
	"image/jpeg"
	_ "image/png" // a camera's PNG is read too
	"math"
	"slices"

	"github.com/google/uuid"

	"softpalm/internal/craft/measuring"
	"softpalm/internal/studio"
	"softpalm/words"
)

// photoStore keeps photos.
type photoStore interface {
	measureStore
	Consents(ctx context.Context, client uuid.UUID) ([]studio.Consent, error) // newest first
	AddPhoto(ctx context.Context, p *studio.Photo, account uuid.UUID) error
	Photos(ctx context.Context, client uuid.UUID) ([]studio.Photo, error) // oldest first, without the pictures
	Photo(ctx context.Context, id uuid.UUID) (*studio.Photo, error)
	RemovePhoto(ctx context.Context, id uuid.UUID) error
}

// PhotoBytes is how large a photo may be as it is sent.
const PhotoBytes = 6 << 20

const (
	mostPixels   = 3000 // a side
	photoQuality = 90   // of JPEG
	// greyRadius is the radius of the grey patch that is looked at, as a share of the picture's width.
	greyRadius = 0.015
)

// NewPhoto is a photo as it was taken and shown: JPEG or PNG, with the places marked on it in pixels.
type NewPhoto struct {
	ID     uuid.UUID          `json:"id" format:"uuid"`
	Visit  *uuid.UUID         `json:"visit,omitempty" format:"uuid"`
	View   string             `json:"view" enum:"front,left,right"`
	Image  []byte             `json:"image"`
	Pupils [2]measuring.Pixel `json:"pupils"`
	Grey   measuring.Pixel    `json:"grey"`
	// Mouth corners, where the tilt of the mouth is wanted.
	Mouth *[2]measuring.Pixel `json:"mouth,omitempty"`
	// Moment is before or after the treatment, for that tilt.
	Moment studio.Moment `json:"moment" enum:"before,after"`
}

// read decodes the picture and writes it anew: place and camera data stay behind. It looks how light the grey patch is.
func (n *NewPhoto) read() (*studio.Photo, error) {
	if len(n.Image) > PhotoBytes {
		return nil, studio.FaultAt("/image", words.ThePhotoIsTooLarge())
	}
	size, _, err := image.DecodeConfig(bytes.NewReader(n.Image))
	if err != nil || size.Width < 1 || size.Height < 1 {
		return nil, studio.FaultAt("/image", words.ThisIsNoPhoto())
	}
	if size.Width > mostPixels || size.Height > mostPixels {
		return nil, studio.FaultAt("/image", words.ThePhotoIsTooLarge())
	}
	picture, _, err := image.Decode(bytes.NewReader(n.Image))
	if err != nil {
		return nil, studio.FaultAt("/image", words.ThisIsNoPhoto())
	}
	inside := func(p measuring.Pixel) bool {
		return p.X >= 0 && p.Y >= 0 && p.X < float64(size.Width) && p.Y < float64(size.Height)
	}
	if !inside(n.Pupils[0]) || !inside(n.Pupils[1]) || n.Pupils[0].X >= n.Pupils[1].X {
		return nil, studio.FaultAt("/pupils", words.MarkBothPupils())
	}
	if !inside(n.Grey) {
		return nil, studio.FaultAt("/grey", words.MarkTheGreyPatch())
	}
	if n.Mouth != nil && (!inside(n.Mouth[0]) || !inside(n.Mouth[1]) || n.Mouth[0].X >= n.Mouth[1].X) {
		return nil, studio.FaultAt("/mouth", words.MarkBothMouthCorners())
	}
	var clean bytes.Buffer
	if err := jpeg.Encode(&clean, picture, &jpeg.Options{Quality: photoQuality}); err != nil {
		return nil, err
	}
	p := &studio.Photo{ID: n.ID, Visit: n.Visit, View: n.View, Width: size.Width, Height: size.Height, Image: clean.Bytes()}
	p.Pupils, p.Grey = n.Pupils, lightness(picture, n.Grey)
	return p, nil
}

// lightness is the mean of the luminance round a place of a picture, 0 to 1 (ITU-R BT.709 weights of linear light; from
// memory).
func lightness(picture image.Image, at measuring.Pixel) float64 {
	b := picture.Bounds()
	r := max(1, int(greyRadius*float64(b.Dx())))
	sum, n := 0.0, 0
	for y := int(at.Y) - r; y <= int(at.Y)+r; y++ {
		for x := int(at.X) - r; x <= int(at.X)+r; x++ {
			if p := image.Pt(b.Min.X+x, b.Min.Y+y); p.In(b) {
				c := color.NRGBAModel.Convert(picture.At(p.X, p.Y)).(color.NRGBA)
				sum += 0.2126*linear(c.R) + 0.7152*linear(c.G) + 0.0722*linear(c.B)
				n++
			}
		}
	}
	return math.Round(sum/float64(n)*1e4) / 1e4
}

// linear is a part of a colour as linear light (IEC 61966-2-1, sRGB; from memory).
func linear(part uint8) float64 {
	c := float64(part) / 255
	if c <= 0.04045 {
		return c / 12.92
	}
	return math.Pow((c+0.055)/1.055, 2.4)
}

// AddPhoto adds a photo that was shown to whoever took it; it needs the client's consent to photos. The same id twice adds
// one.
func (s *Service) AddPhoto(ctx context.Context, a *studio.Actor, client uuid.UUID, n NewPhoto) ([]studio.Photo, error) {
	if err := a.May("add-photo"); err != nil {
		return nil, err
	}
	p, err := n.read()
	if err != nil {
		return nil, err
	}
	err = studio.In(ctx, s.Kernel, a, func(tx photoStore, _ *studio.Studio) error {
		if err := a.MayClient(ctx, tx, "add-photo", client); err != nil {
			return err
		}
		if _, err := tx.Client(ctx, client); err != nil {
			return err
		}
		consents, err := tx.Consents(ctx, client)
		if err != nil {
			return err
		}
		if !slices.ContainsFunc(consents, func(c studio.Consent) bool { return c.Kind == studio.ConsentPhotos && c.WithdrawnAt == nil }) {
			return &studio.StateError{Code: "no-consent", Sentence: words.PhotosNeedTheirConsent()}
		}
		if err := visitOfClient(ctx, tx, n.Visit, client); err != nil {
			return err
		}
		if was, err := tx.Photo(ctx, n.ID); err == nil {
			if was.Client != client {
				return studio.ErrExists
			}
			return nil // sent twice
		} else if !errors.Is(err, studio.ErrNotFound) {
			return err
		}
		p.Client, p.At = client, s.Now()
		if err := tx.AddPhoto(ctx, p, a.Account); err != nil {
			return err
		}
		if n.Mouth != nil && n.View == "front" {
			tilt := math.Round(measuring.Tilt(n.Pupils, *n.Mouth)*10) / 10
			m := &studio.Measurement{
				ID: studio.NewID(), Client: client, Visit: n.Visit, Measure: "mouth-tilt", Instrument: measuring.Photo, Side: "mid",
				Moment: n.Moment, Readings: []float64{tilt}, Account: a.Account, At: s.Now(),
			}
			if err := tx.AddMeasurement(ctx, m); err != nil {
				return err
			}
		}
		return s.Audit(ctx, tx, a, "add photo", "client", client)
	})
	if err != nil {
		return nil, err
	}
	return s.Photos(ctx, a, client)
}

// Photos lists the photos of a client, oldest first, each with what keeps it from standing beside the first of its view.
func (s *Service) Photos(ctx context.Context, a *studio.Actor, client uuid.UUID) ([]studio.Photo, error) {
	if err := a.May("list-photos"); err != nil {
		return nil, err
	}
	var out []studio.Photo
	err := studio.In(ctx, s.Kernel, a, func(tx photoStore, _ *studio.Studio) error {
		if err := a.MayClient(ctx, tx, "list-photos", client); err != nil {
			return err
		}
		if _, err := tx.Client(ctx, client); err != nil {
			return err
		}
		list, err := tx.Photos(ctx, client)
		if err != nil {
			return err
		}
		first := map[string]*studio.Photo{}
		for i := range list {
			p := &list[i]
			p.Unlike = []measuring.Unlike{}
			if f := first[p.View]; f == nil {
				first[p.View] = p
			} else {
				p.Unlike = measuring.Compare(&f.PhotoMarks, &p.PhotoMarks, f.Width, p.Width)
			}
		}
		out = list
		return s.Audit(ctx, tx, a, "look", "client", client)
	})
	return out, err
}

// Photo returns the picture of a photo.
func (s *Service) Photo(ctx context.Context, a *studio.Actor, id uuid.UUID) (out *studio.Photo, err error) {
	if err := a.May("get-photo"); err != nil {
		return nil, err
	}
	return out, studio.In(ctx, s.Kernel, a, func(tx photoStore, _ *studio.Studio) (err error) {
		if out, err = tx.Photo(ctx, id); err != nil {
			return err
		}
		return a.MayClient(ctx, tx, "get-photo", out.Client)
	})
}

// RemovePhoto deletes a photo for good.
func (s *Service) RemovePhoto(ctx context.Context, a *studio.Actor, id uuid.UUID) error {
	if err := a.May("remove-photo"); err != nil {
		return err
	}
	return studio.In(ctx, s.Kernel, a, func(tx photoStore, _ *studio.Studio) error {
		p, err := tx.Photo(ctx, id)
		if err != nil {
			return err
		}
		if err := a.MayClient(ctx, tx, "remove-photo", p.Client); err != nil {
			return err
		}
		if err := tx.RemovePhoto(ctx, id); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "delete photo", "client", p.Client)
	})
}
