package httpapi

import (
	"maps"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
)

// The operations that keyed requests treat apart are there: a name that was changed would
// otherwise keep a link's text, or store what was only worked out.
func TestTheOperationsSetApartAreThere(t *testing.T) {
	there := map[string]bool{}
	for _, path := range NewAPI(http.NewServeMux(), Config{}).OpenAPI().Paths {
		if path.Post != nil {
			there[path.Post.OperationID] = true
		}
	}
	apart := maps.Clone(secrets)
	maps.Copy(apart, worksOut)
	for id := range apart {
		assert.True(t, there[id], id)
	}
}
