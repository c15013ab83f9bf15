package server

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	_ "image/jpeg" // the pictures that are kept
	_ "image/png"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"elkstay/core/assess"
	"elkstay/core/calc"
	"elkstay/core/ground"
	"elkstay/core/job"
	"elkstay/core/locker"
	"elkstay/core/units"
	"elkstay/exchange"
	"elkstay/paper"
	"elkstay/paper/brief"
	"elkstay/sheet"
	"elkstay/store"
)

// BriefingHead is a briefing that was made.
type BriefingHead struct {
	ID       uuid.UUID `json:"id"`
	Revision int       `json:"revision" doc:"Of the job that it was made from"`
	MadeAt   time.Time `json:"made_at"`
	Newest   int       `json:"newest" doc:"Revision of the job now"`
	Outdated string    `json:"outdated" doc:"Why not to work from it; empty: it is of the newest"`
}

// BriefingList is a page of the briefings made of a job; at most 50 at once.
type BriefingList struct {
	Briefings []BriefingHead `json:"briefings"`
	More
}

// RevisionIn asks for a thing made of a job.
type RevisionIn struct {
	JobPath
	Revision int          `query:"revision" minimum:"0" maximum:"1000000000" doc:"Of the job; absent or 0: the newest"`
	Units    units.System `query:"units" enum:"metric,us" default:"metric"`
}

// made is a revision of a job, assessed by the crew's rules and gear of now.
type made struct {
	document   job.Job
	revision   store.Revision
	newest     int
	assessment assess.Assessment
	options    assess.Options
}

// revisionOf reads a revision of a job; number 0 is the newest.
func revisionOf(ctx context.Context, kept *store.Store, id uuid.UUID, number int) (document job.Job, at store.Revision, newest int, err error) {
	head, err := kept.Job(ctx, id)
	if err != nil {
		return document, at, 0, refusal(err)
	}
	at = store.Revision{Number: head.Revision, SavedAt: head.SavedAt, Document: head.Document}
	if number != 0 && number != head.Revision {
		if at, err = kept.Revision(ctx, id, number); err != nil {
			if errors.Is(err, store.ErrNotFound) {
				return document, at, 0, problemOf(http.StatusNotFound, fmt.Sprintf("The job has no revision %d.", number))
			}
			return document, at, 0, refusal(err)
		}
	}
	if document, err = job.ReadJob(at.Document); err != nil {
		return document, at, 0, calc.Refuse("job", err)
	}
	return document, at, head.Revision, nil
}

// makeOf assesses a revision; in full of the pick that comes next, when that is asked for.
func makeOf(ctx context.Context, kept *store.Store, in *RevisionIn, inFull bool) (*made, error) {
	document, at, newest, err := revisionOf(ctx, kept, in.ID, in.Revision)
	if err != nil {
		return nil, err
	}
	crew, err := crewFor(ctx, kept, at.Document)
	if err != nil {
		return nil, refusal(err)
	}
	m := &made{document: document, revision: at, newest: newest, options: assess.Options{Units: in.Units, Crew: crew}}
	if inFull {
		m.options.Pick = firstOpen(&document)
	}
	m.assessment = assess.Assess(&m.document, m.options)
	return m, nil
}

// firstOpen is the id of the pick that comes next; of a job that is done, the first.
func firstOpen(document *job.Job) string {
	for i := range document.Picks {
		if !document.Picks[i].Done {
			return document.Picks[i].ID
		}
	}
	if len(document.Picks) > 0 {
		return document.Picks[0].ID
	}
	return ""
}

// JobFigures is what can be said of a revision of a job.
type JobFigures struct {
	Revision   int               `json:"revision"`
	Assessment assess.Assessment `json:"assessment" doc:"In full of the pick that comes next"`
}

// mountFigures lets a page ask for a job and its figures at once, before it has either.
func mountFigures(api huma.API, kept *store.Store) {
	op := operation(http.MethodGet, "/api/jobs/{id}/figures", "job-figures", "Everything that can be said of a job as it is kept")
	huma.Register(api, op, func(ctx context.Context, in *RevisionIn) (*struct{ Body JobFigures }, error) {
		m, err := makeOf(ctx, kept, in, true)
		if err != nil {
			return nil, err
		}
		return &struct{ Body JobFigures }{JobFigures{m.revision.Number, m.assessment}}, nil
	})
}

