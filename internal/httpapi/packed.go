package httpapi

import (
	"crypto/sha256"
	"io/fs"
	"strings"

	"github.com/gofiber/fiber/v3"
	lru "github.com/hashicorp/golang-lru/v2"
	"github.com/valyala/fasthttp"
)

// packings are the ways in which built files lie compressed beside themselves, the best first, by the ending of their
// names.
var packings = []struct{ encoding, ending string }{{"br", ".br"}, {"gzip", ".gz"}}

// packed is a file as it was compressed when the screens were built, where there is such and the browser takes it.
func packed(c fiber.Ctx, ui fs.FS, name string, data []byte) []byte {
	if !strings.HasPrefix(name, "assets/") {
		return data
	}
	c.Vary(fiber.HeaderAcceptEncoding)
	if c.Get(fiber.HeaderAcceptEncoding) == "" {
		return data
	}
	for _, p := range packings {
		if c.AcceptsEncodings(p.encoding) != p.encoding {
			continue
		}
		if small, err := fs.ReadFile(ui, name+p.ending); err == nil {
			c.Set(fiber.HeaderContentEncoding, p.encoding)
			return small
		}
	}
	return data
}

// Of the answers that are kept packed: from how many bytes on, how well they are compressed, how many there are.
const (
	worthKeeping = 8 << 10
	packedWell   = 5
	mostKept     = 64
)

// ofTheCraft are the paths below which answers speak of the studio's craft and of no client.
var ofTheCraft = []string{"/api/library", "/api/zones", "/api/menu", "/api/protocols", "/api/drawings", "/api/rules", "/api/consultation/zones"}

// keepPacked compresses large answers about the craft once and keeps them: they are the same for everybody until
// somebody changes something, and compressing is most of what they cost. They are found again by the sum of what they
// say, so none is ever out of date. Answers that speak of clients are not kept.
func keepPacked() fiber.Handler {
	kept, err := lru.New[[sha256.Size]byte, []byte](mostKept)
	if err != nil {
		panic("httpapi: " + err.Error()) // mostKept is a constant
	}
	return func(c fiber.Ctx) error {
		if err := c.Next(); err != nil || !aboutTheCraft(c.Path()) {
			return err
		}
		answer := c.Response()
		body := answer.Body()
		if answer.StatusCode() != fiber.StatusOK || len(body) < worthKeeping || len(answer.Header.ContentEncoding()) > 0 ||
			c.Get(fiber.HeaderAcceptEncoding) == "" || c.AcceptsEncodings("br") != "br" {
			return nil
		}
		sum := sha256.Sum256(body)
		small, ok := kept.Get(sum)
		if !ok {
			small = fasthttp.AppendBrotliBytesLevel(nil, body, packedWell)
			kept.Add(sum, small)
		}
		c.Set(fiber.HeaderContentEncoding, "br")
		answer.SetBodyRaw(small)
		return nil
	}
}

func aboutTheCraft(path string) bool {
	for _, p := range ofTheCraft {
		if rest, ok := strings.CutPrefix(path, p); ok && (rest == "" || rest[0] == '/') {
			return true
		}
	}
	return false
}
