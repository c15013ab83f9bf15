package crane

import (
	"encoding/json"
	"math"
	"testing"
)

// FuzzAnswer reads any pasted chart.
func FuzzAnswer(f *testing.F) {
	for _, seed := range []string{"radius\t10\t20\n5\t1000\t900", "6,5;12\n3;24,000", "—\n", "\t\t\n1\t2", "1e999\t5\n2\t3"} {
		document, _ := json.Marshal(map[string]string{"text": seed})
		f.Add(document)
	}
	f.Fuzz(func(t *testing.T, document []byte) {
		read, err := Answer(document)
		if err != nil {
			return
		}
		for _, row := range read.Rows {
			if !(row.RadiusM > 0 && row.BoomM > 0 && row.CapacityKg > 0) || math.IsInf(row.CapacityKg, 0) {
				t.Errorf("a row of %+v", row)
			}
		}
	})
}
