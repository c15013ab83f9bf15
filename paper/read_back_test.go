package paper

import (
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"math"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"testing"
	"time"

	"elkstay/core/assess"
	"elkstay/core/bench"
	"elkstay/core/job"
	"elkstay/core/policy"
	"elkstay/core/space"
	"elkstay/core/units"
	timberwood "elkstay/core/wood"
	"elkstay/paper/brief"
)

func TestTheTableOfPicks(t *testing.T) {
	_, a, _ := whole(t, "tern-quay", units.Metric)
	table := Picks(&a, units.Metric)
	if len(table.Rows) != len(a.Picks)+1 {
		t.Fatalf("%d rows", len(table.Rows))
	}
	for i, row := range table.Rows[1:] {
		if len(row) != len(table.Rows[0]) || row[1] != a.Picks[i].Title {
			t.Errorf("row %d: %v", i, row)
		}
		peak, err := strconv.ParseFloat(row[15], 64)
		if f := a.Picks[i].PeakKn; (f == nil) != (err != nil) || f != nil && (peak-*f > 1e-4 || *f-peak > 1e-4) {
			t.Errorf("pick %d: peak %s", i+1, row[15])
		}
	}
	// In the units of the United States: a pound is 0.45359237 kg, a foot 0.3048 m, a pound-force 4.4482216 N (NIST SP 811, B.8).
	us := Picks(&a, units.US)
	for k, want := range map[int]struct {
		head string
		by   float64
	}{4: {"likely_lb", 0.45359237}, 9: {"length_ft", 0.3048}, 15: {"peak_lbf", 0.0044482216}} {
		metric, _ := strconv.ParseFloat(table.Rows[1][k], 64)
		got, _ := strconv.ParseFloat(us.Rows[1][k], 64)
		if us.Rows[0][k] != want.head || math.Abs(got*want.by-metric) > 1e-3 || metric == 0 {
			t.Errorf("%s: %v for %v", us.Rows[0][k], got, metric)
		}
	}
}

// Whatever a name holds, the paper prints, says what it could not, and counts its pages.
func TestPapersOfAnyUnicode(t *testing.T) {
	withFonts(t)
	for name, want := range map[string]string{
		"Ash 🌳 at the weir":        "Ash [U+1F333] at the weir",
		"Éßæ Ωμέγα Дуб":            "Éßæ Ωμέγα Дуб",
		"木 شجرة":                   "[U+6728] [U+0634]",
		"of {pages} {nb}":          "of {pages} {nb}",
		"a\x00b\tc\u202ed":         "a b c[U+202E]d",
		"\U0010FFFF\uFFFE":         "[U+10FFFF][U+FFFE]",
		strings.Repeat("mast", 30): "mastmast",
	} {
		document, _, _ := whole(t, "mill-fold", units.Metric)
		document.Name = name
		document.Trees[0].Limbs[0].Name = name[:min(len(name), 60)]
		document.Brief.Emergency = name
		o := assess.Options{Units: units.Metric}
		a, p := assess.Assess(&document, o), brief.Briefing(&document, o)
		pdf, err := Briefing(&document, &a, &p, stamp(1), units.Metric, false)
		if err != nil {
			t.Errorf("%q: %v", name, err)
			continue
		}
		text := pages(t, pdf)
		if got := joined(strings.Join(text, " ")); !strings.Contains(got, want) || strings.Contains(want, "[U+") != strings.Contains(got, "stand as their codes") {
			t.Errorf("%q: %s", name, got[:min(len(got), 300)])
		}
		for i, one := range text {
			if !strings.Contains(joined(one), fmt.Sprintf("page %d of %d", i+1, len(text))) {
				t.Errorf("%q: page %d does not say so: %s", name, i+1, one)
			}
		}
		for _, scene := range []*Scene{Tree(&document, &a, units.Metric, 125, 130), Site(&document, &a, units.Metric, 145, 130)} {
			decoder := xml.NewDecoder(bytes.NewReader(scene.SVG()))
			for {
				if _, err := decoder.Token(); errors.Is(err, io.EOF) {
					break
				} else if err != nil {
					t.Errorf("%q: the drawing is no XML: %v", name, err)
					break
				}
			}
		}
	}
}

// withFonts stands folders in for the system's fonts.
func withFonts(t *testing.T, folders ...string) {
	t.Helper()
	before := fonts
	fonts = &system{folders: folders}
	t.Cleanup(func() { fonts = before })
}

