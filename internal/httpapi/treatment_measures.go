package httpapi

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"softpalm/internal/craft/measuring"
	"softpalm/internal/studio/treatment"
)

func (h *handlers) registerMeasures(api huma.API) {
	huma.Register(
		api,
		closed("get-progress", http.MethodGet, "/api/clients/{id}/progress", "What was measured, graded and done on a client over time"),
		func(ctx context.Context, in *ByID) (*body[*treatment.Progress], error) {
			return reply(h.rooms.Treatment.Progress(ctx, actor(ctx), in.ID))
		},
	)
	huma.Register(
		api,
		closed("add-measurements", http.MethodPost, "/api/clients/{id}/measurements", "Add readings taken now; a repeat changes nothing"),
		func(ctx context.Context, in *struct {
			ByID
			Body struct {
				Measurements []treatment.NewMeasurement `json:"measurements" minItems:"1" maxItems:"40"`
			}
		}) (*body[*treatment.Progress], error) {
			return reply(h.rooms.Treatment.AddMeasurements(ctx, actor(ctx), in.ID, in.Body.Measurements))
		},
	)
	huma.Register(
		api,
		closed("strike-measurement", http.MethodPost, "/api/measurements/{id}/strike", "Take readings out, with the reason"),
		func(ctx context.Context, in *struct {
			ByID
			Body struct {
				Reason string `json:"reason" maxLength:"500"`
			}
		}) (*body[*treatment.Progress], error) {
			return reply(h.rooms.Treatment.StrikeMeasurement(ctx, actor(ctx), in.ID, in.Body.Reason))
		},
	)
	huma.Register(
		api,
		closed("save-hope", http.MethodPut, "/api/clients/{id}/hopes/{measure}", "State what is hoped of a measure"),
		func(ctx context.Context, in *struct {
			ByID
			Measure string `path:"measure" maxLength:"30"`
			Body    struct {
				Hope string `json:"hope" enum:"longer,shorter,"`
			}
		}) (*body[*treatment.Progress], error) {
			return reply(h.rooms.Treatment.SaveHope(ctx, actor(ctx), in.ID, in.Measure, in.Body.Hope))
		},
	)
	huma.Register(
		api,
		closed("measure-clients", http.MethodGet, "/api/measures/{measure}/clients", "Of how many clients a measure changed beyond the noise"),
		func(ctx context.Context, in *struct {
			Measure    string `path:"measure" maxLength:"30"`
			Instrument string `query:"instrument" enum:"caliper,tape,photo"`
			Side       string `query:"side" enum:"left,right,mid"`
		}) (*body[*treatment.ManyClients], error) {
			return reply(h.rooms.Treatment.MeasureClients(ctx, actor(ctx), in.Measure, measuring.Instrument(in.Instrument), in.Side))
		},
	)
}
