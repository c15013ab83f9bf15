package server

import (
	"bytes"
	"crypto/sha256"
	"encoding/base64"
	"io/fs"
	"net/http"
	"regexp"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/vearutop/statigz"
	"github.com/vearutop/statigz/brotli"
)

// shell is the one page of the front end; it draws every address itself.
const shell = "200.html"

// immutable is the folder of files whose names change with their content.
const immutable = "/_app/immutable/"

var (
	inlineScript = regexp.MustCompile(`(?s)<script>(.*?)</script>`)
	inlineStyle  = regexp.MustCompile(`style="([^"]+)"`)
)

// pages serves the built front end: its files as they were compressed at build
// time, and the shell for every other address.
type pages struct {
	web    fs.ReadDirFS
	files  http.Handler
	shell  []byte
	policy string
	fonts  []string // addresses of what the first words are set in
	board  string   // address of the code that only a job's board loads; empty: not found in the build
}

// boardNode is where the front end's router names the board's code, by number.
var boardNode = regexp.MustCompile(`"/job/\[id\]":\[(\d+)`)

// boardOf finds the code of a job's board among the built files.
func boardOf(web fs.FS) (string, error) {
	folder := strings.Trim(immutable, "/")
	entries, err := fs.Glob(web, folder+"/entry/app.*.js")
	if err != nil || len(entries) == 0 {
		return "", err
	}
	code, err := fs.ReadFile(web, entries[0])
	if err != nil {
		return "", err
	}
	node := boardNode.FindSubmatch(code)
	if node == nil {
		return "", nil
	}
	files, err := fs.Glob(web, folder+"/nodes/"+string(node[1])+".*.js")
	if err != nil || len(files) == 0 {
		return "", err
	}
	return files[0], nil
}

func newPages(web fs.ReadDirFS) (*pages, error) {
	page, err := fs.ReadFile(web, shell)
	if err != nil {
		return nil, err
	}
	policy, err := contentPolicy(web, page)
	if err != nil {
		return nil, err
	}
	fonts, err := fs.Glob(web, strings.Trim(immutable, "/")+"/assets/*-latin-wght-normal.*.woff2")
	if err != nil {
		return nil, err
	}
	board, err := boardOf(web)
	if err != nil {
		return nil, err
	}
	return &pages{fonts: fonts, board: board, web: web, files: statigz.FileServer(web, brotli.AddEncoding), shell: page, policy: policy}, nil
}

// contentPolicy allows what the application ships and nothing else: the shell's
// own inline scripts by their hashes, the core compiled for the browser, the one inline style in its code (that of the
// router's announcer for screen readers) by its, no other host.
func contentPolicy(web fs.FS, page []byte) (string, error) {
	scripts := "'self'" + hashes(inlineScript.FindAllSubmatch(page, -1))
	styles := ""
	err := fs.WalkDir(web, strings.Trim(immutable, "/"), func(path string, _ fs.DirEntry, err error) error {
		if err != nil || !strings.HasSuffix(path, ".js") {
			return err
		}
		code, err := fs.ReadFile(web, path)
		styles += hashes(inlineStyle.FindAllSubmatch(code, -1))
		return err
	})
	if err != nil {
		return "", err
	}
	if styles != "" {
		styles = " 'unsafe-hashes'" + styles
	}
	return "default-src 'none'; script-src " + scripts + " 'wasm-unsafe-eval'; worker-src 'self'; style-src 'self'" + styles + "; img-src 'self' data:; font-src 'self'; " +
		"connect-src 'self'; manifest-src 'self'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'", nil
}

// hashes lists the sources that allow the first group of each match.
func hashes(matches [][][]byte) (sources string) {
	for _, match := range matches {
		sum := sha256.Sum256(match[1])
		sources += " 'sha256-" + base64.StdEncoding.EncodeToString(sum[:]) + "'"
	}
	return sources
}

func (p *pages) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	w.Header().Set("Content-Security-Policy", p.policy)
	if r.Method != http.MethodGet && r.Method != http.MethodHead {
		http.Error(w, "only GET and HEAD", http.StatusMethodNotAllowed)
		return
	}
	path := strings.TrimPrefix(r.URL.Path, "/")
	if info, err := fs.Stat(p.web, path); err == nil && !info.IsDir() && path != shell {
		w.Header().Set("Cache-Control", "no-cache")
		if strings.HasPrefix(r.URL.Path, immutable) {
			w.Header().Set("Cache-Control", "public, max-age=31536000, immutable")
		}
		p.files.ServeHTTP(w, r)
		return
	}
	if strings.HasPrefix(path, "_app/") {
		http.NotFound(w, r)
		return
	}
	// What the page asks for as soon as it runs, already while it loads; the figures of a job,
	// whose units only the device knows, it asks for itself.
	ahead := []string{"/api/reference"}
	if id, isJob := strings.CutPrefix(path, "job/"); isJob && uuid.Validate(id) == nil {
		ahead = append(ahead, "/api/jobs/"+id)
		if p.board != "" {
			w.Header().Add("Link", "</"+p.board+">; rel=modulepreload")
		}
	}
	for _, address := range ahead {
		w.Header().Add("Link", "<"+address+">; rel=preload; as=fetch; crossorigin=anonymous")
	}
	for _, font := range p.fonts {
		w.Header().Add("Link", "</"+font+">; rel=preload; as=font; type=\"font/woff2\"; crossorigin=anonymous")
	}
	w.Header().Set("Cache-Control", "no-cache")
	w.Header().Set("Content-Type", "text/html; charset=utf-8")
	http.ServeContent(w, r, shell, time.Time{}, bytes.NewReader(p.shell))
}
