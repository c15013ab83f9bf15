// Package units reads and prints the lengths, masses and forces that people in
// the trade write down: metric, US customary, and the two mixed in one reading
// (6ft 4in, 22 1/2 in, 560 mm, 0.56).
//
// Inside the core every figure is SI: metres, kilograms, kilonewtons. The
// factors are exact by definition (international yard and pound, 1959; standard
// gravity, CGPM 1901; NIST SP 811 appendix B). This table is the only place
// where they stand: the interface asks for it and holds no factor of its own.
package units

import (
	"fmt"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
)

// Gravity is the standard acceleration of free fall, m/s² (CGPM 1901).
const Gravity = 9.80665

// GravitySource is how it is cited.
const GravitySource = "standard gravity 9.80665 m/s², CGPM 1901"

// Exact definitions in SI.
const (
	inch  = 0.0254
	foot  = 0.3048
	pound = 0.45359237
	// poundForce is one pound times standard gravity, in kN.
	poundForce = pound * Gravity / 1000
)

// A System is the family of units in which figures are shown.
type System string

// The two systems a crew can choose from.
const (
	Metric System = "metric"
	US     System = "us"
)

// A Quantity says what kind of figure is read or printed.
type Quantity string

// The quantities the interface shows. Height and Diameter are both lengths; they
// differ in the unit that a bare number is taken to be in; Gauge is a third.
const (
	Height   Quantity = "height"   // along the stem, of a fall, of a run: m, or feet and inches
	Diameter Quantity = "diameter" // across or round the stem, tape in hand: cm, or inches
	Gauge    Quantity = "gauge"    // of ropes, slings, sheaves: mm or inches
	Mass     Quantity = "mass"     // kg or lb
	Force    Quantity = "force"    // kN or lbf
	Bearing  Quantity = "bearing"  // degrees clockwise from north, or a point of the compass
	Volume   Quantity = "volume"   // of logs, chips, a truck's body: m³ or cubic feet
)

// A Unit is how one quantity is shown in one system.
type Unit struct {
	Label     string  `json:"label" doc:"Unit as printed behind the number"`
	Factor    float64 `json:"factor" doc:"SI value of one such unit (m, kg or kN)"`
	Rounding  float64 `json:"rounding" doc:"Shown to the nearest multiple of this, in the unit itself"`
	FineBelow float64 `json:"fine_below" doc:"Below this, in the unit itself, shown ten times finer"`
}

// Shown gives the units of one quantity in both systems.
type Shown struct {
	Quantity Quantity `json:"quantity" enum:"height,diameter,gauge,mass,force,bearing,volume"`
	Metric   Unit     `json:"metric"`
	US       Unit     `json:"us"`
}

var table = []Shown{
	{Height, Unit{"m", 1, 0.01, 0}, Unit{"ft", foot, 0.1, 0}},
	{Diameter, Unit{"cm", 0.01, 0.1, 0}, Unit{"in", inch, 0.1, 0}},
	{Gauge, Unit{"mm", 0.001, 1, 100}, Unit{"in", inch, 0.1, 10}},
	{Mass, Unit{"kg", 1, 1, 10}, Unit{"lb", pound, 1, 10}},
	{Force, Unit{"kN", 1, 0.1, 1}, Unit{"lbf", poundForce, 10, 100}},
	{Bearing, Unit{"°", 1, 1, 0}, Unit{"°", 1, 1, 0}},
	{Volume, Unit{"m³", 1, 0.1, 1}, Unit{"ft³", foot * foot * foot, 1, 10}},
}

// Table returns the units of every quantity in both systems.
func Table() []Shown { return append([]Shown(nil), table...) }

// UnitFor returns the unit of a quantity in a system.
func UnitFor(q Quantity, s System) Unit {
	for _, row := range table {
		if row.Quantity == q {
			if s == US {
				return row.US
			}
			return row.Metric
		}
	}
	panic("units: no such quantity: " + string(q))
}

// Print writes an SI figure in the units of a system, such as "11.1 kN" or
// "2,490 lbf", rounded as the unit's row of the table says.
func Print(q Quantity, s System, si float64) string {
	return Figure(q, s, si) + " " + UnitFor(q, s).Label
}

// Figure writes what Print does without the unit's name.
func Figure(q Quantity, s System, si float64) string {
	unit := UnitFor(q, s)
	figure, rounding := si/unit.Factor, unit.Rounding
	if math.Abs(figure) < unit.FineBelow {
		rounding /= 10
	}
	decimals := max(0, int(math.Round(-math.Log10(rounding))))
	return group(strconv.FormatFloat(math.Round(figure/rounding)*rounding, 'f', decimals, 64))
}

