package paper

import (
	"bytes"
	"encoding/json"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"testing"
	"time"

	"elkstay/core/assess"
	"elkstay/core/bench"
	"elkstay/core/units"
	timberwood "elkstay/core/wood"
	"elkstay/paper/brief"
)

func TestGeoJSONIsLocalAndSaysSo(t *testing.T) {
	document, a, _ := whole(t, "mill-fold", units.Metric)
	data, err := GeoJSON(&document, &a)
	if err != nil {
		t.Fatal(err)
	}
	var all struct {
		Type     string `json:"type"`
		Local    string `json:"local_coordinates"`
		Features []struct {
			Geometry struct {
				Type        string          `json:"type"`
				Coordinates json.RawMessage `json:"coordinates"`
			} `json:"geometry"`
			Properties map[string]any `json:"properties"`
		} `json:"features"`
	}
	if err := json.Unmarshal(data, &all); err != nil {
		t.Fatal(err)
	}
	if all.Type != "FeatureCollection" || !strings.Contains(all.Local, "Not longitude") {
		t.Errorf("%s, %q", all.Type, all.Local)
	}
	kinds := map[string]int{}
	for _, f := range all.Features {
		kinds[f.Properties["kind"].(string)]++
		if f.Geometry.Type == "Polygon" {
			var rings [][][2]float64
			if err := json.Unmarshal(f.Geometry.Coordinates, &rings); err != nil || len(rings[0]) < 4 || rings[0][0] != rings[0][len(rings[0])-1] {
				t.Errorf("%v: a ring that is not closed (RFC 7946, 3.1.6)", f.Properties)
			}
		}
	}
	for kind, n := range map[string]int{"tree": 1, "drop zone": 1, "target": 3, "sector": 1, "anchor": 1, "crane": 1, "post": 4, "way out": 2, "limb": 9} {
		if kinds[kind] != n {
			t.Errorf("%d of kind %s, want %d", kinds[kind], kind, n)
		}
	}
}

func TestTheTableOfPicks(t *testing.T) {
	_, a, _ := whole(t, "tern-quay", units.Metric)
	table := Picks(&a)
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
