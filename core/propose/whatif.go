package propose

import (
	"cmp"
	"fmt"
	"math"

	"elkstay/core/assess"
	"elkstay/core/gear"
	"elkstay/core/intake"
	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/policy"
	"elkstay/core/units"
	"elkstay/core/ways"
)

// What can be asked of a pick.
const (
	AskLength = "length" // how long may it be
	AskRun    = "run"    // how far must it run
	AskWraps  = "wraps"  // how many wraps
	AskRope   = "rope"   // which rope would do
	AskPeak   = "peak"   // what does it come to
)

// What can be held while asking.
const (
	HoldLimits = "limits" // every known limit
	HoldLine   = "line"   // the line's peak, kN
	HoldBlock  = "block"  // the block's peak, kN
	HoldLength = "length" // the piece's length, m
	HoldRun    = "run"    // the run, m
)

// A WhatIf holds one thing and asks for another.
type WhatIf struct {
	Pick  string   `json:"pick" minLength:"1" maxLength:"40" doc:"Id of the pick"`
	Ask   string   `json:"ask" enum:"length,run,wraps,rope,peak"`
	Hold  string   `json:"hold" enum:"limits,line,block,length,run" doc:"What stays as it is"`
	Value *float64 `json:"value,omitempty" minimum:"0" maximum:"5000" doc:"Of what is held: kN or m; none for the limits"`
}

// An Answer is what would do.
type Answer struct {
	Found   bool         `json:"found"`
	Reason  string       `json:"reason" doc:"In a sentence, numbers first"`
	CutM    *float64     `json:"cut_m" doc:"Where to cut for it; null when the cut stays"`
	LengthM *float64     `json:"length_m"`
	RunM    *float64     `json:"run_m"`
	Wraps   *float64     `json:"wraps"`
	HoldKn  *float64     `json:"hold_kn" doc:"Tension on the lead at which rope must run"`
	LineKn  *float64     `json:"line_kn"`
	BlockKn *float64     `json:"block_kn"`
	Ropes   []RopeAnswer `json:"ropes" nullable:"false" doc:"When ropes are asked for"`
}

// A RopeAnswer is what one rope would do.
type RopeAnswer struct {
	Rope    gear.NamedRope `json:"rope"`
	PeakKn  float64        `json:"peak_kn"`
	UsePct  *float64       `json:"use_pct" doc:"Of the nearest limit; null when none is known"`
	RunM    *float64       `json:"run_m" doc:"Null when it is never stopped"`
	Verdict policy.Verdict `json:"verdict" enum:"within,close,over,not known,not held"`
}

// Ask answers a what-if. The error is intake.Faults.
func Ask(document *job.Job, w WhatIf, options assess.Options) (Answer, error) {
	answer := Answer{Ropes: []RopeAnswer{}}
	f, a := assess.Prepare(document, &options)
	if f == nil {
		answer.Reason = assess.StateWithout(&a)
		return answer, nil
	}
	index := -1
	for i := range f.Job.Picks {
		if f.Job.Picks[i].ID == w.Pick {
			index = i
		}
	}
	var faults intake.Faults
	if index < 0 {
		faults.Add("query.pick", w.Pick, "the id of a pick", "there is no pick %q", w.Pick)
	}
	if (w.Value == nil) != (w.Hold == HoldLimits) {
		faults.Add("query.value", w.Value, "a value for what is held; none for the limits", "to hold %s takes %s", w.Hold, map[bool]string{true: "no value", false: "a value"}[w.Hold == HoldLimits])
	}
	if w.Ask == w.Hold || w.Ask == AskPeak && (w.Hold == HoldLine || w.Hold == HoldBlock) {
		faults.Add("query.ask", w.Ask, "something other than what is held", "%s is held: it cannot be asked for", w.Hold)
	}
	if len(faults) > 0 {
		return answer, faults
	}
	v := f.Of(&f.Job.Picks[index])
	if v == nil {
		answer.Reason = "The tree of this pick is not measured yet."
		return answer, nil
	}
	f.Learn(&a)
	t := trying(f, v, index)
	if t.rig == nil || t.rig.Rope == nil || !ways.OnLine(t.pick.Way) {
		if w.Ask != AskLength {
			answer.Reason = "This piece is on no line: there is nothing to ask of it but its length."
			return answer, nil
		}
	}
	if w.Hold == HoldLength {
		_, high := t.span()
		cut := high - *w.Value
		t.pick.CutM = &cut
	}
	if w.Hold == HoldRun {
		how := job.Catch{How: job.ByRun, RunM: w.Value}
		t.pick.Catch = &how
	}
	if w.Ask == AskLength {
		t.askLength(&answer, w)
		return answer, nil
	}
	o := t.WorkWith(&t.pick, t.rig, t.number, &t.now)
	switch {
	case o.Stopped():
		answer.Reason = "It cannot happen: " + o.Faults[0].Message + "."
		return answer, nil
	case !o.Drops():
		answer.Reason = notForThisWay
		return answer, nil
	}
	switch w.Ask {
	case AskRope:
		t.askRope(&answer)
	case AskPeak:
		t.askPeak(&answer, o)
	default:
		t.askHold(&answer, w, o)
	}
	return answer, nil
}

