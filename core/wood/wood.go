// Package wood knows the species: what a cubic metre of each weighs when green,
// how strong and how stiff it is, and how far such a figure can be off.
//
// The table (wood.csv) gives green weight in lb/ft³, green specific gravity and
// the green moduli of rupture and of elasticity. The figures are those of the
// public tables of the US Forest Products Laboratory (Wood Handbook, chapters 4
// and 5) and the green weights in common use by the trade, written down from
// memory: each row says so, and so does every answer that uses one. A tree is
// not a table: green weight varies by a tenth either way with site, season and
// height in the stem (common practice).
package wood

import (
	_ "embed"
	"encoding/csv"
	"strconv"
	"strings"

	"elkstay/core/intake"
)

// KgM3PerLbFt3 turns pounds per cubic foot into kg/m³, rounded as the calculation
// contract fixes it (0.45359237 / 0.3048³ = 16.01846).
const KgM3PerLbFt3 = 16.018

// NaturalSpread is how far the green density of one tree may lie from its
// species' figure, as a share of it (common practice).
const NaturalSpread = 0.10

// A Range is an estimate: the low end, the likely figure and the high end.
type Range struct {
	Low    float64 `json:"low" minimum:"0" doc:"Low end of the estimate"`
	Likely float64 `json:"likely" minimum:"0" doc:"Likely figure"`
	High   float64 `json:"high" minimum:"0" doc:"High end of the estimate"`
}

// Times returns the range with all three figures multiplied by k.
func (r Range) Times(k float64) Range { return Range{r.Low * k, r.Likely * k, r.High * k} }

// Plus returns the range with all three figures raised by k.
func (r Range) Plus(k float64) Range { return Range{r.Low + k, r.Likely + k, r.High + k} }

// Faults names what is wrong with a range that is given at a path: its figures must
// be above nought and rise, and none may be above highest.
func (r Range) Faults(path string, highest float64) (faults intake.Faults) {
	limit := "0 < low ≤ likely ≤ high, at most " + strconv.FormatFloat(highest, 'g', -1, 64)
	if r.Low > r.Likely || r.Likely > r.High {
		faults.Add(path, r, limit, "the range does not rise from low to high")
	}
	if r.Low <= 0 {
		faults.Add(path+".low", r.Low, limit, "low is %g; allowed: above 0", r.Low)
	}
	if r.High > highest {
		faults.Add(path+".high", r.High, limit, "high is %g; allowed: at most %g", r.High, highest)
	}
	return faults
}

// A Species is one row of the table.
type Species struct {
	ID               string  `json:"id"`
	CommonName       string  `json:"common_name"`
	BotanicalName    string  `json:"botanical_name"`
	Also             string  `json:"also" doc:"Other names in use, a semicolon between them; empty: none"`
	Allometry        string  `json:"allometry" doc:"Species group for the biomass of whole limbs"`
	GreenWeightLbFt3 float64 `json:"green_weight_lb_ft3" doc:"Green weight, lb/ft³"`
	SpecificGravity  float64 `json:"sg_green" doc:"Specific gravity, green volume and dry mass"`
	RuptureMPa       float64 `json:"mor_green_mpa" doc:"Green modulus of rupture, MPa"`
	ElasticityGPa    float64 `json:"moe_green_gpa" doc:"Green modulus of elasticity, GPa"`
	UnderBark        float64 `json:"under_bark" doc:"Diameter of the wood over that of stem and bark, on the thin side (forest mensuration, from memory)"`
	Density          Range   `json:"density_kg_m3" doc:"Green density, kg/m³: likely ± natural spread"`
	Source           string  `json:"source"`
}

//go:embed wood.csv
var csvText string

var (
	table = readTable(csvText)
	byID  = index(table)
)

// sources are how uses of the table's rows are cited.
var sources = map[string]string{
	"memory":           "Wood Handbook (US Forest Products Laboratory) and green weights in common use, from memory",
	"memory elsewhere": "green strengths of British, European and Australian handbooks, rounded down, and green weights in common use, from memory",
}

// UnknownUnderBark is the diameter of the wood over that of stem and bark where nothing is known of the bark.
const UnknownUnderBark = 0.88

func readTable(text string) []Species {
	rows, err := csv.NewReader(strings.NewReader(text)).ReadAll()
	if err != nil {
		panic("wood: the built-in table is broken: " + err.Error())
	}
	species := make([]Species, 0, len(rows))
	for _, row := range rows[1:] {
		figure := func(column int) float64 {
			v, err := strconv.ParseFloat(row[column], 64)
			if err != nil {
				panic("wood: the built-in table is broken: " + err.Error())
			}
			return v
		}
		likely := figure(4) * KgM3PerLbFt3
		species = append(species, Species{
			ID: row[0], CommonName: row[1], BotanicalName: row[2], Allometry: row[3],
			GreenWeightLbFt3: figure(4), SpecificGravity: figure(5), RuptureMPa: figure(6), ElasticityGPa: figure(7),
			Density: Range{likely * (1 - NaturalSpread), likely, likely * (1 + NaturalSpread)},
			Source:  sources[row[8]],
			Also:    row[9], UnderBark: figure(10),
		})
	}
	return species
}

func index(table []Species) map[string]*Species {
	m := make(map[string]*Species, len(table))
	for i := range table {
		m[table[i].ID] = &table[i]
	}
	return m
}

// Table returns every species, in the order of the table.
func Table() []Species { return append([]Species(nil), table...) }

// Find returns the species with the given id.
func Find(id string) (Species, bool) {
	s, ok := byID[id]
	if !ok {
		return Species{}, false
	}
	return *s, true
}

// A Wood says what a stem is made of: a species of the table or a density of
// one's own, one of the two.
type Wood struct {
	Species string `json:"species,omitempty" maxLength:"60" doc:"Id of a row of the wood table, such as northern-red-oak"`
	Density *Range `json:"density_kg_m3,omitempty" doc:"Green density of one's own, kg/m³, in place of a species"`
}

// Given reports whether either a species or a density has been named.
func (w Wood) Given() bool { return w.Species != "" || w.Density != nil }

// highestDensity is above the densest wood that grows (about 1,400 kg/m³ green).
const highestDensity = 2000

// Faults names what is wrong with the choice at the given path.
func (w Wood) Faults(path string) (faults intake.Faults) {
	const allowed = "a species of the wood table, or density_kg_m3; one of the two"
	switch {
	case w.Species != "" && w.Density != nil:
		faults.Add(path, w.Species, allowed, "both a species and a density are given; give one")
	case w.Density != nil:
		faults = w.Density.Faults(path+".density_kg_m3", highestDensity)
	case w.Species == "":
		faults.Add(path, nil, allowed, "neither a species nor a density is given")
	default:
		if _, ok := byID[w.Species]; !ok {
			faults.Add(path+".species", w.Species, "an id of the wood table", "%q is no species of the wood table", w.Species)
		}
	}
	return faults
}

// GreenDensity returns the density, kg/m³, and where it comes from. Call it only
// on a choice without Faults.
func (w Wood) GreenDensity() (density Range, source string) {
	if w.Density != nil {
		return *w.Density, "as given"
	}
	s := byID[w.Species]
	return s.Density, s.CommonName + ", " + strconv.FormatFloat(s.GreenWeightLbFt3, 'g', -1, 64) + " lb/ft³: " + s.Source
}
