package paper

import (
	"bytes"
	"fmt"
	"time"

	"elkstay/core/bench"
	"elkstay/core/units"
)

// Wraps writes what a hand holds, turn by turn, as one page to hang by the device; letter is US letter
// in place of A4. What does not fit or is over what is marked stands bold, with a mark.
func Wraps(c *bench.WrapsCard, asked *bench.WrapsRequest, made time.Time, system units.System, letter bool) ([]byte, error) {
	title := asked.Device
	if title == "" {
		title = fmt.Sprintf("A device of friction %.3g", asked.Friction)
	}
	d := card("P", letter, "Wraps: ", title, 1.6, made)
	said := c.Said
	if c.Fit != nil {
		said += fmt.Sprintf(" %d turns fit on it; more: marked ×.", *c.Fit)
	}
	if asked.LimitKn != nil {
		said += fmt.Sprintf(" Over %s: marked ×.", units.Print(units.Force, system, *asked.LimitKn))
	}
	d.y += d.wrapped(margin, d.y, d.w-2*margin, 10, 4.6, false, said) + 2
	columns := []column{{"wraps", 30, false}, {"holds at rest", 45, true}, {"as a mass", 45, true}, {"at the friction given", 55, true}}
	var rows [][]cell
	for _, row := range c.Rows {
		bad := row.Over || !row.Fits
		mark := ""
		if bad {
			mark = "× "
		}
		rows = append(rows, []cell{{fmt.Sprintf("%s%g", mark, row.Wraps), true}, {units.Print(units.Force, system, row.HoldsKn), bad}, {units.Print(units.Mass, system, row.Kg), bad}, {units.Print(units.Force, system, row.AtMost), false}})
	}
	tints := make([]tone, len(rows))
	for i := range tints {
		tints[i] = danger
	}
	d.table(columns, rows, tints)
	d.y += 3
	d.wrapped(margin, d.y, d.w-2*margin, 8.5, 4, false, fmt.Sprintf("Made %s. Friction flatters: try it with the rope and the device at hand before a piece hangs on it. "+
		"Local codes, the makers' instructions and a competent person on site come first.", made.Format("2006-01-02")))
	var out bytes.Buffer
	if err := d.Output(&out); err != nil {
		return nil, err
	}
	return out.Bytes(), nil
}
