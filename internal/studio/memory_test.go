package studio_test

import (
	"errors"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"

	"softpalm/internal/studio"
)

// Of requests that want the same at the same time one does the work, and its failure is its own.
func TestOnceIsDoneByOne(t *testing.T) {
	for _, failure := range []error{nil, errors.New("abandoned")} {
		m := &studio.Remembered{Memory: studio.NewMemory(), Studio: uuid.New()}
		var begun, mine, failed atomic.Int32
		release := make(chan struct{})
		var all sync.WaitGroup
		for range 8 {
			all.Go(func() {
				was, err := m.Once("the day", func() error {
					begun.Add(1)
					<-release
					return failure
				})
				if was {
					mine.Add(1)
				}
				if err != nil {
					failed.Add(1)
				}
			})
		}
		time.Sleep(50 * time.Millisecond) // until all have come
		close(release)
		all.Wait()
		assert.EqualValues(t, 1, begun.Load())
		assert.EqualValues(t, 1, mine.Load())
		assert.EqualValues(t, map[bool]int32{true: 0, false: 1}[failure == nil], failed.Load())

		was, err := m.Once("the day", func() error { return nil })
		assert.True(t, was, "later, it is done again")
		assert.NoError(t, err)
	}
}

// What is noted is found under its name by its own studio only.
func TestNotesAreAStudiosOwn(t *testing.T) {
	memory := studio.NewMemory()
	one, other := studio.Remembered{Memory: memory, Studio: uuid.New()}, studio.Remembered{Memory: memory, Studio: uuid.New()}
	one.Note("outlook", 7)
	assert.Equal(t, 7, one.Noted("outlook"))
	assert.Nil(t, other.Noted("outlook"))
	assert.Nil(t, one.Noted("another"))
}
