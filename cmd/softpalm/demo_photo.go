package main

import (
	"bytes"
	"image"
	"image/color"
	"image/jpeg"
	"math"

	"softpalm/internal/craft/measuring"
)

// The demo's photos are drawn: nobody stands for them. Sizes are in pixels.
const (
	demoWide, demoHigh = 720, 900
	demoQuality        = 88
)

// drawnFace is a face as the demo draws it: how light it is, and by how much the left corner of the mouth hangs.
type drawnFace struct {
	light float64
	hangs float64
}

// The places that the demo marks on its drawings.
var (
	drawnPupils = [2]measuring.Pixel{{X: 282, Y: 392}, {X: 438, Y: 392}}
	drawnGrey   = measuring.Pixel{X: 90, Y: 800}
)

// mouth are the corners of the mouth; the client's left lies on the right of the picture.
func (f *drawnFace) mouth() [2]measuring.Pixel {
	return [2]measuring.Pixel{{X: 298, Y: 590}, {X: 422, Y: 590 + f.hangs}}
}

// jpeg draws the face.
func (f *drawnFace) jpeg() ([]byte, error) {
	p := image.NewRGBA(image.Rect(0, 0, demoWide, demoHigh))
	for y := range demoHigh {
		for x := range demoWide {
			c := f.at(float64(x)+0.5, float64(y)+0.5)
			p.SetRGBA(x, y, color.RGBA{f.part(c[0]), f.part(c[1]), f.part(c[2]), 255})
		}
	}
	var out bytes.Buffer
	err := jpeg.Encode(&out, p, &jpeg.Options{Quality: demoQuality})
	return out.Bytes(), err
}

func (f *drawnFace) part(v float64) uint8 { return uint8(max(0, min(255, v*f.light))) }

// inside reports whether a place lies in an ellipse.
func inside(x, y, cx, cy, rx, ry float64) bool {
	return (x-cx)*(x-cx)/(rx*rx)+(y-cy)*(y-cy)/(ry*ry) <= 1
}

// near reports whether a place lies within so many pixels of a curve that sags between two corners.
func near(x, y float64, a, b measuring.Pixel, sag, width float64) bool {
	if x < a.X || x > b.X {
		return false
	}
	t := (x - a.X) / (b.X - a.X)
	return math.Abs(y-(a.Y+t*(b.Y-a.Y)+sag*4*t*(1-t))) <= width
}

// at is the colour of a place, red, green and blue from 0 to 255.
func (f *drawnFace) at(x, y float64) [3]float64 {
	paper, skin, shade, ink := [3]float64{228, 220, 208}, [3]float64{222, 186, 164}, [3]float64{206, 166, 144}, [3]float64{84, 56, 62}
	mouth := f.mouth()
	switch {
	case x > 40 && x < 140 && y > 750 && y < 850:
		return [3]float64{138, 138, 138}
	case near(x, y, mouth[0], mouth[1], 10, 3.5):
		return [3]float64{150, 74, 78}
	case near(x, y, mouth[0], mouth[1], 12, 16):
		return [3]float64{196, 118, 112}
	}
	for i, pupil := range drawnPupils {
		brow := [2]measuring.Pixel{{X: pupil.X - 46, Y: 342}, {X: pupil.X + 46, Y: 342}}
		switch {
		case inside(x, y, pupil.X, pupil.Y, 9, 9):
			return ink
		case inside(x, y, pupil.X, pupil.Y, 34, 14):
			return [3]float64{238, 232, 224}
		case near(x, y, brow[0], brow[1], -14, 5):
			return ink
		case near(x, y, measuring.Pixel{X: pupil.X - 36, Y: 414}, measuring.Pixel{X: pupil.X + 36, Y: 414 + float64(i)*f.hangs/2}, 12, 3):
			return shade
		}
	}
	switch {
	case near(x, y, measuring.Pixel{X: 336, Y: 512}, measuring.Pixel{X: 384, Y: 512}, 12, 3):
		return shade
	case inside(x, y, 360, 250, 216, 130) && y < 240:
		return [3]float64{236, 229, 218} // the head band
	case inside(x, y, 360, 470, 196, 262):
		return skin
	case x > 290 && x < 430 && y > 640 && y < 840, inside(x, y, 360, 920, 330, 120):
		return shade
	}
	return paper
}
