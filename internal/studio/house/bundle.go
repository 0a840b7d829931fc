package house

import (
	"softpalm/internal/craft/anatomy"
	"softpalm/internal/craft/protocol"
	"softpalm/internal/craft/series"
	"softpalm/internal/craft/slip"
	"softpalm/internal/craft/stroke"
	"softpalm/internal/studio"
)

// Bundle is a studio, or part of one, as a file. Things name each other by key.
// Days are written 2006-01-02, or "today", "today+7", "today-30".
type Bundle struct {
	Format        string              `json:"format" enum:"softpalm-studio"`
	Version       int                 `json:"version" enum:"1"`
	Studio        *BundleStudio       `json:"studio,omitempty"`
	Accounts      []BundleAccount     `json:"accounts,omitempty" maxItems:"100"`
	Practitioners []BundlePerson      `json:"practitioners,omitempty" maxItems:"100"`
	Rooms         []BundleRoom        `json:"rooms,omitempty" maxItems:"100"`
	Tools         []protocol.Tool     `json:"tools,omitempty" maxItems:"500"`
	Zones         []anatomy.OwnZone   `json:"zones,omitempty" maxItems:"24"`
	Products      []BundleProduct     `json:"products,omitempty" maxItems:"2000"`
	Strokes       []stroke.Stroke     `json:"strokes,omitempty" maxItems:"2000"`
	Protocols     []protocol.Protocol `json:"protocols,omitempty" maxItems:"500"`
	Clients       []BundleClient      `json:"clients,omitempty" maxItems:"20000"`
	Roster        []BundleShift       `json:"roster,omitempty" maxItems:"1000"`
	Absences      []BundleAbsence     `json:"absences,omitempty" maxItems:"2000"`
	Series        []BundleSeries      `json:"series,omitempty" maxItems:"5000"`
	Visits        []BundleVisit       `json:"visits,omitempty" maxItems:"50000"`
	Waiting       []BundleWaiter      `json:"waiting,omitempty" maxItems:"1000"`
	// Books are what happened to the studio's money, in its order; read only when a new studio is made.
	Books []BundleMoney `json:"books,omitempty" maxItems:"20000"`
}

// BundleStudio is the studio itself; read only when a new studio is made.
type BundleStudio struct {
	Name     string      `json:"name" minLength:"1" maxLength:"120"`
	Address  string      `json:"address,omitempty" maxLength:"500"`
	TimeZone string      `json:"timeZone" maxLength:"60"`
	Currency string      `json:"currency" pattern:"^[A-Z]{3}$"`
	Tax      *studio.Tax `json:"tax,omitempty"`
	// Costs are what an appointment costs beside its products and tools.
	Costs *studio.Costs `json:"costs,omitempty"`
	Open  series.Week   `json:"open"`
	// Closures are days on which the studio is closed beside its hours.
	Closures []BundleClosure `json:"closures,omitempty" maxItems:"100"`
}

// BundleClosure is a time of whole days on which the studio is closed, the last included.
type BundleClosure struct {
	From   string `json:"from" maxLength:"12"`
	To     string `json:"to" maxLength:"12"`
	Reason string `json:"reason" maxLength:"120"`
}

// BundleShift is a line of a practitioner's roster; of those that cover a day and name its
// weekday the last rules.
type BundleShift struct {
	Practitioner string            `json:"practitioner" maxLength:"60"`
	From         string            `json:"from" maxLength:"12"`
	To           string            `json:"to,omitempty" maxLength:"12"`
	Every        int               `json:"every,omitempty" minimum:"0" maximum:"52"`
	Days         series.WeekPieces `json:"days"`
	Note         string            `json:"note,omitempty" maxLength:"200"`
}

// BundleAbsence is when a practitioner is away, from the beginning of one day to the end of
// another.
type BundleAbsence struct {
	Practitioner string `json:"practitioner" maxLength:"60"`
	From         string `json:"from" maxLength:"12"`
	To           string `json:"to" maxLength:"12"`
	Note         string `json:"note,omitempty" maxLength:"200"`
}

// BundleSeries is a series of visits of one protocol; the visits that are booked name it.
type BundleSeries struct {
	Key      string             `json:"key" pattern:"^[a-z0-9]+(-[a-z0-9]+)*$"`
	Client   string             `json:"client" maxLength:"60"`
	Protocol string             `json:"protocol" maxLength:"60"`
	State    studio.SeriesState `json:"state" enum:"offered,running,paused,finished,broken-off"`
	Reason   string             `json:"reason,omitempty" maxLength:"500"`
	// Often, When and With are the words in which it was asked for.
	Often string `json:"often" maxLength:"200"`
	When  string `json:"when,omitempty" maxLength:"200"`
	With  string `json:"with,omitempty" maxLength:"120"`
}

