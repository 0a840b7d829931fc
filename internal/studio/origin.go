package studio

import "context"

// Origin is where a request comes from; the audit log tells it.
type Origin struct {
	// Address is the address at the other end, or the one that a trusted proxy tells.
	Address string
	// Request is the id of the request, as it is in the server's log.
	Request string
	// Agent is what the browser calls itself.
	Agent string
}

type originKey struct{}

// OriginKey is the key of the [Origin] in a request's context.
var OriginKey any = originKey{}

// OriginOf returns where a request comes from; nothing outside a request.
func OriginOf(ctx context.Context) Origin {
	o, _ := ctx.Value(OriginKey).(Origin)
	return o
}
