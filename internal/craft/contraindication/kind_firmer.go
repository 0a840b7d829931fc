package contraindication

// firmer is one level more pressure, as the client prefers, where everything else
// allows it.
type firmer struct{ preference }

func (firmer) limit(c *Constraints, o *Contraindication) { c.firmer = o.Rule }