// notForThisWay is said where a piece falls onto no line.
const notForThisWay = "This cannot be worked out for this way down."

// heldLine is the line tension that a held peak allows.
func heldLine(w WhatIf, o *assess.Outcome) (float64, bool) {
	switch w.Hold {
	case HoldLine:
		return *w.Value, true
	case HoldBlock:
		return *w.Value / o.Rope().Path.Points[0].ResultantKn, true
	}
	return 0, false
}

func (t *tried) askLength(answer *Answer, w WhatIf) {
	noDrop := false
	cut, found, stop, stopped := t.longest(func(o *assess.Outcome) string {
		if w.Hold == HoldLine || w.Hold == HoldBlock {
			if o.Stopped() {
				return t.Stops(o)
			}
			if noDrop = noDrop || !o.Drops(); noDrop {
				return w.Hold
			}
			if most, _ := heldLine(w, o); o.Made.Held().PeakKn > most {
				return w.Hold
			}
			return ""
		}
		return t.Stops(o)
	})
	if noDrop {
		answer.Reason = notForThisWay
		return
	}
	answer.Found = found
	if !found {
		why := "the tie, which must be within the piece"
		if stopped != nil {
			why = t.StopWords(stop, stopped)
		}
		answer.Reason = fmt.Sprintf("No piece will do: %s stops the shortest one.", why)
		return
	}
	o := t.at(cut)
	length := o.Length()
	answer.CutM, answer.LengthM = &cut, &length
	answer.Reason = t.longestWords(cut, stop, stopped)
	t.peaks(answer, o)
}

func (t *tried) peaks(answer *Answer, o *assess.Outcome) {
	if !o.Drops() {
		return
	}
	held := o.Made.Held()
	lineKn, block := held.PeakKn, held.PeakKn*o.Rope().Path.Points[0].ResultantKn
	answer.LineKn, answer.BlockKn = &lineKn, &block
	if held.Holds {
		answer.RunM = &held.RunM
	}
}

func (t *tried) askPeak(answer *Answer, o *assess.Outcome) {
	t.peaks(answer, o)
	length := o.Length()
	answer.Found, answer.LengthM = true, &length
	force := func(kn float64) string { return units.Print(units.Force, t.System, kn) }
	run := "it is never stopped"
	if answer.RunM != nil {
		run = "run " + t.Height(*answer.RunM)
	}
	answer.Reason = fmt.Sprintf("Line %s, block %s, %s.", force(*answer.LineKn), force(*answer.BlockKn), run)
}

