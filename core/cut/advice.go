package cut

import (
	"cmp"
	_ "embed"
	"encoding/csv"
	"fmt"
	"slices"
	"strings"

	"elkstay/core/intake"
	"elkstay/core/wood"
	"elkstay/core/working"
)

// A Site is a cut about to be chosen: what is cut, and what is around it.
type Site struct {
	OrientationDeg  float64 `json:"orientation_deg" minimum:"0" maximum:"120" doc:"Of the wood: 0 upright, 90 level"`
	DiameterM       float64 `json:"diameter_m" minimum:"0.01" maximum:"5" doc:"At the cut, m"`
	LengthM         float64 `json:"length_m" exclusiveMinimum:"0" maximum:"100" doc:"Of what comes off, m"`
	HeadLeanDeg     float64 `json:"head_lean_deg,omitempty" minimum:"-45" maximum:"60" doc:"Towards the fall; negative: back lean; default 0"`
	SideLeanDeg     float64 `json:"side_lean_deg,omitempty" minimum:"0" maximum:"60" doc:"To one side; default 0"`
	Species         string  `json:"species" maxLength:"60" doc:"Id of the wood table"`
	Decay           string  `json:"decay,omitempty" enum:"none,some,much" doc:"At the cut; default none"`
	Dead            bool    `json:"dead,omitempty"`
	Knots           bool    `json:"knots,omitempty" doc:"Knots or a union across the cut"`
	AtUnion         bool    `json:"at_union,omitempty" doc:"The cut is in a branch union"`
	Beneath         string  `json:"beneath,omitempty" enum:"clear,target" doc:"What is under the piece; default clear"`
	LanyardBeneath  bool    `json:"lanyard_beneath,omitempty" doc:"The lanyard can only go round below the cut"`
	Rigged          string  `json:"rigged,omitempty" enum:"none,line,crane" doc:"Default none"`
	LineLeads       string  `json:"line_leads,omitempty" enum:"along,across,against" doc:"Against the way it would fall by itself; rigged by line only"`
	MachinePush     bool    `json:"machine_push,omitempty" doc:"A machine pushes or pulls it"`
	MassKg          float64 `json:"mass_kg,omitempty" minimum:"0" maximum:"100000" doc:"Of the piece, kg; 0: not said"`
	PushKg          float64 `json:"push_kg,omitempty" minimum:"0" maximum:"1000" doc:"Heaviest piece that one person snaps and pushes off, kg; 0: not said"`
	SelfRatio       float64 `json:"self_ratio,omitempty" minimum:"-1000000" maximum:"1000000" doc:"Moment of its own weight over that of the push, as kind snap gives it; default 0"`
	ClimbingBeneath bool    `json:"climbing_beneath,omitempty" doc:"The climber would stand beneath the piece"`
}

// The cuts that are weighed against each other.
const (
	CutSnap      = "overlapping cuts, snapped by hand"
	CutOpenFace  = "open face and hinge"
	CutNarrow    = "narrow face and hinge"
	CutTapered   = "face with a tapered hinge"
	CutBored     = "face, middle bored, strap at the back"
	CutNicked    = "face, hinge nicked at both sides"
	CutStrap     = "face, strap at the back released low"
	CutTopTear   = "top cut only, torn down the union"
	CutShelf     = "shelf cut under the crane"
	CutUndercut  = "undercut and top cut"
	CutStraight  = "straight through from the top"
	forRule      = "for"
	againstRule  = "against"
	excludesRule = "excludes"
)

// cuts in the order in which they are listed when nothing tells them apart.
var cuts = []string{CutOpenFace, CutNarrow, CutTapered, CutBored, CutNicked, CutStrap, CutSnap, CutTopTear, CutUndercut, CutStraight, CutShelf}

// A Rule is one thing the trade knows of a cut. Weight is how much it moves the cut in
// the order; an exclusion needs none.
type Rule struct {
	ID     string
	Cut    string
	Effect string
	Weight float64
	When   func(*view) bool
	Reason string
}

// view is a site with what follows from it.
type view struct {
	*Site
	hinge, splits string
}

func (v *view) upright() bool { return v.OrientationDeg < 30 }
func (v *view) level() bool   { return v.OrientationDeg > 60 }
func (v *view) sloping() bool { return !v.upright() && !v.level() }
func (v *view) weak() bool    { return v.Decay == "much" || v.Dead }
func (v *view) crane() bool   { return v.Rigged == "crane" }
func (v *view) line() bool    { return v.Rigged == "line" }
func (v *view) target() bool  { return v.Beneath == "target" }
func (v *view) splitsUp() bool {
	return v.HeadLeanDeg > 10 && (v.splits != "low" || v.HeadLeanDeg > 20)
}

