.PHONY: start stop test bench screenshots types

# Install what is missing, build, start, load the demo on the first start.
start:
	@scripts/start

# End what make start started.
stop:
	@scripts/stop

# Everything: Go, database, screens, end to end. One line counts at the end.
test:
	@scripts/test

# Timings; never part of the tests.
bench:
	@scripts/bench

# Re-make docs/screenshots from the demo data at a fixed clock.
screenshots:
	@scripts/screenshots

# Re-make what is produced from the Go code: OpenAPI, TypeScript types, JSON Schemas.
types:
	@scripts/types
