package paper

import (
	"elkstay/core/plan"
	"os"
	"testing"
	"time"
)

func TestLook(t *testing.T) {
	for _, n := range []string{"tern-quay", "mill-fold"} {
		data, _ := os.ReadFile("../demo/" + n + ".json")
		job, err := plan.ReadJob(data)
		if err != nil {
			t.Fatal(err)
		}
		o := plan.Options{Units: "metric"}
		a := plan.Assess(&job, o)
		p := plan.Briefing(&job, o)
		s := time.Now()
		out, err := Briefing(&job, &a, &p, Stamp{Revision: 5, Newest: 5, SavedAt: time.Now(), MadeAt: time.Now(), Crew: 34}, "metric", false)
		t.Log(time.Since(s), len(out))
		if err != nil {
			t.Fatal(err)
		}
		os.WriteFile("/tmp/"+n+".pdf", out, 0o644)
		os.WriteFile("/tmp/"+n+".svg", Site(&job, &a, "metric", 150, 110).SVG(), 0o644)
	}
}
