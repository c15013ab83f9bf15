package server

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"hash/crc32"
	"image"
	"image/color" //nolint:misspell // as the library spells it
	"image/gif"
	"image/jpeg"
	"image/png"
	"net/http"
	"strings"
	"testing"

	"github.com/google/uuid"
)

func picture(t *testing.T, write func(*bytes.Buffer, image.Image) error, w, h int) []byte {
	t.Helper()
	img := image.NewRGBA(image.Rect(0, 0, w, h))
	for x := range w {
		img.Set(x, x%h, color.RGBA{uint8(x), 90, 30, 255}) //nolint:misspell // as the library spells it
	}
	var out bytes.Buffer
	if err := write(&out, img); err != nil {
		t.Fatal(err)
	}
	return out.Bytes()
}

func asJPEG(out *bytes.Buffer, img image.Image) error { return jpeg.Encode(out, img, nil) }
func asPNG(out *bytes.Buffer, img image.Image) error  { return png.Encode(out, img) }
func asGIF(out *bytes.Buffer, img image.Image) error  { return gif.Encode(out, img, nil) }

// withPlace puts a place (GPS tags) and a turn into a JPEG, as a phone writes them.
func withPlace(jpg []byte, order binary.AppendByteOrder, mark string) []byte {
	tiff := order.AppendUint16([]byte(mark), 42)
	tiff = order.AppendUint32(tiff, 8)
	tiff = order.AppendUint16(tiff, 2)
	for _, entry := range [][4]uint32{{0x0112, 3, 1, 6}, {0x8825, 4, 1, 38}} {
		tiff = order.AppendUint16(tiff, uint16(entry[0]))
		tiff = order.AppendUint16(tiff, uint16(entry[1]))
		tiff = order.AppendUint32(tiff, entry[2])
		if entry[1] == 3 {
			tiff = order.AppendUint16(tiff, uint16(entry[3]))
			tiff = append(tiff, 0, 0)
		} else {
			tiff = order.AppendUint32(tiff, entry[3])
		}
	}
	tiff = append(order.AppendUint32(tiff, 0), "GPS 53.1 N 6.2 W"...)
	body := append([]byte("Exif\x00\x00"), tiff...)
	segment := binary.BigEndian.AppendUint16([]byte{0xff, 0xe1}, uint16(len(body)+2))
	out := append([]byte{0xff, 0xd8}, append(segment, body...)...)
	out = append(out, "\xff\xfe\x00\x0dcomment GPS"...)
	return append(append(out, jpg[2:]...), "trailing GPS"...)
}

func TestPicturesLoseTheirPlace(t *testing.T) {
	server := start(t)
	job := create(t, server, "pictures")
	path := func() string { return "/api/jobs/" + job.ID.String() + "/photos/" + uuid.NewString() }
	keep := func(at string, data []byte) (*http.Response, []byte) {
		return send(t, server, call{method: "PUT", path: at, body: string(data), headers: map[string]string{"Content-Type": "application/octet-stream"}})
	}
	plain := picture(t, asJPEG, 40, 30)
	for name, data := range map[string][]byte{"big-endian": withPlace(plain, binary.BigEndian, "MM"), "little-endian": withPlace(plain, binary.LittleEndian, "II")} {
		at := path()
		if response, body := keep(at, data); response.StatusCode != http.StatusNoContent {
			t.Fatalf("%s: %d %s", name, response.StatusCode, body)
		}
		_, got := send(t, server, call{method: "GET", path: at})
		if bytes.Contains(got, []byte("GPS")) || bytes.Contains(got, []byte{0x88, 0x25}) || bytes.Contains(got, []byte{0x25, 0x88}) {
			t.Errorf("%s: the place is still in it", name)
		}
		// It still turns as it did: Exif's tag of it, and no other.
		if turn := orientation(got[2:]); turn != 6 {
			t.Errorf("%s: turned by %d, was by 6", name, turn)
		}
		was, errWas := jpeg.Decode(bytes.NewReader(plain))
		is, errIs := jpeg.Decode(bytes.NewReader(got))
		if errWas != nil || errIs != nil || was.Bounds() != is.Bounds() || was.At(7, 7) != is.At(7, 7) {
			t.Errorf("%s: another picture: %v %v", name, errWas, errIs)
		}
	}
	// A PNG with a text and a time.
	whole := picture(t, asPNG, 8, 8)
	chunk := func(kind, text string) []byte {
		out := binary.BigEndian.AppendUint32(nil, uint32(len(text)))
		out = append(append(out, kind...), text...)
		return binary.BigEndian.AppendUint32(out, crc32.ChecksumIEEE([]byte(kind+text)))
	}
	const header = 8 + 25
	said := append(append(append([]byte{}, whole[:header]...), append(chunk("tEXt", "Comment\x00GPS"), chunk("eXIf", "MM GPS")...)...), whole[header:]...)
	at := path()
	if response, body := keep(at, said); response.StatusCode != http.StatusNoContent {
		t.Fatalf("%d %s", response.StatusCode, body)
	}
	if _, got := send(t, server, call{method: "GET", path: at}); !bytes.Equal(got, whole) {
		t.Errorf("a PNG keeps %d bytes of %d", len(got), len(whole))
	}
}

