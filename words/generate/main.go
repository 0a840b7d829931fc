// Command generate writes the two catalogues of en.json: catalogue.go for the server
// and the papers, and one TypeScript module a section for the screens.
//
// "go run ./words/generate" writes both, with the argument "screens" only theirs.
package main

import (
	"bytes"
	"encoding/json"
	"fmt"
	"go/format"
	"os"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
)

func main() {
	goFile := "words/catalogue.go"
	if len(os.Args) > 1 && os.Args[1] == "screens" {
		goFile = os.DevNull
	}
	source, err := os.ReadFile("words/en.json")
	if err == nil {
		err = generate(source, goFile, "ui/src/words/catalogue")
	}
	if err != nil {
		fmt.Fprintln(os.Stderr, "words:", err)
		os.Exit(1)
	}
}

// generate writes both catalogues; the TypeScript folder is made anew.
func generate(source []byte, goFile, tsFolder string) error {
	root, err := read(source)
	if err != nil {
		return err
	}
	code, err := goCatalogue(root)
	if err != nil {
		return err
	}
	if err := os.WriteFile(goFile, code, 0o644); err != nil {
		return err
	}
	if err := os.RemoveAll(tsFolder); err != nil {
		return err
	}
	if err := os.MkdirAll(tsFolder, 0o755); err != nil {
		return err
	}
	modules := append([]entry{{key: "shared", kids: root.child("shared").kids}}, root.child("screens").kids...)
	for _, m := range modules {
		if err := os.WriteFile(filepath.Join(tsFolder, m.key+".ts"), tsModule(&m), 0o644); err != nil {
			return err
		}
	}
	return nil
}

// entry is one entry of en.json: a text, or a section, map or list with its source.
type entry struct {
	key  string
	text string
	kids []entry
	raw  json.RawMessage
}

func (e *entry) child(key string) *entry {
	for i := range e.kids {
		if e.kids[i].key == key {
			return &e.kids[i]
		}
	}
	return &entry{}
}

// read decodes a value and keeps the order of its keys, which is the order of choices
// on a screen.
func read(raw json.RawMessage) (*entry, error) {
	e := &entry{raw: raw}
	switch bytes.TrimSpace(raw)[0] {
	case '"':
		return e, json.Unmarshal(raw, &e.text)
	case '[':
		return e, nil
	}
	d := json.NewDecoder(bytes.NewReader(raw))
	if _, err := d.Token(); err != nil {
		return nil, err
	}
	for d.More() {
		key, err := d.Token()
		if err != nil {
			return nil, err
		}
		var value json.RawMessage
		if err := d.Decode(&value); err != nil {
			return nil, fmt.Errorf("after %v: %w", key, err)
		}
		kid, err := read(value)
		if err != nil {
			return nil, err
		}
		kid.key = key.(string)
		e.kids = append(e.kids, *kid)
	}
	return e, nil
}

// piece is a part of a text: words, a value by name, or, for a number, the words for
// one and for any other count.
type piece struct {
	words, value string
	one, other   []piece
}

var plural = regexp.MustCompile(`^\{(\w+), plural, one \{((?:[^{}]|\{\w+\})*)\} other \{((?:[^{}]|\{\w+\})*)\}\}`)
var value = regexp.MustCompile(`^\{(\w+)\}`)

// pieces takes a text apart: "{count} {count, plural, one {pump} other {pumps}}".
func pieces(text string) []piece {
	var out []piece
	for text != "" {
		if m := plural.FindStringSubmatch(text); m != nil {
			out = append(out, piece{value: m[1], one: pieces(m[2]), other: pieces(m[3])})
			text = text[len(m[0]):]
		} else if m := value.FindStringSubmatch(text); m != nil {
			out = append(out, piece{value: m[1]})
			text = text[len(m[0]):]
		} else {
			end := strings.IndexByte(text[1:], '{') + 1
			if end == 0 {
				end = len(text)
			}
			out = append(out, piece{words: text[:end]})
			text = text[end:]
		}
	}
	return out
}

// values lists the names in a text once each, in order.
func values(list []piece) []string {
	var out []string
	add := func(names ...string) {
		for _, n := range names {
			if n != "" && !strings.Contains(" "+strings.Join(out, " ")+" ", " "+n+" ") {
				out = append(out, n)
			}
		}
	}
	for _, p := range list {
		add(p.value)
		add(values(p.one)...)
		add(values(p.other)...)
	}
	return out
}

