package server

import (
	"context"
	"fmt"
	"net/http"
	"reflect"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"elkstay/core/calc"
	"elkstay/core/locker"
	"elkstay/core/policy"
	"elkstay/sheet"
	"elkstay/store"
)

// ItemRow is one item of the locker in short.
type ItemRow struct {
	ID        string          `json:"id"`
	Kind      string          `json:"kind" enum:"rope,block,sling,device,connector,pulley,winch,crane"`
	Name      string          `json:"name"`
	Serial    string          `json:"serial"`
	LimitKn   *float64        `json:"limit_kn" doc:"Working limit as made, by the crew's rules; null when nothing is stated, or of a crane"`
	Marked    bool            `json:"marked" doc:"That limit is marked on it"`
	DiameterM *float64        `json:"diameter_m"`
	LengthM   *float64        `json:"length_m"`
	NextDue   string          `json:"next_due" doc:"Day by which it is to be inspected; empty: none set"`
	Standing  locker.Standing `json:"standing"`
}

// LockerList is the whole locker in short.
type LockerList struct {
	Revision int       `json:"revision" doc:"Of gear and rules together"`
	On       string    `json:"on" doc:"The day on which it stands like this"`
	Items    []ItemRow `json:"items"`
	More
}

// ItemHead is one item of the locker in full.
type ItemHead struct {
	Revision int             `json:"revision"`
	Item     locker.Item     `json:"item"`
	Standing locker.Standing `json:"standing"`
}

// ImportPreview is what a file would do to the locker, or has done.
type ImportPreview struct {
	Revision int  `json:"revision" doc:"Of the locker that it was held against; once applied, the one it made"`
	Applied  bool `json:"applied"`
	locker.Import
}

type itemOut struct {
	ETag string `header:"ETag"`
	Body ItemHead
}

// ItemPath names an item in an address.
type ItemPath struct {
	ID string `path:"id" minLength:"1" maxLength:"40" doc:"Id of the item"`
}

func itemAnswer(kept store.KeptItem) *itemOut {
	return &itemOut{tag(kept.Revision), ItemHead{kept.Revision, kept.Item, kept.On(today())}}
}

// limitOf is what an item may see as it is made, by the rules.
func limitOf(item *locker.Item, rules *policy.Policy) *float64 {
	limit, known := item.WorkingLimit(policy.DesignFactorOf(rules, item.Kind))
	if !known {
		return nil
	}
	return &limit.Kn
}

func mountLocker(api huma.API, kept *store.Store) {
	huma.Register(api, operation(http.MethodGet, "/api/locker", "list-items", "The locker in short, in the order of kind and name, and how each item stands today"),
		func(ctx context.Context, in *Page) (*struct{ Body LockerList }, error) {
			after, err := placed[store.Shelf](in.After)
			if err != nil {
				return nil, err
			}
			items, next, total, revision, err := kept.ItemsPage(ctx, after, in.Limit)
			if err != nil {
				return nil, refusal(err)
			}
			policy, _, err := kept.Policy(ctx)
			if err != nil {
				return nil, refusal(err)
			}
			list := LockerList{Revision: revision, On: today(), Items: make([]ItemRow, len(items)), More: More{total, written(next)}}
			for i := range items {
				it := &items[i].Item
				row := ItemRow{
					ID: it.ID, Kind: it.Kind, Name: it.Name, Serial: it.Serial, DiameterM: it.DiameterM, LengthM: it.LengthM,
					LimitKn: limitOf(it, &policy), Marked: it.MarkedKn != nil, Standing: it.On(list.On),
				}
				if n := len(it.Inspections); n > 0 {
					row.NextDue = it.Inspections[n-1].NextDue
				}
				list.Items[i] = row
			}
			return &struct{ Body LockerList }{list}, nil
		})
	huma.Register(api, operation(http.MethodGet, "/api/locker/items/{id}", "get-item", "One item of the locker"),
		func(ctx context.Context, in *ItemPath) (*itemOut, error) {
			item, err := kept.Item(ctx, in.ID)
			if err != nil {
				return nil, itemRefusal(err)
			}
			return itemAnswer(item), nil
		})
	register(api, operation(http.MethodPut, "/api/locker/items/{id}", "save-item", "Keep an item"), reflect.TypeFor[locker.Item](),
		func(ctx context.Context, in *struct {
			ItemPath
			Base    string `header:"If-Match" required:"true" doc:"The revision this was made from, as an entity tag; 0: a new item"`
			RawBody []byte `contentType:"application/json"`
		}) (*itemOut, error) {
			item, err := locker.Read(in.RawBody)
			if err != nil {
				return nil, calc.Refuse("item", err)
			}
			base, err := untag(in.Base)
			if err != nil || item.ID != in.ID {
				return nil, problemOf(http.StatusPreconditionRequired, "If-Match must name the revision this was made from, and the id must be that of the address.")
			}
			saved, err := kept.SaveItem(ctx, item, base)
			if err != nil {
				return nil, moved(err, "This item has been changed by somebody else since: open it anew.")
			}
			return itemAnswer(saved), nil
		})
	huma.Register(api, operation(http.MethodDelete, "/api/locker/items/{id}", "delete-item", "Take an item out of the locker; it can be restored"),
		func(ctx context.Context, in *ItemPath) (*struct{}, error) {
			if err := kept.DeleteItem(ctx, in.ID); err != nil {
				return nil, itemRefusal(err)
			}
			return nil, nil
		})
	huma.Register(api, operation(http.MethodPost, "/api/locker/items/{id}/restore", "restore-item", "Bring a deleted item back"),
		func(ctx context.Context, in *ItemPath) (*itemOut, error) {
			if err := kept.RestoreItem(ctx, in.ID); err != nil {
				return nil, itemRefusal(err)
			}
			item, err := kept.Item(ctx, in.ID)
			if err != nil {
				return nil, itemRefusal(err)
			}
			return itemAnswer(item), nil
		})
	mountTables(api, kept)
}

