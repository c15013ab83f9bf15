package sight

import (
	"encoding/json"
	"testing"
)

// FuzzAnswer reads any sight; every answer can be written.
func FuzzAnswer(f *testing.F) {
	for _, seed := range []string{`{"height":{"distance_m":20,"up_deg":45}}`, `{"lean":{"height_m":1.5,"offset_m":0.2}}`, `{}`, `{"place":{"bearing_deg":370,"distance_m":-1}}`} {
		f.Add([]byte(seed))
	}
	f.Fuzz(func(t *testing.T, document []byte) {
		read, err := Answer(document)
		if err != nil {
			return
		}
		if _, err := json.Marshal(read); err != nil {
			t.Errorf("%s: %v", document, err)
		}
	})
}
