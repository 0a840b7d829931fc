package postgres_test

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/pquerna/otp/totp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/series"
	"softpalm/internal/studio"
	"softpalm/internal/studio/house"
)

// notDemo makes the world's studio one of its own: the demo's accounts cannot be changed.
func (w *world) notDemo(t *testing.T) {
	t.Helper()
	w.asOwner(t, "studio", "update studio set is_demo = false")
}

func (w *world) in(t *testing.T, email, password, code string) (*house.SignedIn, error) {
	t.Helper()
	return w.svc.House.SignIn(context.Background(), house.Credentials{Email: email, Password: password, Code: code}, "here")
}

func everyDay() (week series.Week) {
	for d := range week {
		week[d] = series.Hours{From: 9 * 60, To: 17 * 60}
	}
	return week
}

// Somebody is invited, chooses a password by the link once, is booked with, changes role,
// and leaves: the account is closed, the name stays on records (OWASP ASVS 4.0.3, 2.3, 2.5
// and 3.3, from memory).
func TestSomebodyJoinsAndLeaves(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	fields := house.ColleagueFields{Name: "Дарья Łucja Đặng", Role: studio.Practitioner, Treats: true, Week: everyDay(), Mark: "DŁ",
		Skills: []string{"stone work"}, Licences: []studio.Licence{{Name: "Facialist", Number: "F-77", Until: "2027-06-30"}}}
	for path, wrong := range map[string]func(*house.ColleagueFields){
		"/name":   func(f *house.ColleagueFields) { f.Name = " " },
		"/role":   func(f *house.ColleagueFields) { f.Role = "king" },
		"/treats": func(f *house.ColleagueFields) { f.Role = studio.FrontDesk },
		"/week":   func(f *house.ColleagueFields) { f.Week[2] = series.Hours{From: 600, To: 500} },
		"/skills": func(f *house.ColleagueFields) { f.Skills = []string{""} },
		"/licences": func(f *house.ColleagueFields) {
			f.Licences = []studio.Licence{{Name: "x", Until: "next year"}}
		},
	} {
		bad := fields
		wrong(&bad)
		_, err := w.svc.House.Invite(ctx, &w.owner, "darya@studio.example", bad)
		var input *studio.InputError
		require.ErrorAs(t, err, &input, path)
		assert.Equal(t, path, input.Problems[0].Path)
	}
	link, err := w.svc.House.Invite(ctx, &w.owner, " Darya@studio.example ", fields)
	require.NoError(t, err)
	_, err = w.svc.House.Invite(ctx, &w.owner, "darya@studio.example", fields)
	var input *studio.InputError
	require.ErrorAs(t, err, &input, "an address belongs to one account")
	sent, err := w.messages(ctx)
	require.NoError(t, err)
	assert.Contains(t, sent[0].Body, "http://studio.example/join#"+link.Token)

	_, err = w.in(t, "darya@studio.example", "", "")
	require.ErrorIs(t, err, studio.ErrSignIn, "without a password nobody signs in")
	opened, err := w.svc.House.OpenJoining(ctx, link.Token, "phone")
	require.NoError(t, err)
	assert.Equal(t, fields.Name, opened.Name)
	assert.False(t, opened.Again)
	for _, weak := range []string{"short one", "password1234", "aaaaaaaaaaaaaa", strings.Repeat("long ", 41)} {
		_, err = w.svc.House.Join(ctx, link.Token, weak, "phone")
		require.ErrorAs(t, err, &input, weak)
	}
	_, err = w.svc.House.Join(ctx, link.Token, "seven warm stones", "phone")
	require.NoError(t, err)
	_, err = w.svc.House.Join(ctx, link.Token, "seven cold stones", "phone")
	require.ErrorIs(t, err, house.ErrAccountLink, "a link works once")
	in, err := w.in(t, "darya@studio.example", "seven warm stones", "")
	require.NoError(t, err)

	list, err := w.svc.House.Colleagues(ctx, &w.owner)
	require.NoError(t, err)
	var she house.Colleague
	for _, c := range list {
		if c.Email == "darya@studio.example" {
			she = c
		}
	}
	assert.Equal(t, studio.Active, she.State)
	assert.Equal(t, fields.Licences, she.Licences)
	assert.NotNil(t, she.SeenAt)
	v := w.first(t)
	times, err := w.svc.Diary.FreeTimes(ctx, &w.owner, studio.FreeQuery{Protocol: v.Protocol, Client: &v.Client, Practitioner: in.Actor.Practitioner, From: "2026-12-08", Days: 1})
	require.NoError(t, err)
	require.NotEmpty(t, times, "clients can be booked in the hours")
	booked, err := w.svc.Diary.Book(ctx, &w.owner, studio.NewVisit{ID: uuid.New(), Client: v.Client, Practitioner: times[0].Practitioner, Room: times[0].Room, Protocol: v.Protocol, Start: times[0].Start})
	require.NoError(t, err)
	assert.Equal(t, fields.Name, booked.PractitionerName)

	fields.Role = studio.Trainee
	require.NoError(t, w.svc.House.ChangeColleague(ctx, &w.owner, she.ID, she.Revision, fields))
	_, err = w.svc.House.Session(ctx, in.Token)
	require.ErrorIs(t, err, studio.ErrNotFound, "a new role begins with a new sign-in")
	var changed *studio.ChangedError
	require.ErrorAs(t, w.svc.House.ChangeColleague(ctx, &w.owner, she.ID, she.Revision, fields), &changed)
	assert.Equal(t, studio.Trainee, changed.Other.(*house.Colleague).Role, "the second is shown what the first saved")

	var state *studio.StateError
	require.ErrorAs(t, w.svc.House.CloseAccount(ctx, &w.owner, she.ID), &state)
	assert.Equal(t, "has-appointments", state.Code)
	_, err = w.svc.Diary.SetVisitState(ctx, &w.owner, booked.ID, studio.Cancelled, "asked to")
	require.NoError(t, err)
	in, err = w.in(t, "darya@studio.example", "seven warm stones", "")
	require.NoError(t, err)
	require.NoError(t, w.svc.House.CloseAccount(ctx, &w.owner, she.ID))
	require.NoError(t, w.svc.House.CloseAccount(ctx, &w.owner, she.ID), "twice is once")
	_, err = w.svc.House.Session(ctx, in.Token)
	require.ErrorIs(t, err, studio.ErrNotFound, "it ends at once")
	_, err = w.in(t, "darya@studio.example", "seven warm stones", "")
	require.ErrorIs(t, err, studio.ErrSignIn)
	kept, err := w.svc.Diary.Visit(ctx, &w.owner, booked.ID)
	require.NoError(t, err)
	assert.Equal(t, fields.Name, kept.PractitionerName, "the name stays on records")
	free, err := w.svc.Diary.FreeTimes(ctx, &w.owner, studio.FreeQuery{Protocol: v.Protocol, From: "2026-12-08", Days: 1})
	require.NoError(t, err)
	for _, f := range free {
		assert.NotEqual(t, booked.Practitioner, f.Practitioner, "nobody is booked with them any more")
	}
	again, err := w.svc.House.NewPasswordLink(ctx, &w.owner, she.ID)
	require.NoError(t, err)
	_, err = w.svc.House.Join(ctx, again.Token, "back with warm stones", "phone")
	require.NoError(t, err, "and may come back")
}