// askHold finds the run, and the hold and wraps that give it.
func (t *tried) askHold(answer *Answer, w WhatIf, o *assess.Outcome) {
	most, held := heldLine(w, o)
	governs, rope := w.Hold, o.Rope()
	var hold, wraps float64
	byWraps := w.Ask == AskWraps
	switch {
	case w.Hold == HoldRun:
		hold, held = rope.HoldFor(rope.DropCase, *w.Value), true
		wraps = math.Ceil(2*line.WrapsFor(hold, o.Settings.HandKn, o.Settings.Friction)) / 2
		if byWraps {
			// By halves it runs no further than asked; its hold and its peak are those of the turns that are taken.
			hold = line.HeldBy(o.Settings.HandKn, wraps, o.Settings.Friction)
		}
		most = rope.PeakWith(hold, byWraps)
	case !held:
		if wanted := rope.Wanted(); wanted != nil {
			most, governs, held = wanted.LineKn, wanted.Governs, true
		}
	}
	if !held {
		answer.Reason = "No limit is known: there is nothing to keep to."
		return
	}
	if w.Hold != HoldRun {
		hold, wraps = rope.HoldWithin(most, byWraps)
	}
	force := func(kn float64) string { return units.Print(units.Force, t.System, kn) }
	run, reachable, slips := rope.RunWith(hold, byWraps)
	if !reachable {
		answer.Reason = fmt.Sprintf("No run helps: a hold that keeps the line to %s (%s) with a quarter more friction does not stop the piece.", force(most), governs)
		return
	}
	if room := rope.DropCase.RoomM; room != nil && run > *room {
		answer.Reason = fmt.Sprintf("No run helps: a hold that keeps the line to %s (%s) with a quarter more friction lets it run %s, and there is room for %s.", force(most), governs, t.Height(run), t.Height(*room))
		return
	}
	block := most * rope.Path.Points[0].ResultantKn
	answer.Found, answer.RunM, answer.HoldKn, answer.Wraps, answer.LineKn, answer.BlockKn = true, &run, &hold, &wraps, &most, &block
	answer.Reason = fmt.Sprintf("Let it run %s: line up to %s (%s), %.1f wraps with %s in the hand.", t.Height(run), force(most), governs, wraps, force(o.Settings.HandKn))
	if slips {
		answer.Reason += " With a quarter less friction nothing stops it."
	}
}

// askRope tries every typical rope and every rope of the job on this pick.
func (t *tried) askRope(answer *Answer) {
	ropes := gear.TypicalRopes()
	for i := range t.Job.Rigs {
		if r := t.Job.Rigs[i].Rope; r != nil {
			ropes = append([]gear.NamedRope{*r}, ropes...)
		}
	}
	best := -1
	seen := map[string]bool{}
	for i := range ropes {
		if seen[ropes[i].Name] {
			continue
		}
		seen[ropes[i].Name] = true
		rig := *t.rig
		rig.Rope = &ropes[i]
		o := t.WorkWith(&t.pick, &rig, t.number, &t.now)
		if !o.Drops() {
			continue
		}
		held := o.Made.Held()
		one := RopeAnswer{Rope: ropes[i], PeakKn: held.PeakKn, Verdict: t.Verdict(o)}
		if use := t.Use(o); use > 0 {
			one.UsePct = &use
		}
		if held.Holds {
			one.RunM = &held.RunM
		}
		answer.Ropes = append(answer.Ropes, one)
		if k := len(answer.Ropes) - 1; one.Verdict != policy.Over && one.UsePct != nil && (best < 0 || *one.UsePct < *answer.Ropes[best].UsePct) {
			best = k
		}
	}
	if best < 0 {
		answer.Reason = "None of the ropes at hand keeps every limit: a smaller piece, or more run."
		return
	}
	answer.Found = true
	answer.Reason = fmt.Sprintf("%s does it with the most to spare: %.0f %% of the nearest limit.", answer.Ropes[best].Rope.Name, *answer.Ropes[best].UsePct)
	if now := t.rig.Rope; now != nil && now.DiameterM > 0 && answer.Ropes[best].Rope.DiameterM > now.DiameterM {
		answer.Reason += fmt.Sprintf(" It is thicker than %s: see that block, device and hands take it.", cmp.Or(now.Name, "the rope there"))
	}
}
