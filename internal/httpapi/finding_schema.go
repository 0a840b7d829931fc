package httpapi

import (
	"maps"
	"reflect"
	"slices"

	"github.com/danielgtaylor/huma/v2"

	"softpalm/internal/craft/evaluation"
)

// describeFindings adds FindingValues to the document: for each code of a finding the
// shape of its values. The screens take their types from it.
func describeFindings(api huma.API) {
	schemas := api.OpenAPI().Components.Schemas
	values := &huma.Schema{
		Type: huma.TypeObject, AdditionalProperties: false,
		Description: "The values of a finding, by its code.",
		Properties:  map[string]*huma.Schema{},
	}
	for _, code := range slices.Sorted(maps.Keys(evaluation.Payloads)) {
		payload := reflect.TypeOf(evaluation.Payloads[code]()).Elem()
		values.Properties[string(code)] = schemas.Schema(payload, true, payload.Name())
		values.Required = append(values.Required, string(code))
	}
	schemas.Map()["FindingValues"] = values
}
