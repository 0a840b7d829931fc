package postgres_test

import (
	"context"
	"encoding/json"
	"os"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"softpalm/internal/craft/contraindication"
	craftshelf "softpalm/internal/craft/shelf"
	"softpalm/internal/postgres"
	"softpalm/internal/rooms"
	"softpalm/internal/studio"
	"softpalm/internal/studio/books"
	shelfroom "softpalm/internal/studio/shelf"
)

// answers are what the screens of the studio are told, by name.
func (w *world) answers(t testing.TB, svc *rooms.Rooms) map[string]string {
	t.Helper()
	ctx, a := context.Background(), &w.owner
	out := map[string]string{}
	say := func(name string, v any, err error) {
		text, wrong := json.Marshal(v)
		require.NoError(t, wrong)
		if err != nil {
			text = []byte(err.Error())
		}
		out[name] = string(text)
	}
	day, err := svc.Diary.Day(ctx, a, "")
	say("day", day, err)
	tomorrow, err := svc.Diary.Day(ctx, a, w.now.Add(24*time.Hour).Format(time.DateOnly))
	say("tomorrow", tomorrow, err)
	week, err := svc.Diary.Week(ctx, a, "")
	say("week", week, err)
	inbox, err := svc.Checks.Inbox(ctx, a)
	say("inbox", inbox, err)
	shelf, err := svc.Shelf.Shelf(ctx, a)
	say("shelf", shelf, err)
	orders, err := svc.Shelf.OrderLists(ctx, a)
	say("order lists", orders, err)
	lists, err := svc.Shelf.DayLists(ctx, a)
	say("day lists", lists, err)
	tools, err := svc.Shelf.ToolRoom(ctx, a)
	say("tools", tools, err)
	menu, err := svc.Protocols.Menu(ctx, a)
	say("menu", menu, err)
	library, err := svc.Protocols.Library(ctx, a)
	say("library", library, err)
	plans, err := svc.Protocols.Protocols(ctx, a)
	say("protocols", plans, err)
	prices, err := svc.Books.PriceList(ctx, a)
	say("prices", prices, err)
	if len(plans) == 0 || day == nil || len(day.Visits) == 0 {
		return out
	}
	opened, err := svc.Protocols.OpenProtocol(ctx, a, plans[0].ID)
	say("workbench", opened, err)
	free, err := svc.Diary.FreeTimes(ctx, a, studio.FreeQuery{Protocol: plans[0].ID, Client: &day.Visits[0].Client, Days: 3})
	say("free times", free, err)
	questions, err := svc.Checks.QuestionsFor(ctx, a, day.Visits[0].Client)
	say("questions", questions, err)
	return out
}

// asFresh holds what the world's server answers, which keeps things, against a server that has only just started.
func (w *world) asFresh(t testing.TB, after string) {
	t.Helper()
	kept := w.answers(t, w.svc)
	db, err := postgres.Open(context.Background(), w.appURL)
	require.NoError(t, err)
	defer db.Close()
	fresh := w.answers(t, rooms.New(db, func() time.Time { return w.now }, "http://studio.example", nil))
	for name := range fresh {
		assert.Equal(t, fresh[name], kept[name], "%s after %s", name, after)
	}
}

// everyWorld compares them at the end of every test of the package; make test does not, it takes minutes.
var everyWorld = os.Getenv("COMPARE_WHAT_IS_KEPT") != ""

// Whatever is changed, the next answer is what a server that keeps nothing would give.
func TestWhatIsKeptIsNeverOutOfDate(t *testing.T) {
	w := newWorld(t)
	ctx := context.Background()
	w.asFresh(t, "the start")
	then := func(what string, err error) {
		t.Helper()
		require.NoError(t, err, what)
		w.asFresh(t, what)
	}
	plans, err := w.plans(ctx)
	require.NoError(t, err)
	v := w.first(t)
	then("a check", func() error {
		w.checked(t, v, map[string]contraindication.Answer{"cancer": {Yes: true}})
		return nil
	}())
	_, err = w.svc.Checks.WriteLetter(ctx, &w.owner, v.Client, &v.ID, "May it be given?", "")
	then("a letter", err)
	booked := w.again(t, w.client(t, "Rafael"), plans[1].ID, w.now.AddDate(0, 0, 1).Format(time.DateOnly))
	then("a booking", nil)
	_, err = w.svc.Diary.CancelByStudio(ctx, &w.owner, booked.ID, "asked to")
	then("a cancelled booking", err)
	oil := w.product(t, "Plum oil", "mL", nil)
	then("a product", nil)
	packs := w.receive(t, oil, "L1", "2027-06-30", 2, "100", "20")
	then("a delivery", nil)
	amount := dec("3")
	then("waste", w.svc.Shelf.MovePack(ctx, &w.owner, packs[0].ID, shelfroom.PackMove{Kind: craftshelf.Waste, Reason: "spilled", Amount: &amount}))
	then("a blocked lot", w.svc.Shelf.BlockLot(ctx, &w.owner, packs[0].LotID, "cloudy"))
	w.price(t, books.DatedPrice{Protocol: &plans[0].ID, Amount: dec("131")})
	then("a price", nil)
	opened, err := w.svc.Protocols.OpenProtocol(ctx, &w.owner, plans[0].ID)
	require.NoError(t, err)
	require.NotEmpty(t, opened.Draft.Body.Steps)
	then("a tool that is out", w.svc.Diary.AddToolOut(ctx, &w.owner, studio.ToolOut{
		ID: uuid.New(), Tool: "stone-plate", Pieces: 1, From: w.now.Format(time.DateOnly), To: w.now.Format(time.DateOnly), Reason: studio.ToolMended}))
	people := w.practitioners(t)
	_, err = w.svc.Diary.AddAbsence(ctx, &w.owner, studio.Absence{
		ID: uuid.New(), Practitioner: &people[0].ID, Start: w.now.Add(72 * time.Hour), End: w.now.Add(96 * time.Hour), Kind: studio.Away})
	then("an absence", err)
	settings, err := w.svc.House.Settings(ctx, &w.owner)
	require.NoError(t, err)
	settings.Settings.Name = "Another name"
	_, err = w.svc.House.ChangeSettings(ctx, &w.owner, settings.Revision, settings.Settings)
	then("other settings", err)
	w.forward(26 * time.Hour)
	then("a day later", nil)
	next := w.first(t)
	w.treated(t, next, nil)
	then("a treatment", nil)
	rule := contraindication.Rule{Title: "Ear tubes", Question: "Tubes in the ears?", Group: "Health", Stage: contraindication.Consultation,
		AnswerType: contraindication.YesNo, Why: "No water near.", Basis: "the studio's own",
		Outcomes: []contraindication.Outcome{{Kind: contraindication.Cap, Pressure: 1, Zones: []string{"below-ear"}}}}
	_, err = w.svc.Checks.SaveRule(ctx, &w.owner, rule, w.saving("", true))
	then("a rule of the studio's own", err)
}

// practitioners are those of the studio.
func (w *world) practitioners(t testing.TB) []studio.Person {
	t.Helper()
	day, err := w.svc.Diary.Day(context.Background(), &w.owner, "")
	require.NoError(t, err)
	return day.Practitioners
}
