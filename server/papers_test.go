package server

import (
	"bytes"
	"encoding/base64"
	"encoding/json"
	"image"
	"image/jpeg"
	"image/png"
	"net/http"
	"net/http/httptest"
	"os/exec"
	"strings"
	"testing"

	"github.com/google/uuid"

	"elkstay/core/job"
	"elkstay/exchange"
	"elkstay/paper/brief"
	"elkstay/sheet"
)

func newJob(t *testing.T, server *httptest.Server) JobHead {
	t.Helper()
	response, body := send(t, server, call{method: http.MethodPost, path: "/api/jobs", body: string(demoJob(t))})
	if response.StatusCode != http.StatusCreated {
		t.Fatalf("%s", body)
	}
	return read[JobHead](t, body)
}

func pdfText(t *testing.T, pdf []byte) string {
	t.Helper()
	command := exec.CommandContext(t.Context(), "pdftotext", "-layout", "-", "-")
	command.Stdin = bytes.NewReader(pdf)
	out, err := command.Output()
	if err != nil {
		t.Fatalf("pdftotext (of Debian's poppler-utils): %v", err)
	}
	return string(out)
}

// A briefing keeps its figures; when the job, or the rules it was made by, move on, every
// page of it says so.
func TestABriefingSaysWhenTheJobHasMovedOn(t *testing.T) {
	server := start(t)
	job := newJob(t, server)
	at := "/api/jobs/" + job.ID.String()
	response, body := send(t, server, call{method: http.MethodPost, path: at + "/briefings"})
	if response.StatusCode != http.StatusCreated {
		t.Fatalf("%s", body)
	}
	made := read[BriefingHead](t, body)
	if made.Revision != 1 || made.Outdated != "" {
		t.Fatalf("made %+v", made)
	}
	pdf := func() string {
		response, body := send(t, server, call{method: http.MethodGet, path: at + "/briefings/" + made.ID.String() + "/pdf"})
		if response.StatusCode != http.StatusOK || response.Header.Get("Content-Type") != "application/pdf" || !bytes.HasPrefix(body, []byte("%PDF-")) {
			t.Fatalf("%d %.200s", response.StatusCode, body)
		}
		return pdfText(t, body)
	}
	first := pdf()
	if strings.Contains(first, "moved on") || !strings.Contains(first, "revision 1, saved") {
		t.Errorf("of the newest revision: %.300s", first)
	}
	listed := func() BriefingHead {
		_, body := send(t, server, call{method: http.MethodGet, path: at + "/briefings"})
		list := read[BriefingList](t, body).Briefings
		if len(list) != 1 {
			t.Fatalf("%s", body)
		}
		return list[0]
	}
	// Other rules.
	_, body = send(t, server, call{method: http.MethodGet, path: "/api/policy"})
	number := read[PolicyHead](t, body).Number
	setPolicy := func(rules string) {
		response, body := send(t, server, call{method: http.MethodPut, path: "/api/policy", body: rules, headers: map[string]string{"If-Match": tag(number)}})
		if response.StatusCode != http.StatusOK {
			t.Fatalf("%s", body)
		}
		number++
	}
	setPolicy(`{"design_factors":{},"hand_kn":0.1}`)
	if got := listed(); !strings.Contains(got.Outdated, "rules or gear") {
		t.Errorf("other rules: %+v", got)
	}
	if text := pdf(); !strings.Contains(text, "rules or gear have changed") || !strings.Contains(text, "hand 92 %") {
		t.Error("by other rules, the paper keeps its figures and says that they have changed")
	}
	setPolicy(`{"design_factors":{}}`)
	if got := listed(); got.Outdated != "" {
		t.Errorf("the same rules again: %+v", got)
	}
	// Another revision.
	changed := job.Job
	changed.Picks = changed.Picks[1:]
	document, _ := json.Marshal(changed)
	if response, body := send(t, server, call{method: http.MethodPut, path: at, body: string(document), headers: map[string]string{"If-Match": tag(1), "Idempotency-Key": uuid.NewString()}}); response.StatusCode != http.StatusOK {
		t.Fatalf("%s", body)
	}
	if got := listed(); got.Newest != 2 || !strings.Contains(got.Outdated, "revision 2") {
		t.Errorf("moved on: %+v", got)
	}
	text := pdf()
	if n := strings.Count(text, "moved on to revision 2"); n != strings.Count(text, "page ") || n < 2 || !strings.Contains(text, "25 picks") {
		t.Errorf("said on %d of %d pages", n, strings.Count(text, "page "))
	}
	if response, _ := send(t, server, call{method: http.MethodGet, path: at + "/briefings/" + uuid.NewString() + "/pdf"}); response.StatusCode != http.StatusNotFound {
		t.Errorf("a briefing that is none: %d", response.StatusCode)
	}
	if response, _ := send(t, server, call{method: http.MethodDelete, path: at}); response.StatusCode != http.StatusNoContent {
		t.Error("the job stays")
	}
}

