package main

import (
	"fmt"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"time"
)

// tick is the kernel's unit of CPU time (USER_HZ, 100 on every Debian).
const tick = 10 * time.Millisecond

// cpuTime is what the server and all processes of PostgreSQL have used so far.
func cpuTime(server int) time.Duration {
	total := time.Duration(0)
	stats, _ := filepath.Glob("/proc/[0-9]*/stat")
	for _, name := range stats {
		data, err := os.ReadFile(name)
		if err != nil {
			continue // it has ended
		}
		line := string(data)
		open, end := strings.IndexByte(line, '('), strings.LastIndexByte(line, ')')
		if open < 0 || end < 0 {
			continue
		}
		pid, _ := strconv.Atoi(strings.TrimSpace(line[:open]))
		if !strings.HasPrefix(line[open+1:end], "postgres") && pid != server {
			continue
		}
		fields := strings.Fields(line[end+1:])
		user, _ := strconv.Atoi(fields[11])
		system, _ := strconv.Atoi(fields[12])
		total += time.Duration(user+system) * tick
	}
	return total
}

// peakMemory is the most memory that a process held, in MB.
func peakMemory(pid int) int {
	data, err := os.ReadFile(fmt.Sprintf("/proc/%d/status", pid))
	if err != nil {
		return 0
	}
	for line := range strings.Lines(string(data)) {
		if rest, ok := strings.CutPrefix(line, "VmHWM:"); ok {
			kb, _ := strconv.Atoi(strings.Fields(rest)[0])
			return kb / 1024
		}
	}
	return 0
}
