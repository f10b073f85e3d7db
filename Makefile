# make demo    set up what is missing, draw the demo study's figure to demo-output/
# make test    set up what is missing, run all tests
# make fuzz N=1000   random figures of nasty tables
# make bench   measure speed;  make check  R CMD check;  make document  NAMESPACE and man/

.PHONY: setup demo test bench check document screenshots fuzz

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

document:
	@Rscript tools/document.R

check: test
	@rm -rf .make/check && mkdir -p .make/check
	@cd .make/check && R CMD build --no-build-vignettes ../.. && \
	  _R_CHECK_FORCE_SUGGESTS_=false R CMD check --no-manual nelvat_*.tar.gz

screenshots: setup
	@Rscript tools/screenshots.R
