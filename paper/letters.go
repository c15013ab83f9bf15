package paper

import (
	"fmt"
	"strings"
	"unicode"
)

// A run is a part of a text in one font.
type run struct {
	face *face
	text string
}

// runs turns text into what can be printed: the shipped font, else one of the system's that has
// the letter; a character that no font has becomes its code, such as [U+1F333], and what has no
// shape, a space. It reports whether there was any without a font.
func (d *page) runs(text string) (out []run, missing bool) {
	plain := true
	for _, r := range text {
		if r < ' ' || r > '~' {
			plain = false
			break
		}
	}
	if plain {
		return []run{{shipped, text}}, false
	}
	var b strings.Builder
	in := shipped
	end := func() {
		if b.Len() > 0 {
			out = append(out, run{in, b.String()})
			b.Reset()
		}
	}
	for _, r := range text {
		next, written := shipped, string(r)
		switch {
		case r == '\n':
		case unicode.IsSpace(r) || r < ' ' || r == 0x7f:
			written = " "
		case shipped.has(r):
		default:
			if other := fonts.with(r); other != nil && d.takes(other) {
				next = other
			} else {
				missing = true
				written = fmt.Sprintf("[U+%04X]", r)
			}
		}
		if next != in {
			end()
			in = next
		}
		b.WriteString(written)
	}
	end()
	return out, missing
}

// letters is a text with codes for what no font has.
func (d *page) letters(text string) (printed string, missing bool) {
	parts, missing := d.runs(text)
	var b strings.Builder
	for _, part := range parts {
		b.WriteString(part.text)
	}
	return b.String(), missing
}

// takes puts a font of the system into the paper, once; a font that cannot go in is none.
func (d *page) takes(f *face) (taken bool) {
	if taken, known := d.taken[f]; known {
		return taken
	}
	defer func() {
		// The library reads fonts on trust.
		if recover() != nil || d.Err() {
			d.ClearError()
			taken = false
		}
		d.taken[f] = taken
	}()
	size, _ := d.GetFontSize()
	style := d.GetFontStyle()
	d.AddUTF8FontFromBytes(f.name, "", f.ttf)
	d.SetFont(f.name, "", size)
	d.SetFont(shipped.name, style, size)
	return !d.Err()
}

// Text writes a text, each letter in a font that has it.
func (d *page) Text(x, y float64, text string) {
	parts, missing := d.runs(strings.ReplaceAll(text, "\n", " "))
	d.missing = d.missing || missing
	d.each(parts, func(part string) {
		d.Fpdf.Text(x, y, part)
		x += d.Fpdf.GetStringWidth(part)
	})
}

// each does something with every part of a text, its font set.
func (d *page) each(parts []run, do func(part string)) {
	size, _ := d.GetFontSize()
	style := d.GetFontStyle()
	for _, part := range parts {
		if part.face != shipped {
			d.SetFont(part.face.name, "", size)
		}
		do(part.text)
		if part.face != shipped {
			d.SetFont(shipped.name, style, size)
		}
	}
}

// GetStringWidth is the width of a text as Text writes it, mm.
func (d *page) GetStringWidth(text string) (w float64) {
	parts, _ := d.runs(text)
	d.each(parts, func(part string) { w += d.Fpdf.GetStringWidth(part) })
	return w
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