// Of two owners who step down or leave at the same moment, one stays.
func TestAStudioKeepsAnOwner(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	_, second := w.account(t, w.owner.Studio, studio.Owner, nil)
	errs := together(50, func(i int) error {
		return w.svc.House.CloseAccount(ctx, &w.owner, []uuid.UUID{second.Account, w.owner.Account}[i%2])
	})
	assert.Error(t, errors.Join(errs...), "one of the two is refused")
	assert.Equal(t, 1, w.count(t, "select count(*) from account where role = 'owner' and closed_at is null"))
}

// A forgotten password: the same answer for every address, a link that lives an hour, and
// the sessions begun before end (OWASP ASVS 4.0.3, 2.5, from memory).
func TestAForgottenPassword(t *testing.T) {
	w := newWorld(t)
	w.notDemo(t)
	ctx := context.Background()
	old, err := w.in(t, "maud@demo.example", "demo palms 2", "")
	require.NoError(t, err)
	require.NoError(t, w.svc.House.Forgotten(ctx, "nobody@demo.example", "home"))
	require.NoError(t, w.svc.House.Forgotten(ctx, "maud@demo.example", "home"))
	sent, err := w.messages(ctx)
	require.NoError(t, err)
	require.Len(t, sent, 1)
	_, token, _ := strings.Cut(sent[0].Body, "/join#")
	token = token[:43]
	_, err = w.svc.House.Join(ctx, token, "a quiet new morning", "home")
	require.NoError(t, err)
	_, err = w.svc.House.Session(ctx, old.Token)
	require.ErrorIs(t, err, studio.ErrNotFound)
	_, err = w.in(t, "maud@demo.example", "demo palms 2", "")
	require.ErrorIs(t, err, studio.ErrSignIn)
	_, err = w.in(t, "maud@demo.example", "a quiet new morning", "")
	require.NoError(t, err)

	require.NoError(t, w.svc.House.Forgotten(ctx, "maud@demo.example", "home"))
	sent, err = w.messages(ctx)
	require.NoError(t, err)
	_, token, _ = strings.Cut(sent[0].Body, "/join#")
	w.now = w.now.Add(time.Hour)
	_, err = w.svc.House.Join(ctx, token[:43], "too late this morning", "home")
	require.ErrorIs(t, err, house.ErrAccountLink)
	throttled := false
	for range 6 {
		throttled = throttled || w.svc.House.Forgotten(ctx, "maud@demo.example", "home") != nil
	}
	assert.True(t, throttled, "nobody's mailbox is filled")
}

