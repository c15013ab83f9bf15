package brief

import (
	"fmt"
	"math"
	"strings"

	"elkstay/core/assess"
	"elkstay/core/course"
	"elkstay/core/job"
	"elkstay/core/policy"
	"elkstay/core/sight"
	"elkstay/core/units"
	"elkstay/core/wood"
)

// A Paper is what a briefing says, every figure as the screen prints it.
type Paper struct {
	Name       string         `json:"name"`
	State      string         `json:"state"`
	Verdict    policy.Verdict `json:"verdict" enum:"within,close,over,not known,not held"`
	WorkOn     string         `json:"work_on" doc:"The day it is planned for; empty: not said"`
	Lead       string         `json:"lead"`
	Tree       []string       `json:"tree" nullable:"false" doc:"What was measured"`
	Picks      []PaperPick    `json:"picks" nullable:"false"`
	Gear       []PaperGear    `json:"gear" nullable:"false"`
	Ropes      []PaperRope    `json:"ropes" nullable:"false"`
	Posts      []PaperPost    `json:"posts" nullable:"false" doc:"Who stands where"`
	Escapes    []string       `json:"escapes" nullable:"false" doc:"Ways out"`
	Targets    []string       `json:"targets" nullable:"false" doc:"What must not be hit"`
	PlanB      string         `json:"plan_b"`
	PlanC      string         `json:"plan_c"`
	Emergency  string         `json:"emergency"`
	Cautions   []string       `json:"cautions" nullable:"false"`
	Unknown    []string       `json:"unknown" nullable:"false" doc:"What is not known"`
	Rules      []string       `json:"rules" nullable:"false" doc:"What the figures are held to"`
	Cards      []Card         `json:"cards" nullable:"false" doc:"What the sawyer of every felling takes along"`
	Signatures []string       `json:"signatures" nullable:"false" doc:"Who signs"`
}

// A PaperPick is one row of the table of picks.
type PaperPick struct {
	Number  int            `json:"number"`
	ID      string         `json:"id"`
	Title   string         `json:"title"`
	Weight  string         `json:"weight" doc:"Low to high end"`
	Basis   assess.Basis   `json:"basis" enum:"guess,default,one reading,measured,learned,weighed" doc:"What the weight rests on"`
	Cut     string         `json:"cut" doc:"Which, and where"`
	Way     string         `json:"way"`
	Tie     string         `json:"tie"`
	Rig     string         `json:"rig"`
	Wraps   string         `json:"wraps"`
	Run     string         `json:"run"`
	Peak    string         `json:"peak"`
	Nearest string         `json:"nearest"`
	Verdict policy.Verdict `json:"verdict" enum:"within,close,over,not known,not held"`
	Call    string         `json:"call" doc:"What is called"`
	Faults  string         `json:"faults" doc:"Why it cannot happen; empty: it can"`
	Done    bool           `json:"done"`
}

// A PaperGear is one row of the gear list.
type PaperGear struct {
	What     string         `json:"what" doc:"Part of the rig"`
	Name     string         `json:"name"`
	Serial   string         `json:"serial"`
	Rig      string         `json:"rig"`
	Peak     string         `json:"peak"`
	Limit    string         `json:"limit"`
	Use      string         `json:"use"`
	Verdict  policy.Verdict `json:"verdict" enum:"within,close,over,not known,not held"`
	Standing string         `json:"standing" doc:"How it stands in the locker; empty: not from there"`
}

// A PaperRope is one row of the ropes.
type PaperRope struct {
	Rig     string         `json:"rig"`
	Need    string         `json:"need"`
	Have    string         `json:"have"`
	Verdict policy.Verdict `json:"verdict" enum:"within,over,not known"`
}

// A PaperPost is where somebody stands.
type PaperPost struct {
	ID    string `json:"id"`
	Role  string `json:"role"`
	Name  string `json:"name"`
	Where string `json:"where" doc:"Bearing and distance from the tree"`
}