// BundleWaiter is somebody on the waiting list.
type BundleWaiter struct {
	Client    string `json:"client" maxLength:"60"`
	Protocol  string `json:"protocol" maxLength:"60"`
	When      string `json:"when,omitempty" maxLength:"200"`
	With      string `json:"with,omitempty" maxLength:"120"`
	Notice    int    `json:"notice,omitempty" minimum:"0" maximum:"20160"`
	Displaced bool   `json:"displaced,omitempty"`
	Reason    string `json:"reason,omitempty" maxLength:"200"`
	Since     string `json:"since" maxLength:"12"`
}

// BundleAccount is a way in; read only when a new studio is made.
type BundleAccount struct {
	Email        string      `json:"email" minLength:"3" maxLength:"200"`
	Name         string      `json:"name" minLength:"1" maxLength:"120"`
	Role         studio.Role `json:"role" enum:"owner,practitioner,front-desk"`
	Password     string      `json:"password" minLength:"10" maxLength:"200"`
	Practitioner string      `json:"practitioner,omitempty" maxLength:"60"`
}

// BundlePerson is a practitioner.
type BundlePerson struct {
	Key  string      `json:"key" pattern:"^[a-z0-9]+(-[a-z0-9]+)*$"`
	Name string      `json:"name" minLength:"1" maxLength:"120"`
	Week series.Week `json:"week"`
}

// BundleRoom is a room.
type BundleRoom struct {
	Key  string `json:"key" pattern:"^[a-z0-9]+(-[a-z0-9]+)*$"`
	Name string `json:"name" minLength:"1" maxLength:"120"`
	// Equipment is what is in it.
	Equipment []string `json:"equipment,omitempty" maxItems:"20"`
	// Places is how many clients who come together it holds; 1 where absent.
	Places int `json:"places,omitempty" minimum:"1" maximum:"6"`
}

// BundleProduct is a product with its lots.
type BundleProduct struct {
	Key        string    `json:"key" pattern:"^[a-z0-9]+(-[a-z0-9]+)*$"`
	Name       string    `json:"name" minLength:"1" maxLength:"120"`
	Form       slip.Form `json:"form" enum:"oil,balm,moisturising-serum,massage-cream,cleansing-milk,day-cream,watery-serum,mist,mask,sun-cream,water,scent-oil,disposable"`
	Unit       string    `json:"unit" enum:"mL,g,pcs"`
	PackSize   float64   `json:"packSize" exclusiveMinimum:"0" maximum:"100000"`
	Price      string    `json:"price" pattern:"^[0-9]{1,7}(\\.[0-9]{1,2})?$"`
	FullDose   float64   `json:"fullDose" minimum:"0" maximum:"1000"`
	RangeMin   float64   `json:"rangeMin" minimum:"0" maximum:"1000"`
	RangeMax   float64   `json:"rangeMax" minimum:"0" maximum:"1000"`
	DropsPerML float64   `json:"dropsPerMl,omitempty" minimum:"0" maximum:"200"`
	MLPerPress float64   `json:"mlPerPress,omitempty" minimum:"0" maximum:"50"`
	Density    float64   `json:"density,omitempty" minimum:"0" maximum:"3"`
	HalfLife   float64   `json:"halfLife,omitempty" minimum:"0" maximum:"600"`
	Tags       []string  `json:"tags" maxItems:"40"`
	Unsuited   []string  `json:"unsuited,omitempty" maxItems:"20"`
	// Ingredients as the pack lists them, by INCI name.
	Ingredients []string `json:"ingredients,omitempty" maxItems:"200"`
	Use         string   `json:"use,omitempty" enum:"cabin,retail,both"`
	Place       string   `json:"place,omitempty" maxLength:"60"`
	Supplier    string   `json:"supplier,omitempty" maxLength:"120"`
	Article     string   `json:"articleNo,omitempty" maxLength:"60"`
	GTIN        string   `json:"gtin,omitempty" pattern:"^[0-9]{14}$"`
	LeadDays    int      `json:"leadDays,omitempty" minimum:"0" maximum:"365"`
	MinPacks    int      `json:"minPacks,omitempty" minimum:"0" maximum:"1000"`
	Tare        string   `json:"tare,omitempty" pattern:"^[0-9]{1,5}(\\.[0-9]{1,2})?$"`
	PerVisit    int      `json:"perVisit,omitempty" minimum:"0" maximum:"100"`
	// PerProtocol is how many more pieces some protocols take, by the protocol's key.
	PerProtocol map[string]int `json:"perProtocol,omitempty"`
	ReorderAt   float64        `json:"reorderAt,omitempty" minimum:"0" maximum:"100000"`
	Lots        []BundleLot    `json:"lots,omitempty" maxItems:"500"`
}

