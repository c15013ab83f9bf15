package sheet

import (
	"testing"

	"elkstay/core/locker"
)

// FuzzRead reads any file as a table and then as a locker.
func FuzzRead(f *testing.F) {
	for _, seed := range []string{"kind,name\nrope,a\n", "a;b\n1;2", "sep=|\nkind|name", "\xff\xfek\x00", "kind;marked_kn\nrope;1.234,5", "\xef\xbb\xbfkind\n", "\"", "PK\x03\x04", "item,radius_m,boom_m,capacity_kg\nx,1,2,3"} {
		f.Add([]byte(seed))
	}
	if book, err := XLSX([]locker.Table{table}); err == nil {
		f.Add(book)
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		file, err := Read(data)
		if err != nil {
			return
		}
		if got, err := locker.ReadTables(file, locker.Told{}, nil, func() string { return "new" }); err == nil && len(got.Rows) > len(data)+1 {
			t.Errorf("%d rows of %d bytes", len(got.Rows), len(data))
		}
	})
}
