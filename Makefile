# The two commands: make demo, make test. Everything they need beyond Go, Node and
# make they install themselves.
SHELL := /bin/sh
.DELETE_ON_ERROR:
.PHONY: mutants mutants-at-once demo demo-reset build test check test-go test-web test-browser generate screenshots benchmarks clean

LINT := var/tools/golangci-lint
LINT_VERSION := v2.15.0
SQLC_VERSION := v1.31.1
export GOFLAGS += -buildvcs=false

demo: build
	@scripts/apt-install 'postgresql=/usr/lib/postgresql/*/bin/pg_ctl'
	@bin/elkstay demo

demo-reset: build
	@scripts/apt-install 'postgresql=/usr/lib/postgresql/*/bin/pg_ctl'
	@bin/elkstay demo --reset

build: bin/elkstay

web_sources := $(shell find web/src web/static -type f -not -name elkstay.wasm -not -name wasm_exec.js) $(wildcard web/*.ts web/*.js web/package-lock.json)
go_sources := $(shell find . -name '*.go' -not -path './node_modules/*' -not -path './web/node_modules/*') \
	$(shell find core store demo -name '*.csv' -o -name '*.sql' -o -name '*.json') go.mod go.sum

web/node_modules/.installed: web/package-lock.json
	cd web && npm ci
	touch $@

e2e/node_modules/.installed: e2e/package-lock.json
	cd e2e && npm ci --ignore-scripts
	touch $@

# The core for the browser, and the runtime that the Go toolchain ships for it.
web_core := web/src/lib/core/elkstay.wasm web/src/lib/core/wasm_exec.js

web/src/lib/core/elkstay.wasm: $(go_sources)
	GOOS=js GOARCH=wasm go build -trimpath -ldflags '-s -w' -o $@ ./cmd/elkstay-wasm

web/src/lib/core/wasm_exec.js: $(shell go env GOROOT)/lib/wasm/wasm_exec.js
	cp $< $@

web/build/200.html: web/node_modules/.installed $(web_sources) $(web_core)
	cd web && npm run -s build
	touch $@

bin/elkstay: web/build/200.html $(go_sources)
	CGO_ENABLED=0 go build -trimpath -o $@ ./cmd/elkstay

# What the Go types describe, written out for those who read it elsewhere.
generate: web/node_modules/.installed
	go run ./cmd/apidoc
	go run ./cmd/notices
	cd web && npm run -s api && npx prettier --write --log-level warn src/lib/words/glossary.json src/lib/order/ways.json
	cd store && CGO_ENABLED=0 go run github.com/sqlc-dev/sqlc/cmd/sqlc@$(SQLC_VERSION) generate

test: test-needs check test-go test-web test-browser

.PHONY: test-needs
test-needs:
	@scripts/apt-install 'postgresql=/usr/lib/postgresql/*/bin/pg_ctl' chromium=/usr/bin/chromium \
		fonts-liberation=/usr/share/fonts/truetype/liberation gcc=/usr/bin/gcc libc6-dev=/usr/include/stdlib.h \
		poppler-utils=/usr/bin/pdftotext fonts-dejavu-core=/usr/share/fonts/truetype/dejavu/DejaVuSans.ttf

$(LINT):
	GOBIN=$(CURDIR)/var/tools go install github.com/golangci/golangci-lint/v2/cmd/golangci-lint@$(LINT_VERSION)

check: bin/elkstay $(LINT) e2e/node_modules/.installed
	@scripts/tracked
	@unformatted=$$(gofmt -l $$(git ls-files '*.go')); [ -z "$$unformatted" ] || { echo "gofmt: $$unformatted"; exit 1; }
	go vet ./...
	$(LINT) run
	cd web && npm run -s check && npm run -s lint && npm run -s format:check && npm run -s api:check
	cd e2e && npm run -s check && npm run -s format:check

test-go: bin/elkstay | test-needs
	go test ./core/... ./question/... ./cmd/... ./demo/... ./paper/... ./sheet/... ./exchange/... ./archive/...
	go test -race ./server/... ./store/...

# The front end's own unit tests, with the core itself beneath them.
test-web: web/node_modules/.installed $(web_core)
	cd web && npm run -s test

test-browser: bin/elkstay e2e/node_modules/.installed | test-needs
	cd e2e && npm run -s test

screenshots: bin/elkstay e2e/node_modules/.installed | test-needs
	cd e2e && ELKSTAY_SCREENSHOTS=../docs/screenshots npm run -s test -- screenshots.spec.ts

benchmarks: bin/elkstay e2e/node_modules/.installed | test-needs
	go test -p 1 -run xxx -bench . -benchmem ./core/... ./paper/... ./server/...
	cd e2e && node benchmarks/browser.mjs

# Small bugs planted one by one: how many do the tests notice? Long; PACKAGES="core/line …" for some.
mutants:
	@scripts/mutants $(PACKAGES)

# The same bugs, all of a package built at once: minutes where the other takes hours.
mutants-at-once:
	@go run ./cmd/mutants $(or $(PACKAGES),$(filter-out core/frozen,$(patsubst %/,%,$(wildcard core/*/ core/ways/*/))))

clean:
	rm -rf bin $(web_core) web/build web/.svelte-kit e2e/test-results
