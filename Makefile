# make demo    set up what is missing, draw the demo study's figure to demo-output/
# make test    set up what is missing, run all tests
# make fuzz N=1000   random figures of nasty tables
# make truth N=300 SEED=1   random plates against what is true of them
# make test FILES=ink-bars     the tests that stand beside a file; ALL=1 those of other programs, too
# make package  the package as a .tar.gz;  make check  R CMD check of it
# make format   brings code into form;  make document  NAMESPACE and man/;  make bench  measures speed

.PHONY: setup demo test bench package check format document screenshots fuzz truth

setup:
	@Rscript tools/setup.R

demo: setup
	@inst/bin/nelvat demo demo-output
	@echo "Draw your own: inst/bin/nelvat draw FIGURE.yaml"
	@echo "To call it as nelvat: Rscript -e 'nelvat::install_command(\"~/.local/bin\")'"

test:
	@Rscript tools/setup.R testing
	@Rscript tools/test.R

bench: setup
	@Rscript bench/panels.R
	@Rscript bench/formats.R
	@Rscript bench/reading.R
	@Rscript bench/inks.R
	@Rscript bench/facets.R
	@Rscript bench/pairs.R
	@Rscript bench/plates.R

fuzz: setup
	@Rscript tools/fuzz.R

truth:
	@Rscript tools/setup.R testing
	@Rscript tests/truth/run.R $(or $(N),300) $(or $(SEED),1)

document:
	@Rscript tools/document.R

package: setup
	@Rscript tools/vignettes.R
	@rm -rf .make/package && mkdir -p .make/package
	@cd .make/package && R CMD build ../..

check: test package
	@cd .make/package && _R_CHECK_FORCE_SUGGESTS_=false R CMD check --no-manual nelvat_*.tar.gz

format:
	@Rscript tools/format.R

screenshots: setup
	@Rscript tools/screenshots.R
