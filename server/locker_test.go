package server

import (
	"bytes"
	"encoding/json"
	"fmt"
	"net/http"
	"net/http/httptest"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/google/uuid"

	"elkstay/core/assess"
	"elkstay/core/calc"
	"elkstay/core/job"
	"elkstay/core/locker"
	"elkstay/core/policy"
	"elkstay/sheet"
)

func read[T any](t *testing.T, body []byte) (value T) {
	t.Helper()
	if err := json.Unmarshal(body, &value); err != nil {
		t.Fatalf("%v: %s", err, body)
	}
	return value
}

func saveItem(t *testing.T, server *httptest.Server, item string, base int) (*http.Response, []byte) {
	t.Helper()
	id := read[struct{ ID string }](t, []byte(item)).ID
	return send(t, server, call{method: http.MethodPut, path: "/api/locker/items/" + id, body: item, headers: map[string]string{"If-Match": tag(base)}})
}

func TestItemsAreKeptWithEverythingOnThem(t *testing.T) {
	server := start(t)
	id := uuid.NewString()
	item := fmt.Sprintf(`{"id":%q,"kind":"rope","name":"made-up line","serial":"X-1","marked_kn":16,"breaking_kn":80,"diameter_m":0.016,"length_m":60,
		"elongation":[{"load_pct":10,"strain_pct":1.9}],"conditions":["aged"],"in_service":"2024-05-01","set_aside":{"on":"2026-01-02","why":"cut strand"},
		"inspections":[{"on":"2025-12-01","by":"first reader","result":"fail","next_due":"2026-06-01","note":"cut"}]}`, id)
	response, body := saveItem(t, server, item, 0)
	if response.StatusCode != http.StatusOK {
		t.Fatalf("%d %s", response.StatusCode, body)
	}
	_, body = send(t, server, call{method: http.MethodGet, path: "/api/locker/items/" + id})
	kept := read[ItemHead](t, body)
	want, err := locker.Read([]byte(item))
	if err != nil {
		t.Fatal(err)
	}
	a, _ := json.Marshal(kept.Item)
	b, _ := json.Marshal(want)
	if !bytes.Equal(a, b) || kept.Revision != 1 || kept.Standing.State != locker.Aside {
		t.Errorf("kept %s, sent %s (%+v)", a, b, kept.Standing)
	}
	// From an old revision nothing is kept.
	if response, _ := saveItem(t, server, item, 0); response.StatusCode != http.StatusPreconditionFailed {
		t.Errorf("saved as new twice: %d", response.StatusCode)
	}
	if response, body := saveItem(t, server, strings.Replace(item, `"marked_kn":16`, `"marked_kn":160`, 1), 1); response.StatusCode != http.StatusUnprocessableEntity || !strings.Contains(string(body), "marked_kn") {
		t.Errorf("%d %s", response.StatusCode, body)
	}
	if response, _ := send(t, server, call{method: http.MethodDelete, path: "/api/locker/items/" + id}); response.StatusCode != http.StatusNoContent {
		t.Errorf("deleting: %d", response.StatusCode)
	}
	if response, body := send(t, server, call{method: http.MethodGet, path: "/api/locker/items/" + id}); response.StatusCode != http.StatusNotFound || !strings.Contains(string(body), "locker") {
		t.Errorf("deleted: %d %s", response.StatusCode, body)
	}
	if response, _ := send(t, server, call{method: http.MethodPost, path: "/api/locker/items/" + id + "/restore"}); response.StatusCode != http.StatusOK {
		t.Errorf("restoring: %d", response.StatusCode)
	}
}

