package paper

import (
	"bytes"
	"fmt"
	"math"
	"strings"

	"codeberg.org/go-pdf/fpdf"
	"golang.org/x/image/font/gofont/gobold"

	"elkstay/core/assess"
	"elkstay/core/job"
	"elkstay/core/policy"
	"elkstay/core/units"
	"elkstay/paper/brief"
)

// Briefing writes the briefing as a PDF of vectors; letter is US letter in place of A4.
func Briefing(document *job.Job, a *assess.Assessment, p *brief.Paper, stamp Stamp, system units.System, letter bool) ([]byte, error) {
	format := "A4"
	if letter {
		format = "Letter"
	}
	d := &page{Fpdf: fpdf.New("L", "mm", format, ""), stamp: &stamp, name: p.Name, taken: make(map[*face]bool)}
	d.w, d.h = d.GetPageSize()
	d.AddUTF8FontFromBytes(shipped.name, "", shipped.ttf)
	d.AddUTF8FontFromBytes(shipped.name, "B", gobold.TTF)
	d.says(about{p.Name + ", briefing", fmt.Sprintf("Revision %d of the job. %s", stamp.Revision, p.State), p.Lead, stamp.MadeAt})
	d.SetAutoPageBreak(false, 0)
	d.SetMargins(margin, margin, margin)
	d.SetHeaderFunc(d.head)
	d.SetFooterFunc(d.foot)
	d.first(document, a, p, system)
	d.picks(p)
	for i := range p.Cards {
		d.card(&p.Cards[i])
	}
	d.gear(p)
	d.rest(p)
	if d.missing {
		d.room(8)
		d.y += d.wrapped(margin, d.y, d.w-2*margin, 8, 3.6, false, "Characters that no font at hand has, and scripts that need joining, stand as their codes, such as [U+1F333].")
	}
	d.numbered()
	var out bytes.Buffer
	if err := d.Output(&out); err != nil {
		return nil, err
	}
	return out.Bytes(), nil
}

// first is the page with the drawings.
func (d *page) first(document *job.Job, a *assess.Assessment, p *brief.Paper, system units.System) {
	d.AddPage()
	d.font(9.5, false)
	d.outlined("Site and tree")
	said := []string{"Briefing"}
	if p.WorkOn != "" {
		said = append(said, "for "+p.WorkOn)
	}
	if p.Lead != "" {
		said = append(said, "in charge: "+p.Lead)
	}
	beside := strings.Join(said, " · ")
	d.font(9.5, false)
	besideW := d.GetStringWidth(beside)
	size := 22.0
	for d.font(size, true); size > 12 && d.GetStringWidth(p.Name)+5+besideW > d.w-2*margin; d.font(size, true) {
		size--
	}
	if after := margin + d.GetStringWidth(p.Name) + 5; after+besideW <= d.w-margin {
		d.Text(margin, d.y+7.5, p.Name)
		d.font(9.5, false)
		d.Text(after, d.y+7.5, beside)
		d.y += 10.5
	} else {
		d.y += d.wrapped(margin, d.y+2, d.w-2*margin, size, 5.5, true, p.Name) + 2
		d.y += d.wrapped(margin, d.y, d.w-2*margin, 9.5, 4.2, false, beside) + 1
	}
	d.y += d.wrapped(margin, d.y, d.w-2*margin, 10.5, 4.8, true, strings.ToUpper(string(p.Verdict[:1]))+string(p.Verdict[1:])+": "+p.State)
	d.font(8, false)
	d.tint(faint)
	d.y += d.wrapped(margin, d.y, d.w-2*margin, 8, 3.6, false, strings.Join(p.Tree, " · "))
	d.tint(ink)
	d.y += 1.5
	high := d.h - foot - 5 - d.notes(p, d.y, true) - d.y
	left := (d.w - 2*margin) * 0.54
	d.draw(Site(document, a, system, left-4, high), margin, d.y)
	d.draw(Tree(document, a, system, d.w-2*margin-left, high), margin+left, d.y)
	d.notes(p, d.y+high+2.5, false)
}