func itemRefusal(err error) error {
	if problem, ok := refusal(err).(*calc.Problem); ok && problem.Status == http.StatusNotFound { //nolint:errorlint // made just here
		return problemOf(http.StatusNotFound, "There is no such item in the locker.")
	}
	return refusal(err)
}

// mountTables mounts import and export.
func mountTables(api huma.API, kept *store.Store) {
	huma.Register(api, gives(operation(http.MethodGet, "/api/locker/file", "export-locker", "The locker as a file: a workbook of all its tables, or one of them as CSV"), typeXLSX, typeCSV),
		func(ctx context.Context, in *struct {
			Format string `query:"format" enum:"csv,xlsx" default:"xlsx"`
			Table  string `query:"table" enum:"items,inspections,charts" default:"items" doc:"Of a CSV file"`
		}) (*fileOut, error) {
			found, _, err := kept.Items(ctx)
			if err != nil {
				return nil, refusal(err)
			}
			items := make([]locker.Item, len(found))
			for i := range found {
				items[i] = found[i].Item
			}
			if in.Format == "csv" {
				data, err := sheet.CSV(locker.Table{Rows: locker.Write(in.Table, items)})
				return &fileOut{typeCSV, `attachment; filename="locker-` + in.Table + `.csv"`, data}, err
			}
			tables := []locker.Table{}
			for _, name := range locker.Tables() {
				tables = append(tables, locker.Table{Name: name, Rows: locker.Write(name, items)})
			}
			data, err := sheet.XLSX(tables)
			return &fileOut{typeXLSX, `attachment; filename="locker.xlsx"`, data}, err
		})
	op := operation(http.MethodPost, "/api/locker/import", "import-locker", "What a CSV or XLSX file would do to the locker, row by row; applied when asked to")
	huma.Register(api, op, func(ctx context.Context, in *struct {
		locker.Told
		Apply   bool   `query:"apply" doc:"Take it over, all or nothing; else say only what it would do"`
		Base    string `header:"If-Match" doc:"Of an import that is applied: the locker's revision it was looked at with"`
		RawBody []byte `contentType:"application/octet-stream"`
	}) (*struct{ Body ImportPreview }, error) {
		file, err := sheet.Read(in.RawBody)
		if err != nil {
			return nil, calc.Refuse("import", err)
		}
		found, revision, err := kept.Items(ctx)
		if err != nil {
			return nil, refusal(err)
		}
		items := make([]locker.Item, len(found))
		for i := range found {
			items[i] = found[i].Item
		}
		read, err := locker.ReadTables(file, in.Told, items, uuid.NewString)
		if err != nil {
			return nil, calc.Refuse("import", err)
		}
		preview := ImportPreview{Revision: revision, Import: read}
		if !in.Apply {
			return &struct{ Body ImportPreview }{preview}, nil
		}
		base, err := untag(in.Base)
		switch {
		case err != nil:
			return nil, problemOf(http.StatusPreconditionRequired, "If-Match must name the locker's revision that the import was looked at with.")
		case base != revision:
			return nil, moved(store.ErrMoved, lockerMoved)
		case read.Wrong > 0:
			return nil, problemOf(http.StatusUnprocessableEntity, "Some rows are wrong: nothing was taken over.")
		case len(read.Dialect.Asked) > 0:
			ask := read.Dialect.Asked[0]
			return nil, problemOf(http.StatusUnprocessableEntity, fmt.Sprintf("%s (%s) can be read in two ways: say which. Nothing was taken over.", ask.Cell, ask.Value))
		}
		if len(read.Items) > 0 {
			if preview.Revision, err = kept.ImportItems(ctx, read.Items, base); err != nil {
				return nil, moved(err, lockerMoved)
			}
		}
		preview.Applied = true
		return &struct{ Body ImportPreview }{preview}, nil
	})
}

const lockerMoved = "The locker has been changed since you looked at this: look again, then take it over."

// boundedTables refuses a file over the bound in the words of the import, before it is
// read.
func boundedTables(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.ContentLength > sheet.MaxBytes && r.URL.Path == "/api/locker/import" {
			problem := calc.Refuse("import", sheet.TooLarge(r.ContentLength))
			problem.Status, problem.Title = http.StatusRequestEntityTooLarge, http.StatusText(http.StatusRequestEntityTooLarge)
			writeProblem(w, problem)
			return
		}
		next.ServeHTTP(w, r)
	})
}
