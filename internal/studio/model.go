package studio

import (
	"context"
	"time"

	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/adjusting"
	"softpalm/internal/craft/contraindication"
	"softpalm/internal/craft/patch"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/series"
	"softpalm/internal/craft/shelf"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
)

// Studio is the studio itself.
type Studio struct {
	ID       uuid.UUID
	Name     string
	TimeZone string
	Currency string
	Open     series.Week
	IsDemo   bool
	// Own are the studio's own days beside the shipped pack of cautions.
	Own OwnRules
}

// Zone returns the studio's time zone; UTC where it is not known to this machine.
func (s *Studio) Zone() *time.Location {
	if loc, err := time.LoadLocation(s.TimeZone); err == nil {
		return loc
	}
	return time.UTC
}

// Account is somebody who signs in.
type Account struct {
	ID           uuid.UUID
	Email        string
	Name         string
	Role         Role
	PasswordHash string
	// PINHash is empty until a PIN was chosen.
	PINHash      string
	Practitioner *uuid.UUID
}

// Session is one signed-in browser.
type Session struct {
	ID        uuid.UUID
	Account   uuid.UUID
	CSRF      string
	CreatedAt time.Time
	ExpiresAt time.Time
	// Locked while a client holds the tablet.
	Locked bool
}

// Person is a practitioner of the studio.
type Person struct {
	ID   uuid.UUID   `json:"id"`
	Key  string      `json:"key"`
	Name string      `json:"name"`
	Week series.Week `json:"-"`
}

// Room is a treatment room.
type Room struct {
	ID   uuid.UUID `json:"id"`
	Key  string    `json:"key"`
	Name string    `json:"name"`
}

// ClientFields are what is written about a client.
type ClientFields struct {
	Name       string   `json:"name" minLength:"1" maxLength:"120"`
	Email      string   `json:"email" maxLength:"200"`
	Phone      string   `json:"phone" maxLength:"60"`
	BirthDate  string   `json:"birthDate" maxLength:"10"`
	SkinType   string   `json:"skinType" enum:"dry,normal,combination,oily"`
	SkinStates []string `json:"skinStates" maxItems:"7"`
	Phototype  int      `json:"phototype" minimum:"0" maximum:"6"`
	Note       string   `json:"note" maxLength:"2000"`
}

// Client is a client of the studio.
type Client struct {
	ID uuid.UUID `json:"id"`
	ClientFields
	CreatedAt time.Time `json:"createdAt"`
}

// ClientLine is a client in a list.
type ClientLine struct {
	ID       uuid.UUID  `json:"id"`
	Name     string     `json:"name"`
	SkinType string     `json:"skinType"`
	States   []string   `json:"skinStates"`
	Last     *time.Time `json:"last,omitempty"`
	Next     *time.Time `json:"next,omitempty"`
	Visits   int        `json:"visits"`
}

// Product is a product on the shelf with what the core needs of it.
type Product struct {
	ID uuid.UUID
	slip.Product
	Unit      string
	PackSize  decimal.Decimal
	Price     decimal.Decimal
	ReorderAt decimal.Decimal
}

// Lot is a lot with its product.
type Lot struct {
	shelf.Lot
	UUID     uuid.UUID
	Product  uuid.UUID
	Received string
}

// Movement is one stock movement; only ever added.
type Movement struct {
	ID      uuid.UUID
	Lot     uuid.UUID
	Kind    shelf.Kind
	Amount  decimal.Decimal // in the product's unit; what leaves is negative
	Planned *decimal.Decimal
	Visit   *uuid.UUID
	Account *uuid.UUID
	Note    string
	At      time.Time
}

// ProtocolLine is a protocol in a list.
type ProtocolLine struct {
	ID          uuid.UUID
	Key         string
	Version     int // 0 before the first publishing
	Body        protocol.Protocol
	HasDraft    bool
	PublishedAt *time.Time
}

// VersionLine is one version of a protocol.
type VersionLine struct {
	Number      int       `json:"number"`
	PublishedAt time.Time `json:"publishedAt"`
	By          string    `json:"by"`
	Steps       int       `json:"steps"`
}

// Draft is somebody's draft of a protocol.
type Draft struct {
	Protocol uuid.UUID         `json:"protocol"`
	Revision int               `json:"revision"`
	BasedOn  int               `json:"basedOn"`
	Body     protocol.Protocol `json:"body"`
}

