package postgres_test

import (
	"fmt"
	"hash/fnv"
	"reflect"
	"sync"
	"testing"

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
	h := fnv.New64a()
	add := func(x any) { fmt.Fprint(h, x, ";") }
	switch v.Kind() {
	case reflect.Pointer, reflect.Interface:
		if !v.IsNil() && v.Type().String() != "*time.Location" {
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
		sum := uint64(0) // whatever the order
		for entries := v.MapRange(); entries.Next(); {
			sum += printOf(entries.Key())*31 + printOf(entries.Value())
		}
		add(sum)
	case reflect.String:
		add(v.String())
	case reflect.Bool:
		add(v.Bool())
	case reflect.Int, reflect.Int8, reflect.Int16, reflect.Int32, reflect.Int64:
		add(v.Int())
	case reflect.Uint, reflect.Uint8, reflect.Uint16, reflect.Uint32, reflect.Uint64, reflect.Uintptr:
		add(v.Uint())
	case reflect.Float32, reflect.Float64:
		add(v.Float())
	default: // functions and the like do not change
	}
	return h.Sum64()
}

func TestWhatIsKeptIsWatched(t *testing.T) {
	list := []*studio.ProtocolLine{{Key: "a"}}
	was := printOf(reflect.ValueOf(list))
	assert.Equal(t, was, printOf(reflect.ValueOf(list)))
	list[0].Key = "b"
	assert.NotEqual(t, was, printOf(reflect.ValueOf(list)))
}
