package paper

import (
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"math"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"testing"
	"time"

	"elkstay/core/assess"
	"elkstay/core/job"
	"elkstay/core/policy"
	"elkstay/core/units"
	"elkstay/paper/brief"
)

// whole is one of the demo's jobs with what is said of it.
func whole(t testing.TB, name string, system units.System) (job.Job, assess.Assessment, brief.Paper) {
	t.Helper()
	data, err := os.ReadFile("../demo/" + name + ".json")
	if err != nil {
		t.Fatal(err)
	}
	document, err := job.ReadJob(data)
	if err != nil {
		t.Fatal(err)
	}
	o := assess.Options{Units: system}
	return document, assess.Assess(&document, o), brief.Briefing(&document, o)
}

var made = time.Date(2026, 3, 31, 6, 45, 0, 0, time.UTC)

func stamp(newest int) Stamp {
	return Stamp{Revision: 12, Newest: newest, SavedAt: made.Add(-time.Hour), MadeAt: made, Crew: 34}
}

// pages reads a PDF back with a program that is not ours: its text, page by page.
func pages(t *testing.T, pdf []byte) []string {
	t.Helper()
	command := exec.CommandContext(t.Context(), "pdftotext", "-layout", "-", "-")
	command.Stdin = bytes.NewReader(pdf)
	out, err := command.Output()
	if err != nil {
		t.Fatalf("pdftotext (of Debian's poppler-utils): %v", err)
	}
	return strings.Split(strings.TrimSuffix(string(out), "\f"), "\f")
}

// joined is a text with every run of blanks and line ends made one blank.
func joined(text string) string { return strings.Join(strings.Fields(text), " ") }

// Every figure of every pick stands in the PDF, on the row of its number, and each page
// says of what revision it is and when it was made.
func TestThePDFSaysWhatTheScreenSays(t *testing.T) {
	for _, name := range []string{"tern-quay", "mill-fold"} {
		for _, system := range []units.System{units.Metric, units.US} {
			document, a, p := whole(t, name, system)
			pdf, err := Briefing(&document, &a, &p, stamp(12), system, system == units.US)
			if err != nil {
				t.Fatal(err)
			}
			read := pages(t, pdf)
			if len(read) < 1 || len(read) > 5 {
				t.Errorf("%s: %d pages", name, len(read))
			}
			for i, page := range read {
				for _, want := range []string{"revision 12, saved 31 Mar 2026 05:45 UTC", "made 31 Mar 2026 06:45 UTC", "rules and gear 34", fmt.Sprintf("page %d of %d", i+1, len(read))} {
					if !strings.Contains(page, want) {
						t.Errorf("%s, page %d does not say %q", name, i+1, want)
					}
				}
			}
			all := joined(strings.Join(read, " "))
			rows := rowsOf(strings.Join(read, "\n"))
			for _, pick := range p.Picks {
				row := rows[pick.Number]
				// The worst may take a second line: its figure stands in the first words.
				worst := strings.Fields(pick.Nearest)
				nearest := strings.Join(worst[:min(len(worst), 4)], " ")
				for _, figure := range []string{pick.Weight, pick.Tie, pick.Wraps, pick.Run, pick.Peak, nearest, string(pick.Verdict)} {
					if !strings.Contains(row, figure) {
						t.Errorf("%s %s: pick %d: %q is not on its row: %q", name, system, pick.Number, figure, row)
					}
				}
			}
			for _, g := range p.Gear {
				for _, figure := range []string{g.Peak, g.Limit, g.Use} {
					if !strings.Contains(all, figure) {
						t.Errorf("%s: %s %s: no %q", name, g.What, g.Name, figure)
					}
				}
			}
			said := []string{p.Name, joined(p.State), "Who stands where", "Ways out", "If somebody is hurt", "Plan B", "Plan C", "Cautions", "What is not known", "Read and understood"}
			said = append(said, p.Targets...)
			for _, post := range p.Posts {
				said = append(said, post.Role, post.Where)
			}
			for _, want := range said {
				if !strings.Contains(all, want) {
					t.Errorf("%s %s: nowhere says %q", name, system, want)
				}
			}
			if strings.Contains(all, "safe ") {
				t.Errorf("%s says that something is safe", name)
			}
		}
	}
}

