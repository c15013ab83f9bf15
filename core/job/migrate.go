package job

import (
	"elkstay/core/gear"
	"elkstay/core/intake"
	"elkstay/core/timber"
	"elkstay/core/wood"
)

// firstJob is version 1 of the format: one stem, one cut, one rig. Types that have not
// changed since are those of today.
type firstJob struct {
	Format  string `json:"format" enum:"elkstay-job"`
	Version int    `json:"version" minimum:"1" maximum:"1"`
	Name    string `json:"name" minLength:"1" maxLength:"120"`
	Note    string `json:"note,omitempty" maxLength:"4000"`
	Tree    struct {
		Wood         wood.Wood     `json:"wood"`
		Readings     []Reading     `json:"readings" maxItems:"60"`
		HeightM      *float64      `json:"height_m,omitempty" exclusiveMinimum:"0" maximum:"120"`
		TopDiameterM *float64      `json:"top_diameter_m,omitempty" exclusiveMinimum:"0" maximum:"5"`
		Attached     []timber.Lump `json:"attached,omitempty" maxItems:"60"`
	} `json:"tree"`
	Cut struct {
		AtM *float64 `json:"at_m,omitempty" minimum:"0" maximum:"120"`
	} `json:"cut"`
	Rig struct {
		Rope         *gear.NamedRope `json:"rope,omitempty"`
		TieAboveCutM *float64        `json:"tie_above_cut_m,omitempty" minimum:"0" maximum:"50"`
		SlackM       *float64        `json:"slack_m,omitempty" minimum:"0" maximum:"20"`
		Block        struct {
			Name       string   `json:"name,omitempty" maxLength:"80"`
			BelowCutM  *float64 `json:"below_cut_m,omitempty" minimum:"0" maximum:"50"`
			Efficiency *float64 `json:"efficiency,omitempty" minimum:"0.05" maximum:"1"`
			gear.Rating
		} `json:"block"`
		Device struct {
			Name     string   `json:"name,omitempty" maxLength:"80"`
			AtM      *float64 `json:"at_m,omitempty" minimum:"0" maximum:"20"`
			Wraps    *float64 `json:"wraps,omitempty" minimum:"0" maximum:"12"`
			Friction *float64 `json:"friction,omitempty" minimum:"0.02" maximum:"1"`
			gear.Rating
		} `json:"device"`
		AnchorStiffnessKnM *float64 `json:"anchor_stiffness_kn_m,omitempty" minimum:"10" maximum:"1000000"`
		EnergyLostPct      *float64 `json:"energy_lost_pct,omitempty" minimum:"0" maximum:"90"`
	} `json:"rig"`
	Catch  Catch `json:"catch"`
	Limits struct {
		DesignFactor *float64 `json:"design_factor,omitempty" minimum:"1" maximum:"30"`
		PieceKg      *float64 `json:"piece_kg,omitempty" exclusiveMinimum:"0" maximum:"100000"`
		HandKn       *float64 `json:"hand_kn,omitempty" minimum:"0.01" maximum:"5"`
		ClearM       *float64 `json:"clear_m,omitempty" minimum:"0" maximum:"50"`
		RunM         *float64 `json:"run_m,omitempty" exclusiveMinimum:"0" maximum:"100"`
		CloseFromPct *float64 `json:"close_from_pct,omitempty" minimum:"1" maximum:"100"`
	} `json:"limits"`
}

// readFirst reads a document of version 1: its one cut becomes the first pick, the
// piece above it with all that hangs on it, lowered past its block.
func readFirst(data []byte) (Job, error) {
	var old firstJob
	if err := intake.Decode(data, &old); err != nil {
		return Job{}, err
	}
	job := NewJob(old.Name)
	job.Note = old.Note
	tree := &job.Trees[0]
	tree.Wood, tree.Readings = old.Tree.Wood, filled(old.Tree.Readings)
	tree.HeightM, tree.TopDiameterM, tree.Attached = old.Tree.HeightM, old.Tree.TopDiameterM, old.Tree.Attached
	from, rig := &old.Rig, &job.Rigs[0]
	rig.Rope, rig.SlackM, rig.Tie.AboveM = from.Rope, from.SlackM, from.TieAboveCutM
	rig.Block = Block{Name: from.Block.Name, BelowCutM: from.Block.BelowCutM, Efficiency: from.Block.Efficiency, Rating: from.Block.Rating}
	rig.Device = Device{Name: from.Device.Name, AtM: from.Device.AtM, Wraps: from.Device.Wraps, Friction: from.Device.Friction, Rating: from.Device.Rating}
	rig.AnchorStiffnessKnM, rig.EnergyLostPct, rig.Catch = from.AnchorStiffnessKnM, from.EnergyLostPct, old.Catch
	l := &old.Limits
	job.Limits = Limits{DesignFactor: l.DesignFactor, PieceKg: l.PieceKg, HandKn: l.HandKn, ClearM: l.ClearM, RunM: l.RunM, CloseFromPct: l.CloseFromPct}
	job.Picks = append(job.Picks, Pick{ID: "p1", What: WhatTop, CutM: old.Cut.AtM, Way: WayPastBlock, Rig: rig.ID})
	return job, nil
}

