package timber

import (
	"math"
	"math/rand/v2"
	"testing"
)

func number(v float64) *float64 { return &v }

// The groups of Jenkins et al. 2003 (from memory): dry mass at 30 cm, worked by hand
// from the coefficients, and the order that everyone knows: oak over pine over cedar.
func TestLimbByTheBiomassTable(t *testing.T) {
	dry := func(group string) float64 {
		return Limb{Group: group, BasalDiameterM: 0.3, LengthM: 10}.Weigh().MassKg.Likely
	}
	near(t, "mixed hardwood at 30 cm", dry("mixed-hardwood"), math.Exp(-2.48+2.4835*3.401197381662155), 1e-12)
	near(t, "pine at 30 cm", dry("pine"), math.Exp(-2.5356+2.4349*3.401197381662155), 1e-12)
	if oak, pine, cedar := dry("hard-maple-oak-hickory-beech"), dry("pine"), dry("cedar-larch"); oak < pine || pine < cedar {
		t.Errorf("oak %v, pine %v, cedar %v", oak, pine, cedar)
	}
	bare := false
	wet := Limb{Group: "pine", BasalDiameterM: 0.3, LengthM: 10, MoisturePct: 100, InLeaf: &bare}
	w := wet.Weigh()
	near(t, "doubled by its water, less the needles", w.MassKg.Likely, 2*0.95*dry("pine"), 1e-12)
	near(t, "balance", w.CogM, 3.8, 1e-12)
	near(t, "range", w.MassKg.High/w.MassKg.Low, 2, 1e-12)
}

// The posterior against its definition, by a sum over a fine grid of factors.
func TestWeighInAgainstAGrid(t *testing.T) {
	w := WeighIn{Weighed: []Weighing{{400, 452}, {310, 333}, {520, 571}}}
	l := w.Learn()
	sum, first, second := 0.0, 0.0, 0.0
	for theta := -1.0; theta < 1; theta += 1e-5 {
		log := -theta * theta / (2 * 0.12 * 0.12)
		for _, one := range w.Weighed {
			d := math.Log(one.MeasuredKg/one.PredictedKg) - theta
			log -= d * d / (2 * (0.08*0.08 + 0.02*0.02))
		}
		p := math.Exp(log)
		sum, first, second = sum+p, first+p*theta, second+p*theta*theta
	}
	mean := first / sum
	near(t, "factor", l.Factor, math.Exp(mean), 1e-6)
	near(t, "spread", l.CvPct, 100*math.Sqrt(second/sum-mean*mean), 1e-5)
}

func TestWeighInSettlesOnTheTruthAndSetsOutliersAside(t *testing.T) {
	r := rand.New(rand.NewPCG(9, 9))
	w := WeighIn{ScaleCvPct: number(1)}
	for i := range 200 {
		predicted := 100 + 400*r.Float64()
		measured := predicted * 1.15 * math.Exp(0.08*r.NormFloat64())
		if i == 50 {
			measured = predicted / 2.5
		}
		w.Weighed = append(w.Weighed, Weighing{predicted, measured})
	}
	l := w.Learn()
	if !(math.Abs(l.Factor-1.15) <= 0.02) || l.CvPct > 1 || len(l.Outliers) == 0 {
		t.Errorf("got %+v", l)
	}
	found := false
	for _, i := range l.Outliers {
		found = found || i == 50
	}
	if !found {
		t.Errorf("the outlier is not among %v", l.Outliers)
	}
	if none := (WeighIn{}).Learn(); none.Factor != 1 || !(math.Abs(none.CvPct-12) <= 1e-9) {
		t.Errorf("with nothing weighed: %+v", none)
	}
}
