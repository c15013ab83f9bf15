package server

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"image"
	_ "image/jpeg" // the pictures that are kept
	_ "image/png"
	"net/http"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"elkstay/core/assess"
	"elkstay/core/bench"
	"elkstay/core/calc"
	"elkstay/core/ground"
	"elkstay/core/job"
	"elkstay/core/locker"
	"elkstay/core/units"
	"elkstay/core/wood"
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

// PhotoHead is a picture kept with a job.
type PhotoHead struct {
	ID      uuid.UUID `json:"id"`
	TakenAt time.Time `json:"taken_at"`
	About   string    `json:"about" doc:"What it shows: a path of the document; empty: the job"`
	Note    string    `json:"note"`
	Width   int       `json:"width"`
	Height  int       `json:"height"`
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
	huma.Register(api, operation(http.MethodGet, "/api/jobs/{id}/briefings/{briefing}/pdf", "briefing-pdf", "A briefing as a PDF, with the figures it was made with"),
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
			stamp, err := outdated(ctx, kept, &b, &document, newest)
			if err != nil {
				return nil, refusal(err)
			}
			stamp.SavedAt = at.SavedAt
			options := assess.Options{Units: in.Units, Crew: b.Crew}
			assessment, said := assess.Assess(&document, options), brief.Briefing(&document, options)
			data, err := paper.Briefing(&document, &assessment, &said, stamp, in.Units, in.Sheet == "letter")
			return &fileOut{"application/pdf", inline(document.Name, fmt.Sprintf("briefing-%d.pdf", b.Revision)), data}, err
		})
	huma.Register(api, operation(http.MethodGet, "/api/weights.pdf", "weights-pdf", "A table of what logs of one wood weigh, on one page"),
		func(_ context.Context, in *struct {
			Units   units.System `query:"units" enum:"metric,us" default:"metric"`
			Sheet   string       `query:"sheet" enum:"a4,letter" default:"a4"`
			Species string       `query:"species" maxLength:"60" required:"true" doc:"Id of the wood table"`
			Taper   float64      `query:"taper_m_per_m" minimum:"0" maximum:"0.1"`
			LimitKg float64      `query:"limit_kg" minimum:"0" maximum:"100000" doc:"0: none"`

			TaughtBy      string  `query:"taught_by" maxLength:"120" doc:"The job whose weighings taught something; empty: none"`
			TaughtWeighed int     `query:"taught_weighed" minimum:"1" maximum:"100000" default:"1"`
			TaughtFactor  float64 `query:"taught_factor" minimum:"0.05" maximum:"20" default:"1"`
			TaughtHigh    float64 `query:"taught_high" minimum:"0.05" maximum:"20" default:"1"`
		}) (*fileOut, error) {
			asked := bench.WeightsRequest{Wood: wood.Wood{Species: in.Species}, Units: in.Units, TaperMPM: in.Taper}
			if in.LimitKg > 0 {
				asked.LimitKg = &in.LimitKg
			}
			if in.TaughtBy != "" {
				asked.Taught = &bench.Taught{By: in.TaughtBy, Weighed: in.TaughtWeighed, Factor: in.TaughtFactor, HighFactor: in.TaughtHigh}
			}
			table, err := asked.Table()
			if err != nil {
				return nil, calc.Refuse("weights", err)
			}
			data, err := paper.Weights(&table, asked.LimitKg, time.Now(), in.Units, in.Sheet == "letter")
			return &fileOut{"application/pdf", inline(table.Species, "weights.pdf"), data}, err
		})
	huma.Register(api, operation(http.MethodGet, "/api/wraps.pdf", "wraps-pdf", "What a hand holds with every number of turns on a device, on one page"),
		func(_ context.Context, in *struct {
			Units    units.System `query:"units" enum:"metric,us" default:"metric"`
			Sheet    string       `query:"sheet" enum:"a4,letter" default:"a4"`
			Device   string       `query:"device" maxLength:"80" doc:"What the crew calls it"`
			Friction float64      `query:"friction" minimum:"0.02" maximum:"1" required:"true"`
			HandKn   float64      `query:"hand_kn" minimum:"0.01" maximum:"5" required:"true"`
			LimitKn  float64      `query:"limit_kn" minimum:"0" maximum:"500" doc:"0: none"`
			DrumM    float64      `query:"drum_m" minimum:"0" maximum:"2" doc:"0: not said"`
			RopeM    float64      `query:"rope_m" minimum:"0" maximum:"0.1" doc:"0: not said"`
		}) (*fileOut, error) {
			asked := bench.WrapsRequest{Device: in.Device, Friction: in.Friction, HandKn: in.HandKn}
			for _, one := range []struct {
				to    **float64
				value *float64
			}{{&asked.LimitKn, &in.LimitKn}, {&asked.DrumM, &in.DrumM}, {&asked.RopeM, &in.RopeM}} {
				if *one.value > 0 {
					*one.to = one.value
				}
			}
			card, err := asked.Card()
			if err != nil {
				return nil, calc.Refuse("wraps-card", err)
			}
			data, err := paper.Wraps(&card, &asked, time.Now(), in.Units, in.Sheet == "letter")
			return &fileOut{"application/pdf", inline(in.Device, "wraps.pdf"), data}, err
		})
	mountFiles(api, kept)
	mountPhotos(api, kept)
}

