package course

import (
	"context"
	"fmt"

	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/sight"
	"elkstay/core/space"
)

// A Way is one way down.
type Way interface {
	// Held is what holds the piece while it is cut.
	Held() Holding
	// Bound sets what the piece itself is held to.
	Bound(s *Scene, piece *hold.Load)
	// Make lays out the gear and works out what it carries.
	Make(c Course) Made
}

// Holding is what holds a piece while it is cut.
type Holding string

// What may hold a piece.
const (
	HeldByNothing Holding = "none"
	HeldByLine    Holding = "line"
	HeldByCrane   Holding = "crane"
)

// Made is how one piece comes down one way: a value of that way's own type. It makes forces, poses and distances, and
// judges none of them.
type Made interface {
	// State is what every way has.
	State() *Course
	// Held is how lines catch it, as far as it is followed; nil: it comes onto none.
	Held() *Held
	// Follow goes on from the cut to where it lies: all that it passes.
	Follow()
	// Figures adds what this way alone has to what is drawn and said.
	Figures(f *Figures)
	// Words are what is called and what must be read with it.
	Words() Words
}

// Simulated is a way that can be followed through time. runs > 0 repeats it as often with what is not known well. The
// error is that of ctx.
type Simulated interface {
	Simulate(ctx context.Context, runs int, trace *Trace) error
}

// Words are what a way says of a piece.
type Words struct {
	Call     string   // what is called to the ground; empty when it cannot be said
	Cautions []string // what must stand beside it whatever its figures
	Steady   []string // what tag line, twin line and stop do
	Drawn    bool     // a tag line is in its figures
}

// A Course is what every way down has of a piece: its gear, what that carries, and what the piece passes.
type Course struct {
	*Scene
	*space.Piece
	Offered  *job.Rig     // the rig at hand; nil: there is none
	Rig      *job.Rig     // nil: the way needs none, or it is not there
	Settings job.Settings // of the rig, as the pick uses it
	Faults   []space.OrderFault
	Loads    []hold.Load // from the piece to the hand
	Cases    []Case      // how it may come down
	Clears   []Clearance // nearest first
	Notes    []string    // where ropes run against something, who stands near
	Ropes    []RopeUse
	Lands    *Lands  // where it comes down, held by nothing; nil: it is put down, or nobody asks
	Across   bool    // it is carried between two points: no device alone holds it
	Before   *Course // the same piece to the same bearing, worked out already: where it comes down is not asked again; nil: it is
}

// A Case is one way in which a course may go, of what nobody knows: its moments side by side with those of other cases.
type Case struct {
	Name    string
	Moments []hold.Moment // what all of its gear does to what that sits on
	Way     space.Sweep   // where the piece is, from the cut until it lies; nothing in it before it is followed
}

// A RopeUse is how much of a rig's rope a pick needs, m: knot, wraps and tail included.
type RopeUse struct {
	Rig   *job.Rig
	NeedM float64
}

// Lands is the ground that a piece may come down on, and between which heights it passes what stands.
type Lands struct {
	Discs    []space.Disc
	FromM    float64 // it passes wood from here down
	HighestM float64 // and lines from the height that it reaches
}

// A Sit is a place that gear sits on, and what the gear is called.
type Sit struct {
	What  string
	Place *job.Place // nil: the piece's own stem
	HighM float64
}

// Held is how lines catch a piece.
type Held struct {
	PeakKn  float64
	Holds   bool
	Slips   bool // it holds with the friction given, not with less
	Runs    bool // rope runs through the hold
	RunM    float64
	Drops   bool        // it falls onto its line
	Floor   space.Floor // beneath it
	LowestM float64     // height of its lower end at its lowest
	Stops   bool        // and whether it stops
}

// Fault adds why the pick cannot happen.
func (c *Course) Fault(code, format string, args ...any) {
	c.Faults = append(c.Faults, space.OrderFault{Code: code, Message: fmt.Sprintf(format, args...)})
}

// Stopped reports a fault that leaves nothing to work out.
func (c *Course) Stopped() bool { return len(c.Faults) > 0 }

// Note adds a sentence to what must be read with the pick.
func (c *Course) Note(format string, args ...any) {
	c.Notes = append(c.Notes, fmt.Sprintf(format, args...))
}

// State is the course itself.
func (c *Course) State() *Course { return c }

// Why a pick cannot happen where it stands in the order, besides that its wood is gone.
const (
	FaultBlock   = "block"     // gear on wood that is gone, or in the wrong place
	FaultTieIn   = "tie-in"    // the climber's tie-in is gone
	FaultTie     = "tie"       // the tie is beyond the piece
	FaultRig     = "rig"       // no rig, no rope, no crane
	FaultTooLong = "too-long"  // longer than its drop
	FaultReach   = "reach"     // the rope, the crane, the lines do not reach
	FaultSector  = "sector"    // into a no-go sector
	FaultBack    = "back-lean" // its weight stands behind its hinge
	FaultSlings  = "slings"    // it cannot hang in its slings
	FaultGear    = "gear"      // an item is set aside or overdue
	FaultTied    = "tied"      // its crown hangs together with another tree's
	FaultFell    = "fell"      // a felling contradicts itself
)

// Wind is the point of the compass that it falls towards.
func (c *Course) Wind() string { return sight.Wind(c.Settings.FallTowardsDeg) }

// StaysOut faults a piece that its lines bring into a no-go sector that it is not in anyway, as it grows or in other poses.
func (c *Course) StaysOut(way *space.Sweep, anyway ...space.Pose) {
	if name := c.BroughtInto(way, anyway...); name != "" {
		c.Fault(FaultSector, "its lines bring it into the no-go sector %s", name)
	}
}
