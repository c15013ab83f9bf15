package drop

import "elkstay/core/gear"

// maxBreaks bounds the corners of a line's give: every row of the elongation
// table bends it twice, once for the line and once for the lead.
const maxBreaks = 2 * gear.MaxStretchRows

// give is how far the whole line lets the piece on as its tension rises: the
// line beyond the block, the lead behind it at the lower tension the block lets
// through, and the anchor. It is a chain of straight lines in the tension, kept
// with the energy taken up at every corner, so that a catch is solved exactly.
type give struct {
	n     int                    // corners, the one at no tension included
	t     [maxBreaks + 1]float64 // line tension at the corner, kN
	x     [maxBreaks + 1]float64 // give at the corner, m
	u     [maxBreaks + 1]float64 // energy taken up at the corner, kJ
	slope [maxBreaks + 1]float64 // m/kN behind the corner
}

// lay builds the give of a case.
func (g *give) lay(c *Case) {
	rows := c.Rope.Elongation
	r := c.BlockEfficiency
	// The corners of line and lead, merged in rising order.
	line, lead := 0, 0
	g.n = 1
	for line < len(rows) || lead < len(rows) {
		lineAt, leadAt := inf, inf
		if line < len(rows) {
			lineAt = rows[line].LoadPct / 100 * c.Rope.BreakingKn
		}
		if lead < len(rows) {
			leadAt = rows[lead].LoadPct / 100 * c.Rope.BreakingKn / r
		}
		next := min(lineAt, leadAt)
		if lineAt <= next {
			line++
		}
		if leadAt <= next {
			lead++
		}
		g.t[g.n] = next
		g.n++
	}
	for i := 1; i < g.n; i++ {
		span := g.t[i] - g.t[i-1]
		g.slope[i-1] = c.compliance(g.t[i-1] + span/2)
		g.x[i] = g.x[i-1] + g.slope[i-1]*span
		g.u[i] = g.u[i-1] + g.slope[i-1]*span*(g.t[i]+g.t[i-1])/2
	}
	g.slope[g.n-1] = c.compliance(g.t[g.n-1] * 2)
}

// at returns the give, m, and the energy taken up, kJ, at a line tension in kN.
func (g *give) at(tension float64) (x, u float64) {
	i := 0
	for i+1 < g.n && g.t[i+1] <= tension {
		i++
	}
	span := tension - g.t[i]
	return g.x[i] + g.slope[i]*span, g.u[i] + g.slope[i]*span*(tension+g.t[i])/2
}
