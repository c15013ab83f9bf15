package paper

import (
	"fmt"
	"strings"
	"unicode"

	"golang.org/x/image/font/gofont/goregular"
	"golang.org/x/image/font/sfnt"
)

// shipped is the font that goes into every paper: Latin, Greek and Cyrillic.
var shipped = func() *sfnt.Font {
	font, err := sfnt.Parse(goregular.TTF)
	if err != nil {
		panic(err)
	}
	return font
}()

// letters turns text into what the paper's font can print: a character that it does not have
// becomes its code, such as [U+1F333], and what has no shape, a space. It reports whether
// there was any.
func letters(text string) (printed string, missing bool) {
	plain := true
	for _, r := range text {
		if r < ' ' || r > '~' {
			plain = false
			break
		}
	}
	if plain {
		return text, false
	}
	var buffer sfnt.Buffer
	var out strings.Builder
	for _, r := range text {
		switch {
		case r == '\n':
			out.WriteRune(r)
		case unicode.IsSpace(r) || r < ' ' || r == 0x7f:
			out.WriteByte(' ')
		default:
			glyph, err := shipped.GlyphIndex(&buffer, r)
			if err != nil || glyph == 0 || r > 0xffff {
				missing = true
				fmt.Fprintf(&out, "[U+%04X]", r)
				continue
			}
			out.WriteRune(r)
		}
	}
	return out.String(), missing
}

// Text writes a text, each letter as the paper's font has it.
func (d *page) Text(x, y float64, text string) {
	printed, missing := letters(strings.ReplaceAll(text, "\n", " "))
	d.missing = d.missing || missing
	d.Fpdf.Text(x, y, printed)
}

// GetStringWidth is the width of a text as Text writes it, mm.
func (d *page) GetStringWidth(text string) float64 {
	printed, _ := letters(text)
	return d.Fpdf.GetStringWidth(printed)
}

// broken breaks a word that is wider than a line.
func (d *page) broken(word string, w float64) (parts []string) {
	for d.GetStringWidth(word) > w {
		// As many letters as fit, one at the least.
		runes := []rune(word)
		low, high := 1, len(runes)
		for low < high {
			middle := (low + high + 1) / 2
			if d.GetStringWidth(string(runes[:middle])) <= w {
				low = middle
			} else {
				high = middle - 1
			}
		}
		if low == len(runes) {
			break
		}
		parts = append(parts, string(runes[:low]))
		word = string(runes[low:])
	}
	return append(parts, word)
}
