package space

import (
	"fmt"

	"elkstay/core/job"
)

// Unweighed is what grows or hangs on a piece of which nobody has said what it weighs: ivy, a hung branch; "": nothing, or the eye or the
// scale has said what all of the piece weighs.
func (p *Piece) Unweighed() string {
	if p.Weighed || p.Pick.MassKg != nil {
		return ""
	}
	for i := range p.Measured.Defects {
		d := &p.Measured.Defects[i]
		if d.MassKg == nil && (d.Kind == job.DefectIvy || d.Kind == job.DefectHung) && p.bears(d) {
			what := map[string]string{job.DefectIvy: "ivy", job.DefectHung: "hung branch"}[d.Kind]
			return fmt.Sprintf("what the %s at %s weighs is not given", what, p.Site.Height(d.AtM))
		}
	}
	return ""
}

// bears tells that a defect, or some of it, comes down with a piece.
func (p *Piece) bears(d *job.Defect) bool {
	self := p.Limb()
	if d.Limb == "" {
		return self < 0 && d.To() >= p.FromM && d.AtM <= p.ToM
	}
	limb := p.LimbIndex(d.Limb)
	if limb < 0 || d.AtM > p.Now.Tips[limb] {
		return false
	}
	// Out on the limb, or on one of its own; on a limb of the stem that is taken with it.
	at, parent := d.To(), p.Limbs[limb].Parent
	switch {
	case limb == self:
		return at >= p.FromM
	case self >= 0:
		return parent == self && p.Limbs[limb].AtM >= p.FromM
	}
	return p.Limbs[p.Root(limb)].AtM >= p.FromM
}
