# The commands of Jantrel. `make demo` and `make test` set up what they need.

ADDR    ?= 127.0.0.1:8080
VERSION ?= $(shell git describe --tags --always --dirty 2>/dev/null || echo dev)
GO_FILES := $(shell find core internal cmd -name '*.go' -o -name '*.sql' -o -name '*.json' -o -name '*.txt') web/embed.go go.mod go.sum
PAGE_FILES := $(shell find web/src web/public -type f) web/index.html web/api-docs.html web/vite.config.ts web/tsconfig.json
NPM := npm --prefix web
GO_CODE := ./core/... ./internal/... ./cmd/... ./web

# One way to compile for all but the race detector: what one part has compiled the next one finds. Without the codec for
# msgpack, which nothing here speaks, that takes a minute less.
export CGO_ENABLED := 0
TAGS := nomsgpack
export GOFLAGS := -trimpath -tags=$(TAGS)
# Compilers, linters and tests collect garbage less often than a server is to: a fifth less to do for the largest package.
test test-long test-steady test-go test-e2e race race-all lint-go bin/jantrel: export GOGC := 400
# How Go's tests are run, and what else vitest and playwright are told: make test-e2e E2E="plan.spec.ts".
GO_TEST ?= go test
VITEST ?=
E2E ?=
E2E_REPORT ?=

.PHONY: demo build dev test test-long test-steady test-go test-web test-e2e race race-all lint lint-go lint-web types-web fmt bench soak screenshots generate types clean

demo: build
	bin/jantrel demo --addr $(ADDR)

build: bin/jantrel

bin/jantrel: $(GO_FILES) web/dist/page/index.html
	go build -ldflags "-s -w -X main.version=$(VERSION)" -o $@ ./cmd/jantrel

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

# Every test, with the time that each part took: parts go side by side where they do not wait for one another.
test:
	go run ./internal/suite

# The same with all seeds of the properties, and the race detector on whatever it can be used on.
test-long: test race-all
	$(GO_TEST) -tags long,$(TAGS) -timeout 60m ./core/...

# Whether the tests hold on a slow machine: all flows with answers that come up to 0.7 s late, then three times while four
# loops compete with them, and all unit tests of the page and of Go twice, in another order each time.
test-steady: build chromium
	SLOW=700 $(NPM) run --silent e2e
	@for n in 1 2 3 4; do (while :; do :; done) & busy="$$busy $$!"; done; trap "kill $$busy" EXIT; $(NPM) run --silent e2e -- --repeat-each 3
	@for n in 1 2; do $(NPM) run --silent test -- --sequence.shuffle || exit 1; done
	$(GO_TEST) -count=2 -shuffle=on -timeout 60m $(GO_CODE)

lint: lint-go lint-web types-web

lint-go:
	@test -z "$$(gofmt -l core internal cmd web/embed.go)" || { echo "not formatted:"; gofmt -l core internal cmd web/embed.go; exit 1; }
	go run ./internal/lint $(GO_CODE)

lint-web: web-packages
	$(NPM) run --silent lint

types-web: web-packages
	$(NPM) run --silent types

fmt: web-packages
	gofmt -w core internal cmd web/embed.go
	$(NPM) run --silent format

# What go vet looks for is a part of lint-go. Generous, for machines that others slow down: most of a package's time is its servers'.
test-go:
	$(GO_TEST) -vet=off -timeout 30m $(GO_CODE)

# What many do at once, with the race detector, which needs a C compiler and makes tests many times slower: lines in
# memory, so that there is no database to compile for it; race-all has that, and the interface.
RACE := CGO_ENABLED=1 $(GO_TEST) -race -short -vet=off
race: gcc
	$(RACE) -tags memory,$(TAGS) ./internal/live ./core/plan ./core/backlog ./internal/suite

race-all: gcc
	$(RACE) -timeout 60m ./core/... ./internal/...

test-web: web-packages
	$(NPM) run --silent test -- $(VITEST)

test-e2e: build chromium
	E2E_REPORT=$(E2E_REPORT) $(NPM) run --silent e2e -- $(E2E)

.PHONY: gcc chromium web-packages build-page
gcc:
	@command -v gcc >/dev/null || { apt-get update -qq && apt-get install -y -qq gcc libc6-dev; }

chromium:
	@test -x /usr/bin/chromium || { apt-get update -qq && apt-get install -y -qq chromium; }

web-packages: web/node_modules/.package-lock.json

build-page: web/dist/page/index.html

# A hundred clients and attacks on a server for half an hour; SOAK=5m make soak for less.
soak:
	SOAK=$${SOAK:-30m} go test ./cmd/jantrel -run '^TestSoak$$' -v -timeout 2h

bench:
	go test $(GO_CODE) -run '^$$' -bench . -benchmem

# The pictures in docs/screenshots, from the demo on a fixed day.
screenshots: build chromium
	SCREENSHOTS=1 $(NPM) run --silent e2e -- screenshots

# All that is made from other files: the description of the interface, the page's types, its
# copy of the registry, and the vectors that its tests replay.
generate: web-packages
	go generate ./internal/api/words # what the others are described with
	go generate ./internal/...

types: generate

clean:
	rm -rf bin test-results web/dist/page web/node_modules web/test-results