// A Card is what the sawyer of a felling takes along.
type Card struct {
	Number   int                 `json:"number"`
	ID       string              `json:"id"`
	Title    string              `json:"title"`
	Verdict  policy.Verdict      `json:"verdict" enum:"within,close,over,not known,not held"`
	Falls    string              `json:"falls" doc:"Which way, and how far its tip may come"`
	Balance  string              `json:"balance"`
	Steps    []string            `json:"steps" nullable:"false"`
	Measures []Measure           `json:"measures" nullable:"false" doc:"Of the cut, in both systems"`
	Lines    []CardLine          `json:"lines" nullable:"false"`
	Plans    []string            `json:"plans" nullable:"false" doc:"What else would bring it over"`
	Schools  []string            `json:"schools" nullable:"false"`
	Cautions []string            `json:"cautions" nullable:"false"`
	Call     string              `json:"call"`
	Fell     *course.FellFigures `json:"fell" nullable:"false" doc:"What its drawing is made of"`
}

// A Measure is one of a stump, as two tapes read it.
type Measure struct {
	Name   string `json:"name"`
	Metric string `json:"metric"`
	US     string `json:"us"`
}

// A CardLine is a line of a felling.
type CardLine struct {
	Name string `json:"name"`
	Need string `json:"need" doc:"At the tree, margin included"`
	Legs string `json:"legs" doc:"What each leg may carry, from the tree"`
	Said string `json:"said" doc:"Its stretch, and how far it follows"`
}

// nothing stands where a figure does not apply.
const nothing = "–"

// Briefing says on paper what a job's assessment says on the screen.
func Briefing(document *job.Job, o assess.Options) Paper {
	o.Pick = ""
	a := assess.Assess(document, o)
	p := Paper{
		Name: document.Name, State: a.State, Verdict: a.Verdict, WorkOn: document.WorkOn, Lead: document.Brief.Lead, PlanB: document.Brief.PlanB, PlanC: document.Brief.PlanC, Emergency: document.Brief.Emergency,
		Tree: trees(document, o.Units), Picks: []PaperPick{}, Gear: []PaperGear{}, Ropes: []PaperRope{}, Posts: []PaperPost{}, Escapes: []string{}, Targets: []string{},
		Cautions: a.Cautions, Unknown: unknown(document, &a), Rules: rules(&a, o.Units), Cards: cards(document, &a, o), Signatures: []string{},
	}
	for i := range a.Picks {
		p.Picks = append(p.Picks, paperPick(&a.Picks[i], o.Units))
	}
	standing := map[string]*policy.GearStanding{}
	for i := range a.GearStandings {
		standing[a.GearStandings[i].ID] = &a.GearStandings[i]
	}
	force := func(kn *float64) string {
		if kn == nil {
			return nothing
		}
		return units.Print(units.Force, o.Units, *kn)
	}
	for _, g := range a.Gear {
		one := PaperGear{What: g.Part, Name: g.Name, Rig: g.Rig, Peak: force(&g.PeakKn), Limit: force(g.LimitKn), Use: nothing, Verdict: g.Verdict}
		if g.UsePct != nil {
			one.Use = fmt.Sprintf("%.0f %% at pick %d", *g.UsePct, g.Pick)
		}
		if s := standing[g.Item]; s != nil {
			one.Serial, one.Standing = s.Serial, s.State
			if s.Reason != "" {
				one.Standing = fmt.Sprintf("%s; used all the same, says %s: %s", s.Why, s.By, s.Reason)
			}
		}
		p.Gear = append(p.Gear, one)
	}
	for _, r := range a.Ropes {
		have := "not said"
		if r.HaveM != nil {
			have = units.Print(units.Height, o.Units, *r.HaveM)
		}
		p.Ropes = append(p.Ropes, PaperRope{r.Rig, fmt.Sprintf("%s at pick %d", units.Print(units.Height, o.Units, r.NeedM), r.Pick), have, r.Verdict})
	}
	for i := range document.Site.Posts {
		post := &document.Site.Posts[i]
		p.Posts = append(p.Posts, PaperPost{post.ID, post.Role, post.Name, from(document.Trees[0].Foot(), post.At, o.Units)})
	}
	for i := range document.Site.Escapes {
		out := &document.Site.Escapes[i]
		p.Escapes = append(p.Escapes, fmt.Sprintf("%s: from %s to %s", out.Name, from(document.Trees[0].Foot(), out.Outline[0], o.Units), from(document.Trees[0].Foot(), out.Outline[len(out.Outline)-1], o.Units)))
	}
	for i := range document.Site.Targets {
		p.Targets = append(p.Targets, document.Site.Targets[i].Name)
	}
	for i := range a.Trees {
		for _, d := range a.Trees[i].Defects {
			p.Cautions = append(p.Cautions, fmt.Sprintf("%s. %s %s %s", d.Title, d.Climbing, d.Hinging, d.Anchoring))
		}
	}
	p.Signatures = append(p.Signatures, "In charge"+signedBy(document.Brief.Lead))
	for _, post := range p.Posts {
		p.Signatures = append(p.Signatures, strings.ToUpper(post.Role[:1])+post.Role[1:]+signedBy(post.Name))
	}
	return p
}