// One's own password is changed with the one before; the other sessions end.
func TestAPasswordIsChanged(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	here, err := w.in(t, "maud@demo.example", "demo palms 2", "")
	require.NoError(t, err)
	var state *studio.StateError
	require.ErrorAs(t, w.svc.House.ChangePassword(ctx, here, "demo palms 2", "a quiet new morning"), &state, "the demo's stay")
	w.notDemo(t)
	there, err := w.in(t, "maud@demo.example", "demo palms 2", "")
	require.NoError(t, err)
	var input *studio.InputError
	require.ErrorAs(t, w.svc.House.ChangePassword(ctx, here, "wrong", "a quiet new morning"), &input)
	assert.Equal(t, "/current", input.Problems[0].Path)
	require.ErrorAs(t, w.svc.House.ChangePassword(ctx, here, "demo palms 2", "short"), &input)
	assert.Equal(t, "/next", input.Problems[0].Path)
	require.NoError(t, w.svc.House.ChangePassword(ctx, here, "demo palms 2", "a quiet new morning"))
	_, err = w.svc.House.Session(ctx, there.Token)
	require.ErrorIs(t, err, studio.ErrNotFound)
	_, err = w.svc.House.Session(ctx, here.Token)
	require.NoError(t, err)
}

// A second factor: codes as RFC 6238 makes them (a reference library from the registry
// computes them here), each used once, one period early or late; recovery codes, each used
// once; and an owner takes one away whose phone is lost.
func TestASecondFactor(t *testing.T) {
	w := newWorld(t)
	w.notDemo(t)
	ctx := context.Background()
	in, err := w.in(t, "maud@demo.example", "demo palms 2", "")
	require.NoError(t, err)
	f, err := w.svc.House.BeginFactor(ctx, &in.Actor)
	require.NoError(t, err)
	assert.Contains(t, f.URI, "otpauth://totp/")
	code := func(after time.Duration) string {
		c, err := totp.GenerateCode(f.Secret, w.now.Add(after))
		require.NoError(t, err)
		return c
	}
	var input *studio.InputError
	_, err = w.svc.House.SetFactor(ctx, in, "demo palms 2", f.Secret, "000000")
	require.ErrorAs(t, err, &input)
	assert.Equal(t, "/code", input.Problems[0].Path)
	_, err = w.svc.House.SetFactor(ctx, in, "wrong", f.Secret, code(0))
	require.ErrorAs(t, err, &input)
	assert.Equal(t, "/password", input.Problems[0].Path)
	recovery, err := w.svc.House.SetFactor(ctx, in, "demo palms 2", f.Secret, code(0))
	require.NoError(t, err)
	require.Len(t, recovery, 10)

	_, err = w.in(t, "maud@demo.example", "demo palms 2", "")
	require.ErrorIs(t, err, house.ErrFactor)
	_, err = w.in(t, "maud@demo.example", "demo palms 2", code(0))
	require.ErrorIs(t, err, studio.ErrSignIn, "the code that set it up is used up")
	w.now = w.now.Add(time.Minute)
	for _, c := range []struct {
		after time.Duration
		good  bool
	}{{-90 * time.Second, false}, {90 * time.Second, false}, {-30 * time.Second, true}, {30 * time.Second, true}, {0, false}} {
		_, err = w.in(t, "maud@demo.example", "demo palms 2", code(c.after))
		assert.Equal(t, c.good, err == nil, "%s: %v", c.after, err)
	}
	w.now = w.now.Add(20 * time.Minute)
	_, err = w.in(t, "maud@demo.example", "demo palms 2", strings.ToUpper(recovery[0]))
	require.NoError(t, err)
	_, err = w.in(t, "maud@demo.example", "demo palms 2", recovery[0])
	require.ErrorIs(t, err, studio.ErrSignIn, "a recovery code works once")
	w.now = w.now.Add(20 * time.Minute)
	winners := 0
	for _, err := range together(50, func(i int) error {
		_, err := w.svc.House.SignIn(ctx, house.Credentials{Email: "maud@demo.example", Password: "demo palms 2", Code: recovery[1]}, fmt.Sprint("address ", i))
		return err
	}) {
		if err == nil {
			winners++
		}
	}
	assert.Equal(t, 1, winners, "fifty at once use one code once")
	require.NoError(t, w.svc.House.DropFactor(ctx, &w.owner, in.Actor.Account))
	w.now = w.now.Add(20 * time.Minute)
	_, err = w.in(t, "maud@demo.example", "demo palms 2", "")
	require.NoError(t, err)
}

