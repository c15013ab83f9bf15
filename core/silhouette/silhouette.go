// Package silhouette makes a whole plausible tree of a species, one girth, a height and an outline,
// for the first minute: something to weigh and to order, every part of it a guess that readings
// replace. The outlines are drawn from trees of the kind (common practice, no source); limbs are on
// the thick side, as what is guessed is better guessed heavy.
package silhouette

import (
	"fmt"
	"math"

	"elkstay/core/intake"
	"elkstay/core/job"
	"elkstay/core/wood"
)

// The outlines.
const (
	Forest  = "forest"  // grown among others: a long stem, a small crown
	Open    = "open"    // grown alone: low, long limbs
	Leaning = "leaning" // as forest, leaning
	Forked  = "forked"  // two leaders
	Topped  = "topped"  // topped before, with upright regrowth
)

// A Request asks for a tree.
type Request struct {
	Text    string   `json:"text,omitempty" maxLength:"200" doc:"In a sentence, such as: ash 19 m girth 6ft 4in; what it says goes before the fields"`
	Species string   `json:"species,omitempty" maxLength:"60" doc:"Id of the wood table"`
	GirthM  *float64 `json:"girth_m,omitempty" exclusiveMinimum:"0" maximum:"30" doc:"Round the stem at breast height, m"`
	HeightM *float64 `json:"height_m,omitempty" exclusiveMinimum:"0" maximum:"120" doc:"Of its top, m"`
	Outline string   `json:"outline,omitempty" enum:"forest,open,leaning,forked,topped" doc:"Default open"`
}

// A Guess is a job with the tree in it, and what was understood.
type Guess struct {
	Job  job.Job `json:"job"`
	Said string  `json:"said" doc:"What was understood, to be checked"`
}

// breast is where a girth is taken, m.
const breast = 1.3

// How long limbs are against the tree, how thick against the stem where they leave, where the crown
// begins, how many there are, and how far from upright they stand, at the crown's foot and its top.
type shape struct {
	from        float64 // of the height
	long, short float64 // of the height
	thick       float64 // of the stem's diameter there
	flat, steep float64 // degrees from upright
	count       int
}

var shapes = map[string]shape{
	Forest:  {0.50, 0.20, 0.08, 0.30, 60, 35, 9},
	Leaning: {0.50, 0.22, 0.08, 0.30, 60, 35, 9},
	Open:    {0.22, 0.38, 0.12, 0.42, 68, 38, 12},
	Forked:  {0.48, 0.24, 0.09, 0.34, 60, 35, 7},
	Topped:  {0.78, 0.30, 0.24, 0.30, 30, 12, 8},
}

// stemAt is a stem's diameter at a height of one whose diameter at breast height is known: to a
// point a twelfth as thick, a little fuller than a cone; thicker below.
func stemAt(breastM, heightM, at float64) float64 {
	if at <= breast {
		return breastM * (1 + 0.12*(breast-at))
	}
	share := (at - breast) / math.Max(0.5, heightM-breast)
	return breastM * (1 - 0.92*math.Pow(share, 1.15))
}