// The paper of a felling has a page for its sawyer, with the stump to scale: measured off the drawing
// it has the proportions of the figures.
func TestTheCutCardIsDrawnToScale(t *testing.T) {
	document, a, p := whole(t, "reed-lock", units.Metric)
	pdf, err := Briefing(&document, &a, &p, stamp(12), units.Metric, false)
	if err != nil {
		t.Fatal(err)
	}
	if len(p.Cards) != 3 {
		t.Fatalf("%d cards", len(p.Cards))
	}
	all := joined(strings.Join(pages(t, pdf), " "))
	for _, c := range p.Cards {
		for _, want := range append([]string{c.Title, "What to cut, in order", "If that does not do"}, c.Lines[0].Need, c.Measures[1].Metric+" · "+c.Measures[1].US) {
			if !strings.Contains(all, want) {
				t.Errorf("%s: nowhere says %q", c.Title, want)
			}
		}
	}
	fell := p.Cards[0].Fell
	s := Stump(fell, 277, 84)
	stump := 0.0
	for _, m := range s.marks {
		if m.round > 0 && stump == 0 {
			stump = 2 * m.round
		}
	}
	// The hinge is the area of the accent's colour: from where the face ends, so thick and so wide.
	low, high, left, right := math.Inf(1), math.Inf(-1), math.Inf(1), math.Inf(-1)
	for _, m := range s.marks {
		if m.closed && m.fill == accent && low > high {
			for _, q := range m.points {
				low, high, left, right = math.Min(low, q[1]), math.Max(high, q[1]), math.Min(left, q[0]), math.Max(right, q[0])
			}
		}
	}
	scale := stump / fell.DiameterM
	for name, pair := range map[string][2]float64{"thick": {(high - low) / scale, fell.LeftM}, "wide": {(right - left) / scale, fell.Hinge.ChordM}, "face": {(low - 8) / scale, fell.FaceDepthM}} {
		if !(math.Abs(pair[0]-pair[1]) <= 1e-6) {
			t.Errorf("%s: drawn %v m, is %v m", name, pair[0], pair[1])
		}
	}
}

// rowsOf finds the first line of each row of the table of picks.
func rowsOf(text string) map[int]string {
	rows := map[int]string{}
	table := false
	for _, line := range strings.Split(text, "\n") {
		switch {
		case strings.HasPrefix(strings.TrimSpace(line), "piece"):
			table = true
		case strings.HasPrefix(strings.TrimSpace(line), "Gear, and"):
			table = false
		case table:
			number, _, _ := strings.Cut(strings.TrimSpace(line), " ")
			if n, err := strconv.Atoi(number); err == nil && rows[n] == "" {
				rows[n] = joined(line)
			}
		}
	}
	return rows
}

// The figures on paper are those of the assessment, printed by the one table of units.
func TestThePapersFiguresAreTheAssessments(t *testing.T) {
	_, a, p := whole(t, "tern-quay", units.Metric)
	if len(p.Picks) != len(a.Picks) {
		t.Fatalf("%d picks on paper, %d assessed", len(p.Picks), len(a.Picks))
	}
	for i := range a.Picks {
		f, row := &a.Picks[i], &p.Picks[i]
		if want := units.Figure(units.Mass, units.Metric, f.MassKg.Low) + "–" + units.Print(units.Mass, units.Metric, f.MassKg.High); row.Weight != want {
			t.Errorf("pick %d weighs %s on paper, %s on the screen", f.Number, row.Weight, want)
		}
		if (f.PeakKn == nil) != (row.Peak == "–") || f.PeakKn != nil && row.Peak != units.Print(units.Force, units.Metric, *f.PeakKn) {
			t.Errorf("pick %d: peak %s on paper", f.Number, row.Peak)
		}
		if f.Worst != "" && row.Nearest != f.Worst || f.Verdict == policy.Within && f.Nearest != nil && row.Nearest != fmt.Sprintf("%s %.0f %%", f.Nearest.Part, f.Nearest.UsePct) {
			t.Errorf("pick %d: the worst is %s on paper", f.Number, row.Nearest)
		}
		if row.Call == "" || row.Cut == "" {
			t.Errorf("pick %d: call %q, cut %q", f.Number, row.Call, row.Cut)
		}
	}
}

