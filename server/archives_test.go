package server

import (
	"bytes"
	"encoding/json"
	"image"
	"image/png"
	"io"
	"net/http"
	"net/http/httptest"
	"os"
	"strings"
	"testing"

	"github.com/google/uuid"

	"elkstay/archive"
	"elkstay/core/job"
	"elkstay/core/locker"
	"elkstay/store"
)

// archived is a job as an archive.
func archived(t *testing.T, server *httptest.Server, id uuid.UUID) []byte {
	t.Helper()
	response, packed := send(t, server, call{method: http.MethodGet, path: "/api/jobs/" + id.String() + "/archive"})
	if response.StatusCode != http.StatusOK || response.Header.Get("Content-Type") != typeZIP {
		t.Fatalf("%d %s", response.StatusCode, packed)
	}
	return packed
}

// drawn is a small picture.
func drawn(t *testing.T) []byte {
	t.Helper()
	var picture bytes.Buffer
	if err := png.Encode(&picture, image.NewGray(image.Rect(0, 0, 8, 6))); err != nil {
		t.Fatal(err)
	}
	return picture.Bytes()
}

// A job goes out with all that belongs to it and comes in again as one of its own: to the byte, and only once for one key.
func TestAJobGoesOutAndComesInWhole(t *testing.T) {
	server := start(t)
	kept := newJob(t, server)
	at := "/api/jobs/" + kept.ID.String()
	picture := drawn(t)
	put, _ := send(t, server, call{method: http.MethodPut, path: at + "/photos/" + uuid.NewString() + "?about=defect+d1&note=cavity", body: string(picture), headers: map[string]string{"Content-Type": "application/octet-stream"}})
	if put.StatusCode != http.StatusNoContent {
		t.Fatal(put.Status)
	}
	// A briefing of revision 1, a change with a fact, a briefing of revision 2.
	brief := func() BriefingHead {
		_, body := send(t, server, call{method: http.MethodPost, path: at + "/briefings"})
		return read[BriefingHead](t, body)
	}
	first := brief()
	kept.Job.Facts = append(kept.Job.Facts, job.Fact{ID: "f1", Pick: kept.Job.Picks[0].ID, What: "down", At: "2026-05-04T10:00:00Z"})
	document, _ := json.Marshal(kept.Job)
	if response, body := send(t, server, call{method: http.MethodPut, path: at, body: string(document), headers: map[string]string{"If-Match": tag(1), "Idempotency-Key": uuid.NewString()}}); response.StatusCode != http.StatusOK {
		t.Fatalf("%s", body)
	}
	brief()
	packed := archived(t, server, kept.ID)

	key := uuid.New()
	for range 2 { // a lost answer is asked for again
		response, body := send(t, server, call{method: http.MethodPost, path: "/api/archives", body: string(packed), headers: map[string]string{"Content-Type": typeZIP, "Idempotency-Key": key.String()}})
		b := read[Brought](t, body)
		if response.StatusCode != http.StatusCreated || b.ID != key || b.Pictures != 1 || b.Briefings != 2 || len(b.Gear) != 0 || b.Ruled {
			t.Fatalf("%d %s", response.StatusCode, body)
		}
	}
	other := newJob(t, server)
	if response, body := send(t, server, call{method: http.MethodPost, path: "/api/archives", body: string(archived(t, server, other.ID)), headers: map[string]string{"Content-Type": typeZIP, "Idempotency-Key": key.String()}}); response.StatusCode != http.StatusUnprocessableEntity || !strings.Contains(string(body), "used before") {
		t.Errorf("another under its key: %d %s", response.StatusCode, body)
	}
	there := "/api/jobs/" + key.String()
	_, was := send(t, server, call{method: http.MethodGet, path: at + "/file"})
	_, is := send(t, server, call{method: http.MethodGet, path: there + "/file"})
	if !bytes.Equal(was, is) || !bytes.Contains(is, []byte(`"f1"`)) {
		t.Errorf("%d bytes became %d", len(was), len(is))
	}
	_, body := send(t, server, call{method: http.MethodGet, path: there + "/photos"})
	photos := read[[]PhotoHead](t, body)
	if len(photos) != 1 || photos[0].Note != "cavity" || photos[0].Width != 8 {
		t.Fatalf("%s", body)
	}
	if _, data := send(t, server, call{method: http.MethodGet, path: there + "/photos/" + photos[0].ID.String()}); !bytes.Equal(data, picture) {
		t.Error("the picture is another")
	}
	_, body = send(t, server, call{method: http.MethodGet, path: there + "/briefings"})
	papers := read[BriefingList](t, body).Briefings
	if len(papers) != 2 || papers[0].Outdated != "" || papers[1].Outdated == "" || papers[0].Revision != 2 || papers[1].Revision != 1 || !papers[1].MadeAt.Equal(first.MadeAt) {
		t.Errorf("%s", body)
	}
	_, body = send(t, server, call{method: http.MethodGet, path: "/api/jobs?limit=1000"})
	if n := strings.Count(string(body), key.String()); n != 1 {
		t.Errorf("it is there %d times", n)
	}
}