// Make makes the tree of a request, or says what is missing in it.
func Make(r Request) (Guess, error) {
	var faults intake.Faults
	if r.Text != "" {
		read(&r, &faults)
	}
	if r.Outline == "" {
		r.Outline = Open
	}
	species, known := wood.Find(r.Species)
	switch {
	case r.Species == "" && len(faults) == 0:
		faults.Add("body.species", nil, "a species of the wood table, by any of its names", "it is not said what tree it is")
	case r.Species != "" && !known:
		faults.Add("body.species", r.Species, "an id of the wood table", "%q is no species of the wood table", r.Species)
	}
	if r.GirthM == nil {
		faults.Add("body.girth_m", nil, "more than 0 and at most 30 m", "there is no girth, nor a diameter")
	}
	if r.HeightM == nil {
		faults.Add("body.height_m", nil, "more than 2 and at most 120 m", "there is no height")
	} else if *r.HeightM <= 2 {
		faults.Add("body.height_m", *r.HeightM, "more than 2 and at most 120 m", "a tree %g m high is none to be taken apart", *r.HeightM)
	}
	if len(faults) > 0 {
		return Guess{}, faults
	}
	girth, height := *r.GirthM, *r.HeightM
	d := girth / math.Pi
	// Thinner than a sixtieth of its height, or thicker than a third, it is a slip of units.
	if d < height/120 || d > height/3 {
		faults.Add("body.girth_m", girth, fmt.Sprintf("between %.2g and %.3g m for a tree %g m high", math.Pi*height/120, math.Pi*height/3, height), "a girth of %.3g m on a tree %g m high is not likely: is it in other units?", girth, height)
		return Guess{}, faults
	}
	g := Guess{Job: made(r, species), Said: fmt.Sprintf("%s, %.3g m high, %.3g m round (%.0f cm through) at breast height, %s. All else is a guess: replace it by readings.", species.CommonName, height, girth, 100*d, words[r.Outline])}
	g.Job.Note = g.Said
	return g, nil
}

var words = map[string]string{
	Forest: "grown among others", Open: "grown alone", Leaning: "leaning", Forked: "forked", Topped: "topped before",
}

// made is the job with the tree.
func made(r Request, species wood.Species) job.Job {
	girth, height := *r.GirthM, *r.HeightM
	d := girth / math.Pi
	s := shapes[r.Outline]
	j := job.NewJob(species.CommonName)
	t := &j.Trees[0]
	t.Wood = wood.Wood{Species: species.ID}
	top := height
	if r.Outline == Topped {
		top = 0.8 * height // where it was cut; the rest is regrowth
	}
	tape := func(at float64, measured bool) {
		one := job.Reading{AtM: at, Tape: job.Girth, TapeM: math.Round(1000*math.Pi*stemAt(d, height, at)) / 1000, Offered: !measured}
		if measured {
			one.TapeM = girth
		}
		t.Readings = append(t.Readings, one)
	}
	tape(0.3, false)
	tape(breast, true)
	if middle := math.Round(10*height/2) / 10; middle > breast+0.5 {
		tape(middle, false)
	}
	narrow := math.Max(0.02, stemAt(d, height, top))
	t.HeightM, t.TopDiameterM = &top, &narrow
	if r.Outline == Leaning {
		lean, towards := 12.0, 90.0
		t.LeanDeg, t.LeanTowardsDeg, t.LeanNoted = &lean, &towards, "guessed"
	}
	limb := func(name string, at, azimuth, angle, thick, long float64) {
		n := len(t.Limbs) + 1
		t.Limbs = append(t.Limbs, job.Limb{
			ID: fmt.Sprintf("l%d", n), Name: name, AtM: math.Round(100*at) / 100, AzimuthDeg: math.Round(math.Mod(azimuth, 360)), AngleDeg: math.Round(angle),
			DiameterM: math.Max(0.02, math.Round(1000*thick)/1000), LengthM: math.Max(0.3, math.Round(10*long)/10), Guess: true,
		})
	}
	if r.Outline == Forked {
		at := 0.45 * height
		limb("second leader", at, 200, 15, 0.75*stemAt(d, height, at), 0.5*height)
	}
	for i := range s.count {
		share := float64(i) / float64(s.count-1)
		at := top * (s.from + (0.94-s.from)*share)
		if r.Outline == Topped {
			at = top * (0.93 + 0.06*share)
		}
		here := stemAt(d, height, at)
		thick := s.thick * here
		if r.Outline == Topped {
			thick = 0.25 * here
		}
		limb(fmt.Sprintf("limb %d", i+1), at, 40+137.5*float64(i), s.flat+(s.steep-s.flat)*share, thick, height*(s.long+(s.short-s.long)*share))
	}
	// The lowest limb to begin with, so that something is weighed at once.
	first := t.Limbs[0]
	if r.Outline == Forked {
		first = t.Limbs[1]
	}
	j.Picks = append(j.Picks, job.Pick{ID: "p1", What: job.WhatLimb, Limb: first.ID, Way: job.WayFree})
	return j
}
