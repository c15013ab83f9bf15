// Package archive keeps a whole job in one file and reads it again: a ZIP of plan and facts, the gear and the rules they are judged
// by, pictures and briefings, with a table of contents that has the SHA-256 of every file.
package archive

import (
	"time"

	"github.com/google/uuid"

	"elkstay/core/job"
	"elkstay/core/policy"
)

// Format is how an archive names itself, and Version the newest that is read.
const (
	Format  = "elkstay-archive"
	Version = 1
)

// Bounds of an archive.
const (
	MaxBytes     = 900_000_000 // packed
	MaxPicture   = 8_000_000
	MaxPictures  = 100
	MaxBriefings = 200
	// PDFs is how many briefings, the newest, are there to be read by eye too.
	PDFs = 20

	maxDocument = 2 << 20
	maxCrew     = 16 << 20
	maxContents = 4 << 20
	maxPDF      = 16 << 20
	// Of the directory at the end of the ZIP: far more than so many files need.
	maxDirectory = 1 << 20
)

// Names of files in an archive.
const (
	contentsName = "contents.json"
	jobName      = "job.json"
	crewName     = "crew.json"
)

// Contents is the table of contents.
type Contents struct {
	Format    string      `json:"format"`
	Version   int         `json:"version"`
	MadeAt    time.Time   `json:"made_at"`
	Job       Head        `json:"job"`
	Pictures  []Picture   `json:"pictures"`
	Briefings []PaperHead `json:"briefings"`
	LeftOut   int         `json:"briefings_left_out,omitempty"` // older ones, beyond MaxBriefings
	Files     []File      `json:"files"`
}

// Head is the job as it was when the archive was made.
type Head struct {
	ID       uuid.UUID `json:"id"`
	Revision int       `json:"revision"`
	SavedAt  time.Time `json:"saved_at"`
	Name     string    `json:"name"`
}

// Picture is a picture that an archive holds.
type Picture struct {
	Path    string    `json:"path"`
	ID      uuid.UUID `json:"id"`
	TakenAt time.Time `json:"taken_at"`
	About   string    `json:"about,omitempty"`
	Note    string    `json:"note,omitempty"`
}

// PaperHead is a briefing that an archive holds.
type PaperHead struct {
	Path     string    `json:"path"`
	PDF      string    `json:"pdf,omitempty"`
	ID       uuid.UUID `json:"id"`
	Revision int       `json:"revision"`
	MadeAt   time.Time `json:"made_at"`
	SavedAt  time.Time `json:"saved_at"` // of its revision
}

// Paper is what a briefing was made of.
type Paper struct {
	Job  job.Job     `json:"job"`
	Crew policy.Crew `json:"crew"`
}

// File is a file of an archive and what it must be.
type File struct {
	Path   string `json:"path"`
	Bytes  int64  `json:"bytes"`
	SHA256 string `json:"sha256"`
}
