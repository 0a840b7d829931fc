// Command load drives a running server with requests at a fixed rate, whether answers come or not, and prints what each
// kind of work took beside its target (docs/performance.md). It belongs to make bench-large.
package main

import (
	"context"
	"database/sql"
	"flag"
	"fmt"
	"net"
	"net/http"
	"os"
	"time"

	_ "github.com/jackc/pgx/v5/stdlib"
)

func main() {
	address := flag.String("address", "http://127.0.0.1:8190", "where the server is")
	server := flag.Int("server", 0, "process id of the server")
	database := flag.String("database", os.Getenv("DATABASE_URL"), "the large database, for the bare handler")
	bare := flag.String("bare", "", "serve the bare handler at this address instead")
	seconds := flag.Int("seconds", 10, "how long each work is driven")
	log := flag.String("plans", "", "look at the plans in this log of PostgreSQL instead of the times")
	only := flag.String("only", "", "drive only works whose name has one of these in it, separated by commas")
	flag.Parse()
	if *bare != "" {
		fail(serveBare(*bare, *database))
		return
	}
	l, err := newLoad(*address, *server, time.Duration(*seconds)*time.Second)
	fail(err)
	if *log != "" {
		fail(l.plans(*log, *database))
		return
	}
	fail(l.run(*only, *database))
}

func fail(err error) {
	if err != nil {
		fmt.Fprintln(os.Stderr, "load:", err)
		os.Exit(1)
	}
}

// serveBare answers every request with one row found by an index: what the machine can do at most.
func serveBare(address, database string) error {
	pool, err := sql.Open("pgx", database)
	if err != nil {
		return err
	}
	pool.SetMaxOpenConns(10)
	pool.SetMaxIdleConns(10)
	var id string
	if err := pool.QueryRow("select id from account limit 1").Scan(&id); err != nil {
		return err
	}
	listener, err := net.Listen("tcp", address)
	if err != nil {
		return err
	}
	server := http.Server{ReadHeaderTimeout: time.Second, Handler: http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		var name string
		if err := pool.QueryRowContext(context.WithoutCancel(r.Context()), "select name from account where id = $1", id).Scan(&name); err != nil {
			http.Error(w, err.Error(), http.StatusInternalServerError)
			return
		}
		fmt.Fprintf(w, `{"name":%q}`, name)
	})}
	return server.Serve(listener)
}