// Gear that the locker does not have comes with its figures, and what is damaged or no picture leaves nothing behind.
func TestAnArchiveSaysWhatIsNotHere(t *testing.T) {
	server := start(t)
	kept := newJob(t, server)
	packed := archived(t, server, kept.ID)
	from, err := archive.Open(bytes.NewReader(packed), int64(len(packed)))
	if err != nil {
		t.Fatal(err)
	}
	var to bytes.Buffer
	from.Crew.Gear = append(from.Crew.Gear, locker.Item{ID: "elsewhere", Kind: locker.Sling, Name: "Their sling"})
	from.Job.Rigs[0].Sling.Item = "elsewhere"
	from.Crew.Policy.CloseFromPct = new(float64)
	*from.Crew.Policy.CloseFromPct = 61
	out, err := archive.NewWriter(&to, from.Contents.Job, &from.Job, &from.Crew, from.MadeAt)
	if err == nil {
		err = out.Close()
	}
	if err != nil {
		t.Fatal(err)
	}
	post := func(data []byte) (*http.Response, []byte) {
		return send(t, server, call{method: http.MethodPost, path: "/api/archives", body: string(data), headers: map[string]string{"Content-Type": typeZIP}})
	}
	response, body := post(to.Bytes())
	if b := read[Brought](t, body); response.StatusCode != http.StatusCreated || len(b.Gear) != 1 || b.Gear[0].Name != "Their sling" || !b.Ruled {
		t.Errorf("%d %s", response.StatusCode, body)
	}
	count := func() int {
		_, body := send(t, server, call{method: http.MethodGet, path: "/api/jobs?limit=1000"})
		return read[JobList](t, body).Total
	}
	before := count()
	to.Reset()
	if out, err = archive.NewWriter(&to, from.Contents.Job, &from.Job, &from.Crew, from.MadeAt); err == nil {
		err = out.Picture(archive.Picture{ID: uuid.New()}, "image/jpeg", []byte("<svg/>"))
	}
	if err != nil || out.Close() != nil {
		t.Fatal(err)
	}
	for says, data := range map[string][]byte{"no picture": to.Bytes(), "not all of it came": packed[:len(packed)-9], "no archive": []byte("x")} {
		if response, body := post(data); response.StatusCode != http.StatusUnprocessableEntity || !strings.Contains(string(body), says) {
			t.Errorf("%s: %d %s", says, response.StatusCode, body)
		}
	}
	if after := count(); after != before {
		t.Errorf("%d jobs became %d", before, after)
	}
	if left, _ := os.ReadDir(os.TempDir()); len(left) > 0 {
		for _, f := range left {
			if strings.HasPrefix(f.Name(), "elkstay-archive-") {
				t.Errorf("%s stays", f.Name())
			}
		}
	}
	if response, _ := send(t, server, call{method: http.MethodGet, path: "/api/jobs/" + uuid.NewString() + "/archive"}); response.StatusCode != http.StatusNotFound {
		t.Errorf("of a job that is none: %d", response.StatusCode)
	}
}

// A copy of a job has its pictures, each one of its own.
func TestACopyHasThePictures(t *testing.T) {
	server := start(t)
	kept := newJob(t, server)
	at := "/api/jobs/" + kept.ID.String()
	picture := drawn(t)
	first := uuid.NewString()
	send(t, server, call{method: http.MethodPut, path: at + "/photos/" + first + "?about=tree", body: string(picture), headers: map[string]string{"Content-Type": "application/octet-stream"}})
	_, body := send(t, server, call{method: http.MethodPost, path: at + "/copy"})
	there := "/api/jobs/" + read[JobHead](t, body).ID.String() + "/photos"
	_, body = send(t, server, call{method: http.MethodGet, path: there})
	list := read[[]PhotoHead](t, body)
	if len(list) != 1 || list[0].About != "tree" || list[0].ID.String() == first {
		t.Fatalf("%s", body)
	}
	send(t, server, call{method: http.MethodDelete, path: at + "/photos/" + first})
	if _, data := send(t, server, call{method: http.MethodGet, path: there + "/" + list[0].ID.String()}); !bytes.Equal(data, picture) {
		t.Error("it goes with the first")
	}
}

// An archive over the bound is refused, whether it says how long it is or not, and at most so many are on their way at once.
func TestArchivesAreBounded(t *testing.T) {
	jobs, err := store.Open(t.Context(), databaseURL)
	if err != nil {
		t.Fatal(err)
	}
	defer jobs.Close()
	a := newArchives(jobs)
	a.most = 3 * mB
	take := func(length int64) int {
		request := httptest.NewRequestWithContext(t.Context(), http.MethodPost, "/api/archives", io.LimitReader(blanks{}, 4*mB))
		request.ContentLength = length
		request.Header.Set("Content-Type", typeZIP)
		answer := httptest.NewRecorder()
		a.take(answer, request)
		return answer.Code
	}
	for _, length := range []int64{-1, 4 * mB} {
		if got := take(length); got != http.StatusRequestEntityTooLarge {
			t.Errorf("of length %d: %d", length, got)
		}
	}
	answer := httptest.NewRecorder()
	a.take(answer, httptest.NewRequestWithContext(t.Context(), http.MethodPost, "/api/archives", strings.NewReader("x")))
	if answer.Code != http.StatusUnsupportedMediaType {
		t.Errorf("of no type: %d", answer.Code)
	}
	for range archivesAtOnce {
		a.turns <- struct{}{}
	}
	if got := take(-1); got != http.StatusTooManyRequests {
		t.Errorf("one more at once: %d", got)
	}
}