func TestAssessingTakesTheCrewsRulesAndGear(t *testing.T) {
	server := start(t)
	id := uuid.NewString()
	if response, body := saveItem(t, server, fmt.Sprintf(`{"id":%q,"kind":"block","name":"made-up block","breaking_kn":100,"inspections":[{"on":"2020-01-01","by":"x","result":"pass","next_due":"2020-06-01"}]}`, id), 0); response.StatusCode != http.StatusOK {
		t.Fatalf("%s", body)
	}
	plan := read[job.Job](t, demoJob(t))
	pick := 0
	for i := range plan.Rigs {
		plan.Rigs[i].Block.Item = id
	}
	for i := range plan.Picks {
		if plan.Picks[i].Way == job.WayPastBlock {
			pick = i
			break
		}
	}
	document, _ := json.Marshal(plan)
	ask := func() (assess.PickFigures, *float64) {
		_, body := send(t, server, call{method: http.MethodPost, path: "/api/assess?pick=" + plan.Picks[pick].ID, body: string(document)})
		a := read[assess.Assessment](t, body)
		for _, rung := range a.Detail.Ladder {
			if rung.Part == "block" {
				return a.Picks[pick], rung.LimitKn
			}
		}
		t.Fatal("no block on the ladder")
		return assess.PickFigures{}, nil
	}
	figures, limit := ask()
	if *limit != 20 || len(figures.Faults) != 1 || figures.Faults[0].Code != "gear" {
		t.Errorf("by the default rules: limit %v, faults %v", *limit, figures.Faults)
	}
	_, body := send(t, server, call{method: http.MethodGet, path: "/api/policy"})
	head := read[PolicyHead](t, body)
	response, body := send(t, server, call{method: http.MethodPut, path: "/api/policy", body: `{"design_factors":{"block":4}}`, headers: map[string]string{"If-Match": tag(head.Number)}})
	if response.StatusCode != http.StatusOK {
		t.Fatalf("%s", body)
	}
	if _, limit = ask(); *limit != 25 {
		t.Errorf("over 4: %v", *limit)
	}
	if response, _ := send(t, server, call{method: http.MethodPut, path: "/api/policy", body: `{"design_factors":{}}`, headers: map[string]string{"If-Match": tag(head.Number)}}); response.StatusCode != http.StatusPreconditionFailed {
		t.Errorf("from old rules: %d", response.StatusCode)
	}
	if response, body := send(t, server, call{method: http.MethodPut, path: "/api/policy", body: `{"design_factors":{},"close_from_pct":800}`, headers: map[string]string{"If-Match": tag(head.Number + 1)}}); response.StatusCode != http.StatusUnprocessableEntity || !strings.Contains(string(body), "close_from_pct") {
		t.Errorf("close from 800 per cent: %d %s", response.StatusCode, body)
	}
	if response, body := send(t, server, call{method: http.MethodPut, path: "/api/policy", body: `{"design_factors":{}}`, headers: map[string]string{"If-Match": tag(head.Number + 1)}}); response.StatusCode != http.StatusOK {
		t.Errorf("back to the defaults: %s", body)
	}
}

func demoJob(t testing.TB) []byte {
	t.Helper()
	data, err := os.ReadFile("../demo/tern-quay.json")
	if err != nil {
		t.Fatal(err)
	}
	return data
}

// What a change of rules would do is what it does once it is made.
func TestTryingRulesSaysWhatTheyWouldDo(t *testing.T) {
	server := start(t)
	_, body := send(t, server, call{method: http.MethodPost, path: "/api/jobs", body: string(demoJob(t))})
	made := read[JobHead](t, body)
	_, body = send(t, server, call{method: http.MethodPost, path: "/api/policy/try", body: `{"design_factors":{},"close_from_pct":20,"hand_kn":0.05}`})
	effects := read[EffectList](t, body).Jobs
	i := slices.IndexFunc(effects, func(e JobEffect) bool { return e.ID == made.ID })
	if i < 0 || effects[i].After.Verdict != policy.Over || len(effects[i].Picks) == 0 || effects[i].Before.Verdict == policy.Over {
		t.Fatalf("effects %s", body)
	}
	crew := policy.Crew{Policy: policy.Policy{}, On: today()}
	close20, hand := 20.0, 0.05
	crew.Policy.CloseFromPct, crew.Policy.HandKn = &close20, &hand
	document, err := job.ReadJob(demoJob(t))
	if err != nil {
		t.Fatal(err)
	}
	after := assess.Assess(&document, assess.Options{Units: "metric", Crew: crew})
	if effects[i].After.State != after.State || *effects[i].After.UsePct != after.Nearest.UsePct {
		t.Errorf("said %+v, comes to %s", effects[i].After, after.State)
	}
	for _, p := range effects[i].Picks {
		if got := after.Picks[p.Number-1]; got.Verdict != p.After || p.ToPct != nil && *p.ToPct != got.Nearest.UsePct {
			t.Errorf("pick %d: said %+v, comes to %+v", p.Number, p, got)
		}
	}
	_, body = send(t, server, call{method: http.MethodPost, path: "/api/policy/try", body: `{"design_factors":{}}`})
	for _, e := range read[EffectList](t, body).Jobs {
		if len(e.Picks) > 0 {
			t.Errorf("no change changes %+v", e)
		}
	}
	if response, _ := send(t, server, call{method: http.MethodDelete, path: "/api/jobs/" + made.ID.String()}); response.StatusCode != http.StatusNoContent {
		t.Error("the job stays")
	}
}

func importFile(t *testing.T, server *httptest.Server, data []byte, query string, base int) (*http.Response, []byte) {
	t.Helper()
	return send(t, server, call{method: http.MethodPost, path: "/api/locker/import" + query, body: string(data), headers: map[string]string{"Content-Type": "application/octet-stream", "If-Match": tag(base)}})
}

