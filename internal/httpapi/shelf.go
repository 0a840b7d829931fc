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
	Product    ProductView     `json:"product"`
	Left       decimal.Decimal `json:"left"`
	Blocked    decimal.Decimal `json:"blocked"`
	PackSize   decimal.Decimal `json:"packSize"`
	Usual      decimal.Decimal `json:"usual"`
	Treatments int             `json:"treatments"`
	Order      bool            `json:"order"`
	// RunOut is the day on which the booked diary takes more than there is, nil where it lasts; Short by how
	// much over the days looked ahead, Demand all that they take; Unused what expires before it is used.
	RunOut *string         `json:"runOut,omitempty"`
	Short  decimal.Decimal `json:"short"`
	Demand decimal.Decimal `json:"demand"`
	Days   int             `json:"days"`
	Unused []shelf.Unused  `json:"unused"`
	Lots   []LotView       `json:"lots"`
}

// LotView is a lot on the shelf.
type LotView struct {
	ID        uuid.UUID       `json:"id"`
	Number    string          `json:"number"`
	Expiry    string          `json:"expiry"`
	Opened    string          `json:"opened"`
	GoodUntil string          `json:"goodUntil"`
	Received  string          `json:"received"`
	UnitCost  decimal.Decimal `json:"unitCost"`
	Left      decimal.Decimal `json:"left"`
	Usable    bool            `json:"usable"`
}

func (h *handlers) registerShelf(api huma.API) {
	huma.Register(
		api,
		closed("get-shelf", http.MethodGet, "/api/shelf", "What is on the shelf"),
		func(ctx context.Context, _ *struct{}) (*body[[]ShelfLineView], error) {
			in := signedIn(ctx)
			list, err := h.rooms.Shelf.Shelf(ctx, &in.Actor)
			today := h.rooms.Now().In(in.Studio.Zone()).Format(time.DateOnly)
			out := make([]ShelfLineView, len(list))
			for i := range list {
				l := &list[i]
				out[i] = ShelfLineView{
					Product:    productView(&l.Product),
					Left:       l.Remaining,
					Blocked:    l.Blocked,
					PackSize:   l.Product.PackSize,
					Usual:      l.Usual,
					Treatments: l.Treatments,
					Order:      l.Order,
					RunOut:     l.Forecast.RunOut,
					Short:      l.Forecast.Short,
					Demand:     l.Forecast.Demand,
					Days:       shelfroom.Horizon,
					Unused:     l.Forecast.Unused,
					Lots:       []LotView{},
				}
				for _, lot := range l.Lots {
					out[i].Lots = append(out[i].Lots, LotView{
						ID:        lot.UUID,
						Number:    lot.Number,
						Expiry:    lot.Expiry,
						Opened:    lot.Opened,
						GoodUntil: lot.UseBy(),
						Received:  lot.Received,
						UnitCost:  lot.UnitCost,
						Left:      lot.Remaining,
						Usable:    lot.Usable(today),
					})
				}
			}
			return reply(out, err)
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

func (h *handlers) registerLots(api huma.API) {
	huma.Register(
		api,
		closed("receive-lot", http.MethodPost, "/api/lots", "Receive a delivery"),
		func(ctx context.Context, in *struct {
			Body struct {
				Product    uuid.UUID       `json:"product" format:"uuid"`
				Number     string          `json:"number" maxLength:"60"`
				Expiry     string          `json:"expiry" maxLength:"10"`
				MonthsOpen int             `json:"monthsOpen" minimum:"0" maximum:"60"`
				Amount     decimal.Decimal `json:"amount"`
				Cost       decimal.Decimal `json:"cost"`
			}
		}) (*nothing, error) {
			b := in.Body
			return nil, answer(
				h.rooms.Shelf.ReceiveLot(
					ctx,
					actor(ctx),
					shelfroom.NewLot{
						Product:    b.Product,
						Number:     b.Number,
						Expiry:     b.Expiry,
						MonthsOpen: b.MonthsOpen,
						Amount:     b.Amount,
						Cost:       b.Cost,
					},
				),
			)
		},
	)
	huma.Register(
		api,
		closed("correct-stock", http.MethodPost, "/api/lots/{id}/movements", "Correct a lot by a movement"),
		func(ctx context.Context, in *struct {
			ByID
			Body struct {
				Kind   shelf.Kind      `json:"kind" enum:"waste,tester,retail,stocktake,dispose,return"`
				Amount decimal.Decimal `json:"amount"`
				Note   string          `json:"note,omitempty" maxLength:"300"`
			}
		}) (*nothing, error) {
			return nil, answer(h.rooms.Shelf.CorrectStock(ctx, actor(ctx), in.ID, in.Body.Kind, in.Body.Amount, in.Body.Note))
		},
	)
	huma.Register(
		api,
		closed("add-product", http.MethodPost, "/api/products", "Add a product; its key is made from its name"),
		func(ctx context.Context, in *struct{ Body shelfroom.NewProduct }) (*body[IDView], error) {
			in.Body.Key = ""
			id, err := h.rooms.Shelf.AddProduct(ctx, actor(ctx), in.Body)
			return reply(IDView{id}, err)
		},
	)
}
