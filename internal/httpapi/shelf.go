package httpapi

import (
	"context"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"
	"github.com/shopspring/decimal"

	"softpalm/internal/craft/shelf"
	"softpalm/internal/studio"
	shelfroom "softpalm/internal/studio/shelf"
)

// ProductView is a product as the screens show it.
type ProductView struct {
	ID uuid.UUID `json:"id"`
	// Revision is the one that a change of the contents is made on.
	Revision int      `json:"revision"`
	Key      string   `json:"key"`
	Name     string   `json:"name"`
	Form     string   `json:"form"`
	Unit     string   `json:"unit"`
	FullDose float64  `json:"fullDose"`
	RangeMin float64  `json:"rangeMin"`
	RangeMax float64  `json:"rangeMax"`
	Tags     []string `json:"tags"`
	Unsuited []string `json:"unsuited"`
	// Ingredients as the pack lists them, by INCI name.
	Ingredients []string `json:"ingredients"`
	// Carries lists all tags: those given, what they imply, what the ingredients bring.
	Carries []string `json:"carries"`
	// Measures in which the product can be dosed.
	Measures []string `json:"measures"`
}

func productView(p *studio.Product) ProductView {
	return ProductView{
		ID:          p.ID,
		Revision:    p.Revision,
		Key:         p.Key,
		Name:        p.Name,
		Form:        string(p.Form),
		Unit:        p.Unit,
		FullDose:    p.FullDose,
		RangeMin:    p.RangeMin,
		RangeMax:    p.RangeMax,
		Tags:        listed(p.Tags),
		Unsuited:    listed(p.Unsuited),
		Ingredients: listed(p.Ingredients),
		Carries:     p.AllTags(),
		Measures:    p.Measures(),
	}
}

// ShelfLineView is a product with what is left of it.
type ShelfLineView struct {
	Product ProductView `json:"product"`
	studio.Supply
	PackSize  decimal.Decimal `json:"packSize"`
	Price     decimal.Decimal `json:"price"`
	ReorderAt decimal.Decimal `json:"reorderAt"`
	Density   float64         `json:"density"`
	// Left may be used in the cabin, Open of it stands open, Blocked may not be used, Retail is for sale.
	Left    decimal.Decimal `json:"left"`
	Open    decimal.Decimal `json:"open"`
	Blocked decimal.Decimal `json:"blocked"`
	Retail  decimal.Decimal `json:"retail"`
	Value   decimal.Decimal `json:"value"`
	// Usual is what a treatment takes; Treatments how many are left, TreatmentsOpen of them in the open pack.
	Usual          decimal.Decimal `json:"usual"`
	Treatments     int             `json:"treatments"`
	TreatmentsOpen int             `json:"treatmentsOpen"`
	// RunOut is the day on which more is wanted than there is, nil where it lasts; Short by how much over
	// the days looked ahead, Demand all that they take; Unused what expires before it is used.
	RunOut *string         `json:"runOut,omitempty"`
	Short  decimal.Decimal `json:"short"`
	Demand decimal.Decimal `json:"demand"`
	Days   int             `json:"days"`
	// PerDay is the demand of each day to come, from today on.
	PerDay []decimal.Decimal `json:"perDay"`
	// Levels is what may still be used at the end of each of those days.
	Levels  []decimal.Decimal `json:"levels"`
	Unused  []shelf.Unused    `json:"unused"`
	Reorder shelfroom.Reorder `json:"reorder"`
	// Asks is what it wants done today, empty where it wants nothing; Leans says that it runs out before the next
	// delivery could be there.
	Asks  string     `json:"asks" enum:",short,clear,reorder,tester-past,last-day"`
	Leans bool       `json:"leans"`
	Packs []PackView `json:"packs"`
}

// PackView is a pack on the shelf.
type PackView struct {
	ID        uuid.UUID       `json:"id"`
	Lot       string          `json:"lot"`
	LotID     uuid.UUID       `json:"lotId"`
	Number    int             `json:"number"`
	Expiry    string          `json:"expiry"`
	Opened    string          `json:"opened"`
	GoodUntil string          `json:"goodUntil"`
	Received  string          `json:"received"`
	Size      decimal.Decimal `json:"size"`
	Left      decimal.Decimal `json:"left"`
	Side      string          `json:"side" enum:"cabin,retail,tester"`
	Usable    bool            `json:"usable"`
	// Blocked is why it may not be used, empty where nobody said so; Recalled packs never are.
	Blocked  string `json:"blocked"`
	Recalled bool   `json:"recalled"`
	Batch    bool   `json:"batch"`
	// FewDays is how many days it is still good, where they are few enough to say so when it is sold.
	FewDays *int `json:"fewDays,omitempty"`
}

func packView(p *studio.Pack, today string) PackView {
	text := func(s *string) string {
		if s == nil {
			return ""
		}
		return *s
	}
	return PackView{
		ID: p.ID, Lot: p.Lot, LotID: p.LotID, Number: p.Number, Expiry: text(p.Expiry), Opened: text(p.Opened), GoodUntil: p.Until(),
		Received: p.Received, Size: p.Size, Left: p.Left, Side: p.Side, Usable: p.Usable(today), Blocked: p.Why, Recalled: p.Recalled, Batch: p.Batch,
		FewDays: shelf.FewDays(p.Until(), today),
	}
}