func TestAPaperOfAnOlderRevisionSaysSo(t *testing.T) {
	document, a, p := whole(t, "mill-fold", units.Metric)
	for newest, want := range map[int]string{12: "", 15: "Made from revision 12. The job has moved on to revision 15"} {
		pdf, err := Briefing(&document, &a, &p, stamp(newest), units.Metric, false)
		if err != nil {
			t.Fatal(err)
		}
		for i, page := range pages(t, pdf) {
			if got := strings.Contains(page, "moved on"); got != (want != "") || !strings.Contains(joined(page), want) {
				t.Errorf("newest %d: page %d", newest, i+1)
			}
		}
	}
	other := stamp(12)
	other.Changed = true
	if !strings.Contains(other.Outdated(), "rules or gear") {
		t.Error("other rules, and it does not say so")
	}
}

// An empty job and one with 200 picks and long names make papers too.
func TestPapersOfOddJobs(t *testing.T) {
	empty := job.NewJob("Nothing yet")
	a, p := assess.Assess(&empty, assess.Options{Units: units.Metric}), brief.Briefing(&empty, assess.Options{Units: units.Metric})
	pdf, err := Briefing(&empty, &a, &p, stamp(12), units.Metric, false)
	if err != nil {
		t.Fatal(err)
	}
	if all := joined(strings.Join(pages(t, pdf), " ")); !strings.Contains(all, "Nothing is planned yet") || !strings.Contains(all, "Choose the species.") {
		t.Errorf("an empty job: %s", all)
	}
	document, _, _ := whole(t, "tern-quay", units.Metric)
	last := document.Picks[len(document.Picks)-1]
	for i := range 200 - len(document.Picks) {
		one := last
		one.ID, one.Label = fmt.Sprintf("more%d", i), strings.Repeat("a long name ", 6)
		document.Picks = append(document.Picks, one)
	}
	a, p = assess.Assess(&document, assess.Options{Units: units.Metric}), brief.Briefing(&document, assess.Options{Units: units.Metric})
	if pdf, err = Briefing(&document, &a, &p, stamp(12), units.Metric, false); err != nil {
		t.Fatal(err)
	}
	if rows := rowsOf(strings.Join(pages(t, pdf), "\n")); len(rows) != 200 || !strings.Contains(rows[200], "over") {
		t.Errorf("%d of 200 picks on paper; the last: %q", len(rows), rows[200])
	}
}

// The drawings are well-formed vectors with every pick's number and every name on them.
func TestDrawingsAreVectors(t *testing.T) {
	document, a, _ := whole(t, "tern-quay", units.Metric)
	for name, svg := range map[string][]byte{"tree": Tree(&document, &a, units.Metric, 120, 130).SVG(), "site": Site(&document, &a, units.US, 150, 130).SVG()} {
		texts, shapes := []string{}, 0
		decoder := xml.NewDecoder(bytes.NewReader(svg))
		for {
			token, err := decoder.Token()
			if errors.Is(err, io.EOF) {
				break
			}
			if err != nil {
				t.Fatalf("%s: %v", name, err)
			}
			switch one := token.(type) {
			case xml.CharData:
				texts = append(texts, strings.TrimSpace(string(one)))
			case xml.StartElement:
				if slices.Contains([]string{"polygon", "polyline", "circle"}, one.Name.Local) {
					shapes++
				}
				if one.Name.Local == "image" || one.Name.Local == "script" {
					t.Errorf("%s holds a %s", name, one.Name.Local)
				}
			}
		}
		want := []string{"boathouse", "north lawn", "old willow", "quay and line"}
		if name == "tree" {
			want = nil
			for i := range document.Picks {
				want = append(want, strconv.Itoa(i+1))
			}
		}
		for _, text := range want {
			if !slices.Contains(texts, text) {
				t.Errorf("%s does not say %q", name, text)
			}
		}
		if shapes < 20 {
			t.Errorf("%s: %d shapes", name, shapes)
		}
		if bytes.Contains(svg, []byte("NaN")) || bytes.Contains(svg, []byte("Inf")) {
			t.Errorf("%s holds a figure that is none", name)
		}
	}
}

