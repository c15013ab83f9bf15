// Command notices gathers the licences of everything that ships in the binary, Go and front
// end, into one text that ships with it.
package main

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
)

// shipped are the packages of the front end that are not only tools; what they need themselves
// ships too.
var shipped = []string{"svelte", "@sveltejs/kit", "tailwindcss", "daisyui", "lucide-static", "openapi-fetch", "@fontsource-variable/archivo", "d3-scale", "d3-shape"}

// module is a part and the folder that its licence lies in.
type module struct{ name, folder string }

func main() {
	if err := gather("web/static/notices.txt"); err != nil {
		fmt.Fprintln(os.Stderr, "notices:", err)
		os.Exit(1)
	}
}

func gather(to string) error {
	parts, err := goModules()
	if err != nil {
		return err
	}
	seen := map[string]bool{}
	for _, name := range shipped {
		if parts, err = packages(parts, name, seen); err != nil {
			return err
		}
	}
	slices.SortFunc(parts, func(a, b module) int { return strings.Compare(a.name, b.name) })
	var out bytes.Buffer
	own, err := os.ReadFile("LICENSE")
	if err != nil {
		return err
	}
	fmt.Fprintf(&out, "Elk Stay\n\n%s\nIt is made with the parts below, each under its own licence. Fonts on paper: Go, in golang.org/x/image; on the screen: Archivo.\n", own)
	for _, part := range parts {
		text, err := licence(part.folder)
		if err != nil {
			return fmt.Errorf("%s: %w", part.name, err)
		}
		fmt.Fprintf(&out, "\n%s\n%s\n\n%s\n", strings.Repeat("=", 72), part.name, strings.TrimSpace(text))
	}
	return os.WriteFile(to, out.Bytes(), 0o644) //nolint:gosec // a published text
}

// goModules are those that the program is linked from, and Go itself.
func goModules() (parts []module, err error) {
	seen := map[string]bool{}
	list, err := exec.Command("go", "list", "-deps", "-f", "{{with .Module}}{{if not .Main}}{{.Path}} {{.Version}}\t{{.Dir}}{{end}}{{end}}", "./cmd/elkstay").Output()
	if err != nil {
		return nil, err
	}
	root, err := exec.Command("go", "env", "GOROOT").Output()
	if err != nil {
		return nil, err
	}
	parts = append(parts, module{"The Go programming language and its library", strings.TrimSpace(string(root))})
	for _, line := range strings.Split(string(list), "\n") {
		name, folder, ok := strings.Cut(line, "\t")
		if ok && !seen[name] {
			seen[name] = true
			parts = append(parts, module{name, folder})
		}
	}
	return parts, nil
}

// packages adds a package of the front end and what it needs.
func packages(parts []module, name string, seen map[string]bool) ([]module, error) {
	if seen[name] {
		return parts, nil
	}
	seen[name] = true
	folder := filepath.Join("web", "node_modules", filepath.FromSlash(name))
	data, err := os.ReadFile(filepath.Join(folder, "package.json")) //nolint:gosec // of the packages installed here
	if err != nil {
		return nil, err
	}
	var about struct {
		Version      string            `json:"version"`
		Dependencies map[string]string `json:"dependencies"`
	}
	if err := json.Unmarshal(data, &about); err != nil {
		return nil, err
	}
	if _, err := licence(folder); err == nil {
		parts = append(parts, module{name + " " + about.Version, folder})
	}
	for needed := range about.Dependencies {
		if strings.HasPrefix(needed, "@types/") {
			continue // nothing of it ships
		}
		if _, err := os.Stat(filepath.Join("web", "node_modules", filepath.FromSlash(needed))); err != nil {
			continue // of another platform
		}
		if parts, err = packages(parts, needed, seen); err != nil {
			return nil, err
		}
	}
	return parts, nil
}

// licence reads the licence that lies in a folder, or above it.
func licence(folder string) (string, error) {
	for range 3 {
		entries, err := os.ReadDir(folder)
		if err != nil {
			return "", err
		}
		for _, entry := range entries {
			name := strings.ToUpper(entry.Name())
			if !entry.IsDir() && (strings.HasPrefix(name, "LICENSE") || strings.HasPrefix(name, "LICENCE") || strings.HasPrefix(name, "COPYING")) {
				text, err := os.ReadFile(filepath.Join(folder, entry.Name())) //nolint:gosec // found by listing the folder
				return string(text), err
			}
		}
		folder = filepath.Dir(folder)
	}
	return "", errors.New("no licence lies there")
}