// VisitState is how far a visit has come.
type VisitState string

// The states of a visit.
const (
	Booked        VisitState = "booked"
	Confirmed     VisitState = "confirmed"
	Arrived       VisitState = "arrived"
	InRoom        VisitState = "in-room"
	Done          VisitState = "done"
	Cancelled     VisitState = "cancelled"
	LateCancelled VisitState = "late-cancelled"
	NoShow        VisitState = "no-show"
)

// VisitKind is what a visit is for.
type VisitKind string

// The kinds of visit.
const (
	ForTreatment VisitKind = "treatment"
	ForPatchTest VisitKind = "patch-test" // ten minutes, for some products
)

// Visit is a booked treatment, or a booked patch test.
type Visit struct {
	ID           uuid.UUID `json:"id"`
	Client       uuid.UUID `json:"client"`
	Practitioner uuid.UUID `json:"practitioner"`
	Room         uuid.UUID `json:"room"`
	// Protocol and Version are zero for a patch test, Products empty for a treatment.
	Protocol  uuid.UUID  `json:"protocol"`
	Version   int        `json:"version"`
	Kind      VisitKind  `json:"kind" enum:"treatment,patch-test"`
	Products  []string   `json:"products"`
	StartsAt  time.Time  `json:"startsAt"`
	EndsAt    time.Time  `json:"endsAt"`
	BusyUntil time.Time  `json:"busyUntil"`
	State     VisitState `json:"state"`
	CreatedAt time.Time  `json:"-"`
}

// VisitLine is a visit with the names a person reads.
type VisitLine struct {
	Visit
	ClientName       string `json:"clientName"`
	PractitionerName string `json:"practitionerName"`
	RoomName         string `json:"roomName"`
	ProtocolName     string `json:"protocolName"`
	// Checked is the headline of the door check made for this visit, if any.
	Checked string `json:"checked,omitempty"`
	// Outlook is the headline to expect, from what is known now, of a visit that is
	// still to come and not checked yet; NotBefore is the first day without a wait.
	Outlook   string `json:"outlook,omitempty"`
	NotBefore string `json:"notBefore,omitempty"`
	// PatchFirst are the names of the plan's products that need a patch test before
	// the visit, of one still to come.
	PatchFirst []string `json:"patchFirst,omitempty"`
}

// Screening is a door check as it was; never rewritten.
type Screening struct {
	ID          uuid.UUID                          `json:"id"`
	Client      uuid.UUID                          `json:"client"`
	Visit       *uuid.UUID                         `json:"visit,omitempty"`
	Day         string                             `json:"day"`
	Answers     map[string]contraindication.Answer `json:"answers"`
	About       About                              `json:"about"`
	Result      contraindication.Result            `json:"result"`
	PackVersion string                             `json:"packVersion"`
	Account     uuid.UUID                          `json:"-"`
	At          time.Time                          `json:"at"`
}

// Known is what is known of a client for judging a day: the newest reviewed
// consultation and door check (nil where there is none), answered letters and
// patch tests, newest first, and the keys of products used in closed records.
type Known struct {
	Client       Client
	Consultation *Consultation
	Screening    *Screening
	Letters      []Letter
	PatchTests   []PatchTest
	Used         []string
}

// Progress is where the room is within the plan.
type Progress struct {
	// Position in seconds of the plan at Since; it grows while Running.
	Position float64   `json:"position" minimum:"0" maximum:"86400"`
	Running  bool      `json:"running"`
	Since    time.Time `json:"since"`
	// Skipped are the steps left out in the room.
	Skipped []string `json:"skipped" maxItems:"200"`
}

// RecordUse is what was used of one product.
type RecordUse struct {
	Product string          `json:"product"`
	Name    string          `json:"name,omitempty"`
	Planned decimal.Decimal `json:"planned"`
	Real    decimal.Decimal `json:"real"`
	Unit    string          `json:"unit,omitempty"`
	// Lots the amount is (or was) taken from.
	Lots []RecordLot `json:"lots,omitempty"`
}

// RecordLot is an amount from one lot.
type RecordLot struct {
	Number string          `json:"number"`
	Amount decimal.Decimal `json:"amount"`
	Cost   decimal.Decimal `json:"cost"`
	Good   string          `json:"goodUntil"`
}

// Record is what was written about a treatment.
type Record struct {
	Note string      `json:"note"`
	Uses []RecordUse `json:"uses"`
}

