package assess

import (
	"encoding/json"
	"fmt"

	"elkstay/core/hold"
	"elkstay/core/policy"
	"elkstay/core/working"
)

// A Rung is one part of the load's way from the piece to the hand.
type Rung struct {
	Part           string         `json:"part" enum:"piece,tie,line,block,connector,sling,spar,holder,redirect,device,hand,second line,second block,crane,pull,hinge,wedge,push,tag line,stop"`
	Name           string         `json:"name" doc:"What the crew calls the item; empty when unnamed"`
	RestingKn      float64        `json:"resting_kn" doc:"Load with the piece hanging still; of the piece: its likely weight"`
	PeakKn         *float64       `json:"peak_kn" doc:"Load at the peak; of the piece: its weight at the heavy end; null when nothing reaches this part"`
	LimitKn        *float64       `json:"limit_kn" doc:"Null when not known"`
	UsePct         *float64       `json:"use_pct" doc:"Peak in per cent of the limit"`
	Verdict        policy.Verdict `json:"verdict" enum:"within,close,over,not known,not held"`
	Reason         string         `json:"reason" doc:"Where the limit comes from, or why there is none"`
	When           string         `json:"when,omitempty" doc:"At which moment of its course, and in which case of what nobody knows, it is loaded most; absent: nothing is said of that"`
	Decided        string         `json:"decided_by" enum:",marking,knot,bend,condition,design factor,share of the strength,hitch,chart,wood,grip,crew,effort" doc:"Which of them decided the limit; empty when there is none"`
	Item           string         `json:"item" doc:"Id in the locker; empty: not from there"`
	RestingLimitKn *float64       `json:"resting_limit_kn" doc:"Limit of the load at rest, when the school asks for one of its own; else null"`
	Cautions       []string       `json:"cautions" nullable:"false"`
	Working        []working.Step `json:"working" nullable:"false"`
	Sum            *Sum           `json:"sum,omitempty" doc:"The same sum as the calculation contract has it"`
}

// A Sum is the sum behind a rung as the calculation contract has it: a kind and its request.
type Sum struct {
	Kind    string          `json:"kind"`
	Request json.RawMessage `json:"request"`
}

// ladder follows the load from the piece to the hand, with its working.
func (v *Survey) ladder(o *Outcome) []Rung {
	rungs := make([]Rung, 0, len(o.Loads))
	for i := range o.Loads {
		l := &o.Loads[i]
		use, known, verdict := v.judge(l)
		rung := Rung{Part: l.Part, Name: l.Name, RestingKn: l.RestKn, Verdict: verdict, Reason: l.Why, When: l.When, Cautions: append([]string{}, l.Cautions...), Item: l.Item}
		if !l.Unseen {
			sees := l.Sees()
			rung.PeakKn = &sees
		}
		if known {
			rung.LimitKn, rung.UsePct, rung.Reason, rung.Decided = &l.Limit.Kn, &use, l.Limit.Reason, l.Decided
			if l.RestLimit > 0 {
				rung.RestingLimitKn = &l.RestLimit
			}
		} else if rung.Reason == "" {
			rung.Reason = "no limit given"
		}
		var sheet working.Sheet
		if l.From != nil {
			rung.Cautions = append(rung.Cautions, l.From.Beside(l)...)
			l.From.Working(l, &sheet)
			rung.Sum = sumOf(l)
		}
		if l.Item != "" {
			if said := v.Gear.Said(l.Item, l.Name); said != "" {
				rung.Cautions = append(rung.Cautions, said)
			}
		}
		v.limitWorking(&sheet, l)
		rung.Working = sheet.Steps()
		rungs = append(rungs, rung)
	}
	return rungs
}

// sumOf is the contract's sum behind a load; nil: none of its kinds answers this by itself.
func sumOf(l *hold.Load) *Sum {
	kind, request := l.From.Contracted(l)
	if request == nil {
		return nil
	}
	written, err := json.Marshal(request)
	if err != nil {
		return nil
	}
	return &Sum{kind, written}
}

// limitWorking writes what a load is held to, and how much of it it takes.
func (f *Forest) limitWorking(sheet *working.Sheet, l *hold.Load) {
	n := working.Figure
	if l.Known && !l.Unseen {
		sheet.Add("limit", "what it may see", l.Limit.Reason, l.Limit.Kn, "kN", l.Limit.Source)
		sheet.Add("use", "peak, or what hangs at rest where that is more, in per cent of the limit", fmt.Sprintf("100·%s/%s", n(l.Sees()), n(l.Limit.Kn)), 100*l.Sees()/l.Limit.Kn, "%", "")
		if l.RestLimit > 0 {
			sheet.Add("use₀", "load at rest in per cent of the working load", fmt.Sprintf("100·%s/%s", n(l.RestKn), n(l.RestLimit)), 100*l.RestKn/l.RestLimit, "%", f.Limits.SchoolWords())
		}
	}
}