// Numbers on the tree do not cover one another.
func TestNumbersStandApart(t *testing.T) {
	document, a, _ := whole(t, "tern-quay", units.Metric)
	scene := Tree(&document, &a, units.Metric, 120, 150)
	var discs [][2]float64
	for _, m := range scene.marks {
		if m.round > 0 {
			discs = append(discs, m.points[0])
		}
	}
	for i := range discs {
		if near(discs[:i], discs[i], 4) {
			t.Errorf("number %d covers another", i+1)
		}
	}
	if len(discs) != len(document.Picks) {
		t.Errorf("%d numbers for %d picks", len(discs), len(document.Picks))
	}
}

// A briefing of 40 picks, from the document to the PDF.
func BenchmarkBriefing40(b *testing.B) {
	document, _, _ := whole(b, "tern-quay", units.Metric)
	for i := range 15 {
		one := document.Picks[i]
		one.ID = fmt.Sprintf("more%d", i)
		document.Picks = append(document.Picks, one)
	}
	for b.Loop() {
		a, p := assess.Assess(&document, assess.Options{Units: units.Metric}), brief.Briefing(&document, assess.Options{Units: units.Metric})
		if _, err := Briefing(&document, &a, &p, stamp(12), units.Metric, false); err != nil {
			b.Fatal(err)
		}
	}
}

// What a paper says of itself, and the outline that leads through it, as poppler reads them.
func TestAPaperSaysWhatItIs(t *testing.T) {
	document, a, p := whole(t, "reed-lock", units.Metric)
	p.Name, p.Lead = "Ülme & Co <1>", "A. Lead"
	pdf, err := Briefing(&document, &a, &p, stamp(12), units.Metric, false)
	if err != nil {
		t.Fatal(err)
	}
	path := filepath.Join(t.TempDir(), "b.pdf")
	if err := os.WriteFile(path, pdf, 0o600); err != nil {
		t.Fatal(err)
	}
	said := func(name string, args ...string) string {
		out, err := exec.CommandContext(t.Context(), name, args...).Output()
		if err != nil {
			t.Fatalf("%s (of Debian's poppler-utils): %v", name, err)
		}
		return joined(string(out))
	}
	information := said("pdfinfo", path)
	for _, want := range []string{"Title: Ülme & Co <1>, briefing", "Subject: Revision 12 of the job.", "Author: A. Lead", "Creator: Elk Stay"} {
		if !strings.Contains(information, want) {
			t.Errorf("%q is not in %s", want, information)
		}
	}
	var xmp struct {
		Title string `xml:"RDF>Description>title>Alt>li"`
		Lead  string `xml:"RDF>Description>creator>Seq>li"`
	}
	if err := xml.Unmarshal([]byte(said("pdfinfo", "-meta", path)), &xmp); err != nil || xmp.Title != "Ülme & Co <1>, briefing" || xmp.Lead != "A. Lead" {
		t.Errorf("%v %+v", err, xmp)
	}
	if !bytes.Contains(pdf, []byte("/Lang")) {
		t.Error("it does not say its language")
	}
	outline := said("pdftohtml", "-xml", "-stdout", "-i", path)
	_, outline, _ = strings.Cut(outline, "<outline>")
	at := -1
	for _, want := range []string{`page="1">Site and tree<`, ">Picks, first to last<", ">Pick 1, ", ">Plan B, Plan C<", ">Cautions, What is not known<", ">What the figures are held to, and who signs<"} {
		if k := strings.Index(outline, want); k <= at {
			t.Errorf("%q stands at %d, after %d, in %s", want, k, at, outline)
		} else {
			at = k
		}
	}
}
