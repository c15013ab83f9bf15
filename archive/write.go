package archive

import (
	"archive/zip"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"io"
	"path"
	"slices"
	"time"

	"elkstay/core/job"
	"elkstay/core/policy"
)

// A Writer writes an archive file by file, so that no more than one of them need be in memory.
type Writer struct {
	zip      *zip.Writer
	contents Contents
}

// NewWriter begins an archive with the job itself and what it is judged by.
func NewWriter(to io.Writer, of Head, document *job.Job, crew *policy.Crew, now time.Time) (*Writer, error) {
	w := &Writer{zip.NewWriter(to), Contents{Format: Format, Version: Version, MadeAt: now.UTC(), Job: of, Pictures: []Picture{}, Briefings: []PaperHead{}}}
	if err := w.json(jobName, document); err != nil {
		return nil, err
	}
	return w, w.json(crewName, crew)
}

// Picture adds a picture; its path is set here.
func (w *Writer) Picture(p Picture, media string, data []byte) error {
	p.Path = "pictures/" + p.ID.String() + map[string]string{"image/png": ".png"}[media]
	if path.Ext(p.Path) == "" {
		p.Path += ".jpg"
	}
	w.contents.Pictures = append(w.contents.Pictures, p)
	return w.file(p.Path, data, zip.Store) // packed by nature
}

// Briefing adds a briefing, and its PDF where there is one; its paths are set here.
func (w *Writer) Briefing(head PaperHead, of *Paper, pdf []byte) error {
	head.Path = "briefings/" + head.ID.String() + ".json"
	if pdf != nil {
		head.PDF = "briefings/" + head.ID.String() + ".pdf"
		if err := w.file(head.PDF, pdf, zip.Deflate); err != nil {
			return err
		}
	}
	w.contents.Briefings = append(w.contents.Briefings, head)
	return w.json(head.Path, of)
}

// LeaveOut says how many briefings, older ones, are not in it.
func (w *Writer) LeaveOut(briefings int) { w.contents.LeftOut = briefings }

// Close writes the table of contents and ends the archive.
func (w *Writer) Close() error {
	if err := w.json(contentsName, &w.contents); err != nil {
		return err
	}
	return w.zip.Close()
}

func (w *Writer) json(name string, value any) error {
	data, err := json.MarshalIndent(value, "", " ")
	if err != nil {
		return fmt.Errorf("%s: %w", name, err)
	}
	return w.file(name, data, zip.Deflate)
}

func (w *Writer) file(name string, data []byte, method uint16) error {
	sum := sha256.Sum256(data)
	if name != contentsName {
		w.contents.Files = append(w.contents.Files, File{name, int64(len(data)), hex.EncodeToString(sum[:])})
	}
	to, err := w.zip.CreateHeader(&zip.FileHeader{Name: name, Method: method, Modified: w.contents.MadeAt})
	if err != nil {
		return err
	}
	_, err = to.Write(data)
	return err
}

// bounded is the most that a file of an archive may unpack to, bytes; none: no such file is known.
func (c *Contents) bounded(name string) (most int64, known bool) {
	switch {
	case name == jobName:
		return maxDocument, true
	case name == crewName:
		return maxCrew, true
	case slices.ContainsFunc(c.Pictures, func(p Picture) bool { return p.Path == name }):
		return MaxPicture, true
	case slices.ContainsFunc(c.Briefings, func(b PaperHead) bool { return b.Path == name }):
		return maxCrew + maxDocument, true
	case slices.ContainsFunc(c.Briefings, func(b PaperHead) bool { return b.PDF == name }):
		return maxPDF, true
	}
	return 0, false
}
