package archive

import (
	"archive/zip"
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"io"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"

	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/locker"
	"elkstay/core/policy"
)

// sample is an archive of a job with a picture and a briefing of an older revision.
func sample(t *testing.T) []byte {
	t.Helper()
	var to bytes.Buffer
	document, crew := jobtest.Whole(), policy.Crew{On: "2026-05-04", Gear: []locker.Item{}}
	w, err := NewWriter(&to, Head{ID: uuid.New(), Revision: 3, Name: document.Name}, &document, &crew, time.Date(2026, 5, 4, 10, 0, 0, 0, time.UTC))
	if err != nil {
		t.Fatal(err)
	}
	older := job.NewJob("older")
	for _, err := range []error{
		w.Picture(Picture{ID: uuid.New(), About: "defect d1", Note: "cavity"}, "image/png", []byte("picture")),
		w.Briefing(PaperHead{ID: uuid.New(), Revision: 2}, &Paper{Job: older, Crew: crew}, []byte("%PDF-1.7")),
		w.Close(),
	} {
		if err != nil {
			t.Fatal(err)
		}
	}
	return to.Bytes()
}

// altered is an archive with one of its files written otherwise; nil takes it out. Its table of contents is given what is
// written, or, sealed, sums that fit.
func altered(t *testing.T, packed []byte, name string, sealed bool, change func([]byte) []byte) []byte {
	t.Helper()
	from, err := zip.NewReader(bytes.NewReader(packed), int64(len(packed)))
	if err != nil {
		t.Fatal(err)
	}
	files, order := map[string][]byte{}, []string{}
	for _, f := range from.File {
		opened, err := f.Open()
		if err != nil {
			t.Fatal(err)
		}
		if files[f.Name], err = io.ReadAll(opened); err != nil {
			t.Fatal(err)
		}
		order = append(order, f.Name)
	}
	for _, of := range order {
		if strings.HasPrefix(of, name) {
			if files[of] = change(files[of]); !sealed {
				continue
			}
			var contents map[string]any
			if err := json.Unmarshal(files[contentsName], &contents); err != nil {
				t.Fatal(err)
			}
			sum := sha256.Sum256(files[of])
			for _, f := range contents["files"].([]any) {
				if f := f.(map[string]any); f["path"] == of {
					f["bytes"], f["sha256"] = len(files[of]), hex.EncodeToString(sum[:])
				}
			}
			files[contentsName], _ = json.Marshal(contents)
		}
	}
	var to bytes.Buffer
	w := zip.NewWriter(&to)
	for _, of := range order {
		if files[of] == nil {
			continue
		}
		out, err := w.Create(of)
		if err == nil {
			_, err = out.Write(files[of])
		}
		if err != nil {
			t.Fatal(err)
		}
	}
	if err := w.Close(); err != nil {
		t.Fatal(err)
	}
	return to.Bytes()
}

// An archive is read as it was written; the sums in it are those that sha256 of the standard library gives of what any ZIP reader unpacks.
func TestAnArchiveIsReadAsItWasWritten(t *testing.T) {
	packed := sample(t)
	read, err := Open(bytes.NewReader(packed), int64(len(packed)))
	if err != nil {
		t.Fatal(err)
	}
	want := jobtest.Whole()
	a, _ := json.Marshal(read.Job)
	b, _ := json.Marshal(want)
	if !bytes.Equal(a, b) || read.Crew.On != "2026-05-04" || read.Contents.Job.Revision != 3 {
		t.Errorf("%s\n%s", a, b)
	}
	if picture, err := read.Picture(read.Pictures[0]); err != nil || string(picture) != "picture" || read.Pictures[0].About != "defect d1" || !strings.HasSuffix(read.Pictures[0].Path, ".png") {
		t.Errorf("%q, %v, %+v", picture, err, read.Pictures[0])
	}
	if older, _, err := read.Briefing(read.Briefings[0]); err != nil || older.Name != "older" || read.Briefings[0].Revision != 2 {
		t.Errorf("%v, %v", older.Name, err)
	}
}

// What is damaged, missing, foreign, or too large is refused by name, wherever in the archive it is.
func TestADamagedArchiveIsRefused(t *testing.T) {
	whole := sample(t)
	set := func(text string) func([]byte) []byte { return func([]byte) []byte { return []byte(text) } }
	swap := func(from, to string) func([]byte) []byte {
		return func(data []byte) []byte { return bytes.Replace(data, []byte(from), []byte(to), 1) }
	}
	var many bytes.Buffer
	crowd := zip.NewWriter(&many)
	for i := range 20_000 {
		if _, err := crowd.Create(fmt.Sprintf("a file with a long name of its own, number %d", i)); err != nil {
			t.Fatal(err)
		}
	}
	if err := crowd.Close(); err != nil {
		t.Fatal(err)
	}
	// The same, which says of its directory that it is short, and that it begins at its end.
	lies := bytes.Clone(many.Bytes())
	end := len(lies) - 22
	copy(lies[end+12:], []byte{9, 0, 0, 0})
	for says, packed := range map[string][]byte{
		"far more files than one has":       many.Bytes(),
		"it lists far more":                 lies,
		"not all of it came":                whole[:len(whole)/2],
		"this is no archive":                []byte("PK but no more"),
		"job.json is damaged":               altered(t, whole, jobName, false, swap(`"name"`, `"Name"`)),
		".png is damaged":                   altered(t, whole, "pictures/", false, set("pictura")),
		"crew.json is missing":              altered(t, whole, crewName, false, func([]byte) []byte { return nil }),
		"contents.json is missing":          altered(t, whole, contentsName, false, func([]byte) []byte { return nil }),
		"which this program does not know":  altered(t, whole, contentsName, false, swap(`"version": 1`, `"version": 7`)),
		"this is no archive of a job":       altered(t, whole, contentsName, false, swap(Format, "other")),
		"is not in the table of contents":   altered(t, whole, contentsName, false, swap(`"path": "job.json"`, `"path": "jib.json"`)),
		"belongs to nothing in the archive": altered(t, whole, contentsName, false, func(d []byte) []byte { return bytes.Replace(d, []byte(`.pdf"`), []byte(`.pdg"`), 1) }),
		"job.json is larger than it may be": altered(t, whole, jobName, true, set(strings.Repeat(" ", maxDocument+1))),
		"there is no field":                 altered(t, whole, jobName, true, swap(`"name"`, `"nome"`)),
	} {
		_, err := Open(bytes.NewReader(packed), int64(len(packed)))
		if err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("want %q, got %v", says, err)
		}
	}
}