func TestPicturesThatCannotBeKept(t *testing.T) {
	server := start(t)
	job := create(t, server, "pictures")
	// A header that promises 12,000 by 12,000 pixels, and nothing behind it.
	header := picture(t, asPNG, 2, 2)[:33]
	binary.BigEndian.PutUint32(header[16:], 12_000)
	binary.BigEndian.PutUint32(header[20:], 12_000)
	binary.BigEndian.PutUint32(header[29:], crc32.ChecksumIEEE(header[12:29]))
	whole := picture(t, asJPEG, 64, 64)
	for says, data := range map[string][]byte{
		"25 million":  header,
		"damaged":     whole[:len(whole)-30],
		"no picture":  picture(t, asGIF, 4, 4),
		"can be kept": []byte("<svg/>"),
	} {
		response, body := send(t, server, call{method: "PUT", path: "/api/jobs/" + job.ID.String() + "/photos/" + uuid.NewString(), body: string(data), headers: map[string]string{"Content-Type": "application/octet-stream"}})
		if response.StatusCode != http.StatusUnprocessableEntity || !strings.Contains(string(body), says) {
			t.Errorf("%s: %d %s", says, response.StatusCode, body)
		}
	}
}

// What a user does wrong is named as such; nothing of the database is in the answer.
func TestNothingOfTheDatabaseIsInARefusal(t *testing.T) {
	server := start(t)
	job := create(t, server, "typed")
	document := strings.Replace(document(t, "a NUL"), "a NUL", "a\\u0000b", 1)
	for _, c := range []struct {
		call
		status int
	}{
		{call{method: "POST", path: "/api/jobs", body: document}, 422},
		{call{method: "GET", path: "/api/locker/items/a%00b"}, 422},
		{call{method: "GET", path: "/api/jobs?search=a%00b"}, 422},
		{call{method: "GET", path: "/api/jobs?after=bm90aGluZw"}, 422},
		{call{method: "GET", path: "/api/crew?items=a%00b"}, 422},
		{call{method: "GET", path: "/api/jobs/" + job.ID.String() + "/revisions?after=99999999999"}, 422},
		{call{method: "GET", path: fmt.Sprintf("/api/jobs/%s/revisions/999999999", job.ID)}, 404},
	} {
		response, body := send(t, server, c.call)
		for _, word := range []string{"SQLSTATE", "insert", "select", "elkstay_app", "127.0.0.1", "postgres", "pgx"} {
			if bytes.Contains(body, []byte(word)) {
				t.Errorf("%s %s tells %q: %s", c.method, c.path, word, body)
			}
		}
		if response.StatusCode != c.status {
			t.Errorf("%s %s: %d %s", c.method, c.path, response.StatusCode, body)
		}
	}
}
