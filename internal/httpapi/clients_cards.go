package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"softpalm/internal/studio/clients"
)

// cardFile is a file of contacts.
type cardFile struct {
	ContentType string `header:"Content-Type"`
	Disposition string `header:"Content-Disposition"`
	Cache       string `header:"Cache-Control"`
	Body        []byte
}

// registerCards adds contacts as files for address books, out and in.
func (h *handlers) registerCards(api huma.API) {
	huma.Register(api, closed("export-cards", http.MethodGet, "/api/cards", "All clients, or one, as contacts for an address book"),
		func(ctx context.Context, in *struct {
			Client string `query:"client" maxLength:"36"`
		}) (*cardFile, error) {
			list, err := h.rooms.Clients.Cards(ctx, actor(ctx), optionalID(in.Client))
			if err != nil {
				return nil, answer(err)
			}
			data, err := h.cfg.Files.WriteCards(list, h.rooms.Now())
			if err != nil {
				return nil, answer(err)
			}
			return &cardFile{"text/vcard; charset=utf-8", `attachment; filename="contacts.vcf"`, "no-store", data}, nil
		})
	bring := closed("import-cards", http.MethodPost, "/api/cards", "Take over contacts of a file; dry only shows what would happen")
	bring.MaxBodyBytes = BodyLimitBytes
	huma.Register(api, bring, func(ctx context.Context, in *struct{ Body clients.CardImport }) (*body[[]clients.CardLine], error) {
		list, err := h.rooms.Clients.ImportCards(ctx, actor(ctx), in.Body)
		return reply(list, err)
	})
}