// group sets commas between thousands.
func group(number string) string {
	whole, fraction, _ := strings.Cut(number, ".")
	sign := ""
	if strings.HasPrefix(whole, "-") {
		sign, whole = "-", whole[1:]
	}
	for i := len(whole) - 3; i > 0; i -= 3 {
		whole = whole[:i] + "," + whole[i:]
	}
	if fraction != "" {
		whole += "." + fraction
	}
	return sign + whole
}

var lengthWords = map[string]float64{
	"mm": 0.001, "cm": 0.01, "m": 1, "in": inch, "inch": inch, "inches": inch, `"`: inch, "″": inch, "”": inch, "''": inch,
	"ft": foot, "foot": foot, "feet": foot, "'": foot, "′": foot, "’": foot, "yd": 3 * foot,
	"metre": 1, "metres": 1, "meter": 1, "meters": 1,
}

var massWords = map[string]float64{
	"g": 0.001, "kg": 1, "t": 1000, "lb": pound, "lbs": pound, "oz": pound / 16,
}

var forceWords = map[string]float64{
	"n": 0.001, "dan": 0.01, "kn": 1, "kgf": Gravity / 1000, "lbf": poundForce, "lb": poundForce, "lbs": poundForce,
}

var volumeWords = map[string]float64{
	"l": 0.001, "m³": 1, "ft³": foot * foot * foot, "yd³": 27 * foot * foot * foot,
}

// cubed makes the 3 of a cubic unit a part of its word.
var cubed = strings.NewReplacer("m3", "m³", "ft3", "ft³", "yd3", "yd³", "M3", "m³", "FT3", "ft³", "YD3", "yd³")

func words(q Quantity) (known map[string]float64, examples string) {
	switch q {
	case Mass:
		return massWords, "412 kg, 0.4 t, 900 lb"
	case Force:
		return forceWords, "11.2 kN, 950 kgf, 2500 lbf"
	case Volume:
		return volumeWords, "6 m3, 210 ft3, 8 yd3"
	}
	return lengthWords, "22in, 6ft 4in, 22 1/2 in, 560 mm, 0.56 m"
}

// A ReadError says that a text is no figure of its quantity.
type ReadError struct {
	Text     string // what was typed
	Reason   string // what is wrong with it
	Examples string // forms that are understood
}

func (e *ReadError) Error() string {
	return fmt.Sprintf("%q %s; write it like %s", e.Text, e.Reason, e.Examples)
}

// Read turns what a person typed into SI: metres, kilograms or kilonewtons, or degrees. A
// bare number is in the system's unit of that quantity; a bare number behind
// feet is inches. Both 0.56 and 0,56 are read. The error is a *ReadError.
func Read(q Quantity, s System, text string) (float64, error) {
	if q == Bearing {
		return readBearing(text)
	}
	known, examples := words(q)
	refuse := func(reason string) (float64, error) {
		return 0, &ReadError{Text: text, Reason: reason, Examples: examples}
	}
	given := text
	if q == Volume {
		given = cubed.Replace(text)
	}
	tokens := split(given)
	if len(tokens) == 0 {
		return refuse("is empty")
	}
	if len(text) > 40 {
		return refuse("is too long for one reading")
	}
	sign := 1.0
	if tokens[0] == "-" {
		sign, tokens = -1, tokens[1:]
	}
	bare := UnitFor(q, s).Factor
	total, smallest := 0.0, math.Inf(1)
	for len(tokens) > 0 {
		value, used, ok := number(tokens)
		if !ok {
			return refuse("has no number where one is needed: " + strconv.Quote(tokens[0]))
		}
		tokens = tokens[used:]
		factor := bare
		switch {
		case len(tokens) > 0:
			word, isUnit := known[strings.ToLower(tokens[0])]
			if !isUnit {
				return refuse("has a unit that is not known here: " + strconv.Quote(tokens[0]))
			}
			factor, tokens = word, tokens[1:]
		case smallest == foot:
			factor = inch
		case !math.IsInf(smallest, 1):
			return refuse("ends in a number without a unit")
		}
		if factor >= smallest {
			return refuse("has its units out of order")
		}
		smallest = factor
		total += value * factor
	}
	return sign * total, nil
}

// split cuts a text into numbers, slashes, signs and words.
func split(text string) []string {
	kind := func(r rune) int {
		switch {
		case r >= '0' && r <= '9' || r == '.' || r == ',':
			return 1
		case r == '/' || r == '-' || r == '+':
			return 2
		case r == ' ' || r == '\t' || r == '\u00a0':
			return 0
		}
		return 3
	}
	var tokens []string
	before := 0
	for _, r := range strings.TrimSpace(text) {
		k := kind(r)
		switch {
		case k == 0:
		case k == before && k != 2:
			tokens[len(tokens)-1] += string(r)
		default:
			tokens = append(tokens, string(r))
		}
		before = k
	}
	return tokens
}

