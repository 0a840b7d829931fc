package books

import (
	"context"
	"strings"

	"softpalm/internal/craft/money"
	"softpalm/internal/studio"
	"softpalm/words"
)

// numbersStore writes the accountant's own numbers of accounts into the studio's settings.
type numbersStore interface {
	// LockStudio returns the studio, held until the transaction ends.
	LockStudio(ctx context.Context) (*studio.Studio, error)
	SaveSettings(ctx context.Context, s *studio.Studio) error
}

// mostNumber is how long an accountant's number may be.
const mostNumber = 20

// SetAccountNumbers maps accounts to the accountant's own numbers; an account without one keeps its name in the files.
func (s *Service) SetAccountNumbers(ctx context.Context, a *studio.Actor, numbers map[money.Account]string) error {
	if err := a.May("set-account-numbers"); err != nil {
		return err
	}
	own := map[money.Account]string{}
	for account, number := range numbers {
		number = strings.TrimSpace(number)
		if account.Place() < 0 || len(number) > mostNumber {
			return studio.FaultAt("/"+string(account), words.AnAccountNumberHasUpTo(mostNumber))
		}
		if number != "" {
			own[account] = number
		}
	}
	return studio.In(ctx, s.Kernel, a, func(tx Store, _ *studio.Studio) error {
		st, err := tx.LockStudio(ctx)
		if err != nil {
			return err
		}
		st.Books.AccountNumbers = own
		if err := tx.SaveSettings(ctx, st); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "change", "settings", st.ID)
	})
}
