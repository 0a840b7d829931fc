package exchange

import (
	"bytes"
	"compress/zlib"
	"encoding/binary"
	"errors"
	"fmt"
	"io"
	"regexp"
	"slices"
	"strconv"
	"time"
)

var (
	xrefLine   = regexp.MustCompile(`(\d{10}) 00000 n`)
	startXref  = regexp.MustCompile(`startxref\n(\d+)\n`)
	fontStream = regexp.MustCompile(`^(\d+ 0 obj\n<</Filter/FlateDecode/Length )\d+(>>stream\n)`)
	lang       = regexp.MustCompile(`/Lang\([^)]*\)`)
	created    = regexp.MustCompile(`/CreationDate\(D:[^)]*\)`)
)

var errNotOurPDF = errors.New("exchange: the PDF is not laid out as expected")

// undated takes the moment of writing out of a PDF as our library writes it, so that the
// same paper is the same file: its own date becomes at, and that inside the fonts goes.
func undated(pdf []byte, at time.Time) ([]byte, error) {
	m := startXref.FindSubmatchIndex(pdf)
	if m == nil {
		return nil, errNotOurPDF
	}
	table, err := strconv.Atoi(string(pdf[m[2]:m[3]]))
	if err != nil || table >= len(pdf) {
		return nil, errNotOurPDF
	}
	var starts []int
	for _, line := range xrefLine.FindAllSubmatch(pdf[table:], -1) {
		n, err := strconv.Atoi(string(line[1]))
		if err != nil || n >= table {
			return nil, errNotOurPDF
		}
		starts = append(starts, n)
	}
	inOrder := slices.Sorted(slices.Values(starts))
	out := bytes.NewBuffer(slices.Clone(pdf[:inOrder[0]]))
	moved := map[int]int{}
	for i, start := range inOrder {
		end := table
		if i+1 < len(inOrder) {
			end = inOrder[i+1]
		}
		object, err := undatedObject(pdf[start:end], at)
		if err != nil {
			return nil, err
		}
		moved[start] = out.Len()
		out.Write(object)
	}
	tail := startXref.ReplaceAll(pdf[table:], fmt.Appendf(nil, "startxref\n%d\n", out.Len()))
	n := -1
	tail = xrefLine.ReplaceAllFunc(tail, func([]byte) []byte {
		n++
		return fmt.Appendf(nil, "%010d 00000 n", moved[starts[n]])
	})
	out.Write(tail)
	return out.Bytes(), nil
}

// undatedObject is one object of a PDF without the moment of its writing.
func undatedObject(object []byte, at time.Time) ([]byte, error) {
	head := fontStream.FindSubmatchIndex(object)
	if head == nil {
		object = lang.ReplaceAll(object, []byte("/Lang(en)")) // the library writes its creator there
		return created.ReplaceAll(object, fmt.Appendf(nil, "/CreationDate(D:%sZ)", at.UTC().Format("20060102150405"))), nil
	}
	end := bytes.LastIndex(object, []byte("\nendstream"))
	if end < head[1] {
		return nil, errNotOurPDF
	}
	r, err := zlib.NewReader(bytes.NewReader(object[head[1]:end]))
	if err != nil {
		return object, nil //nolint:nilerr // not a font: left as it is
	}
	data, err := io.ReadAll(r)
	if err != nil || !undatedFont(data) {
		return object, nil //nolint:nilerr // not a font: left as it is
	}
	var packed bytes.Buffer
	w := zlib.NewWriter(&packed)
	if _, err := w.Write(data); err != nil {
		return nil, fmt.Errorf("exchange: packing a font: %w", err)
	}
	if err := w.Close(); err != nil {
		return nil, fmt.Errorf("exchange: packing a font: %w", err)
	}
	return slices.Concat(
		object[head[2]:head[3]], strconv.AppendInt(nil, int64(packed.Len()), 10), object[head[4]:head[5]],
		packed.Bytes(), object[end:]), nil
}

// undatedFont sets the times in a TrueType font's head table to nothing and mends its sums
// (OpenType specification, tables "head" and the table directory; from memory). False for
// what is no such font.
func undatedFont(font []byte) bool {
	if len(font) < 12 || binary.BigEndian.Uint32(font) != 0x00010000 {
		return false
	}
	for i := range int(binary.BigEndian.Uint16(font[4:])) {
		entry := 12 + 16*i
		if entry+16 > len(font) {
			return false
		}
		if string(font[entry:entry+4]) != "head" {
			continue
		}
		at, length := int(binary.BigEndian.Uint32(font[entry+8:])), int(binary.BigEndian.Uint32(font[entry+12:]))
		if length < 54 || at+length > len(font) {
			return false
		}
		table := font[at : at+length]
		clear(table[8:12])  // the sum over the whole font, worked out again below
		clear(table[20:36]) // created and modified
		binary.BigEndian.PutUint32(font[entry+4:], sum(table))
		binary.BigEndian.PutUint32(table[8:], 0xB1B0AFBA-sum(font))
		return true
	}
	return false
}

func sum(data []byte) (total uint32) {
	for len(data) >= 4 {
		total += binary.BigEndian.Uint32(data)
		data = data[4:]
	}
	if len(data) > 0 {
		var rest [4]byte
		copy(rest[:], data)
		total += binary.BigEndian.Uint32(rest[:])
	}
	return total
}
