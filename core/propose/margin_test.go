package propose

import (
	"testing"

	"elkstay/core/assess"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
)

// An order stays within nine tenths of every limit unless the crew's policy says otherwise, and what no limit forbids is ticked
// beforehand but for what is thrown by hand.
func TestAnOrderKeepsAMargin(t *testing.T) {
	for share, least := range map[float64]float64{0: 0, 100: 90, 60: 0} {
		j := jobtest.Whole()
		j.Picks, j.Site.Zones = nil, nil
		j.Rigs[0].Rope.MarkedKn, j.Rigs[0].Catch.How = jobtest.Of(12), job.Locked
		o := assess.Options{Units: "metric"}
		want := 90.0
		if share > 0 {
			o.Crew.Policy.FillPct, want = jobtest.Of(share), share
		}
		most := 0.0
		for _, one := range Order(&j, ByUp, "", o).Picks {
			j.Picks = append(j.Picks, one.Pick)
			thrown, fits := one.Pick.Way == job.WayThrown, one.Verdict != policy.Over && one.Verdict != policy.NotHeld
			if one.Take != (fits && !thrown) {
				t.Errorf("%s, %s: ticked %v", one.Title, one.Verdict, one.Take)
			}
		}
		for _, p := range assess.Assess(&j, o).Picks {
			if p.Nearest != nil && p.Nearest.Part == "tie" && p.Verdict != policy.Over {
				most = max(most, p.Nearest.UsePct)
			}
		}
		if most > want+0.1 || most < least {
			t.Errorf("to %v %%: the fullest limit is %v %% used", share, most)
		}
	}
}
