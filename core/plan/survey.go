package plan

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/line"
	"elkstay/core/timber"
	"elkstay/core/units"
	"elkstay/core/wood"
)

// survey is a job made ready for sums: the tree in space, the wood, the limits, worked
// out once and then asked of every pick.
type survey struct {
	outfit   outfit
	job      *Job
	system   units.System
	stem     timber.Stem
	density  wood.Range
	source   string // of the density
	species  *wood.Species
	group    string  // of the biomass table
	moisture float64 // per cent of the dry mass
	limits   CrewLimits
	foot     r3.Vec
	lean     r3.Vec // level, m per metre of height
	limbs    []grown
	targets  []prism
	learned  map[bool]*timber.Learned // by whether it is a limb; nil: nothing weighed
}

// grown is a limb in space.
type grown struct {
	*Limb
	parent int // −1: the stem
	base   r3.Vec
	out    r3.Vec // level unit vector
	start  float64
	bend   float64 // radians per metre
}

func radians(deg float64) float64 { return deg * math.Pi / 180 }
func degrees(rad float64) float64 { return rad * 180 / math.Pi }

// towards is the level unit vector of an azimuth.
func towards(azimuthDeg float64) r3.Vec {
	sin, cos := math.Sincos(radians(azimuthDeg))
	return r3.Vec{X: sin, Y: cos}
}

// azimuthOf is the azimuth of a level vector, 0 to 360.
func azimuthOf(v r3.Vec) float64 {
	return math.Mod(degrees(math.Atan2(v.X, v.Y))+360, 360)
}

func level(v r3.Vec) r3.Vec { return r3.Vec{X: v.X, Y: v.Y} }

func pointOf(v r3.Vec) line.Point { return line.Point{X: v.X, Y: v.Y, Z: v.Z} }

// onStem is the stem's axis at a height.
func (v *survey) onStem(z float64) r3.Vec {
	return r3.Add(v.foot, r3.Add(r3.Scale(z, v.lean), r3.Vec{Z: z}))
}

// at is the limb's axis at a distance from its base: its angle grows evenly from base
// to tip by the droop.
func (g *grown) at(s float64) r3.Vec {
	sin0, cos0 := math.Sincos(g.start)
	over, up := s*sin0, s*cos0
	if g.bend != 0 {
		sin1, cos1 := math.Sincos(g.start + g.bend*s)
		over, up = (cos0-cos1)/g.bend, (sin1-sin0)/g.bend
	}
	return r3.Add(g.base, r3.Add(r3.Scale(over, g.out), r3.Vec{Z: up}))
}

// tipDiameter is what a limb measures at its tip: 2 cm, or its base when that is less.
const tipDiameter = 0.02

// diameterAt is the limb's diameter at a distance from its base: it tapers evenly.
func (g *grown) diameterAt(s float64) float64 {
	return g.DiameterM + (min(tipDiameter, g.DiameterM)-g.DiameterM)*min(1, s/g.LengthM)
}

// defaultMoisture and defaultGroup stand in where no species says otherwise.
const (
	defaultMoisture = 80
	defaultGroup    = "mixed-hardwood"
)

// newSurvey readies a job whose measurements are free of faults.
func newSurvey(job *Job, system units.System, stem timber.Stem, limits CrewLimits) *survey {
	v := &survey{job: job, system: system, stem: stem, limits: limits, group: defaultGroup, moisture: defaultMoisture}
	v.density, v.source = job.Tree.Wood.GreenDensity()
	if species, known := wood.Find(job.Tree.Wood.Species); known {
		v.species, v.group = &species, species.Allometry
		// Basic specific gravity is dry mass over green volume: Wood Handbook, ch. 4.
		v.moisture = 100 * (species.Density.Likely/(1000*species.SpecificGravity) - 1)
	}
	if at := job.Site.TreeAt; at != nil {
		v.foot = r3.Vec{X: at.X, Y: at.Y}
	}
	if lean := job.Tree.LeanDeg; lean != nil {
		azimuth := 0.0
		if job.Tree.LeanTowardsDeg != nil {
			azimuth = *job.Tree.LeanTowardsDeg
		}
		v.lean = r3.Scale(math.Tan(radians(*lean)), towards(azimuth))
	}
	v.limbs = make([]grown, len(job.Tree.Limbs))
	for _, subs := range [2]bool{false, true} {
		for i := range job.Tree.Limbs {
			limb := &job.Tree.Limbs[i]
			if (limb.Parent != "") != subs {
				continue
			}
			g := grown{Limb: limb, parent: -1, out: towards(limb.AzimuthDeg), start: radians(limb.AngleDeg), bend: radians(limb.DroopDeg) / limb.LengthM}
			if subs {
				g.parent = v.limbIndex(limb.Parent)
				g.base = v.limbs[g.parent].at(limb.AtM)
			} else {
				g.base = v.onStem(limb.AtM)
			}
			v.limbs[i] = g
		}
	}
	for i := range job.Site.Targets {
		v.targets = append(v.targets, newPrism(&job.Site.Targets[i]))
	}
	return v
}

func (v *survey) limbIndex(id string) int {
	for i := range v.job.Tree.Limbs {
		if v.job.Tree.Limbs[i].ID == id {
			return i
		}
	}
	return -1
}

// standing is the tree at one moment of the order: how high the stem stands, and how
// far out each limb; 0: it is gone.
type standing struct {
	top  float64
	tips []float64
}

