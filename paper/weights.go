package paper

import (
	"bytes"
	"fmt"
	"time"

	"codeberg.org/go-pdf/fpdf"
	"golang.org/x/image/font/gofont/gobold"

	"elkstay/core/bench"
	"elkstay/core/units"
)

// card begins a page of its own, with its title; larger is how much larger its tables are set.
func card(orientation string, letter bool, of, title string, larger float64, made time.Time) *page {
	format := "A4"
	if letter {
		format = "Letter"
	}
	d := &page{Fpdf: fpdf.New(orientation, "mm", format, ""), stamp: &Stamp{}, larger: larger, taken: make(map[*face]bool)}
	d.w, d.h = d.GetPageSize()
	d.AddUTF8FontFromBytes(shipped.name, "", shipped.ttf)
	d.AddUTF8FontFromBytes(shipped.name, "B", gobold.TTF)
	d.SetAutoPageBreak(false, 0)
	d.SetMargins(margin, margin, margin)
	d.says(about{title: of + title, subject: "A card for the truck", made: made})
	d.AddPage()
	d.y = margin
	d.tint(ink)
	d.font(20, true)
	d.Text(margin, d.y+7, title)
	d.y += 10
	return d
}

// Weights writes a table of what logs weigh as one page for the truck; letter is US letter in place
// of A4. What is over the limit stands bold, with a mark.
func Weights(w *bench.Weights, limitKg *float64, made time.Time, system units.System, letter bool) ([]byte, error) {
	title := w.Species
	if title == "" {
		title = fmt.Sprintf("Wood of %.0f to %.0f kg/m³", w.Density.Low, w.Density.High)
	}
	d := card("L", letter, "What logs weigh: ", title, 1.4, made)
	said := w.Said
	if limitKg != nil {
		said += fmt.Sprintf(" Over %s: marked ×.", units.Print(units.Mass, system, *limitKg))
	}
	if w.Taught != "" {
		said += " " + w.Taught
	}
	d.y += d.wrapped(margin, d.y, d.w-2*margin, 9.5, 4.4, false, said) + 2
	columns := []column{{"thick end", 28, false}}
	for _, l := range w.LengthsM {
		columns = append(columns, column{units.Print(units.Height, system, l), 27.6, true})
	}
	var rows [][]cell
	for _, row := range w.Rows {
		line := []cell{{units.Print(units.Diameter, system, row.DiameterM), true}}
		for i, kg := range row.Kg {
			text := units.Print(units.Mass, system, kg.High)
			if row.Over[i] {
				text = "× " + text
			}
			line = append(line, cell{text, row.Over[i]})
		}
		rows = append(rows, line)
	}
	tints := make([]tone, len(rows))
	for i := range tints {
		tints[i] = danger
	}
	d.table(columns, rows, tints)
	d.y += 3
	d.y += d.wrapped(margin, d.y, d.w-2*margin, 8, 3.8, false, fmt.Sprintf("Made %s. Wood differs from tree to tree: weigh what you can, and hold to the lesser of this and what the scale says. "+
		"Local codes, the makers' instructions and a competent person on site come first.", made.Format("2006-01-02")))
	var out bytes.Buffer
	if err := d.Output(&out); err != nil {
		return nil, err
	}
	return out.Bytes(), nil
}
