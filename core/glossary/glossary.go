// Package glossary says what the words of the trade, and those of this application, mean here. One
// table: the screen, the search and docs/glossary.md are made from it.
//
// Words of the trade are common practice, with no source; where crews differ, the other word stands
// beside it.
package glossary

import (
	"slices"
	"strings"
)

// A Word and what it means here.
type Word struct {
	Word    string   `json:"word"`
	Also    []string `json:"also,omitempty" doc:"Other words for it"`
	Means   string   `json:"means"`
	Picture string   `json:"picture,omitempty" doc:"A small drawing: an SVG path in a box of 48 by 32"`
	Ours    bool     `json:"ours,omitempty" doc:"A word of this application, not of the trade"`
}

var table = []Word{
	{Word: "anchor", Also: []string{"anchor point"}, Means: "What a line, a block or a device is made fast to: a stump, another tree, a vehicle, a ground anchor. It is held to what is marked on it, to the bending of its wood, or to its grip."},
	{Word: "back cut", Means: "The cut from behind that frees the piece, stopping short of the face so that a hinge is left.", Picture: "M8 4v24h32V4M8 16h20"},
	{Word: "back lean", Means: "The weight of a stem stands behind its hinge: it goes the other way unless something brings it forward.", Picture: "M4 28h40M18 28L10 4M18 28l8-3M30 12h12M37 7l5 5l-5 5"},
	{Word: "balance", Also: []string{"centre of gravity"}, Means: "The place where all of a piece's weight can be thought to sit. A sling or tie there lets it hang level."},
	{Word: "bight", Means: "The inside of a line's bend. When what turns the line lets go, the line flies through it: nobody stands there.", Picture: "M6 28L24 6L42 28M14 28a12 8 0 0 1 20 0"},
	{Word: "block", Also: []string{"rigging block", "pulley"}, Means: "The sheave that the line runs over, held to the tree by a sling. It carries the line and its lead together: about twice the piece.", Picture: "M24 4v6M16 18a8 8 0 1 0 16 0a8 8 0 1 0-16 0M16 18v12M32 18v12"},
	{Word: "bollard", Also: []string{"lowering device", "friction device"}, Means: "A drum on the foot of the stem that the line is wrapped round; each wrap lets a hand hold more.", Picture: "M16 4v24M32 4v24M16 10h16M16 16h16M16 22h16"},
	{Word: "brush", Means: "Twigs and leaves on the outer part of a limb, as against its wood."},
	{Word: "butt", Means: "The thick end of a piece: where it was cut.", Picture: "M6 10h8v12H6zM14 10l30 4v4l-30 4"},
	{Word: "call", Ours: true, Means: "What is said to the ground before the cut, in as many words as can be shouted."},
	{Word: "catch", Means: "How the line stops a piece: tied off, by wraps and a hand, or by letting rope run."},
	{Word: "chips", Means: "Brush and thin wood through the chipper. Fresh, a cubic metre weighs some 300 kg; a body of them is often heavier than the truck may carry."},
	{Word: "ceiling", Ours: true, Means: "The most a shock can come to by the energy sum; what is followed through time stays at or below it."},
	{Word: "connector", Also: []string{"carabiner", "shackle"}, Means: "What joins a block to its sling. It is held to its own marking."},
	{Word: "choker", Also: []string{"choked hitch"}, Means: "A sling that runs through itself: it keeps about four fifths of its strength.", Picture: "M6 16h12a10 10 0 1 0 10-10v10"},
	{Word: "clear", Also: []string{"clearance"}, Means: "How near a piece, with all its brush, passes something on its whole way. Below nothing it strikes."},
	{Word: "close", Ours: true, Means: "A verdict: within the limit, but near it. The crew says from which share on."},
	{Word: "crane", Means: "Lifts a piece off: held to its chart at the radius, and to the share of it that the crew uses.", Picture: "M6 28h16M12 28V20L42 4M42 4v10M38 14h8v6h-8z"},
	{Word: "device", Means: "What holds the line on the ground: a bollard, mostly."},
	{Word: "drop zone", Means: "Ground kept clear for pieces to come down on."},
	{Word: "face", Also: []string{"notch", "gob"}, Means: "The wedge of wood cut out on the side the piece is to go. When it closes, the hinge breaks.", Picture: "M8 4v24h32V4M40 12L26 18H40"},
	{Word: "felled", Means: "Over its hinge in one go: everything above the cut."},
	{Word: "fork", Also: []string{"crotch", "union"}, Means: "Where a limb or a second stem leaves. A rope over it rubs; bark between two stems makes it weak.", Picture: "M24 28V16L12 4M24 16L36 4M19 11c3 3 7 3 10 0"},
	{Word: "free", Means: "A way down with no rope: it falls where its weight and its face take it, and scatters."},
	{Word: "fall rose", Ours: true, Means: "The ring round a tree on the plan that says for every bearing whether it can fall there, and why not."},
	{Word: "hand", Means: "The person on the line behind the device, or alone. What one hand holds is a rule of the crew."},
	{Word: "hinge", Also: []string{"holding wood"}, Means: "The strip of wood between face and back cut. It steers the piece until the face closes.", Picture: "M8 4v24h32V4M40 12L30 18H40M8 16h14"},
	{Word: "hitch", Means: "How a sling is put on: straight, choked or as a basket. Each leaves another share of its strength."},
	{Word: "holder", Ours: true, Means: "Whatever a block, a turn or a device sits on: anchor, limb, other tree, vehicle. It is a rung of the ladder like any other."},
	{Word: "hung branch", Also: []string{"hanger", "widow-maker"}, Means: "A broken branch that hangs in the crown: it comes down when it likes.", Picture: "M24 30V4M24 12L8 6M14 8L20 24M24 18l14-6"},
	{Word: "ladder", Ours: true, Means: "The load's way from the piece to the hand, part by part, each against its own limit."},
	{Word: "lay", Means: "Where a felled tree lies: stem and crown, as wide as one aims."},
	{Word: "lead", Also: []string{"fall of the line"}, Means: "The line behind the block, down to the device.", Picture: "M24 4v3M18 12a6 6 0 1 0 12 0a6 6 0 1 0-12 0M18 12v10M30 12L40 28M14 22h8v6h-8z"},
	{Word: "leader", Means: "An upright limb that grows as a second stem.", Picture: "M18 30V4M18 20c12 0 14-4 14-16"},
	{Word: "line", Also: []string{"rope", "rigging line"}, Means: "The rope that holds the piece."},
	{Word: "locker", Ours: true, Means: "The crew's gear, each item with what its maker marked on it and when it was looked at."},
	{Word: "margin", Means: "A factor on what is needed to bring a tree over, so that a little more goes wrong than was thought."},
	{Word: "not held", Ours: true, Means: "A verdict: the line runs and nothing stops the piece."},
	{Word: "not known", Ours: true, Means: "A verdict: something that decides was not given. It is never taken as good."},
	{Word: "over", Ours: true, Means: "A verdict: a limit is passed, or it cannot happen so."},
	{Word: "past its block", Also: []string{"blocking down", "snatching"}, Means: "The block sits below the cut: the piece tips and falls past it onto the line. The hardest shock there is.", Picture: "M14 30V14M14 14a4 4 0 1 0 0.1 0M28 6v12M28 18L18 14"},
	{Word: "pick", Ours: true, Means: "One piece that comes off: its cut, its way down, its rig."},
	{Word: "piece", Means: "What comes off: its weight is the first rung, at the heavy end of what it may weigh."},
	{Word: "pull", Means: "What a line or what pulls at it must give to bring a tree over, margin included, against what it is counted on to give."},
	{Word: "push", Means: "What a machine must push with, level, at a height of a tree that is felled."},
	{Word: "pretension", Means: "How tight a line is made before the cut."},
	{Word: "redirect", Also: []string{"turn"}, Means: "A pulley or a fork that leads the line another way. It carries both legs of it.", Picture: "M6 6L30 22L42 4M28 20a4 4 0 1 0 4 2"},
	{Word: "rig", Means: "One way of holding pieces: rope, tie, block, sling, turns, device, hands."},
	{Word: "rung", Ours: true, Means: "One part of the ladder: what it sees, what it may see, and why. It opens its working."},
	{Word: "run", Means: "Rope let through the device while it catches, so that the shock is softer and the piece comes lower."},
	{Word: "second block", Means: "Of a piece moved between two points: the block that it goes to."},
	{Word: "second line", Means: "Of a piece moved between two points: the line that draws it over."},
	{Word: "shock", Also: []string{"peak", "dynamic load"}, Means: "What the line carries at the worst moment of the catch: a multiple of the weight."},
	{Word: "slack", Means: "Rope that must be taken up before the line holds: a longer fall.", Picture: "M6 6c6 30 30 30 36 0M10 4h-8M46 4h-8"},
	{Word: "sling", Means: "A loop that holds a block to the tree, or a piece to a hook.", Picture: "M24 4v6M24 10c-14 4-14 18 0 18c14 0 14-14 0-18"},
	{Word: "snap cut", Also: []string{"overlapping cuts"}, Means: "Two cuts that pass each other: the piece is broken off by hand. For what a hand can push and throw.", Picture: "M12 4v24M36 4v24M12 14h16M20 20h16"},
	{Word: "spar", Also: []string{"standing stem"}, Means: "The stem that stays and carries the gear. It bends under every catch.", Picture: "M4 28h40M20 28L22 6h4l2 22M26 8L40 4"},
	{Word: "stop", Means: "What ends a swing: a limb left standing, a stem, a line. It takes all that the piece has."},
	{Word: "strap", Also: []string{"trigger", "tongue"}, Means: "Wood left at the back of a cut and let go last."},
	{Word: "stump", Means: "What is left of the stem; also the view of a felling cut from above.", Picture: "M4 28h40M14 28V16h20v12M14 16a10 3 0 0 1 20 0a10 3 0 0 1-20 0"},
	{Word: "swung", Means: "A way down: held from above and to the side, the piece swings off on the line.", Picture: "M24 4L8 24M24 4v24M24 4L40 24"},
	{Word: "tag line", Also: []string{"guide line"}, Means: "A thin line in the hand of somebody on the ground, that draws a hanging piece aside. Never round the hand.", Picture: "M24 2v12M12 14h24v6H12zM12 17L4 30M2 30h8"},
	{Word: "tie", Also: []string{"attachment"}, Means: "Where, and how, the line holds the piece.", Picture: "M8 12h32v8H8zM26 4v8c-6 0-6 8 0 8c6 0 6-8 0-8"},
	{Word: "tie-in", Means: "Where the climber's own rope is anchored."},
	{Word: "tip", Means: "The thin end of a limb or a top.", Picture: "M4 20h30l10-4M34 20l8 4M28 20l6-8M4 16v8"},
	{Word: "top", Means: "Everything above a cut, limbs and all."},
	{Word: "twin lines", Means: "Two ropes side by side, each with its block and device: half each while they are let out together.", Picture: "M18 2v12M30 2v12M8 14h32v8H8z"},
	{Word: "verdict", Ours: true, Means: "How something stands against its limit: within, close, over, not known, not held. Shape and colour both tell."},
	{Word: "wedge", Means: "Driven into the back cut: it keeps the cut open and lifts a little.", Picture: "M8 4v24M8 16h14M22 15L42 10v12L22 17z"},
	{Word: "within", Ours: true, Means: "A verdict: under every limit that is known. It says nothing of what is not in the figures."},
	{Word: "working", Ours: true, Means: "How a figure came to be, step by step, with the source of each."},
	{Word: "working load", Also: []string{"WLL", "SWL"}, Means: "The load marked on an item by its maker. What is marked, and what physics leaves of its strength, both count: the lesser."},
	{Word: "wraps", Also: []string{"turns"}, Means: "How often the line goes round the device. Each multiplies what the hand holds.", Picture: "M16 4v24M32 4v24M12 10h24M12 16h24M12 22h24"},
}

// Words are all of them, by the alphabet.
func Words() []Word {
	words := slices.Clone(table)
	slices.SortFunc(words, func(a, b Word) int { return strings.Compare(a.Word, b.Word) })
	return words
}

// Markdown writes the glossary as a page.
func Markdown() string {
	var page strings.Builder
	page.WriteString("# Words\n\nWhat the words of the trade mean here, and those that are our own (marked ◆). Made from `core/glossary`.\n")
	for _, one := range Words() {
		page.WriteString("\n**" + one.Word + "**")
		if one.Ours {
			page.WriteString(" ◆")
		}
		if len(one.Also) > 0 {
			page.WriteString(" (also " + strings.Join(one.Also, ", ") + ")")
		}
		page.WriteString(": " + one.Means + "\n")
	}
	return page.String()
}