// rules hold what the trade knows (common practice, no source). Each stands alone and
// is tested alone.
var rules = []Rule{
	{"snap-upright", CutSnap, forRule, 3, func(v *view) bool { return v.upright() && v.DiameterM < 0.5 && !v.crane() }, "Upright and of a size to push: it stands until it is pushed, with both hands free and the saw stowed."},
	{"snap-side", CutSnap, excludesRule, 0, func(v *view) bool { return v.SideLeanDeg > 5 || v.HeadLeanDeg > 5 }, "Weight hangs to one side: it would go by itself before the saw is stowed."},
	{"snap-not-upright", CutSnap, excludesRule, 0, func(v *view) bool { return !v.upright() }, "The wood is not upright: it does not stand on its cut."},
	{"snap-knots", CutSnap, excludesRule, 0, func(v *view) bool { return v.Knots }, "Knots across the bridge hold many times more than straight grain: it will not snap."},
	{"snap-big", CutSnap, excludesRule, 0, func(v *view) bool { return v.DiameterM >= 0.8 }, "Too big to push over by hand."},
	{"snap-crane", CutSnap, excludesRule, 0, func(v *view) bool { return v.crane() }, "Under a crane the piece must sit still until it is lifted, not tip."},
	{"snap-goes", CutSnap, excludesRule, 0, func(v *view) bool { return v.SelfRatio >= 1 }, "Its own weight tips it over the bridge: it goes by itself before the saw is stowed."},
	{"snap-early", CutSnap, againstRule, 2, func(v *view) bool { return v.SelfRatio >= 0.5 && v.SelfRatio < 1 }, "Its own weight does half of the push: it may go early."},
	{"snap-heavy", CutSnap, excludesRule, 0, func(v *view) bool { return v.PushKg > 0 && v.MassKg > v.PushKg }, "Heavier than one person pushes off by hand."},
	{"snap-weak", CutSnap, excludesRule, 0, func(v *view) bool { return v.weak() || v.Decay == "some" }, "Dead or decayed wood lets go before it is pushed."},
	{"snap-long", CutSnap, excludesRule, 0, func(v *view) bool { return v.LengthM > 3 }, "Too long to push off by hand: it tips before it slides."},
	{"snap-line", CutSnap, againstRule, 1, func(v *view) bool { return v.line() }, "A hinge tips it slower into the line."},

	{"face-direction", CutOpenFace, forRule, 2, func(v *view) bool { return !v.crane() && !v.level() }, "A face and a hinge give a direction."},
	{"face-line", CutOpenFace, forRule, 2, func(v *view) bool { return v.line() }, "An open face holds long: the piece tips slowly into the line."},
	{"face-target", CutOpenFace, forRule, 1, func(v *view) bool { return v.target() }, "With something beneath, the hinge keeps hold of it to the end."},
	{"face-tall", CutOpenFace, againstRule, 2, func(v *view) bool { return v.upright() && v.line() && v.LengthM > 6 }, "On a tall top an open face holds so long that it drags the spar forward."},
	{"face-crane", CutOpenFace, excludesRule, 0, func(v *view) bool { return v.crane() }, "Under a crane the piece must sit still until it is lifted, not tip."},
	{"face-decay", CutOpenFace, againstRule, 2, func(v *view) bool { return v.weak() || v.hinge == "poor" }, "Brittle, dead or decayed wood breaks early: the hinge does not hold as long as the face is open."},
	{"face-splits", CutOpenFace, againstRule, 4, func(v *view) bool { return v.splitsUp() }, "A heavy head lean can split the stem up before a plain back cut is through."},

	{"narrow-tall", CutNarrow, forRule, 5, func(v *view) bool { return v.upright() && v.line() && v.LengthM > 6 }, "On a tall top a narrow face lets the hinge go early and does not drag the spar forward."},
	{"narrow-direction", CutNarrow, forRule, 1, func(v *view) bool { return !v.crane() && !v.level() }, "A face and a hinge give a direction."},
	{"narrow-crane", CutNarrow, excludesRule, 0, func(v *view) bool { return v.crane() }, "Under a crane the piece must sit still until it is lifted, not tip."},
	{"narrow-splits", CutNarrow, againstRule, 4, func(v *view) bool { return v.splitsUp() }, "A heavy head lean can split the stem up: a narrow face closes early and makes it worse."},

	{"taper-side", CutTapered, forRule, 6, func(v *view) bool { return v.SideLeanDeg > 3 && v.hinge == "good" && !v.weak() && !v.crane() }, "A side leaner in wood that hinges well: more hinge on the side away from the lean holds it. Back it with a line."},
	{"taper-fair", CutTapered, forRule, 3, func(v *view) bool { return v.SideLeanDeg > 3 && v.hinge == "fair" && !v.weak() && !v.crane() }, "A side leaner in wood that hinges fairly: a tapered hinge helps, the line does the holding."},
	{"taper-brittle", CutTapered, excludesRule, 0, func(v *view) bool { return v.hinge == "poor" || v.weak() }, "Brittle, dead or decayed wood: a tapered hinge breaks where it is thin and then everywhere."},
	{"taper-straight", CutTapered, excludesRule, 0, func(v *view) bool { return v.SideLeanDeg <= 3 }, "There is no side lean to hold."},
	{"taper-crane", CutTapered, excludesRule, 0, func(v *view) bool { return v.crane() }, "Under a crane the piece must sit still until it is lifted, not tip."},

	{"bore-splits", CutBored, forRule, 7, func(v *view) bool { return v.splitsUp() && v.DiameterM >= 0.25 }, "A head leaner that could split up: boring the middle leaves a hinge and a strap, and the strap goes last."},
	{"bore-small", CutBored, excludesRule, 0, func(v *view) bool { return v.DiameterM < 0.2 }, "Too thin to bore."},
	{"bore-needless", CutBored, excludesRule, 0, func(v *view) bool { return !v.splitsUp() && !v.MachinePush }, "Nothing here makes the stem split up: boring only weakens it."},
	{"bore-decay", CutBored, againstRule, 4, func(v *view) bool { return v.weak() }, "Boring decayed wood leaves nobody knows what: the shell may be all there is."},
	{"bore-beneath", CutBored, againstRule, 3, func(v *view) bool { return v.ClimbingBeneath }, "Boring the middle puts the climber beneath a weak stem."},
	{"bore-crane", CutBored, excludesRule, 0, func(v *view) bool { return v.crane() }, "Under a crane nothing tips."},

	{"nick-splits", CutNicked, forRule, 5, func(v *view) bool { return v.splitsUp() }, "Nicking both sides of the hinge keeps a head leaner from tearing outward, and is soon done."},
	{"nick-steering", CutNicked, againstRule, 3, func(v *view) bool { return v.SideLeanDeg > 3 || v.target() }, "Nicking costs the outer hinge wood, which does the steering."},
	{"nick-needless", CutNicked, excludesRule, 0, func(v *view) bool { return !v.splitsUp() }, "Nothing here makes the stem split up: nicking only costs steering wood."},
	{"nick-crane", CutNicked, excludesRule, 0, func(v *view) bool { return v.crane() }, "Under a crane nothing tips."},

	{"strap-head", CutStrap, forRule, 4, func(v *view) bool { return v.HeadLeanDeg > 5 && !v.crane() }, "A strap at the back, released low, holds a head leaner until everyone is ready."},
	{"strap-machine", CutStrap, forRule, 6, func(v *view) bool { return v.MachinePush }, "A machine pushes or pulls: the strap holds the stem until its operator is ready."},
	{"strap-needless", CutStrap, excludesRule, 0, func(v *view) bool { return v.HeadLeanDeg <= 5 && !v.MachinePush }, "Neither head lean nor machine: there is nothing for a strap to hold."},
	{"strap-crane", CutStrap, excludesRule, 0, func(v *view) bool { return v.crane() }, "Under a crane the piece must sit still until it is lifted."},

	{"tear-union", CutTopTear, forRule, 4, func(v *view) bool { return v.AtUnion && v.OrientationDeg >= 30 && v.LengthM <= 8 }, "In the union the limb tears gently down: it moves off slowly, leaves no stub and saves time."},
	{"tear-no-union", CutTopTear, excludesRule, 0, func(v *view) bool { return !v.AtUnion }, "Away from a union the tear has nowhere to end."},
	{"tear-lanyard", CutTopTear, excludesRule, 0, func(v *view) bool { return v.LanyardBeneath }, "The lanyard is beneath the tear."},
	{"tear-upright", CutTopTear, excludesRule, 0, func(v *view) bool { return v.OrientationDeg < 30 }, "A nearly upright limb can split up in place of tearing down."},
	{"tear-splits", CutTopTear, excludesRule, 0, func(v *view) bool { return v.splits == "high" && v.OrientationDeg < 60 }, "Wood that splits readily, and steep: the tear runs up in place of down."},
	{"tear-target", CutTopTear, excludesRule, 0, func(v *view) bool { return v.target() }, "What tears swings down under the union: there is something beneath."},
	{"tear-long", CutTopTear, excludesRule, 0, func(v *view) bool { return v.LengthM > 8 }, "A long limb would hang from the tear and prop against the stem."},
	{"tear-crane", CutTopTear, excludesRule, 0, func(v *view) bool { return v.crane() }, "Under a crane the piece must come off whole and still."},

	{"under-steer", CutUndercut, forRule, 3, func(v *view) bool { return v.level() || v.sloping() }, "An undercut keeps the bark from tearing into what stays, and steers a little."},
	{"under-target", CutUndercut, forRule, 1, func(v *view) bool { return v.target() && v.level() }, "With something beneath, the piece drops flat and does not swing on a strip of bark."},
	{"under-upright", CutUndercut, excludesRule, 0, func(v *view) bool { return v.upright() }, "Upright wood has no underside: this is a face."},
	{"under-crane", CutUndercut, againstRule, 3, func(v *view) bool { return v.crane() }, "Under a crane a shelf holds the piece stiller."},

	{"straight-thin", CutStraight, forRule, 3, func(v *view) bool { return v.level() && v.DiameterM < 0.12 && !v.target() }, "Thin, level and nothing beneath: straight through is enough."},
	{"straight-thick", CutStraight, excludesRule, 0, func(v *view) bool { return v.DiameterM >= 0.12 || v.target() || v.upright() }, "Straight through tears the bark, pinches the saw, or lets go without warning: only for thin level wood over a clear place."},

	{"shelf-crane", CutShelf, forRule, 8, func(v *view) bool { return v.crane() }, "A shelf, with the sawdust left in the kerf: the severed piece sits still until it is lifted."},
	{"shelf-no-crane", CutShelf, excludesRule, 0, func(v *view) bool { return !v.crane() }, "A shelf is for a piece that is lifted off."},
}

