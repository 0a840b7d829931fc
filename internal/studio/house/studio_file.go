package house

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/evaluation"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
	"softpalm/internal/problem"
	"softpalm/internal/studio"
	"softpalm/words"
)

// equipmentStore adds who works where.
type equipmentStore interface {
	studio.Tx
	Practitioners(ctx context.Context) ([]studio.Person, error) // by name
	AddPractitioner(ctx context.Context, p *studio.Person) error
	Rooms(ctx context.Context) ([]studio.Room, error) // by name
	AddRoom(ctx context.Context, r *studio.Room) error
}

// shelfStore adds what is on the shelf and in the library.
type shelfStore interface {
	studio.LibraryStore
	AddStroke(ctx context.Context, s *stroke.Stroke) error
	AddTool(ctx context.Context, t *protocol.Tool) error
	SaveZone(ctx context.Context, z *anatomy.OwnZone) error
	AddProduct(ctx context.Context, p *studio.Product) error
	studio.DeliveryStore
}

// visitStore adds protocols, clients and their appointments.
type visitStore interface {
	Protocols(ctx context.Context, account uuid.UUID) ([]studio.ProtocolLine, error)
	AddProtocol(ctx context.Context, id uuid.UUID, key string, at time.Time) error
	AddVersion(ctx context.Context, id uuid.UUID, number int, body *protocol.Protocol, at time.Time, by *uuid.UUID) error
	AddClient(ctx context.Context, c *studio.Client) error
	AddVisit(ctx context.Context, v *studio.Visit) error
	AddVisitChange(ctx context.Context, visit uuid.UUID, state studio.VisitState, account *uuid.UUID, at time.Time) error
	AddTreatment(ctx context.Context, t *studio.Treatment) error
}

// fileStore is what a studio file is read into.
type fileStore interface {
	equipmentStore
	shelfStore
	visitStore
	healthStore
	diaryStore
}

// newStudioStore makes a studio.
type newStudioStore interface {
	fileStore
	AddStudio(ctx context.Context, s *studio.Studio, at time.Time) error
	AddAccount(ctx context.Context, a *studio.Account) error
	// FirstStudio reports whether there is a studio already, and lets nobody else make one
	// until the transaction ends.
	FirstStudio(ctx context.Context) (bool, error)
	AddDemoSignIn(ctx context.Context, d studio.DemoSignIn) error
}

// Import adds a bundle to the actor's studio. Everything is added or nothing;
// dry rehearses it and adds nothing. The bundle's studio and accounts are not
// read: those belong to making a studio.
func (s *Service) Import(ctx context.Context, a *studio.Actor, b *Bundle, dry bool) (*Counts, error) {
	if err := a.May("import-studio"); err != nil {
		return nil, err
	}
	var c *Counts
	err := studio.In(ctx, s.Kernel, a, func(tx fileStore, st *studio.Studio) error {
		im, err := s.importInto(ctx, tx, st, b)
		if err != nil {
			return err
		}
		c = &im.counts
		if dry {
			return studio.ErrRehearsal
		}
		return s.Audit(ctx, tx, a, "import", "studio", st.ID)
	})
	if errors.Is(err, studio.ErrRehearsal) {
		err = nil
	}
	return c, err
}

// CreateStudio makes a studio of a bundle, with its accounts. demo names the
// accounts on the sign-in page.
func (s *Service) CreateStudio(ctx context.Context, b *Bundle, demo bool) (*Counts, error) {
	return s.createStudio(ctx, b, demo, func(newStudioStore) error { return nil })
}

