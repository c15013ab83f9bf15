// Package ground works out what becomes of the wood once it lies: the logs that every piece is
// sawn into and how the saw goes through them, the ways along which they are moved, what the drop
// zones hold, and the loads that take it all away.
//
// Lengths are in metres, masses in kilograms, forces in kilonewtons, volumes in cubic metres. What
// is lifted, pulled or loaded counts at the heavy end of the estimate. Bulk densities, friction on
// the ground and what a person lifts are common practice without a source, and each can be said.
package ground

import (
	"fmt"
	"math"

	"elkstay/core/assess"
	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/units"
	"elkstay/core/wood"
)

// A Ground is everything that can be said of a job's wood once it lies.
type Ground struct {
	Said     string        `json:"said" doc:"The whole of it in a sentence or two"`
	Settings job.Ground    `json:"settings" doc:"What it was worked out with, defaults filled in"`
	Pieces   []Piece       `json:"pieces" nullable:"false" doc:"What each pick brings down, in the order of the document"`
	Zones    []Zone        `json:"zones" nullable:"false" doc:"How the drop zones fill"`
	Moves    []MoveFigures `json:"moves" nullable:"false" doc:"In the order of the document"`
	Trucks   []Loads       `json:"trucks" nullable:"false" doc:"In the order of the document"`
	Away     Away          `json:"away" doc:"What has to go"`
	Cautions []string      `json:"cautions" nullable:"false"`

	sawn int // logs so far
}

// A Piece is what one pick brings to the ground.
type Piece struct {
	ID      string      `json:"id" doc:"Of the pick"`
	Number  int         `json:"number"`
	Title   string      `json:"title"`
	Tree    string      `json:"tree"`
	Species string      `json:"species" doc:"Empty: not of the table"`
	Done    bool        `json:"done" doc:"It is down"`
	Where   string      `json:"where" doc:"Where it lies, in words"`
	Zone    string      `json:"zone" doc:"The drop zone it lies in; empty: none"`
	At      *line.Point `json:"at" doc:"Where its middle lies; null: not known"`
	MassKg  wood.Range  `json:"mass_kg"`
	Logging job.Logging `json:"logging" doc:"How it is sawn, defaults filled in"`
	Parts   []Part      `json:"parts" nullable:"false" doc:"Its wood: the stem or the limb it is first, then the limbs on it"`
	LogsKg  wood.Range  `json:"logs_kg"`
	LogsM3  float64     `json:"logs_m3" doc:"Solid, over bark, a hole in it left out"`
	ChipsKg wood.Range  `json:"chips_kg" doc:"Brush, and wood thinner than what is kept as logs"`
	ChipsM3 float64     `json:"chips_m3" doc:"As chips, loose"`
	Said    string      `json:"said"`
}

// A Part is one stem or limb of a piece, sawn.
type Part struct {
	Title   string       `json:"title"`
	LengthM float64      `json:"length_m"`
	Outline [][2]float64 `json:"outline" nullable:"false" doc:"From its butt: how far along, and diameter, m"`
	Logs    []Log        `json:"logs" nullable:"false"`
	Cuts    []SawCut     `json:"cuts" nullable:"false" doc:"In the order in which they are made, from the thin end"`
}

// A Log is one length of it.
type Log struct {
	FromM     float64    `json:"from_m" doc:"From the butt of its part"`
	ToM       float64    `json:"to_m"`
	LengthM   float64    `json:"length_m"`
	DiameterM float64    `json:"diameter_m" doc:"At its end towards the butt"`
	ThinM     float64    `json:"thin_m" doc:"At its other end"`
	MassKg    wood.Range `json:"mass_kg"`
	VolumeM3  float64    `json:"volume_m3"`
	Lifted    string     `json:"lifted" enum:"by hand,by machine,by neither" doc:"What lifts it, at its heavy end"`
	Short     bool       `json:"short" doc:"Shorter than any length that was wanted"`
}

// A Zone is how a drop zone fills.
type Zone struct {
	assess.Heap
	Said string `json:"said"`
}

