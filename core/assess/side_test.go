package assess

import (
	"reflect"
	"runtime"
	"strings"
	"testing"

	"elkstay/core/job/jobtest"
	"elkstay/core/units"
)

// Side by side and one after another come to the same, pick by pick; what breaks one of them off is kept for who asked, and ends nobody else.
func TestSideBySideIsOneAfterAnother(t *testing.T) {
	j := jobtest.Whole()
	o := Options{Units: units.Metric, Pick: j.Picks[1].ID}
	before := runtime.GOMAXPROCS(4)
	defer runtime.GOMAXPROCS(before)
	many := Assess(&j, o)
	runtime.GOMAXPROCS(1)
	if one := Assess(&j, o); !reflect.DeepEqual(one, many) {
		t.Errorf("%+v\n%+v", one, many)
	}
	runtime.GOMAXPROCS(4)
	f, _ := Prepare(&j, &o)
	f.Surveys[0].Tree = nil // nothing can be worked out of it
	broken := turn{of: f.Surveys[0]}
	broken.workOut(&j.Picks[0], 1)
	if said, _ := broken.failed.(string); !strings.HasPrefix(said, "pick 1: ") || broken.out != nil {
		t.Errorf("failed as %q", said)
	}
}
