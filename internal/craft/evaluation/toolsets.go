package evaluation

import "softpalm/internal/craft/protocol"

// ToolSets counts the sets of tools that a treatment takes, by kind; what is used once takes none.
func ToolSets(p *protocol.Protocol, ctx *protocol.Context) map[string]int {
	var out map[string]int
	for _, item := range EvaluateWithSetUp(p, ctx).SetUp {
		t, ok := ctx.Tools[item.Key]
		if item.Kind != "tool" || !ok || t.SingleUse {
			continue
		}
		if out == nil {
			out = map[string]int{}
		}
		out[item.Key] = max(item.Count, 1)
	}
	return out
}
