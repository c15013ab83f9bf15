package cut

import (
	"math"
	"slices"
	"strings"
	"testing"

	"elkstay/core/wood"
)

// site is an upright stem of plane, nothing beneath, nothing rigged; bent as told.
func site(bend func(*Site)) *view {
	s := &Site{DiameterM: 0.3, LengthM: 3, Species: "sycamore"}
	if bend != nil {
		bend(s)
	}
	known := behaviour[s.Species]
	return &view{s, known[0], known[1]}
}

func crane(s *Site)   { s.Rigged = "crane" }
func lined(s *Site)   { s.Rigged = "line" }
func headed(s *Site)  { s.HeadLeanDeg, s.Species = 15, "white-ash" }
func sided(s *Site)   { s.SideLeanDeg = 8 }
func level(s *Site)   { s.OrientationDeg = 85 }
func target(s *Site)  { s.Beneath = "target" }
func rotten(s *Site)  { s.Decay = "much" }
func tallTop(s *Site) { s.Rigged, s.LengthM = "line", 9 }
func union(s *Site)   { s.OrientationDeg, s.AtUnion, s.LengthM = 60, true, 5 }

// A ruleCase is where a rule must speak, and where it must be silent.
type ruleCase struct{ yes, no func(*Site) }

func both(fs ...func(*Site)) func(*Site) {
	return func(s *Site) {
		for _, f := range fs {
			f(s)
		}
	}
}

// ruleCases are those of every rule, by its id.
var ruleCases = map[string]ruleCase{
	"snap-upright":     {nil, level},
	"snap-side":        {sided, nil},
	"snap-not-upright": {level, nil},
	"snap-knots":       {func(s *Site) { s.Knots = true }, nil},
	"snap-goes":        {func(s *Site) { s.SelfRatio = 1 }, func(s *Site) { s.SelfRatio = 0.99 }},
	"snap-early":       {func(s *Site) { s.SelfRatio = 0.5 }, func(s *Site) { s.SelfRatio = 1 }},
	"snap-heavy":       {func(s *Site) { s.MassKg, s.PushKg = 81, 80 }, func(s *Site) { s.MassKg, s.PushKg = 80, 80 }},
	"snap-weak":        {func(s *Site) { s.Decay = "some" }, nil},
	"snap-long":        {func(s *Site) { s.LengthM = 3.1 }, nil},
	"tear-splits":      {both(union, func(s *Site) { s.Species, s.OrientationDeg = "white-ash", 50 }), union},
	"tear-target":      {both(union, target), union},
	"snap-big":         {func(s *Site) { s.DiameterM = 0.9 }, nil},
	"snap-crane":       {crane, lined},
	"snap-line":        {lined, nil},
	"face-direction":   {nil, level},
	"face-line":        {lined, crane},
	"face-target":      {target, nil},
	"face-tall":        {tallTop, lined},
	"face-crane":       {crane, nil},
	"face-decay":       {rotten, nil},
	"face-splits":      {headed, func(s *Site) { s.HeadLeanDeg = 15 }}, // plane splits little
	"narrow-tall":      {tallTop, func(s *Site) { s.LengthM = 9 }},
	"narrow-direction": {nil, crane},
	"narrow-crane":     {crane, nil},
	"narrow-splits":    {headed, sided},
	"taper-side":       {both(sided, func(s *Site) { s.Species = "douglas-fir" }), sided},
	"taper-fair":       {sided, both(sided, rotten)},
	"taper-brittle":    {both(sided, func(s *Site) { s.Species = "black-willow" }), sided},
	"taper-straight":   {nil, sided},
	"taper-crane":      {both(sided, crane), sided},
	"bore-splits":      {headed, nil},
	"bore-small":       {both(headed, func(s *Site) { s.DiameterM = 0.15 }), headed},
	"bore-needless":    {nil, func(s *Site) { s.MachinePush = true }},
	"bore-decay":       {both(headed, rotten), headed},
	"bore-beneath":     {both(headed, func(s *Site) { s.ClimbingBeneath = true }), headed},
	"bore-crane":       {both(headed, crane), headed},
	"nick-splits":      {headed, nil},
	"nick-steering":    {both(headed, target), headed},
	"nick-needless":    {nil, headed},
	"nick-crane":       {both(headed, crane), headed},
	"strap-head":       {headed, both(headed, crane)},
	"strap-machine":    {func(s *Site) { s.MachinePush = true }, nil},
	"strap-needless":   {nil, headed},
	"strap-crane":      {both(headed, crane), headed},
	"tear-union":       {union, level},
	"tear-no-union":    {level, union},
	"tear-lanyard":     {both(union, func(s *Site) { s.LanyardBeneath = true }), union},
	"tear-upright":     {both(union, func(s *Site) { s.OrientationDeg = 10 }), union},
	"tear-long":        {both(union, func(s *Site) { s.LengthM = 12 }), union},
	"tear-crane":       {both(union, crane), union},
	"under-steer":      {level, nil},
	"under-target":     {both(level, target), level},
	"under-upright":    {nil, level},
	"under-crane":      {both(level, crane), level},
	"straight-thin":    {both(level, func(s *Site) { s.DiameterM = 0.08 }), level},
	"straight-thick":   {level, both(level, func(s *Site) { s.DiameterM = 0.08 })},
	"shelf-crane":      {crane, lined},
	"shelf-no-crane":   {lined, crane},
}