// BundleLot is one delivery of a lot, in one pack or several alike of which the first may be open.
type BundleLot struct {
	Number     string `json:"number" minLength:"1" maxLength:"60"`
	Expiry     string `json:"expiry" maxLength:"12"`
	Received   string `json:"received" maxLength:"12"`
	Opened     string `json:"opened,omitempty" maxLength:"12"`
	MonthsOpen int    `json:"monthsOpen,omitempty" minimum:"0" maximum:"60"`
	Amount     string `json:"amount" pattern:"^[0-9]{1,7}(\\.[0-9]{1,3})?$"`
	// Packs into which the amount is divided evenly; 1 where absent.
	Packs int `json:"packs,omitempty" minimum:"0" maximum:"500"`
	// Side of the shelf: cabin where absent.
	Side     string `json:"side,omitempty" enum:"cabin,retail,tester"`
	UnitCost string `json:"unitCost" pattern:"^[0-9]{1,7}(\\.[0-9]{1,6})?$"`
}

// BundleClient is a client.
type BundleClient struct {
	Key        string   `json:"key" pattern:"^[a-z0-9]+(-[a-z0-9]+)*$"`
	Name       string   `json:"name" minLength:"1" maxLength:"120"`
	Email      string   `json:"email,omitempty" maxLength:"200"`
	Phone      string   `json:"phone,omitempty" maxLength:"60"`
	BirthDate  string   `json:"birthDate,omitempty" maxLength:"10"`
	SkinType   string   `json:"skinType" enum:"dry,normal,combination,oily"`
	SkinStates []string `json:"skinStates,omitempty" maxItems:"7"`
	Phototype  int      `json:"phototype,omitempty" minimum:"0" maximum:"6"`
	Note       string   `json:"note,omitempty" maxLength:"2000"`
	// Health is what was kept of the client's health.
	Health *BundleHealth `json:"health,omitempty"`
}

// BundleVisit is a visit, past with its record or still to come.
type BundleVisit struct {
	Client       string            `json:"client" maxLength:"60"`
	Practitioner string            `json:"practitioner" maxLength:"60"`
	Room         string            `json:"room" maxLength:"60"`
	Protocol     string            `json:"protocol" maxLength:"60"`
	Day          string            `json:"day" maxLength:"12"`
	Time         string            `json:"time" pattern:"^[0-2][0-9]:[0-5][0-9]$"`
	State        studio.VisitState `json:"state" enum:"booked,confirmed,done,cancelled,late-cancelled,no-show,held"`
	// Series and Item say which treatment of which series it is.
	Series string        `json:"series,omitempty" maxLength:"60"`
	Item   int           `json:"item,omitempty" minimum:"0" maximum:"60"`
	Record *BundleRecord `json:"record,omitempty"`
}

// BundleRecord is what a past treatment used.
type BundleRecord struct {
	Note string      `json:"note,omitempty" maxLength:"8000"`
	Uses []BundleUse `json:"uses" maxItems:"50"`
}

// BundleUse is a product's planned and real amount in the product's unit.
type BundleUse struct {
	Product string `json:"product" maxLength:"60"`
	// How it was measured; as planned where absent.
	How     string `json:"how,omitempty" enum:"as planned,counted,weighed"`
	Planned string `json:"planned" pattern:"^[0-9]{1,5}(\\.[0-9]{1,3})?$"`
	Real    string `json:"real" pattern:"^[0-9]{1,5}(\\.[0-9]{1,3})?$"`
}

// Counts is what a bundle adds.
type Counts struct {
	Practitioners int `json:"practitioners"`
	Rooms         int `json:"rooms"`
	Tools         int `json:"tools"`
	Products      int `json:"products"`
	Lots          int `json:"lots"`
	Strokes       int `json:"strokes"`
	Protocols     int `json:"protocols"`
	Clients       int `json:"clients"`
	Visits        int `json:"visits"`
}