// number reads "22", "22.5", "22,5", "1/2" or "22 1/2" from the front of the
// tokens and says how many it used.
func number(tokens []string) (value float64, used int, ok bool) {
	whole, ok := decimal(tokens[0])
	if !ok {
		return 0, 0, false
	}
	if len(tokens) >= 3 && tokens[1] == "/" {
		bottom, ok := decimal(tokens[2])
		return whole / bottom, 3, ok && bottom != 0
	}
	if len(tokens) >= 4 && tokens[2] == "/" {
		top, okTop := decimal(tokens[1])
		bottom, okBottom := decimal(tokens[3])
		if okTop && okBottom && bottom != 0 {
			return whole + top/bottom, 4, true
		}
	}
	return whole, 1, true
}

func decimal(token string) (float64, bool) {
	if token[0] < '0' && token[0] != '.' || token[0] > '9' {
		return 0, false
	}
	if strings.Count(token, ",") == 1 && !strings.Contains(token, ".") {
		whole, fraction, _ := strings.Cut(token, ",")
		// 1,200 is a thousand and more; 0,56 and 12,5 are decimals.
		if len(fraction) == 3 && whole != "0" {
			token = whole + fraction
		} else {
			token = whole + "." + fraction
		}
	}
	value, err := strconv.ParseFloat(token, 64)
	return value, err == nil
}

// compass are the points of the compass, clockwise from north, 22.5° apart.
var compass = [16]string{"n", "nne", "ne", "ene", "e", "ese", "se", "sse", "s", "ssw", "sw", "wsw", "w", "wnw", "nw", "nnw"}

// quadrant is a bearing turned off north or south, as surveyors write it: N 45 W.
var quadrant = regexp.MustCompile(`^([ns])(\d{1,2}(?:[.,]\d+)?)([ew])$`)

// readBearing reads degrees clockwise from north, a point of the compass, both where they
// agree (315° NW), or a turn off north or south (N 45 W).
func readBearing(text string) (float64, error) {
	refuse := func(reason string) (float64, error) {
		return 0, &ReadError{Text: text, Reason: reason, Examples: "NW, north-west, 315, N 45 W, -45"}
	}
	if len(text) > 40 {
		return refuse("is too long for one bearing")
	}
	short := strings.NewReplacer("north", "n", "south", "s", "east", "e", "west", "w", "degrees", "", "deg", "", "°", "", " ", "").Replace(strings.ToLower(text))
	if turned := quadrant.FindStringSubmatch(short); turned != nil {
		return off(turned[1], turned[2], turned[3], refuse)
	}
	word := strings.TrimLeft(strings.NewReplacer("-", "", ".", "").Replace(short), "0123456789,")
	figure := strings.ReplaceAll(strings.TrimSpace(text), ",", ".")
	if end := strings.IndexFunc(figure, func(r rune) bool { return !strings.ContainsRune("-+.0123456789", r) }); end >= 0 {
		figure = strings.TrimSpace(figure[:end])
	}
	point := slices.Index(compass[:], word)
	if word != "" && point < 0 {
		return refuse("is no bearing")
	}
	degrees, err := strconv.ParseFloat(figure, 64)
	switch {
	case err != nil && point >= 0:
		return float64(point) * 22.5, nil
	case err != nil:
		return refuse("is no bearing")
	case degrees < -360 || degrees > 360:
		return refuse("is more than once round")
	case degrees < 0:
		degrees += 360
	}
	// A point of eight is as wide as two of sixteen.
	wide := 22.5
	if point%2 == 1 {
		wide = 11.25
	}
	if apart := math.Abs(math.Remainder(degrees-float64(point)*22.5, 360)); point >= 0 && apart > wide {
		return refuse(fmt.Sprintf("is two bearings: %g° is not %s", degrees, strings.ToUpper(word)))
	}
	return degrees, nil
}

// off is a bearing turned so many degrees off north or south, towards east or west.
func off(from, figure, towards string, refuse func(string) (float64, error)) (float64, error) {
	turn, err := strconv.ParseFloat(strings.ReplaceAll(figure, ",", "."), 64)
	if err != nil || turn > 90 {
		return refuse("turns more than 90° off north or south")
	}
	if (from == "n") != (towards == "e") {
		turn = -turn
	}
	if from == "s" {
		turn += 180
	}
	return math.Mod(turn+360, 360), nil
}
