package plan

import (
	"fmt"

	"elkstay/core/drop"
	"elkstay/core/gear"
	"elkstay/core/intake"
	"elkstay/core/line"
	"elkstay/core/units"
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
	Verdict string         `json:"verdict" enum:"within,close,over,not known"`
}

// Ask answers a what-if. The error is intake.Faults.
func Ask(job *Job, w WhatIf, options Options) (Answer, error) {
	answer := Answer{Ropes: []RopeAnswer{}}
	v, a := prepare(job, &options)
	if v == nil {
		answer.Reason = stateWithout(&a)
		return answer, nil
	}
	job = v.job
	index := -1
	for i := range job.Picks {
		if job.Picks[i].ID == w.Pick {
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
	t := v.trying(index)
	if t.rig == nil || t.rig.Rope == nil || t.pick.Way == WayFree || t.pick.Way == WayThrown || t.pick.Way == WayCrane {
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
		how := Catch{How: ByRun, RunM: w.Value}
		t.pick.Catch = &how
	}
	if w.Ask == AskLength {
		t.askLength(&answer, w)
		return answer, nil
	}
	o := t.workWith(&t.pick, t.rig, t.number, &t.now)
	if o.stopped() || o.kase == nil {
		answer.Reason = "This cannot be worked out for this way down."
		if o.stopped() {
			answer.Reason = "It cannot happen: " + o.faults[0].Message + "."
		}
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

// cap is the line tension that a held peak allows.
func heldLine(w WhatIf, o *outcome) (float64, bool) {
	switch w.Hold {
	case HoldLine:
		return *w.Value, true
	case HoldBlock:
		return *w.Value / o.path.Points[0].ResultantKn, true
	}
	return 0, false
}

func (t *tried) askLength(answer *Answer, w WhatIf) {
	cut, found, stop, stopped := t.longest(func(o *outcome) string {
		if w.Hold == HoldLine || w.Hold == HoldBlock {
			if o.stopped() {
				return t.stops(o)
			}
			if o.kase == nil {
				return stopsOrder
			}
			if most, _ := heldLine(w, o); o.catch.LinePeakKn > most {
				return w.Hold
			}
			return ""
		}
		return t.stops(o)
	})
	answer.Found = found
	if !found {
		why := "the tie, which must be within the piece"
		if stopped != nil {
			why = t.stopWords(stop, stopped)
		}
		answer.Reason = fmt.Sprintf("No piece will do: %s stops the shortest one.", why)
		return
	}
	o := t.at(cut)
	length := o.length()
	answer.CutM, answer.LengthM = &cut, &length
	answer.Reason = t.longestWords(cut, stop, stopped)
	t.peaks(answer, o)
}

func (t *tried) peaks(answer *Answer, o *outcome) {
	if o.kase == nil {
		return
	}
	lineKn, block := o.catch.LinePeakKn, o.catch.LinePeakKn*o.path.Points[0].ResultantKn
	answer.LineKn, answer.BlockKn = &lineKn, &block
	if o.catch.Holds {
		run := o.catch.RunM
		answer.RunM = &run
	}
}

func (t *tried) askPeak(answer *Answer, o *outcome) {
	t.peaks(answer, o)
	length := o.length()
	answer.Found, answer.LengthM = true, &length
	force := func(kn float64) string { return units.Print(units.Force, t.system, kn) }
	run := "it is never stopped"
	if answer.RunM != nil {
		run = "run " + t.height(*answer.RunM)
	}
	answer.Reason = fmt.Sprintf("Line %s, block %s, %s.", force(*answer.LineKn), force(*answer.BlockKn), run)
}

// askHold finds the run, and the hold and wraps that give it.
func (t *tried) askHold(answer *Answer, w WhatIf, o *outcome) {
	most, held := heldLine(w, o)
	governs := w.Hold
	switch {
	case w.Hold == HoldRun:
		hold := drop.HoldFor(o.caught(0), *w.Value)
		most, held = hold/o.ratio(), true
	case !held:
		if wanted := t.wanted(o); wanted != nil {
			most, governs, held = wanted.LineKn, wanted.Governs, true
		}
	}
	if !held {
		answer.Reason = "No limit is known: there is nothing to keep to."
		return
	}
	force := func(kn float64) string { return units.Print(units.Force, t.system, kn) }
	run, reachable := drop.RunFor(o.caught(most), most)
	if !reachable {
		answer.Reason = fmt.Sprintf("No run helps: %s on the line (%s) is no more than the piece pulls hanging still.", force(most), governs)
		return
	}
	hold := o.ratio() * most
	wraps := line.WrapsFor(hold, o.settings.HandKn, o.settings.Friction)
	block := most * o.path.Points[0].ResultantKn
	answer.Found, answer.RunM, answer.HoldKn, answer.Wraps, answer.LineKn, answer.BlockKn = true, &run, &hold, &wraps, &most, &block
	answer.Reason = fmt.Sprintf("Let it run %s: line %s (%s), %.1f wraps with %s in the hand.", t.height(run), force(most), governs, wraps, force(o.settings.HandKn))
}

// askRope tries every typical rope and every rope of the job on this pick.
func (t *tried) askRope(answer *Answer) {
	ropes := gear.TypicalRopes()
	for i := range t.job.Rigs {
		if r := t.job.Rigs[i].Rope; r != nil {
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
		o := t.workWith(&t.pick, &rig, t.number, &t.now)
		if o.kase == nil {
			continue
		}
		one := RopeAnswer{Rope: ropes[i], PeakKn: o.catch.LinePeakKn, Verdict: t.pickVerdict(o)}
		if use := t.use(o); use > 0 {
			one.UsePct = &use
		}
		if o.catch.Holds {
			run := o.catch.RunM
			one.RunM = &run
		}
		answer.Ropes = append(answer.Ropes, one)
		if k := len(answer.Ropes) - 1; one.Verdict != Over && one.UsePct != nil && (best < 0 || *one.UsePct < *answer.Ropes[best].UsePct) {
			best = k
		}
	}
	if best < 0 {
		answer.Reason = "None of the ropes at hand keeps every limit: a smaller piece, or more run."
		return
	}
	answer.Found = true
	answer.Reason = fmt.Sprintf("%s does it with the most to spare: %.0f %% of the nearest limit.", answer.Ropes[best].Rope.Name, *answer.Ropes[best].UsePct)
}
