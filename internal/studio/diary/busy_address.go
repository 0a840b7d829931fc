package diary

import (
	"context"
	"errors"
	"strings"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/studio"
	"softpalm/words"
)

// BusyAddress is the address of somebody's own calendar.
type BusyAddress struct {
	ID           uuid.UUID
	Practitioner *uuid.UUID
	Client       *uuid.UUID
	Address      string
	ReadAt       *time.Time
	Failure      string
}

// Fetcher reads files from addresses outside.
type Fetcher interface {
	Fetch(ctx context.Context, address string) ([]byte, error)
}

// addressStore is what addresses of calendars are kept in.
type addressStore interface {
	busyStore
	BusyAddresses(ctx context.Context) ([]BusyAddress, error)
	SaveBusyAddress(ctx context.Context, b *BusyAddress) error
	RemoveBusyAddress(ctx context.Context, practitioner, client *uuid.UUID) error
}

// SetBusyAddress reads the busy times at an address, and again every hour from then on; an empty address
// ends that, and takes away what was read. With dry it only says what it would write.
func (s *Service) SetBusyAddress(
	ctx context.Context, a *studio.Actor, practitioner, client *uuid.UUID, address string, dry bool,
) (*BusyImport, error) {
	address = strings.TrimSpace(address)
	err := studio.In(ctx, s.Kernel, a, func(tx busyStore, _ *studio.Studio) error {
		return s.mayImportBusy(ctx, tx, a, practitioner, client)
	})
	if err != nil {
		return nil, err
	}
	var data []byte
	if address != "" {
		if data, err = s.Fetch.Fetch(ctx, address); err != nil {
			return nil, studio.FaultAt("/address", words.NoCalendarCanBeReadThere(inALine(err)))
		}
	}
	var out *BusyImport
	err = studio.In(ctx, s.Kernel, a, func(tx addressStore, st *studio.Studio) error {
		if address == "" {
			out = &BusyImport{Times: []BusyPiece{}, Clashes: []studio.VisitLine{}}
			if out.Replaced, err = tx.ReplaceBusy(ctx, practitioner, client, s.Now(), nil); err != nil {
				return err
			}
			return tx.RemoveBusyAddress(ctx, practitioner, client)
		}
		if out, err = s.importBusy(ctx, tx, st, practitioner, client, data); err != nil || dry {
			return errors.Join(err, undoneIf(dry))
		}
		now := s.Now()
		return tx.SaveBusyAddress(ctx, &BusyAddress{ID: studio.NewID(), Practitioner: practitioner, Client: client, Address: address, ReadAt: &now})
	})
	if dry && errors.Is(err, studio.ErrRehearsal) {
		err = nil
	}
	return out, err
}

func undoneIf(dry bool) error {
	if dry {
		return studio.ErrRehearsal
	}
	return nil
}

// inALine is what a foreign program said, in a line.
func inALine(err error) string {
	text := []rune(strings.Join(strings.Fields(strings.TrimPrefix(err.Error(), "web: ")), " "))
	const most = 160
	if len(text) > most {
		return string(text[:most]) + "…"
	}
	return string(text)
}

// ReadBusyAddresses reads the calendars of a studio again. One that cannot be read leaves what was read
// before, and says so.
func (s *Service) ReadBusyAddresses(ctx context.Context, in uuid.UUID) error {
	var all []BusyAddress
	err := studio.Within(ctx, s.Kernel, in, func(tx addressStore) (err error) {
		all, err = tx.BusyAddresses(ctx)
		return err
	})
	if err != nil {
		return err
	}
	for i := range all {
		if err := s.readAgain(ctx, in, &all[i]); err != nil {
			return err
		}
	}
	return nil
}

func (s *Service) readAgain(ctx context.Context, in uuid.UUID, b *BusyAddress) error {
	data, failed := s.Fetch.Fetch(ctx, b.Address)
	write := func(failed error) error {
		return studio.Within(ctx, s.Kernel, in, func(tx addressStore) error {
			b.Failure = ""
			if failed != nil {
				b.Failure = inALine(failed)
				return tx.SaveBusyAddress(ctx, b)
			}
			st, err := tx.Studio(ctx)
			if err != nil {
				return err
			}
			if _, err := s.importBusy(ctx, tx, st, b.Practitioner, b.Client, data); err != nil {
				return err
			}
			now := s.Now()
			b.ReadAt = &now
			return tx.SaveBusyAddress(ctx, b)
		})
	}
	err := write(failed)
	var input *studio.InputError
	if errors.As(err, &input) { // it is not a calendar any more
		return write(errors.New(input.Problems[0].Message))
	}
	if errors.Is(err, studio.ErrNotFound) { // its client was deleted meanwhile
		return nil
	}
	return err
}
