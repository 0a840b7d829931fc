package main

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"os"
	"os/exec"
	"slices"
	"strings"
	"time"

	vegeta "github.com/tsenart/vegeta/v12/lib"
)

// load is a session signed in, and what it knows of the studio.
type load struct {
	address string
	server  int
	long    time.Duration
	header  http.Header
	known   known
}

// pause is how long the server is left alone between two works.
const pause = 3 * time.Second

// bareAddress is where the bare handler listens.
const bareAddress = "127.0.0.1:8197"

func newLoad(address string, server int, long time.Duration) (*load, error) {
	l := &load{address: address, server: server, long: long, header: http.Header{}}
	answer, err := http.Post(address+"/api/sign-in", "application/json", strings.NewReader(`{"email":"owner@demo.example","password":"demo palms 1"}`))
	if err != nil {
		return nil, err
	}
	defer answer.Body.Close()
	var in struct{ CSRF string }
	if err := json.NewDecoder(answer.Body).Decode(&in); err != nil || answer.StatusCode != http.StatusOK {
		return nil, errors.Join(err, fmt.Errorf("signing in: %s", answer.Status))
	}
	for _, c := range answer.Cookies() {
		l.header.Add("Cookie", c.Name+"="+c.Value)
	}
	l.header.Set("Content-Type", "application/json")
	l.header.Set("Accept-Encoding", "gzip, deflate, br") // as browsers do
	var session struct{ CSRF string }
	if err := l.get("/api/session", &session); err != nil {
		return nil, err
	}
	l.header.Set("X-CSRF-Token", session.CSRF)
	return l, l.learn()
}

// get asks for something and reads the answer.
func (l *load) get(path string, into any) error {
	request, err := http.NewRequest(http.MethodGet, l.address+path, nil)
	if err != nil {
		return err
	}
	request.Header = l.header.Clone()
	request.Header.Del("Accept-Encoding")
	answer, err := http.DefaultClient.Do(request)
	if err != nil {
		return err
	}
	defer answer.Body.Close()
	body, err := io.ReadAll(answer.Body)
	if err != nil || answer.StatusCode != http.StatusOK {
		return errors.Join(err, fmt.Errorf("%s: %s %.200s", path, answer.Status, body))
	}
	return json.Unmarshal(body, into)
}

// send sends a request, whose answer has to be a success.
func (l *load) send(target vegeta.Target) error {
	request, err := target.Request()
	if err != nil {
		return err
	}
	request.Header = l.header.Clone()
	answer, err := http.DefaultClient.Do(request)
	if err != nil {
		return err
	}
	defer answer.Body.Close()
	if _, err := io.Copy(io.Discard, answer.Body); err != nil || answer.StatusCode >= http.StatusBadRequest {
		return errors.Join(err, fmt.Errorf("%s: %s", target.URL, answer.Status))
	}
	return nil
}

// run drives all works, first the bare handler, and prints the table.
func (l *load) run(only, database string) error {
	self, err := os.Executable()
	if err != nil {
		return err
	}
	bare := exec.Command(self, "-bare", bareAddress, "-database", database)
	bare.Stderr = os.Stderr
	if err := bare.Start(); err != nil {
		return err
	}
	time.Sleep(time.Second)
	unit := l.drive(work{name: "a bare handler", rate: 200, next: func(int) vegeta.Target {
		return vegeta.Target{Method: http.MethodGet, URL: "http://" + bareAddress}
	}}, bare.Process.Pid)
	if err := errors.Join(bare.Process.Kill(), ignore(bare.Wait())); err != nil {
		return err
	}
	fmt.Println("| work | rate/s | target p99 | p50 | p95 | p99 | failed | CPU a request | x bare | body |")
	fmt.Println("|---|---|---|---|---|---|---|---|---|---|")
	unit.print(unit)
	missed := 0
	for _, w := range l.works() {
		if !slices.ContainsFunc(strings.Split(only, ","), func(part string) bool { return strings.Contains(w.name, part) }) {
			continue
		}
		time.Sleep(pause) // what the work before left behind is done
		r := l.drive(w, l.server)
		r.print(unit)
		if r.missed() {
			missed++
		}
	}
	fmt.Printf("\nMost memory of the server: %d MB. Targets missed: %d.\n", peakMemory(l.server), missed)
	return nil
}

// ignore drops the error of a process that was killed.
func ignore(error) error { return nil }

// result is what a work took.
type result struct {
	work
	metrics vegeta.Metrics
	cpu     time.Duration // a request, database included
}

// drive sends requests at the work's rate, whether answers come or not.
func (l *load) drive(w work, server int) *result {
	attacker := func() *vegeta.Attacker {
		return vegeta.NewAttacker(vegeta.Timeout(10*time.Second), vegeta.Connections(200), vegeta.MaxWorkers(400), vegeta.KeepAlive(true))
	}
	n := 0
	target := func(t *vegeta.Target) error {
		*t = w.next(n)
		t.Header = l.header.Clone()
		n++
		return nil
	}
	rate := vegeta.Rate{Freq: w.rate, Per: time.Second}
	for range attacker().Attack(target, rate, time.Second, "warm") { //nolint:revive // the first second warms the caches
	}
	r := &result{work: w}
	before := cpuTime(server)
	for one := range attacker().Attack(target, rate, l.long, w.name) {
		r.metrics.Add(one)
		if one.Code >= 400 && r.work.said == "" {
			r.work.said = fmt.Sprintf("%d %.120s", one.Code, bytes.TrimSpace(one.Body))
		}
	}
	r.metrics.Close()
	if r.metrics.Requests > 0 {
		r.cpu = (cpuTime(server) - before) / time.Duration(r.metrics.Requests)
	}
	return r
}

func (r *result) missed() bool {
	return r.metrics.Success < 1 || r.limit > 0 && r.metrics.Latencies.P99 > time.Duration(r.limit)*time.Millisecond
}

// print writes the result as a row of a table.
func (r *result) print(unit *result) {
	ms := func(d time.Duration) string { return fmt.Sprintf("%.1f", float64(d.Microseconds())/1000) }
	target := "–"
	if r.limit > 0 {
		target = fmt.Sprintf("%d ms", r.limit)
	}
	if r.missed() {
		target += ", missed"
	}
	if r.said != "" {
		fmt.Fprintln(os.Stderr, r.name, r.said)
	}
	fmt.Printf("| %s | %d | %s | %s | %s | %s | %.1f %% | %s | %.1f | %.1f kB |\n", r.name, r.rate, target,
		ms(r.metrics.Latencies.P50), ms(r.metrics.Latencies.P95), ms(r.metrics.Latencies.P99), 100*(1-r.metrics.Success), ms(r.cpu),
		float64(r.metrics.Latencies.P50)/float64(unit.metrics.Latencies.P50), r.metrics.BytesIn.Mean/1024)
}