// Every rule stands alone: it speaks on the one site and is silent on the other. All
// are common practice, no source.
func TestEachRule(t *testing.T) {
	seen := map[string]bool{}
	for _, rule := range rules {
		if seen[rule.ID] {
			t.Errorf("there are two rules %s", rule.ID)
		}
		seen[rule.ID] = true
		c, tested := ruleCases[rule.ID]
		if !tested {
			t.Errorf("rule %s is not tested", rule.ID)
			continue
		}
		if !rule.When(site(c.yes)) {
			t.Errorf("%s is silent where it must speak", rule.ID)
		}
		if rule.When(site(c.no)) {
			t.Errorf("%s speaks where it must be silent", rule.ID)
		}
		if !strings.HasSuffix(rule.Reason, ".") || len(rule.Reason) < 15 || !slices.Contains(cuts, rule.Cut) || (rule.Effect == excludesRule) != (rule.Weight == 0) {
			t.Errorf("%s is not whole: %+v", rule.ID, rule)
		}
	}
	for id := range ruleCases {
		if !seen[id] {
			t.Errorf("there is no rule %s", id)
		}
	}
}

// What the trade would choose (common practice, no source).
func TestAdviceAsTheTradeWouldGiveIt(t *testing.T) {
	for _, c := range []struct {
		name string
		bend func(*Site)
		best string
		not  string
	}{
		{"a short upright piece by hand", nil, CutSnap, CutShelf},
		{"a tall top on a line", tallTop, CutNarrow, CutShelf},
		{"a short top on a line", lined, CutOpenFace, CutTopTear},
		{"under a crane", crane, CutShelf, CutSnap},
		{"an ash leaning ahead", headed, CutBored, CutSnap},
		{"a fir leaning aside", func(s *Site) { s.SideLeanDeg, s.Species, s.DiameterM = 8, "douglas-fir", 0.6 }, CutTapered, CutSnap},
		{"a limb in its union", union, CutTopTear, CutSnap},
		{"a level limb", level, CutUndercut, CutStraight},
		{"pushed by a machine", func(s *Site) { s.MachinePush, s.DiameterM = true, 0.6 }, CutStrap, CutShelf},
	} {
		a := site(c.bend).Advise()
		if len(a.Cuts) == 0 || a.Cuts[0].Cut != c.best {
			t.Errorf("%s: got %+v, want %s", c.name, a.Cuts, c.best)
		}
		if !slices.ContainsFunc(a.Excluded, func(e Excluded) bool { return e.Cut == c.not && len(e.Reasons) > 0 }) {
			t.Errorf("%s: %s is not excluded", c.name, c.not)
		}
		if len(a.Cuts)+len(a.Excluded) != len(cuts) {
			t.Errorf("%s: %d cuts weighed, %d excluded, of %d", c.name, len(a.Cuts), len(a.Excluded), len(cuts))
		}
		for _, cut := range a.Cuts {
			for _, d := range cut.Dimensions {
				if d.LowM <= 0 || d.LowM > d.HighM {
					t.Errorf("%s: %s of %s runs from %v to %v m", c.name, d.Name, cut.Cut, d.LowM, d.HighM)
				}
			}
			if cut.FinishAt == "" {
				t.Errorf("%s: %s does not say where to finish", c.name, cut.Cut)
			}
		}
	}
}

