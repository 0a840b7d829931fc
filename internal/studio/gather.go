package studio

import "context"

// Read is a function for [Tx.Gather] that reads something.
func Read[T any](ctx context.Context, into *T, read func(context.Context) (T, error)) func() error {
	return func() (err error) {
		*into, err = read(ctx)
		return err
	}
}

// ReadOf is a function for [Tx.Gather] that reads something of one thing.
func ReadOf[T, A any](ctx context.Context, into *T, read func(context.Context, A) (T, error), of A) func() error {
	return func() (err error) {
		*into, err = read(ctx, of)
		return err
	}
}

// Changed is a function for [Tx.Gather] that learns how often the studio's data has changed, for what is kept and asked for
// after it.
func Changed(ctx context.Context, tx Tx) func() error {
	return func() error {
		_, err := tx.Memory(ctx)
		return err
	}
}