// notes stand beneath the drawings: who stands where, the ways out, help. It returns how
// high they come; measured, they are not written.
func (d *page) notes(p *brief.Paper, top float64, measured bool) (high float64) {
	third := (d.w - 2*margin) / 3
	column := func(i int, title string, lines []string) {
		x, y := margin+float64(i)*third, top
		if !measured {
			d.font(10, true)
			d.Text(x, y+3.6, title)
		}
		y += 5.2
		for _, line := range lines {
			if measured {
				d.font(8.5, false)
				y += 3.8 * float64(len(d.split(line, third-5)))
			} else {
				y += d.wrapped(x, y, third-5, 8.5, 3.8, false, line)
			}
		}
		high = math.Max(high, y-top)
	}
	posts := []string{}
	for i, post := range p.Posts {
		text := fmt.Sprintf("%c  %s", 'A'+i, post.Role)
		if post.Name != "" {
			text += ", " + post.Name
		}
		posts = append(posts, text+": "+post.Where)
	}
	if len(posts) == 0 {
		posts = []string{"Nobody has said."}
	}
	column(0, "Who stands where", posts)
	out := append([]string{}, p.Escapes...)
	if len(out) == 0 {
		out = []string{"None are drawn: two, at 45° behind the fall, walked and cleared."}
	}
	column(1, "Ways out", out)
	help := p.Emergency
	if help == "" {
		help = "Nobody has said where help comes to and who calls."
	}
	column(2, "If somebody is hurt", []string{help})
	return high
}

// verdictTint is the colour of a verdict; its word says the same.
func verdictTint(verdict policy.Verdict) tone {
	switch verdict {
	case policy.Over, policy.NotHeld:
		return danger
	case policy.Within:
		return ink
	}
	return tone{138, 82, 0, false}
}

func (d *page) picks(p *brief.Paper) {
	d.AddPage()
	d.heading("Picks, first to last")
	columns := []column{
		{"", 7, true}, {"piece", 34, false}, {"weight", 25, true}, {"cut", 45, false}, {"way down", 26, false}, {"tie", 12.5, true}, {"rig", 17, false},
		{"wraps", 10.5, true}, {"run", 12.5, true}, {"line peak", 14.5, true}, {"the worst", 37, false}, {"verdict", 14, false}, {"call", 0, false},
	}
	rows, tints := [][]cell{}, []tone{}
	for i := range p.Picks {
		one := &p.Picks[i]
		title := one.Title
		if one.Done {
			title += " (down)"
		}
		call := one.Call
		if one.Faults != "" {
			call = "Cannot happen: " + one.Faults
		}
		rows = append(rows, []cell{
			{fmt.Sprint(one.Number), true}, {title, false}, {one.Weighs(), false}, {one.Cut, false}, {one.Way, false}, {one.Tie, false}, {one.Rig, false},
			{one.Wraps, false}, {one.Run, false}, {one.Peak, false}, {one.Nearest, false}, {string(one.Verdict), true}, {call, false},
		})
		tints = append(tints, verdictTint(one.Verdict))
	}
	if len(rows) == 0 {
		d.y += d.wrapped(margin, d.y, d.w-2*margin, 9, 4, false, "Nothing is planned yet.") + 3
		return
	}
	d.table(columns, rows, tints)
}

func (d *page) gear(p *brief.Paper) {
	if len(p.Gear) == 0 {
		return
	}
	d.room(40)
	d.heading("Gear, and the pick that loads each item hardest")
	rows, tints := [][]cell{}, []tone{}
	for i := range p.Gear {
		g := &p.Gear[i]
		rows = append(rows, []cell{{g.What, false}, {g.Name, false}, {g.Serial, false}, {g.Rig, false}, {g.Peak, false}, {g.Limit, false}, {g.Use, false}, {string(g.Verdict), true}, {g.Standing, false}})
		tints = append(tints, verdictTint(g.Verdict))
	}
	d.table([]column{{"part", 22, false}, {"item", 48, false}, {"serial", 24, false}, {"rig", 26, false}, {"hardest", 20, true}, {"limit", 20, true}, {"of its limit", 30, false}, {"verdict", 20, false}, {"in the locker", 0, false}}, rows, tints)
	if len(p.Ropes) > 0 {
		d.room(20)
		d.heading("Ropes, with knot, wraps and tail")
		rows, tints = nil, nil
		for _, r := range p.Ropes {
			rows = append(rows, []cell{{r.Rig, false}, {r.Need, false}, {r.Have, false}, {string(r.Verdict), true}})
			tints = append(tints, verdictTint(r.Verdict))
		}
		d.table([]column{{"rig", 50, false}, {"must be", 50, false}, {"is", 40, false}, {"verdict", 0, false}}, rows, tints)
	}
}

