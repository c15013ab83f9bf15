package server

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"image"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"elkstay/core/calc"
	"elkstay/core/intake"
	"elkstay/store"
)

// PhotoHead is a picture kept with a job.
type PhotoHead struct {
	ID      uuid.UUID `json:"id"`
	TakenAt time.Time `json:"taken_at"`
	About   string    `json:"about" doc:"What it shows: a path of the document; empty: the job"`
	Note    string    `json:"note"`
	Width   int       `json:"width"`
	Height  int       `json:"height"`
}

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

// pictureOf is a picture as it is kept: what it is, and without where it was taken. The error is intake.Faults.
func pictureOf(data []byte) (store.Photo, error) {
	refuse := func(value any, allowed, format string, args ...any) (store.Photo, error) {
		var faults intake.Faults
		faults.Add("body", value, allowed, format, args...)
		return store.Photo{}, faults
	}
	if len(data) > maxPhoto {
		return refuse(len(data), "at most 8 MB", "the picture has %.1f MB", float64(len(data))/1e6)
	}
	config, format, err := image.DecodeConfig(bytes.NewReader(data))
	if err != nil || format != "jpeg" && format != "png" {
		return refuse(format, "JPEG or PNG", "this is no picture that can be kept")
	}
	if config.Width > maxSide || config.Height > maxSide || config.Width*config.Height > maxPixels {
		return refuse(fmt.Sprintf("%d by %d", config.Width, config.Height), fmt.Sprintf("at most %d pixels a side and %d million in all", maxSide, maxPixels/1_000_000), "the picture is %d by %d pixels", config.Width, config.Height)
	}
	if _, _, err := image.Decode(bytes.NewReader(data)); err != nil {
		return refuse("", "a whole picture", "the picture is damaged, or not all of it came")
	}
	return store.Photo{MediaType: "image/" + format, Width: config.Width, Height: config.Height, Picture: placeless(data, format)}, nil
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
		picture, err := pictureOf(in.RawBody)
		if err != nil {
			return nil, calc.Refuse("picture", err)
		}
		picture.ID, picture.About, picture.Note = in.Photo, in.About, in.Note
		err = kept.KeepPhoto(ctx, in.ID, picture)
		if errors.Is(err, store.ErrFull) {
			var faults intake.Faults
			faults.Add("body", store.MaxPhotos, fmt.Sprintf("at most %d pictures", store.MaxPhotos), "the job has as many pictures as it may have")
			return nil, calc.Refuse("picture", faults)
		}
		if err != nil {
			return nil, refusal(err)
		}
		return nil, nil
	})
	huma.Register(api, gives(operation(http.MethodGet, "/api/jobs/{id}/photos/{photo}", "get-photo", "One picture"), "image/jpeg", "image/png"),
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