// Where the studio asks its owners for a second factor, an owner without one can do nothing
// but set it.
func TestOwnersNeedASecondFactorIfSet(t *testing.T) {
	w := newWorld(t)
	w.asOwner(t, "studio", "update studio set owners_need_factor = true, is_demo = false")
	owner := w.signedIn(t, "owner@demo.example", "demo palms 1")
	for _, path := range []string{"/api/day", "/api/clients", "/api/audit", "/api/people"} {
		res, body := owner("GET", path, "")
		assert.Equal(t, 403, res.StatusCode, path)
		assert.Contains(t, body, "needs-factor")
	}
	res, body := owner("POST", "/api/second-factor", "")
	require.Equal(t, 200, res.StatusCode, body)
	var f house.NewFactor
	require.NoError(t, json.Unmarshal([]byte(body), &f))
	c, err := totp.GenerateCode(f.Secret, w.now)
	require.NoError(t, err)
	res, body = owner("PUT", "/api/second-factor", fmt.Sprintf(`{"password":"demo palms 1","secret":%q,"code":%q}`, f.Secret, c))
	require.Equal(t, 200, res.StatusCode, body)
	res, _ = owner("GET", "/api/day", "")
	assert.Equal(t, 200, res.StatusCode)
	maud := w.signedIn(t, "maud@demo.example", "demo palms 2")
	res, _ = maud("GET", "/api/day", "")
	assert.Equal(t, 200, res.StatusCode, "practitioners are not asked")
}