// createStudio makes a studio of a bundle, where may allows it.
func (s *Service) createStudio(
	ctx context.Context,
	b *Bundle,
	demo bool,
	may func(newStudioStore) error,
) (*Counts, error) {
	if b.Studio == nil || len(b.Accounts) == 0 {
		return nil, studio.FaultAt("/studio", words.NewStudioNeedsItsNameTimeZone())
	}
	if _, err := time.LoadLocation(b.Studio.TimeZone); err != nil || b.Studio.TimeZone == "" {
		return nil, studio.FaultAt("/studio/timeZone", words.ThereIsNoTimeZoneTimeZone(b.Studio.TimeZone))
	}
	tax := studio.Tax{}
	if b.Studio.Tax != nil {
		tax = *b.Studio.Tax
	}
	costs := studio.Costs{}
	if b.Studio.Costs != nil {
		costs = *b.Studio.Costs
	}
	if err := errors.Join(tax.Check(), costs.Check()); err != nil {
		return nil, err
	}
	st := &studio.Studio{
		ID:       studio.NewID(),
		Name:     b.Studio.Name,
		TimeZone: b.Studio.TimeZone,
		Currency: b.Studio.Currency,
		Open:     b.Studio.Open,
		IsDemo:   demo,
		Address:  b.Studio.Address,
		Tax:      tax,
		Costs:    costs,
		Books:    studio.UsualBookRules(),
	}
	if err := s.closures(st, b.Studio.Closures); err != nil {
		return nil, err
	}
	var c *Counts
	err := studio.Within(ctx, s.Kernel, st.ID, func(tx newStudioStore) (err error) {
		if err := may(tx); err != nil {
			return err
		}
		if err := tx.AddStudio(ctx, st, s.Now()); err != nil {
			return err
		}
		im, err := s.importInto(ctx, tx, st, b)
		if err != nil {
			return err
		}
		c = &im.counts
		if err := addAccounts(ctx, tx, b.Accounts, demo); err != nil {
			return err
		}
		return im.addBooks(ctx, b) // in an owner's name, who is there now
	})
	return c, err
}

// addAccounts adds a new studio's accounts. demo names them on the sign-in page.
func addAccounts(ctx context.Context, tx newStudioStore, accounts []BundleAccount, demo bool) error {
	people, err := tx.Practitioners(ctx)
	if err != nil {
		return err
	}
	for i, acc := range accounts {
		hash, err := HashPassword(acc.Password)
		if err != nil {
			return err
		}
		row := &studio.Account{
			ID:           studio.NewID(),
			Email:        strings.ToLower(acc.Email),
			Name:         acc.Name,
			Role:         acc.Role,
			PasswordHash: hash,
		}
		for _, p := range people {
			if p.Key == acc.Practitioner {
				row.Practitioner = &p.ID
			}
		}
		if err := tx.AddAccount(ctx, row); errors.Is(err, studio.ErrExists) {
			return studio.FaultAt(fmt.Sprintf("/accounts/%d/email", i), words.AnotherAccountUsesEmailAlready(acc.Email))
		} else if err != nil {
			return err
		}
		if demo {
			if err := tx.AddDemoSignIn(
				ctx,
				studio.DemoSignIn{Email: acc.Email, Password: acc.Password, Role: string(acc.Role), Name: acc.Name},
			); err != nil {
				return err
			}
		}
	}
	return nil
}

var relativeDay = regexp.MustCompile(`^today(?:([+-])(\d{1,4}))?$`)

// day reads a day of a bundle; ok is false where it is none.
func bundleDay(text string, today time.Time) (string, bool) {
	if m := relativeDay.FindStringSubmatch(text); m != nil {
		n := 0
		if m[2] != "" {
			n, _ = strconv.Atoi(m[2])
		}
		if m[1] == "-" {
			n = -n
		}
		return today.AddDate(0, 0, n).Format(time.DateOnly), true
	}
	_, err := time.Parse(time.DateOnly, text)
	return text, err == nil
}

// importer carries the names a bundle's things know each other by.
type importer struct {
	s       *Service
	tx      fileStore
	st      *studio.Studio
	now     time.Time
	counts  Counts
	faults  []problem.Fault
	lib     studio.Library
	people  map[string]uuid.UUID
	rooms   map[string]uuid.UUID
	clients map[string]uuid.UUID
	plans   map[string]plan
	series  map[string]uuid.UUID
}

type plan struct {
	id      uuid.UUID
	version int
	body    protocol.Protocol
}

func (im *importer) fault(path string, s words.Sentence) {
	im.faults = append(im.faults, problem.Fault{Path: path, Sentence: s})
}

// beyond notes what is outside the bounds.
func (im *importer) beyond(err error) {
	var input *studio.InputError
	if errors.As(err, &input) {
		im.faults = append(im.faults, input.Problems...)
	}
}

// stop returns the faults found so far as an error.
func (im *importer) stop() error {
	if len(im.faults) > 0 {
		return &studio.InputError{Problems: im.faults}
	}
	return nil
}

