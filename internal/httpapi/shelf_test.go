package httpapi

import (
	"reflect"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"

	"softpalm/internal/studio"
)

// A product that has everything is shown with everything: no field is forgotten.
func TestAProductIsShownWhole(t *testing.T) {
	var p studio.Product
	fill(t, reflect.ValueOf(&p).Elem())
	p.ID = uuid.New()
	v := reflect.ValueOf(productView(&p))
	for i := range v.NumField() {
		assert.False(t, v.Field(i).IsZero(), v.Type().Field(i).Name)
	}
}

// fill puts something into every field of a struct.
func fill(t *testing.T, v reflect.Value) {
	t.Helper()
	for i := range v.NumField() {
		switch f := v.Field(i); f.Kind() {
		case reflect.String:
			f.SetString("oil")
		case reflect.Int, reflect.Int64:
			f.SetInt(3)
		case reflect.Float64:
			f.SetFloat(1.5)
		case reflect.Bool:
			f.SetBool(true)
		case reflect.Slice:
			f.Set(reflect.MakeSlice(f.Type(), 1, 1))
		case reflect.Struct:
			if v.Type().Field(i).Anonymous {
				fill(t, f)
			}
		}
	}
}