// Treatment is a treatment as it is given and recorded.
type Treatment struct {
	Visit      uuid.UUID
	Screening  *uuid.UUID
	Plan       protocol.Protocol
	Changes    []adjusting.Change
	Overrules  []Overrule
	Hands      adjusting.Hands // the practitioner's own side, as it was said
	Progress   Progress
	Record     Record
	Cost       *decimal.Decimal
	StartedAt  time.Time
	FinishedAt *time.Time
	FinishedBy *uuid.UUID
}

// Audit is one line of the audit log.
type Audit struct {
	ID        uuid.UUID
	Account   uuid.UUID
	At        time.Time
	Action    string
	Subject   string
	SubjectID uuid.UUID
}

// Store keeps everything. InStudio runs fn in one transaction that sees one
// studio only.
type Store interface {
	InStudio(ctx context.Context, studio uuid.UUID, fn func(Tx) error) error
	FindSignIn(ctx context.Context, email string) (studio, account uuid.UUID, err error)
	FindSession(ctx context.Context, tokenHash []byte) (studio, session uuid.UUID, err error)
	FindConsultation(ctx context.Context, tokenHash []byte) (studio, consultation uuid.UUID, err error)
	DemoSignIns(ctx context.Context) ([]DemoSignIn, error)
	AddAttempt(ctx context.Context, subject string, at time.Time) error
	CountAttempts(ctx context.Context, subject string, since time.Time) (int, error)
	ClearAttempts(ctx context.Context, subject string, before time.Time) error
}

// DemoSignIn is a way into the demo, shown on the sign-in page.
type DemoSignIn struct {
	Email    string `json:"email"`
	Password string `json:"password"`
	Role     string `json:"role"`
	Name     string `json:"name"`
}