func (s *Service) importInto(ctx context.Context, tx fileStore, st *studio.Studio, b *Bundle) (*importer, error) {
	im := &importer{
		s:       s,
		tx:      tx,
		st:      st,
		now:     s.Now(),
		people:  map[string]uuid.UUID{},
		rooms:   map[string]uuid.UUID{},
		clients: map[string]uuid.UUID{},
		plans:   map[string]plan{},
		series:  map[string]uuid.UUID{},
	}
	steps := []func(context.Context, *Bundle) error{
		im.whatIsThere, im.addPlaces, im.addShelf, im.addLibrary, im.addProtocols, im.addClients, im.addRosters, im.addSeries, im.addVisits,
		im.addWaiting, im.addHealth,
	}
	for _, step := range steps {
		if err := step(ctx, b); err != nil {
			return nil, err
		}
		if err := im.stop(); err != nil {
			return nil, err
		}
	}
	return im, nil
}

func (im *importer) whatIsThere(ctx context.Context, _ *Bundle) error {
	lib, err := studio.ReadLibrary(ctx, im.tx)
	if err != nil {
		return err
	}
	im.lib = lib.Growing()
	people, err := im.tx.Practitioners(ctx)
	if err != nil {
		return err
	}
	for _, p := range people {
		im.people[p.Key] = p.ID
	}
	rooms, err := im.tx.Rooms(ctx)
	if err != nil {
		return err
	}
	for _, r := range rooms {
		im.rooms[r.Key] = r.ID
	}
	list, err := im.tx.Protocols(ctx, uuid.Nil)
	if err != nil {
		return err
	}
	for _, p := range list {
		im.plans[p.Key] = plan{p.ID, p.Version, p.Body}
	}
	return nil
}

func (im *importer) addPlaces(ctx context.Context, b *Bundle) error {
	for i, p := range b.Practitioners {
		at := fmt.Sprintf("/practitioners/%d", i)
		if _, there := im.people[p.Key]; there {
			im.fault(at+"/key", words.TherePractitionerWithKeyKeyAlready(p.Key))
			continue
		}
		if err := p.Week.Validate(); err != nil {
			im.fault(at+"/week", studio.SentenceOf(err))
			continue
		}
		id := studio.NewID()
		im.people[p.Key] = id
		if err := im.tx.AddPractitioner(ctx, &studio.Person{ID: id, Key: p.Key, Name: p.Name, Week: p.Week}); err != nil {
			return err
		}
		im.counts.Practitioners++
	}
	for i, r := range b.Rooms {
		if _, there := im.rooms[r.Key]; there {
			im.fault(fmt.Sprintf("/rooms/%d/key", i), words.ThereRoomWithKeyKeyAlready(r.Key))
			continue
		}
		id := studio.NewID()
		im.rooms[r.Key] = id
		if err := im.tx.AddRoom(ctx, &studio.Room{ID: id, Key: r.Key, Name: r.Name, Equipment: r.Equipment, Places: r.Places}); err != nil {
			return err
		}
		im.counts.Rooms++
	}
	return nil
}

