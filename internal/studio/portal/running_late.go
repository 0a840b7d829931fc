package portal

import (
	"context"
	"strconv"
	"strings"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/studio"
	"softpalm/words"
)

// offerFrom is by how many minutes the studio is late when something is offered for it (handbook,
// chapter 6, Lateness).
const offerFrom = 20

// TellRunningLate tells a client that the studio is late, before they set out: from 20 minutes on with
// something that is offered for it. It is said once for each number of minutes.
func (s *Service) TellRunningLate(ctx context.Context, a *studio.Actor, visit uuid.UUID, late int, offered string) error {
	return studio.In(ctx, s.Kernel, a, func(tx tellStore, st *studio.Studio) error {
		v, err := tx.Visit(ctx, visit)
		if err != nil {
			return err
		}
		if err := a.MayVisit("tell-running-late", &v.Visit); err != nil {
			return err
		}
		if v.State != studio.Booked && v.State != studio.Confirmed || !v.StartsAt.After(s.Now()) {
			return &studio.StateError{Code: "visit-state", Sentence: words.ThisClientIsHereOrNotComing()}
		}
		if offered = strings.TrimSpace(offered); late >= offerFrom && offered == "" {
			return studio.FaultAt("/offered", words.SayWhatIsOfferedForTheWait())
		}
		x, err := s.about(ctx, tx, st, v.Client)
		if err != nil {
			return err
		}
		if x.address() == "" {
			return &studio.StateError{Code: "no-address", Sentence: words.ThisClientGetsNoMessages()}
		}
		told := Told{v.ID, "late-" + strconv.Itoa(late), v.Moves}
		if x.told[told] {
			return nil
		}
		lines := []string{words.TellRunningLate(x.client.Name, strconv.Itoa(late), x.clock(v.StartsAt.Add(time.Duration(late)*time.Minute))).Message}
		if offered != "" {
			lines = append(lines, offered)
		}
		body, err := x.closed(ctx, lines)
		if err != nil {
			return err
		}
		id, err := x.post(ctx, studio.Message{
			Kind: studio.LateMessage, To: x.address(), Name: x.client.Name, Body: body, Until: s.Now().Add(pageLength), Client: &x.client.ID,
		})
		if err != nil {
			return err
		}
		return tx.NoteTold(ctx, []Told{told}, id, s.Now())
	})
}