// A Ranked cut fits the site.
type Ranked struct {
	Cut        string      `json:"cut"`
	Score      float64     `json:"score" doc:"Sum of what speaks for it less what speaks against; only the order means anything"`
	For        []string    `json:"for" nullable:"false"`
	Against    []string    `json:"against" nullable:"false"`
	Dimensions []Dimension `json:"dimensions" nullable:"false"`
	OpeningDeg *float64    `json:"opening_deg" doc:"Of the face; null without one"`
	FinishAt   string      `json:"finish_at" doc:"Where the saw comes out"`
}

// An Excluded cut does not fit the site.
type Excluded struct {
	Cut     string   `json:"cut"`
	Reasons []string `json:"reasons" nullable:"false"`
}

// A School is one answer where the trade has two.
type School struct {
	Name  string `json:"name"`
	Price string `json:"price"`
}

// A Question on which the trade divides.
type Question struct {
	Question string   `json:"question"`
	Schools  []School `json:"schools" nullable:"false"`
}

// An Advice is what fits the site, and what does not.
type Advice struct {
	Hinge    string     `json:"hinge" enum:"good,fair,poor" doc:"How the species hinges (common practice, from memory)"`
	Splits   string     `json:"splits" enum:"low,medium,high" doc:"How readily it splits (common practice, from memory)"`
	Cuts     []Ranked   `json:"cuts" nullable:"false" doc:"Best first"`
	Excluded []Excluded `json:"excluded" nullable:"false"`
	Schools  []Question `json:"schools" nullable:"false"`
}