// inline names a file that a browser may show.
func inline(document, name string) string {
	return `inline; filename="` + strings.TrimSuffix(fileName(document), ".elkstay.json") + "-" + name + `"`
}

// mountFiles mounts what other programs read of a job.
func mountFiles(api huma.API, kept *store.Store) {
	file := func(path, id, summary string, write func(*made) (*fileOut, error)) {
		huma.Register(api, operation(http.MethodGet, "/api/jobs/{id}/"+path, id, summary),
			func(ctx context.Context, in *RevisionIn) (*fileOut, error) {
				m, err := makeOf(ctx, kept, in, false)
				if err != nil {
					return nil, err
				}
				return write(m)
			})
	}
	const svg = "image/svg+xml"
	file("tree.svg", "tree-svg", "The tree with its numbered picks, to scale", func(m *made) (*fileOut, error) {
		return &fileOut{svg, inline(m.document.Name, "tree.svg"), paper.Tree(&m.document, &m.assessment, m.options.Units, 125, 130).SVG()}, nil
	})
	file("site.svg", "site-svg", "The plan of the site, to scale", func(m *made) (*fileOut, error) {
		return &fileOut{svg, inline(m.document.Name, "site.svg"), paper.Site(&m.document, &m.assessment, m.options.Units, 145, 130).SVG()}, nil
	})
	file("site.geojson", "site-geojson", "The site as GeoJSON in local metres", func(m *made) (*fileOut, error) {
		data, err := paper.GeoJSON(&m.document, &m.assessment)
		return &fileOut{"application/geo+json", `attachment; filename="site.geojson"`, data}, err
	})
	file("picks.csv", "picks-csv", "The picks as CSV, SI figures", func(m *made) (*fileOut, error) {
		data, err := sheet.CSV(paper.Picks(&m.assessment))
		return &fileOut{typeCSV, `attachment; filename="picks.csv"`, data}, err
	})
	file("waste.csv", "waste-csv", "What has to go and what has gone, as CSV, SI figures", func(m *made) (*fileOut, error) {
		lies, err := ground.Of(&m.document, m.options)
		if err != nil {
			return nil, err
		}
		data, err := sheet.CSV(paper.Waste(&lies))
		return &fileOut{typeCSV, `attachment; filename="waste.csv"`, data}, err
	})
	file("picks.xlsx", "picks-xlsx", "The picks as a workbook, SI figures", func(m *made) (*fileOut, error) {
		data, err := sheet.XLSX([]locker.Table{paper.Picks(&m.assessment)})
		return &fileOut{typeXLSX, `attachment; filename="picks.xlsx"`, data}, err
	})
}

// Bounds of pictures.
const (
	maxPhoto  = 8_000_000  // bytes
	maxSide   = 12_000     // pixels
	maxPixels = 25_000_000 // unpacked, four bytes each
)