func (im *importer) addShelf(ctx context.Context, b *Bundle) error {
	there := im.lib.Context()
	for i, t := range b.Tools {
		if there.Tools[t.Key].Name != "" {
			im.fault(fmt.Sprintf("/tools/%d/key", i), words.ThereToolWithKeyKeyAlready(t.Key))
			continue
		}
		there.Tools[t.Key] = t
		im.lib.Tools = append(im.lib.Tools, t)
		if err := im.tx.AddTool(ctx, &t); err != nil {
			return err
		}
		im.counts.Tools++
	}
	for i, bp := range b.Products {
		at := fmt.Sprintf("/products/%d", i)
		if there.Products[bp.Key] != nil {
			im.fault(at+"/key", words.ThereProductWithKeyKeyAlready(bp.Key))
			continue
		}
		if bp.GTIN != "" && slices.ContainsFunc(im.lib.Products, func(p studio.Product) bool { return p.GTIN == bp.GTIN }) {
			im.fault(at+"/gtin", words.AnotherProductHasThisBarcode())
			continue
		}
		p := studio.Product{
			ID:        studio.NewID(),
			Unit:      bp.Unit,
			PackSize:  decimal.NewFromFloat(bp.PackSize),
			Price:     amount(bp.Price),
			ReorderAt: decimal.NewFromFloat(bp.ReorderAt),
			Supply: studio.Supply{
				Use: bp.Use, Place: bp.Place, Supplier: bp.Supplier, Article: bp.Article, GTIN: bp.GTIN,
				LeadDays: bp.LeadDays, MinPacks: bp.MinPacks, PerVisit: bp.PerVisit, PerProtocol: bp.PerProtocol,
			},
			Product: slip.Product{
				Key:         bp.Key,
				Name:        bp.Name,
				Form:        bp.Form,
				FullDose:    bp.FullDose,
				RangeMin:    bp.RangeMin,
				RangeMax:    bp.RangeMax,
				DropsPerML:  bp.DropsPerML,
				MLPerPump:   bp.MLPerPress,
				Density:     bp.Density,
				HalfLife:    bp.HalfLife,
				Tags:        bp.Tags,
				Unsuited:    bp.Unsuited,
				Ingredients: bp.Ingredients,
			},
		}
		there.Products[bp.Key] = &p.Product
		im.lib.Products = append(im.lib.Products, p)
		if bp.Tare != "" {
			tare := amount(bp.Tare)
			p.Tare = &tare
		}
		p.Usual()
		if err := im.tx.AddProduct(ctx, &p); err != nil {
			return err
		}
		im.counts.Products++
		for j, bl := range bp.Lots {
			if err := im.addLot(ctx, p.ID, &bl, fmt.Sprintf("%s/lots/%d", at, j)); err != nil {
				return err
			}
		}
	}
	return nil
}

func (im *importer) addLot(ctx context.Context, product uuid.UUID, bl *BundleLot, at string) error {
	today := im.now.In(im.st.Zone())
	n := studio.NewDelivery{
		Product: product, Number: bl.Number, MonthsOpen: bl.MonthsOpen, Packs: max(bl.Packs, 1), Side: cmp.Or(bl.Side, studio.CabinSide), Minor: im.st.Minor(),
	}
	for _, d := range []struct {
		field, text string
		into        *string
	}{{"expiry", bl.Expiry, &n.Expiry}, {"received", bl.Received, &n.Received}, {"opened", bl.Opened, &n.Opened}} {
		day, ok := bundleDay(d.text, today)
		if !ok && d.text != "" {
			im.fault(at+"/"+d.field, words.TextNotDayWrite20261124(d.text))
		}
		if err := studio.CheckDay(at+"/"+d.field, day); ok && err != nil {
			im.beyond(err)
		}
		*d.into = day
	}
	n.PackSize = amount(bl.Amount).DivRound(decimal.NewFromInt(int64(n.Packs)), 3)
	n.Cost = amount(bl.UnitCost).Mul(amount(bl.Amount)).Round(n.Minor)
	im.beyond(studio.CheckAmount(at+"/amount", amount(bl.Amount)))
	im.beyond(studio.CheckMoney(at+"/unitCost", n.Cost))
	if !n.PackSize.IsPositive() {
		im.fault(at+"/amount", words.EnterTheAmountReceivedAbove0())
	}
	if _, err := im.tx.LotNumbered(ctx, product, bl.Number); err == nil {
		im.fault(at+"/number", words.LotNumberStandsHereTwice(bl.Number))
	} else if !errors.Is(err, studio.ErrNotFound) {
		return err
	}
	if len(im.faults) > 0 {
		return nil
	}
	received, _ := time.ParseInLocation(time.DateOnly, n.Received, im.st.Zone())
	im.counts.Lots++
	_, err := studio.TakeIn(ctx, im.tx, &n, nil, received.Add(8*time.Hour))
	return err
}

// amount reads a decimal that the schema has checked.
func amount(s string) decimal.Decimal {
	d, err := decimal.NewFromString(s)
	if err != nil {
		return decimal.Zero
	}
	return d
}

