// Package words is the English catalogue that screens and papers share: the names of
// phases, sides, pressures, results and kinds, and the disclaimers. The screens
// import the same two files, so there is one source and nothing to keep in step.
// Sentences composed of values are in ui/src/words/en.ts.
package words

import (
	"bytes"
	_ "embed"
	"encoding/json"
)

//go:embed en.json
var staff []byte

//go:embed client.en.json
var client []byte

// Catalogue is what Go reads of the words: for staff and on paper.
type Catalogue struct {
	Sides             map[string]string `json:"sides"`
	Phases            map[string]string `json:"phases"`
	PressurePatterns  map[string]string `json:"pressurePatterns"`
	Headlines         map[string]string `json:"headlines"`
	Kinds             map[string]string `json:"kinds"`
	Preferences       map[string]string `json:"preferences"`
	AppointmentStates map[string]string `json:"appointmentStates"`
	PaperDisclaimer   string            `json:"paperDisclaimer"`
	Papers            struct {
		Letter string `json:"letter"`
		SetUp  string `json:"setUp"`
	} `json:"papers"`
	// Pressures are the levels 0 to 5; clients read them too.
	Pressures []string `json:"pressures"`
}

// English is the English catalogue.
var English = read(staff, client)

// read decodes the embedded files; they are part of the program, so a fault in them
// is a fault of the program.
func read(files ...[]byte) *Catalogue {
	c := &Catalogue{}
	for _, f := range files {
		if err := json.NewDecoder(bytes.NewReader(f)).Decode(c); err != nil {
			panic("the embedded words cannot be read: " + err.Error())
		}
	}
	return c
}
