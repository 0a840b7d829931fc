package main

import (
	"bytes"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"slices"
	"time"

	vegeta "github.com/tsenart/vegeta/v12/lib"

	_ "github.com/jackc/pgx/v5/stdlib" // the driver of the large database
)

// A read of an ordinary screen costs what it shows, a write what it writes, and neither what ten years have left behind: no
// table of the history is read from end to end, and no part of a plan looks at more rows than this. The inbox looks at what
// each of the 900 clients of two weeks has had put on, which is 17 000 rows here; all clients, the shortest history, would be 20 000.
// What is asked for once in a while may read a period, three months being 50 000 uses of products, and all deliveries of a
// studio; how often it looks into a table that does not grow is not counted.
const (
	mostRows     = 18_000
	periodRows   = 60_000
	historyBegin = 10_000 // rows from which on a table grows with the history
)

// plan is a node of a plan as PostgreSQL prints it in JSON.
type plan struct {
	Kind     string  `json:"Node Type"`
	Table    string  `json:"Relation Name"`
	Rows     float64 `json:"Actual Rows"`
	Loops    float64 `json:"Actual Loops"`
	Filtered float64 `json:"Rows Removed by Filter"`
	Refused  float64 `json:"Rows Removed by Index Recheck"`
	Plans    []plan  `json:"Plans"`
}

// explained is a statement with the plan that it ran by.
type explained struct {
	Text string `json:"Query Text"`
	Plan plan   `json:"Plan"`
}

// plans does each work once and looks at the plans that PostgreSQL noted in its log meanwhile (auto_explain, told to
// note all of them). It prints a row a work, and fails where a plan grows with the history.
func (l *load) plans(log, database string) error {
	large, err := historyTables(database)
	if err != nil {
		return err
	}
	fmt.Println("| work | statements | most rows at one place | of |")
	fmt.Println("|---|---|---|---|")
	var faults error
	for _, w := range l.works() {
		if w.name == mixed {
			continue
		}
		often, may := w.rate > seldom, float64(mostRows)
		if !often {
			may = periodRows
		}
		list, err := l.notedWhile(log, w.next(0))
		if err != nil {
			return fmt.Errorf("%s: %w", w.name, err)
		}
		most, where := 0.0, ""
		for _, e := range list {
			e.Plan.walk(func(p *plan) {
				rows := (p.Rows + p.Filtered + p.Refused) * max(p.Loops, 0)
				if p.Table == "" || rows == 0 {
					return
				}
				if rows > most {
					most, where = rows, p.Kind+" on "+p.Table
				}
				if rows > may && (often || large[p.Table]) || p.Kind == "Seq Scan" && large[p.Table] && (often || rows > mostRows) {
					faults = errors.Join(faults, fmt.Errorf("%s: %s on %s reads %.0f rows: %.200s", w.name, p.Kind, p.Table, rows, e.Text))
				}
			})
		}
		fmt.Printf("| %s | %d | %.0f | %s |\n", w.name, len(list), most, where)
	}
	return faults
}

// walk visits a node and those below it.
func (p *plan) walk(visit func(*plan)) {
	visit(p)
	for i := range p.Plans {
		p.Plans[i].walk(visit)
	}
}

// historyTables are the tables of so many rows that they grow with the history.
func historyTables(database string) (map[string]bool, error) {
	pool, err := sql.Open("pgx", database)
	if err != nil {
		return nil, err
	}
	defer pool.Close()
	rows, err := pool.Query("select relname from pg_class where relkind = 'r' and reltuples > $1", historyBegin)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	large := map[string]bool{}
	for rows.Next() {
		var name string
		if err := rows.Scan(&name); err != nil {
			return nil, err
		}
		large[name] = true
	}
	return large, rows.Err()
}

// notedWhile sends a request and returns the plans that came into the log meanwhile.
func (l *load) notedWhile(log string, target vegeta.Target) ([]explained, error) {
	file, err := os.Open(log)
	if err != nil {
		return nil, err
	}
	defer file.Close()
	if _, err := file.Seek(0, io.SeekEnd); err != nil {
		return nil, err
	}
	if err := l.send(target); err != nil {
		return nil, err
	}
	time.Sleep(300 * time.Millisecond) // the log is written by another process
	text, err := io.ReadAll(file)
	if err != nil {
		return nil, err
	}
	var out []explained
	for _, part := range bytes.Split(text, []byte("plan:\n"))[1:] {
		var e explained
		if err := json.NewDecoder(bytes.NewReader(part)).Decode(&e); err != nil {
			return nil, fmt.Errorf("a plan in the log could not be read: %w", err)
		}
		out = append(out, e)
	}
	slices.SortStableFunc(out, func(a, b explained) int { return len(a.Text) - len(b.Text) })
	return out, nil
}
