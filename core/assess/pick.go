package assess

import (
	"math"
	"unicode"
	"unicode/utf8"

	"elkstay/core/job"
	"elkstay/core/policy"
	"elkstay/core/space"
)

// Title says what a pick takes.
func (v *Survey) Title(o *Outcome) string {
	if o.Pick.Label != "" {
		return o.Pick.Label
	}
	of := ""
	if len(v.Surveys) > 1 {
		of = " of " + v.Measured.Title()
	}
	switch o.Pick.What {
	case job.WhatTop:
		return "Top" + of + " from " + v.Height(o.FromM)
	case job.WhatStem:
		return "Stem" + of + " from " + v.Height(o.FromM)
	}
	i := v.LimbOf(o.Pick)
	if i < 0 {
		return "Limb " + o.Pick.Limb + of
	}
	first, size := utf8.DecodeRuneInString(v.Limbs[i].Title())
	name := string(unicode.ToUpper(first)) + v.Limbs[i].Title()[size:] + of
	if o.FromM > 0 {
		return name + " from " + v.Height(o.FromM)
	}
	return name
}

// basis is what a piece's weight rests on.
func (v *Survey) basis(o *Outcome) Basis {
	m := &o.Weight
	stem, limbs := m.Stem.Likely > 0, m.Stem.Likely < m.Kg.Likely
	switch {
	case o.Weighed:
		return Weighed
	case o.Pick.MassKg != nil, m.GuessedKg > 0, v.Offered && stem:
		return Guessed
	case v.Species == nil && limbs:
		return Default
	case stem && v.Taught.Stem == nil && len(v.Measured.Readings) == 1:
		return OneReading
	case !m.Known(), stem && v.Taught.Stem == nil, limbs && v.Taught.Limbs == nil:
		return Measured
	}
	return Taught
}

// called is what is called of a pick: none, where its verdict stands against it, but what that is.
func called(f *PickFigures) string {
	if f.Verdict == policy.Over || f.Verdict == policy.NotHeld {
		return "Not like this: " + f.Worst
	}
	return f.Call
}

// figures gives a pick in short.
func (v *Survey) figures(o *Outcome) PickFigures {
	f := PickFigures{
		ID: o.Pick.ID, Tree: v.Measured.ID, Number: o.Number, Title: v.Title(o), Faults: o.Faults, Verdict: v.Verdict(o), FromM: o.FromM, ToM: o.ToM, LengthM: max(0, o.Length()),
		What: o.Pick.What, Way: o.Pick.Way, Call: o.Made.Words().Call, Basis: v.basis(o), Done: o.Pick.Done, FallTowardsDeg: o.Settings.FallTowardsDeg,
	}
	if f.Faults == nil {
		f.Faults = []space.OrderFault{}
	}
	if !o.TakesNothing() {
		wood := o.AsCut()
		f.MassKg, f.AsCut = &o.Weight.Kg, &wood
		middle := space.PointOf(o.Along(o.Length() / 2))
		f.Middle = &middle
	}
	for i := range o.Loads {
		// Of what cannot happen no share of a limit is told.
		if use, known, judged := v.judge(&o.Loads[i]); known && !o.Stopped() && (f.Nearest == nil || use > f.Nearest.UsePct) {
			f.Nearest = &Nearest{o.Number, o.Loads[i].Part, o.Loads[i].Name, use, judged}
		}
	}
	if o.Rig != nil {
		tie := o.Settings.TieM
		f.Rig, f.TieM = o.Rig.Name, &tie
		if o.Settings.How == job.ByWraps && !o.Across {
			wraps := o.Settings.Wraps
			f.Wraps = &wraps
		}
	}
	if held := o.Made.Held(); held != nil {
		f.PeakKn = &held.PeakKn
		if held.Holds {
			f.RunM = &held.RunM
		}
	}
	if clear := o.clearance(); !math.IsInf(clear, 1) {
		f.ClearanceM = &clear
	}
	if advice := v.advise(o); advice != nil && len(advice.Cuts) > 0 {
		f.Cut = advice.Cuts[0].Cut
	}
	f.Worst = v.worst(o, &f)
	f.Call = called(&f)
	return f
}