// secondJob is version 2 of the format: one tree, its foot with the site.
type secondJob struct {
	Format  string `json:"format" enum:"elkstay-job"`
	Version int    `json:"version" minimum:"2" maximum:"2"`
	Name    string `json:"name" minLength:"1" maxLength:"120"`
	Note    string `json:"note,omitempty" maxLength:"4000"`
	Site    struct {
		TreeAt *Spot `json:"tree_at,omitempty"`
		Site
	} `json:"site"`
	Tree       Measured     `json:"tree"`
	Rigs       []Rig        `json:"rigs" maxItems:"20"`
	Picks      []fourthPick `json:"picks" maxItems:"200"`
	Limits     Limits       `json:"limits"`
	Brief      Brief        `json:"brief,omitempty"`
	WorkOn     string       `json:"work_on,omitempty" maxLength:"10"`
	Exceptions []Exception  `json:"exceptions,omitempty" maxItems:"200"`
}

// readSecond reads a document of version 2: its tree becomes the first of the trees.
func readSecond(data []byte) (Job, error) {
	var old secondJob
	if err := intake.Decode(data, &old); err != nil {
		return Job{}, err
	}
	job := NewJob(old.Name)
	tree := &job.Trees[0]
	tree.At, tree.Measured = old.Site.TreeAt, old.Tree
	job.Note, job.Site, job.Rigs, job.Picks, job.Limits = old.Note, old.Site.Site, old.Rigs, picksOf(old.Picks), old.Limits
	job.Brief, job.WorkOn, job.Exceptions = old.Brief, old.WorkOn, old.Exceptions
	job.NoteFacts()
	return settled(job)
}

// thirdJob is version 3 of the format: a felling has one line that pulls and one that holds.
type thirdJob struct {
	Job
	Version int         `json:"version" minimum:"3" maximum:"3"`
	Picks   []thirdPick `json:"picks" maxItems:"200"`
}

type thirdPick struct {
	fourthPick
	Fell *thirdFell `json:"fell,omitempty"`
}

type thirdFell struct {
	FaceDepthM *float64   `json:"face_depth_m,omitempty" exclusiveMinimum:"0" maximum:"5"`
	LeftM      *float64   `json:"left_m,omitempty" exclusiveMinimum:"0" maximum:"2"`
	RightM     *float64   `json:"right_m,omitempty" exclusiveMinimum:"0" maximum:"2"`
	BoredM     *float64   `json:"bored_m,omitempty" exclusiveMinimum:"0" maximum:"5"`
	NicksM     *float64   `json:"nicks_m,omitempty" exclusiveMinimum:"0" maximum:"2"`
	Wedged     bool       `json:"wedged,omitempty"`
	Margin     *float64   `json:"margin,omitempty" minimum:"1" maximum:"5"`
	Pull       *thirdLine `json:"pull,omitempty"`
	Hold       *thirdLine `json:"hold,omitempty"`
}

type thirdLine struct {
	Rig      string   `json:"rig,omitempty" maxLength:"40"`
	AtM      float64  `json:"at_m" minimum:"0" maximum:"120"`
	Anchor   string   `json:"anchor" minLength:"1" maxLength:"40"`
	AnchorM  *float64 `json:"anchor_m,omitempty" minimum:"0" maximum:"120"`
	Parts    *int     `json:"parts,omitempty" minimum:"1" maximum:"9"`
	EffortKn *float64 `json:"effort_kn,omitempty" exclusiveMinimum:"0" maximum:"500"`
}

// readThird reads a document of version 3: the two lines of a felling become the first of many.
func readThird(data []byte) (Job, error) {
	var old thirdJob
	if err := intake.Decode(data, &old); err != nil {
		return Job{}, err
	}
	job := old.Job
	job.Version, job.Picks = Version, make([]Pick, len(old.Picks))
	for i := range old.Picks {
		pick := old.Picks[i].now()
		if was := old.Picks[i].Fell; was != nil {
			pick.Fell = &Fell{FaceDepthM: was.FaceDepthM, LeftM: was.LeftM, RightM: was.RightM, BoredM: was.BoredM, NicksM: was.NicksM, Wedged: was.Wedged, Margin: was.Margin}
			for _, one := range []struct {
				id   string
				line *thirdLine
			}{{"pull", was.Pull}, {"hold", was.Hold}} {
				if l := one.line; l != nil {
					pick.Fell.Lines = append(pick.Fell.Lines, FellLine{ID: one.id, Holds: one.id == "hold", Rig: l.Rig, AtM: l.AtM, Anchor: l.Anchor, AnchorM: l.AnchorM, Parts: l.Parts, EffortKn: l.EffortKn})
				}
			}
		}
		job.Picks[i] = pick
	}
	job.NoteFacts()
	return settled(job)
}

// fourthJob is version 4 of the format: what happened to a pick stands with it.
type fourthJob struct {
	Job
	Version int          `json:"version" minimum:"4" maximum:"4"`
	Picks   []fourthPick `json:"picks" maxItems:"200"`
}

type fourthPick struct {
	Pick
	WeighedKg *float64 `json:"weighed_kg,omitempty" exclusiveMinimum:"0" maximum:"100000"`
	Done      bool     `json:"done,omitempty"`
}

// now is the pick with what happened to it.
func (p *fourthPick) now() Pick {
	pick := p.Pick
	pick.WeighedKg, pick.Done = p.WeighedKg, p.Done
	return pick
}

func picksOf(old []fourthPick) []Pick {
	picks := make([]Pick, len(old))
	for i := range old {
		picks[i] = old[i].now()
	}
	return picks
}

// readFourth reads a document of version 4: what its picks say happened to them becomes facts.
func readFourth(data []byte) (Job, error) {
	var old fourthJob
	if err := intake.Decode(data, &old); err != nil {
		return Job{}, err
	}
	job := old.Job
	job.Version, job.Picks = Version, picksOf(old.Picks)
	job.NoteFacts()
	return settled(job)
}