func signedBy(name string) string {
	if name == "" {
		return ""
	}
	return ": " + name
}

// Weighs is its weight and what that rests on.
func (p *PaperPick) Weighs() string {
	if p.Weight == nothing {
		return nothing
	}
	return p.Weight + ", " + string(p.Basis)
}

func paperPick(f *assess.PickFigures, system units.System) PaperPick {
	one := PaperPick{
		Number: f.Number, ID: f.ID, Title: f.Title, Weight: nothing, Basis: f.Basis, Cut: units.Print(units.Height, system, f.FromM), Way: f.Way.String(), Tie: nothing, Rig: nothing,
		Wraps: nothing, Run: nothing, Peak: nothing, Nearest: nothing, Verdict: f.Verdict, Call: f.Call, Done: f.Done,
	}
	if f.MassKg != nil {
		one.Weight = units.Figure(units.Mass, system, f.MassKg.Low) + "–" + units.Print(units.Mass, system, f.MassKg.High)
	}
	at := "at " + one.Cut
	if f.What == job.WhatLimb {
		at = one.Cut + " out"
		if f.FromM == 0 {
			at = "at the union"
		}
	}
	one.Cut = strings.TrimSpace(f.Cut + " " + at)
	if f.TieM != nil {
		one.Tie = units.Print(units.Height, system, *f.TieM)
	}
	if f.Rig != "" {
		one.Rig = f.Rig
	}
	if f.Wraps != nil {
		one.Wraps = fmt.Sprintf("%.4g", *f.Wraps)
	}
	if f.RunM != nil {
		one.Run = units.Print(units.Height, system, *f.RunM)
	}
	if f.PeakKn != nil {
		one.Peak = units.Print(units.Force, system, *f.PeakKn)
	}
	if f.Worst != "" {
		one.Nearest = f.Worst
	}
	said := make([]string, len(f.Faults))
	for i := range f.Faults {
		said[i] = f.Faults[i].Message
	}
	one.Faults = strings.Join(said, "; ")
	return one
}

// from says where a place lies as seen from the tree.
func from(foot, at job.Spot, system units.System) string {
	x, y := at.X-foot.X, at.Y-foot.Y
	off := math.Hypot(x, y)
	if off < 0.75 {
		return "at the tree"
	}
	azimuth := math.Mod(math.Atan2(x, y)*180/math.Pi+360, 360)
	return fmt.Sprintf("%s %s (%.0f°)", units.Print(units.Height, system, math.Round(10*off)/10), sight.Wind(azimuth), azimuth)
}

// trees lists what was measured of every tree.
func trees(document *job.Job, system units.System) []string {
	list := []string{}
	for i := range document.Trees {
		words := measured(&document.Trees[i], system)
		if len(document.Trees) > 1 {
			words[0] = document.Trees[i].Title() + ": " + words[0]
		}
		list = append(list, words...)
	}
	return list
}

