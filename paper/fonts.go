package paper

import (
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"sync"
	"unicode"

	"golang.org/x/image/font/gofont/goregular"
	"golang.org/x/image/font/sfnt"
)

// A face is a font that a paper may be printed with.
type face struct {
	name string
	ttf  []byte // as it goes into the paper; nil: not read yet
	path string
	font *sfnt.Font
}

// shipped is the font that goes into every paper: Latin, Greek and Cyrillic.
var shipped = func() *face {
	font, err := sfnt.Parse(goregular.TTF)
	if err != nil {
		panic(err)
	}
	return &face{name: "go", ttf: goregular.TTF, font: font}
}()

// has reports whether a font draws a character. The writer of papers knows none beyond U+FFFF.
func (f *face) has(r rune) bool {
	if f.font == nil || r > 0xffff {
		return false
	}
	var buffer sfnt.Buffer
	glyph, err := f.font.GlyphIndex(&buffer, r)
	return err == nil && glyph != 0
}

// Bounds of what is looked at among the system's fonts.
const (
	mostFaces   = 60
	largestFace = 24 << 20
)

// asItStands are the scripts that read rightly when each letter is printed by itself, from left
// to right. What needs joining or turning round stands as codes: printed letter by letter it
// would read as something else.
var asItStands = []*unicode.RangeTable{
	unicode.Latin, unicode.Greek, unicode.Cyrillic, unicode.Armenian, unicode.Georgian, unicode.Han, unicode.Hiragana,
	unicode.Katakana, unicode.Hangul, unicode.Bopomofo, unicode.Cherokee, unicode.Common,
}

// system are the fonts that a machine has, read when a character is asked for that the shipped
// font lacks.
type system struct {
	folders []string
	once    sync.Once
	lock    sync.Mutex
	faces   []*face
	found   map[rune]*face // nil: no font has it
}

var fonts = &system{folders: fontFolders()}

func fontFolders() []string {
	folders := []string{"/usr/share/fonts", "/usr/local/share/fonts", "/Library/Fonts", "/System/Library/Fonts"}
	if home, err := os.UserHomeDir(); err == nil {
		folders = append(folders, filepath.Join(home, ".local/share/fonts"), filepath.Join(home, ".fonts"))
	}
	return folders
}

// plainFace is the name of a font for running text: neither slanted nor narrow nor of one width.
var plainFace = regexp.MustCompile(`(?i)^[^.]*\.ttf$`)
var otherFace = regexp.MustCompile(`(?i)bold|italic|oblique|mono|condensed|narrow|light|thin|black|serif`)

// look lists the fonts for running text in the system's folders, by name.
func (s *system) look() {
	for _, folder := range s.folders {
		_ = filepath.WalkDir(folder, func(path string, entry fs.DirEntry, err error) error {
			if err != nil || entry.IsDir() || !plainFace.MatchString(entry.Name()) || otherFace.MatchString(entry.Name()) {
				return nil //nolint:nilerr // what cannot be read is no font
			}
			if info, err := entry.Info(); err == nil && info.Size() <= largestFace && len(s.faces) < mostFaces {
				s.faces = append(s.faces, &face{name: "system " + entry.Name(), path: path})
			}
			return nil
		})
	}
	slices.SortStableFunc(s.faces, func(a, b *face) int { return strings.Compare(a.name, b.name) })
}

// read brings a font in; what is no TrueType outline font has no letters.
func (f *face) read() {
	if f.path == "" {
		return
	}
	ttf, err := os.ReadFile(f.path)
	f.path = ""
	if err != nil || len(ttf) < 4 || string(ttf[:4]) != "\x00\x01\x00\x00" && string(ttf[:4]) != "true" {
		return
	}
	if font, err := sfnt.Parse(ttf); err == nil {
		f.ttf, f.font = ttf, font
	}
}

// with is the font of the system that draws a character; nil: none does.
func (s *system) with(r rune) *face {
	if r > 0xffff || !unicode.In(r, asItStands...) || unicode.Is(unicode.M, r) {
		return nil
	}
	s.lock.Lock()
	defer s.lock.Unlock()
	s.once.Do(s.look)
	if found, known := s.found[r]; known {
		return found
	}
	var found *face
	for _, one := range s.faces {
		if one.read(); one.has(r) {
			found = one
			break
		}
	}
	if s.found == nil {
		s.found = make(map[rune]*face)
	}
	s.found[r] = found
	return found
}
