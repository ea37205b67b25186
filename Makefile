# Dorrik. `make help` lists what can be asked for; `make demo` and `make test` do all the set-up themselves.
SHELL := /bin/bash
PY := .venv/bin/python
.DEFAULT_GOAL := help
.PHONY: help setup demo serve test check bench wheel fuzz accuracy lock openapi screenshots clean

help: ## this list
	@grep -hE '^[a-z]+:.*##' Makefile | sed 's/:.*##/\t/' | expand -t 14

setup: ## install and build what is needed to run (again only where something changed)
	@scripts/setup.sh run

demo: ## start the demo on http://127.0.0.1:8080 (PORT=… for another); Ctrl-C stops it and its database
	@scripts/setup.sh demo
	@exec $(PY) -m dorrik demo --port $(or $(PORT),8080)

serve: setup ## for a firm of your own: prints a link to set it up (docs/operating.md)
	@exec $(PY) -m dorrik serve --port $(or $(PORT),8080)

# An environment may forbid Python to keep what it compiles: each worker and each server under test would do it again.
test: export PYTHONDONTWRITEBYTECODE =
test: ## every test: core, API on a real MariaDB, the front end's model, end to end in Chromium
	@scripts/setup.sh test
	@# The front end's own tests wait more than they work: they run beside the others and are told after them.
	@(cd web && npm test --silent) >var/web-tests.log 2>&1 & web=$$!; \
	$(PY) -m pytest -n 2 --dist worksteal -p no:schemathesis $(ARGS); python=$$?; \
	wait $$web; front=$$?; tail -n 400 var/web-tests.log; exit $$((python || front))

check: ## lint and types
	@scripts/setup.sh test
	.venv/bin/ruff check .
	.venv/bin/ruff format --check .
	.venv/bin/mypy -p dorrik -p benchmarks
	.venv/bin/lint-imports
	$(PY) -m dorrik openapi | diff -q - docs/openapi.json || (echo "docs/openapi.json is out of date: make openapi" && exit 1)
	cd web && npx openapi-typescript ../docs/openapi.json -o /tmp/dorrik-schema.gen.ts >/dev/null && diff -q /tmp/dorrik-schema.gen.ts src/api/schema.gen.ts
	$(PY) -m dorrik declared | diff -q - web/src/api/declared.gen.ts || (echo "web/src/api/declared.gen.ts is out of date: make openapi" && exit 1)
	cd web && npx tsc --noEmit && npx eslint src && npx prettier --check --log-level warn src rules *.ts *.js *.mjs

bench: ## the measurements of benchmarks/
	@scripts/setup.sh test
	$(PY) -m benchmarks

wheel: ## the rules alone as a wheel, in var/wheel: standard library only
	@scripts/setup.sh test
	.venv/bin/uv build --wheel --offline --no-build-isolation --python $(PY) --out-dir var/wheel

fuzz: ## what takes minutes: requests made from the contract (FUZZ_EXAMPLES=…), fifty kills, sixty photos, every example of the property tests
	@scripts/setup.sh test
	$(PY) -m pytest fuzz -n 2 -s
	DORRIK_EVERY_EXAMPLE=1 $(PY) -m pytest tests -n 2 --dist worksteal -m hypothesis
	DORRIK_EVERY_EXAMPLE=1 $(PY) -m pytest tests/core/judging/test_parity.py tests/core/judging/test_device_judge.py -n 2

accuracy: ## write docs/accuracy.md: how often the rules name the faults of simulated rings and whole homes (some eleven minutes)
	@scripts/setup.sh test
	$(PY) -m dorrik.practice.accuracy > docs/accuracy.md

openapi: ## write the contracts (API, inspection document) and the front end's types from them
	$(PY) -m dorrik openapi > docs/openapi.json
	$(PY) -c "import json; from dorrik.core.inspection.document_schema import schema; print(json.dumps(schema(), indent=1, ensure_ascii=False))" > docs/inspection.schema.json
	cd web && npm run --silent api
	$(PY) -m dorrik declared > web/src/api/declared.gen.ts

screenshots: ## take docs/screenshots/ from the demo data
	@scripts/setup.sh test
	$(PY) -m scripts.screenshots

lock: ## pin requirements and front-end packages anew, without download addresses
	for name in requirements requirements-demo requirements-dev requirements-installer; do \
	  .venv/bin/uv pip compile -q --python-version 3.11 --generate-hashes --no-header $$name.in -o $$name.txt || exit 1; done
	cd web && npm install --package-lock-only && node -e 'const fs = require("fs"), f = "package-lock.json", d = JSON.parse(fs.readFileSync(f)); for (const p of Object.values(d.packages)) { delete p.funding; delete p.resolved } fs.writeFileSync(f, JSON.stringify(d, null, 2) + "\n")'
	.venv/bin/uv pip install -q --python $(PY) --only-binary :all: --require-hashes -r requirements-dev.txt
	$(PY) -m scripts.licences > docs/licences.md

clean: ## forget the environment, the build and the demo's data
	rm -rf .venv var web/node_modules web/dist web/dist-rules
