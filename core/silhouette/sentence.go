package silhouette

import (
	"math"
	"regexp"
	"slices"
	"strings"

	"elkstay/core/intake"
	"elkstay/core/units"
	"elkstay/core/wood"
)

// length is a length as it is typed: metres, centimetres, feet and inches.
var length = regexp.MustCompile(`(?i)(\d+(?:[.,]\d+)?)\s*(m|metres?|meters?|cm|mm|ft|feet|foot|in|inch|inches|'|’|"|”)(?:\s*(\d+(?:[.,]\d+)?)\s*(in|inch|inches|"|”))?(?:\b|$|\s|,)`)

// outlineWords are how people call the outlines.
var outlineWords = map[string]string{
	"forest": Forest, "woodland": Forest, "plantation": Forest, "open": Open, "lawn": Open, "field": Open, "leaning": Leaning, "leaner": Leaning, "lean": Leaning,
	"forked": Forked, "fork": Forked, "codominant": Forked, "topped": Topped, "pollard": Topped, "pollarded": Topped,
}

// read takes from the sentence of a request what it says.
func read(r *Request, faults *intake.Faults) {
	text := strings.ToLower(strings.TrimSpace(r.Text))
	before := 0
	for _, at := range length.FindAllStringSubmatchIndex(text, -1) {
		m, err := units.Read(units.Height, units.Metric, strings.Trim(text[at[0]:at[1]], " ,"))
		if err != nil {
			faults.Add("body.text", r.Text, "lengths such as 19 m, 6ft 4in, 60 cm", "%s", err)
			continue
		}
		// "Girth 2 m" and "2 m girth": a noun stands before its length, or after it where no other length
		// follows; "2 m round" stands after it.
		lead, after := text[before:at[0]], said(text[at[1]:])
		before = at[1]
		switch {
		case has(lead, "girth", "circumference") || has(after, "girth", "circumference", "round"):
			set(&r.GirthM, m)
		case has(lead, "dbh", "diameter") || has(after, "dbh", "diameter", "through", "thick"):
			set(&r.GirthM, m*math.Pi)
		case has(lead, "height") || has(after, "height", "high", "tall") || r.HeightM == nil && m > 2.5:
			set(&r.HeightM, m)
		case r.GirthM == nil:
			set(&r.GirthM, m)
		}
	}
	words := strings.FieldsFunc(length.ReplaceAllString(text, " "), func(c rune) bool { return strings.ContainsRune(" ,;.:", c) })
	for _, word := range words {
		if outline, known := outlineWords[word]; known {
			r.Outline = outline
		}
	}
	if id, others := named(words); id != "" {
		r.Species = id
	} else if r.Species == "" {
		allowed := "a name of the wood table"
		if len(others) > 0 {
			allowed = "one of " + strings.Join(others, ", ")
		}
		faults.Add("body.text", r.Text, allowed, "no tree is known by what stands there")
	}
}

func set(at **float64, m float64) { *at = &m }

func has(text string, words ...string) bool {
	return slices.ContainsFunc(words, func(word string) bool { return strings.Contains(text, word) })
}

// said is the word after a length that says what the length is; empty: it belongs to the next one.
func said(text string) string {
	word, rest, _ := strings.Cut(strings.TrimLeft(text, " ,"), " ")
	word = strings.Trim(word, ":,.;")
	if has(word, "girth", "circumference", "dbh", "diameter", "height") {
		if rest = strings.TrimLeft(rest, " :,"); rest != "" && rest[0] >= '0' && rest[0] <= '9' {
			return ""
		}
	}
	return word
}

// usual is the species that is meant by a bare word: the one that crews meet most (common practice,
// no source), and where it grows on both sides of the ocean, the heavier.
var usual = map[string]string{
	"oak": "english-oak", "ash": "european-ash", "beech": "european-beech", "maple": "sugar-maple", "elm": "wych-elm", "pine": "scots-pine", "spruce": "norway-spruce", "fir": "silver-fir",
	"larch": "european-larch", "poplar": "black-poplar", "willow": "crack-willow", "birch": "silver-birch", "cherry": "wild-cherry", "walnut": "common-walnut", "cedar": "atlas-cedar", "cypress": "monterey-cypress",
	"gum": "blue-gum", "eucalyptus": "blue-gum", "eucalypt": "blue-gum", "alder": "common-alder", "lime": "common-lime", "linden": "common-lime", "chestnut": "sweet-chestnut", "plane": "london-plane", "hickory": "shagbark-hickory",
	"cottonwood": "eastern-cottonwood", "locust": "black-locust", "yew": "european-yew", "sycamore": "sycamore-maple", "aspen": "european-aspen", "hemlock": "eastern-hemlock", "redwood": "redwood",
}

// named is the species of which most words of a name stand in a sentence; of a bare word the usual
// one. Others are those that share a word with it.
func named(words []string) (id string, others []string) {
	most := 0
	for _, s := range wood.Table() {
		for _, name := range append(strings.Split(s.Also, "; "), s.CommonName, s.BotanicalName) {
			parts := strings.FieldsFunc(strings.ToLower(name), func(c rune) bool { return strings.ContainsRune(" -()×", c) })
			if len(parts) == 0 {
				continue
			}
			all := true
			for _, part := range parts {
				all = all && slices.Contains(words, part)
			}
			if all && len(parts) > most {
				most, id = len(parts), s.ID
			}
		}
	}
	if most > 1 {
		return id, nil
	}
	for _, word := range words {
		if meant, known := usual[word]; known {
			return meant, nil
		}
	}
	if id != "" {
		return id, nil
	}
	for _, s := range wood.Table() {
		if len(others) < 6 && slices.ContainsFunc(words, func(w string) bool {
			return len(w) > 2 && strings.Contains(strings.ToLower(s.CommonName+" "+s.Also), w)
		}) {
			others = append(others, s.CommonName)
		}
	}
	return "", others
}