// Tx is what a use case may ask of the one studio's data. Lookups answer
// ErrNotFound; lists are in a stated order and never nil.
type Tx interface {
	Studio(ctx context.Context) (*Studio, error)
	AddStudio(ctx context.Context, s *Studio, at time.Time) error

	Account(ctx context.Context, id uuid.UUID) (*Account, error)
	AddAccount(ctx context.Context, a *Account) error
	AddDemoSignIn(ctx context.Context, d DemoSignIn) error
	Session(ctx context.Context, id uuid.UUID) (*Session, error)
	AddSession(ctx context.Context, s *Session, tokenHash []byte) error
	DropSession(ctx context.Context, id uuid.UUID) error
	LockSession(ctx context.Context, id uuid.UUID, locked bool) error
	SavePIN(ctx context.Context, account uuid.UUID, hash string) error

	Practitioners(ctx context.Context) ([]Person, error) // by name
	AddPractitioner(ctx context.Context, p *Person) error
	Rooms(ctx context.Context) ([]Room, error) // by name
	AddRoom(ctx context.Context, r *Room) error

	Clients(ctx context.Context, search, after string, limit int, now time.Time) ([]ClientLine, error) // by name
	Client(ctx context.Context, id uuid.UUID) (*Client, error)
	AddClient(ctx context.Context, c *Client) error
	UpdateClient(ctx context.Context, c *Client) error

	Strokes(ctx context.Context) ([]stroke.Stroke, error) // by key
	AddStroke(ctx context.Context, s *stroke.Stroke) error
	SaveStroke(ctx context.Context, s *stroke.Stroke) error // over one of the same key
	DropStroke(ctx context.Context, key string) error
	// StrokeUsers names the protocols that use a stroke: in somebody's draft, in the
	// newest version, or in one that a visit not over yet is booked with.
	StrokeUsers(ctx context.Context, key string) ([]string, error)
	Tools(ctx context.Context) ([]protocol.Tool, error) // by key
	AddTool(ctx context.Context, t *protocol.Tool) error

	Products(ctx context.Context) ([]Product, error) // by name
	AddProduct(ctx context.Context, p *Product) error
	SaveContents(ctx context.Context, product uuid.UUID, c Contents) error
	Lots(ctx context.Context) ([]Lot, error) // with what is left
	// LockLots keeps others from taking from the product's lots until the end of the transaction.
	LockLots(ctx context.Context, products []uuid.UUID) error
	AddLot(ctx context.Context, l *Lot) error
	AddMovement(ctx context.Context, m *Movement) error

	Protocols(ctx context.Context, account uuid.UUID) ([]ProtocolLine, error)
	AddProtocol(ctx context.Context, id uuid.UUID, key string, at time.Time) error
	Version(ctx context.Context, id uuid.UUID, number int) (*protocol.Protocol, error) // number 0: the newest
	NewestVersion(ctx context.Context, id uuid.UUID) (int, error)                      // 0 before the first
	Versions(ctx context.Context, id uuid.UUID) ([]VersionLine, error)                 // newest first
	AddVersion(ctx context.Context, id uuid.UUID, number int, body *protocol.Protocol, at time.Time, by *uuid.UUID) error
	Draft(ctx context.Context, id, account uuid.UUID) (*Draft, error)
	// SaveDraft writes the draft when its stored revision is the one before; it reports whether it did.
	SaveDraft(ctx context.Context, account uuid.UUID, d *Draft, at time.Time) (bool, error)
	DropDraft(ctx context.Context, id, account uuid.UUID) error

	Visits(ctx context.Context, from, to time.Time) ([]VisitLine, error) // by start
	ClientVisits(ctx context.Context, client uuid.UUID) ([]VisitLine, error)
	Visit(ctx context.Context, id uuid.UUID) (*VisitLine, error)
	AddVisit(ctx context.Context, v *Visit) error
	SetVisitState(ctx context.Context, id uuid.UUID, state VisitState) error
	MoveVisit(ctx context.Context, v *Visit) error
	AddVisitChange(ctx context.Context, visit uuid.UUID, state VisitState, account *uuid.UUID, at time.Time) error

	Screenings(ctx context.Context, client uuid.UUID) ([]Screening, error) // newest first
	AddScreening(ctx context.Context, s *Screening) error
	Consultations(ctx context.Context, client uuid.UUID) ([]Consultation, error) // reviewed ones first, newest first
	Consultation(ctx context.Context, id uuid.UUID) (*Consultation, error)       // locked until the end of the transaction
	AddConsultation(ctx context.Context, c *Consultation) error
	SaveConsultation(ctx context.Context, c *Consultation) error
	RegisterLink(ctx context.Context, tokenHash []byte, consultation uuid.UUID) error
	Letters(ctx context.Context, client uuid.UUID) ([]Letter, error) // newest first
	Letter(ctx context.Context, id uuid.UUID) (*Letter, error)
	AddLetter(ctx context.Context, l *Letter) error
	AnswerLetter(ctx context.Context, l *Letter) error
	AddScan(ctx context.Context, letter uuid.UUID, s *Scan, data []byte, account uuid.UUID) error
	Scan(ctx context.Context, id uuid.UUID) (kind string, data []byte, client uuid.UUID, err error)
	PatchTests(ctx context.Context, client uuid.UUID) ([]PatchTest, error) // newest first
	PatchTest(ctx context.Context, id uuid.UUID) (*PatchTest, error)
	AddPatchTest(ctx context.Context, p *PatchTest, product, account uuid.UUID) error
	AddReading(ctx context.Context, patch uuid.UUID, r patch.Reading, account uuid.UUID) error
	// Known gathers what is known of some clients, in a fixed number of queries.
	Known(ctx context.Context, clients []uuid.UUID) (map[uuid.UUID]*Known, error)
	VersionProducts(ctx context.Context, id uuid.UUID, number int) ([]string, error) // keys, each once
	Consents(ctx context.Context, client uuid.UUID) ([]Consent, error)               // newest first
	AddConsent(ctx context.Context, c *Consent) error
	SaveOwnRules(ctx context.Context, own OwnRules) error
	// EraseClient removes who a client is and all health data, for good.
	EraseClient(ctx context.Context, id uuid.UUID, at time.Time) error
	// WithdrawConsent returns whose consent it was; ErrNotFound where none stands.
	WithdrawConsent(ctx context.Context, id uuid.UUID, at time.Time) (client uuid.UUID, err error)

	Treatment(ctx context.Context, visit uuid.UUID) (*Treatment, error)
	AddTreatment(ctx context.Context, t *Treatment) error
	SaveProgress(ctx context.Context, visit uuid.UUID, p Progress) error
	SaveRecord(ctx context.Context, visit uuid.UUID, r Record) error
	FinishTreatment(ctx context.Context, t *Treatment) error

	AddAudit(ctx context.Context, a Audit) error
	AuditLog(ctx context.Context, before time.Time, limit int) ([]AuditLine, error) // newest first
}
