package assess

import (
	"encoding/binary"
	"math"

	"elkstay/core/intake"
	"elkstay/core/job"
	"elkstay/core/space"
	"elkstay/core/timber"
)

// A Memory keeps what has been worked out of one job as it is edited, so that a change
// works out again only the picks that it can touch: those that are written otherwise, and
// those before whose cut the trees now stand otherwise. It changes no figure. It is not for
// use by several goroutines at once.
type Memory struct {
	rest    string // all of the document but its picks, and what was asked beside it
	read    job.Job
	written map[string]job.Pick   // by their text
	order   []string              // the texts of the picks last read
	picks   map[string]remembered // by id
}

// remembered is one pick worked out, and what it was worked out from.
type remembered struct {
	from    string
	out     *Outcome
	figures PickFigures
}

// Read reads a job document as job.ReadJob does, and only what has changed since the last.
// asked is all that a figure depends on beside the document.
func (m *Memory) Read(data []byte, asked string) (job.Job, error) {
	rest, picks, ok := job.Split(data)
	m.order = nil
	if !ok {
		return job.ReadJob(data)
	}
	if key := asked + "\x00" + string(rest); key != m.rest || m.written == nil {
		read, err := job.ReadJob(data)
		if err != nil {
			return read, err
		}
		// An older document is written anew when it is read: its parts are not those of this one.
		*m = Memory{rest: key, read: read, written: map[string]job.Pick{}, picks: map[string]remembered{}}
		if len(picks) == len(read.Picks) {
			for i := range picks {
				m.written[string(picks[i])] = read.Picks[i]
				m.order = append(m.order, string(picks[i]))
			}
		}
		return read, nil
	}
	list := make([]job.Pick, len(picks))
	seen := map[string]bool{}
	for i, text := range picks {
		known, ok := m.written[string(text)]
		if !ok {
			if intake.Decode(text, &known) != nil {
				return job.ReadJob(data)
			}
			m.written[string(text)] = known
		}
		if seen[known.ID] {
			return job.ReadJob(data)
		}
		seen[known.ID] = true
		list[i] = known
	}
	if len(list) > job.MostPicks {
		return job.ReadJob(data)
	}
	for _, text := range picks {
		m.order = append(m.order, string(text))
	}
	if len(m.written) > 4*len(list)+64 {
		m.written = map[string]job.Pick{}
		for i, text := range picks {
			m.written[string(text)] = list[i]
		}
	}
	read := m.read
	read.Picks = list
	return read, nil
}

// standsAs writes down how the trees stand, and what the scale has taught of this one.
func (v *Survey) standsAs(into []byte, number int, now *space.Standing) []byte {
	into = binary.LittleEndian.AppendUint64(into, uint64(number)) //nolint:gosec // counts picks
	figure := func(f float64) { into = binary.LittleEndian.AppendUint64(into, math.Float64bits(f)) }
	for _, s := range now.Among() {
		if s == nil {
			continue
		}
		figure(s.Top)
		for _, tip := range s.Tips {
			figure(tip)
		}
	}
	figure(v.Taught.Heavier)
	for _, l := range [2]*timber.Learned{v.Taught.Stem, v.Taught.Limbs} {
		if l != nil {
			figure(l.Factor)
			figure(l.LowFactor)
			figure(l.HighFactor)
		} else {
			figure(0)
		}
	}
	return into
}

// worked works a pick out, or remembers it. p is the pick as it is now.
func (m *Memory) worked(v *Survey, p *job.Pick, number int, now *space.Standing) (*Outcome, PickFigures) {
	if m == nil || number > len(m.order) {
		out := v.work(p, number, now)
		return out, v.figures(out)
	}
	from := string(v.standsAs([]byte(m.order[number-1]), number, now))
	if had, ok := m.picks[p.ID]; ok && had.from == from {
		return had.out, had.figures
	}
	out := v.work(p, number, now)
	one := remembered{from, out, v.figures(out)}
	if !v.Cancelled() { // else it is unfinished
		m.picks[p.ID] = one
	}
	return one.out, one.figures
}