// measured lists what was measured of the tree.
func measured(t *job.Tree, system units.System) []string {
	list := []string{}
	if species, known := wood.Find(t.Wood.Species); known {
		list = append(list, species.CommonName)
	}
	if t.HeightM != nil {
		text := "stem to " + units.Print(units.Height, system, *t.HeightM)
		if t.HeightNoted != "" {
			text += " (" + t.HeightNoted + ")"
		}
		list = append(list, text)
	}
	for _, r := range t.Readings {
		text := fmt.Sprintf("%s %s at %s", r.Tape, units.Print(units.Diameter, system, r.TapeM), units.Print(units.Height, system, r.AtM))
		if r.Noted != "" {
			text = fmt.Sprintf("%s %s at %s", r.Tape, r.Noted, units.Print(units.Height, system, r.AtM))
		}
		if r.CavityM > 0 {
			text += ", cavity " + units.Print(units.Diameter, system, r.CavityM)
		}
		list = append(list, text)
	}
	if t.Bent() {
		list = append(list, "bent, by plumb line")
	} else if t.LeanDeg != nil && *t.LeanDeg > 0 {
		towards := 0.0
		if t.LeanTowardsDeg != nil {
			towards = *t.LeanTowardsDeg
		}
		list = append(list, fmt.Sprintf("leans %.3g° to the %s", *t.LeanDeg, sight.Wind(towards)))
	}
	return append(list, fmt.Sprintf("%d limbs", len(t.Limbs)))
}

// unknown lists what nobody knows of the job.
func unknown(document *job.Job, a *assess.Assessment) []string {
	list := []string{}
	for _, line := range strings.Split(document.Brief.Unknown, "\n") {
		if line = strings.TrimSpace(line); line != "" {
			list = append(list, line)
		}
	}
	for _, m := range a.Missing {
		list = append(list, m.Ask)
	}
	for _, f := range a.Faults {
		list = append(list, f.Message+".")
	}
	for _, g := range a.Gear {
		if g.Verdict == policy.NotKnown {
			list = append(list, fmt.Sprintf("No limit is known for the %s%s of %s.", g.Part, spaced(g.Name), g.Rig))
		}
	}
	for _, r := range a.Ropes {
		if r.Verdict == policy.NotKnown {
			list = append(list, fmt.Sprintf("Nobody has said how long the rope of %s is.", r.Rig))
		}
	}
	for _, s := range a.GearStandings {
		if s.State == "not inspected" {
			list = append(list, fmt.Sprintf("No inspection of %s is on record.", s.Name))
		}
	}
	weighed := 0
	for i := range a.Picks {
		if a.Picks[i].Basis == assess.Weighed {
			weighed++
		}
	}
	if n := len(a.Picks); n > 0 {
		list = append(list, fmt.Sprintf("%d of %d pieces have been weighed; the others are estimates within the ranges given.", weighed, n))
	}
	if len(document.Site.Posts) == 0 {
		list = append(list, "Nobody has said who stands where.")
	}
	if len(document.Site.Escapes) == 0 {
		list = append(list, "No ways out are drawn.")
	}
	return list
}

func spaced(name string) string {
	if name == "" {
		return ""
	}
	return " " + name
}

// rules says what the figures are held to.
func rules(a *assess.Assessment, system units.System) []string {
	l := &a.Limits
	list := []string{
		"In a shock: " + l.SchoolWords() + ".",
		fmt.Sprintf("Where nothing is marked, breaking strength over %g for ropes, %g for slings, %g for blocks, %g for connectors, %g for pulleys, %g for devices, %g for winches.",
			l.DesignFactors["rope"], l.DesignFactors["sling"], l.DesignFactors["block"], l.DesignFactors["connector"], l.DesignFactors["pulley"], l.DesignFactors["device"], l.DesignFactors["winch"]),
		fmt.Sprintf("Weights count at their %s end; a crane at the heavy end and %g %% of its chart.", l.WeightEnd, l.ChartUsePct),
		fmt.Sprintf("Close begins at %g %% of a limit; %s kept clear; standing wood at its strength over %g.", l.CloseFromPct, units.Print(units.Height, system, l.ClearM), l.WoodFactor),
	}
	if l.PieceKg != nil {
		list = append(list, "Heaviest piece on a line: "+units.Print(units.Mass, system, *l.PieceKg)+".")
	}
	return list
}
