package figure

import (
	"math"
	"strconv"
	"strings"
)

// round shortens the numbers of a mark: a hundredth of a centimetre is finer than any pen.
func (m *Trace) round() {
	m.At = [2]float64{hundredth(m.At[0]), hundredth(m.At[1])}
	m.Width, m.Size = hundredth(m.Width), hundredth(m.Size)
	for i := range m.Dash {
		m.Dash[i] = hundredth(m.Dash[i])
	}
}

func hundredth(v float64) float64 { return math.Round(v*100) / 100 }

func num(v float64) string {
	return strconv.FormatFloat(hundredth(v)+0, 'f', -1, 64)
}

// poly is the path through points.
func poly(points []pt, closed bool) string {
	var b strings.Builder
	for i, p := range points {
		if i == 0 {
			b.WriteByte('M')
		} else {
			b.WriteByte('L')
		}
		b.WriteString(num(p.x) + " " + num(p.y))
	}
	if closed {
		b.WriteByte('Z')
	}
	return b.String()
}

// oneTurn approximates a quarter of a circle by one cubic (the usual 0.5523, from memory).
const oneTurn = 0.5523

// circle is the path of a circle.
func circle(c pt, r float64) string { return ellipse(c, r, r) }

func ellipse(c pt, rx, ry float64) string {
	kx, ky := rx*oneTurn, ry*oneTurn
	at := func(x, y float64) string { return num(c.x+x) + " " + num(c.y+y) }
	return "M" + at(rx, 0) +
		"C" + at(rx, ky) + " " + at(kx, ry) + " " + at(0, ry) +
		"C" + at(-kx, ry) + " " + at(-rx, ky) + " " + at(-rx, 0) +
		"C" + at(-rx, -ky) + " " + at(-kx, -ry) + " " + at(0, -ry) +
		"C" + at(kx, -ry) + " " + at(rx, -ky) + " " + at(rx, 0) + "Z"
}

// arc is points along a circle, from one angle to another.
func arc(c pt, r, from, to float64) []pt {
	n := max(4, int(math.Abs(to-from)/0.2))
	out := make([]pt, 0, n+1)
	for i := 0; i <= n; i++ {
		out = append(out, c.plus(polar(mix(from, to, float64(i)/float64(n)), r)))
	}
	return out
}

// Walk goes through an SVG path of absolute commands: each command with its numbers.
func Walk(d string, visit func(command byte, n []float64)) {
	var n []float64
	command := byte(0)
	for i := 0; i < len(d); {
		switch c := d[i]; {
		case c >= 'A' && c <= 'Z':
			if command != 0 {
				visit(command, n)
			}
			command, n = c, n[:0]
			i++
		case c == ' ' || c == ',':
			i++
		default:
			j := i + 1
			for j < len(d) && (d[j] >= '0' && d[j] <= '9' || d[j] == '.') {
				j++
			}
			v, _ := strconv.ParseFloat(d[i:j], 64)
			n = append(n, v)
			i = j
		}
	}
	if command != 0 {
		visit(command, n)
	}
}

// moved is a path turned by degrees, made larger and moved to a point.
func moved(d string, to pt, turn, size float64) string {
	sin, cos := math.Sincos(turn * math.Pi / 180)
	var b strings.Builder
	Walk(d, func(command byte, n []float64) {
		b.WriteByte(command)
		for i := 0; i+1 < len(n); i += 2 {
			if i > 0 {
				b.WriteByte(' ')
			}
			x, y := n[i]*size, n[i+1]*size
			b.WriteString(num(to.x+x*cos-y*sin) + " " + num(to.y+x*sin+y*cos))
		}
	})
	return b.String()
}

// points are the corners and handles of a path.
func points(d string) (out []pt) {
	Walk(d, func(_ byte, n []float64) {
		for i := 0; i+1 < len(n); i += 2 {
			out = append(out, pt{n[i], n[i+1]})
		}
	})
	return out
}
