package contraindication

// urgent sends the client to medical help at once.
type urgent struct{ keepsAway }

func (urgent) headline() Headline { return UrgentHelp }
