package postgres_test

import (
	"hash/maphash"
	"math"
	"math/bits"
	"reflect"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"softpalm/internal/studio"
)

// watch complains at the end of a test when anybody has changed what a world keeps since it was kept: it is shared.
func watch(t testing.TB, kept *studio.Memory) {
	t.Helper()
	type memo struct {
		value any
		was   uint64
	}
	var mu sync.Mutex
	seen := map[string]memo{}
	kept.Seen = func(key string, value any) {
		was := printOf(reflect.ValueOf(value))
		mu.Lock()
		defer mu.Unlock()
		seen[key] = memo{value, was}
	}
	t.Cleanup(func() {
		mu.Lock()
		defer mu.Unlock()
		for key, m := range seen {
			assert.Equal(t, m.was, printOf(reflect.ValueOf(m.value)), "somebody changed what is kept as %q", key)
		}
	})
}

// printOf is a fingerprint of a value and of all that it leads to. Moments and zones are left out: the time package itself
// changes what it keeps in them.
func printOf(v reflect.Value) uint64 {
	sum := uint64(v.Kind())
	add := func(x uint64) { sum = bits.RotateLeft64(sum^x, 23) * 0x9E3779B97F4A7C15 } // the order of what is added counts
	switch v.Kind() {
	case reflect.Pointer, reflect.Interface:
		if !v.IsNil() && v.Type() != reflect.TypeFor[*time.Location]() {
			add(printOf(v.Elem()))
		}
	case reflect.Struct:
		for i := range v.NumField() {
			if v.Type().PkgPath() != "time" {
				add(printOf(v.Field(i)))
			}
		}
	case reflect.Slice, reflect.Array:
		for i := range v.Len() {
			add(printOf(v.Index(i)))
		}
	case reflect.Map:
		entries := uint64(0) // whatever the order
		for list := v.MapRange(); list.Next(); {
			entries += printOf(list.Key())*31 + printOf(list.Value())
		}
		add(entries)
	case reflect.String:
		add(maphash.String(printSeed, v.String()))
	case reflect.Bool:
		if v.Bool() {
			add(1)
		}
	case reflect.Int, reflect.Int8, reflect.Int16, reflect.Int32, reflect.Int64:
		add(uint64(v.Int())) //nolint:gosec // any number will do
	case reflect.Uint, reflect.Uint8, reflect.Uint16, reflect.Uint32, reflect.Uint64, reflect.Uintptr:
		add(v.Uint())
	case reflect.Float32, reflect.Float64:
		add(math.Float64bits(v.Float()))
	default: // functions and the like do not change
	}
	return sum
}

var printSeed = maphash.MakeSeed()

func TestWhatIsKeptIsWatched(t *testing.T) {
	list := []*studio.ProtocolLine{{Key: "a"}}
	was := printOf(reflect.ValueOf(list))
	assert.Equal(t, was, printOf(reflect.ValueOf(list)))
	list[0].Key = "b"
	assert.NotEqual(t, was, printOf(reflect.ValueOf(list)))
}
