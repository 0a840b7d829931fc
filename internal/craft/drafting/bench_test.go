package drafting_test

import (
	"strconv"
	"testing"

	"softpalm/internal/craft/crafttest"
	"softpalm/internal/craft/drafting"
	"softpalm/internal/craft/protocol"
)

// A first draft of 60 and of 120 minutes, in turn for every two concerns that follow each other and every skin type, with
// all tools and products of the shelf: the time is that of one draft on average.
func BenchmarkFirstDraft(b *testing.B) {
	_, ctx := crafttest.Demo(b)
	tools, products := shelfOf(ctx)
	for _, minutes := range []int{60, 120} {
		b.Run(strconv.Itoa(minutes)+"min", func(b *testing.B) {
			i := 0
			for b.Loop() {
				one, two := protocol.Concerns[i%len(protocol.Concerns)].Key, protocol.Concerns[(i+1)%len(protocol.Concerns)].Key
				q := drafting.Question{SkinType: skinTypes[i%len(skinTypes)], Concerns: []string{one, two}, Minutes: minutes, Tools: tools, Products: products}
				_, _ = drafting.Draft(q, ctx) // some have no plan: finding that out takes its time too
				i++
			}
		})
	}
}