// A letter that the shipped font lacks comes from a font of the system that has it, among letters
// of the shipped one; a font that is none, or is damaged, is passed over.
func TestLettersOfTheSystemsFonts(t *testing.T) {
	sans, err := os.ReadFile("/usr/share/fonts/truetype/dejavu/DejaVuSans.ttf")
	if err != nil {
		t.Fatal("make test installs it: ", err)
	}
	folder := t.TempDir()
	for name, data := range map[string][]byte{
		"A-Damaged.ttf": sans[:4000], "B-None.ttf": []byte("no font"), "C-Good-Regular.ttf": sans, "C-Good-Bold.ttf": []byte("not looked at"),
	} {
		if err := os.WriteFile(filepath.Join(folder, name), data, 0o600); err != nil {
			t.Fatal(err)
		}
	}
	withFonts(t, folder, filepath.Join(folder, "not there"))
	document, _, _ := whole(t, "mill-fold", units.Metric)
	// The shipped font has neither; the tree is in none, and joined script is not printed letter by letter.
	if shipped.has('ờ') || shipped.has('ხ') {
		t.Fatal("the shipped font has them: choose others")
	}
	document.Name = "Bờ sông 🌳 at شجرة, ხე gỗ"
	o := assess.Options{Units: units.Metric}
	a, p := assess.Assess(&document, o), brief.Briefing(&document, o)
	pdf, err := Briefing(&document, &a, &p, stamp(1), units.Metric, false)
	if err != nil {
		t.Fatal(err)
	}
	got := joined(strings.Join(pages(t, pdf), " "))
	for _, want := range []string{"Bờ sông [U+1F333] at [U+0634]", "ხე gỗ", "stand as their codes"} {
		if !strings.Contains(got, want) {
			t.Errorf("no %q in %s", want, got[:min(len(got), 300)])
		}
	}
	if !bytes.Contains(pdf, []byte("Good")) && bytes.Count(pdf, []byte("/FontFile2")) < 3 {
		t.Error("the system's font is not in the paper")
	}
}

// FuzzBriefing prints any text wherever a text can stand.
func FuzzBriefing(f *testing.F) {
	for _, seed := range []string{"ash", "🌳", "{nb}", "\x00", "木", "a b", "e\u0301", "\u202e", "\n\n", strings.Repeat("w", 400)} {
		f.Add(seed)
	}
	document, _, _ := whole(f, "mill-fold", units.US)
	o := assess.Options{Units: units.US}
	f.Fuzz(func(t *testing.T, text string) {
		document.Name, document.Trees[0].Name, document.Picks[0].Label, document.Rigs[0].Name = text, text, text, text
		document.Site.Targets[0].Name = text
		a, p := assess.Assess(&document, o), brief.Briefing(&document, o)
		p.PlanB, p.Emergency = text, text
		if _, err := Briefing(&document, &a, &p, stamp(1), units.US, true); err != nil {
			t.Errorf("%q: %v", text, err)
		}
	})
}

// A weight table is one page whatever the system and the sheet, and says every weight and what is over.
func TestWeightTableOnOnePage(t *testing.T) {
	limit := 800.0
	for _, system := range []units.System{units.Metric, units.US} {
		for _, letter := range []bool{false, true} {
			asked := bench.WeightsRequest{Wood: timberwood.Wood{Species: "english-oak"}, Units: system, LimitKg: &limit, Taught: &bench.Taught{By: "the yard", Weighed: 3, Factor: 1.2, HighFactor: 1.4}}
			table, err := asked.Table()
			if err != nil {
				t.Fatal(err)
			}
			pdf, err := Weights(&table, &limit, time.Date(2026, 11, 26, 9, 0, 0, 0, time.UTC), system, letter)
			if err != nil {
				t.Fatal(err)
			}
			text := pages(t, pdf)
			if len(text) != 1 {
				t.Fatalf("%s: %d pages", system, len(text))
			}
			got := joined(text[0])
			for _, want := range []string{"English oak", "marked ×", "3 weighings, the yard", units.Print(units.Mass, system, table.Rows[3].Kg[2].High), "× " + units.Print(units.Mass, system, table.Rows[15].Kg[8].High), units.Print(units.Diameter, system, table.Rows[15].DiameterM)} {
				if !strings.Contains(got, want) {
					t.Errorf("%s: no %q in %s", system, want, got)
				}
			}
		}
	}
}

// Each column of the table of picks has the figure that its title names.
func TestTablesByTheirTitles(t *testing.T) {
	of := func(v float64) *float64 { return &v }
	a := assess.Assessment{Picks: []assess.PickFigures{{Number: 7, Title: "top", Way: job.WaySwung, MassKg: &timberwood.Range{Low: 1, Likely: 2, High: 3}, Basis: assess.Guessed, FromM: 4, ToM: 5, LengthM: 6, Cut: "open face",
		TieM: of(8), Rig: "r", Wraps: of(9), RunM: of(10), PeakKn: of(11), Nearest: &assess.Nearest{Part: "block", Name: "one", UsePct: 12}, Verdict: policy.Close, Call: "now", Done: true,
		Faults: []space.OrderFault{{Message: "a"}, {Message: "b"}}}}}
	rows := Picks(&a, units.Metric).Rows
	want := map[string]string{"number": "7", "piece": "top", "way": "swung", "low_kg": "1.0000", "likely_kg": "2.0000", "high_kg": "3.0000", "basis": string(assess.Guessed), "from_m": "4.0000", "to_m": "5.0000", "length_m": "6.0000",
		"cut": "open face", "tie_m": "8.0000", "rig": "r", "wraps": "9.0000", "run_m": "10.0000", "peak_kn": "11.0000", "nearest": "block one", "use_pct": "12.0000", "verdict": "close", "call": "now", "cannot_happen": "a; b", "done": "yes"}
	for k, title := range rows[0] {
		if rows[1][k] != want[title] {
			t.Errorf("%s: %q, want %q", title, rows[1][k], want[title])
		}
	}
}
