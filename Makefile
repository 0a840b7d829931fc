.PHONY: start studio recover backup restore stop test bench bench-large mutants screenshots figures types

# Install what is missing, build, start, load the demo on the first start.
start:
	@scripts/start

# The same for a studio of your own: no demo, a database apart from it.
studio:
	@scripts/start studio

# New passwords for a database whose .data/NAME.secret was lost: CLUSTER=start or studio.
recover:
	@scripts/recover

# A backup of what runs here into .data/backups: CLUSTER=start or studio.
backup:
	@scripts/backup

# Put a backup back: FILE=path, into an empty database, or into a new one: INTO=name.
restore:
	@scripts/restore

# End what make start or make studio started.
stop:
	@scripts/stop

# Everything: Go, database, screens, end to end. One line counts at the end.
test:
	@scripts/test

# Timings; never part of the tests.
bench:
	@scripts/bench

# The server on a studio of ten years, under the requests of a day. The database is built once.
bench-large:
	@scripts/bench-large

# Share of deliberate faults that the tests of the craft notice; P=slip for one package.
mutants:
	@scripts/mutants

# Re-make docs/screenshots from the demo data at a fixed clock.
screenshots:
	@scripts/screenshots

# Draw every stroke of the library, to look at entry by entry: .data/figures/figures.html and .pdf.
figures:
	@mkdir -p .data/figures && go run ./cmd/softpalm figures .data/figures && echo "Open .data/figures/figures.html or figures.pdf"

# Re-make what is produced from the Go code: OpenAPI, TypeScript types, JSON Schemas.
types:
	@scripts/types
