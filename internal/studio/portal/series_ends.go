package portal

import (
	"context"

	"github.com/google/uuid"

	"softpalm/internal/craft/calendar"
	"softpalm/internal/studio"
	"softpalm/words"
)

// TellSeriesEnds tells a client that a series paid ahead is good until a day, and how many treatments are left of it;
// not of what. It is not said in the quiet hours; sent is false then, and where they have no address or want no messages.
func (s *Service) TellSeriesEnds(ctx context.Context, within studio.Tx, st *studio.Studio, client uuid.UUID, left int, until string) (sent bool, err error) {
	x, err := s.about(ctx, studio.As[tellStore](within), st, client)
	if err != nil || x.address() == "" {
		return false, err
	}
	local := s.Now().In(st.Zone())
	if minute := local.Hour()*60 + local.Minute(); minute < x.timing.QuietTo || minute >= x.timing.QuietFrom {
		return false, nil
	}
	body, err := x.closed(ctx, []string{words.TellSeriesEnds(x.client.Name, left, calendar.Day(until), st.Name).Message})
	if err != nil {
		return false, err
	}
	_, err = x.post(ctx, studio.Message{
		Kind: studio.SeriesEndsMessage, To: x.address(), Name: x.client.Name, Body: body, Until: s.Now().Add(pageLength), Client: &client,
	})
	return err == nil, err
}
