package httpapi

import (
	"hash/maphash"
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

// hurried compresses answers that are different each time with gzip at its fastest: it makes them as small as brotli at its
// fastest does, in half the time.
func hurried() fiber.Handler {
	pack := fasthttp.CompressHandlerLevel(func(*fasthttp.RequestCtx) {}, fasthttp.CompressBestSpeed)
	return func(c fiber.Ctx) error {
		if err := c.Next(); err != nil {
			return err
		}
		c.Vary(fiber.HeaderAcceptEncoding)
		pack(c.RequestCtx())
		return nil
	}
}

// Of the answers that are kept packed: from how many bytes on, how well they are compressed, how many there are.
const (
	worthKeeping = 8 << 10
	packedWell   = 5
	mostKept     = 64
)

// ofTheCraft are the paths below which answers speak of the studio's craft and stock, and of no client.
var ofTheCraft = []string{"/api/library", "/api/zones", "/api/menu", "/api/protocols", "/api/drawings", "/api/rules", "/api/consultation/zones", "/api/shelf"}

// keepPacked compresses large answers about craft and stock once and keeps them: they are the same for everybody until
// somebody changes something, and compressing is most of what they cost. They are found again by the sum of what they
// say, with seeds of this process's own, so none is ever out of date. Answers that speak of clients are not kept.
func keepPacked() fiber.Handler {
	type sum [2]uint64
	seeds := [2]maphash.Seed{maphash.MakeSeed(), maphash.MakeSeed()}
	kept, err := lru.New[sum, []byte](mostKept)
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
		says := sum{maphash.Bytes(seeds[0], body), maphash.Bytes(seeds[1], body)}
		small, ok := kept.Get(says)
		if !ok {
			small = fasthttp.AppendBrotliBytesLevel(nil, body, packedWell)
			kept.Add(says, small)
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