// A session ends when it was not used for twelve hours, or after seven days; a clock that
// was wrong for a while ends none; and no client in the room is left alone by it.
func TestSessionsEnd(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	v := w.first(t)
	_, who := w.account(t, w.owner.Studio, studio.Practitioner, &v.Practitioner)
	in, err := w.in(t, w.emailOf(t, who.Account), "matrix palms 9", "")
	require.NoError(t, err)
	begun := w.now
	alive := func(at time.Time) bool {
		w.now = at
		_, err := w.svc.House.Session(ctx, in.Token)
		return err == nil
	}
	assert.True(t, alive(begun.Add(11*time.Hour)))
	assert.True(t, alive(begun.Add(22*time.Hour)), "used again and again")
	assert.True(t, alive(begun.Add(-30*24*time.Hour)), "the clock was a month behind")
	assert.True(t, alive(begun.Add(23*time.Hour)), "and is right again")
	assert.False(t, alive(begun.Add(35*time.Hour)), "not used for twelve hours")

	w.now = begun
	in, err = w.in(t, w.emailOf(t, who.Account), "matrix palms 9", "")
	require.NoError(t, err)
	for h := 10; h < 168; h += 10 {
		require.True(t, alive(begun.Add(time.Duration(h)*time.Hour)))
	}
	assert.False(t, alive(begun.Add(168*time.Hour)), "seven days")

	w.now = begun
	in, err = w.in(t, w.emailOf(t, who.Account), "matrix palms 9", "")
	require.NoError(t, err)
	w.checked(t, v, nil)
	_, err = w.svc.Clients.SignConsent(ctx, &w.owner, v.Client, studio.ConsentTreatment, "A. Client", false, signature)
	require.NoError(t, err)
	require.NoError(t, w.start(t, v.ID))
	w.asOwner(t, "session", "update session set expires_at = $1 where id = $2", begun.Add(time.Minute), in.Session.ID)
	assert.True(t, alive(begun.Add(40*time.Minute)), "the client is in the room")
	assert.False(t, alive(begun.Add(7*time.Hour)), "not for ever")
}

func (w *world) emailOf(t *testing.T, account uuid.UUID) (email string) {
	t.Helper()
	list, err := w.svc.House.Colleagues(context.Background(), &w.owner)
	require.NoError(t, err)
	for _, c := range list {
		if c.ID == account {
			return c.Email
		}
	}
	t.Fatal("there is no such account")
	return ""
}

// One sees where one is signed in, and ends a session that one does not know; nobody ends
// a colleague's.
func TestSessionsAreListedAndEnded(t *testing.T) {
	w := newWorld(t)
	ctx := studioOrigin(context.Background())
	phone, err := w.svc.House.SignIn(ctx, house.Credentials{Email: "maud@demo.example", Password: "demo palms 2"}, "198.51.100.7")
	require.NoError(t, err)
	here, err := w.in(t, "maud@demo.example", "demo palms 2", "")
	require.NoError(t, err)
	list, err := w.svc.House.Sessions(ctx, here)
	require.NoError(t, err)
	require.Len(t, list, 2)
	for _, l := range list {
		assert.Equal(t, l.ID == here.Session.ID, l.Here)
		if l.ID == phone.Session.ID {
			assert.Equal(t, "198.51.100.7", l.Address)
			assert.Equal(t, "A phone", l.Agent)
		}
	}
	require.ErrorIs(t, w.svc.House.EndSession(ctx, &w.owner, phone.Session.ID), studio.ErrNotFound)
	require.NoError(t, w.svc.House.EndSession(ctx, &here.Actor, phone.Session.ID))
	_, err = w.svc.House.Session(ctx, phone.Token)
	require.ErrorIs(t, err, studio.ErrNotFound)

	log, err := w.svc.House.AuditLog(ctx, &w.owner, time.Time{})
	require.NoError(t, err)
	assert.Equal(t, "end session", log[0].Action)
	assert.Equal(t, "198.51.100.7", log[0].Address)
	assert.Equal(t, "request 1", log[0].Request)
	_, err = w.in(t, "maud@demo.example", "wrong", "")
	require.ErrorIs(t, err, studio.ErrSignIn)
	log, err = w.svc.House.AuditLog(ctx, &w.owner, time.Time{})
	require.NoError(t, err)
	assert.Equal(t, "fail to sign in", log[0].Action)
	assert.Equal(t, "Maud Ferrant", log[0].Client)
}

func studioOrigin(ctx context.Context) context.Context {
	return context.WithValue(ctx, studio.OriginKey, studio.Origin{Address: "198.51.100.7", Request: "request 1", Agent: "A phone"})
}