//go:embed behaviour.csv
var behaviourText string

// behaviour tells how each species hinges and splits: common practice, from memory.
var behaviour = readBehaviour(behaviourText)

func readBehaviour(text string) map[string][2]string {
	rows, err := csv.NewReader(strings.NewReader(text)).ReadAll()
	if err != nil {
		panic("cut: the built-in table is broken: " + err.Error())
	}
	table := make(map[string][2]string, len(rows))
	for _, row := range rows[1:] {
		table[row[0]] = [2]string{row[1], row[2]}
	}
	return table
}

// Faults names what is wrong between the fields at the given path.
func (s *Site) Faults(path string) (faults intake.Faults) {
	if _, known := wood.Find(s.Species); !known {
		faults.Add(path+".species", s.Species, "an id of the wood table", "%q is no species of the wood table", s.Species)
	}
	if s.LineLeads != "" && s.Rigged != "line" {
		faults.Add(path+".line_leads", s.LineLeads, "rigged by line only", "there is no line to lead anywhere")
	}
	return faults
}

// Advise weighs the cuts for a site without Faults by the rules.
func (s *Site) Advise() Advice {
	known := behaviour[s.Species]
	v := &view{s, known[0], known[1]}
	advice := Advice{Hinge: v.hinge, Splits: v.splits, Cuts: []Ranked{}, Excluded: []Excluded{}, Schools: []Question{}}
	for _, name := range cuts {
		ranked := Ranked{Cut: name, For: []string{}, Against: []string{}}
		excluded := Excluded{Cut: name, Reasons: []string{}}
		for _, rule := range rules {
			if rule.Cut != name || !rule.When(v) {
				continue
			}
			switch rule.Effect {
			case forRule:
				ranked.Score += rule.Weight
				ranked.For = append(ranked.For, rule.Reason)
			case againstRule:
				ranked.Score -= rule.Weight
				ranked.Against = append(ranked.Against, rule.Reason)
			case excludesRule:
				excluded.Reasons = append(excluded.Reasons, rule.Reason)
			}
		}
		switch {
		case len(excluded.Reasons) > 0:
			advice.Excluded = append(advice.Excluded, excluded)
		case len(ranked.For) > 0:
			v.dimension(&ranked)
			advice.Cuts = append(advice.Cuts, ranked)
		default:
			excluded.Reasons = append(excluded.Reasons, "Nothing here speaks for it.")
			advice.Excluded = append(advice.Excluded, excluded)
		}
	}
	slices.SortStableFunc(advice.Cuts, func(a, b Ranked) int { return cmp.Compare(b.Score, a.Score) })
	advice.Schools = v.schools()
	return advice
}

