.PHONY: start stop test bench mutants screenshots types

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

# Share of deliberate faults that the tests of the craft notice; P=slip for one package.
mutants:
	@scripts/mutants

# Re-make docs/screenshots from the demo data at a fixed clock.
screenshots:
	@scripts/screenshots

# Re-make what is produced from the Go code: OpenAPI, TypeScript types, JSON Schemas.
types:
	@scripts/types