// outdated says why not to work from a briefing.
func outdated(ctx context.Context, kept *store.Store, b *store.Briefing, document *job.Job, newest int) (paper.Stamp, error) {
	stamp := paper.Stamp{Revision: b.Revision, Newest: newest, MadeAt: b.MadeAt, Crew: b.Crew.Revision}
	if newest != b.Revision {
		return stamp, nil
	}
	now, err := kept.Crew(ctx, document.Items())
	if err != nil {
		return stamp, err
	}
	was, is := b.Crew, now
	was.On, is.On, was.Revision, is.Revision = "", "", 0, 0
	a, errA := json.Marshal(was)
	c, errC := json.Marshal(is)
	stamp.Changed = !bytes.Equal(a, c)
	return stamp, errors.Join(errA, errC)
}

// BriefingPath names a briefing in an address.
type BriefingPath struct {
	JobPath
	Briefing uuid.UUID `path:"briefing"`
}

func mountPapers(api huma.API, kept *store.Store) {
	op := operation(http.MethodPost, "/api/jobs/{id}/briefings", "make-briefing", "Record a briefing of a job as it is now")
	op.DefaultStatus = http.StatusCreated
	huma.Register(api, op, func(ctx context.Context, in *JobPath) (*struct{ Body BriefingHead }, error) {
		document, at, newest, err := revisionOf(ctx, kept, in.ID, 0)
		if err != nil {
			return nil, err
		}
		crew, err := kept.Crew(ctx, document.Items())
		if err != nil {
			return nil, refusal(err)
		}
		crew.On = today()
		id := uuid.New()
		if err := kept.KeepBriefing(ctx, in.ID, id, at.Number, crew); err != nil {
			return nil, refusal(err)
		}
		b, err := kept.Briefing(ctx, in.ID, id)
		if err != nil {
			return nil, refusal(err)
		}
		return &struct{ Body BriefingHead }{BriefingHead{ID: b.ID, Revision: b.Revision, MadeAt: b.MadeAt, Newest: newest}}, nil
	})
	huma.Register(api, operation(http.MethodGet, "/api/jobs/{id}/briefings", "list-briefings", "The briefings made of a job, and whether the job has moved on since"),
		func(ctx context.Context, in *struct {
			JobPath
			Page
		}) (*struct{ Body BriefingList }, error) {
			document, _, newest, err := revisionOf(ctx, kept, in.ID, 0)
			if err != nil {
				return nil, err
			}
			after, err := placed[store.Place](in.After)
			if err != nil {
				return nil, err
			}
			found, next, total, err := kept.Briefings(ctx, in.ID, after, min(in.Limit, 50))
			if err != nil {
				return nil, refusal(err)
			}
			list := make([]BriefingHead, len(found))
			for i := range found {
				b, err := kept.Briefing(ctx, in.ID, found[i].ID)
				if err != nil {
					return nil, refusal(err)
				}
				stamp, err := outdated(ctx, kept, &b, &document, newest)
				if err != nil {
					return nil, refusal(err)
				}
				list[i] = BriefingHead{b.ID, b.Revision, b.MadeAt, newest, stamp.Outdated()}
			}
			return &struct{ Body BriefingList }{BriefingList{list, More{total, written(next)}}}, nil
		})
	mountBriefing(api, kept)
	mountCards(api)
	mountFiles(api, kept)
	mountPhotos(api, kept)
}

// pdfOf is a briefing as a PDF: of a document, its revision, with the figures it was made with.
func pdfOf(ctx context.Context, kept *store.Store, b *store.Briefing, document *job.Job, savedAt time.Time, newest int, system units.System, letter bool) ([]byte, error) {
	stamp, err := outdated(ctx, kept, b, document, newest)
	if err != nil {
		return nil, refusal(err)
	}
	stamp.SavedAt = savedAt
	options := assess.Options{Units: system, Crew: b.Crew}
	assessment, said := assess.Assess(document, options), brief.Briefing(document, options)
	return paper.Briefing(document, &assessment, &said, stamp, system, letter)
}

