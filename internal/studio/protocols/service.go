// Package protocols is the room where protocols and strokes are written: drafts,
// evaluation, fixes, versions, and their files.
package protocols

import "softpalm/internal/studio"

// Service carries out the use cases of the protocols room.
type Service struct {
	*studio.Kernel
	// Prices are the studio's: a protocol says what it costs until the price list does.
	Prices studio.ProtocolPrices
}

// Store is all that this room asks of the one studio's data, for those who implement
// it. Lookups answer [studio.ErrNotFound]; lists are in a stated order, never nil.
type Store interface {
	protocolStore
	strokeStore
	fileStore
	publishingStore
}