func TestFilesOfAJob(t *testing.T) {
	server := start(t)
	kept := newJob(t, server)
	at := "/api/jobs/" + kept.ID.String() + "/"
	get := func(path, kind string) []byte {
		response, body := send(t, server, call{method: http.MethodGet, path: at + path})
		if response.StatusCode != http.StatusOK || !strings.HasPrefix(response.Header.Get("Content-Type"), kind) {
			t.Errorf("%s: %d %s", path, response.StatusCode, response.Header.Get("Content-Type"))
		}
		return body
	}
	for _, path := range []string{"tree.svg", "site.svg?units=us&revision=1"} {
		if !bytes.HasPrefix(get(path, "image/svg+xml"), []byte("<svg ")) {
			t.Errorf("%s is none", path)
		}
	}
	for _, form := range []string{"csv", "xlsx"} {
		file, err := sheet.Read(get("picks."+form, map[string]string{"csv": "text/csv", "xlsx": "application/vnd"}[form]))
		if err != nil || len(file.Tables[0].Rows) != len(kept.Job.Picks)+1 {
			t.Errorf("%s: %v", form, err)
		}
	}
	if file, err := sheet.Read(get("waste.csv", "text/csv")); err != nil || len(file.Tables[0].Rows) < 2 {
		t.Errorf("waste: %v", err)
	}
	if !json.Valid(get("site.json", "application/json")) || !bytes.Contains(get("site.dxf", "image/vnd.dxf"), []byte("ENTITIES")) {
		t.Error("the site is neither JSON nor a drawing")
	}
	// Degrees only of a place that somebody gave.
	if response, body := send(t, server, call{method: http.MethodGet, path: at + "site.geojson"}); response.StatusCode != http.StatusUnprocessableEntity || !strings.Contains(string(body), "no place on earth") {
		t.Errorf("%d %s", response.StatusCode, body)
	}
	placed := kept.Job
	placed.Site.Earth = &job.Earth{LatDeg: 48, LonDeg: -40}
	encoded, _ := json.Marshal(placed)
	_, made := send(t, server, call{method: http.MethodPost, path: "/api/jobs", body: string(encoded)})
	response, geo := send(t, server, call{method: http.MethodGet, path: "/api/jobs/" + read[JobHead](t, made).ID.String() + "/site.geojson"})
	if response.StatusCode != http.StatusOK || response.Header.Get("Content-Type") != "application/geo+json" || !bytes.Contains(geo, []byte("[-40,48]")) && !bytes.Contains(geo, []byte("-39.99")) {
		t.Errorf("%d %.300s", response.StatusCode, geo)
	}
	// And back: what would it do to the site it is of? Nothing.
	asked, _ := json.Marshal(PlanFile{Job: placed, Name: "site.geojson", Data: base64.StdEncoding.EncodeToString(geo)})
	_, body := send(t, server, call{method: http.MethodPost, path: "/api/read-plan", body: string(asked)})
	if plan := read[exchange.Read](t, body); len(plan.Parts) == 0 || strings.Contains(string(body), `"does":"new"`) || strings.Contains(string(body), `"does":"change"`) {
		t.Errorf("%s", body)
	}
	for says, body := range map[string]string{"body.data": `{"job":` + string(encoded) + `,"name":"a.dxf","data":"?"}`, "body.told": `{"job":` + string(encoded) + `,"name":"a.dxf","data":"","told":{"unit":1}}`, "not readable": "{"} {
		if response, answer := send(t, server, call{method: http.MethodPost, path: "/api/read-plan", body: body}); response.StatusCode != http.StatusUnprocessableEntity || !strings.Contains(string(answer), says) {
			t.Errorf("%s: %d %s", says, response.StatusCode, answer)
		}
	}
	if response, _ := send(t, server, call{method: http.MethodGet, path: at + "tree.svg?revision=9"}); response.StatusCode != http.StatusNotFound {
		t.Errorf("a revision that is none: %d", response.StatusCode)
	}
	// The words of a briefing, asked with the document.
	document, _ := json.Marshal(kept.Job)
	_, body = send(t, server, call{method: http.MethodPost, path: "/api/brief", body: string(document)})
	if paper := read[brief.Paper](t, body); len(paper.Picks) != len(kept.Job.Picks) || paper.PlanB == "" {
		t.Errorf("%s", body)
	}
	_, body = send(t, server, call{method: http.MethodPost, path: "/api/resolve", body: string(document)})
	if noted := read[job.Job](t, body); len(noted.Rigs) != len(kept.Job.Rigs) {
		t.Errorf("%s", body)
	}
}