// addZones adds zones of the studio's own.
func (im *importer) addZones(ctx context.Context, b *Bundle) error {
	for i := range b.Zones {
		z, at := &b.Zones[i], fmt.Sprintf("/zones/%d", i)
		switch {
		case slices.ContainsFunc(im.lib.Zones, func(own anatomy.OwnZone) bool { return own.Key == z.Key }):
			im.fault(at+"/key", words.ThereIsZoneNamed(z.Key))
			continue
		case len(im.lib.Zones) >= anatomy.OwnMost:
			im.fault(at, words.TooManyOwnZones(anatomy.OwnMost))
			continue
		}
		if ps := z.Validate(at); len(ps) > 0 {
			im.faults = append(im.faults, ps...)
			continue
		}
		im.lib.Zones = append(im.lib.Zones, *z)
		if err := im.tx.SaveZone(ctx, z); err != nil {
			return err
		}
	}
	return nil
}

func (im *importer) addLibrary(ctx context.Context, b *Bundle) error {
	if err := im.addZones(ctx, b); err != nil {
		return err
	}
	there := im.lib.Context()
	for i := range b.Strokes {
		st := &b.Strokes[i]
		at := fmt.Sprintf("/strokes/%d", i)
		if there.Strokes[st.Key] != nil {
			im.fault(at+"/key", words.ThereStrokeWithKeyKeyAlready(st.Key))
			continue
		}
		if st.Tool != nil && there.Tools[st.Tool.Key].Name == "" {
			im.fault(at+"/tool/key", words.ThereIsNoToolTool(st.Tool.Key))
		}
		if ps := st.Validate(at); len(ps) > 0 {
			im.faults = append(im.faults, ps...)
			continue
		}
		there.Strokes[st.Key] = st
		im.lib.Strokes = append(im.lib.Strokes, *st)
		if err := im.tx.AddStroke(ctx, st); err != nil {
			return err
		}
		im.counts.Strokes++
	}
	return nil
}

func (im *importer) addProtocols(ctx context.Context, b *Bundle) error {
	cx := im.lib.Context()
	for i := range b.Protocols {
		p := b.Protocols[i].Renamed(stroke.Joined(cx.Strokes))
		at := fmt.Sprintf("/protocols/%d", i)
		if _, there := im.plans[p.Key]; there {
			im.fault(at+"/key", words.ThereProtocolWithKeyKeyAlready(p.Key))
			continue
		}
		if ps := p.Validate(cx, at); len(ps) > 0 {
			im.faults = append(im.faults, ps...)
			continue
		}
		if e := evaluation.Evaluate(p, cx); e.Worst() == evaluation.Stopping {
			im.fault(
				at,
				words.NameBreaksAbsoluteLimitCodeStepSteps(p.Name, e.Findings[0].Code, strings.Join(e.Findings[0].Steps, ", ")),
			)
			continue
		}
		id := studio.NewID()
		im.plans[p.Key] = plan{id, 1, *p}
		if err := im.tx.AddProtocol(ctx, id, p.Key, im.now); err != nil {
			return err
		}
		if err := im.tx.AddVersion(ctx, id, 1, p, im.now, nil); err != nil {
			return err
		}
		im.counts.Protocols++
	}
	return nil
}

func (im *importer) addClients(ctx context.Context, b *Bundle) error {
	today := im.now.In(im.st.Zone()).Format(time.DateOnly)
	for i, bc := range b.Clients {
		at := fmt.Sprintf("/clients/%d", i)
		if _, there := im.clients[bc.Key]; there {
			im.fault(at+"/key", words.TheKeyKeyStandsHereTwice(bc.Key))
			continue
		}
		c := &studio.Client{
			ID:        studio.NewID(),
			CreatedAt: im.now,
			ClientFields: studio.ClientFields{
				Name:       bc.Name,
				Email:      bc.Email,
				Phone:      bc.Phone,
				BirthDate:  bc.BirthDate,
				SkinType:   bc.SkinType,
				SkinStates: bc.SkinStates,
				Phototype:  bc.Phototype,
				Note:       bc.Note,
			},
		}
		if c.SkinStates == nil {
			c.SkinStates = []string{}
		}
		var bad *studio.InputError
		if err := studio.CheckClient(&c.ClientFields, today); errors.As(err, &bad) {
			im.fault(at+bad.Problems[0].Path, bad.Problems[0].Sentence)
			continue
		}
		im.clients[bc.Key] = c.ID
		if err := im.tx.AddClient(ctx, c); err != nil {
			return err
		}
		im.counts.Clients++
	}
	return nil
}