func shelfLineView(l *shelfroom.ShelfLine, today string) (ShelfLineView, error) {
	v := ShelfLineView{
		Product: productView(&l.Product), Supply: l.Product.Supply, PackSize: l.Product.PackSize, Price: l.Product.Price,
		ReorderAt: l.Product.ReorderAt, Density: l.Product.Density,
		Left: l.Remaining, Open: l.Open, Blocked: l.Blocked, Retail: l.Retail, Value: l.Value,
		Usual: l.Usual, Treatments: l.Treatments, TreatmentsOpen: l.TreatmentsOpen,
		RunOut: l.Forecast.RunOut, Short: l.Forecast.Short, Demand: l.Forecast.Demand, Days: shelfroom.Horizon,
		PerDay: []decimal.Decimal{}, Levels: listed(l.Forecast.Levels), Unused: l.Forecast.Unused, Reorder: l.Reorder,
		Asks: l.Asks(today), Leans: l.Leans(), Packs: []PackView{},
	}
	for _, day := range l.Forecast.PerDay {
		need, err := decimal.NewFromString(day[1])
		if err != nil {
			return v, err
		}
		v.PerDay = append(v.PerDay, need)
	}
	for i := range l.Packs {
		v.Packs = append(v.Packs, packView(&l.Packs[i], today))
	}
	return v, nil
}

func (h *handlers) registerShelf(api huma.API) {
	huma.Register(
		api,
		closed("list-going-off", http.MethodGet, "/api/going-off", "What expires unused, what it is worth, and what would use it"),
		func(ctx context.Context, _ *struct{}) (*body[[]shelfroom.GoingOff], error) {
			return reply(h.rooms.Shelf.GoingOff(ctx, actor(ctx)))
		},
	)
	huma.Register(
		api,
		closed("get-shelf", http.MethodGet, "/api/shelf", "What is on the shelf"),
		func(ctx context.Context, _ *struct{}) (*body[[]ShelfLineView], error) {
			in := signedIn(ctx)
			list, err := h.rooms.Shelf.Shelf(ctx, &in.Actor)
			if err != nil {
				return nil, answer(err)
			}
			today := h.rooms.Now().In(in.Studio.Zone()).Format(time.DateOnly)
			out := make([]ShelfLineView, len(list))
			for i := range list {
				if out[i], err = shelfLineView(&list[i], today); err != nil {
					return nil, answer(err)
				}
			}
			return reply(out, nil)
		},
	)
	huma.Register(
		api,
		closed(
			"save-contents",
			http.MethodPut,
			"/api/products/{id}/contents",
			"What a product is made of and whom it is not for",
		),
		func(ctx context.Context, in *struct {
			ByID
			Body studio.RevisedContents
		}) (*nothing, error) {
			return nil, answer(h.rooms.Shelf.SaveContents(ctx, actor(ctx), in.ID, in.Body))
		},
	)
}

func (h *handlers) registerProducts(api huma.API) {
	huma.Register(
		api,
		closed("add-product", http.MethodPost, "/api/products", "Add a product; its key is made from its name"),
		func(ctx context.Context, in *struct{ Body shelfroom.NewProduct }) (*body[IDView], error) {
			in.Body.Key = ""
			id, err := h.rooms.Shelf.AddProduct(ctx, actor(ctx), in.Body)
			return reply(IDView{id}, err)
		},
	)
	huma.Register(
		api,
		closed("save-supply", http.MethodPut, "/api/products/{id}/supply", "How a product is bought and kept"),
		func(ctx context.Context, in *struct {
			ByID
			Body shelfroom.SupplyChange
		}) (*nothing, error) {
			return nil, answer(h.rooms.Shelf.SaveSupply(ctx, actor(ctx), in.ID, &in.Body))
		},
	)
	huma.Register(
		api,
		closed("calibrate", http.MethodPost, "/api/products/{id}/calibrations", "Work out what a drop, a press or a spatula holds"),
		func(ctx context.Context, in *struct {
			ByID
			Body shelfroom.NewCalibration
		}) (*body[*shelfroom.Weighed], error) {
			return reply(h.rooms.Shelf.Calibrate(ctx, actor(ctx), in.ID, &in.Body))
		},
	)
	huma.Register(
		api,
		closed("change-closure", http.MethodPost, "/api/products/{id}/closure", "Another closure was put on: what was weighed is asked for again"),
		func(ctx context.Context, in *ByID) (*nothing, error) {
			return nil, answer(h.rooms.Shelf.ChangeClosure(ctx, actor(ctx), in.ID))
		},
	)
	huma.Register(
		api,
		closed("get-learned", http.MethodGet, "/api/products/{id}/learned", "What records teach of a product"),
		func(ctx context.Context, in *ByID) (*body[*shelfroom.Learned], error) {
			return reply(h.rooms.Shelf.LearnedOf(ctx, actor(ctx), in.ID))
		},
	)
	huma.Register(
		api,
		closed("forget-learned", http.MethodDelete, "/api/products/{id}/learned/{kind}", "Start over what records teach"),
		func(ctx context.Context, in *struct {
			ByID
			Kind string `path:"kind" enum:"dose,half-life"`
		}) (*nothing, error) {
			return nil, answer(h.rooms.Shelf.Forget(ctx, actor(ctx), in.ID, in.Kind))
		},
	)
	huma.Register(
		api,
		closed("list-movements", http.MethodGet, "/api/products/{id}/movements", "The movements of a product, newest first"),
		func(ctx context.Context, in *struct {
			ByID
			Before time.Time `query:"before"`
		}) (*body[[]MovementView], error) {
			list, err := h.rooms.Shelf.Movements(ctx, actor(ctx), in.ID, in.Before)
			out := make([]MovementView, len(list))
			for i := range list {
				out[i] = movementView(&list[i])
			}
			return reply(out, err)
		},
	)
}