// Step spacing and hinge: common practice, no source.
func TestDimensionsOfTheTrade(t *testing.T) {
	for _, c := range []struct{ diameterIn, low, high float64 }{{3, 2.5, 3}, {5, 1.75, 2.25}, {12, 1, 1.5}, {24, 0.1, 0.5}} {
		got := stepSpacing(c.diameterIn * inch)
		if !(math.Abs(got[0]-c.low*inch) <= 1e-12) || !(math.Abs(got[1]-c.high*inch) <= 1e-12) {
			t.Errorf("at %v in: got %v m", c.diameterIn, got)
		}
	}
	face := site(lined).Advise().Cuts[0]
	for _, d := range face.Dimensions {
		switch d.Name {
		case "hinge thickness":
			if d.HighM > 0.1*0.3+1e-12 {
				t.Errorf("a hinge of up to %v m in 0.3 m", d.HighM)
			}
		case "face depth":
			if !(math.Abs(d.LowM-0.075) <= 1e-12) || !(math.Abs(d.HighM-0.1) <= 1e-12) {
				t.Errorf("a face of %v to %v m in 0.3 m", d.LowM, d.HighM)
			}
		}
	}
}

func TestBothSchoolsAreNamed(t *testing.T) {
	for _, c := range []struct {
		bend func(*Site)
		asks string
	}{{sided, "taper"}, {headed, "bore"}, {level, "undercut"}, {nil, "face"}} {
		a := site(c.bend).Advise()
		found := false
		for _, q := range a.Schools {
			found = found || strings.Contains(q.Question, c.asks) && len(q.Schools) == 2 && q.Schools[0].Price != "" && q.Schools[1].Price != ""
		}
		if !found {
			t.Errorf("nobody asks about %s: %+v", c.asks, a.Schools)
		}
	}
}

func TestEverySpeciesHasItsBehaviour(t *testing.T) {
	for _, s := range wood.Table() {
		known := behaviour[s.ID]
		if !slices.Contains([]string{"good", "fair", "poor"}, known[0]) || !slices.Contains([]string{"low", "medium", "high"}, known[1]) {
			t.Errorf("%s hinges %q and splits %q", s.ID, known[0], known[1])
		}
	}
	s := Site{DiameterM: 0.3, LengthM: 3, Species: "stone", LineLeads: "along"}
	if faults := s.Faults("body"); len(faults) != 2 {
		t.Errorf("got %v", faults)
	}
}

// Every species of the wood table hinges and splits in one of the ways that the rules know.
func TestEverySpeciesBehavesSomehow(t *testing.T) {
	for _, s := range wood.Table() {
		known, ok := behaviour[s.ID]
		if !ok || !slices.Contains([]string{"good", "fair", "poor"}, known[0]) || !slices.Contains([]string{"low", "medium", "high"}, known[1]) {
			t.Errorf("%s: %v", s.ID, known)
		}
	}
}

// What stands beside an advice, and nothing where nothing is to be said; the working lists the cuts in their order.
func TestWhatIsSaidOfAnAdvice(t *testing.T) {
	for _, c := range []struct {
		what string
		bend func(*Site)
		says string
	}{
		{"sound, nobody beneath", nil, ""},
		{"climbing beneath", func(s *Site) { s.ClimbingBeneath = true }, "You would stand beneath"},
		{"much decay", func(s *Site) { s.Decay = "much" }, "breaks early"},
		{"some decay", func(s *Site) { s.Decay = "some" }, ""},
		{"dead", func(s *Site) { s.Dead = true }, "breaks early"},
		{"across", func(s *Site) { s.Rigged, s.LineLeads = "line", "across" }, "aim the face"},
		{"against", func(s *Site) { s.Rigged, s.LineLeads = "line", "against" }, "aim the face"},
		{"along", func(s *Site) { s.Rigged, s.LineLeads = "line", "along" }, ""},
	} {
		v := site(c.bend)
		said := v.Cautions(v.Advise())
		if c.says == "" && len(said) != 1 || c.says != "" && (len(said) != 2 || !strings.Contains(said[1], c.says)) {
			t.Errorf("%s: %q", c.what, said)
		}
	}
	none := site(nil)
	if said := none.Cautions(Advice{}); len(said) != 2 || !strings.Contains(said[1], "No cut fits") {
		t.Errorf("%q", said)
	}
	v := site(lined)
	advice := v.Advise()
	steps := v.Working(advice)
	if len(steps) != len(advice.Cuts) || len(steps) < 2 || steps[0].Symbol != "cut 1" || steps[1].Symbol != "cut 2" || steps[0].Value != advice.Cuts[0].Score {
		t.Errorf("%+v", steps)
	}
	for i, c := range advice.Cuts {
		if i > 0 && c.Score > advice.Cuts[i-1].Score {
			t.Errorf("%s stands behind %s", c.Cut, advice.Cuts[i-1].Cut)
		}
	}
}