func (v *survey) whole() standing {
	now := standing{top: v.stem.Top(), tips: make([]float64, len(v.limbs))}
	for i := range v.limbs {
		now.tips[i] = v.limbs[i].LengthM
	}
	return now
}

// take takes a limb off at a distance from its base, and what grew beyond it.
func (v *survey) take(now *standing, limb int, cut float64) {
	now.tips[limb] = min(now.tips[limb], cut)
	for k := range v.limbs {
		if v.limbs[k].parent == limb && v.limbs[k].AtM >= cut {
			now.tips[k] = 0
		}
	}
}

// takeTop takes off the stem above a height, and every limb on it.
func (v *survey) takeTop(now *standing, cut float64) {
	now.top = min(now.top, cut)
	for k := range v.limbs {
		if v.limbs[k].parent < 0 && v.limbs[k].AtM >= cut {
			v.take(now, k, 0)
		}
	}
}

// mass is an estimate with its place.
type mass struct {
	kg  wood.Range
	cog float64 // along the piece from the cut, m
	at  r3.Vec  // in space
}

// limbMass weighs a limb from a cut to where it ends now. A part beyond a place is
// taken for a limb with the diameter there; a part between two places is the
// difference. What has been taken off its sub-limbs already is taken off, down to the
// bare pole.
func (v *survey) limbMass(i int, cut float64, now *standing) mass {
	g := &v.limbs[i]
	end := now.tips[i]
	if end <= cut {
		return mass{at: g.at(cut)}
	}
	pole := timber.Stem{Stations: []timber.Station{{AtM: cut, DiameterM: g.diameterAt(cut)}, {AtM: end, DiameterM: g.diameterAt(end)}}}
	bare := pole.Weigh(v.density, timber.Frustum)
	if g.Brush == BrushBare {
		return v.ride(i, cut, end, now, bare.MassKg, bare.CogM)
	}
	beyond := func(s float64) (wood.Range, float64) {
		if s >= g.LengthM {
			return wood.Range{}, g.LengthM
		}
		limb := timber.Limb{Group: v.group, BasalDiameterM: g.diameterAt(s), LengthM: g.LengthM - s, MoisturePct: v.moisture, InLeaf: v.job.Tree.InLeaf}
		w := limb.Weigh()
		return w.MassKg, s + w.CogM
	}
	all, allAt := beyond(cut)
	rest, restAt := beyond(end)
	kg := wood.Range{Low: all.Low - rest.Low, Likely: all.Likely - rest.Likely, High: all.High - rest.High}
	moment := all.Likely*allAt - rest.Likely*restAt
	if g.MassKg != nil {
		if entire, _ := beyond(0); entire.Likely > 0 {
			kg, moment = kg.Times(*g.MassKg/entire.Likely), moment**g.MassKg/entire.Likely
		}
	}
	for k := range v.limbs {
		sub := &v.limbs[k]
		if sub.parent != i || sub.AtM < cut || sub.AtM >= end || now.tips[k] >= sub.LengthM {
			continue
		}
		before := v.whole()
		gone, left := v.limbMass(k, 0, &before), v.limbMass(k, 0, now)
		off := gone.kg.Likely - left.kg.Likely
		share := off / kg.Likely
		kg, moment = kg.Times(max(0.05, 1-share)), moment-off*sub.AtM
	}
	if kg.Likely < bare.MassKg.Likely {
		kg, moment = kg.Times(bare.MassKg.Likely/kg.Likely), bare.MassKg.Likely*bare.CogM
	}
	cog := max(cut, min(end, moment/kg.Likely))
	if end < g.LengthM {
		// Its brush went with the tip: what is left balances like a pole.
		cog = bare.CogM
	}
	return mass{kg, cog - cut, g.at(cog)}
}

// ride adds the sub-limbs that stand on a bare pole to its mass.
func (v *survey) ride(i int, cut, end float64, now *standing, kg wood.Range, cog float64) mass {
	moment := kg.Likely * cog
	for k := range v.limbs {
		if sub := &v.limbs[k]; sub.parent == i && sub.AtM >= cut && sub.AtM < end && now.tips[k] > 0 {
			more := v.limbMass(k, 0, now)
			kg = wood.Range{Low: kg.Low + more.kg.Low, Likely: kg.Likely + more.kg.Likely, High: kg.High + more.kg.High}
			moment += more.kg.Likely * sub.AtM
		}
	}
	cog = moment / kg.Likely
	return mass{kg, cog - cut, v.limbs[i].at(cog)}
}

// stemMass weighs the stem above a cut with every limb that still stands there.
func (v *survey) stemMass(cut float64, now *standing) mass {
	weight := v.stem.WeighBetween(cut, now.top, v.density, timber.Frustum)
	kg := weight.MassKg
	moment := r3.Scale(kg.Likely, v.onStem(weight.CogM))
	for k := range v.limbs {
		if v.limbs[k].parent >= 0 || v.limbs[k].AtM < cut || now.tips[k] <= 0 {
			continue
		}
		more := v.limbMass(k, 0, now)
		kg = wood.Range{Low: kg.Low + more.kg.Low, Likely: kg.Likely + more.kg.Likely, High: kg.High + more.kg.High}
		moment = r3.Add(moment, r3.Scale(more.kg.Likely, more.at))
	}
	at := r3.Scale(1/kg.Likely, moment)
	return mass{kg, max(1e-3, min(now.top-cut, at.Z-cut)), at}
}
