package exchange

import (
	"bytes"
	"encoding/csv"
	"regexp"
	"strconv"
	"strings"

	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
)

// formula is a cell that a spreadsheet would take for a formula, blanks before it or not.
var formula = regexp.MustCompile(`^[\s\x{00a0}\x{feff}]*[=+\-@\t\r]`)

// StepsCSV writes a protocol's steps as comma-separated values with a heading,
// in UTF-8 with CRLF line ends (RFC 4180). Cells that a spreadsheet would take for
// a formula are set off with an apostrophe.
func StepsCSV(p *protocol.Protocol, e *evaluation.Evaluation) ([]byte, error) {
	rows := [][]string{
		{
			"step",
			"phase",
			"round",
			"start_s",
			"seconds",
			"stroke",
			"intent",
			"sides",
			"hand",
			"tool",
			"part",
			"path",
			"pressure",
			"dose",
			"product",
			"amount",
			"measure",
			"client",
			"note",
		},
	}
	for i := range e.Steps {
		r, s := &e.Steps[i], &p.Steps[i]
		var path []string
		for _, st := range r.Path {
			path = append(path, st.Zone)
		}
		row := []string{
			strconv.Itoa(i + 1),
			string(r.Phase),
			s.Round,
			number(float64(int(r.Start*10)) / 10),
			strconv.Itoa(r.Seconds),
			r.Name,
			string(r.Intent),
			string(r.Sides),
			r.Hand,
			"",
			"",
			strings.Join(path, " > "),
			strconv.Itoa(r.Pressure),
			doseWords(r.Dose),
			"",
			"",
			"",
			r.Client,
			s.Note,
		}
		if r.Tool != nil {
			row[9], row[10] = r.Tool.Key, r.Tool.Part
		}
		if s.Use != nil {
			row[14], row[15], row[16] = s.Use.Product, number(s.Use.Amount.Value), string(s.Use.Amount.Measure)
		}
		rows = append(rows, row)
	}
	return writeCSV(rows)
}

// writeCSV writes rows as RFC 4180 has them; what a spreadsheet would take for a formula is set off with
// an apostrophe.
func writeCSV(rows [][]string) ([]byte, error) {
	return writeCSVWith(rows, func(int, int) bool { return false })
}

// writeCSVWith is [writeCSV] with cells that are known to be no formulas.
func writeCSVWith(rows [][]string, plain func(row, column int) bool) ([]byte, error) {
	var b bytes.Buffer
	w := csv.NewWriter(&b)
	w.UseCRLF = true
	for k, row := range rows {
		for i, cell := range row {
			if formula.MatchString(cell) && !plain(k, i) {
				row[i] = "'" + cell
			}
		}
		if err := w.Write(row); err != nil {
			return nil, err
		}
	}
	w.Flush()
	return b.Bytes(), w.Error()
}