// Away is what has to go, planned and gone.
type Away struct {
	LogsKg    wood.Range `json:"logs_kg" doc:"Not kept"`
	LogsM3    float64    `json:"logs_m3" doc:"Solid"`
	StackedM3 float64    `json:"stacked_m3" doc:"Logs as they lie in a load"`
	KeptKg    wood.Range `json:"kept_kg" doc:"Logs that stay here"`
	ChipsKg   wood.Range `json:"chips_kg"`
	ChipsM3   float64    `json:"chips_m3"`
	GoneLogs  float64    `json:"gone_logs_kg"`
	GoneChips float64    `json:"gone_chips_kg"`
}

// Of works out what becomes of a job's wood.
func Of(document *job.Job, o assess.Options) (Ground, error) {
	g := Ground{Settings: document.OnGround(), Pieces: []Piece{}, Zones: []Zone{}, Moves: []MoveFigures{}, Trucks: []Loads{}, Cautions: []string{}}
	f, a := assess.Prepare(document, &o)
	if f == nil {
		g.Said = assess.StateWithout(&a)
		return g, nil
	}
	g.Settings = f.Job.OnGround()
	f.Learn(&a)
	lying, filled := f.Lie(&o)
	for i := range lying {
		g.Pieces = append(g.Pieces, g.piece(&lying[i], o.Units))
	}
	for i := range filled {
		g.Zones = append(g.Zones, zoneOf(&filled[i], o.Units))
	}
	for i := range g.Settings.Moves {
		g.Moves = append(g.Moves, g.move(f, &g.Settings.Moves[i]))
	}
	g.away()
	for i := range g.Settings.Trucks {
		g.Trucks = append(g.Trucks, g.loads(&g.Settings.Trucks[i], o.Units))
	}
	g.Said = g.whole(o.Units)
	g.cautions()
	return g, nil
}

// piece saws what one pick brings down.
func (g *Ground) piece(l *assess.Lying, system units.System) Piece {
	p := Piece{
		ID: l.Pick.ID, Number: l.Number, Title: l.Title, Tree: l.Tree, Species: l.Species, Done: l.Pick.Done, Where: l.Where, Zone: l.Zone, At: l.At,
		MassKg: l.Kg, Logging: g.Settings.LoggingOf(l.Pick.ID), Parts: []Part{},
	}
	ends := l.Kg.Times(1 / l.Kg.Likely)
	logs := 0.0
	for i := range l.Members {
		part := g.part(&l.Members[i], &p.Logging, ends)
		if i == 0 {
			part.Cuts = g.saw(&l.Members[i], &part, &p.Logging, ends, system)
		}
		for _, log := range part.Logs {
			logs += log.MassKg.Likely
			p.LogsM3 += log.VolumeM3
		}
		p.Parts = append(p.Parts, part)
	}
	p.LogsKg = ends.Times(logs)
	p.ChipsKg = ends.Times(max(0, l.Kg.Likely-logs))
	p.ChipsM3 = p.ChipsKg.High / *g.Settings.ChipsKgM3
	p.Said = p.said(system)
	return p
}

// said is a piece in a sentence.
func (p *Piece) said(system units.System) string {
	count, heaviest := 0, 0.0
	for i := range p.Parts {
		for _, log := range p.Parts[i].Logs {
			count, heaviest = count+1, max(heaviest, log.MassKg.High)
		}
	}
	chips := ""
	if p.ChipsM3 >= 0.05 {
		chips = fmt.Sprintf("%s of chips, %s", units.Print(units.Volume, system, p.ChipsM3), units.Print(units.Mass, system, p.ChipsKg.Likely))
	}
	switch {
	case count == 0 && chips == "":
		return "Nothing to speak of."
	case count == 0:
		return "All of it goes to chips: " + chips + "."
	}
	said := fmt.Sprintf("%s, %s, the heaviest up to %s", counted(count, "log"), units.Print(units.Mass, system, p.LogsKg.Likely), units.Print(units.Mass, system, heaviest))
	if chips != "" {
		said += "; " + chips
	}
	return said + "."
}

// counted is a number of things in words.
func counted(n int, what string) string { return plural(n, what, what+"s") }

// plural is a number of things whose plural is a word of its own.
func plural(n int, one, many string) string {
	if n == 1 {
		return "1 " + one
	}
	return fmt.Sprintf("%d %s", n, many)
}

