package series

import (
	"math"
	"slices"
)

// moment is an instant at which a practitioner, or with person -1 the rooms, can serve only
// so many of the visits that are laid again. Asking a price for it makes the least that a day
// costs rise towards what it does cost (Lagrangian relaxation).
type moment struct {
	person int
	at     int64
	serves int
	price  float64
	asked  int // how many of the cheapest ways take it
}

// prices are the moments, and which of them each way takes.
type prices struct {
	moments []moment
	of      map[*option][]int
}

// rounds is how often the prices are adjusted. More of them find a little more.
const rounds = 150

// setPrices finds good prices for a day that costs as much at most, and writes into each way
// what it costs with them. Whatever the prices are, the bound they give holds.
func (x *relaying) setPrices(atMost int) {
	p := x.momentsOf()
	best, bestPrices := math.Inf(-1), make([]float64, len(p.moments))
	step := 1.0
	for round := range rounds {
		bound := p.relaxed(x.cheap)
		if bound > best {
			best = bound
			for m := range p.moments {
				bestPrices[m] = p.moments[m].price
			}
		}
		var over float64
		for m := range p.moments {
			if d := float64(p.moments[m].asked - p.moments[m].serves); d > 0 || p.moments[m].price > 0 {
				over += d * d
			}
		}
		if over == 0 {
			break
		}
		if round%20 == 19 {
			step /= 2
		}
		by := step * max(float64(atMost)-bound, 1) / over
		for m := range p.moments {
			p.moments[m].price = max(0, p.moments[m].price+by*float64(p.moments[m].asked-p.moments[m].serves))
		}
	}
	x.returned = 0
	for m := range p.moments {
		p.moments[m].price = bestPrices[m]
		x.returned += bestPrices[m] * float64(p.moments[m].serves)
	}
	for i := range x.cheap {
		for _, o := range x.cheap[i] {
			o.priced = p.priced(o)
		}
		slices.SortStableFunc(x.cheap[i], func(a, b *option) int {
			switch {
			case a.priced < b.priced:
				return -1
			case a.priced > b.priced:
				return 1
			}
			return 0
		})
	}
}

// momentsOf lists the moments at which ways begin: where two meet, one of them has just begun.
func (x *relaying) momentsOf() *prices {
	p := &prices{of: map[*option][]int{}}
	known := map[[2]int64]bool{}
	for i := range x.options {
		for k := range x.options[i] {
			o := &x.options[i][k]
			for _, person := range []int{o.person, -1} {
				if key := [2]int64{int64(person), o.busy.from}; o.person >= 0 && !known[key] {
					known[key] = true
					p.moments = append(p.moments, moment{person: person, at: o.busy.from, serves: x.servesAt(person, o.busy.from)})
				}
			}
		}
	}
	for i := range x.options {
		for k := range x.options[i] {
			o := &x.options[i][k]
			for m := range p.moments {
				if n := &p.moments[m]; o.person >= 0 && (n.person == o.person || n.person < 0 && !o.beside) && o.busy.from <= n.at && n.at < o.busy.to {
					p.of[o] = append(p.of[o], m)
				}
			}
		}
	}
	return p
}

// servesAt is one for a practitioner, and for the rooms how many are left at a moment.
func (x *relaying) servesAt(person int, at int64) int {
	if person >= 0 {
		return 1
	}
	n := len(x.rooms)
	for i := range x.stay {
		if x.stay[i].busy.from <= at && at < x.stay[i].busy.to {
			n--
		}
	}
	return max(n, 0)
}

func (p *prices) priced(o *option) float64 {
	sum := float64(o.points)
	for _, m := range p.of[o] {
		sum += p.moments[m].price
	}
	return sum
}

// relaxed lets every visit take its cheapest way at the prices, whatever the others do; no day
// costs less than the sum, less what the moments would return.
func (p *prices) relaxed(ways [][]*option) float64 {
	bound := 0.0
	for m := range p.moments {
		p.moments[m].asked = 0
		bound -= p.moments[m].price * float64(p.moments[m].serves)
	}
	for _, list := range ways {
		var best *option
		least := math.Inf(1)
		for _, o := range list {
			if c := p.priced(o); c < least {
				best, least = o, c
			}
		}
		bound += least
		for _, m := range p.of[best] {
			p.moments[m].asked++
		}
	}
	return bound
}
