package shelf

import (
	"cmp"
	"context"
	"slices"
	"time"

	"github.com/google/uuid"

	"softpalm/internal/craft/shelf"
	"softpalm/internal/studio"
	"softpalm/words"
)

// SellPacks takes whole sealed packs of a product for sale off the shelf, the first to expire first. What a client is
// to keep away from is sold only with a word of reason.
func (s *Service) SellPacks(ctx context.Context, within studio.Tx, st *studio.Studio, a *studio.Actor, sold studio.PacksSold) error {
	tx := studio.As[Store](within)
	today := sold.At.In(st.Zone()).Format(time.DateOnly)
	stock, err := studio.HoldStock(ctx, tx, []uuid.UUID{sold.Product}, today, &a.Account, sold.At)
	if err != nil {
		return err
	}
	note := studio.Movement{Note: sold.Note}
	if sold.Client != nil {
		move := PackMove{Client: sold.Client, Despite: sold.Despite}
		if err := s.askAtTheTill(ctx, tx, st, a, sold.Product, &move, &note); err != nil {
			return studio.AtPath(sold.Path, err)
		}
	}
	var packs []*studio.Pack
	for i := range stock.Packs {
		p := &stock.Packs[i]
		if p.Side == studio.RetailSide && p.Opened == nil && p.Left.Equal(p.Size) && p.Usable(today) {
			packs = append(packs, p)
		}
	}
	slices.SortStableFunc(packs, func(x, y *studio.Pack) int { return cmp.Compare(x.Until(), y.Until()) })
	if len(packs) < sold.Packs {
		return studio.FaultAt(sold.Path+"/qty", words.OnlySoManyPacksAreForSale(len(packs)))
	}
	for _, p := range packs[:sold.Packs] {
		m := studio.Movement{Pack: p.ID, Kind: shelf.Retail, Amount: p.Left.Neg(), Note: note.Note, Client: sold.Client, Sure: false}
		if _, err := stock.Move(ctx, m, ""); err != nil {
			return studio.Refused(sold.Path+"/qty", err)
		}
	}
	return nil
}