// PhotoPath names a picture in an address.
type PhotoPath struct {
	JobPath
	Photo uuid.UUID `path:"photo"`
}

type pictureOut struct {
	ContentType string `header:"Content-Type"`
	Cache       string `header:"Cache-Control"`
	Body        []byte
}

func mountPhotos(api huma.API, kept *store.Store) {
	huma.Register(api, operation(http.MethodGet, "/api/jobs/{id}/photos", "list-photos", "The pictures kept with a job"),
		func(ctx context.Context, in *JobPath) (*struct{ Body []PhotoHead }, error) {
			found, err := kept.Photos(ctx, in.ID)
			if err != nil {
				return nil, refusal(err)
			}
			list := make([]PhotoHead, len(found))
			for i, p := range found {
				list[i] = PhotoHead{p.ID, p.TakenAt, p.About, p.Note, p.Width, p.Height}
			}
			return &struct{ Body []PhotoHead }{list}, nil
		})
	put := operation(http.MethodPut, "/api/jobs/{id}/photos/{photo}", "keep-photo", "Keep a picture with a job: JPEG or PNG")
	put.DefaultStatus = http.StatusNoContent
	huma.Register(api, put, func(ctx context.Context, in *struct {
		PhotoPath
		About   string `query:"about" maxLength:"120" doc:"What it shows: a path of the document"`
		Note    string `query:"note" maxLength:"400"`
		RawBody []byte `contentType:"application/octet-stream"`
	}) (*struct{}, error) {
		refuse := func(value any, allowed, format string, args ...any) error {
			problem := problemOf(http.StatusUnprocessableEntity, "The picture was not kept.")
			problem.Errors.Add("body", value, allowed, format, args...)
			return problem
		}
		if len(in.RawBody) > maxPhoto {
			return nil, refuse(len(in.RawBody), "at most 8 MB", "the picture has %.1f MB", float64(len(in.RawBody))/1e6)
		}
		config, format, err := image.DecodeConfig(bytes.NewReader(in.RawBody))
		if err != nil || format != "jpeg" && format != "png" {
			return nil, refuse(format, "JPEG or PNG", "this is no picture that can be kept")
		}
		if config.Width > maxSide || config.Height > maxSide || config.Width*config.Height > maxPixels {
			return nil, refuse(fmt.Sprintf("%d by %d", config.Width, config.Height), fmt.Sprintf("at most %d pixels a side and %d million in all", maxSide, maxPixels/1_000_000), "the picture is %d by %d pixels", config.Width, config.Height)
		}
		if _, _, err := image.Decode(bytes.NewReader(in.RawBody)); err != nil {
			return nil, refuse("", "a whole picture", "the picture is damaged, or not all of it came")
		}
		in.RawBody = placeless(in.RawBody, format)
		err = kept.KeepPhoto(ctx, in.ID, store.Photo{ID: in.Photo, About: in.About, Note: in.Note, MediaType: "image/" + format, Width: config.Width, Height: config.Height, Picture: in.RawBody})
		if errors.Is(err, store.ErrFull) {
			return nil, refuse(store.MaxPhotos, fmt.Sprintf("at most %d pictures", store.MaxPhotos), "the job has as many pictures as it may have")
		}
		if err != nil {
			return nil, refusal(err)
		}
		return nil, nil
	})
	huma.Register(api, operation(http.MethodGet, "/api/jobs/{id}/photos/{photo}", "get-photo", "One picture"),
		func(ctx context.Context, in *PhotoPath) (*pictureOut, error) {
			p, err := kept.Photo(ctx, in.ID, in.Photo)
			if err != nil {
				return nil, refusal(err)
			}
			return &pictureOut{p.MediaType, "private, max-age=31536000, immutable", p.Picture}, nil
		})
	huma.Register(api, operation(http.MethodDelete, "/api/jobs/{id}/photos/{photo}", "delete-photo", "Take a picture off a job"),
		func(ctx context.Context, in *PhotoPath) (*struct{}, error) {
			if err := kept.DeletePhoto(ctx, in.ID, in.Photo); err != nil {
				return nil, refusal(err)
			}
			return nil, nil
		})
}
