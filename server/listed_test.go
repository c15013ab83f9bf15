package server

import (
	"fmt"
	"net/http"
	"slices"
	"strings"
	"testing"
)

func TestCopyDeleteRestoreDownload(t *testing.T) {
	server := start(t)
	job := create(t, server, "Söndre Wharf")
	path := "/api/jobs/" + job.ID.String()
	_, body := send(t, server, call{method: "POST", path: path + "/copy"})
	if made := decode[JobHead](t, body); made.ID == job.ID || made.Job.Name != "Söndre Wharf, copy" || made.Revision != 1 {
		t.Errorf("the copy reads %s", body)
	}
	response, file := send(t, server, call{method: "GET", path: path + "/file"})
	if got := response.Header.Get("Content-Disposition"); got != `attachment; filename="s-ndre-wharf.elkstay.json"` {
		t.Errorf("the file is sent as %s", got)
	}
	if response, body := send(t, server, call{method: "POST", path: "/api/jobs", body: string(file)}); response.StatusCode != 201 {
		t.Errorf("the file uploaded again: %d %s", response.StatusCode, body)
	}
	if response, _ := send(t, server, call{method: "DELETE", path: path}); response.StatusCode != http.StatusNoContent {
		t.Errorf("delete: status %d", response.StatusCode)
	}
	listed := func() bool {
		_, body := send(t, server, call{method: "GET", path: "/api/jobs"})
		for _, row := range decode[JobList](t, body).Jobs {
			if row.ID == job.ID {
				return true
			}
		}
		return false
	}
	if listed() {
		t.Error("a deleted job is listed")
	}
	if response, _ := send(t, server, call{method: "POST", path: path + "/restore"}); response.StatusCode != 200 || !listed() {
		t.Errorf("restore: status %d, listed %v", response.StatusCode, listed())
	}
}

func TestLongNamesCopyWithinTheLimit(t *testing.T) {
	if got := copyName(strings.Repeat("ö", maxName)); len([]rune(got)) != maxName || !strings.HasSuffix(got, ", copy") {
		t.Errorf("got %q", got)
	}
	if got := fileName("¿?"); got != "job.elkstay.json" {
		t.Errorf("got %q", got)
	}
}

// The list of jobs goes on where its page ended in every order, and a place of another order is none.
func TestJobsAreSortedPageByPage(t *testing.T) {
	server := start(t)
	for _, name := range []string{"qysort b", "qysort C", "qysort a"} {
		send(t, server, call{method: "POST", path: "/api/jobs", body: strings.Replace(document(t, "empty"), `"name":"empty"`, fmt.Sprintf(`"name":%q`, name), 1)})
	}
	for _, order := range []string{"name", "day"} {
		var names []string
		for after := ""; ; {
			response, body := send(t, server, call{method: "GET", path: "/api/jobs?search=qysort&limit=2&sort=" + order + "&after=" + after})
			page := decode[JobList](t, body)
			if response.StatusCode != 200 || page.Total != 3 {
				t.Fatalf("%s: %d %s", order, response.StatusCode, body)
			}
			for _, row := range page.Jobs {
				names = append(names, row.Name)
			}
			if after = page.Next; after == "" {
				break
			}
		}
		if len(names) != 3 || order == "name" && !slices.Equal(names, []string{"qysort a", "qysort b", "qysort C"}) {
			t.Errorf("%s: %v", order, names)
		}
	}
	if refused, _ := send(t, server, call{method: "GET", path: "/api/jobs?sort=weight"}); refused.StatusCode != 422 {
		t.Errorf("an order that is none: %d", refused.StatusCode)
	}
}

// Each sample can be had again, as a job of its own; what is no sample is refused by name.
func TestSamplesCanBeHadAgain(t *testing.T) {
	server := start(t)
	for which, name := range map[string]string{"1": "Tern Quay", "2": "Mill Fold", "3": "Reed Lock"} {
		first, body := send(t, server, call{method: "POST", path: "/api/samples?which=" + which})
		second, _ := send(t, server, call{method: "POST", path: "/api/samples?which=" + which})
		if first.StatusCode != http.StatusCreated || second.StatusCode != http.StatusCreated || !strings.Contains(string(body), `"name":"`+name+`"`) {
			t.Errorf("%s: %d, %d, %.120s", name, first.StatusCode, second.StatusCode, body)
		}
	}
	if refused, body := send(t, server, call{method: "POST", path: "/api/samples?which=4"}); refused.StatusCode != http.StatusUnprocessableEntity || !strings.Contains(string(body), "which") {
		t.Errorf("a fourth: %d, %s", refused.StatusCode, body)
	}
}