func TestPhotosAreKeptWithTheJob(t *testing.T) {
	server := start(t)
	kept := newJob(t, server)
	at := "/api/jobs/" + kept.ID.String() + "/photos"
	picture := image.NewRGBA(image.Rect(0, 0, 40, 30))
	var asJPEG, asPNG bytes.Buffer
	if jpeg.Encode(&asJPEG, picture, nil) != nil || png.Encode(&asPNG, picture) != nil {
		t.Fatal("no picture")
	}
	put := func(id string, data []byte) (*http.Response, []byte) {
		return send(t, server, call{method: http.MethodPut, path: at + "/" + id + "?about=defect+d1&note=cavity", body: string(data), headers: map[string]string{"Content-Type": "application/octet-stream"}})
	}
	id := uuid.NewString()
	for range 2 { // a lost answer is asked for again
		if response, body := put(id, asJPEG.Bytes()); response.StatusCode != http.StatusNoContent {
			t.Fatalf("%d %s", response.StatusCode, body)
		}
	}
	if response, _ := put(uuid.NewString(), asPNG.Bytes()); response.StatusCode != http.StatusNoContent {
		t.Errorf("PNG: %d", response.StatusCode)
	}
	_, body := send(t, server, call{method: http.MethodGet, path: at})
	list := read[[]PhotoHead](t, body)
	if len(list) != 2 || list[0].About != "defect d1" || list[0].Note != "cavity" || list[0].Width != 40 || list[0].Height != 30 {
		t.Fatalf("%s", body)
	}
	response, body := send(t, server, call{method: http.MethodGet, path: at + "/" + id})
	if !bytes.Equal(body, asJPEG.Bytes()) || response.Header.Get("Content-Type") != "image/jpeg" {
		t.Errorf("got %d bytes of %s", len(body), response.Header.Get("Content-Type"))
	}
	for says, data := range map[string][]byte{"no picture": []byte("<svg onload='x'/>"), "MB": append(asJPEG.Bytes(), make([]byte, maxPhoto)...)} {
		if response, body := put(uuid.NewString(), data); response.StatusCode < 400 {
			t.Errorf("%s: %d %s", says, response.StatusCode, body)
		}
	}
	if response, _ := send(t, server, call{method: http.MethodDelete, path: at + "/" + id}); response.StatusCode != http.StatusNoContent {
		t.Errorf("deleting: %d", response.StatusCode)
	}
	if response, _ := send(t, server, call{method: http.MethodGet, path: at + "/" + id}); response.StatusCode != http.StatusNotFound {
		t.Errorf("deleted: %d", response.StatusCode)
	}
	if response, _ := send(t, server, call{method: http.MethodPut, path: "/api/jobs/" + uuid.NewString() + "/photos/" + uuid.NewString(), body: asPNG.String(), headers: map[string]string{"Content-Type": "application/octet-stream"}}); response.StatusCode != http.StatusNotFound {
		t.Errorf("of a job that is none: %d", response.StatusCode)
	}
}