// mountBriefing serves a briefing as a PDF, with the figures that it was made with.
func mountBriefing(api huma.API, kept *store.Store) {
	huma.Register(api, gives(operation(http.MethodGet, "/api/jobs/{id}/briefings/{briefing}/pdf", "briefing-pdf", "A briefing as a PDF, with the figures it was made with"), typePDF),
		func(ctx context.Context, in *struct {
			BriefingPath
			Units units.System `query:"units" enum:"metric,us" default:"metric"`
			Sheet string       `query:"sheet" enum:"a4,letter" default:"a4"`
		}) (*fileOut, error) {
			b, err := kept.Briefing(ctx, in.ID, in.Briefing)
			if err != nil {
				if errors.Is(err, store.ErrNotFound) {
					return nil, problemOf(http.StatusNotFound, "There is no such briefing.")
				}
				return nil, refusal(err)
			}
			document, at, newest, err := revisionOf(ctx, kept, in.ID, b.Revision)
			if err != nil {
				return nil, err
			}
			data, err := pdfOf(ctx, kept, &b, &document, at.SavedAt, newest, in.Units, in.Sheet == "letter")
			return &fileOut{typePDF, inline(document.Name, fmt.Sprintf("briefing-%d.pdf", b.Revision)), data}, err
		})
}

// mountFiles mounts what other programs read of a job.
func mountFiles(api huma.API, kept *store.Store) {
	file := func(path, id, summary, media string, write func(*made) (*fileOut, error)) {
		huma.Register(api, gives(operation(http.MethodGet, "/api/jobs/{id}/"+path, id, summary), media),
			func(ctx context.Context, in *RevisionIn) (*fileOut, error) {
				m, err := makeOf(ctx, kept, in, false)
				if err != nil {
					return nil, err
				}
				return write(m)
			})
	}
	const svg = "image/svg+xml"
	file("tree.svg", "tree-svg", "The tree with its numbered picks, to scale", svg, func(m *made) (*fileOut, error) {
		return &fileOut{svg, inline(m.document.Name, "tree.svg"), paper.Tree(&m.document, &m.assessment, m.options.Units, 125, 130).SVG()}, nil
	})
	file("site.svg", "site-svg", "The plan of the site, to scale", svg, func(m *made) (*fileOut, error) {
		return &fileOut{svg, inline(m.document.Name, "site.svg"), paper.Site(&m.document, &m.assessment, m.options.Units, 145, 130).SVG()}, nil
	})
	attached := func(media, name string, data []byte, err error) (*fileOut, error) {
		if err != nil {
			return nil, calc.Refuse("site", err)
		}
		return &fileOut{media, `attachment; filename="` + name + `"`, data}, nil
	}
	file("site.geojson", "site-geojson", "The site by RFC 7946, longitude and latitude; refused without a place on earth", typeGeoJSON, func(m *made) (*fileOut, error) {
		data, err := exchange.GeoJSON(m.document.Site.Earth, exchange.Plan(&m.document, &m.assessment))
		return attached(typeGeoJSON, "site.geojson", data, err)
	})
	file("site.json", "site-json", "The site as plain JSON, in metres from the plan's own origin", "application/json", func(m *made) (*fileOut, error) {
		data, err := exchange.JSON(m.document.Name, exchange.Plan(&m.document, &m.assessment))
		return attached("application/json", "site.json", data, err)
	})
	file("site.dxf", "site-dxf", "The site as a drawing in metres, a layer for each kind", typeDXF, func(m *made) (*fileOut, error) {
		return attached(typeDXF, "site.dxf", exchange.DXF(exchange.Plan(&m.document, &m.assessment)), nil)
	})
	file("picks.csv", "picks-csv", "The picks as CSV, in the units asked for", typeCSV, func(m *made) (*fileOut, error) {
		data, err := sheet.CSV(paper.Picks(&m.assessment, m.options.Units))
		return &fileOut{typeCSV, `attachment; filename="picks.csv"`, data}, err
	})
	file("waste.csv", "waste-csv", "What has to go and what has gone, as CSV, SI figures", typeCSV, func(m *made) (*fileOut, error) {
		lies, err := ground.Of(&m.document, m.options)
		if err != nil {
			return nil, err
		}
		data, err := sheet.CSV(paper.Waste(&lies))
		return &fileOut{typeCSV, `attachment; filename="waste.csv"`, data}, err
	})
	file("picks.xlsx", "picks-xlsx", "The picks as a workbook, in the units asked for", typeXLSX, func(m *made) (*fileOut, error) {
		data, err := sheet.XLSX([]locker.Table{paper.Picks(&m.assessment, m.options.Units)})
		return &fileOut{typeXLSX, `attachment; filename="picks.xlsx"`, data}, err
	})
}

// Bounds of pictures.
const (
	maxPhoto  = 8_000_000  // bytes
	maxSide   = 12_000     // pixels
	maxPixels = 25_000_000 // unpacked, four bytes each
)