func TestImportLooksFirstAndTakesAllOrNothing(t *testing.T) {
	server := start(t)
	count := func() int {
		_, body := send(t, server, call{method: http.MethodGet, path: "/api/locker"})
		return read[LockerList](t, body).Total
	}
	before := count()
	serial := uuid.NewString()[:8]
	good := "kind,name,serial,breaking_kn\nsling,one," + serial + ",120\nsling,two,x" + serial + ",140\n"
	_, body := importFile(t, server, []byte(good), "", 0)
	preview := read[ImportPreview](t, body)
	if preview.New != 2 || preview.Wrong != 0 || preview.Applied {
		t.Fatalf("looked at: %s", body)
	}
	if n := count(); n != before {
		t.Errorf("looking changed the locker: %d, then %d", before, n)
	}
	// Of another revision than the one that was looked at: it may be the first, so that there is none before it.
	if response, _ := importFile(t, server, []byte(good), "?apply=true", preview.Revision+1); response.StatusCode != http.StatusPreconditionFailed {
		t.Errorf("applied on another look: %d", response.StatusCode)
	}
	bad := strings.Replace(good, "140", "140 lbf", 1)
	if response, body := importFile(t, server, []byte(bad), "?apply=true", preview.Revision); response.StatusCode != http.StatusUnprocessableEntity {
		t.Errorf("a wrong row was taken over: %s", body)
	}
	if n := count(); n != before {
		t.Errorf("refused, and %d items became %d", before, n)
	}
	response, body := importFile(t, server, []byte(good), "?apply=true", preview.Revision)
	if applied := read[ImportPreview](t, body); response.StatusCode != http.StatusOK || !applied.Applied || applied.Revision != preview.Revision+1 {
		t.Fatalf("applied: %d %s", response.StatusCode, body)
	}
	if n := count(); n != before+2 {
		t.Errorf("%d items became %d", before, n)
	}
	// What is exported and imported again changes nothing, in both forms.
	for _, form := range []string{"csv", "xlsx"} {
		_, file := send(t, server, call{method: http.MethodGet, path: "/api/locker/file?format=" + form})
		_, body := importFile(t, server, file, "", 0)
		if again := read[ImportPreview](t, body); again.New+again.Changed+again.Wrong != 0 || again.Same < 2 {
			t.Errorf("%s: %d new, %d changed, %d wrong, %d same", form, again.New, again.Changed, again.Wrong, again.Same)
		}
	}
	for says, data := range map[string]string{"none of a locker": "sort;name;serial\nrope;a;b\n", "formulas (B2)": "kind,name\nrope,=A1\n", "its unit": "kind,name,breaking\nrope,a,80\n"} {
		response, body := importFile(t, server, []byte(data), "?apply=true", preview.Revision+1)
		problem := read[calc.Problem](t, body)
		if response.StatusCode != http.StatusUnprocessableEntity || len(problem.Errors) != 1 || !strings.Contains(problem.Errors[0].Message, says) {
			t.Errorf("%s: %d %s", says, response.StatusCode, body)
		}
	}
	// What can be read in two ways is asked about, and taken over only as somebody says.
	unclear := []byte("kind;name;serial;marked_kn;in_service\nsling;two ways;" + uuid.NewString()[:8] + ";1,200;3/4/2026\n")
	response, body = importFile(t, server, unclear, "?apply=true", preview.Revision+1)
	if response.StatusCode != http.StatusUnprocessableEntity || !strings.Contains(string(body), "D2 (1,200)") {
		t.Errorf("%d %s", response.StatusCode, body)
	}
	_, body = importFile(t, server, unclear, "?decimal=comma&days=month-first", 0)
	if got := read[ImportPreview](t, body); len(got.Dialect.Asked) != 0 || got.New != 1 || !strings.Contains(string(body), `"1.2"`) || !strings.Contains(string(body), "2026-03-04") {
		t.Errorf("%s", body)
	}
	response, body = importFile(t, server, make([]byte, sheet.MaxBytes+1), "", 0)
	if response.StatusCode != http.StatusRequestEntityTooLarge || !strings.Contains(string(body), "10 MB") {
		t.Errorf("too large: %d %.200s", response.StatusCode, body)
	}
}

