package httpapi

import (
	"bytes"
	"encoding/json"
	"io/fs"
	"log/slog"
	"strings"

	"github.com/gofiber/fiber/v3"
)

// preloads says which scripts a page consists of, as the build of the screens found out (ui/preloads.ts). Named in the page
// itself they are fetched all at once; otherwise each is asked for when the one before it has run.
type preloads struct {
	// Door is for whoever is not signed in, Open are the pages that need no account, by path.
	Door []string            `json:"door"`
	Open map[string][]string `json:"open"`
	// Inside are the pages for whoever is signed in, by route: a segment that begins with $ stands for any.
	Inside map[string][]string `json:"inside"`
}

// readPreloads reads the list from the built files. Without it each page opens one script after the other.
func readPreloads(ui fs.FS) *preloads {
	var p preloads
	data, err := fs.ReadFile(ui, "preloads.json")
	if err == nil {
		err = json.Unmarshal(data, &p)
	}
	if err != nil {
		slog.Warn("the screens were built without their preloads: they open more slowly", "error", err)
	}
	return &p
}

// of are the scripts of the page at a path.
func (p *preloads) of(path string, signedIn bool) []string {
	if files, open := p.Open[path]; open {
		return files
	}
	if !signedIn {
		return p.Door
	}
	if files, plain := p.Inside[path]; plain {
		return files
	}
	for route, files := range p.Inside {
		if leadsTo(route, path) {
			return files
		}
	}
	return p.Door
}

// leadsTo reports whether a route with segments that stand for any leads to a path.
func leadsTo(route, path string) bool {
	is := strings.Split(path, "/")
	for i, want := range strings.Split(route, "/") {
		if i >= len(is) || want != is[i] && (!strings.HasPrefix(want, "$") || is[i] == "") {
			return false
		}
	}
	return strings.Count(route, "/") == strings.Count(path, "/")
}

// Where index.html takes what is fetched with it, and whether somebody seems to be signed in.
var (
	headEnd    = []byte("</head>")
	insideMark = []byte(`<meta name="inside" content="`)
)

// into names in index.html what its page will ask for. That a browser sends a session's cookie is no proof of one: the page
// asks who is there all the same.
func (p *preloads) into(page []byte, c fiber.Ctx) []byte {
	signedIn := c.Cookies(cookieName) != ""
	if signedIn {
		page = bytes.Replace(page, insideMark, append(bytes.Clone(insideMark), "yes"...), 1)
	}
	var links bytes.Buffer
	links.WriteString(`<link rel="preload" as="fetch" crossorigin href="/api/session">`)
	for _, file := range p.of(c.Path(), signedIn) {
		links.WriteString(`<link rel="modulepreload" crossorigin href="/` + file + `">`)
	}
	links.Write(headEnd)
	return bytes.Replace(page, headEnd, links.Bytes(), 1)
}
