package contraindication

// stop refuses the treatment until a doctor has seen the client, or until what
// stopped it is over.
type stop struct{ keepsAway }

func (stop) headline() Headline { return DoNotTreat }
