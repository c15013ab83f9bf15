package sheet

import (
	"testing"

	"elkstay/core/locker"
)

// FuzzRead reads any file as a table and then as a locker.
func FuzzRead(f *testing.F) {
	for _, seed := range []string{"kind,name\nrope,a\n", "a;b\n1;2", "\xef\xbb\xbfkind\n", "\"", "PK\x03\x04", "item,radius_m,boom_m,capacity_kg\nx,1,2,3"} {
		f.Add([]byte(seed))
	}
	if book, err := XLSX([]locker.Table{table}); err == nil {
		f.Add(book)
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		tables, err := Read(data)
		if err != nil {
			return
		}
		if got, err := locker.ReadTables(tables, nil, func() string { return "new" }); err == nil && len(got.Rows) > len(data)+1 {
			t.Errorf("%d rows of %d bytes", len(got.Rows), len(data))
		}
	})
}
