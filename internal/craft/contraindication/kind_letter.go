package contraindication

// letter asks for a doctor's written consent.
type letter struct{ keepsAway }

func (letter) headline() Headline { return NeedsLetter }
