package wood

import (
	_ "embed"
	"encoding/csv"
	"math"
	"strconv"
	"strings"
)

// A Group is a row of the biomass table: dry mass above ground is
// exp(B0 + B1·ln d), d the diameter in centimetres, kg.
type Group struct {
	ID     string
	B0, B1 float64
	Source string
}

//go:embed allometry.csv
var allometryText string

var groups = readGroups(allometryText)

func readGroups(text string) map[string]Group {
	rows, err := csv.NewReader(strings.NewReader(text)).ReadAll()
	if err != nil {
		panic("wood: the built-in biomass table is broken: " + err.Error())
	}
	table := make(map[string]Group, len(rows)-1)
	for _, row := range rows[1:] {
		b0, err0 := strconv.ParseFloat(row[1], 64)
		b1, err1 := strconv.ParseFloat(row[2], 64)
		if err0 != nil || err1 != nil {
			panic("wood: the built-in biomass table is broken at " + row[0])
		}
		table[row[0]] = Group{row[0], b0, b1, row[3]}
	}
	return table
}

// FindGroup returns the species group with the given id (Jenkins et al. 2003,
// Forest Science 49(1), table 4; from memory).
func FindGroup(id string) (Group, bool) {
	g, ok := groups[id]
	return g, ok
}

// DryMass returns the dry mass above ground, kg, of a tree of the group with the
// given diameter, m.
func (g Group) DryMass(diameterM float64) float64 {
	return math.Exp(g.B0 + g.B1*math.Log(100*diameterM))
}