// Looking at 5,000 rows and taking them over, as one import.
func BenchmarkImport5000(b *testing.B) {
	var text strings.Builder
	text.WriteString("kind,name,serial,marked_kn,breaking_kn,diameter_mm,length_m,in_service\n")
	for i := range 5000 {
		fmt.Fprintf(&text, "sling,made-up sling %d,S-%d,20,200,20,%d,2025-01-%02d\n", i, i, 1+i%9, 1+i%28)
	}
	file, err := sheet.Read([]byte(text.String()))
	if err != nil {
		b.Fatal(err)
	}
	book, err := sheet.XLSX([]locker.Table{{Name: "items", Rows: file.Tables[0].Rows}})
	if err != nil {
		b.Fatal(err)
	}
	for form, data := range map[string][]byte{"csv": []byte(text.String()), "xlsx": book} {
		b.Run(form, func(b *testing.B) {
			for b.Loop() {
				file, err := sheet.Read(data)
				if err != nil {
					b.Fatal(err)
				}
				if in, err := locker.ReadTables(file, locker.Told{}, nil, uuid.NewString); err != nil || in.New != 5000 {
					b.Fatal(err, in.Wrong)
				}
			}
		})
	}
}

// What is typed off a crane's chart or a clinometer is read at the server as in the core.
func TestChartsAndSightsAreReadAtTheServer(t *testing.T) {
	server := start(t)
	for _, c := range []struct {
		path, body string
		status     int
		says       string
	}{
		{"/api/read-chart", `{"text":"m\t20\n6\t5.1\n8\t3.9","lengths":"m","capacity":"t"}`, 200, `"capacity_kg":5100`},
		{"/api/read-chart", `{"text":"6;20;5100","lengths":"m","capacity":"t"}`, 422, "no chart"},
		{"/api/read-sight", `{"of":"height","distance_m":20,"up_deg":45,"foot_deg":0}`, 200, `"noted":"20.00 m off`},
		{"/api/read-sight", `{"of":"height","distance_m":20}`, 422, "body.up_deg"},
	} {
		response, body := send(t, server, call{method: http.MethodPost, path: c.path, body: c.body})
		if response.StatusCode != c.status || !strings.Contains(string(body), c.says) {
			t.Errorf("%s %s: %d %s", c.path, c.body, response.StatusCode, body)
		}
	}
	// The reference says which of the maker's figures each kind of gear has.
	_, body := send(t, server, call{method: http.MethodGet, path: "/api/reference"})
	reference := read[Reference](t, body)
	for _, kind := range locker.Kinds() {
		if !slices.Equal(reference.Gear[kind], locker.Fields(kind)) || len(reference.Gear[kind]) == 0 {
			t.Errorf("%s: %v", kind, reference.Gear[kind])
		}
	}
	if len(reference.Ways) != 9 || reference.Ways["felled"] != "felled over its hinge" {
		t.Errorf("ways %v", reference.Ways)
	}
}

// Every saved policy says what it changed against the one before it, page by page.
func TestThePolicyKeepsItsHistory(t *testing.T) {
	server := start(t)
	_, body := send(t, server, call{method: http.MethodGet, path: "/api/policy"})
	head := decode[PolicyHead](t, body)
	for i, rules := range []string{`{"hand_kn":0.2,"design_factors":{}}`, `{"hand_kn":0.2,"design_factors":{"rope":12},"school":"static-within-working-load"}`, `{"design_factors":{"rope":12}}`} {
		response, body := send(t, server, call{method: http.MethodPut, path: "/api/policy", body: rules, headers: map[string]string{"If-Match": tag(head.Number + i)}})
		if response.StatusCode != http.StatusOK {
			t.Fatalf("%d: %s", response.StatusCode, body)
		}
	}
	_, body = send(t, server, call{method: http.MethodGet, path: "/api/policy/history?limit=2"})
	page := decode[PolicyHistory](t, body)
	said := func(save PolicySave) (list []string) {
		for _, c := range save.Changes {
			list = append(list, fmt.Sprint(c.Path, " ", c.Was, " ", c.Is))
		}
		slices.Sort(list)
		return list
	}
	if len(page.Saves) != 2 || page.Total != head.Number+3 || page.Next != page.Saves[1].Number || page.Saves[0].Number != head.Number+3 {
		t.Fatalf("%s", body)
	}
	if got := said(page.Saves[0]); !slices.Equal(got, []string{"hand_kn 0.2 <nil>", "school static-within-working-load <nil>"}) {
		t.Errorf("the last changed %v", got)
	}
	if got := said(page.Saves[1]); !slices.Equal(got, []string{"design_factors.rope <nil> 12", "school <nil> static-within-working-load"}) {
		t.Errorf("the one before changed %v", got)
	}
	_, body = send(t, server, call{method: http.MethodGet, path: fmt.Sprintf("/api/policy/history?before=%d", page.Next)})
	if page = decode[PolicyHistory](t, body); len(page.Saves) == 0 || !slices.Equal(said(page.Saves[0]), []string{"hand_kn <nil> 0.2"}) && head.Number == 0 {
		t.Errorf("%s", body)
	}
	// As it was for the tests beside this one.
	send(t, server, call{method: http.MethodPut, path: "/api/policy", body: `{"design_factors":{}}`, headers: map[string]string{"If-Match": tag(head.Number + 3)}})
}