// card is the page that the sawyer of a felling takes along: read at arm's length.
func (d *page) card(c *brief.Card) {
	d.AddPage()
	d.font(16, true)
	d.outlined(fmt.Sprintf("Pick %d, %s: the cut", c.Number, c.Title))
	d.y += d.wrapped(margin, d.y, d.w-2*margin, 16, 6.6, true, fmt.Sprintf("%d  %s", c.Number, c.Title))
	d.y += d.wrapped(margin, d.y, d.w-2*margin, 10.5, 4.6, true, fmt.Sprintf("%s: falls %s.", strings.ToUpper(string(c.Verdict[:1]))+string(c.Verdict[1:]), c.Falls))
	d.tint(faint)
	d.y += d.wrapped(margin, d.y, d.w-2*margin, 8.5, 3.8, false, c.Balance)
	d.tint(ink)
	d.y += 1
	const high = 84.0
	d.draw(Stump(c.Fell, d.w-2*margin, high), margin, d.y)
	d.y += high + 1
	third := (d.w - 2*margin) / 3
	x, y := margin, d.y
	write := func(title string, lines []string, size, leading float64, numbered bool) {
		if len(lines) == 0 {
			return
		}
		d.font(11.5, true)
		d.Text(x, y+4, title)
		y += 5.8
		for i, text := range lines {
			if numbered {
				text = fmt.Sprintf("%d  %s", i+1, text)
			}
			y += d.wrapped(x, y, third-5, size, leading, false, text) + 0.7
		}
		y += 1.6
	}
	write("What to cut, in order", c.Steps, 10.5, 4.6, true)
	lines := make([]string, len(c.Lines))
	for i, l := range c.Lines {
		lines[i] = fmt.Sprintf("%s: %s needed at the tree; legs carry up to %s. %s", l.Name, l.Need, l.Legs, l.Said)
	}
	x, y = margin+third, d.y
	write("Lines", lines, 9, 4, false)
	write("If that does not do", c.Plans, 8, 3.5, false)
	x, y = margin+2*third, d.y
	write("Stand beside it", c.Cautions, 8.4, 3.6, false)
	write("Other cuts for this stump, and their price", c.Schools, 7.6, 3.3, false)
}

// rest is what is read out: other plans, cautions, what is not known, who signs.
func (d *page) rest(p *brief.Paper) {
	half := (d.w - 2*margin) / 2
	or := func(text, instead string) string {
		if text == "" {
			return instead
		}
		return text
	}
	pair := func(titles [2]string, texts [2][]string) {
		// Long lists are set smaller, so that a paper stays one that is read.
		size, leading := 9.0, 4.0
		if len(strings.Join(texts[0], ""))+len(strings.Join(texts[1], "")) > 900 {
			size, leading = 7.8, 3.4
		}
		high := 0.0
		for i := range 2 {
			d.font(size, false)
			lines := 0
			for _, text := range texts[i] {
				lines += len(d.split(text, half-10))
			}
			high = math.Max(high, 7+float64(lines)*leading+float64(len(texts[i]))*0.8)
		}
		d.room(high)
		d.outlined(titles[0] + ", " + titles[1])
		for i := range 2 {
			x, y := margin+float64(i)*half, d.y
			d.font(12, true)
			d.Text(x, y+4.5, titles[i])
			y += 6.8
			for _, text := range texts[i] {
				if len(texts[i]) > 1 {
					d.font(size, false)
					d.Text(x, y+leading*0.78, "–")
				}
				y += d.wrapped(x+4, y, half-10, size, leading, false, text) + 0.8
			}
		}
		d.y += high + 2
	}
	pair([2]string{"Plan B", "Plan C"}, [2][]string{{or(p.PlanB, "None is written down: decide it before the first cut.")}, {or(p.PlanC, "None is written down: decide it before the first cut.")}})
	pair([2]string{"Cautions", "What is not known"}, [2][]string{p.Cautions, p.Unknown})
	d.closing(p, half)
}

// closing is what the figures are held to, and beside it who signs.
func (d *page) closing(p *brief.Paper, half float64) {
	const head, row = 6.8, 13.0
	across := 2
	if len(p.Signatures) > 4 {
		across = 3
	}
	d.font(9, false)
	lines := 0
	for _, rule := range p.Rules {
		lines += len(d.split(rule, half-10))
	}
	d.room(math.Max(head+4*float64(lines)+0.4*float64(len(p.Rules)), head+row*math.Ceil(float64(len(p.Signatures))/float64(across))))
	d.font(12, true)
	d.outlined("What the figures are held to, and who signs")
	d.Text(margin, d.y+4.5, "What the figures are held to")
	d.Text(margin+half, d.y+4.5, "Read and understood")
	y := d.y + head
	for _, rule := range p.Rules {
		y += d.wrapped(margin+4, y, half-10, 9, 4, false, rule) + 0.4
	}
	each := half / float64(across)
	d.SetDrawColor(ink.r, ink.g, ink.b)
	d.SetLineWidth(0.2)
	for i, who := range p.Signatures {
		x, line := margin+half+float64(i%across)*each, d.y+head+float64(i/across)*row+7
		d.Line(x, line, x+each-4, line)
		d.wrapped(x, line+0.6, each-4, 7.5, 3, false, who)
	}
}