func zoneOf(h *assess.Heap, system units.System) Zone {
	z := Zone{Heap: *h}
	last := h.After[len(h.After)-1]
	share := math.Round(100 * last.CoversM2 / h.AreaM2)
	z.Said = fmt.Sprintf("%s, %s in all: they cover %.0f %% of it.", counted(last.Pieces, "piece"), units.Print(units.Mass, system, last.Kg), min(share, 999))
	for _, after := range h.After {
		if after.Number == h.Full {
			z.Said = fmt.Sprintf("After pick %d it holds %s in %s and is covered: clear it. %s", after.Number, units.Print(units.Mass, system, after.Kg), counted(after.Pieces, "piece"), z.Said)
		}
	}
	return z
}

// away adds up what has to go.
func (g *Ground) away() {
	a := &g.Away
	add := func(to *wood.Range, more wood.Range) {
		*to = wood.Range{Low: to.Low + more.Low, Likely: to.Likely + more.Likely, High: to.High + more.High}
	}
	for i := range g.Pieces {
		p := &g.Pieces[i]
		add(&a.ChipsKg, p.ChipsKg)
		a.ChipsM3 += p.ChipsM3
		if p.Logging.Kept {
			add(&a.KeptKg, p.LogsKg)
			continue
		}
		add(&a.LogsKg, p.LogsKg)
		a.LogsM3 += p.LogsM3
	}
	a.StackedM3 = a.LogsM3 / *g.Settings.StackShare
	for _, load := range g.Settings.Gone {
		if load.What == job.TakesLogs {
			a.GoneLogs += load.Kg
		} else {
			a.GoneChips += load.Kg
		}
	}
}

// whole is all of it in a sentence or two.
func (g *Ground) whole(system units.System) string {
	if len(g.Pieces) == 0 {
		return "No pick brings anything down yet."
	}
	count := 0
	for i := range g.Pieces {
		for k := range g.Pieces[i].Parts {
			count += len(g.Pieces[i].Parts[k].Logs)
		}
	}
	a := &g.Away
	said := fmt.Sprintf("%s: %s to go", counted(count, "log"), units.Print(units.Mass, system, a.LogsKg.Likely))
	if a.KeptKg.Likely > 0 {
		said += fmt.Sprintf(", %s to stay", units.Print(units.Mass, system, a.KeptKg.Likely))
	}
	said += fmt.Sprintf("; %s of chips, %s.", units.Print(units.Volume, system, a.ChipsM3), units.Print(units.Mass, system, a.ChipsKg.Likely))
	if gone := a.GoneLogs + a.GoneChips; gone > 0 {
		said += fmt.Sprintf(" Gone: %s.", units.Print(units.Mass, system, gone))
	}
	return said
}

// cautions are what must be read with the figures, each once.
func (g *Ground) cautions() {
	neither, sawn := 0, false
	for i := range g.Pieces {
		for k := range g.Pieces[i].Parts {
			sawn = sawn || len(g.Pieces[i].Parts[k].Logs) > 0
			for _, log := range g.Pieces[i].Parts[k].Logs {
				if log.Lifted == liftsNeither {
					neither++
				}
			}
		}
	}
	if sawn {
		g.Cautions = append(g.Cautions,
			"A log lies under tension and pressure: look what carries it before the saw goes in, stand where it will not roll, and never two people at one stem.",
			"What chips and stacks take up, and what a person lifts, are common practice, no source; wet chips weigh up to a third more.")
	}
	if len(g.Moves) > 0 {
		g.Cautions = append(g.Cautions, "A log that catches on a root or a stump pulls up to what winch or line can give: nobody in the bight, nobody below a log on a slope.")
	}
	if g.sawn > mostLogs {
		g.Cautions = append(g.Cautions, fmt.Sprintf("Only the first %d logs are worked out: the rest is counted as chips. Ask for longer logs.", mostLogs))
	}
	if neither > 0 {
		g.Cautions = append(g.Cautions, fmt.Sprintf("%s can be lifted neither by hand nor by a machine that is named: saw them shorter, split them, or drag them.", counted(neither, "log")))
	}
}