// schools lists both answers where the trade has two and the site raises the question.
func (v *view) schools() []Question {
	questions := []Question{}
	if v.SideLeanDeg > 3 && !v.crane() {
		questions = append(questions, Question{"A side leaner: taper the hinge, or aim off?", []School{
			{"more hinge on the side away from the lean", "works in wood that hinges well; breaks in brittle or decayed wood"},
			{"an even hinge, aimed off against the lean", "needs room to land beside the line; the lean must be judged"},
		}})
	}
	if v.splitsUp() {
		questions = append(questions, Question{"A head leaner that could split up: bore the middle, or nick the sides?", []School{
			{"bore the middle, leave a strap", "puts the climber beneath a weak stem while boring"},
			{"nick both sides of the hinge", "costs steering wood"},
		}})
	}
	if !v.upright() {
		questions = append(questions, Question{"A limb: undercut always, or not?", []School{
			{"always", "costs time; never tears"},
			{"only to steer or to protect what stays", "saves time; tears when misjudged"},
		}})
	}
	if v.upright() && !v.crane() {
		questions = append(questions, Question{"Which way up is the face?", []School{
			{"sloping cut above, level below", "the butt slides down the slope of the stump"},
			{"level cut above, sloping below", "keeps the butt square; the face closes on the level cut"},
		}})
	}
	return questions
}

// Working lists the rules that spoke, as the reasons behind the order.
func (s *Site) Working(a Advice) []working.Step {
	var sheet working.Sheet
	for i, cut := range a.Cuts {
		sheet.Add(fmt.Sprintf("cut %d", i+1), cut.Cut, fmt.Sprintf("%d for, %d against", len(cut.For), len(cut.Against)), cut.Score, "", working.Common)
	}
	return sheet.Steps()
}

// Cautions returns what must stand beside an advice.
func (s *Site) Cautions(a Advice) []string {
	cautions := []string{"Cut the awkward part first, finish where you stand well, never beneath the piece. How a species hinges and splits is common practice, from memory; this tree may differ."}
	if s.ClimbingBeneath {
		cautions = append(cautions, "You would stand beneath the piece: change the place before the cut.")
	}
	if s.Decay == "much" || s.Dead {
		cautions = append(cautions, "Dead and decayed wood breaks early and hinges badly: measure the shell, keep the face shallow and the hinge in sound wood.")
	}
	if s.LineLeads == "across" || s.LineLeads == "against" {
		cautions = append(cautions, "The line does not lead where the piece wants to go: aim the face about halfway between, it keeps the hinge longest.")
	}
	if len(a.Cuts) == 0 {
		cautions = append(cautions, "No cut fits what is described here: change the rigging or the place.")
	}
	return cautions
}
