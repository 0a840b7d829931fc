package httpapi

import (
	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"softpalm/internal/rooms"
)

type handlers struct {
	cfg   Config
	rooms *rooms.Rooms
	told  *told // of evaluations on the workbench
}

// body is an answer.
type body[T any] struct{ Body T }

// nothing is an answer without content.
type nothing struct{}

func reply[T any](v T, err error) (*body[T], error) {
	if err != nil {
		return nil, answer(err)
	}
	return &body[T]{v}, nil
}

// listed makes an absent list an empty one.
func listed[T any](s []T) []T {
	if s == nil {
		return []T{}
	}
	return s
}

// ByID is the id in a path.
type ByID struct {
	ID uuid.UUID `path:"id" format:"uuid"`
}

// register adds the operations, room by room.
func (h *handlers) register(api huma.API) {
	for _, room := range []func(huma.API){
		h.registerSession, h.registerPeople, h.registerJoining, h.registerOwnAccount,
		h.registerSettings, h.registerTablet, h.registerAudit, h.registerImport,
		h.registerClients, h.registerCards, h.registerBriefs, h.registerConsents, h.registerPrivacy,
		h.registerLinks, h.registerChecks, h.registerLetters, h.registerPlanned, h.registerRules, h.registerPolicies,
		h.registerPatchTests, h.registerFileSections, h.registerPlans,
		h.registerDiary, h.registerStrips, h.registerVisits, h.registerMoves, h.registerFinding, h.registerSeries, h.registerReviews, h.registerTogether, h.registerAgain,
		h.registerAbsent, h.registerWaiting, h.registerRoster,
		h.registerRooms, h.registerWalkIn,
		h.registerProtocols, h.registerDrafts, h.registerVersions, h.registerWorkbench, h.registerProtocolFiles, h.registerLibrary, h.registerDrawings, h.registerZones, h.registerMenu,
		h.registerTreatments, h.registerRecords, h.registerRecordPapers, h.registerReactions, h.registerMeasures, h.registerPhotos, h.registerPaces,
		h.registerShelf, h.registerProducts, h.registerStock, h.registerPacks, h.registerOrders, h.registerOrderPapers, h.registerCounts, h.registerRecalls, h.registerRecallPapers, h.registerMixing, h.registerShelfFigures, h.registerTools, h.registerDayLists,
		h.registerPrices, h.registerSales, h.registerReceipts, h.registerPrepaid, h.registerTill,
		h.registerPay, h.registerMoved, h.registerBookPapers, h.registerTerminal,
		h.registerMessages, h.registerCalendars, h.registerClientPage,
	} {
		room(api)
	}
}

// IDView is the id of something new.
type IDView struct {
	ID uuid.UUID `json:"id"`
}
