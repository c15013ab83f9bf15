package assess

import (
	"fmt"

	"elkstay/core/job"
	"elkstay/core/timber"
	"elkstay/core/units"
	"elkstay/core/working"
)

// A DefectFigures is what a defect means for the work.
type DefectFigures struct {
	ID        string `json:"id"`
	Title     string `json:"title" doc:"What it is and where"`
	Climbing  string `json:"climbing"`
	Hinging   string `json:"hinging"`
	Anchoring string `json:"anchoring"`
	Source    string `json:"source"`
}

// meanings are what defects mean for climbing, hinging and anchoring.
var meanings = map[string][3]string{
	job.DefectDecay: {
		"Do not trust a lanyard round it: tie in to sound wood above or below, or to another tree.",
		"Hinge in sound wood only, with a shallow face: decayed wood lets go early and does not steer.",
		"No block on it or close above it: pull on sound wood, with the load straight down the stem.",
	},
	job.DefectCrack: {
		"It can open under your weight: strap it before you climb past it, and tie in elsewhere.",
		"It can run up the stem as the cut opens: no head lean without a strap, and stand to the side.",
		"No shock on either side of it: it opens across, so hold both sides or neither.",
	},
	job.DefectUnion: {
		"Two stems with bark between them hold poorly sideways: do not load one from the other.",
		"Take one stem off above the union and do not let its weight lever the other.",
		"A block on one stem pulls the union open: set it below, or strap both together first.",
	},
	job.DefectIvy: {
		"It hides what is beneath: strip it where you tie in and where you cut.",
		"Clear the bark round the cut: you have to see the fibres and the kerf.",
		"Strip it under slings: they slip on it and settle under load.",
	},
	job.DefectHung: {
		"Do not work beneath it: bring it down first.",
		"The saw and the moving stem can free it at any moment.",
		"Never hold to it, and keep lines clear of where it will pass.",
	},
	job.DefectDead: {
		"Dead wood breaks without a warning: climb another tree, or come from a platform.",
		"It hinges badly and breaks early: shallow face, and another way of steering it.",
		"No anchor on it, and no line that passes beneath it.",
	},
}

// Shell cautions begin where the sound shell is less than this share of the radius.
const (
	shellCaution = 1.0 / 3
	shellSource  = "caution at a third of the radius: Mattheck and Breloer, The Body Language of Trees, from memory"
)

// A Shell is how much sound wood stands round a cavity.
type Shell struct {
	AtM     float64 `json:"at_m"`
	ShellM  float64 `json:"shell_m" doc:"Thickness of the sound shell"`
	RadiusM float64 `json:"radius_m" doc:"Of the stem there"`
	Share   float64 `json:"share" doc:"Shell over radius"`
	Caution bool    `json:"caution" doc:"Less than a third"`
	Words   string  `json:"words" doc:"In a sentence"`
	Source  string  `json:"source"`
}

// defectFigures says what each defect means.
func defectFigures(t *job.Tree, system units.System) []DefectFigures {
	list := make([]DefectFigures, len(t.Defects))
	names := map[string]string{job.DefectDecay: "Decay", job.DefectCrack: "Crack", job.DefectUnion: "Co-dominant union", job.DefectIvy: "Ivy", job.DefectHung: "Hung branch", job.DefectDead: "Dead wood"}
	for i := range t.Defects {
		d := &t.Defects[i]
		where := units.Print(units.Height, system, d.AtM)
		if d.To() > d.AtM {
			where = units.Figure(units.Height, system, d.AtM) + " to " + units.Print(units.Height, system, d.To())
		}
		if limb := t.Limb(d.Limb); limb != nil {
			where += " along " + limb.Title()
		}
		said := meanings[d.Kind]
		list[i] = DefectFigures{d.ID, names[d.Kind] + ", " + where, said[0], said[1], said[2], working.Common}
		if d.Note != "" {
			list[i].Title += ": " + d.Note
		}
	}
	return list
}

// shells lists the sound shell wherever a cavity was measured.
func shells(stem *timber.Stem, system units.System) []Shell {
	list := []Shell{}
	for _, s := range stem.Stations {
		if s.CavityM <= 0 {
			continue
		}
		one := Shell{AtM: s.AtM, ShellM: (s.DiameterM - s.CavityM) / 2, RadiusM: s.DiameterM / 2, Source: shellSource}
		one.Share = one.ShellM / one.RadiusM
		one.Caution = one.Share < shellCaution
		rest := "a third or more"
		if one.Caution {
			rest = "less than a third: sound it all round, and take it for weaker than the figures say"
		}
		one.Words = fmt.Sprintf("At %s the shell is %s of a radius of %s, %.0f %%: %s.", units.Print(units.Height, system, s.AtM),
			units.Print(units.Diameter, system, one.ShellM), units.Print(units.Diameter, system, one.RadiusM), 100*one.Share, rest)
		list = append(list, one)
	}
	return list
}
