# The commands of Jantrel. `make demo` and `make test` set up what they need.

ADDR    ?= 127.0.0.1:8080
VERSION ?= $(shell git describe --tags --always --dirty 2>/dev/null || echo dev)
GO_FILES := $(shell find core internal cmd -name '*.go' -o -name '*.sql' -o -name '*.json' -o -name '*.txt') web/embed.go go.mod go.sum
PAGE_FILES := $(shell find web/src web/public -type f) web/index.html web/api-docs.html web/vite.config.ts web/tsconfig.json
NPM := npm --prefix web
GO_CODE := ./core/... ./internal/... ./cmd/... ./web

.PHONY: demo build dev test test-go test-web test-e2e race race-all lint fmt bench soak screenshots generate types clean

demo: build
	bin/jantrel demo --addr $(ADDR)

build: bin/jantrel

bin/jantrel: $(GO_FILES) web/dist/page/index.html
	CGO_ENABLED=0 go build -trimpath -ldflags "-s -w -X main.version=$(VERSION)" -o $@ ./cmd/jantrel

web/dist/page/index.html: web/node_modules/.package-lock.json $(PAGE_FILES)
	$(NPM) run --silent build
	@touch $@

# The browser that the end-to-end tests use is Debian's; nothing downloads one.
web/node_modules/.package-lock.json: web/package.json web/package-lock.json
	PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD=1 $(NPM) ci --no-audit --no-fund --ignore-scripts
	@touch $@

# The Go server with a demo, and Vite's server in front of it, which reloads the page.
dev: bin/jantrel
	@trap 'kill 0' EXIT; bin/jantrel demo --addr $(ADDR) & JANTREL_ADDR=$(ADDR) $(NPM) run dev

test: lint test-go test-web race test-e2e

lint: web/node_modules/.package-lock.json
	@test -z "$$(gofmt -l core internal cmd web/embed.go)" || { echo "not formatted:"; gofmt -l core internal cmd web/embed.go; exit 1; }
	go vet $(GO_CODE)
	go tool staticcheck $(GO_CODE)
	$(NPM) run --silent lint
	$(NPM) run --silent types

fmt: web/node_modules/.package-lock.json
	gofmt -w core internal cmd web/embed.go
	$(NPM) run --silent format

# Generous, for machines that others slow down: most of a package's time is its servers'.
test-go:
	go test -timeout 30m $(GO_CODE)

# Whatever many do at once, with the race detector, which needs a C compiler and makes tests
# many times slower: of those of the interface the ones in which several ask at a time.
RACES = AtOnce|Streams|Events|TwoAt|Quota|News|SentAgain|Screens|Feeds|Exhaust|FullDisk|Backups|Conflict|Compressed
race:
	@command -v gcc >/dev/null || { apt-get update -qq && apt-get install -y -qq gcc libc6-dev; }
	CGO_ENABLED=1 go test -race -short ./internal/live ./internal/api/door ./internal/store
	CGO_ENABLED=1 go test -race -short -run '$(RACES)' ./internal/api

# The same with every test of the interface.
race-all: race
	CGO_ENABLED=1 go test -race -short ./internal/api/...

test-web: web/node_modules/.package-lock.json
	$(NPM) run --silent test

test-e2e: build
	@test -x /usr/bin/chromium || { apt-get update -qq && apt-get install -y -qq chromium; }
	$(NPM) run --silent e2e

# A hundred clients and attacks on a server for half an hour; SOAK=5m make soak for less.
soak:
	SOAK=$${SOAK:-30m} go test ./cmd/jantrel -run '^TestSoak$$' -v -timeout 2h

bench:
	go test $(GO_CODE) -run '^$$' -bench . -benchmem

# The pictures in docs/screenshots, from the demo on a fixed day.
screenshots: build
	@test -x /usr/bin/chromium || { apt-get update -qq && apt-get install -y -qq chromium; }
	SCREENSHOTS=1 $(NPM) run --silent e2e -- screenshots

# All that is made from other files: the description of the interface, the page's types, its
# copy of the registry, and the vectors that its tests replay.
generate: web/node_modules/.package-lock.json
	go generate ./internal/api/words # what the others are described with
	go generate ./internal/...

types: generate

clean:
	rm -rf bin web/dist/page web/node_modules web/test-results
