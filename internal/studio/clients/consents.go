package clients

import (
	"context"
	"strings"

	"github.com/google/uuid"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/studio"
	"softpalm/words"
)

// ConsentTexts are the texts that the studio's clients sign.
func (s *Service) ConsentTexts(ctx context.Context, a *studio.Actor) (texts []studio.ConsentText, err error) {
	if err := a.May("consent-texts"); err != nil {
		return nil, err
	}
	err = studio.In(ctx, s.Kernel, a, func(_ Store, st *studio.Studio) error {
		texts = st.ConsentTexts()
		return nil
	})
	return texts, err
}

// Consents lists the consents of a client, newest first; the look is logged.
func (s *Service) Consents(ctx context.Context, a *studio.Actor, client uuid.UUID) (list []studio.Consent, err error) {
	if err := a.May("list-consents"); err != nil {
		return nil, err
	}
	err = studio.In(ctx, s.Kernel, a, func(tx Store, _ *studio.Studio) error {
		if err := a.MayClient(ctx, tx, "list-consents", client); err != nil {
			return err
		}
		if _, err := tx.Client(ctx, client); err != nil {
			return err
		}
		if list, err = tx.Consents(ctx, client); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "look", "client", client)
	})
	return list, err
}

// SignConsent keeps a consent to the text in force. A client under 18 needs a
// guardian's signature. No drawn lines mean that the name was typed, which the studio has
// to allow; what was stated with it is kept with the text.
func (s *Service) SignConsent(
	ctx context.Context,
	a *studio.Actor,
	client uuid.UUID,
	kind studio.ConsentKind,
	signer string,
	guardian bool,
	signature [][]int,
) (*studio.Consent, error) {
	if err := a.May("sign-consent"); err != nil {
		return nil, err
	}
	c := &studio.Consent{
		ID:        studio.NewID(),
		Client:    client,
		Kind:      kind,
		Signer:    strings.TrimSpace(signer),
		Guardian:  guardian,
		Signature: signature,
		SignedAt:  s.Now(),
		Account:   a.Account,
	}
	if c.Signer == "" || len(c.Signer) > 120 {
		return nil, studio.FaultAt("/signer", words.EnterTheNameOfThePersonSigning())
	}
	typed := len(signature) == 0
	if typed {
		c.Signature = [][]int{}
	} else if err := studio.CheckSignature(signature); err != nil {
		return nil, err
	}
	err := studio.In(ctx, s.Kernel, a, func(tx Store, st *studio.Studio) error {
		if err := a.MayClient(ctx, tx, "sign-consent", client); err != nil {
			return err
		}
		who, err := tx.Client(ctx, client)
		if err != nil {
			return err
		}
		if typed && !st.Texts.TypedSignatures {
			return studio.CheckSignature(signature)
		}
		for _, t := range st.ConsentTexts() {
			if t.Kind == kind {
				c.Version, c.Body = t.Version, t.Body
			}
		}
		if c.Body == "" {
			return studio.FaultAt("/kind", words.ThereIsNoConsentOfThatKind())
		}
		if typed {
			c.Body += "\n\n" + words.BriefSignedByTyping(c.Signer)
		}
		sub := contraindication.ClientProfile{Born: calendar.Day(who.BirthDate)}
		if age := sub.Age(calendar.Day(s.Today(st))); age >= 0 && age < studio.OfAge {
			if !guardian {
				return studio.FaultAt("/guardian", words.ClientUnder18SoParentOrGuardian())
			}
			if kind == studio.ConsentMouth {
				return studio.FaultAt("/kind", words.ClientUnder18SoNoWorkInside())
			}
		}
		if err := tx.AddConsent(ctx, c); err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "sign consent", "client", client)
	})
	return c, err
}

// WithdrawConsent ends a consent; from that moment it allows nothing.
func (s *Service) WithdrawConsent(ctx context.Context, a *studio.Actor, id uuid.UUID) error {
	if err := a.May("withdraw-consent"); err != nil {
		return err
	}
	return studio.In(ctx, s.Kernel, a, func(tx Store, _ *studio.Studio) error {
		client, err := tx.WithdrawConsent(ctx, id, s.Now())
		if err != nil {
			return err
		}
		return s.Audit(ctx, tx, a, "withdraw consent", "client", client)
	})
}