// tsModule is a section for the screens: a constant a text, a function where values
// go in, the map itself where there is one. Only what a page uses is loaded with it.
func tsModule(section *entry) []byte {
	var b bytes.Buffer
	b.WriteString("// Generated from words/en.json by words/generate. Edit the words there.\n")
	for _, e := range section.kids {
		if e.text == "" && e.raw[0] != '"' {
			fmt.Fprintf(&b, "export const %s = %s;\n", e.key, e.raw)
			continue
		}
		list := pieces(e.text)
		names := values(list)
		if len(names) == 0 {
			fmt.Fprintf(&b, "export const %s = %s;\n", e.key, strconv.Quote(e.text))
			continue
		}
		fmt.Fprintf(
			&b,
			"export const %s = (v: { %s: Value }) => %s;\n",
			e.key,
			strings.Join(names, ": Value; "),
			tsTemplate(list),
		)
	}
	code := b.String()
	if strings.Contains(code, ": Value") {
		code = strings.Replace(code, "\n", "\ntype Value = string | number | undefined;\n", 1)
	}
	return []byte(code)
}

func tsTemplate(list []piece) string {
	var b strings.Builder
	b.WriteByte('`')
	for _, p := range list {
		switch {
		case p.one != nil || p.other != nil:
			fmt.Fprintf(&b, "${Number(v.%s) === 1 ? %s : %s}", p.value, tsTemplate(p.one), tsTemplate(p.other))
		case p.value != "":
			fmt.Fprintf(&b, "${v.%s ?? \"\"}", p.value)
		default:
			b.WriteString(strings.NewReplacer("\\", "\\\\", "`", "\\`", "${", "\\${").Replace(p.words))
		}
	}
	b.WriteByte('`')
	return b.String()
}

// goCatalogue is what the server says: the names it shares with the screens, and of
// "server" one function a sentence. Those of "problems" are values with their code, those
// of "papers" and "briefs" plain texts.
func goCatalogue(root *entry) ([]byte, error) {
	var b bytes.Buffer
	b.WriteString("// Code generated from words/en.json by words/generate. DO NOT EDIT.\n\npackage words\n")
	for _, e := range root.child("shared").kids {
		goShared(&b, &e)
	}
	for _, s := range root.child("server").child("problems").kids {
		goSentence(&b, &s)
	}
	for _, s := range root.child("server").child("papers").kids {
		goPlain(&b, "Paper", &s)
	}
	for _, s := range root.child("server").child("briefs").kids {
		goPlain(&b, "Brief", &s)
	}
	return format.Source(b.Bytes())
}

func goShared(b *bytes.Buffer, e *entry) {
	name := exported(e.key)
	switch {
	case e.text != "":
		fmt.Fprintf(b, "\nconst %s = %q\n", name, e.text)
	case e.raw[0] == '[':
		var list []string
		_ = json.Unmarshal(e.raw, &list)
		fmt.Fprintf(b, "\nvar %s = %#v\n", name, list)
	default:
		fmt.Fprintf(b, "\nvar %s = map[string]string{\n", name)
		for _, k := range e.kids {
			fmt.Fprintf(b, "%q: %q,\n", k.key, k.text)
		}
		b.WriteString("}\n")
	}
}

func goSentence(b *bytes.Buffer, e *entry) {
	list := pieces(e.text)
	names := values(list)
	fmt.Fprintf(
		b,
		"\nfunc %s(%s) Sentence {\n\treturn Sentence{Code: %q, Message: %s",
		exported(e.key),
		params(names),
		e.key,
		goTemplate(list),
	)
	if len(names) > 0 {
		b.WriteString(", Values: map[string]string{")
		for _, n := range names {
			fmt.Fprintf(b, "%q: text(%s), ", n, param(n))
		}
		b.WriteString("}")
	}
	b.WriteString("}\n}\n")
}

// goPlain is a text that is no refusal: a constant, or a function where values go in.
func goPlain(b *bytes.Buffer, kind string, e *entry) {
	list := pieces(e.text)
	if names := values(list); len(names) > 0 {
		fmt.Fprintf(b, "\nfunc %s%s(%s) string {\n\treturn %s\n}\n", kind, exported(e.key), params(names), goTemplate(list))
		return
	}
	fmt.Fprintf(b, "\nconst %s%s = %q\n", kind, exported(e.key), e.text)
}

func goTemplate(list []piece) string {
	var parts []string
	for _, p := range list {
		switch {
		case p.one != nil || p.other != nil:
			parts = append(parts, fmt.Sprintf("count(%s, %s, %s)", param(p.value), goTemplate(p.one), goTemplate(p.other)))
		case p.value != "":
			parts = append(parts, "text("+param(p.value)+")")
		default:
			parts = append(parts, strconv.Quote(p.words))
		}
	}
	if len(parts) == 0 {
		return `""`
	}
	return strings.Join(parts, " + ")
}

// param is the name of a value as a Go parameter: not a word of the language.
func param(name string) string {
	switch name {
	case "type", "func", "range", "map", "select", "case", "default", "text", "count", "go", "package", "string", "return", "var":
		return name + "_"
	}
	return name
}

func params(names []string) string {
	if len(names) == 0 {
		return ""
	}
	out := make([]string, len(names))
	for i, n := range names {
		out[i] = param(n)
	}
	return strings.Join(out, ", ") + " any"
}

func exported(key string) string { return strings.ToUpper(key[:1]) + key[1:] }
